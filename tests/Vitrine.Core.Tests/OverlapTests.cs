using FsCheck.Xunit;
using Vitrine.Core.Counting;
using Vitrine.Core.Mark.Observations;
using static Vitrine.Core.Tests.MarksFor;

namespace Vitrine.Core.Tests;

public class OverlapTests
{
    // Tag 0 covers 0-10 and 20-30 of source 0; tag 1 covers 5-15 there and 0-10 of source 1; tag 2 stands with tag 0 on the second stretch.
    private static readonly StudyMarks Marks = Study(
        [-1, -1, -1],
        2,
        1,
        new(0, 0, 0, 10, 0),
        new(0, 0, 5, 15, 1),
        new(0, 0, 20, 30, 0, 2),
        new(1, 0, 0, 10, 1)
    );

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
    public void Two_that_touch_and_both_carry_both_tags_are_one_pair_besides_each_alone()
    {
        var marks = Study([-1, -1], 1, 1, new(0, 0, 0, 10, 0, 1), new(0, 0, 5, 15, 0, 1));
        Assert.Equal(3, OverlapTable.Of(marks, OverlapKind.Touching)[0, 1].Pairs);
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
        Assert.Equal(new Covered(14, 0, 0), Coverage.Of(marks, [0, 1, 2]).Units);
    }

    /// <summary>Of tags that stand in no family, it is a row of the table.</summary>
    [Property]
    public void What_stands_beside_a_tag_is_its_row_of_the_table(int seed)
    {
        var marks = MarksFor.Random(seed);
        var table = OverlapTable.Of(marks, OverlapKind.SameObservation);
        for (var tag = 0; tag < marks.Tags.Count; tag++)
        {
            var beside = OverlapTable.With(marks, tag, Tally.ByTag(marks, rollUp: false)[tag]).ToDictionary(x => x.Tag, x => x.Both);
            for (var other = 0; other < marks.Tags.Count; other++)
            {
                var kin = marks.Tags.CountsFor(other).Contains(tag) || marks.Tags.OneHoldsOther(other, tag);
                Assert.Equal(kin ? 0 : table[tag, other].Pairs, beside.GetValueOrDefault(other));
            }
        }
    }

    [Property]
    public void Parts_of_a_selection_are_counted_as_selections(int seed)
    {
        var marks = MarksFor.Random(seed);
        var all = Enumerable.Range(0, marks.Count).ToList();
        foreach (var (source, triple) in Tally.Parts(marks, all, o => (int?)marks.SourceOf[o]))
            Assert.Equal(Tally.Of(marks, all.Where(o => marks.SourceOf[o] == source)), triple);
        Assert.Equal(
            all.Count(o => marks.PersonOf[o] is not null),
            Tally.Parts(marks, all, o => marks.PersonOf[o]).Values.Sum(t => t.Observations)
        );
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
        return Pairs(marks)
            .All(p =>
            {
                var touching =
                    from x in byTag[p.A]
                    from y in byTag[p.B]
                    where marks.SourceOf[x] == marks.SourceOf[y] && marks.AnchorOf[x].Touches(marks.AnchorOf[y])
                    select (x: Math.Min(x, y), y: Math.Max(x, y));
                var behind = touching.SelectMany(t => new[] { t.x, t.y }).Distinct().Order();
                return table[p.A, p.B].Pairs == touching.Distinct().Count()
                    && OverlapTable.Behind(marks, OverlapKind.Touching, p.A, p.B).SequenceEqual(behind);
            });
    }

    [Property]
    public bool Shared_units_are_those_of_a_unit_by_unit_count(int seed)
    {
        var marks = MarksFor.Random(seed);
        var byTag = Tally.ByTag(marks, rollUp: false);
        var units = byTag.Select(list => list.SelectMany(o => UnitsOf(marks.SourceOf[o], marks.AnchorOf[o])).ToHashSet()).ToList();
        return Pairs(marks)
            .All(p =>
            {
                var shared = units[p.A].Intersect(units[p.B]).CountBy(u => u.Kind).ToDictionary();
                return Coverage.Of(marks, byTag[p.A]).SharedWith(Coverage.Of(marks, byTag[p.B]))
                    == new Covered(
                        shared.GetValueOrDefault(AnchorKind.Text),
                        shared.GetValueOrDefault(AnchorKind.Time),
                        shared.GetValueOrDefault(AnchorKind.Region)
                    );
            });
    }

    private static IEnumerable<(AnchorKind Kind, int Source, int A, int B, int? Moment)> UnitsOf(int source, Anchor anchor) =>
        anchor switch
        {
            TextAnchor text => Enumerable.Range(text.Start, text.Range.Length).Select(u => (anchor.Kind, source, u, 0, (int?)null)),
            TimeAnchor time => Enumerable
                .Range(time.BeginMs, time.EndMs - time.BeginMs)
                .Select(u => (anchor.Kind, source, u, 0, (int?)null)),
            RegionAnchor r => Enumerable
                .Range(r.X, r.Width)
                .SelectMany(x => Enumerable.Range(r.Y, r.Height).Select(y => (anchor.Kind, source, x, y, r.AtMs))),
            _ => throw new ArgumentOutOfRangeException(nameof(anchor)),
        };

    [Fact]
    public void Words_and_times_are_added_as_parts_of_what_is_covered_of_each()
    {
        // The example of OverlapTable: tag 0 on 10 of 20 characters and 500 of 1,000 ms, tag 1 on the same time, tag 2 on the rest.
        var marks = Study(
            [-1, -1, -1],
            1,
            1,
            new(0, 0, 0, 10, 0),
            new(0, 0, new TimeAnchor(0, 500), 0),
            new(0, 0, new TimeAnchor(0, 500), 1),
            new(0, 0, 10, 20, 2),
            new(0, 0, new TimeAnchor(500, 1000), 2)
        );
        var overlap = OverlapTable.Of(marks, OverlapKind.Touching)[0, 1];
        Assert.Equal((1, 0.5, 2.0), (overlap.Pairs, overlap.Jaccard, overlap.Lift));
    }

    [Fact]
    public void Regions_of_two_moments_or_beside_each_other_do_not_touch()
    {
        var here = new RegionAnchor(0, 0, 5_000, 5_000, 40);
        Assert.True(here.Touches(new RegionAnchor(4_999, 4_999, 100, 100, 40)));
        Assert.False(here.Touches(new RegionAnchor(5_000, 0, 100, 100, 40)));
        Assert.False(here.Touches(new RegionAnchor(0, 0, 100, 100, null)));
        Assert.False(here.Touches(new TimeAnchor(0, 100)));
    }

    private static IEnumerable<(int A, int B)> Pairs(StudyMarks marks) =>
        from a in Enumerable.Range(0, marks.Tags.Count)
        from b in Enumerable.Range(a + 1, marks.Tags.Count - a - 1)
        where !marks.Tags.OneHoldsOther(a, b)
        select (a, b);
}
