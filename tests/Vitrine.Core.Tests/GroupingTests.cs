using FsCheck.Xunit;
using Vitrine.Core.Sort.Suggestions;

namespace Vitrine.Core.Tests;

public class GroupingTests
{
    // Two sources; places 0 to 5 in the one, 6 to 9 in the other.
    private static readonly Surroundings Around = new([0, 0, 0, 0, 0, 0, 1, 1, 1, 1], new int?[10]);

    private static readonly HashSet<(int, int)> NoneApart = [];

    private static LikenessItem Item(string terms, params int[] observations) =>
        new(observations, terms.Split(' ', StringSplitOptions.RemoveEmptyEntries));

    [Fact]
    public void The_same_observation_is_wholly_near_the_next_half_and_another_source_not()
    {
        var likeness = Likeness.Of([Item("", 0, 3), Item("", 0, 4), Item("", 5), Item("", 6)], Around);
        // Of four observations two are shared, and 3 and 4 stand side by side.
        Assert.Equal((1 + 1 + 0.5 + 0.5) / 4, likeness.Near(0, 1));
        Assert.Equal((0.5 + 0.5) / 3, likeness.Near(1, 2), 1e-12);
        Assert.Equal(0, likeness.Near(2, 3));
        Assert.True(likeness.IsAlone(3));
        Assert.Equal(1, likeness.Distances[2, 3]);
    }

    [Fact]
    public void Another_of_the_same_turn_is_near_however_many_stand_between()
    {
        Surroundings around = new([0, 0, 0, 0, 0, 1], [1, 1, 1, 2, null, 1]);
        Assert.Equal([1, 2], around.Around(0));
        Assert.Equal([1, 0, 3], around.Around(2));
        Assert.Equal([3], around.Around(4));
        Assert.Empty(around.Around(5));
    }

    [Fact]
    public void Where_things_stand_counts_before_what_is_said()
    {
        LikenessItem[] items =
        [
            Item("late boat", 0, 2),
            Item("late quay", 0, 1),
            Item("ticket name", 6, 8),
            Item("ticket boat", 7, 8),
            Item("late name", 6, 9),
            Item("seat cloth"),
        ];
        var groups = Grouping.Of(items, Likeness.Of(items, Around), 2, 2, NoneApart);
        Assert.Equal(["2 3 4", "0 1"], groups.Groups.Select(g => string.Join(' ', g.Order())).OrderByDescending(g => g.Length));
        Assert.Equal([5], groups.Alone);
    }

    [Fact]
    public void Without_a_number_the_silhouette_says_how_many()
    {
        // Three pairs that share nothing with each other.
        LikenessItem[] items = [Item("a", 0), Item("a", 0), Item("b", 3), Item("b", 3), Item("c", 8), Item("c", 8)];
        Assert.Equal(3, Grouping.Of(items, Likeness.Of(items, Around), 2, 5, NoneApart).Groups.Count);
    }

    [Fact]
    public void One_thing_or_none_or_things_without_observations_are_left_where_they_are()
    {
        Assert.Empty(Grouping.Of([], Likeness.Of([], Around), 2, 5, NoneApart).Groups);
        LikenessItem[] one = [Item("late", 0)];
        Assert.Equal([0], Grouping.Of(one, Likeness.Of(one, Around), 2, 5, NoneApart).Alone);
        LikenessItem[] bare = [Item(""), Item(""), Item("")];
        Assert.Equal([0, 1, 2], Grouping.Of(bare, Likeness.Of(bare, Around), 3, 7, NoneApart).Alone);
    }

    [Fact]
    public void What_was_refused_among_some_things_is_not_put_among_them_again()
    {
        LikenessItem[] items = [Item("a", 0), Item("a", 0), Item("a b", 0, 1), Item("c", 8), Item("c", 8)];
        var likeness = Likeness.Of(items, Around);
        Assert.Contains(Grouping.Of(items, likeness, 2, 2, NoneApart).Groups, g => g.Order().SequenceEqual([0, 1, 2]));
        // One was refused among the two others; one pair of three is not more than half.
        var made = Grouping.Of(items, likeness, 2, 2, new HashSet<(int, int)> { (2, 0), (1, 2) });
        Assert.Equal([2], made.Refused);
        Assert.Contains(made.Groups, g => g.Order().SequenceEqual([0, 1]));
        Assert.Empty(Grouping.Of(items, likeness, 2, 2, new HashSet<(int, int)> { (2, 0) }).Refused);
        // A group that was refused whole.
        Assert.Equal([3, 4], Grouping.Of(items, likeness, 2, 2, new HashSet<(int, int)> { (4, 3) }).Refused);
    }

    [Property(MaxTest = 60)]
    public bool Each_thing_is_in_one_place_and_the_same_things_give_the_same_groups(int seed)
    {
        var random = new Random(seed);
        LikenessItem[] items =
        [
            .. Enumerable
                .Range(0, random.Next(20))
                .Select(_ =>
                    Item(
                        string.Join(' ', Enumerable.Range(0, random.Next(4)).Select(_ => (char)('a' + random.Next(6)))),
                        [.. Enumerable.Range(0, 10).Where(_ => random.Next(4) == 0)]
                    )
                ),
        ];
        SuggestedGroups Made() => Grouping.Of(items, Likeness.Of(items, Around), 2, 6, NoneApart);
        var made = Made();
        var all = made.Groups.SelectMany(g => g).Concat(made.Unsure).Concat(made.Alone).Order();
        return all.SequenceEqual(Enumerable.Range(0, items.Length))
            && made.Groups.Select(g => string.Join(' ', g)).SequenceEqual(Made().Groups.Select(g => string.Join(' ', g)));
    }
}
