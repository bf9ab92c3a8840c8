using System.Globalization;
using FsCheck.Xunit;
using Vitrine.Core.Statistics;
using Vitrine.Core.Text;

namespace Vitrine.Core.Tests;

/// <summary>
/// Average linkage and its cuts against scipy, silhouettes, the adjusted Rand index and cosines of TF-IDF against scikit-learn
/// (<c>tests/references/clustering</c>, with the script that wrote them).
/// </summary>
public class ClusteringTests
{
    private static IEnumerable<string[]> Rows(string name) =>
        File.ReadAllLines(Path.Combine(AppContext.BaseDirectory, "references", "clustering", name))
            .Where(l => !l.StartsWith('#'))
            .Select(l => l.Split(','));

    private static double Number(string text) => double.Parse(text, CultureInfo.InvariantCulture);

    private static int[] Labels(string text) => [.. text.Split(' ').Select(n => int.Parse(n, CultureInfo.InvariantCulture))];

    private static double[,] Distances(IReadOnlyList<double[]> points)
    {
        var distances = new double[points.Count, points.Count];
        for (var i = 0; i < points.Count; i++)
        {
            for (var j = 0; j < points.Count; j++)
                distances[i, j] = Math.Sqrt(points[i].Zip(points[j], (a, b) => (a - b) * (a - b)).Sum());
        }
        return distances;
    }

    private static double[,] Reference() => Distances([.. Rows("points.csv").Select(r => r.Select(Number).ToArray())]);

    [Fact]
    public void Average_linkage_merges_as_scipy_does()
    {
        var tree = AverageLinkage.Of(Reference());
        var expected = Rows("merges.csv").ToList();
        Assert.Equal(expected.Count, tree.Merges.Count);
        foreach (var (row, merge) in expected.Zip(tree.Merges))
        {
            Assert.Equal((row[0], row[1], row[3]), ($"{merge.One}", $"{merge.Other}", $"{merge.Size}"));
            Assert.Equal(Number(row[2]), merge.Height, 1e-9);
        }
    }

    [Fact]
    public void Cuts_silhouettes_and_adjusted_Rand_indices_are_those_of_scipy_and_scikit_learn()
    {
        var distances = Reference();
        var tree = AverageLinkage.Of(distances);
        var rows = Rows("cuts.csv").ToList();
        var random = Labels(rows[0][1]);
        foreach (var row in rows.Skip(1).Where(r => r[1].Length > 0))
        {
            var cut = tree.Cut(int.Parse(row[0], CultureInfo.InvariantCulture));
            Assert.Equal(1, Clustering.AdjustedRand(Labels(row[1]), cut), 1e-12);
            Assert.Equal(Number(row[2]), Clustering.AdjustedRand(random, cut), 1e-9);
            var silhouettes = Clustering.Silhouettes(distances, cut);
            foreach (var (expected, found) in row[3].Split(' ').Zip(silhouettes))
                Assert.Equal(Number(expected), found, 1e-8);
        }
        Assert.Equal(Number(rows[^1][2]), Clustering.AdjustedRand(tree.Cut(2), tree.Cut(5)), 1e-9);
    }

    [Fact]
    public void Texts_are_as_alike_as_for_scikit_learn()
    {
        var rows = Rows("likeness.csv").ToList();
        var vectors = new TermVectors([.. rows.Select(r => r[0].Split(' ', StringSplitOptions.RemoveEmptyEntries))]);
        for (var i = 0; i < rows.Count; i++)
        {
            foreach (var (expected, j) in rows[i][1].Split(' ').Select((x, j) => (Number(x), j)))
                Assert.Equal(expected, vectors.Likeness(i, j), 1e-11);
        }
    }

    [Fact]
    public void The_worked_example_of_Yeung_and_Ruzzo()
    {
        // The contingency table of Yeung and Ruzzo, Details of the adjusted Rand index (2001), section 3: 0.313 (value from memory).
        int[] classes = [0, 0, 1, 1, 1, 1, 2, 2, 2, 2];
        int[] clusters = [0, 1, 0, 1, 1, 2, 2, 2, 2, 2];
        Assert.Equal(0.313, Clustering.AdjustedRand(classes, clusters), 0.0005);
    }

    [Property(MaxTest = 60)]
    public bool A_tree_has_each_item_once_grows_in_height_and_cuts_into_as_many_as_are_asked_for(int seed, byte size)
    {
        var random = new Random(seed);
        var n = (size % 25) + 1;
        // Whole numbers: many are equally near.
        double[][] points = [.. Enumerable.Range(0, n).Select(_ => new double[] { random.Next(4), random.Next(4) })];
        var tree = AverageLinkage.Of(Distances(points));
        var used = tree.Merges.SelectMany(m => new[] { m.One, m.Other }).ToList();
        return tree.Merges.Count == n - 1
            && used.Distinct().Count() == used.Count
            && tree.Merges.Zip(tree.Merges.Skip(1)).All(p => p.First.Height <= p.Second.Height + 1e-12)
            && Enumerable.Range(1, n).All(k => tree.Cut(k).Distinct().Count() == k);
    }

    [Fact]
    public void One_item_or_none_is_no_error()
    {
        Assert.Empty(AverageLinkage.Of(new double[0, 0]).Cut(3));
        Assert.Equal([0], AverageLinkage.Of(new double[1, 1]).Cut(1));
        Assert.Equal([0, 0], Clustering.Silhouettes(new double[2, 2], [0, 0]));
        Assert.Equal(1, Clustering.AdjustedRand([0], [0]));
    }
}
