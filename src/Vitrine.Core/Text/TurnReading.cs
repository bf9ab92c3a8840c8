using System.Globalization;
using System.Text.RegularExpressions;

namespace Vitrine.Core.Text;

/// <summary>How a transcript writes who speaks.</summary>
public enum TurnStyle
{
    /// <summary>"Name: words", also after a line's number.</summary>
    NameAndColon,

    /// <summary>"[00:12:03] Name", "Name (12:03): words", and a time on a line of its own above "Name: words".</summary>
    TimeAndName,

    /// <summary>A name on a line of its own, the words beneath.</summary>
    NameOnItsOwnLine,

    /// <summary>Nobody: paragraphs.</summary>
    NoTurns,
}

/// <summary>
/// Recognises turns in a plain transcript (common practice, no source). A name without a time is believed when it is known or opens at least two lines, so that "The thing is: …" stays words.
/// A text without turns is read as paragraphs.
/// </summary>
public static partial class TurnReading
{
    private const int LongestName = 40;
    private const int FewestTurns = 2;

    /// <summary>The turns (or paragraphs) of a canonical text, in order, not overlapping; lines of white space belong to none.</summary>
    /// <param name="text">The text.</param>
    /// <param name="isKnown">Whether a name is someone's already: a participant's or the team's.</param>
    /// <param name="blocks">The paragraphs, where the text comes from a document that says them; else they are what stands between empty lines.</param>
    /// <param name="style">How it is to be read; null to recognise it: names with colons or times first, then names on lines of their own.</param>
    public static IReadOnlyList<Turn> Of(string text, Func<string, bool>? isKnown = null, IReadOnlyList<Block>? blocks = null, TurnStyle? style = null)
    {
        var heads = style switch
        {
            null => Believed(Heads(text, [TurnStyle.NameAndColon, TurnStyle.TimeAndName]), isKnown) is { Count: >= FewestTurns } spoken ? spoken : Believed(Heads(text, [TurnStyle.NameOnItsOwnLine]), isKnown),
            TurnStyle.NoTurns => [],
            TurnStyle.TimeAndName => Believed(Heads(text, [TurnStyle.NameAndColon, TurnStyle.TimeAndName]), isKnown).Where(h => h.BeginMs is not null).ToList(),
            { } chosen => Believed(Heads(text, [chosen]), isKnown),
        };
        return heads.Count < FewestTurns ? Unspoken(text, text.Length, blocks) : TurnsAfter(text, heads, blocks);
    }

    private static List<Head> Believed(List<Head> heads, Func<string, bool>? isKnown)
    {
        var byName = heads.GroupBy(h => h.Name).ToDictionary(g => g.Key, g => g.Count());
        return heads.Where(h => h.BeginMs is not null || byName[h.Name] >= FewestTurns || isKnown?.Invoke(h.Name) == true).ToList();
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

    private static List<Head> Heads(string text, IReadOnlyList<TurnStyle> styles)
    {
        var heads = new List<Head>();
        (int Ms, int At)? above = null;
        var afterBlank = true;
        for (var start = 0; start < text.Length;)
        {
            var newline = text.IndexOf('\n', start);
            var end = newline < 0 ? text.Length : newline;
            var line = text[start..end];
            var next = end + 1 < text.Length && text[end + 1] != '\n';
            if (HeadOf(line, start, styles, afterBlank && next) is { } head)
            {
                heads.Add(above is { } time && head.BeginMs is null ? head with { BeginMs = time.Ms, LineStart = time.At } : head);
                above = null;
            }
            else if (styles.Contains(TurnStyle.TimeAndName) && TimeAlone().Match(line) is { Success: true } alone)
            {
                above = (Milliseconds(alone.Groups["time"].Value), start);
            }
            else if (line.Length > 0)
            {
                above = null;
            }
            afterBlank = line.Length == 0;
            start = end + 1;
        }
        return heads;
    }

    private static Head? HeadOf(string line, int at, IReadOnlyList<TurnStyle> styles, bool standsAlone)
    {
        foreach (var (style, form) in Forms)
        {
            if (!styles.Contains(style) || (style == TurnStyle.NameOnItsOwnLine && !standsAlone)) continue;
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

    private static (TurnStyle Style, Regex Form)[] Forms =>
        [(TurnStyle.TimeAndName, TimeThenName()), (TurnStyle.TimeAndName, NameThenTime()), (TurnStyle.NameAndColon, NameThenColon()), (TurnStyle.NameOnItsOwnLine, NameAlone())];

    private const string Time = @"(?<time>(?:[0-9]{1,2}:)?[0-9]{1,2}:[0-9]{2}(?:[.,][0-9]{1,3})?)";
    private const string Until = @"(?:\s*(?:-|–|-->|to)\s*(?:[0-9]{1,2}:)?[0-9]{1,2}:[0-9]{2}(?:[.,][0-9]{1,3})?)?";
    private const string Name = @"(?<name>\p{L}[\p{L}\p{M}\p{N}.'’_-]*(?: [\p{L}\p{N}(][\p{L}\p{M}\p{N}.'’()_-]*){0,3})";
    private const string LineNumber = @"^\s*(?:[0-9]{1,4}[.)]?\s+)?";

    [GeneratedRegex(@"^\s*[\[(]?" + Time + Until + @"[\])]?\s+(?:[-–]\s+)?" + Name + @"(?:\s*:[ \t]*|[ \t]*$)")]
    private static partial Regex TimeThenName();

    [GeneratedRegex(LineNumber + Name + @"\s*[\[(]" + Time + Until + @"[\])]\s*:?[ \t]*")]
    private static partial Regex NameThenTime();

    [GeneratedRegex(LineNumber + Name + @"\s*:(?!//)(?:[ \t]+|$)")]
    private static partial Regex NameThenColon();

    /// <summary>One to four words that begin with a capital or hold a digit, and no end of a sentence.</summary>
    [GeneratedRegex(@"^(?<name>\p{Lu}[\p{L}\p{M}\p{N}'’_-]*(?: [\p{Lu}\p{N}(][\p{L}\p{M}\p{N}'’()_-]*){0,3})$")]
    private static partial Regex NameAlone();

    [GeneratedRegex(@"^\s*[\[(]?" + Time + Until + @"[\])]?\s*$")]
    private static partial Regex TimeAlone();
}
