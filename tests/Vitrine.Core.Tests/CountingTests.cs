using FsCheck.Xunit;
using Vitrine.Core.Counting;
using Vitrine.Core.Mark.Observations;
using Vitrine.Core.Sort.TagSet;
using Vitrine.Core.Sort.Themes;
using Vitrine.Core.Text;
using Vitrine.Core.Weigh.Evidence;
using static Vitrine.Core.Tests.MarksFor;

namespace Vitrine.Core.Tests;

public class AttributionTests
{
    private static readonly SpokenTurn[] Turns =
    [
        new(new TextRange(0, 10), HasSpeaker: true),
        new(new TextRange(12, 30), Person: 4),
        new(new TextRange(32, 40), Person: 7),
        new(new TextRange(42, 50)),
    ];

    [Theory]
    [InlineData(13, 20, 4)]
    [InlineData(33, 35, 7)]
    [InlineData(5, 15, 4)] // begins in the moderator's question, goes on in the answer
    [InlineData(14, 35, 4)] // over two people: the first who speaks
    public void The_person_is_the_participant_of_the_turn(int start, int end, int person) =>
        Assert.Equal(person, Attribution.PersonOf(Words(start, end), Turns, [4, 7]));

    [Theory]
    [InlineData(44, 46, 9)] // a turn without a speaker
    [InlineData(2, 6, null)] // the team, or a name that is matched to nobody
    [InlineData(30, 32, null)] // between two turns
    public void A_turn_without_a_speaker_is_the_only_participants(int start, int end, int? person)
    {
        Assert.Equal(person, Attribution.PersonOf(Words(start, end), Turns, [9]));
        Assert.Null(Attribution.PersonOf(Words(start, end), Turns, [4, 7]));
        Assert.Equal(9, Attribution.PersonOf(Words(start, end), [], [9]));
    }

    [Theory]
    [InlineData(0, 900, null)] // the moderator alone
    [InlineData(900, 1_500, 4)]
    [InlineData(3_000, 3_500, 4)] // until the next turn that has a time
    [InlineData(4_000, 9_000, 7)]
    [InlineData(9_000, 9_500, null)] // after the last has ended
    public void A_time_is_theirs_who_speak_in_it(int begin, int end, int? person)
    {
        SpokenTurn[] timed =
        [
            Turns[0] with
            {
                BeginMs = 0,
                EndMs = 1_000,
            },
            Turns[1] with
            {
                BeginMs = 1_000,
            },
            new(new TextRange(31, 32), Person: 9),
            Turns[2] with
            {
                BeginMs = 4_000,
                EndMs = 9_000,
            },
        ];
        Assert.Equal(person, Attribution.PersonOf(new TimeAnchor(begin, end), timed, [4, 7]));
        // The team's sound, and sound that no turn covers, is not the only participant's either.
        Assert.Equal(person, Attribution.PersonOf(new TimeAnchor(begin, end), timed, [4]));
    }

    [Fact]
    public void A_picture_is_the_only_participants_or_nobodys()
    {
        var region = new RegionAnchor(0, 0, 10, 10, 1_500);
        Assert.Equal((9, null), (Attribution.PersonOf(region, Turns, [9]), Attribution.PersonOf(region, Turns, [4, 7])));
    }

    private static TextAnchor Words(int start, int end) => new(new TextRange(start, end));
}

public class TallyTests
{
    // Two families: 0 with children 1 and 2, and 3 alone. Person 0 is the talkative one.
    private static readonly StudyMarks Marks = Study(
        [-1, 0, 0, -1],
        3,
        4,
        new(0, 0, 0, 5, 1),
        new(0, 0, 6, 9, 1),
        new(0, 0, 10, 12, 1, 2),
        new(1, 1, 0, 4, 2),
        new(2, null, 0, 4, 1),
        new(2, 3, 5, 9, 3),
        new(2, 3, 12, 14)
    );

    [Fact]
    public void A_triple_counts_observations_sources_and_people()
    {
        Assert.Equal(new Triple(4, 2, 1, 1), Tally.Of(Marks, Tally.ByTag(Marks, rollUp: false)[1]));
        Assert.Equal(new Triple(0, 0, 0, 0), Tally.Of(Marks, []));
    }

    [Fact]
    public void A_parent_counts_distinct_observations_of_all_below_it()
    {
        Assert.Equal(new Triple(0, 0, 0, 0), Tally.Of(Marks, Tally.ByTag(Marks, rollUp: false)[0]));
        Assert.Equal(new Triple(5, 3, 2, 1), Tally.Of(Marks, Tally.ByTag(Marks, rollUp: true)[0]));
    }

