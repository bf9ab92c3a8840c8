using Vitrine.Core.Text;

namespace Vitrine.Core.Gather.Turns;

/// <summary>
/// Reads a transcript that is a table: columns are told by what stands in them, not by their headings. The names are the short cells that
/// come back, the words the longest ones, the times those that hold nothing else.
/// </summary>
internal static class TurnTable
{
    private const int FewestRows = 2;
    private const int LongestName = 60;

    private sealed record Row(int Start, IReadOnlyList<Cell> Cells);

    /// <summary>The rows that open turns; none when the text holds no such table.</summary>
    public static IReadOnlyList<TurnHead> Heads(string text, TurnAids aids)
    {
        var rows = aids.Blocks is { } blocks
            ? blocks.Where(b => b.Kind == BlockKind.TableRow && b.Cells is not null).Select(b => new Row(b.Words.Start, b.Cells!)).ToList()
            : TabbedLines(text);
        if (rows.Count < FewestRows || ColumnsOf(text, rows, aids) is not var (name, words, time) || name < 0)
            return [];
        var heads = new List<TurnHead>();
        string? last = null;
        foreach (var row in rows)
        {
            var (said, who) = (CellIn(row, words), CellIn(row, name)?.Of(text).Trim().TrimEnd(':', '：').Trim());
            var at = CellIn(row, time) is { } t ? TurnHeads.TimeOnly(t.Of(text)) : null;
            // A row of words alone goes on with the one above.
            if (said is null || (who is null && at is null))
                continue;
            // The row of headings is nobody's.
            var isHeading = heads.Count == 0 && time >= 0 && at is null && CellIn(row, time) is not null;
            if (isHeading || (heads.Count == 0 && row == rows[0] && who is not null && IsHeading(who)))
                continue;
            last = who ?? last;
            heads.Add(new TurnHead(TurnStyle.TableColumns, last, at, row.Start, said.Value.Start, false));
        }
        return heads;
    }

    private static bool IsHeading(string cell) => Headings.Contains(cell);

    private static readonly HashSet<string> Headings = new(StringComparer.OrdinalIgnoreCase)
    {
        "Speaker",
        "Speakers",
        "Name",
        "Who",
        "Person",
        "Participant",
        "Voice",
        "Role",
    };

    private static TextRange? CellIn(Row row, int column)
    {
        foreach (var cell in row.Cells)
        {
            if (cell.Column == column)
                return cell.Words;
        }
        return null;
    }

    /// <summary>Which columns hold names, words and times (-1: none); null when there are no names or no words.</summary>
    private static (int Name, int Words, int Time)? ColumnsOf(string text, List<Row> rows, TurnAids aids)
    {
        var columns = rows.SelectMany(r => r.Cells)
            .GroupBy(c => c.Column)
            .ToDictionary(g => g.Key, g => g.Select(c => c.Words.Of(text).Trim()).ToList());
        bool Mostly(int column, Func<string, bool> fits) => columns[column].Count(fits) * 10 >= columns[column].Count * 7;
        var time = columns.Keys.Order().Cast<int?>().FirstOrDefault(c => Mostly(c!.Value, v => TurnHeads.TimeOnly(v) is not null)) ?? -1;
        var words =
            columns.Keys.Where(c => c != time).OrderByDescending(c => columns[c].Sum(v => v.Length)).Cast<int?>().FirstOrDefault() ?? -1;
        var name = -1;
        foreach (var column in columns.Keys.Where(c => c != time && c != words && c < words).Order())
        {
            var cells = columns[column];
            var names = cells.Select(v => v.TrimEnd(':')).Distinct(StringComparer.OrdinalIgnoreCase).ToList();
            var known = names.Count(n => aids.IsKnown?.Invoke(n) == true || SpeakerLabel.Of(n) == LabelLook.Role);
            // A number of each row is no name.
            var asNames = Mostly(column, v => v.Length <= LongestName && char.IsLetter(v.FirstOrDefault()) && !SpeakerLabel.IsOfNotes(v));
            if (asNames && (known > 0 || names.Count * 2 <= cells.Count + 1))
                name = column;
        }
        // Words are sentences; a table of two columns of single words is a list of something.
        return words >= 0 && name >= 0 && columns[words].Count(v => v.Contains(' ', StringComparison.Ordinal)) * 2 >= columns[words].Count
            ? (name, words, time)
            : null;
    }

    /// <summary>
    /// Where a row of a table that was copied as text ends: before an empty line, and before a line without tabs unless its cells break.
    /// </summary>
    /// <param name="text">The text.</param>
    /// <param name="head">The row.</param>
    /// <param name="end">Where the next row begins, or the text ends.</param>
    /// <param name="breaks">Whether a line without tabs goes on with the words of the row.</param>
    public static int RowEnd(string text, TurnHead head, int end, bool breaks)
    {
        for (var at = LineEnd(text, head.WordsStart, end); at < end; )
        {
            var next = LineEnd(text, at + 1, end);
            var line = text.AsSpan(at, next - at);
            if (line.IsWhiteSpace() || (!breaks && !line.Contains('\t')))
                return at;
            at = next;
        }
        return end;
    }

    /// <summary>
    /// Whether the words of a row go on in a line without tabs before the next row; those of the last row then do so too.
    /// </summary>
    public static bool BreaksLines(string text, IReadOnlyList<TurnHead> heads)
    {
        for (var i = 0; i + 1 < heads.Count; i++)
        {
            var next = heads[i + 1].LineStart;
            var end = RowEnd(text, heads[i], next, false);
            if (!text.AsSpan(end, LineEnd(text, end + 1, next) - end).IsWhiteSpace())
                return true;
        }
        return false;
    }

    private static int LineEnd(string text, int from, int end) =>
        from < end && text.IndexOf('\n', from, end - from) is >= 0 and var newline ? newline : end;

    /// <summary>Lines with tabs in them, as a table that was copied as text.</summary>
    private static List<Row> TabbedLines(string text)
    {
        var rows = new List<Row>();
        var lines = 0;
        for (var start = 0; start < text.Length; )
        {
            var newline = text.IndexOf('\n', start);
            var end = newline < 0 ? text.Length : newline;
            if (end > start)
                lines++;
            if (end > start && text.IndexOf('\t', start, end - start) >= 0)
            {
                var cells = new List<Cell>();
                var (from, column) = (start, 0);
                while (from <= end)
                {
                    var tab = from < end ? text.IndexOf('\t', from, end - from) : -1;
                    var to = tab < 0 ? end : tab;
                    if (TextRange.Tidy(text, from, to) is { } words)
                        cells.Add(new Cell(words, column));
                    column++;
                    from = to + 1;
                }
                rows.Add(new Row(start, cells));
            }
            start = end + 1;
        }
        return rows.Count * 2 > lines ? rows : [];
    }
}
