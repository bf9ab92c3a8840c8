using Vitrine.Core.Gather.Sources;
using Vitrine.Core.RichTexts;
using Vitrine.Storage.Gather.Sources;
using Vitrine.Storage.Tags;
using Vitrine.Storage.Trail;

namespace Vitrine.Storage.Tests;

public sealed class UndoTests : IDisposable
{
    private readonly TestWorkspace w = new();

    public void Dispose() => w.Dispose();

    [Fact]
    public void Marking_with_a_new_tag_undoes_and_redoes_as_one_step()
    {
        var made = w.Mark(w.Ida, "standing on the quay", "learnt on the quay", "too late");
        Assert.Equal(2, w.Tags.For(w.Study).Count);

        w.Undo.Back(w.Ida, w.Study);
        Assert.Empty(w.Observations.In(w.Source, w.Steward.AccountId));
        Assert.Empty(w.Tags.For(w.Study));

        w.Undo.Again(w.Ida, w.Study);
        var back = Assert.Single(w.Observations.In(w.Source, w.Steward.AccountId));
        Assert.Equal(made.Id!.Value, back.Id.Value);
        Assert.Equal(2, back.TagIds.Count);
    }

    [Fact]
    public void Steps_are_taken_back_newest_first_and_done_again_oldest_first()
    {
        w.Mark(w.Ida, "standing", "one");
        w.Mark(w.Ida, "Nobody", "two");
        w.Mark(w.Ida, "quay", "three");
        string[] Tags() => [.. w.Tags.For(w.Study).Select(t => t.Name)];

        w.Undo.Back(w.Ida, w.Study);
        w.Undo.Back(w.Ida, w.Study);
        Assert.Equal(["one"], Tags());
        w.Undo.Again(w.Ida, w.Study);
        Assert.Equal(["one", "two"], Tags());
        w.Undo.Again(w.Ida, w.Study);
        Assert.Equal(["one", "two", "three"], Tags());
    }

    [Fact]
    public void After_a_new_step_there_is_nothing_to_redo()
    {
        w.Mark(w.Ida, "standing", "one");
        w.Undo.Back(w.Ida, w.Study);
        w.Mark(w.Ida, "Nobody", "two");
        Assert.Contains("nothing to redo", Assert.Throws<Refusal>(() => w.Undo.Again(w.Ida, w.Study)).Message);
        Assert.Contains("nothing to redo", Assert.Throws<Refusal>(() => w.Undo.Again(w.Ida, w.Study)).Message);
    }

    [Fact]
    public void Each_person_undoes_their_own_steps_only()
    {
        var idas = w.Mark(w.Ida, "standing", "one");
        w.Mark(w.Tom, "Nobody", "two");
        Assert.Equal(RefusalKind.Invalid, Assert.Throws<Refusal>(() => w.Undo.Back(w.Tom, w.Study, idas.ActionId)).Kind);
        w.Undo.Back(w.Ida, w.Study);
        Assert.Equal("two", Assert.Single(w.Tags.For(w.Study)).Name);
    }

    [Fact]
    public void Undo_is_refused_when_someone_has_changed_it_since_and_says_who_and_what()
    {
        var made = w.Mark(w.Ida, "standing on the quay", "learnt on the quay");
        w.Observations.SetNote(w.Tom, made.Id!.Value, "", "Tom's note");
        var refusal = Assert.Throws<Refusal>(() => w.Undo.Back(w.Ida, w.Study));
        Assert.Equal(RefusalKind.Conflict, refusal.Kind);
        Assert.Contains("Tom Varley", refusal.Message);
        Assert.Contains("Wrote a note", refusal.Message);
        Assert.Equal("Tom's note", Assert.Single(w.Observations.In(w.Source, w.Steward.AccountId)).Note);
    }

    [Fact]
    public void A_step_that_cannot_be_undone_is_told_once_and_the_next_undo_goes_on_to_the_one_before_it()
    {
        w.Mark(w.Ida, "Nobody", "two");
        var made = w.Mark(w.Ida, "standing on the quay", "one");
        w.Observations.SetNote(w.Tom, made.Id!.Value, "", "Tom's note");
        Assert.Contains("the step before it", Assert.Throws<Refusal>(() => w.Undo.Back(w.Ida, w.Study)).Message, StringComparison.Ordinal);
        Assert.Contains("Nobody", w.Undo.Back(w.Ida, w.Study).Label, StringComparison.Ordinal);
        Assert.Equal("one", Assert.Single(w.Tags.For(w.Study)).Name);
        // Redo is of what was undone, whatever stands behind it; a new step is undone as ever.
        Assert.Contains("Nobody", w.Undo.Again(w.Ida, w.Study).Label, StringComparison.Ordinal);
        w.Mark(w.Ida, "It was off", "three");
        Assert.Contains("It was off", w.Undo.Back(w.Ida, w.Study).Label, StringComparison.Ordinal);
        // It is still in the list of steps, and can be tried again by itself.
        Assert.Throws<Refusal>(() => w.Undo.Back(w.Ida, w.Study, made.ActionId));
    }

    [Fact]
    public void Undo_is_refused_when_something_made_since_rests_on_it()
    {
        var tag = w.Tags.Add(w.Ida, null, new TagValues(TestWorkspace.Named("queue"), null, 1, "", true));
        var at = TestWorkspace.Interview.IndexOf("standing", StringComparison.Ordinal);
        w.Observations.Make(w.Tom, w.Source, TestWorkspace.Words(at, at + 8), [tag.Id!.Value], []);
        var refusal = Assert.Throws<Refusal>(() => w.Undo.Back(w.Ida, null));
        Assert.Equal(RefusalKind.Conflict, refusal.Kind);
        Assert.Contains("Tom Varley", refusal.Message);
        Assert.Single(w.Tags.For(w.Study));
    }