    // Common practice, no source: six passages of a wide tag, split among four narrow ones as 3, 1, 1, 1, leave the wide tag's own count
    // 0 and its roll-up 6.
    [Fact]
    public void A_split_tag_kept_as_parent_rolls_up_to_what_it_had()
    {
        var marks = Study(
            [-1, 0, 0, 0, 0],
            1,
            1,
            new(0, 0, 0, 1, 1),
            new(0, 0, 1, 2, 1),
            new(0, 0, 2, 3, 1),
            new(0, 0, 3, 4, 2),
            new(0, 0, 4, 5, 3),
            new(0, 0, 5, 6, 4)
        );
        Assert.Empty(Tally.ByTag(marks, rollUp: false)[0]);
        Assert.Equal(6, Tally.ByTag(marks, rollUp: true)[0].Length);
        Assert.Equal([3, 1, 1, 1], Enumerable.Range(1, 4).Select(t => Tally.ByTag(marks, rollUp: true)[t].Length));
    }

    [Property]
    public bool A_triple_never_counts_a_person_or_a_source_twice(int seed)
    {
        var marks = MarksFor.Random(seed);
        var all = Enumerable.Range(0, marks.Count).ToList();
        var triple = Tally.Of(marks, all.Concat(all));
        return triple.Observations == marks.Count
            && triple.People == marks.PersonOf.OfType<int>().Distinct().Count()
            && triple.Sources == marks.SourceOf.Distinct().Count()
            && triple.Unattributed == marks.PersonOf.Count(p => p is null);
    }

    /// <summary>Common practice, no source: leaving a list changes no count; a tag in two lists counts in both.</summary>
    [Property]
    public bool Bundles_change_no_count_of_a_tag(int seed)
    {
        var marks = MarksFor.Random(seed);
        var tags = Enumerable.Range(0, marks.Tags.Count).ToList();
        var without = new StudyMarks
        {
            SourceOf = marks.SourceOf,
            PersonOf = marks.PersonOf,
            AnchorOf = marks.AnchorOf,
            TagStarts = marks.TagStarts,
            TagOf = marks.TagOf,
            Tags = new TagTree([.. tags.Select(marks.Tags.ParentOf)]),
            SourceCount = marks.SourceCount,
            PersonCount = marks.PersonCount,
        };
        return tags.Where(t => !tags.Exists(other => other != t && marks.Tags.BundlesOf(other).Contains(t)))
            .All(t => Tally.ByTag(marks, rollUp: true)[t].SequenceEqual(Tally.ByTag(without, rollUp: true)[t]));
    }

    [Property]
    public bool Roll_up_is_the_distinct_union_of_a_tag_and_all_below_it_or_of_a_bundle_and_all_in_it(int seed)
    {
        var marks = MarksFor.Random(seed);
        var own = Tally.ByTag(marks, rollUp: false);
        var rolled = Tally.ByTag(marks, rollUp: true);
        return Enumerable
            .Range(0, marks.Tags.Count)
            .All(tag =>
                rolled[tag]
                    .SequenceEqual(
                        Enumerable
                            .Range(0, marks.Tags.Count)
                            .Where(t => marks.Tags.CountsFor(t).Contains(tag))
                            .SelectMany(t => own[t])
                            .Distinct()
                            .Order()
                    )
            );
    }

    [Property]
    public bool The_strip_adds_up_to_the_attributed_observations(int seed)
    {
        var marks = MarksFor.Random(seed);
        var all = Enumerable.Range(0, marks.Count).ToList();
        return Tally.PerPerson(marks, all).Sum() == marks.Count - Tally.Of(marks, all).Unattributed;
    }
}

public class CrossTabTests
{
    [Property]
    public bool Cells_of_a_row_add_up_to_its_total(int seed, bool byPerson)
    {
        var marks = MarksFor.Random(seed);
        var table = CrossTab.Of(marks, byPerson, rollUp: true);
        return Enumerable
            .Range(0, marks.Tags.Count)
            .All(tag =>
                table.Cells[tag].Sum(c => c.Observations) == table.Rows[tag].Observations - (byPerson ? table.Rows[tag].Unattributed : 0)
            );
    }

