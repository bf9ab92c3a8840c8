namespace Vitrine.Core.Statistics;

/// <summary>How good a clustering is, by itself and beside another one.</summary>
public static class Clustering
{
    /// <summary>
    /// The silhouette of each item (Rousseeuw, Journal of Computational and Applied Mathematics 20, 1987): -1 to 1, how much nearer its
    /// own cluster is than the next. 0 for an item that is a cluster by itself, and where there is one cluster alone.
    /// </summary>
    /// <param name="distances">Square and symmetric.</param>
    /// <param name="clusters">The number of its cluster for each item, from 0.</param>
    public static double[] Silhouettes(double[,] distances, IReadOnlyList<int> clusters)
    {
        var sizes = new int[clusters.DefaultIfEmpty(-1).Max() + 1];
        foreach (var cluster in clusters)
            sizes[cluster]++;
        var silhouettes = new double[clusters.Count];
        var sums = new double[sizes.Length];
        for (var i = 0; i < clusters.Count; i++)
        {
            var own = clusters[i];
            if (sizes[own] == 1)
                continue;
            Array.Clear(sums);
            for (var j = 0; j < clusters.Count; j++)
            {
                if (j != i)
                    sums[clusters[j]] += distances[i, j];
            }
            var next = double.PositiveInfinity;
            for (var c = 0; c < sizes.Length; c++)
            {
                if (c != own && sizes[c] > 0)
                    next = Math.Min(next, sums[c] / sizes[c]);
            }
            var within = sums[own] / (sizes[own] - 1);
            if (double.IsFinite(next) && Math.Max(within, next) > 0)
                silhouettes[i] = (next - within) / Math.Max(within, next);
        }
        return silhouettes;
    }

    /// <summary>
    /// The adjusted Rand index of two clusterings of the same items (Hubert and Arabie, Journal of Classification 2, 1985): 1 for the
    /// same, 0 for no more alike than by chance.
    /// </summary>
    public static double AdjustedRand(IReadOnlyList<int> one, IReadOnlyList<int> other)
    {
        static double Pairs(int n) => n * (n - 1.0) / 2;
        var both = one.Zip(other).GroupBy(x => x).Sum(g => Pairs(g.Count()));
        var (inOne, inOther) = (one.GroupBy(x => x).Sum(g => Pairs(g.Count())), other.GroupBy(x => x).Sum(g => Pairs(g.Count())));
        var all = Pairs(one.Count);
        var expected = all > 0 ? inOne * inOther / all : 0;
        var most = (inOne + inOther) / 2;
        // Two clusterings that both put all in one, or each by itself, are the same.
        return most - expected == 0 ? 1 : (both - expected) / (most - expected);
    }
}
