using Vitrine.Core.Gather;
using Vitrine.Server.Access;
using Vitrine.Storage;
using Vitrine.Storage.Catalogue;
using Vitrine.Storage.Access;
using Vitrine.Storage.Gather;

namespace Vitrine.Server.Gather;

/// <summary>A session to be added.</summary>
/// <param name="Text">What is known of it.</param>
/// <param name="SourceIds">The sources that came of it; may be empty.</param>
internal sealed record NewSession(SessionText Text, IReadOnlyList<long> SourceIds);

internal sealed record ChangedSession(SessionText Text, long Version);

/// <param name="SourceIds">Which sources.</param>
/// <param name="SessionId">The session they came of; null for none.</param>
internal sealed record SessionOf(IReadOnlyList<long> SourceIds, long? SessionId);

internal sealed record Chosen(IReadOnlyList<long> SourceIds);

internal static class SessionEndpoints
{
    private const int MostMinutes = 24 * 60;

    public static void MapSessions(this RouteGroupBuilder api)
    {
        var sessions = api.MapGroup("/studies/{studyId:long}/sessions").WithTags("Gather");
        sessions.MapGet("", (long studyId, SessionStore store) => store.In(studyId));
        sessions.MapPost("", (long studyId, NewSession given, SignedIn me, SessionStore store) => store.Add(me.Actor, studyId, Checked(given.Text), given.SourceIds));
        sessions.MapPut("/{id:long}", (long studyId, long id, ChangedSession given, SignedIn me, SessionStore store) => store.Change(me.Actor, studyId, id, given.Version, Checked(given.Text))).About(Thing.Session);
        sessions.MapDelete("/{id:long}", (long studyId, long id, SignedIn me, SessionStore store) => store.Remove(me.Actor, studyId, id)).About(Thing.Session);
        sessions.MapPost("/of-each", (long studyId, Chosen given, SignedIn me, SessionStore store) => store.AddForEach(me.Actor, studyId, Given.Ids(given.SourceIds, "source")));
        api.MapPut("/studies/{studyId:long}/sources/session", (long studyId, SessionOf given, SignedIn me, SessionStore store) =>
            store.Put(me.Actor, studyId, Given.Ids(given.SourceIds, "source"), given.SessionId)).WithTags("Gather");
    }

    private static SessionText Checked(SessionText text) => text with
    {
        Title = Given.Text(text.Title, "title", "A session needs a title, such as “Group discussion at Tarra hall”."),
        HeldOn = TextGate.Day(text.HeldOn),
        Minutes = text.Minutes is null or (> 0 and <= MostMinutes) ? text.Minutes : throw Refusal.Because($"Type the length in whole minutes, from 1 to {MostMinutes:N0}.", "minutes"),
        Moderator = Given.Optional(text.Moderator, "moderator", Limits.Name),
    };
}
