using Vitrine.Core.Counting;
using Vitrine.Core.Mark.Observations;
using Vitrine.Storage.Counting;
using Vitrine.Storage.Mark.MarginNotes;
using Vitrine.Storage.Trail;

namespace Vitrine.Storage.Tests;

public sealed class MarginNoteTests : IDisposable
{
    private readonly TestWorkspace w = new();

    public void Dispose() => w.Dispose();

    private NoteList Notes => new(w.Workspace, new SeenStudies(w.Workspace, new StudyIndexStore(w.Workspace)));

    private IEnumerable<string> List() =>
        Notes
            .Page(w.Study, w.Ida.AccountId, null, 0, 100)
            .Notes.Select(n =>
                $"{n.On} {n.CreatedBy}: {n.Words} on {n.Quote} of {(n.ParticipantId == w.Sorrel ? "Sorrel" : n.ParticipantId?.ToString() ?? "nobody")}"
                + (n.Unsure ? ", unsure" : "")
            );

    [Fact]
    public void Notes_become_observations_under_one_tag_in_one_step_and_each_stays_its_writers()
    {
        var mine = w.Remark(w.Ida, "standing on the quay", "Waits outside.");
        var same = w.Remark(w.Tom, "standing on the quay", "In the rain?", unsure: true);
        var other = w.Remark(w.Tom, "Nobody tells you", "No one says.");
        w.MarginNotes.Turn(w.Ida, w.Study, [mine, same, other], [], [TestWorkspace.Named("left waiting")]);
        Assert.Empty(w.MarginNotes.In(w.Source, w.Steward.AccountId));
        Assert.Equal(
            ["Waits outside.\n\nTom Varley: In the rain?, unsure, 1 tag", "Tom Varley: No one says., 1 tag"],
            w.Observations.In(w.Source, w.Steward.AccountId).Select(o => $"{o.Note}{(o.Unsure ? ", unsure" : "")}, {o.TagIds.Count} tag")
        );
        w.Undo.Back(w.Ida, w.Study);
        Assert.Empty(w.Observations.In(w.Source, w.Steward.AccountId));
        Assert.Equal(
            ["Waits outside.", "In the rain?", "No one says."],
            w.MarginNotes.In(w.Source, w.Steward.AccountId).Select(n => n.Words)
        );
    }

    [Fact]
    public void The_list_tells_notes_of_both_kinds_and_what_is_unsure_and_whose_words_they_stand_on()
    {
        w.Remark(w.Ida, "How did you hear", "Ask it otherwise.");
        w.Remark(w.Tom, "standing on the quay", "Waits outside.");
        w.Mark(w.Ida, "I was", "silent, with neither");
        var noted = w.Mark(w.Ida, "Nobody tells you", "told late").Id!.Value;
        w.Observations.SetNote(w.Ida, noted, "", "By whom?");
        w.Observations.SetUnsure(w.Ida, w.Mark(w.Ida, "Nobody", "who").Id!.Value, true);
        Assert.Equal(
            [
                "MarginNote Ida Moss: Ask it otherwise. on How did you hear of nobody",
                "MarginNote Tom Varley: Waits outside. on standing on the quay of Sorrel",
                "Observation Ida Moss: By whom? on Nobody tells you of Sorrel",
                "Observation Ida Moss:  on Nobody of Sorrel, unsure",
            ],
            List()
        );
        Assert.Equal(4, Notes.Page(w.Study, w.Ida.AccountId, null, 3, 1).Total);
    }

    [Fact]
    public void The_list_under_conditions_asks_a_margin_note_like_an_observation_without_tags()
    {
        w.Remark(w.Ida, "How did you hear", "Ask it otherwise.");
        w.Remark(w.Tom, "standing on the quay", "Waits outside.", unsure: true);
        w.Observations.SetNote(w.Ida, w.Mark(w.Ida, "Nobody tells you", "told late").Id!.Value, "", "By whom?");
        Assert.Equal(["By whom?", "Waits outside."], Of(new Conditions { ParticipantIds = [w.Sorrel] }));
        Assert.Equal(["Waits outside."], Of(new Conditions { AuthorIds = [w.Tom.AccountId] }));
        Assert.Equal(["Waits outside."], Of(new Conditions { Unsure = true }));
        Assert.Equal(["By whom?"], Of(new Conditions { TagIds = [w.Tags.For(w.Study).Single().Id] }));
        Assert.Equal(["Ask it otherwise.", "Waits outside."], Of(new Conditions { Untagged = true }));
        Assert.Empty(Of(new Conditions { SourceIds = [w.Source.Value + 1] }));
        Assert.Equal(1, Notes.Page(w.Study, w.Ida.AccountId, new Conditions { Unsure = true }, 1, 1).Total);

        IEnumerable<string> Of(Conditions where) =>
            Notes.Page(w.Study, w.Ida.AccountId, where, 0, 9).Notes.Select(n => n.Words).Order(StringComparer.Ordinal);
    }

    [Fact]
    public void A_note_follows_its_words_through_a_correction_and_is_not_dropped_with_them()
    {
        w.Remark(w.Ida, "on the quay", "Follows.");
        w.Remark(w.Ida, "Nobody tells you", "Stays near.");
        w.Corrections.Correct(
            w.Ida,
            w.Source,
            TestWorkspace.Corrected(
                w,
                TestWorkspace
                    .Interview.Replace("I was already", "Well, I was", StringComparison.Ordinal)
                    .Replace(" Nobody tells you.", "", StringComparison.Ordinal)
            ),
            []
        );
        Assert.Equal(["Follows.", "Stays near."], w.MarginNotes.In(w.Source, w.Steward.AccountId).Select(n => n.Words));
        var text = w.Sources.Get(w.Source, 0).Text;
        Assert.Equal("on the quay", ((TextAnchor)w.MarginNotes.In(w.Source, w.Steward.AccountId)[0].Anchor).Range.Of(text));
    }

    [Fact]
    public void A_note_that_somebody_else_rewrote_is_not_written_over()
    {
        var id = w.Remark(w.Ida, "quay", "One");
        w.MarginNotes.Rewrite(w.Tom, id, "One", "Two");
        var refusal = Assert.Throws<Refusal>(() => w.MarginNotes.Rewrite(w.Ida, id, "One", "Three"));
        Assert.Equal((RefusalKind.Conflict, "Two"), (refusal.Kind, refusal.Theirs));
        Assert.Throws<Refusal>(() => w.MarginNotes.Make(w.Ida, w.Source, TestWorkspace.Words(5, 5), "On nothing", false));
    }
}
