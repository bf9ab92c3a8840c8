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
/// when the two halves do not; it stays when the word stands elsewhere with it. Where the halves are words and nothing else tells, it goes
/// in a text that breaks words elsewhere, unless the word is made with hyphens ("self-service"; common practice, no source).
/// </summary>
internal sealed partial class LineEnds
{
    /// <summary>What English writes hyphens behind, whether or not it stands elsewhere by itself.</summary>
    private static readonly HashSet<string> Always = Set("self well");

    /// <summary>What English often writes hyphens behind and before.</summary>
    private static readonly HashSet<string> First = Set(
        "all anti co cross e ex five four full half high ill long low mid new non one part post pre re real second semi short six so ten"
            + " third three two year"
    );

    private static readonly HashSet<string> Last = Set("based by down free in of off old on out the term to up wide year");

    private readonly HashSet<string> words = new(StringComparer.OrdinalIgnoreCase);
    private readonly bool breaksWords;

    public LineEnds(IReadOnlyCollection<PrintedPage> pages)
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
        breaksWords = pages.SelectMany(p => p.Lines.Zip(p.Lines.Skip(1))).Any(l => IsSurelyBroken(l.First, l.Second));
    }

    /// <summary>Whether a hyphen at a line's end can be no other than that of a broken word.</summary>
    private bool IsSurelyBroken(PrintedLine line, PrintedLine next)
    {
        if (!EndsBroken(line) || line.Words[^1].Text[^1] == '\u00AD' || !char.IsLower(next.Words[0].Text[0]))
            return false;
        var (head, tail) = Halves(line, next);
        return words.Contains(head + tail) || !(words.Contains(head) && words.Contains(tail)) && !words.Contains($"{head}-{tail}");
    }

    private static (string Head, string Tail) Halves(PrintedLine line, PrintedLine next) =>
        (Edges().Replace(line.Words[^1].Text, ""), Edges().Replace(next.Words[0].Text, ""));

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
        var (head, tail) = Halves(line, next);
        if (words.Contains(head + tail))
            return LineEnd.Joined;
        if (words.Contains($"{head}-{tail}"))
            return LineEnd.Hyphen;
        if (Always.Contains(head))
            return LineEnd.Hyphen;
        var areWords = words.Contains(head) && words.Contains(tail);
        return areWords && (!breaksWords || First.Contains(head) || Last.Contains(tail)) ? LineEnd.Hyphen : LineEnd.Joined;
    }

    private static HashSet<string> Set(string list) => new(list.Split(' '), StringComparer.OrdinalIgnoreCase);

    private static bool EndsBroken(PrintedLine line)
    {
        var last = line.Words[^1].Text;
        return last.Length > 1 && last[^1] is '-' or '\u2010' or '\u00AD' && char.IsLetter(last[^2]);
    }

    [GeneratedRegex(@"^[^\p{L}\p{N}]+|[^\p{L}\p{N}]+$")]
    private static partial Regex Edges();
}
