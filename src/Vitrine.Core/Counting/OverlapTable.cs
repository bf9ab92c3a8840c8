namespace Vitrine.Core.Counting;

/// <summary>What it means that two tags occur together.</summary>
public enum OverlapKind
{
    /// <summary>Both tags are on one observation.</summary>
    SameObservation,

    /// <summary>Observations of the two tags share text, time or area of one source.</summary>
    Touching,
}

/// <summary>One pair of tags.</summary>
/// <param name="Pairs">Same observation: observations that carry both. Touching: pairs of observations (one of each tag) that share text,
/// time or area, each pair once, also where both carry both tags.</param>
/// <param name="Jaccard">0..1. Same observation: n12/(n1+n2-n12). Touching: shared covered units / all covered units (Jaccard
/// 1901).</param>
/// <param name="Lift">Observed over expected under independence, n12*N/(n1*n2), by observations; units for touching, see
/// <see cref="OverlapTable"/>. 0 when nothing overlaps.</param>
public readonly record struct Overlap(int Pairs, double Jaccard, double Lift);

/// <summary>
/// Every tag against every other. Symmetric; the diagonal is left empty.
/// Where observations stand in text, in time and in pictures, characters, milliseconds and area are each taken as a part of all that the
/// study's observations cover in that unit, so that they can be added.
/// </summary>
/// <example>
/// Tag A covers 10 of 20 marked characters and 500 of 1,000 marked milliseconds, tag B the same milliseconds and no words: they share 0.5
/// of 0.5 + 0.5, a Jaccard of one half.
/// </example>
public sealed class OverlapTable
{
    private readonly Overlap[] cells;
    private readonly int size;

    private OverlapTable(int size)
    {
        this.size = size;
        cells = new Overlap[size * size];
    }

    /// <summary>The overlap of two tags.</summary>
    public Overlap this[int a, int b]
    {
        get => cells[a * size + b];
        private set => cells[a * size + b] = cells[b * size + a] = value;
    }

    /// <summary>
    /// Counts all pairs of tags, each tag by its own observations (no roll-up, or a parent would overlap its child everywhere),
    /// each bundle by those of its tags; a bundle and a tag in it are left empty for the same reason.
    /// </summary>
    public static OverlapTable Of(StudyMarks marks, OverlapKind kind) =>
        kind == OverlapKind.SameObservation ? OnSameObservation(marks) : Touching(marks);

    /// <summary>The observations behind one cell, ascending: those with both tags, or all that touch one of the other tag.</summary>
    public static IReadOnlyList<int> Behind(StudyMarks marks, OverlapKind kind, int a, int b)
    {
        var byTag = Tally.ByTag(marks, rollUp: false);
        if (kind == OverlapKind.SameObservation)
            return [.. byTag[a].Intersect(byTag[b]).Order()];
        var (ofA, ofB) = (byTag[a].ToHashSet(), byTag[b].ToHashSet());
        var found = new SortedSet<int>();
        foreach (var (x, y) in TouchingPairs(marks, byTag[a].Union(byTag[b])))
        {
            if (!(ofA.Contains(x) && ofB.Contains(y)) && !(ofA.Contains(y) && ofB.Contains(x)))
                continue;
            found.Add(x);
            found.Add(y);
        }
        return [.. found];
    }

    /// <summary>
    /// What else stands on the observations of a tag, most often first: of each other tag, on how many of them it is as well.
    /// </summary>
    /// <param name="marks">The study.</param>
    /// <param name="tag">The tag or bundle; what stands under it in the tag set, or is in it, is the tag itself.</param>
    /// <param name="observations">Those of the tag.</param>
    public static IReadOnlyList<(int Tag, int Both)> With(StudyMarks marks, int tag, IEnumerable<int> observations)
    {
        var both = new int[marks.Tags.Count];
        foreach (var o in observations)
        {
            foreach (var other in marks.TagsAndBundlesOn(o))
                both[other]++;
        }
        return
        [
            .. both.Select((n, other) => (Tag: other, Both: n))
                .Where(x => x.Both > 0 && !marks.Tags.CountsFor(x.Tag).Contains(tag) && !marks.Tags.OneHoldsOther(x.Tag, tag))
                .OrderByDescending(x => x.Both)
                .ThenBy(x => x.Tag),
        ];
    }

