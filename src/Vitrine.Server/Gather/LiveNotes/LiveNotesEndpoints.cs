using Vitrine.Server.Access;
using Vitrine.Server.Gather.Turns;
using Vitrine.Server.Http;
using Vitrine.Storage.Catalogue;
using Vitrine.Storage.Gather.LiveNotes;
using Vitrine.Storage.Trail;

namespace Vitrine.Server.Gather.LiveNotes;

/// <param name="Typed">The line as it was typed, with its # and !.</param>
/// <param name="BeginMs">When its typing began, in milliseconds since the notes began.</param>
/// <param name="EndMs">When it was stamped.</param>
internal sealed record NewLine(string Typed, int BeginMs, int EndMs);

internal sealed record LineStar(bool Starred);

internal static class LiveNotesEndpoints
{
    private const int LongestDay = 24 * 60 * 60 * 1000;

    public static void MapLiveNotes(this RouteGroupBuilder api)
    {
        var notes = api.MapGroup("/studies/{studyId:long}/live-notes").WithTags("Gather");
        notes.MapGet(
            "/of/{sessionId:long}",
            (StudyId studyId, SessionId sessionId, LiveNotesStore store) => new LiveNotesOf(store.Of(studyId, sessionId))
        );
        notes.MapPost(
            "/of/{sessionId:long}",
            (StudyId studyId, SessionId sessionId, SignedIn me, LiveNotesStore store) => store.Begin(me.Actor, studyId, sessionId)
        );
        notes
            .MapPost(
                "/{id:long}/lines",
                (StudyId studyId, LiveNotesId id, NewLine given, SignedIn me, LiveNotesStore store) =>
                {
                    if (given.BeginMs is < 0 or > LongestDay || given.EndMs < 0 || given.EndMs > LongestDay)
                        throw Refusal.Because(
                            "This line’s time is not within a day of the beginning. Check the clock of your device and send it again.",
                            "beginMs"
                        );
                    return store.AddLine(
                        me.Actor,
                        studyId,
                        id,
                        Validate.Text(given.Typed, "typed", "Write what you saw or heard.", Limits.NoteLine),
                        given.BeginMs,
                        given.EndMs
                    );
                }
            )
            .About(Thing.LiveNotes);
        notes
            .MapPost(
                "/{id:long}/end",
                (StudyId studyId, LiveNotesId id, SignedIn me, LiveNotesStore store, SourceReading gate) =>
                    store.End(me.Actor, studyId, id, gate.TeamNames())
            )
            .About(Thing.LiveNotes);
        notes.MapPut(
            "/lines/{lineId:long}/text",
            (StudyId studyId, LiveLineId lineId, NewText given, SignedIn me, LiveNotesStore store) =>
                store.Rewrite(
                    me.Actor,
                    studyId,
                    lineId,
                    given.Was,
                    Validate.Text(
                        given,
                        "text",
                        "There are no words in this line. Remove it, or write what you saw or heard.",
                        Limits.NoteLine
                    )
                )
        );
        notes.MapPut(
            "/lines/{lineId:long}/star",
            (StudyId studyId, LiveLineId lineId, LineStar given, SignedIn me, LiveNotesStore store) =>
                store.SetStar(me.Actor, studyId, lineId, given.Starred)
        );
        notes.MapDelete(
            "/lines/{lineId:long}/tags/{tagId:long}",
            (StudyId studyId, LiveLineId lineId, TagId tagId, SignedIn me, LiveNotesStore store) =>
                store.Untag(me.Actor, studyId, lineId, tagId)
        );
        notes.MapDelete(
            "/lines/{lineId:long}",
            (StudyId studyId, LiveLineId lineId, SignedIn me, LiveNotesStore store) => store.RemoveLine(me.Actor, studyId, lineId)
        );
    }
}

/// <param name="Notes">The latest notes on the session; null when none were taken.</param>
internal sealed record LiveNotesOf(NotesOfSession? Notes);
