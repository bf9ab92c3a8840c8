using Vitrine.Core.Gather.Sources;
using Vitrine.Formats.Documents;
using Vitrine.Server.Access;
using Vitrine.Server.Gather.Turns;
using Vitrine.Server.Http;
using Vitrine.Storage.Catalogue;
using Vitrine.Storage.Gather.Sources;
using Vitrine.Storage.Media;
using Vitrine.Storage.Trail;

namespace Vitrine.Server.Gather.Sources;

internal sealed record PastedSource(
    string Title,
    SourceKind Kind,
    string? HeldOn,
    string Text,
    SessionId? SessionId,
    IReadOnlyList<ParticipantId> ParticipantIds
);

/// <summary>Text that becomes many notes.</summary>
/// <param name="Text">All of them.</param>
/// <param name="Break">Where one ends.</param>
/// <param name="Kind">What each source is.</param>
/// <param name="HeldOn">Day, or null.</param>
/// <param name="Folder">The folder they go into, made when it is not there; empty for none.</param>
/// <param name="SessionId">The session they come of, or null.</param>
/// <param name="ParticipantIds">Whose they are.</param>
/// <param name="TagIds">Tags that each is given.</param>
/// <param name="NewTags">Names of tags that each is given and that may not be there yet.</param>
internal sealed record PastedNotes(
    string Text,
    NoteBreak Break,
    SourceKind Kind,
    string? HeldOn,
    string Folder,
    SessionId? SessionId,
    IReadOnlyList<ParticipantId> ParticipantIds,
    IReadOnlyList<TagId> TagIds,
    IReadOnlyList<string> NewTags
);

/// <param name="OffsetMs">What is added to the source's own times, in milliseconds; negative when its clock began before the
/// recording.</param>
internal sealed record Offset(int OffsetMs);

internal sealed record SourceText(
    string Title,
    SourceKind Kind,
    string? HeldOn,
    SessionId? SessionId,
    IReadOnlyList<ParticipantId> ParticipantIds
);

/// <summary>A source that was added, with sentences about what was left out or guessed.</summary>
internal sealed record SourceAdded(Step Step, IReadOnlyList<string> Remarks, int Turns, int Speakers);

internal static class SourceEndpoints
{
    private const long LongestOffset = 24 * 60 * 60 * 1000;

    public static void MapSources(this RouteGroupBuilder api)
    {
        var study = api.MapGroup("/studies/{studyId:long}/sources").WithTags("Gather");
        study.MapGet(
            "",
            (StudyId studyId, int page, SignedIn me, SourceStore store) =>
                store.Page(studyId, me.Id, Validate.Page(page), Limits.LinesOnPage)
        );
        study.MapGet("/counts", (StudyId studyId, SignedIn me, SourceStore store) => store.CountsIn(studyId, me.Id));
        study.MapPost(
            "/paste",
            (StudyId studyId, PastedSource given, SignedIn me, SourceStore store, SourceReading gate) =>
            {
                if (given.Text.Length > Limits.SourceText)
                    throw SourceReading.TooLong(given.Text.Length, "text");
                var read = gate.Read(studyId, "text", knows => TextFile.Read(given.Text, knows));
                var title = Validate.Text(given.Title, "title", "A source needs a title, such as the person’s code and name.");
                if (store.SameText(studyId, read.Text) is { } there)
                    throw new Refusal(
                        RefusalKind.Conflict,
                        $"The same text is already here as “{there.Title}”. It was not added again.",
                        "text"
                    );
                var step = store.Add(
                    me.Actor,
                    studyId,
                    new NewSource(
                        title,
                        given.Kind,
                        SourceReading.Day(given.HeldOn),
                        null,
                        read.Text,
                        read.Turns,
                        given.ParticipantIds,
                        SessionId: given.SessionId
                    ),
                    gate.TeamNames()
                );
                return new SourceAdded(
                    step,
                    read.Remarks,
                    read.Turns.Count,
                    read.Turns.Select(t => t.Speaker).OfType<string>().Distinct().Count()
                );
            }
        );

        study.MapPost(
            "/notes",
            (StudyId studyId, PastedNotes given, SignedIn me, SourceStore store) =>
            {
                if (given.Text.Length > Limits.SourceText)
                    throw SourceReading.TooLong(given.Text.Length, "text");
                var notes = NoteSplit.Of(given.Text, given.Break);
                if (notes.Count == 0)
                    throw Refusal.Because("There are no words in it. Paste some lines; each becomes a note.", "text");
                if (notes.Count > Limits.ListLength)
                    throw Refusal.Because(
                        $"These are {notes.Count:N0} notes; {Limits.ListLength:N0} at once is the most. Paste them in parts.",
                        "text"
                    );
                return store.AddNotes(
                    me.Actor,
                    studyId,
                    new NewNotes(
                        notes,
                        given.Kind,
                        SourceReading.Day(given.HeldOn),
                        Validate.Optional(given.Folder, "folder", Limits.Name),
                        given.SessionId,
                        given.ParticipantIds,
                        given.TagIds,
                        Validate.NewTags(given.NewTags)
                    )
                );
            }
        );

        var sources = api.MapGroup("/sources/{id:long}").WithTags("Gather").About(Thing.Source);
        sources.MapGet("", (SourceId id, SignedIn me, SourceStore store) => store.Get(id, me.Id));
        sources.MapPut(
            "",
            (SourceId id, SourceText given, SignedIn me, SourceStore store) =>
                store.Change(
                    me.Actor,
                    id,
                    Validate.Text(given.Title, "title", "A source needs a title."),
                    given.Kind,
                    SourceReading.Day(given.HeldOn),
                    given.SessionId,
                    given.ParticipantIds
                )
        );
        sources.MapDelete("", (SourceId id, SignedIn me, SourceStore store) => store.Remove(me.Actor, id));
        sources
            .MapGet(
                "/original",
                (SourceId id, SourceStore store, MediaFolder media) =>
                    media.Sent(
                        store.MediaOf(id) ?? throw new Refusal(RefusalKind.NotFound, "This source was pasted; there is no file of it."),
                        shown: false
                    )
            )
            .Produces(StatusCodes.Status200OK, contentType: "application/octet-stream");
        sources.MapPut(
            "/offset",
            (SourceId id, Offset given, SignedIn me, SourceStore store) =>
                store.SetOffset(
                    me.Actor,
                    id,
                    Math.Abs((long)given.OffsetMs) <= LongestOffset
                        ? given.OffsetMs
                        : throw Refusal.Because("A source is lined up within a day of its recording. Check the two times.", "offsetMs")
                )
        );
    }
}
