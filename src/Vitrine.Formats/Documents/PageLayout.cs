using Vitrine.Core.Text;

namespace Vitrine.Formats.Documents;

/// <summary>
/// Puts the lines of a page together: paragraphs by the space between lines, headings by their size, list items by their mark, rows where
/// short pieces stand beside long ones at the same places. Columns of running text are read one after the other.
/// </summary>
internal static class PageLayout
{
    /// <summary>Letters this much larger than the page's usual ones, and this few, are a heading.</summary>
    private const double HeadingSize = 1.25;

    private const int LongestHeading = 120;

    /// <summary>So much more than the usual distance of lines is space between paragraphs.</summary>
    private const double ParagraphSpace = 1.25;

    /// <summary>Pieces that begin at places this near to each other, in points, are one column.</summary>
    private const double SamePlace = 4;

    private const int LongestLabel = 45;

    /// <summary>Lines of one paragraph stand this many letter sizes apart at most, where nothing else tells.</summary>
    private const double CloseLines = 1.5;

    /// <param name="page">The page.</param>
    /// <param name="before">Where the columns of rows began on the page before; a table may go on.</param>
    /// <returns>Its blocks, and where the columns of its rows begin, if it has any.</returns>
    public static (IEnumerable<PrintedBlock> Blocks, IReadOnlyList<double>? Rows) Of(PrintedPage page, IReadOnlyList<double>? before)
    {
        if (page.Lines.Count == 0)
            return ([], null);
        var usual = page
            .Lines.SelectMany(l => Enumerable.Repeat(l.Size, l.Words.Count))
            .Order()
            .ElementAt(page.Lines.Sum(l => l.Words.Count) / 2);
        if (Columns(page.Lines) is { } columns)
            return columns.AreLabels
                ? (Rows(page.Lines, columns.Starts, usual), columns.Starts)
                : (InColumns(page.Lines, columns.Starts, usual), null);
        var goesOn = before is not null && page.Lines.TrueForAll(l => l.Pieces().All(p => ColumnOf(p.Left, before) >= 0));
        return goesOn ? (Rows(page.Lines, before!, usual), before) : (InBands(page.Lines, usual), null);
    }

    /// <summary>Columns of running text that take only a part of the page, such as an appendix, are fewer lines than these not
    /// worth.</summary>
    private const int FewestInBand = 6;

    /// <summary>Running text of one column, with stretches of several between.</summary>
    private static IEnumerable<PrintedBlock> InBands(List<PrintedLine> lines, double usual)
    {
        var pieces = lines.ConvertAll(l => l.Pieces());
        if (MainPlace(pieces) is not { } main)
            return Paragraphs(lines, usual);
        var first = pieces.FindIndex(p => p.Skip(1).Any(piece => IsAt(piece, main)));
        var end = pieces.FindLastIndex(p => p.Skip(1).Any(piece => IsAt(piece, main))) + 1;
        // One column may be longer than the other.
        while (end < lines.Count && (lines[end].Right < main || IsAt(lines[end], main)) && IsSameSize(lines[end], lines[end - 1]))
            end++;
        var inside = lines.GetRange(first, end - first);
        return inside.Count >= FewestInBand && Columns(inside) is { AreLabels: false } columns
            ? Paragraphs(lines[..first], usual).Concat(InColumns(inside, columns.Starts, usual)).Concat(InBands(lines[end..], usual))
            : Paragraphs(lines, usual);
    }

    private static bool IsAt(PrintedLine piece, double place) => Math.Abs(piece.Left - place) <= SamePlace;

    private static bool IsSameSize(PrintedLine line, PrintedLine before) => Math.Abs(line.Size - before.Size) <= before.Size * 0.15;

    /// <summary>Where most pieces begin that stand right of another; null where fewer than three do.</summary>
    private static double? MainPlace(IReadOnlyList<IReadOnlyList<PrintedLine>> pieces)
    {
        var inner = pieces.SelectMany(p => p.Skip(1)).Select(p => p.Left).Order().ToList();
        var places = inner
            .GroupBy(x => inner.First(first => x - first <= SamePlace))
            .Select(g => (Place: g.Key, Count: g.Count()))
            .Where(g => g.Count >= 3)
            .ToList();
        // The last place of a table is where the words begin.
        return places.Count == 0 ? null : places.Where(p => p.Count * 4 >= places.Max(q => q.Count) * 3).Max(p => p.Place);
    }

