using System.Text;

namespace Vitrine.Core.Text;

/// <summary>
/// Builds a canonical text and its shape side by side, block by block. Blocks stand apart by an empty line, rows of a table and items of a
/// list by a line end,
/// cells by a tab. A block without words is left out.
/// </summary>
public sealed class ShapedText
{
    private readonly StringBuilder text = new();
    private readonly List<Block> blocks = [];
    private readonly List<Emphasis> emphases = [];
    private readonly List<PageStart> pages = [];
    private readonly List<(int Start, int Column)> cells = [];
    private readonly List<int> lines = [];
    private readonly List<int> places = [];
    private (string Text, Shape Shape)? done;
    private int start = -1;
    private int tail;
    private int column;
    private (BlockKind Kind, int Level, string? Marker) open;

    /// <summary>How long the text is so far, in UTF-16 units.</summary>
    public int Length => text.Length;

    /// <summary>Begins a block; one that is still open ends.</summary>
    public void Begin(BlockKind kind, int level = 0, string? marker = null)
    {
        End();
        tail = text.Length;
        if (blocks.Count > 0)
            text.Append(blocks[^1].Kind == kind && kind is BlockKind.ListItem or BlockKind.TableRow ? "\n" : "\n\n");
        start = text.Length;
        open = (kind, level, marker);
        cells.Clear();
        column = -1;
    }

    /// <summary>The next cell of a table row.</summary>
    public void NextCell()
    {
        column++;
        TrimEnd();
        if (text.Length > start)
            text.Append('\t');
        cells.Add((text.Length, column));
    }

    /// <summary>The open cell reaches over so many more columns.</summary>
    public void Span(int more) => column += more;

    /// <summary>Words of the open block; a paragraph begins where none is open. Line ends stay line ends.</summary>
    public void Add(string words, bool bold = false, bool italic = false)
    {
        if (words.Length == 0)
            return;
        if (start < 0)
            Begin(BlockKind.Paragraph);
        var inCell = open.Kind == BlockKind.TableRow;
        var canonical = CanonicalText.From(words);
        // White space at a line's end is dropped by the canonical form; between two runs of one line it is a space.
        if (!words.EndsWith('\n') && words[^1] is ' ' or '\t' && (canonical.Length == 0 || canonical[^1] != '\n'))
            canonical += words[^1];
        if (inCell)
            canonical = canonical.Replace('\n', ' ').Replace('\t', ' ');
        if (text.Length == start || (inCell && cells.Count > 0 && text.Length == cells[^1].Start) || text[^1] == '\n')
            canonical = canonical.TrimStart(' ', '\t', '\n');
        var at = text.Length;
        text.Append(canonical);
        if ((bold || italic) && TextRange.Tidy(text.ToString(at, text.Length - at), 0, text.Length - at) is { } words_)
        {
            var range = new TextRange(at + words_.Start, at + words_.End);
            if (
                emphases.Count > 0
                && emphases[^1] is { } before
                && before.Bold == bold
                && before.Italic == italic
                && before.Words.End == range.Start
            )
                emphases[^1] = before with { Words = new TextRange(before.Words.Start, range.End) };
            else
                emphases.Add(new Emphasis(range, bold, italic));
        }
    }

    /// <summary>A printed line begins inside the open block: a space in the text, and a place to look for a speaker.</summary>
    /// <param name="joined">Whether the word goes on, so that nothing stands between.</param>
    public void Line(bool joined = false)
    {
        if (!joined)
            Add(" ");
        lines.Add(text.Length);
    }

    /// <summary>Takes the last character of the open block away: a hyphen at a line's end.</summary>
    public void Unhyphen()
    {
        if (start < 0 || text.Length == start)
            return;
        text.Length--;
        if (emphases.Count > 0 && emphases[^1] is { } last && last.Words.End > text.Length)
        {
            emphases.RemoveAt(emphases.Count - 1);
            if (last.Words.Start < text.Length)
                emphases.Add(last with { Words = new TextRange(last.Words.Start, text.Length) });
        }
    }

