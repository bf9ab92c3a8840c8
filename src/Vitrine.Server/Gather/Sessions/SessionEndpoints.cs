using Vitrine.Core.Gather.Sessions;
using Vitrine.Server.Access;
using Vitrine.Server.Gather.Turns;
using Vitrine.Server.Http;
using Vitrine.Storage.Catalogue;
using Vitrine.Storage.Gather.Sessions;
using Vitrine.Storage.Trail;

namespace Vitrine.Server.Gather.Sessions;

/// <summary>What somebody typed of a session.</summary>
/// <param name="HeldOn">The day as year-month-day; null or empty for none.</param>
internal sealed record SessionGiven(
    string Title,
    SessionKind Kind,
    string? HeldOn,
    int? Minutes,
    string Moderator,
    IReadOnlyList<ParticipantId> ParticipantIds
);

/// <summary>A session to be added.</summary>
/// <param name="Text">What is known of it.</param>
/// <param name="SourceIds">The sources that came of it; may be empty.</param>
internal sealed record NewSession(SessionGiven Text, IReadOnlyList<SourceId> SourceIds);

internal sealed record ChangedSession(SessionGiven Text, long Version);

/// <param name="SourceIds">Which sources.</param>
/// <param name="SessionId">The session they came of; null for none.</param>
internal sealed record SessionOf(IReadOnlyList<SourceId> SourceIds, SessionId? SessionId);

internal sealed record Chosen(IReadOnlyList<SourceId> SourceIds);

internal static class SessionEndpoints
{
    private const int MostMinutes = 24 * 60;

    public static void MapSessions(this RouteGroupBuilder api)
    {
        var sessions = api.MapGroup("/studies/{studyId:long}/sessions").WithTags("Gather");
        sessions.MapGet("", (StudyId studyId, SessionStore store) => store.In(studyId));
        sessions.MapPost(
            "",
            (StudyId studyId, NewSession given, SignedIn me, SessionStore store) =>
                store.Add(me.Actor, studyId, Checked(given.Text), given.SourceIds)
        );
        sessions
            .MapPut(
                "/{id:long}",
                (StudyId studyId, SessionId id, ChangedSession given, SignedIn me, SessionStore store) =>
                    store.Change(me.Actor, studyId, id, given.Version, Checked(given.Text))
            )
            .About(Thing.Session);
        sessions
            .MapDelete(
                "/{id:long}",
                (StudyId studyId, SessionId id, SignedIn me, SessionStore store) => store.Remove(me.Actor, studyId, id)
            )
            .About(Thing.Session);
        sessions.MapPost(
            "/of-each",
            (StudyId studyId, Chosen given, SignedIn me, SessionStore store) =>
                store.AddForEach(me.Actor, studyId, Validate.Ids(given.SourceIds, "source"))
        );
        api.MapPut(
                "/studies/{studyId:long}/sources/session",
                (StudyId studyId, SessionOf given, SignedIn me, SessionStore store) =>
                    store.Put(me.Actor, studyId, Validate.Ids(given.SourceIds, "source"), given.SessionId)
            )
            .WithTags("Gather");
    }

    private static SessionText Checked(SessionGiven text) =>
        new(
            Validate.Text(text.Title, "title", "A session needs a title, such as “Group discussion at Tarra hall”."),
            text.Kind,
            SourceReading.Day(text.HeldOn),
            text.Minutes is null or (> 0 and <= MostMinutes)
                ? text.Minutes
                : throw Refusal.Because($"Type the length in whole minutes, from 1 to {MostMinutes:N0}.", "minutes"),
            Validate.Optional(text.Moderator, "moderator", Limits.Name),
            text.ParticipantIds
        );
}