    /// <summary>
    /// Where pieces begin when most lines have several; null for a page of one column. Columns are labels when what stands left is short.
    /// </summary>
    private static (IReadOnlyList<double> Starts, bool AreLabels)? Columns(List<PrintedLine> lines)
    {
        var pieces = lines.ConvertAll(l => l.Pieces());
        // Half of the lines at least begin or go on where the words begin.
        if (MainPlace(pieces) is not { } main)
            return null;
        var beside = pieces.Where(p => p.Skip(1).Any(piece => IsAt(piece, main))).ToList();
        var going = pieces.Count(p => p.Count == 1 && IsAt(p[0], main));
        if (beside.Count < 3 || (beside.Count + going) * 2 < lines.Count)
            return null;
        var left = beside.Select(p => p.TakeWhile(piece => !IsAt(piece, main)).ToList()).ToList();
        var areLabels =
            left.TrueForAll(l => l.TrueForAll(piece => piece.Text.Length <= LongestLabel))
            && left.Average(l => l.Average(p => p.Text.Length)) < 25;
        var starts = left.SelectMany(l => l).Select(p => p.Left).Append(main).Order().ToList();
        // A column of running text begins in many lines at one place; a wide space inside a line is no column.
        var fewest = areLabels ? 1 : Math.Max(3, beside.Count / 3);
        var distinct = starts
            .GroupBy(start => starts.First(first => start - first <= SamePlace))
            .Where(g => g.Key >= main - SamePlace || g.Count() >= fewest)
            .Select(g => g.Key)
            .ToList();
        return (distinct, areLabels);
    }

    /// <summary>Rows begin with a piece left of the words; a line that begins where the words do goes on with them.</summary>
    private static IEnumerable<PrintedBlock> Rows(List<PrintedLine> lines, IReadOnlyList<double> starts, double usual)
    {
        // What begins where words do, at the head of a page, goes on with the last row of the page before.
        List<PrintedLine>[]? row = lines[0].Pieces().Count == 1 && ColumnOf(lines[0].Left, starts) == starts.Count - 1 ? Empty() : null;
        List<PrintedLine>[] Empty() => [.. starts.Select(_ => new List<PrintedLine>())];
        var loose = new List<PrintedLine>();
        PrintedBlock Row() => new(BlockKind.TableRow, [], Cells: row!);
        var close = CloseInRows(lines, starts);
        PrintedLine? before = null;
        foreach (var line in lines)
        {
            var pieces = line.Pieces();
            var columns = pieces.Select(p => ColumnOf(p.Left, starts)).ToList();
            var inColumns = columns.TrueForAll(c => c >= 0);
            // A label of two lines stands beside the second line of the words, as near as lines of one cell stand.
            var isClose = before is not null && before.Baseline - line.Baseline <= close;
            before = line;
            var goesOn = row is not null && inColumns && (isClose || (pieces.Count == 1 && columns[0] == starts.Count - 1));
            var begins = !goesOn && pieces.Count > 1 && inColumns;
            if (!goesOn && row is not null)
            {
                yield return Row();
                row = null;
            }
            if (begins && loose.Count > 0)
            {
                foreach (var block in Paragraphs(loose, usual))
                    yield return block;
                loose = [];
            }
            if (begins)
                row = Empty();
            if (!begins && !goesOn)
                loose.Add(line);
            else
                for (var i = 0; i < pieces.Count; i++)
                    row![columns[i]].Add(pieces[i]);
        }
        if (row is not null)
            yield return Row();
        foreach (var block in Paragraphs(loose, usual))
            yield return block;
    }

    /// <summary>How near lines of one cell stand, told by lines of words without a label; 0 where there are none.</summary>
    private static double CloseInRows(List<PrintedLine> lines, IReadOnlyList<double> starts)
    {
        var distances = lines
            .Zip(lines.Skip(1))
            .Where(p => p.Second.Pieces().Count == 1 && ColumnOf(p.Second.Left, starts) == starts.Count - 1)
            .Select(p => p.First.Baseline - p.Second.Baseline)
            .Order()
            .ToList();
        return distances.Count == 0 ? 0 : distances[distances.Count / 2] * 1.08;
    }

