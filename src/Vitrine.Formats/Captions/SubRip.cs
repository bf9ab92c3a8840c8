using System.Globalization;
using System.Net;
using System.Text.RegularExpressions;
using Vitrine.Formats.Documents;

namespace Vitrine.Formats.Captions;

/// <summary>
/// Reads .srt captions: a counter, a time line "00:00:01,000 --> 00:00:04,000", lines of text, an empty line (common practice, no published
/// standard). The counter may be missing,
/// the milliseconds may follow a point, and a caption may hold an empty line when no time line follows it.
/// </summary>
public static partial class SubRip
{
    /// <exception cref="UnreadableException">No caption has a readable time line.</exception>
    public static ReadSource Read(byte[] bytes)
    {
        var (text, _) = TextFile.Decode(bytes);
        var cues = Cues(text);
        if (cues.Count == 0)
            throw new UnreadableException(
                "No caption in it has a readable time line such as \"00:00:01,000 --> 00:00:04,000\". Export the captions again, "
                    + "or paste the text."
            );
        return CueText.ToSource(cues);
    }

    /// <summary>The captions in the order of the file.</summary>
    public static IReadOnlyList<Cue> Cues(string text)
    {
        var lines = text.TrimStart('\uFEFF').Replace("\r\n", "\n").Replace('\r', '\n').Split('\n');
        var cues = new List<Cue>();
        var heads = Enumerable.Range(0, lines.Length).Where(i => TimeLine().IsMatch(lines[i])).ToList();
        for (var h = 0; h < heads.Count; h++)
        {
            var end = h + 1 < heads.Count ? heads[h + 1] : lines.Length;
            // What stands directly before the next time line is its counter.
            if (h + 1 < heads.Count && end - 1 > heads[h] && lines[end - 1].Trim().All(char.IsAsciiDigit))
                end--;
            var words = string.Join('\n', lines[(heads[h] + 1)..end].Select(l => l.Trim()).Where(l => l.Length > 0));
            var times = TimeLine().Match(lines[heads[h]]);
            cues.Add(
                new Cue(Milliseconds(times, "b"), Milliseconds(times, "e"), [(null, WebUtility.HtmlDecode(Mark().Replace(words, "")))])
            );
        }
        return cues;
    }

    private static int Milliseconds(Match match, string which)
    {
        int Part(string name) =>
            match.Groups[which + name] is { Success: true } g ? int.Parse(g.ValueSpan, CultureInfo.InvariantCulture) : 0;
        var fraction = match.Groups[which + "f"] is { Success: true } f
            ? int.Parse(f.Value.PadRight(3, '0'), CultureInfo.InvariantCulture)
            : 0;
        return ((Part("h") * 60 + Part("m")) * 60 + Part("s")) * 1000 + fraction;
    }

    [GeneratedRegex(
        @"^\s*(?<bh>[0-9]{1,3}):(?<bm>[0-9]{1,2}):(?<bs>[0-9]{1,2})(?:[,.](?<bf>[0-9]{1,3}))?"
            + @"\s*-->\s*(?<eh>[0-9]{1,3}):(?<em>[0-9]{1,2}):(?<es>[0-9]{1,2})(?:[,.](?<ef>[0-9]{1,3}))?"
    )]
    private static partial Regex TimeLine();

    /// <summary>Signs for looks and places that players understand: &lt;i&gt;, {\an8}.</summary>
    [GeneratedRegex(@"</?[a-zA-Z][^>]*>|\{\\[^}]*\}")]
    private static partial Regex Mark();
}
