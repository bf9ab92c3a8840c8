using Vitrine.Core.Text;

namespace Vitrine.Core.Mark.Recordings;

/// <summary>
/// Where nobody speaks. A pause is a stretch of at least a given length in which no peak is louder than a bound: a tenth (20 dB) of what
/// is loud in this recording, its 95th percentile of peaks that are not silent, or twice its own floor (the 2nd percentile of all peaks)
/// where that is more, and never more than half of what is loud; common practice, no source. Found to the width of one peak.
/// </summary>
public static class Pauses
{
    /// <summary>The shortest pause, in milliseconds: shorter ones stand within words (stops); common practice, no source.</summary>
    public const int ShortestMs = 300;

    /// <summary>The pauses of a recording, in order; a recording without a sound is one pause.</summary>
    public static IReadOnlyList<TimeRange> In(Peaks peaks, int shortestMs = ShortestMs)
    {
        var heard = peaks.Values.Where(v => v > 1).Order().ToList();
        var loud = heard.Count == 0 ? 0 : heard[(heard.Count * 95) / 100];
        var floor = peaks.Values.Length == 0 ? 0 : peaks.Values.Order().ElementAt(peaks.Values.Length * 2 / 100);
        return Below(peaks, Math.Max(1, Math.Min(loud / 2, Math.Max(loud / 10, floor * 2))), shortestMs);
    }

    /// <summary>Stretches of at least <paramref name="shortestMs"/> in which no peak is above <paramref name="bound"/>.</summary>
    public static IReadOnlyList<TimeRange> Below(Peaks peaks, int bound, int shortestMs)
    {
        var pauses = new List<TimeRange>();
        var begun = -1;
        for (var i = 0; i <= peaks.Values.Length; i++)
        {
            if (i < peaks.Values.Length && peaks.Values[i] <= bound)
            {
                if (begun < 0)
                    begun = i;
                continue;
            }
            if (begun >= 0 && Ms(i) - Ms(begun) >= shortestMs)
                pauses.Add(new TimeRange(Ms(begun), Ms(i)));
            begun = -1;
        }
        return pauses;

        int Ms(int peak) => (int)((long)peak * 1000 / peaks.PerSecond);
    }
}