    private static int ColumnOf(double left, IReadOnlyList<double> starts)
    {
        for (var i = 0; i < starts.Count; i++)
        {
            if (Math.Abs(left - starts[i]) <= SamePlace)
                return i;
        }
        return -1;
    }

    /// <summary>Column after column; a line that reaches over several ends the columns above it.</summary>
    private static IEnumerable<PrintedBlock> InColumns(List<PrintedLine> lines, IReadOnlyList<double> starts, double usual)
    {
        var columns = starts.Select(_ => new List<PrintedLine>()).ToList();
        foreach (var line in lines)
        {
            var pieces = line.Pieces();
            var places = pieces.Select(p => ColumnLeftOf(p.Left, starts)).ToList();
            var reachesOver = pieces.Where((p, i) => places[i] + 1 < starts.Count && p.Right > starts[places[i] + 1]).Any();
            if (reachesOver)
            {
                foreach (var block in columns.SelectMany(c => Paragraphs(c, usual)).Concat(Paragraphs([line], usual)).ToList())
                    yield return block;
                columns.ForEach(c => c.Clear());
                continue;
            }
            foreach (var column in places.Distinct())
                columns[column].Add(new PrintedLine([.. pieces.Where((_, i) => places[i] == column).SelectMany(p => p.Words)]));
        }
        foreach (var block in columns.SelectMany(c => Paragraphs(c, usual)))
            yield return block;
    }

    private static int ColumnLeftOf(double left, IReadOnlyList<double> starts)
    {
        var column = 0;
        while (column + 1 < starts.Count && starts[column + 1] <= left + SamePlace)
            column++;
        return column;
    }

    private static IEnumerable<PrintedBlock> Paragraphs(List<PrintedLine> lines, double usual)
    {
        var pitch = PitchOf(lines, usual);
        var open = new List<PrintedLine>();
        foreach (var line in lines)
        {
            if (open.Count > 0 && Begins(line, open[^1], pitch))
            {
                yield return Block(open, usual);
                open = [];
            }
            open.Add(line);
        }
        if (open.Count > 0)
            yield return Block(open, usual);
    }

    /// <summary>The distance of lines inside a paragraph: behind lines that were full. Where none is, lines stand close.</summary>
    private static double PitchOf(List<PrintedLine> lines, double usual)
    {
        if (lines.Count < 2)
            return 0;
        var right = lines.Max(l => l.Right);
        var pairs = lines
            .Zip(lines.Skip(1))
            .Select(p => (Line: p.First, Next: p.Second, Distance: p.First.Baseline - p.Second.Baseline))
            .ToList();
        var full = pairs
            .Where(p => p.Distance > 0 && p.Line.Right + p.Line.Size * 0.3 + (p.Next.Words[0].Right - p.Next.Words[0].Left) > right + 1)
            .Select(p => p.Distance)
            .Order()
            .ToList();
        return full.Count > 0 ? full[full.Count / 2] : Math.Min(pairs.Min(p => p.Distance), usual * CloseLines);
    }

    private static bool Begins(PrintedLine line, PrintedLine before, double pitch) =>
        before.Baseline - line.Baseline > pitch * ParagraphSpace || !IsSameSize(line, before) || MarkerOf(line) is not null;

    private static PrintedBlock Block(List<PrintedLine> lines, double usual)
    {
        var size = lines.Max(l => l.Size);
        if (size > usual * HeadingSize && lines.Sum(l => l.Text.Length + 1) <= LongestHeading)
            return new PrintedBlock(BlockKind.Heading, lines, size > usual * HeadingSize * HeadingSize ? 1 : 2);
        if (MarkerOf(lines[0]) is { } marker && lines[0].Words.Count > 1)
        {
            var first = new PrintedLine([.. lines[0].Words.Skip(1)]);
            return new PrintedBlock(BlockKind.ListItem, [first, .. lines.Skip(1)], 1, marker);
        }
        return new PrintedBlock(BlockKind.Paragraph, lines);
    }

    /// <summary>A sign that stands before list items; numbers may be those of lines, and stay.</summary>
    private static string? MarkerOf(PrintedLine line) =>
        line.Words[0].Text is "•" or "◦" or "▪" or "‣" or "●" or "○" ? line.Words[0].Text : null;
}
