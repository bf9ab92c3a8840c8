using Vitrine.Core.Sort.TagSet;

namespace Vitrine.Core.Tests;

public class TagSplitTests
{
    private static readonly HashSet<int> Six = [1, 2, 3, 4, 5, 6];
    private static readonly IReadOnlySet<int>[] FourEmpty =
    [
        new HashSet<int>(),
        new HashSet<int>(),
        new HashSet<int>(),
        new HashSet<int>(),
    ];
    private static readonly HashSet<int> None = [];

    private static Dictionary<int, IReadOnlyList<int>> Sent(params (int Observation, int[] Trays)[] where) =>
        where.ToDictionary(w => w.Observation, w => (IReadOnlyList<int>)w.Trays);

    // Check values from practice (common practice, no source): six passages of a wide tag, split without overlap among four as 3, 1, 1, 1.
    [Theory]
    [InlineData(true, 6, false)]
    [InlineData(false, 0, true)]
    public void Six_split_as_three_and_one_and_one_and_one(bool keep, int withUnder, bool goes)
    {
        var sent = Sent((1, [0]), (2, [0]), (3, [0]), (4, [1]), (5, [2]), (6, [3]));
        var numbers = TagSplit.Numbers(Six, None, FourEmpty, sent, keep, elsewhere: 0);
        Assert.Equal(new BeforeAfter(6, 0), numbers.Own);
        Assert.Equal(new BeforeAfter(6, withUnder), numbers.WithUnder);
        Assert.Equal([new(0, 3), new(0, 1), new(0, 1), new(0, 1)], numbers.Trays);
        Assert.Equal(goes, numbers.Goes);
    }

    [Fact]
    public void What_is_not_sent_stays_and_keeps_the_wide_tag_from_going()
    {
        var numbers = TagSplit.Numbers(Six, None, FourEmpty, Sent((1, [0]), (2, [])), keep: false, elsewhere: 0);
        Assert.Equal(new BeforeAfter(6, 5), numbers.Own);
        Assert.False(numbers.Goes);
        Assert.False(TagSplit.Numbers(new HashSet<int> { 1 }, None, FourEmpty, Sent((1, [0])), keep: false, elsewhere: 3).Goes);
    }

    [Fact]
    public void An_observation_in_several_trays_counts_once_above_them()
    {
        var carried = new IReadOnlySet<int>[]
        {
            new HashSet<int> { 1, 9 },
            new HashSet<int>(),
        };
        var numbers = TagSplit.Numbers(new HashSet<int> { 1, 2 }, new HashSet<int> { 2, 7 }, carried, Sent((1, [0, 1]), (8, [1])), true, 0);
        Assert.Equal([new(2, 2), new(0, 1)], numbers.Trays);
        // Before: 1, 2 and 7; after: 2 on the wide one, 7 under it, 1 and 9 in the trays. 8 does not carry the wide tag: it is not sent.
        Assert.Equal(new BeforeAfter(3, 4), numbers.WithUnder);
    }

    // Manning, Raghavan and Schütze, "Introduction to Information Retrieval" (2008), example 13.1: class 0 is China, 1 is not.
    [Fact]
    public void Hints_follow_the_worked_example_of_naive_bayes()
    {
        var hint = new TrayHint([
            (["Chinese", "Beijing", "Chinese"], 0),
            (["Chinese", "Chinese", "Shanghai"], 0),
            (["Chinese", "Macao"], 0),
            (["Tokyo", "Japan", "Chinese"], 1),
        ]);
        string[] test = ["Chinese", "Chinese", "Chinese", "Tokyo", "Japan"];
        var scores = hint.Scores(test);
        Assert.Equal(3.0 / 4 * Math.Pow(3.0 / 7, 3) / 14 / 14, Math.Exp(scores[0]), 12);
        Assert.Equal(0.0003, Math.Exp(scores[0]), 4);
        Assert.Equal(0.0001, Math.Exp(scores[1]), 4);
        Assert.Equal((0, "Chinese"), (hint.For(test)!.Tray, hint.For(test)!.Because[0]));
    }

    [Fact]
    public void No_hint_without_a_word_that_speaks_for_it()
    {
        var hint = new TrayHint([(TrayHint.TermsOf("The taxi was paid"), 1), (TrayHint.TermsOf("The boat had left"), 2)]);
        Assert.Equal(["taxi", "paid"], TrayHint.TermsOf("The taxi was paid"));
        Assert.Equal(1, hint.For(TrayHint.TermsOf("Taxis cost money"))!.Tray);
        Assert.Null(hint.For(TrayHint.TermsOf("It rained all day")));
        Assert.Null(hint.For([]));
        Assert.Null(new TrayHint([(["taxi"], 1)]).For(["taxi"]));
        Assert.Null(new TrayHint([]).For(["taxi"]));
    }
}

public class TagSplitPropertyTests
{
    /// <summary>Whatever is sent where, each observation is counted once, and what was sent and what stays are all that there were.</summary>
    [Theory]
    [InlineData(1)]
    [InlineData(2)]
    [InlineData(3)]
    public void No_observation_is_lost_or_counted_twice(int seed)
    {
        var random = new Random(seed);
        for (var round = 0; round < 200; round++)
        {
            HashSet<int> Some(int most) => [.. Enumerable.Range(0, random.Next(most + 1)).Select(_ => random.Next(40))];
            var (wide, under) = (Some(30), Some(10));
            IReadOnlySet<int>[] trays = [Some(6), Some(6), Some(6)];
            var sent = wide.Where(_ => random.Next(3) > 0)
                .ToDictionary(o => o, _ => (IReadOnlyList<int>)[.. Enumerable.Range(0, 3).Where(_ => random.Next(2) == 0)]);
            var keep = random.Next(2) == 0;
            var numbers = TagSplit.Numbers(wide, under, trays, sent, keep, elsewhere: 0);

            var going = sent.Where(s => s.Value.Count > 0).Select(s => s.Key).ToList();
            Assert.Equal(wide.Count, numbers.Own.Before);
            Assert.Equal(wide.Count - going.Count, numbers.Own.After);
            for (var t = 0; t < 3; t++)
                Assert.Equal(trays[t].Union(sent.Where(s => s.Value.Contains(t)).Select(s => s.Key)).Count(), numbers.Trays[t].After);
            var all = wide.Except(going).Union(under);
            Assert.Equal((keep ? all.Union(going).Union(trays.SelectMany(t => t)) : all).Distinct().Count(), numbers.WithUnder.After);
            // Kept, nothing that stood under the wide tag stands outside it afterwards.
            if (keep)
                Assert.True(numbers.WithUnder.After >= numbers.WithUnder.Before);
            Assert.Equal(!keep && numbers.Own.After == 0, numbers.Goes);
        }
    }
}
