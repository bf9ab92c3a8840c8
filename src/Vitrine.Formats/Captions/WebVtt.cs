using System.Globalization;
using System.Net;
using System.Text;
using System.Text.RegularExpressions;
using Vitrine.Formats.Documents;

namespace Vitrine.Formats.Captions;

/// <summary>One caption: its time in milliseconds from the start, and who says what in it.</summary>
/// <param name="BeginMs">When it begins.</param>
/// <param name="EndMs">When it has ended.</param>
/// <param name="Parts">What each voice says, in order.</param>
/// <param name="Stamps">Where the caption says when single words begin: in which part, from which of its characters on, and when.</param>
public sealed record Cue(
    int BeginMs,
    int EndMs,
    IReadOnlyList<(string? Voice, string Words)> Parts,
    IReadOnlyList<(int Part, int At, int Ms)>? Stamps = null
);

/// <summary>
/// Reads WebVTT by the parsing rules of W3C, "WebVTT: The Web Video Text Tracks Format" (Candidate Recommendation, 4 April 2019), section
/// 6:
/// what that parser keeps is kept, what it drops is dropped and said.
/// </summary>
public static partial class WebVtt
{
    /// <summary>Reads a .vtt file into a source: one turn per run of cues with one voice.</summary>
    /// <exception cref="UnreadableException">The file does not begin with WEBVTT, or no cue could be kept.</exception>
    public static ReadSource Read(byte[] bytes)
    {
        var (text, _) = TextFile.Decode(bytes);
        var (cues, dropped) = Cues(text);
        if (cues.Count == 0)
            throw new UnreadableException(
                "No caption in it has a readable time line such as \"00:01.000 --> 00:04.000\". Export the captions again, or "
                    + "paste the text."
            );
        var read = CueText.ToSource(cues);
        return dropped.Count == 0 ? read : read with { Remarks = [Said(dropped)] };
    }

    /// <summary>Cues as a WebVTT file, each part with its voice.</summary>
    public static string Written(IEnumerable<Cue> cues)
    {
        var text = new StringBuilder("WEBVTT\n");
        foreach (var cue in cues)
        {
            text.Append(CultureInfo.InvariantCulture, $"\n{Stamped(cue.BeginMs)} --> {Stamped(cue.EndMs)}\n");
            foreach (var (voice, words) in cue.Parts)
                text.Append(voice is null ? "" : $"<v {Escaped(voice)}>").Append(Escaped(words)).Append('\n');
        }
        return text.ToString();
    }

    private static string Stamped(int ms) =>
        string.Create(CultureInfo.InvariantCulture, $"{ms / 3_600_000:00}:{ms / 60_000 % 60:00}:{ms / 1000 % 60:00}.{ms % 1000:000}");

    /// <summary>In a cue, line ends stand for themselves, an empty line would end it, and these signs begin something.</summary>
    private static string Escaped(string words) =>
        Lines()
            .Replace(words, " ")
            .Replace("&", "&amp;", StringComparison.Ordinal)
            .Replace("<", "&lt;", StringComparison.Ordinal)
            .Replace(">", "&gt;", StringComparison.Ordinal);

    [GeneratedRegex(@"\s*\n\s*")]
    private static partial Regex Lines();

    /// <summary>The cues of a WebVTT text, and the line numbers (from 1) at which something was dropped.</summary>
    /// <exception cref="UnreadableException">The text does not begin with WEBVTT.</exception>
    public static (IReadOnlyList<Cue> Cues, IReadOnlyList<int> DroppedLines) Cues(string text)
    {
        var lines = text.TrimStart('\uFEFF').Replace("\0", "\uFFFD").Replace("\r\n", "\n").Replace('\r', '\n').Split('\n');
        if (!Signature().IsMatch(lines[0]))
            throw new UnreadableException(
                "A .vtt file begins with the line WEBVTT; this one does not. If it is plain text, rename it to .txt and add it again."
            );
        var cues = new List<Cue>();
        var dropped = new List<int>();
        var at = 1;
        // The header runs to the first blank line, or to a time line that follows it at once.
        while (at < lines.Length && lines[at].Length > 0 && !lines[at].Contains("-->", StringComparison.Ordinal))
            at++;
        while (at < lines.Length)
        {
            if (lines[at].Length == 0)
                at++;
            else
                at = ReadBlock(lines, at, cues, dropped);
        }
        return (cues, dropped);
    }

