using Vitrine.Core.Statistics;

namespace Vitrine.Core.Sort.Suggestions;

/// <summary>Things in groups.</summary>
/// <param name="Groups">Things by their places, the largest group first; in each those that fit best first.</param>
/// <param name="Unsure">What is as near to another group as to its own, and is forced into none.</param>
/// <param name="Alone">What belongs nowhere: it has nothing in common with others, or forms a group by itself.</param>
/// <param name="Refused">What would be with things that somebody has said it does not belong with: with more than half of them.</param>
public sealed record SuggestedGroups(
    IReadOnlyList<IReadOnlyList<int>> Groups,
    IReadOnlyList<int> Unsure,
    IReadOnlyList<int> Alone,
    IReadOnlyList<int> Refused
);

/// <summary>Groups things by how alike they are; the same things give the same groups.</summary>
public static class Grouping
{
    /// <summary>
    /// Groups by average linkage. How many groups there are is asked for; or it is the number, between the two bounds, whose mean
    /// silhouette is the largest (Rousseeuw 1987), the smaller of two equal ones.
    /// </summary>
    /// <param name="items">What is grouped.</param>
    /// <param name="likeness">How alike these are.</param>
    /// <param name="fewest">At least so many groups.</param>
    /// <param name="most">At most so many; the same for exactly so many.</param>
    /// <param name="apart">Pairs of things that somebody has said do not belong together, either way round.</param>
    public static SuggestedGroups Of(
        IReadOnlyList<LikenessItem> items,
        Likeness likeness,
        int fewest,
        int most,
        IReadOnlySet<(int, int)> apart
    )
    {
        var alone = Enumerable.Range(0, items.Count).Where(likeness.IsAlone).ToList();
        var placed = Enumerable.Range(0, items.Count).Except(alone).ToList();
        if (placed.Count < 2)
            return new SuggestedGroups([], [], [.. Enumerable.Range(0, items.Count)], []);
        var distances = new double[placed.Count, placed.Count];
        for (var a = 0; a < placed.Count; a++)
        {
            for (var b = 0; b < placed.Count; b++)
                distances[a, b] = likeness.Distances[placed[a], placed[b]];
        }
        var tree = AverageLinkage.Of(distances);
        var cuts = Enumerable
            .Range(fewest, most - fewest + 1)
            .Select(k => Math.Clamp(k, 1, placed.Count))
            .Distinct()
            .Select(k => tree.Cut(k))
            .Select(cut => (Cut: cut, Silhouettes: Clustering.Silhouettes(distances, cut)))
            .ToList();
        var (best, silhouettes) = InOrder.Largest(cuts, c => c.Silhouettes.Average());
        var groups = new List<IReadOnlyList<int>>();
        var (unsure, refused) = (new List<int>(), new List<int>());
        foreach (var group in Enumerable.Range(0, placed.Count).GroupBy(i => best[i]).OrderByDescending(g => g.Count()))
        {
            if (group.Count() == 1)
            {
                alone.Add(placed[group.First()]);
                continue;
            }
            var sure = group.Where(i => silhouettes[i] > 0 || best.Distinct().Count() == 1).ToList();
            unsure.AddRange(group.Except(sure).Select(i => placed[i]));
            var fitting = InOrder.Descending(sure, i => silhouettes[i]).Select(i => placed[i]).ToList();
            var not = fitting.Where(i => 2 * fitting.Count(o => IsApart(i, o)) > fitting.Count - 1).ToList();
            refused.AddRange(not);
            fitting.RemoveAll(not.Contains);
            if (fitting.Count > 0)
                groups.Add(fitting);
        }
        return new SuggestedGroups(groups, [.. unsure.Order()], [.. alone.Order()], [.. refused.Order()]);

        bool IsApart(int one, int other) => apart.Contains((one, other)) || apart.Contains((other, one));
    }
}
