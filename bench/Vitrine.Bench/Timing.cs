using System.Diagnostics;

namespace Vitrine.Bench;

internal static class Timing
{
    /// <summary>The median of several runs in milliseconds, after one that does not count.</summary>
    public static double Median(int runs, Action work)
    {
        work();
        return At(0.5, [.. Enumerable.Range(0, runs).Select(_ => Once(work))]);
    }

    public static double Once(Action work)
    {
        var watch = Stopwatch.StartNew();
        work();
        return watch.Elapsed.TotalMilliseconds;
    }

    /// <summary>The value below which the given share of all lies.</summary>
    public static double At(double share, IReadOnlyList<double> all) =>
        all.Order().ElementAt(Math.Min(all.Count - 1, (int)(all.Count * share)));
}
