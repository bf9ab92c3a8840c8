using Vitrine.Core.Sort.Suggestions;
using Vitrine.Core.Weigh.Evidence;
using Vitrine.Storage.Sort.Suggestions;
using Vitrine.Storage.Trail;

namespace Vitrine.Storage.Tests;

public sealed class SuggestionStoreTests : IDisposable
{
    private readonly TestWorkspace w = new();
    private readonly SuggestionStore store;

    public SuggestionStoreTests() => store = new SuggestionStore(w.Workspace);

    public void Dispose() => w.Dispose();

    private (ObservationId One, ObservationId Two, ThemeId Long, SuggestionId Id) Parts()
    {
        var (one, two) = (w.Mark(w.Ida, "Wren", "one").Id!.Value, w.Mark(w.Ida, "Nobody", "two").Id!.Value);
        var theme = w.Themes.Make(w.Ida, w.Study, "Long", "", null, [one, two], []).Id!.Value;
        w.Themes.SetStance(w.Ida, theme, [one], Stance.Contradicts);
        var id = store
            .Make(
                w.Ida,
                w.Study,
                SuggestionKind.Parts,
                theme,
                [new(null)],
                [new(new(null, one), 0, SuggestedPile.Fits), new(new(null, two), 0, SuggestedPile.Fits)]
            )
            .Id!.Value;
        return (one, two, theme, id);
    }

    private SuggestionWhole Shown(SuggestionId id) => store.Get(id, w.Ida.AccountId);

    [Fact]
    public void What_is_accepted_moves_into_the_part_with_its_stance_and_an_undo_takes_all_of_it_back()
    {
        var (one, two, theme, id) = Parts();
        var (group, items) = (Shown(id).Groups[0], Shown(id).Items);
        store.RewriteTitle(w.Ida, group.Id, "", "A part");
        var step = store.Answer(w.Ida, id, [new(items[0].Id, null)], SuggestionAnswer.Accepted);
        var part = w.Themes.In(w.Study, w.Ida.AccountId).Single(t => t.Title == "A part");
        Assert.Equal((theme, Stance.Contradicts), (part.ParentId!.Value, part.Observations[one]));
        Assert.Equal([two], w.Themes.In(w.Study, w.Ida.AccountId).Single(t => t.Id == theme).Observations.Keys);
        Assert.Equal((2, 1), (Shown(id).Head.Items, Shown(id).Head.Answered));
        w.Undo.Back(w.Ida, w.Study, step.ActionId!.Value);
        Assert.DoesNotContain(w.Themes.In(w.Study, w.Ida.AccountId), t => t.Title == "A part");
        Assert.All(Shown(id).Items, i => Assert.Equal(SuggestionAnswer.Open, i.Answer));
    }

    [Fact]
    public void What_was_accepted_is_open_again_when_its_theme_goes()
    {
        var (_, _, _, id) = Parts();
        store.Answer(w.Ida, id, [new(Shown(id).Items[0].Id, null)], SuggestionAnswer.Accepted);
        // What was being written as the group’s claim is the theme’s.
        store.RewriteTitle(w.Ida, Shown(id).Groups[0].Id, "", "A claim on its way");
        Assert.Contains(w.Themes.In(w.Study, w.Ida.AccountId), t => t.Title == "A claim on its way");
        w.Themes.Remove(w.Ida, Shown(id).Groups[0].ThemeId!.Value);
        Assert.Equal(SuggestionAnswer.Open, Shown(id).Items[0].Answer);
        Assert.Null(Shown(id).Groups[0].ThemeId);
    }

    [Fact]
    public void What_was_refused_is_remembered_with_what_it_was_among()
    {
        var (one, two, _, id) = Parts();
        store.Answer(w.Ida, id, [new(Shown(id).Items[0].Id, null)], SuggestionAnswer.Refused);
        store.PutAway(w.Ida, id, true);
        var refused = Assert.Single(store.Refused(w.Study, w.Ida.AccountId));
        Assert.Equal([new Suggested(null, one)], refused.Refused);
        Assert.Equal([new Suggested(null, one), new Suggested(null, two)], refused.All);
        Assert.True(store.In(w.Study, w.Ida.AccountId).Single().PutAway);
    }

    [Fact]
    public void What_lies_in_its_theme_is_not_refused_there_and_what_is_left_for_later_stays_where_it_lay()
    {
        var (_, _, _, id) = Parts();
        var (group, items) = (Shown(id).Groups[0].Id, Shown(id).Items);
        var other = (SuggestedGroupId)store.AddGroup(w.Ida, id).Id!.Value;
        store.Answer(w.Ida, id, [new(items[0].Id, null)], SuggestionAnswer.Accepted);
        foreach (var answer in (SuggestionAnswer[])[SuggestionAnswer.Refused, SuggestionAnswer.Open, SuggestionAnswer.Later])
            Assert.Throws<Refusal>(() => store.Answer(w.Ida, id, [new(items[0].Id, null)], answer));
        Assert.Throws<Refusal>(() => store.Answer(w.Ida, id, [new(items[0].Id, other)], SuggestionAnswer.Accepted));
        store.Answer(w.Ida, id, [new(items[1].Id, other)], SuggestionAnswer.Later);
        Assert.Equal((group, SuggestionAnswer.Later), (Shown(id).Items[1].GroupId!.Value, Shown(id).Items[1].Answer));
        store.Answer(w.Ida, id, [new(items[1].Id, other)], SuggestionAnswer.Open);
        Assert.Equal((other, SuggestionAnswer.Open), (Shown(id).Items[1].GroupId!.Value, Shown(id).Items[1].Answer));
    }

    [Fact]
    public void What_lies_in_no_group_is_not_accepted_and_what_is_of_others_is_not_answered()
    {
        var (one, _, _, id) = Parts();
        var placing = store
            .Make(w.Ida, w.Study, SuggestionKind.Placing, null, [], [new(new(null, one), null, SuggestedPile.Fits)])
            .Id!.Value;
        var item = Shown(placing).Items[0].Id;
        Assert.Throws<Refusal>(() => store.Answer(w.Ida, placing, [new(item, null)], SuggestionAnswer.Accepted));
        Assert.Throws<Refusal>(() => store.Answer(w.Ida, placing, [new(item, null)], SuggestionAnswer.Refused));
        Assert.Throws<Refusal>(() => store.Answer(w.Ida, id, [new(item, null)], SuggestionAnswer.Refused));
        Assert.Throws<Refusal>(() => store.Answer(w.Ida, placing, [new(item, Shown(id).Groups[0].Id)], SuggestionAnswer.Open));
    }
}
