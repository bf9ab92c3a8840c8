using Vitrine.Core.Weigh.Evidence;
using Vitrine.Storage.Gather.Studies;
using Vitrine.Storage.Sort.Themes;
using Vitrine.Storage.Trail;

namespace Vitrine.Storage.Tests;

public sealed class ThemeStoreTests : IDisposable
{
    private readonly TestWorkspace w = new();
    private readonly StudyStore studies;

    public ThemeStoreTests() => studies = new StudyStore(w.Workspace);

    public void Dispose() => w.Dispose();

    private ThemeId Theme(string title, ThemeId? under = null, params ObservationId[] held) =>
        w.Themes.Make(w.Ida, w.Study, title, "", under, held, []).Id!.Value;

    private IReadOnlyList<Theme> All => w.Themes.In(w.Study, w.Ida.AccountId);

    private string Outline
    {
        get
        {
            var all = All;
            string Under(ThemeId? parent) =>
                string.Join(
                    " ",
                    all.Where(t => t.ParentId == parent).Select(t => Under(t.Id) is { Length: > 0 } below ? $"{t.Title}({below})" : t.Title)
                );
            return Under(null);
        }
    }

    [Fact]
    public void Themes_are_ordered_by_hand_and_each_step_is_undone()
    {
        var (a, b, c) = (Theme("a"), Theme("b"), Theme("c"));
        w.Themes.Move(w.Ida, c, null, a);
        Assert.Equal("c a b", Outline);
        w.Themes.Move(w.Ida, a, b, null);
        Assert.Equal("c b(a)", Outline);
        w.Themes.Move(w.Ida, c, b, a);
        Assert.Equal("b(c a)", Outline);
        Assert.Equal("parentId", Assert.Throws<Refusal>(() => w.Themes.Move(w.Tom, b, a, null)).Field);
        Assert.Equal("beforeId", Assert.Throws<Refusal>(() => w.Themes.Move(w.Tom, a, null, c)).Field);
        for (var i = 0; i < 3; i++)
            w.Undo.Back(w.Ida, w.Study);
        Assert.Equal("a b c", Outline);
    }

    [Fact]
    public void What_was_undone_before_something_new_is_not_redone_in_its_place()
    {
        Theme("first");
        w.Undo.Back(w.Ida, w.Study);
        Theme("second");
        w.Undo.Back(w.Ida, w.Study);
        Assert.Contains("second", w.Undo.Again(w.Ida, w.Study).Label, StringComparison.Ordinal);
        Assert.Equal("second", Outline);
        Assert.Throws<Refusal>(() => w.Undo.Again(w.Ida, w.Study));
    }

    [Fact]
    public void Two_people_who_nest_two_themes_in_each_other_make_no_ring()
    {
        var (one, other) = (Theme("one"), Theme("other"));
        w.Themes.Move(w.Ida, one, other, null);
        var refused = Assert.Throws<Refusal>(() => w.Themes.Move(w.Tom, other, one, null));
        Assert.StartsWith("A theme cannot be under itself", refused.Message, StringComparison.Ordinal);
        Assert.Equal("other(one)", Outline);
    }

    [Fact]
    public void A_stance_lays_what_a_tag_brought_in_the_theme_itself()
    {
        var mark = w.Mark(w.Ida, "standing", "late").Id!.Value;
        var theme = w.Themes.Make(w.Ida, w.Study, "They hear late", "", null, [], [w.Tags.For(w.Study)[0].Id]).Id!.Value;
        w.Themes.SetStance(w.Ida, theme, [mark], Stance.Contradicts);
        var index = w.Index();
        Assert.Equal(Stance.Contradicts, index.ContentsOf(All)[0].Single().Stance);
        // Put in once more without a stance, it stays what it is.
        w.Themes.Lay(w.Tom, theme, [mark], []);
        Assert.Equal(Stance.Contradicts, All[0].Observations[mark]);
        w.Themes.Lay(w.Tom, theme, [mark], [], Stance.Context);
        Assert.Equal(Stance.Context, All[0].Observations[mark]);
    }