    [Fact]
    public void A_bulk_step_undoes_as_one()
    {
        ObservationId[] ids =
        [
            w.Mark(w.Ida, "standing").Id!.Value,
            w.Mark(w.Ida, "Nobody").Id!.Value,
            w.Mark(w.Ida, "It was off").Id!.Value,
        ];
        w.Observations.Tag(w.Ida, w.Study, ids, [], [TestWorkspace.Named("hearing")]);
        Assert.All(w.Observations.In(w.Source, w.Steward.AccountId), o => Assert.Single(o.TagIds));
        w.Undo.Back(w.Ida, w.Study);
        Assert.All(w.Observations.In(w.Source, w.Steward.AccountId), o => Assert.Empty(o.TagIds));
    }

    [Fact]
    public void Removing_a_source_takes_all_that_stands_in_it_and_undo_brings_all_back()
    {
        var made = w.Mark(w.Ida, "standing on the quay", "learnt on the quay");
        var theme = w.Themes.Make(w.Ida, w.Study, "Too late", "", null, [made.Id!.Value], []).Id!.Value;
        var insight = w.Insights.Make(w.Ida, w.Study, "They hear too late", RichText.Empty, [made.Id!.Value]).Id!.Value;
        w.Sources.Remove(w.Ida, w.Source);
        Assert.Empty(w.Sources.In(w.Study, w.Ida.AccountId));
        Assert.Empty(w.Insights.EvidenceOf([insight], w.Steward.AccountId)[insight]);

        w.Undo.Back(w.Ida, w.Study);
        Assert.Equal(4, w.Sources.Get(w.Source, w.Ida.AccountId).Turns.Count);
        Assert.Equal(
            made.Id!.Value,
            Assert.Single(w.Themes.In(w.Study, w.Steward.AccountId), t => t.Id == theme).Observations.Keys.First().Value
        );
        Assert.Equal(made.Id!.Value, Assert.Single(w.Insights.EvidenceOf([insight], w.Steward.AccountId)[insight]).ObservationId.Value);
    }

    [Fact]
    public void Steps_made_together_are_undone_and_redone_together_unless_another_stands_between()
    {
        var together = w.Ida with { Batch = Guid.NewGuid() };
        void Add(Actor by, string title) =>
            w.Sources.Add(by, w.Study, new NewSource(title, SourceKind.Document, null, null, $"Words of {title}.", [], []), []);
        string[] Titles() => [.. w.Sources.In(w.Study, w.Ida.AccountId).Select(s => s.Title).Skip(1)];
        Add(w.Ida, "alone");
        Add(together, "a");
        Add(w.Tom, "of Tom");
        Add(together, "b");
        Add(together, "c");
        var step = w.Undo.Back(w.Ida, w.Study);
        Assert.Equal(["alone", "of Tom"], Titles());
        Assert.Contains("and 2 more", step.Label);
        Assert.Equal(3, step.Changed!.Sources!.Count);
        w.Undo.Again(w.Ida, w.Study);
        Assert.Equal(["a", "alone", "b", "c", "of Tom"], Titles().Order());

        Add(w.Ida, "between");
        Add(together, "d");
        w.Undo.Back(w.Ida, w.Study);
        Assert.Contains("between", Titles());
        w.Undo.Back(w.Ida, w.Study);
        Assert.Equal(["a", "alone", "b", "c", "of Tom"], Titles().Order());
        // All or nothing: what another person has built on stays, with the rest.
        w.Sources.Remove(w.Tom, w.Sources.In(w.Study, 0).Single(s => s.Title == "b").Id);
        Assert.Contains("Tom Varley", Assert.Throws<Refusal>(() => w.Undo.Back(w.Ida, w.Study)).Message);
        Assert.Equal(["a", "alone", "c", "of Tom"], Titles().Order());
    }

    [Fact]
    public void A_step_cannot_be_undone_twice()
    {
        var step = w.Mark(w.Ida, "standing", "one");
        w.Undo.Back(w.Ida, w.Study, step.ActionId);
        Assert.Contains("undone already", Assert.Throws<Refusal>(() => w.Undo.Back(w.Ida, w.Study, step.ActionId)).Message);
    }

    [Fact]
    public void A_name_taken_in_the_meantime_refuses_redo()
    {
        w.Tags.Add(w.Ida, null, new TagValues(TestWorkspace.Named("queue"), null, 1, "", true));
        w.Undo.Back(w.Ida, null);
        w.Tags.Add(w.Tom, null, new TagValues(TestWorkspace.Named("Queue"), null, 1, "", true));
        Assert.Equal(RefusalKind.Conflict, Assert.Throws<Refusal>(() => w.Undo.Again(w.Ida, null)).Kind);
    }

    [Fact]
    public void Several_undos_at_once_take_back_a_step_each()
    {
        for (var i = 0; i < 8; i++)
            w.Mark(w.Ida, "standing on the quay"[..(3 + i)]);
        Parallel.For(0, 8, _ => w.Undo.Back(w.Ida, w.Study));
        Assert.Empty(w.Observations.In(w.Source, w.Steward.AccountId));
    }

    [Fact]
    public void A_write_that_changes_nothing_is_no_step()
    {
        var made = w.Mark(w.Ida, "standing", "one");
        var again = w.Observations.SetNote(w.Ida, made.Id!.Value, "", "");
        Assert.Null(again.ActionId);
    }
}
