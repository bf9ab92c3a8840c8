using System.Globalization;
using System.Text.RegularExpressions;

namespace Vitrine.Core.Text;

/// <summary>
/// Recognises turns in a plain transcript: "Name: words", "[00:12:03] Name: words", "Name [00:12:03] words", and a time and name on a line of their own.
/// A name without a time is believed when it is known or opens at least two lines, so that "The thing is: …" stays words. A text without turns is read as paragraphs.
/// </summary>
public static partial class TurnReading
{
    private const int LongestName = 40;

    /// <summary>The turns (or paragraphs) of a canonical text, in order, not overlapping; lines of white space belong to none.</summary>
    /// <param name="isKnown">Whether a name is someone's already: a participant's or the team's.</param>
    /// <param name="blocks">The paragraphs, where the text comes from a document that says them; else they are what stands between empty lines.</param>
    public static IReadOnlyList<Turn> Of(string text, Func<string, bool>? isKnown = null, IReadOnlyList<Block>? blocks = null)
    {
        var heads = Heads(text);
        var byName = heads.GroupBy(h => h.Name).ToDictionary(g => g.Key, g => g.Count());
        var believed = heads.Where(h => h.BeginMs is not null || byName[h.Name] >= 2 || isKnown?.Invoke(h.Name) == true).ToList();
        return believed.Count < 2 ? Unspoken(text, text.Length, blocks) : TurnsAfter(text, believed, blocks);
    }

    private static IReadOnlyList<Turn> Unspoken(string text, int end, IReadOnlyList<Block>? blocks) =>
        blocks is null ? Paragraphs(text, 0, end) : [.. blocks.Where(b => b.Words.End <= end).Select(b => new Turn(b.Words))];

    private static List<Turn> TurnsAfter(string text, List<Head> heads, IReadOnlyList<Block>? blocks)
    {
        var turns = new List<Turn>();
        if (heads[0].LineStart > 0) turns.AddRange(Unspoken(text, heads[0].LineStart, blocks));
        for (var i = 0; i < heads.Count; i++)
        {
            var end = i + 1 < heads.Count ? heads[i + 1].LineStart : text.Length;
            if (TextRange.Tidy(text, heads[i].WordsStart, end) is not { } words) continue;
            turns.Add(new Turn(words, heads[i].Name, heads[i].BeginMs));
        }
        return turns;
    }

    /// <summary>The paragraphs of a stretch of text: runs of lines between blank lines.</summary>
    public static IReadOnlyList<Turn> Paragraphs(string text, int start, int end)
    {
        var paragraphs = new List<Turn>();
        var from = start;
        while (from < end)
        {
            var gap = text.IndexOf("\n\n", from, end - from, StringComparison.Ordinal);
            var to = gap < 0 ? end : gap;
            if (TextRange.Tidy(text, from, to) is { } words) paragraphs.Add(new Turn(words));
            from = to + 2;
        }
        return paragraphs;
    }

    private static List<Head> Heads(string text)
    {
        var heads = new List<Head>();
        var start = 0;
        while (start < text.Length)
        {
            var newline = text.IndexOf('\n', start);
            var end = newline < 0 ? text.Length : newline;
            if (HeadOf(text[start..end], start) is { } head) heads.Add(head);
            start = end + 1;
        }
        return heads;
    }

    private static Head? HeadOf(string line, int at)
    {
        foreach (var form in new[] { TimeThenName(), NameThenTime(), NameThenColon() })
        {
            var match = form.Match(line);
            if (!match.Success) continue;
            var name = match.Groups["name"].Value.Trim();
            if (name.Length is 0 or > LongestName || !char.IsLetter(name[0])) continue;
            int? begin = match.Groups["time"].Success ? Milliseconds(match.Groups["time"].Value) : null;
            return new Head(name, begin, at, at + match.Length);
        }
        return null;
    }

    /// <summary>Milliseconds of "12:03", "1:12:03" or "00:12:03.250".</summary>
    public static int Milliseconds(string time)
    {
        var parts = time.Replace(',', '.').Split(':');
        var seconds = double.Parse(parts[^1], CultureInfo.InvariantCulture);
        var minutes = int.Parse(parts[^2], CultureInfo.InvariantCulture);
        var hours = parts.Length > 2 ? int.Parse(parts[0], CultureInfo.InvariantCulture) : 0;
        return (int)Math.Round((hours * 3600 + minutes * 60 + seconds) * 1000);
    }

    private readonly record struct Head(string Name, int? BeginMs, int LineStart, int WordsStart);

    private const string Time = @"(?<time>(?:\d{1,2}:)?\d{1,2}:\d{2}(?:[.,]\d{1,3})?)";
    private const string Name = @"(?<name>\p{L}[\p{L}\p{M}\p{N}.'’_-]*(?: [\p{L}\p{N}(][\p{L}\p{M}\p{N}.'’()_-]*){0,3})";

    [GeneratedRegex(@"^\s*[\[(]?" + Time + @"[\])]?\s+(?:[-–]\s+)?" + Name + @"(?:\s*:[ \t]*|[ \t]*$)")]
    private static partial Regex TimeThenName();

    [GeneratedRegex(@"^\s*" + Name + @"\s*[\[(]" + Time + @"[\])]\s*:?[ \t]*")]
    private static partial Regex NameThenTime();

    [GeneratedRegex(@"^\s*" + Name + @"\s*:(?!//)(?:[ \t]+|$)")]
    private static partial Regex NameThenColon();
}
