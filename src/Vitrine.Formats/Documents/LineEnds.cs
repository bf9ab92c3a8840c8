using System.Text.RegularExpressions;

namespace Vitrine.Formats.Documents;

/// <summary>What stands between two printed lines of one paragraph.</summary>
internal enum LineEnd
{
    /// <summary>A space.</summary>
    Space,

    /// <summary>Nothing: the hyphen at the end belongs to the word.</summary>
    Hyphen,

    /// <summary>Nothing, and the hyphen goes: the word was broken.</summary>
    Joined,
}

/// <summary>
/// Joins words that were broken at a line's end, by the words of the text itself: a hyphen goes when the joined word stands elsewhere, or
/// when the two halves do not; it stays when the word stands elsewhere with it.
/// </summary>
internal sealed partial class LineEnds
{
    private readonly HashSet<string> words = new(StringComparer.OrdinalIgnoreCase);

    public LineEnds(IEnumerable<PrintedPage> pages)
    {
        var broken = false;
        foreach (var line in pages.SelectMany(p => p.Lines))
        {
            for (var i = 0; i < line.Words.Count; i++)
            {
                var word = Edges().Replace(line.Words[i].Text, "");
                var isFragment = (i == 0 && broken) || (i == line.Words.Count - 1 && EndsBroken(line));
                if (!isFragment)
                    words.Add(word);
            }
            broken = EndsBroken(line);
        }
    }

    /// <summary>What stands between a line and the next.</summary>
    public LineEnd Between(PrintedLine line, PrintedLine next)
    {
        if (!EndsBroken(line))
            return LineEnd.Space;
        var (first, second) = (line.Words[^1].Text, next.Words[0].Text);
        if (first[^1] == '\u00AD')
            return LineEnd.Joined;
        if (!char.IsLower(second[0]))
            return char.IsLetterOrDigit(second[0]) ? LineEnd.Hyphen : LineEnd.Space;
        var (head, tail) = (Edges().Replace(first, ""), Edges().Replace(second, ""));
        if (words.Contains(head + tail))
            return LineEnd.Joined;
        if (words.Contains($"{head}-{tail}"))
            return LineEnd.Hyphen;
        return words.Contains(head) && words.Contains(tail) ? LineEnd.Hyphen : LineEnd.Joined;
    }

    private static bool EndsBroken(PrintedLine line)
    {
        var last = line.Words[^1].Text;
        return last.Length > 1 && last[^1] is '-' or '\u2010' or '\u00AD' && char.IsLetter(last[^2]);
    }

    [GeneratedRegex(@"^[^\p{L}\p{N}]+|[^\p{L}\p{N}]+$")]
    private static partial Regex Edges();
}