    /// <summary>A page begins with the words that come next.</summary>
    public void Page(int number)
    {
        End();
        pages.Add(new PageStart(number, -1));
    }

    /// <summary>Remembers the place reached so far, for <see cref="Between"/>.</summary>
    /// <returns>Its number.</returns>
    public int Place()
    {
        places.Add(text.Length);
        return places.Count - 1;
    }

    /// <summary>
    /// Once all is done: the words between two places that were remembered; where none stand between them, the block in which they lie, or
    /// the one before.
    /// </summary>
    public TextRange Between(int from, int to)
    {
        var (all, shape) = done ?? throw new InvalidOperationException("The text is not done.");
        var (first, last) = (Math.Min(places[from], all.Length), Math.Min(places[to], all.Length));
        if (first < last && TextRange.Tidy(all, first, last) is { } words)
            return words;
        return (shape.Blocks.LastOrDefault(b => b.Words.Start <= last) ?? shape.Blocks[0]).Words;
    }

    /// <summary>Ends the open block.</summary>
    public void End()
    {
        if (start < 0)
            return;
        TrimEnd();
        if (text.Length > start)
        {
            blocks.Add(
                new Block(
                    new TextRange(start, text.Length),
                    open.Kind,
                    open.Level,
                    open.Marker,
                    open.Kind == BlockKind.TableRow ? [.. Cells()] : null
                )
            );
            for (var i = pages.Count - 1; i >= 0 && pages[i].Start < 0; i--)
                pages[i] = pages[i] with { Start = start };
        }
        else
        {
            text.Length = tail;
        }
        start = -1;
    }

    /// <summary>The text and its shape; null when there are no words.</summary>
    public (string Text, Shape Shape)? Done()
    {
        End();
        if (blocks.Count == 0)
            return null;
        var built = text.ToString();
        var shape = new Shape([.. blocks], [.. emphases], [.. pages.Where(p => p.Start >= 0)], lines.Count > 0 ? [.. lines] : null);
        var canonical = CanonicalText.From(built);
        done = canonical == built ? (built, shape) : (canonical, Moved(built, shape));
        return done;
    }

    /// <summary>Where runs have joined into one character (an accent of its own after its letter), every position follows.</summary>
    private Shape Moved(string built, Shape shape)
    {
        var seen = new Dictionary<int, int>();
        int At(int position)
        {
            if (!seen.TryGetValue(position, out var there))
                seen[position] = there = CanonicalText.From(built[..position] + "|").Length - 1;
            return there;
        }
        for (var i = 0; i < places.Count; i++)
            places[i] = At(Math.Min(places[i], built.Length));
        TextRange? Range(TextRange r) => At(r.End) > At(r.Start) ? new TextRange(At(r.Start), At(r.End)) : null;
        return new Shape(
            [
                .. shape
                    .Blocks.Where(b => Range(b.Words) is not null)
                    .Select(b =>
                        b with
                        {
                            Words = Range(b.Words)!.Value,
                            Cells = b
                                .Cells?.Where(c => Range(c.Words) is not null)
                                .Select(c => new Cell(Range(c.Words)!.Value, c.Column))
                                .ToList(),
                        }
                    ),
            ],
            [.. shape.Emphases.Where(e => Range(e.Words) is not null).Select(e => e with { Words = Range(e.Words)!.Value })],
            [.. shape.Pages.Select(p => p with { Start = At(p.Start) })],
            shape.Lines?.Select(At).ToList()
        );
    }

    private IEnumerable<Cell> Cells()
    {
        for (var i = 0; i < cells.Count; i++)
        {
            var end = Math.Min(text.Length, i + 1 < cells.Count ? cells[i + 1].Start : text.Length);
            if (
                cells[i].Start < end
                && TextRange.Tidy(text.ToString(cells[i].Start, end - cells[i].Start), 0, end - cells[i].Start) is { } words
            )
            {
                yield return new Cell(new TextRange(cells[i].Start + words.Start, cells[i].Start + words.End), cells[i].Column);
            }
        }
    }

    private void TrimEnd()
    {
        while (text.Length > start && text[^1] is ' ' or '\t' or '\n')
            text.Length--;
    }
}