    [Property]
    public bool A_cell_holds_one_source_or_one_person(int seed)
    {
        var marks = MarksFor.Random(seed);
        return CrossTab.Of(marks, byPerson: false, rollUp: false).Cells.SelectMany(r => r).All(c => c.Sources <= 1)
            && CrossTab.Of(marks, byPerson: true, rollUp: false).Cells.SelectMany(r => r).All(c => c.People <= 1 && c.Unattributed == 0);
    }
}

public class BreadthTests
{
    private static readonly StudyMarks Marks = Study(
        [-1],
        3,
        5,
        new(0, 0, 0, 1, 0),
        new(0, 0, 2, 3, 0),
        new(1, 2, 0, 1, 0),
        new(2, 3, 0, 1, 0)
    );

    [Fact]
    public void The_denominator_is_everyone_in_scope_who_was_asked()
    {
        var breadth = Breadth.Of(Marks, [0, 1, 2], [true, true, true, true, false], new HashSet<int> { 1 });
        Assert.Equal(2, breadth.Triple.People);
        Assert.Equal(3, breadth.OutOf);
        Assert.Equal([true, false, true, true, false], breadth.Asked);
        Assert.Equal([2, 0, 1, 0, 0], breadth.Strip);
    }

    [Fact]
    public void Someone_who_spoke_after_all_counts_as_asked()
    {
        var breadth = Breadth.Of(Marks, [0], [false, false, false, false, false], new HashSet<int> { 0 }, contradicting: [3]);
        Assert.Equal([true, false, false, true, false], breadth.Asked);
        Assert.Equal(1, breadth.Against[3]);
    }

    [Fact]
    public void With_nobody_in_scope_there_is_no_interval() =>
        Assert.Null(Breadth.Of(Marks, [], [false, false, false, false, false]).Interval);

    [Property]
    public bool People_are_never_more_than_those_asked(int seed)
    {
        var marks = MarksFor.Random(seed);
        var random = new Random(seed);
        var scope = Enumerable.Range(0, marks.PersonCount).Select(_ => random.Next(2) == 0).ToArray();
        var breadth = Breadth.Of(
            marks,
            [.. Enumerable.Range(0, marks.Count).Where(_ => random.Next(2) == 0)],
            scope,
            new HashSet<int> { 0 }
        );
        return breadth.Triple.People <= breadth.OutOf && breadth.OutOf <= marks.PersonCount;
    }
}

public class ThemeContentsTests
{
    private static readonly StudyMarks Marks = Study(
        [-1, 0, -1],
        1,
        1,
        new(0, 0, 0, 1, 1),
        new(0, 0, 1, 2, 2),
        new(0, 0, 2, 3),
        new(0, 0, 3, 4, 0)
    );

    [Fact]
    public void A_whole_tag_brings_its_observations_and_those_of_tags_under_it() =>
        Assert.Equal([0, 2, 3], ThemeContents.Of(Marks, [new(-1, [0], Laid(2))])[0].Select(p => p.Observation));

    [Fact]
    public void A_theme_holds_what_its_sub_themes_hold_once()
    {
        var contents = ThemeContents.Of(Marks, [new(-1, [], Laid(1)), new(0, [2], Laid(1)), new(1, [], Laid(3))]);
        Assert.Equal(
            [
                [1, 3],
                [1, 3],
                [3],
            ],
            contents.Select(c => c.Select(p => p.Observation))
        );
    }

    [Theory]
    // Given in the theme itself, in a sub-theme (or two), by its tag alone.
    [InlineData(Stance.Context, Stance.Context, Stance.Contradicts, null)]
    [InlineData(Stance.Contradicts, null, Stance.Contradicts, Stance.Supports)]
    [InlineData(Stance.Context, null, Stance.Context, null)]
    [InlineData(Stance.Supports, null, Stance.Context, Stance.Supports)]
    [InlineData(Stance.Supports, null, null, null)]
    public void The_stance_given_nearest_holds_and_of_several_the_one_that_contradicts(
        Stance expected,
        Stance? own,
        Stance? below,
        Stance? beside
    )
    {
        Dictionary<int, Stance> With(Stance? stance) => stance is { } given ? new() { [0] = given } : [];
        var contents = ThemeContents.Of(Marks, [new(-1, [0], With(own)), new(0, [], With(below)), new(0, [], With(beside))]);
        Assert.Equal(expected, contents[0].Single(p => p.Observation == 0).Stance);
    }

    private static Dictionary<int, Stance> Laid(params int[] observations) => observations.ToDictionary(o => o, _ => Stance.Supports);
}