    private static int ReadBlock(string[] lines, int at, List<Cue> cues, List<int> dropped)
    {
        (int Begin, int End)? times = null;
        var timeLine = -1;
        var first = at;
        var payload = new List<string>();
        for (; at < lines.Length && lines[at].Length > 0; at++)
        {
            if (lines[at].Contains("-->", StringComparison.Ordinal))
            {
                if (timeLine >= 0 || at - first > 1)
                    break;
                timeLine = at;
                times = Times(lines[at]);
                payload.Clear();
            }
            else
            {
                payload.Add(lines[at]);
            }
        }
        if (times is { } kept)
            cues.Add(CueOf(kept.Begin, kept.End, string.Join('\n', payload)));
        else if (timeLine >= 0)
            dropped.Add(timeLine + 1);
        else if (!IsNoteOrStyle(lines[first]))
            dropped.Add(first + 1);
        return Math.Max(at, first + 1);
    }

    private static bool IsNoteOrStyle(string line) =>
        line.StartsWith("NOTE", StringComparison.Ordinal) || line.TrimEnd() is "STYLE" or "REGION";

    private static (int Begin, int End)? Times(string line)
    {
        var match = TimeLine().Match(line);
        return match.Success && Stamp(match, "b") is { } begin && Stamp(match, "e") is { } end ? (begin, end) : null;
    }

    private static int? Stamp(Match match, string which)
    {
        int Part(string name) =>
            match.Groups[which + name] is { Success: true } g && int.TryParse(g.ValueSpan, CultureInfo.InvariantCulture, out var n) ? n : 0;
        var (hours, minutes, seconds) = (Part("h"), Part("m"), Part("s"));
        if (minutes > 59 || seconds > 59 || hours > 500)
            return null;
        return ((hours * 60 + minutes) * 60 + seconds) * 1000 + Part("f");
    }

    private static Cue CueOf(int begin, int end, string payload)
    {
        var parts = new List<(string?, string)>();
        var stamps = new List<(int, int, int)>();
        string? voice = null;
        var from = 0;
        foreach (Match tag in Tag().Matches(payload))
        {
            Add(payload[from..tag.Index]);
            from = tag.Index + tag.Length;
            if (VoiceTag().Match(tag.Value) is { Success: true } v)
                voice = WebUtility.HtmlDecode(v.Groups["name"].Value).Trim();
            else if (tag.Value == "</v>")
                voice = null;
            // A time inside a caption lies within it, and after those before (section 6.4).
            else if (
                StampTag().Match(tag.Value) is { Success: true } stamp
                && Stamp(stamp, "b") is { } ms
                && ms > (stamps.Count > 0 ? stamps[^1].Item3 : begin)
                && ms < end
            )
                stamps.Add((Math.Max(0, parts.Count - 1), parts.Count == 0 ? 0 : parts[^1].Item2.Length, ms));
        }
        Add(payload[from..]);
        return new Cue(begin, end, parts, stamps.Count == 0 ? null : stamps);

        void Add(string raw)
        {
            var words = WebUtility.HtmlDecode(raw);
            if (parts.Count > 0 && parts[^1].Item1 == voice)
                parts[^1] = (voice, parts[^1].Item2 + words);
            else if (words.Trim().Length > 0)
                parts.Add((voice, words));
        }
    }

    private static string Said(IReadOnlyList<int> dropped)
    {
        var where = string.Join(", ", dropped.Take(5)) + (dropped.Count > 5 ? ", …" : "");
        return dropped.Count == 1
            ? $"One caption was left out: line {where} of the file is not a time that can be read."
            : $"{dropped.Count} captions were left out: lines {where} of the file are not times that can be read.";
    }

    [GeneratedRegex(@"^WEBVTT(?:[ \t].*)?$")]
    private static partial Regex Signature();

    [GeneratedRegex(
        @"^[ \t\f]*(?:(?<bh>[0-9]+):)?(?<bm>[0-9]{2}):(?<bs>[0-9]{2})\.(?<bf>[0-9]{3})"
            + @"[ \t\f]*-->[ \t\f]*(?:(?<eh>[0-9]+):)?(?<em>[0-9]{2}):(?<es>[0-9]{2})\.(?<ef>[0-9]{3})(?![0-9])"
    )]
    private static partial Regex TimeLine();

    [GeneratedRegex(@"^<(?:(?<bh>[0-9]+):)?(?<bm>[0-9]{2}):(?<bs>[0-9]{2})\.(?<bf>[0-9]{3})>$")]
    private static partial Regex StampTag();

    [GeneratedRegex(@"<[^>]*>?")]
    private static partial Regex Tag();

    [GeneratedRegex(@"^<v(?:\.[^ \t\n>]*)?[ \t\n]+(?<name>[^>]+)>?$")]
    private static partial Regex VoiceTag();
}
