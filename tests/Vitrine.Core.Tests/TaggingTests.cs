using Vitrine.Core.Sort.TagSet;

namespace Vitrine.Core.Tests;

public class TagNameTests
{
    [Theory]
    [InlineData("learnt on the quay", "Learnt  on the QUAY ")]
    [InlineData("café", "CAFE\u0301")]
    public void Two_spellings_of_case_space_and_accent_are_one_tag(string a, string b) =>
        Assert.Equal(TagName.Read(a, out _)!.Key, TagName.Read(b, out _)!.Key);

    [Theory]
    [InlineData("How easy was it?", "How easy was it?")]
    [InlineData("  ", "unnamed")]
    public void A_question_becomes_a_name(string question, string name) => Assert.Equal(name, TagName.Shortened(question).Shown);

    [Fact]
    public void A_long_question_is_cut_between_words_and_never_through_a_sign()
    {
        Assert.Equal(
            string.Join(' ', Enumerable.Repeat("word", 16)),
            TagName.Shortened(string.Join(' ', Enumerable.Repeat("word", 40))).Shown
        );
        var ships = TagName.Shortened(string.Concat(Enumerable.Repeat("\U0001F6A2", 60))).Shown;
        Assert.True(ships.Length <= TagName.Longest && !char.IsHighSurrogate(ships[^1]));
    }

    [Fact]
    public void The_name_is_shown_as_typed_but_tidied() =>
        Assert.Equal("Bad news twice", TagName.Read("  Bad\tnews\n twice ", out _)!.Shown);

    [Theory]
    [InlineData("")]
    [InlineData("   ")]
    [InlineData("\t\n")]
    public void Of_a_name_of_spaces_nothing_is_left(string typed)
    {
        Assert.Null(TagName.Read(typed, out var length));
        Assert.Equal(0, length);
    }

    [Fact]
    public void A_name_of_300_characters_is_refused_with_how_many_it_has()
    {
        Assert.Null(TagName.Read(new string('x', 300), out var length));
        Assert.Equal(300, length);
        Assert.NotNull(TagName.Read(new string('x', TagName.Longest), out _));
    }

    [Fact]
    public void Markup_is_just_characters() => Assert.Equal("<script>x</script>", TagName.Read("<script>x</script>", out _)!.Shown);
}

public class TagTreeTests
{
    [Fact]
    public void Ancestors_come_nearest_first() => Assert.Equal([2, 1, 0], new TagTree([-1, 0, 1]).WithAncestors(2));

    [Theory]
    [InlineData(new[] { 0 })]
    [InlineData(new[] { 1, 0 })]
    [InlineData(new[] { -1, 2, 3, 1 })]
    [InlineData(new[] { 7 })]
    public void Rings_and_missing_parents_are_refused(int[] parents) => Assert.Throws<ArgumentException>(() => new TagTree(parents));

    [Fact]
    public void An_observation_counts_for_a_tag_those_above_it_and_the_bundles_that_hold_one_of_them()
    {
        // 0 and under it 1; 2 alone; 3 a bundle of 0, 4 one of 1 and 2, 5 one of 2.
        var tree = new TagTree([-1, 0, -1, -1, -1, -1], [(3, 0), (4, 1), (4, 2), (5, 2)]);
        Assert.Equal([1, 0, 3, 4], tree.CountsFor(1));
        Assert.Equal([0, 3], tree.CountsFor(0));
        Assert.Equal([2, 4, 5], tree.CountsFor(2));
        Assert.True(tree.OneHoldsOther(1, 3));
        Assert.False(tree.OneHoldsOther(0, 4));
    }

    [Fact]
    public void Placing_a_tag_under_its_own_descendant_would_ring()
    {
        var tree = new TagTree([-1, 0, 1, -1]);
        Assert.True(tree.WouldRing(0, 2));
        Assert.True(tree.WouldRing(1, 1));
        Assert.False(tree.WouldRing(0, 3));
    }
}
