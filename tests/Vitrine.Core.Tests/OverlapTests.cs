using FsCheck.Xunit;
using Vitrine.Core.Counting;
using static Vitrine.Core.Tests.MarksFor;

namespace Vitrine.Core.Tests;

public class OverlapTests
{
    // Tag 0 covers 0-10 and 20-30 of source 0; tag 1 covers 5-15 there and 0-10 of source 1; tag 2 stands with tag 0 on the second stretch.
    private static readonly StudyMarks Marks = Study([-1, -1, -1], 2, 1, new(0, 0, 0, 10, 0), new(0, 0, 5, 15, 1), new(0, 0, 20, 30, 0, 2), new(1, 0, 0, 10, 1));

    [Fact]
    public void On_the_same_observation()
    {
        var table = OverlapTable.Of(Marks, OverlapKind.SameObservation);
        // n1 = 2, n2 = 1, n12 = 1: Jaccard 1/(2+1-1), lift 1*4/(2*1), both worked by hand.
        Assert.Equal(new Overlap(1, 0.5, 2), table[0, 2]);
        Assert.Equal(0, table[0, 1].Pairs);
        Assert.Equal([2], OverlapTable.Behind(Marks, OverlapKind.SameObservation, 0, 2));
    }

    [Fact]
    public void Touching_counts_shared_units_of_all_covered()
    {
        var overlap = OverlapTable.Of(Marks, OverlapKind.Touching)[0, 1];
        // Shared 5 units; covered 20 and 20, so 35 in all; 35 covered units in the study: lift 5*35/(20*20). Worked by hand.
        Assert.Equal(1, overlap.Pairs);
        Assert.Equal(5 / 35.0, overlap.Jaccard, 12);
        Assert.Equal(5 * 35 / 400.0, overlap.Lift, 12);
        Assert.Equal([0, 1], OverlapTable.Behind(Marks, OverlapKind.Touching, 0, 1));
    }

    [Fact]
    public void Stretches_that_only_meet_do_not_touch()
    {
        var marks = Study([-1, -1], 1, 1, new(0, 0, 0, 5, 0), new(0, 0, 5, 9, 1));
        Assert.Equal(0, OverlapTable.Of(marks, OverlapKind.Touching)[0, 1].Pairs);
        Assert.Empty(OverlapTable.Behind(marks, OverlapKind.Touching, 0, 1));
    }

    [Fact]
    public void Words_covered_twice_by_one_tag_count_once()
    {
        var marks = Study([-1], 1, 1, new(0, 0, 0, 10, 0), new(0, 0, 5, 12, 0), new(0, 0, 12, 14, 0));
        Assert.Equal(14, Coverage.Of(marks, [0, 1, 2]).Units);
    }

    [Property]
    public bool Overlap_is_symmetric_and_its_coefficient_stays_within_0_and_1(int seed, bool touching)
    {
        var marks = MarksFor.Random(seed);
        var table = OverlapTable.Of(marks, touching ? OverlapKind.Touching : OverlapKind.SameObservation);
        return Pairs(marks).All(p => table[p.A, p.B] == table[p.B, p.A] && table[p.A, p.B] is { Jaccard: >= 0 and <= 1, Lift: >= 0 });
    }

    [Property]
    public bool Pairs_that_touch_are_those_that_a_comparison_of_all_with_all_finds(int seed)
    {
        var marks = MarksFor.Random(seed);
        var byTag = Tally.ByTag(marks, rollUp: false);
        var table = OverlapTable.Of(marks, OverlapKind.Touching);
        return Pairs(marks).All(p =>
        {
            var touching = from x in byTag[p.A] from y in byTag[p.B] where marks.SourceOf[x] == marks.SourceOf[y] && marks.RangeOf[x].Touches(marks.RangeOf[y]) select (x, y);
            var behind = touching.SelectMany(t => new[] { t.x, t.y }).Distinct().Order();
            return table[p.A, p.B].Pairs == touching.Count() && OverlapTable.Behind(marks, OverlapKind.Touching, p.A, p.B).SequenceEqual(behind);
        });
    }

    [Property]
    public bool Shared_units_are_those_of_a_unit_by_unit_count(int seed)
    {
        var marks = MarksFor.Random(seed);
        var byTag = Tally.ByTag(marks, rollUp: false);
        HashSet<(int, int)> Units(int tag) => [.. byTag[tag].SelectMany(o => Enumerable.Range(marks.RangeOf[o].Start, marks.RangeOf[o].Length).Select(u => (marks.SourceOf[o], u)))];
        return Pairs(marks).All(p => Coverage.Of(marks, byTag[p.A]).SharedWith(Coverage.Of(marks, byTag[p.B])) == Units(p.A).Intersect(Units(p.B)).Count());
    }

    private static IEnumerable<(int A, int B)> Pairs(StudyMarks marks) =>
        from a in Enumerable.Range(0, marks.Tags.Count) from b in Enumerable.Range(a + 1, marks.Tags.Count - a - 1) select (a, b);
}
