namespace Vitrine.Core.Statistics;

/// <summary>Two clusters that become one.</summary>
/// <param name="One">A cluster: below the number of items an item, above it the merge of that place plus the number of items.</param>
/// <param name="Other">The other; its number is the larger.</param>
/// <param name="Height">The mean distance between an item of the one and an item of the other.</param>
/// <param name="Size">How many items are in it.</param>
public readonly record struct ClusterMerge(int One, int Other, double Height, int Size);

/// <summary>
/// Agglomerative clustering by average linkage (UPGMA; Sokal and Michener, University of Kansas Science Bulletin 38, 1958), by chains of
/// nearest neighbours (Murtagh, The Computer Journal 26, 1983): as many steps as there are pairs of items. Of equally near ones the
/// first counts, so that the same distances give the same tree.
/// </summary>
public sealed class AverageLinkage
{
    private readonly int count;

    private AverageLinkage(int count, IReadOnlyList<ClusterMerge> merges)
    {
        this.count = count;
        Merges = merges;
    }

    /// <summary>All merges, lowest first: one fewer than there are items.</summary>
    public IReadOnlyList<ClusterMerge> Merges { get; }

    /// <param name="distances">A distance for each pair of items, at least 0: square and symmetric; the diagonal is not read.</param>
    public static AverageLinkage Of(double[,] distances)
    {
        var n = distances.GetLength(0);
        var between = (double[,])distances.Clone();
        var sizes = Enumerable.Repeat(1, n).ToArray();
        var alive = Enumerable.Range(0, n).ToList();
        var chain = new List<int>();
        var found = new List<(int One, int Other, double Height)>();
        while (alive.Count > 1)
        {
            if (chain.Count == 0)
                chain.Add(alive[0]);
            var top = chain[^1];
            var before = chain.Count > 1 ? chain[^2] : -1;
            var nearest = before;
            foreach (var other in alive)
            {
                // The one before in the chain counts as the first of equals, or the chain would never end.
                if (other != top && (nearest < 0 || between[top, other] < between[top, nearest]))
                    nearest = other;
            }
            if (nearest != before)
            {
                chain.Add(nearest);
                continue;
            }
            chain.RemoveRange(chain.Count - 2, 2);
            var (one, gone) = top < before ? (top, before) : (before, top);
            found.Add((one, gone, between[one, gone]));
            alive.Remove(gone);
            foreach (var other in alive.Where(o => o != one))
            {
                var mean = ((sizes[one] * between[one, other]) + (sizes[gone] * between[gone, other])) / (sizes[one] + sizes[gone]);
                between[one, other] = between[other, one] = mean;
            }
            sizes[one] += sizes[gone];
        }
        return new AverageLinkage(n, Named(n, found));
    }

    /// <summary>The items in so many clusters: the number of its cluster for each, from 0 in the order in which they first come.</summary>
    /// <param name="clusters">From 1 to the number of items.</param>
    public int[] Cut(int clusters)
    {
        var parents = new DisjointSets(count);
        foreach (var merge in Merges.Take(Math.Max(count - clusters, 0)))
            parents.Join(ItemOf(merge.One), ItemOf(merge.Other));
        var numbers = new Dictionary<int, int>();
        return
        [
            .. Enumerable
                .Range(0, count)
                .Select(i => numbers.TryGetValue(parents.Root(i), out var n) ? n : numbers[parents.Root(i)] = numbers.Count),
        ];
    }

    private int ItemOf(int cluster)
    {
        while (cluster >= count)
            cluster = Merges[cluster - count].One;
        return cluster;
    }

    // Chains find merges out of order: sorted by height, clusters get the numbers of their merges.
    private static List<ClusterMerge> Named(int n, List<(int One, int Other, double Height)> found)
    {
        var sets = new DisjointSets(n);
        var (names, sizes) = (Enumerable.Range(0, n).ToArray(), Enumerable.Repeat(1, n).ToArray());
        var merges = new List<ClusterMerge>();
        foreach (var (one, other, height) in found.OrderBy(m => m.Height))
        {
            var (a, b) = (sets.Root(one), sets.Root(other));
            var (low, high) = names[a] < names[b] ? (names[a], names[b]) : (names[b], names[a]);
            var size = sizes[a] + sizes[b];
            merges.Add(new ClusterMerge(low, high, height, size));
            var root = sets.Join(a, b);
            (names[root], sizes[root]) = (n + merges.Count - 1, size);
        }
        return merges;
    }

    private sealed class DisjointSets(int count)
    {
        private readonly int[] parents = [.. Enumerable.Range(0, count)];

        public int Root(int item)
        {
            while (parents[item] != item)
                item = parents[item] = parents[parents[item]];
            return item;
        }

        public int Join(int one, int other) => parents[Root(other)] = Root(one);
    }
}
