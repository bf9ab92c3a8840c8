using Vitrine.Core.Sort.Suggestions;
using Vitrine.Core.Text;

namespace Vitrine.Core.Tests;

public class AllocationTests
{
    private static readonly Surroundings Around = new([0, 0, 0, 0, 0, 0], new int?[6]);

    private static LikenessItem Item(string terms, params int[] observations) => new(observations, terms.Split(' '));

    private static Allocation Into(LikenessItem[] items, params AllocationTheme[] themes) => new(items, themes, Around);

    [Fact]
    public void The_cosine_to_the_mean_of_a_theme_decides()
    {
        // With one text each, the centroid is that text: two terms of two are shared with the one, one with the other.
        var found = Into([Item("late boat")], new(["boat", "name"], []), new(["late", "boat"], []));
        Assert.Equal(1, found.Likeness(0, 1), 1e-12);
        Assert.InRange(found.Likeness(0, 0), 0.1, 0.6);
        Assert.Equal(new Allocated(1, 0, true), found.Of(0, []));
        // What it shares with the theme, as words.
        Assert.Equal(["boat"], found.Shared(0, 0, 5));
    }

    [Fact]
    public void It_learns_from_what_lies_in_a_theme()
    {
        AllocationTheme waiting = new(["waiting"], []),
            tickets = new(["ticket"], []);
        Assert.Equal(Allocated.Nowhere, Into([Item("quay cold")], waiting, tickets).Of(0, []));
        var learnt = Into([Item("quay cold")], waiting with { Holds = [Item("quay rain", 0)] }, tickets);
        Assert.Equal(0, learnt.Of(0, []).Theme);
    }

    [Fact]
    public void A_place_beside_what_lies_in_a_theme_speaks_for_it()
    {
        var found = Into([Item("cold", 3)], new(["a"], [Item("x", 0)]), new(["b"], [Item("y", 4)]));
        Assert.Equal(1, found.Of(0, []).Theme);
        Assert.Equal((0, 1), (found.Touching(0, 0), found.Touching(0, 1)));
    }

    [Fact]
    public void What_is_as_near_to_two_is_not_sure_and_a_theme_that_was_refused_is_not_asked()
    {
        var found = Into([Item("late")], new(["late", "boat"], []), new(["late", "name"], []));
        Assert.False(found.Of(0, []).IsSure);
        Assert.Equal(new Allocated(1, null, true), found.Of(0, [0]));
        Assert.Equal(Allocated.Nowhere, found.Of(0, [0, 1]));
        Assert.Equal(Allocated.Nowhere, Into([Item("late")]).Of(0, []));
    }

    [Fact]
    public void A_theme_is_told_by_what_the_others_do_not_say()
    {
        var found = Into([], new([], [Item("late boat quay"), Item("late boat", 1)]), new([], [Item("late name")]));
        Assert.Equal("boat", found.TermsOf(0, 5)[0]);
        Assert.Equal(["name"], found.TermsOf(1, 5));
    }

    [Fact]
    public void What_a_theme_holds_shares_and_touches_what_others_there_have_and_not_itself()
    {
        LikenessItem one = Item("late boat", 0),
            other = Item("late quay", 1),
            far = Item("name", 4);
        var found = Into([one, far], new AllocationTheme([], [one, other, far]));
        Assert.Equal(["late"], found.Shared(0, 0, 5));
        Assert.Equal(1, found.Touching(0, 0));
        Assert.Empty(found.Shared(1, 0, 5));
        Assert.Equal(0, found.Touching(1, 0));
    }

    [Fact]
    public void Tags_count_as_terms_and_are_not_told_as_words()
    {
        var tag = LikenessItem.TagTerm(7);
        var found = Into([new LikenessItem([0], [tag, "late"])], new AllocationTheme([], [new LikenessItem([5], [tag])]));
        Assert.Equal(0, found.Of(0, []).Theme);
        Assert.Empty(found.Shared(0, 0, 5));
    }

    [Fact]
    public void A_stem_is_told_in_the_form_that_is_said_most()
    {
        var said = new MostSaid();
        said.Add("Waiting, and waiting. We waited on the Quay; the quay waits.");
        Assert.Equal(("waiting", "quay", "boat"), (said.FormOf("wait"), said.FormOf("quay"), said.FormOf("boat")));
        // A name keeps its capital, a word that began a sentence once does not.
        said.Add("Dougal is there. Ring first. I ring Dougal.");
        Assert.Equal(("Dougal", "ring"), (said.FormOf("dougal"), said.FormOf("ring")));
        // The form that is shown keeps its accents; of as many the first by its letters.
        said.Add("café cafe");
        Assert.Equal("cafe", said.FormOf("cafe"));
    }
}
