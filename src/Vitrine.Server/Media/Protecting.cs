using System.Globalization;
using Vitrine.Core.Gather.Privacy;
using Vitrine.Core.Mark.Observations;
using Vitrine.Core.Mark.Recordings;

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

    /// <summary>The sound of a stretch: bleeped words silenced, voices lowered, and the bleep laid over.</summary>
    /// <param name="voiceChanged">Whether voices are lowered.</param>
    /// <param name="bleeped">Stretches of the recording.</param>
    /// <param name="stretch">The stretch of it that leaves.</param>
    /// <param name="from">The label of what comes in.</param>
    /// <param name="to">The label of what goes out.</param>
    public static string Sound(bool voiceChanged, IReadOnlyList<TimeRange> bleeped, TimeRange stretch, string from, string to)
    {
        var when = When(bleeped.Select(b => Inside(b, stretch)));
        var steps = new List<string> { $"[{from}]aresample={SamplesPerSecond}" };
        if (when is not null)
            steps.Add($"volume=volume=0{when}");
        if (voiceChanged)
            steps.Add(
                string.Create(
                    CultureInfo.InvariantCulture,
                    $"asetrate={(int)(SamplesPerSecond * Lower)},aresample={SamplesPerSecond},atempo={1 / Lower:0.####}"
                )
            );
        if (when is null)
            return string.Join(',', steps) + $"[{to}]";
        var inverse = when.Replace("enable='", "enable='not(", StringComparison.Ordinal)[..^1] + ")'";
        return string.Join(',', steps)
            + $"[said];sine=frequency=1000:sample_rate={SamplesPerSecond}:duration={Seconds(stretch.EndMs - stretch.BeginMs)},"
            + $"volume=volume=1.2,volume=volume=0{inverse}[bleep];[said][bleep]amix=inputs=2:duration=first:normalize=0[{to}]";
    }

    private static (int Begin, int End)? Inside(Cover cover, TimeRange stretch) =>
        Inside(new TimeRange(cover.BeginMs ?? 0, cover.EndMs ?? int.MaxValue), stretch);

    private static (int Begin, int End)? Inside(TimeRange range, TimeRange stretch)
    {
        var (begin, end) = (Math.Max(range.BeginMs, stretch.BeginMs), Math.Min(range.EndMs, stretch.EndMs));
        return begin < end ? (begin - stretch.BeginMs, end - stretch.BeginMs) : null;
    }

    /// <summary>Null where a filter is never there.</summary>
    private static string? When(IEnumerable<(int Begin, int End)?> inside)
    {
        var times = inside.OfType<(int Begin, int End)>().Select(t => $"between(t,{Seconds(t.Begin)},{Seconds(t.End)})").ToList();
        return times.Count == 0 ? null : $":enable='{string.Join('+', times)}'";
    }

    private static string Part(string of, int share) => string.Create(CultureInfo.InvariantCulture, $"{of}*{share}/{RegionAnchor.Whole}");

    private static string Seconds(int ms) => (ms / 1000.0).ToString("0.000", CultureInfo.InvariantCulture);
}
