using Vitrine.Core.Counting;
using Vitrine.Core.Mark.Observations;
using Vitrine.Server.Access;
using Vitrine.Server.Http;
using Vitrine.Server.Mark.Observations;
using Vitrine.Storage.Catalogue;
using Vitrine.Storage.Mark.MarginNotes;

namespace Vitrine.Server.Mark.MarginNotes;

/// <param name="Anchor">Where it stands.</param>
/// <param name="Words">What is remarked.</param>
/// <param name="Unsure">Whether the reading is unsure.</param>
/// <param name="BasedOn">The hash of the text on which it was chosen, as for observations.</param>
internal sealed record NewMarginNote(AnchorGiven Anchor, string Words, bool Unsure, string? BasedOn = null);

internal sealed record ManyMarginNotes(IReadOnlyList<MarginNoteId> MarginNoteIds);

/// <param name="MarginNoteIds">The notes that become observations.</param>
/// <param name="TagIds">Tags that all of these get.</param>
/// <param name="NewTags">Names of tags that are made for it.</param>
internal sealed record NotesUnderTags(
    IReadOnlyList<MarginNoteId> MarginNoteIds,
    IReadOnlyList<TagId> TagIds,
    IReadOnlyList<string> NewTags
);

internal static class MarginNoteEndpoints
{
    private const string Missing = "Write the note before you keep it.";

    public static void MapMarginNotes(this RouteGroupBuilder api)
    {
        var source = api.MapGroup("/sources/{id:long}/margin-notes").WithTags("Mark").About(Thing.Source);
        source.MapGet("", (SourceId id, SignedIn me, MarginNoteStore store) => store.In(id, me.Id));
        source.MapPost(
            "",
            (SourceId id, NewMarginNote given, SignedIn me, MarginNoteStore store) =>
                store.Make(
                    me.Actor,
                    id,
                    given.Anchor,
                    Validate.Text(given.Words, "words", Missing, Limits.LongText),
                    given.Unsure,
                    given.BasedOn
                )
        );

        var study = api.MapGroup("/studies/{studyId:long}").WithTags("Mark");
        study.MapGet(
            "/notes",
            (StudyId studyId, Conditions? where, int page, SignedIn me, NoteList notes) =>
                notes.Page(studyId, me.Id, where, Validate.Page(page), Limits.LinesOnPage)
        );
        study.MapPost(
            "/margin-notes/observations",
            (StudyId studyId, NotesUnderTags given, SignedIn me, MarginNoteStore store) =>
                store.Turn(
                    me.Actor,
                    studyId,
                    Validate.Ids(given.MarginNoteIds, "margin note"),
                    given.TagIds,
                    Validate.NewTags(given.NewTags)
                )
        );
        study.MapPost(
            "/margin-notes/remove",
            (StudyId studyId, ManyMarginNotes given, SignedIn me, MarginNoteStore store) =>
                store.Remove(me.Actor, studyId, Validate.Ids(given.MarginNoteIds, "margin note"))
        );

        var note = api.MapGroup("/margin-notes/{id:long}").WithTags("Mark").About(Thing.MarginNote);
        note.MapPut(
            "/words",
            (MarginNoteId id, NewText given, SignedIn me, MarginNoteStore store) =>
                store.Rewrite(me.Actor, id, given.Was, Validate.Text(given, "words", Missing, Limits.LongText))
        );
        note.MapPut(
            "/unsure",
            (MarginNoteId id, UnsureReading given, SignedIn me, MarginNoteStore store) => store.SetUnsure(me.Actor, id, given.Unsure)
        );
    }
}
