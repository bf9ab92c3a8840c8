using Vitrine.Core.Sort.WhoNext;

namespace Vitrine.Core.Tests;

public sealed class WhoNextTests
{
    private static string Said(ThinGroup group) =>
        $"{string.Join(" and ", group.Values.Select(v => v.Value))}: {group.Heard} of {group.People}"
        + (group.Expected is { } expected ? FormattableString.Invariant($", expected {expected:0.00}") : "");

    [Fact]
    public void Groups_of_whom_nobody_or_one_was_heard_come_first_then_combinations_that_are_missed()
    {
        // home, boards; who was heard. Five of seven: three of Tarra, two of Skelda; three on foot, two with a pram.
        string?[][] people =
        [
            ["Tarra", "on foot"],
            ["Tarra", "on foot"],
            ["Tarra", "on foot"],
            ["Skelda", "with a pram"],
            ["Skelda", "with a pram"],
            ["Holm", "with a chair"],
            ["Holm", null],
        ];
        bool[] heard = [true, true, true, true, true, false, false];
        Assert.Equal(
            [
                "Holm: 0 of 2",
                "with a chair: 0 of 1",
                // 3 x 2 / 5, both ways.
                "Skelda and on foot: 0 of 0, expected 1.20",
                "Tarra and with a pram: 0 of 0, expected 1.20",
            ],
            ThinGroups.Of(people, heard).Select(Said)
        );
    }

    [Fact]
    public void One_voice_is_thin_too_and_a_combination_that_was_hardly_to_be_expected_is_not_missed()
    {
        string?[][] people =
        [
            ["a", "x"],
            ["a", "x"],
            ["b", "y"],
            ["c", "y"],
            ["d", "y"],
            ["e", "y"],
            ["f", "y"],
            ["g", "x"],
        ];
        // Of a, two; of y five of eight: 2 x 5 / 8 = 1.25 expected. Of a and x there are some.
        Assert.Equal(
            ["b: 1 of 1", "c: 1 of 1", "d: 1 of 1", "e: 1 of 1", "f: 1 of 1", "g: 1 of 1", "a and y: 0 of 0, expected 1.25"],
            ThinGroups.Of(people, [.. people.Select(_ => true)]).Select(Said)
        );
        Assert.DoesNotContain(
            ThinGroups.Of(people, [true, true, true, true, false, false, false, false]),
            g => g.Values.Count > 1 && g.Expected < 1
        );
        Assert.Empty(ThinGroups.Of([], []));
        Assert.All(ThinGroups.Of(people, new bool[people.Length]), g => Assert.Equal(0, g.Heard));
    }

    private static TagHeard[] Session(params (int Tag, int? Person)[] heard) => [.. heard.Select(h => new TagHeard(h.Tag, h.Person))];

    [Fact]
    public void A_session_adds_tags_that_none_before_it_had_and_voices_under_those_that_were_there()
    {
        var added = NewInformation.Of([
            Session((1, 1), (2, 1), (2, 1)),
            // Somebody else under 1, nobody known under 2, and a new tag, whose voice is not counted twice.
            Session((1, 2), (2, null), (3, 2)),
            // The same person again is no new voice.
            Session((1, 2), (3, 1), (3, 1)),
            Session(),
        ]);
        Assert.Equal(["2 12 0", "3 3 1", "2  1", "0  0"], added.Select(s => $"{s.Tags} {string.Concat(s.NewTags)} {s.NewVoices}"));
    }

    [Fact]
    public void The_last_run_is_a_share_of_the_base()
    {
        // Worked by hand: 10, 6, 3 and 1 new tags in the base of four, 2, then 1 and 0 in the run of two: 1 of 20, 5 %.
        var next = 0;
        IReadOnlyList<TagHeard> With(int many) => [.. Enumerable.Range(0, many).Select(_ => new TagHeard(next++, 1))];
        var sessions = new[] { 10, 6, 3, 1, 2, 1, 0 }.Select(With).ToList();
        var run = NewInformation.RunOf(NewInformation.Of(sessions))!;
        Assert.Equal((4, 20, 2, 1, 0.05), (run.Base, run.BaseTags, run.Run, run.NewTags, run.Share));
        Assert.Null(NewInformation.RunOf(NewInformation.Of(sessions.Take(5).ToList())));
        Assert.Null(
            NewInformation.RunOf(
                NewInformation.Of([
                    [],
                    [],
                    [],
                    [],
                    [],
                    [],
                ])
            )
        );
    }
}