    private static OverlapTable OnSameObservation(StudyMarks marks)
    {
        var n = marks.Tags.Count;
        var both = new int[n, n];
        var own = new int[n];
        for (var o = 0; o < marks.Count; o++)
        {
            var tags = marks.TagsAndBundlesOn(o);
            for (var i = 0; i < tags.Length; i++)
            {
                own[tags[i]]++;
                for (var j = i + 1; j < tags.Length; j++)
                {
                    both[tags[i], tags[j]]++;
                    both[tags[j], tags[i]]++;
                }
            }
        }
        var table = new OverlapTable(n);
        for (var a = 0; a < n; a++)
        {
            for (var b = a + 1; b < n; b++)
            {
                if (both[a, b] == 0 || marks.Tags.OneHoldsOther(a, b))
                    continue;
                var pairs = both[a, b];
                table[a, b] = new Overlap(
                    pairs,
                    pairs / (double)(own[a] + own[b] - pairs),
                    pairs * (double)marks.Count / ((double)own[a] * own[b])
                );
            }
        }
        return table;
    }

    private static OverlapTable Touching(StudyMarks marks)
    {
        var n = marks.Tags.Count;
        var pairs = new int[n * n];
        foreach (var (x, y) in TouchingPairs(marks, Enumerable.Range(0, marks.Count)))
        {
            var ofX = marks.TagsAndBundlesOn(x);
            var ofY = marks.TagsAndBundlesOn(y);
            foreach (var a in ofX)
            {
                foreach (var b in ofY)
                {
                    // Where both carry both tags, they are one pair of observations all the same.
                    if (x != y && a > b && ofX.Contains(b) && ofY.Contains(a))
                        continue;
                    pairs[a * n + b]++;
                    if (x != y)
                        pairs[b * n + a]++;
                }
            }
        }
        var covered = Tally.ByTag(marks, rollUp: false).Select(list => Coverage.Of(marks, list)).ToArray();
        var all = Coverage.Of(marks, Enumerable.Range(0, marks.Count)).Units;
        var kinds = Part(all, all);
        var table = new OverlapTable(n);
        for (var a = 0; a < n; a++)
        {
            for (var b = a + 1; b < n; b++)
            {
                if (pairs[a * n + b] == 0 || marks.Tags.OneHoldsOther(a, b))
                    continue;
                var (ofA, ofB, shared) = (
                    Part(covered[a].Units, all),
                    Part(covered[b].Units, all),
                    Part(covered[a].SharedWith(covered[b]), all)
                );
                table[a, b] = new Overlap(pairs[a * n + b], Math.Min(1, shared / (ofA + ofB - shared)), shared * kinds / (ofA * ofB));
            }
        }
        return table;
    }

    /// <summary>What is covered as a part of all that is, added over the kinds; 0 to 3.</summary>
    private static double Part(Covered units, Covered all) =>
        Of(units.Characters, all.Characters) + Of(units.Milliseconds, all.Milliseconds) + Of(units.Area, all.Area);

    private static double Of(long units, long all) => all == 0 ? 0 : units / (double)all;

    /// <summary>Every pair of the given observations that touches, each once, and each observation with itself.</summary>
    private static IEnumerable<(int X, int Y)> TouchingPairs(StudyMarks marks, IEnumerable<int> observations)
    {
        var open = new List<int>();
        foreach (
            var y in observations.OrderBy(o => marks.SourceOf[o]).ThenBy(o => marks.AnchorOf[o].Kind).ThenBy(o => marks.AnchorOf[o].From)
        )
        {
            open.RemoveAll(x =>
                marks.SourceOf[x] != marks.SourceOf[y]
                || marks.AnchorOf[x].Kind != marks.AnchorOf[y].Kind
                || marks.AnchorOf[x].To <= marks.AnchorOf[y].From
            );
            foreach (var x in open.Where(x => marks.AnchorOf[x].Touches(marks.AnchorOf[y])))
                yield return (x, y);
            yield return (y, y);
            open.Add(y);
        }
    }
}