    [Fact]
    public void Merged_themes_hold_all_once_and_the_stance_of_the_one_that_stays_holds()
    {
        ObservationId both = w.Mark(w.Ida, "standing", "late").Id!.Value;
        ObservationId one = w.Mark(w.Ida, "It was off", "off").Id!.Value;
        var tag = w.Tags.For(w.Study).First(t => t.Name == "off").Id;
        var (goes, stays) = (Theme("goes", null, both, one), Theme("stays", null, both));
        var under = Theme("under", goes);
        w.Themes.Move(w.Ida, stays, under, null);
        w.Themes.SetStance(w.Ida, goes, [one, both], Stance.Contradicts);
        w.Themes.Lay(w.Ida, goes, [], [tag]);
        w.Themes.Answer(w.Ida, goes, [studies.Questions(w.Study)[0].Id]);
        var before = Outline;
        w.Themes.Merge(w.Tom, stays, [goes]);
        Assert.Equal("stays(under)", Outline);
        var merged = All.Single(t => t.Id == stays);
        Assert.Equal([(both, Stance.Supports), (one, Stance.Contradicts)], merged.Observations.Select(o => (o.Key, o.Value)).Order());
        Assert.Equal([tag], merged.TagIds);
        Assert.Single(merged.QuestionIds);
        w.Undo.Back(w.Tom, w.Study);
        Assert.Equal(before, Outline);
        Assert.Equal(2, All.Single(t => t.Id == goes).Observations.Count);
        var other = studies.Create(w.Ida, new StudyText("Other", "", "", [])).Id!.Value;
        var theirs = w.Themes.Make(w.Ida, other, "Theirs", "", null, [], []).Id!.Value;
        Assert.Equal(RefusalKind.NotFound, Assert.Throws<Refusal>(() => w.Themes.Merge(w.Ida, stays, [theirs])).Kind);
    }

    [Fact]
    public void What_is_left_out_is_so_until_it_is_put_in_a_theme()
    {
        var leftOut = new LeftOutStore(w.Workspace);
        ObservationId mark = w.Mark(w.Ida, "standing", "late").Id!.Value;
        leftOut.Set(w.Tom, w.Study, [mark, mark], true);
        Assert.Equal([mark], leftOut.In(w.Study, w.Ida.AccountId));
        leftOut.Set(w.Tom, w.Study, [mark], false);
        Assert.Empty(leftOut.In(w.Study, w.Ida.AccountId));
        w.Undo.Back(w.Tom, w.Study);
        Theme("", null, mark);
        var used = w.Uses.Of(ThingKind.Observation, [mark.Value], w.All).Kinds.Single(k => k.Kind == ThingKind.Theme);
        Assert.Equal("theme without a title", Assert.Single(used.Named).Title);
        Assert.Empty(leftOut.In(w.Study, w.Ida.AccountId));
        w.Undo.Back(w.Ida, w.Study);
        Assert.Equal([mark], leftOut.In(w.Study, w.Ida.AccountId));
    }

    [Fact]
    public void A_question_stays_itself_when_it_moves_or_is_said_in_other_words()
    {
        void Ask(params string[] questions) =>
            studies.Change(
                w.Ida,
                w.Study,
                studies.Get(w.Study, w.Ida.AccountId).Line.Version,
                new StudyText("Boarding", "", "", questions)
            );
        Ask("How do they hear?", "Who boards last?");
        var (hear, last) = (studies.Questions(w.Study)[0].Id, studies.Questions(w.Study)[1].Id);
        var theme = Theme("late");
        w.Themes.Answer(w.Ida, theme, [last]);
        Ask("Who boards last?", "What does it cost?", "How do they hear?");
        Assert.Equal([last, hear], studies.Questions(w.Study).Where(q => q.Text != "What does it cost?").Select(q => q.Id));
        Ask("Who gets aboard last?", "What does it cost?", "How do they hear?");
        Assert.Equal(last, studies.Questions(w.Study)[0].Id);
        Assert.Equal([last], All[0].QuestionIds);
        Ask("How do they hear?");
        Assert.Equal([hear], studies.Questions(w.Study).Select(q => q.Id));
        Assert.Empty(All[0].QuestionIds);
        w.Undo.Back(w.Ida, w.Study);
        Assert.Equal([last], All[0].QuestionIds);
    }
}
