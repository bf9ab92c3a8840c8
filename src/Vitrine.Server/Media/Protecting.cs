using System.Globalization;
using Vitrine.Core.Gather.Privacy;
using Vitrine.Core.Mark.Observations;
using Vitrine.Core.Text;

namespace Vitrine.Server.Media;

/// <summary>What of people is taken away in a stretch that leaves, as ffmpeg's filters. Times are those of the stretch.</summary>
internal static class Protecting
{
    /// <summary>
    /// Voices are moved down to this part of their pitch and formants (common practice, no source; it hides a voice from people, not from a
    /// laboratory).
    /// </summary>
    private const double Lower = 0.8;

    private const int SamplesPerSecond = 44100;

    /// <summary>A bleep begins so long before the word and ends so long after it, in milliseconds: a caption's edges are read by
    /// ear.</summary>
    private const int Margin = 80;

    /// <summary>Covers of a picture, in a chain that begins at one label and ends at another.</summary>
    /// <param name="covers">What is covered.</param>
    /// <param name="stretch">The stretch of the film; null for a picture.</param>
    /// <param name="from">The label of what comes in.</param>
    /// <param name="to">The label of what goes out.</param>
    public static string Picture(IReadOnlyList<Cover> covers, TimeRange? stretch, string from, string to)
    {
        var steps = new List<string>();
        var at = from;
        foreach (var cover in covers)
        {
            var when = stretch is { } time ? When([Inside(cover, time)]) : "";
            if (when is null)
                continue;
            var next = $"c{steps.Count}";
            var (x, y, w, h) = (Part("iw", cover.X), Part("ih", cover.Y), Part("iw", cover.Width), Part("ih", cover.Height));
            steps.Add(
                cover.Look == CoverLook.Solid
                    ? $"[{at}]drawbox=x='floor({x})':y='floor({y})':w='ceil({w})+1':h='ceil({h})+1':color=0x2b3a3f:t=fill{when}[{next}]"
                    : $"[{at}]split[{next}a][{next}b];[{next}b]crop=w='max(2,{w})':h='max(2,{h})':x='{x}':y='{y}',"
                        + $"gblur=sigma=40:steps=3[{next}d];"
                        + $"[{next}a][{next}d]overlay=x='{Part("W", cover.X)}':y='{Part("H", cover.Y)}'{when}[{next}]"
            );
            at = next;
        }
        return string.Join(';', [.. steps, $"[{at}]null[{to}]"]);
    }

    /// <summary>
    /// The sound of a stretch: bleeped words and silent stretches are taken out to the sample, voices lowered, and the bleep laid over.
    /// </summary>
    /// <param name="cut">What is cut out.</param>
    /// <param name="from">The label of what comes in.</param>
    /// <param name="to">The label of what goes out.</param>
    public static string Sound(CutoutOf cut, string from, string to)
    {
        var bleeped = Samples(cut.Bleeped.Select(b => Inside(new TimeRange(Math.Max(0, b.BeginMs - Margin), b.EndMs + Margin), cut.Time)));
        var silenced = Samples(cut.Silenced.Select(s => Inside(s, cut.Time)));
        var steps = new List<string> { $"[{from}]aresample={SamplesPerSecond}" };
        if (string.Join('+', ((string?[])[bleeped, silenced]).OfType<string>()) is { Length: > 0 } taken)
            // Other filters are switched for whole frames, which last as long as a word.
            steps.Add($"aeval=exprs='if({taken},0,val(ch))':c=same");
        if (cut.Protection.VoiceChanged)
            steps.Add(
                string.Create(
                    CultureInfo.InvariantCulture,
                    $"asetrate={(int)(SamplesPerSecond * Lower)},aresample={SamplesPerSecond},atempo={1 / Lower:0.####}"
                )
            );
        if (bleeped is null)
            return string.Join(',', steps) + $"[{to}]";
        return string.Join(',', steps)
            + $"[said];sine=frequency=1000:sample_rate={SamplesPerSecond}:duration={Seconds(cut.Time.EndMs - cut.Time.BeginMs)},"
            + $"aeval=exprs='if({bleeped},1.2*val(ch),0)':c=same[bleep];[said][bleep]amix=inputs=2:duration=first:normalize=0[{to}]";
    }

    /// <summary>Whether a sample is in one of the stretches; null for none.</summary>
    private static string? Samples(IEnumerable<(int Begin, int End)?> inside)
    {
        var stretches = inside.OfType<(int Begin, int End)>().Select(t => $"between(n,{Sample(t.Begin)},{Sample(t.End)})").ToList();
        return stretches.Count == 0 ? null : string.Join('+', stretches);
    }

    private static long Sample(int ms) => (long)ms * SamplesPerSecond / 1000;

    private static (int Begin, int End)? Inside(Cover cover, TimeRange stretch) =>
        TimeRange.Between(cover.BeginMs ?? 0, cover.EndMs ?? TimeRange.Open) is { } time ? Inside(time, stretch) : null;

    private static (int Begin, int End)? Inside(TimeRange range, TimeRange stretch) =>
        range.Clip(stretch) is var (begin, end) ? (begin - stretch.BeginMs, end - stretch.BeginMs) : null;

    /// <summary>Null where a filter is never there.</summary>
    private static string? When(IEnumerable<(int Begin, int End)?> inside)
    {
        var times = inside.OfType<(int Begin, int End)>().Select(t => $"between(t,{Seconds(t.Begin)},{Seconds(t.End)})").ToList();
        return times.Count == 0 ? null : $":enable='{string.Join('+', times)}'";
    }

    private static string Part(string of, int share) => string.Create(CultureInfo.InvariantCulture, $"{of}*{share}/{RegionAnchor.Whole}");

    private static string Seconds(int ms) => (ms / 1000.0).ToString("0.000", CultureInfo.InvariantCulture);
}
