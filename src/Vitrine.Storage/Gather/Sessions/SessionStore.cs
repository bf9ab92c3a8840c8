using Dapper;
using Vitrine.Core.Gather.Sessions;
using Vitrine.Core.Gather.Sources;
using Vitrine.Storage.Sql;
using Vitrine.Storage.Trail;

namespace Vitrine.Storage.Gather.Sessions;

/// <summary>What was held: an interview, a test, a group discussion or a visit.</summary>
public sealed record Session
{
    public SessionId Id { get; init; }
    public string Title { get; init; } = "";
    public SessionKind Kind { get; init; }
    public DateOnly? HeldOn { get; init; }
    public int? Minutes { get; init; }
    public string Moderator { get; init; } = "";
    public long Version { get; init; }
    public List<ParticipantId> ParticipantIds { get; init; } = [];

    /// <summary>The sources that came of it, in their order.</summary>
    public List<SourceId> SourceIds { get; init; } = [];

    /// <summary>Whether live notes are being taken on it.</summary>
    public bool Running { get; init; }
}

/// <summary>What a researcher writes about a session.</summary>
public sealed record SessionText(
    string Title,
    SessionKind Kind,
    DateOnly? HeldOn,
    int? Minutes,
    string Moderator,
    IReadOnlyList<ParticipantId> ParticipantIds
);

/// <summary>Sessions. A source comes of one or of none; one that names nobody itself has the participants of its session.</summary>
public sealed class SessionStore(Workspace workspace)
{
    /// <summary>A study's sessions in the order they were held; those without a day last.</summary>
    public IReadOnlyList<Session> In(StudyId studyId)
    {
        using var connection = workspace.Open();
        using var snapshot = connection.BeginTransaction(deferred: true);
        var sessions = connection
            .Query<Session>(
                """
                SELECT id, title, kind, held_on, minutes, moderator, version, id IN (SELECT session_id FROM live_notes
                WHERE ended_at IS NULL) AS running FROM session WHERE study_id = @studyId
                ORDER BY held_on IS NULL, held_on, position, id
                """,
                new { studyId }
            )
            .ToList();
        var byId = sessions.ToDictionary(s => s.Id);
        foreach (
            var (session, person) in connection.Query<(long, long)>(
                """
                SELECT p.session_id, p.participant_id FROM session_participant p JOIN session s ON s.id = p.session_id
                JOIN participant q ON q.id = p.participant_id WHERE s.study_id = @studyId ORDER BY q.position, q.id
                """,
                new { studyId }
            )
        )
            byId[session].ParticipantIds.Add(person);
        foreach (
            var (session, source) in connection.Query<(long, long)>(
                "SELECT session_id, id FROM source WHERE study_id = @studyId AND session_id IS NOT NULL ORDER BY position, id",
                new { studyId }
            )
        )
            byId[session].SourceIds.Add(source);
        return sessions;
    }

    /// <summary>Adds a session, with the given sources as what came of it.</summary>
    public Step Add(Actor actor, StudyId studyId, SessionText text, IReadOnlyList<SourceId> sourceIds) =>
        workspace.Write(
            actor,
            studyId,
            $"Added the session “{text.Title}”",
            writing =>
            {
                var id = Insert(writing, studyId, text);
                foreach (var source in sourceIds)
                    writing.Update("source", source.Value, new { sessionId = id });
                return id.Value;
            }
        );

    public Step Change(Actor actor, StudyId studyId, SessionId id, long version, SessionText text) =>
        workspace.Write(
            actor,
            studyId,
            $"Changed the session “{text.Title}”",
            writing =>
            {
                writing.Expect("session", id.Value, version);
                var there = writing
                    .Connection.Query<ParticipantId>("SELECT participant_id FROM session_participant WHERE session_id = @id", new { id })
                    .ToHashSet();
                // Its participants are part of what another person saw of it.
                if (!there.SetEquals(text.ParticipantIds))
                    writing.Update("session", id.Value, new { version = version + 1 });
                writing.Update(
                    "session",
                    id.Value,
                    new
                    {
                        text.Title,
                        text.Kind,
                        text.HeldOn,
                        text.Minutes,
                        text.Moderator,
                    }
                );
                writing.Link("session_participant", "session_id", id.Value, "participant_id", text.ParticipantIds);
                return id.Value;
            }
        );

    /// <summary>Takes a session away; what came of it stays, and comes of none.</summary>
    public Step Remove(Actor actor, StudyId studyId, SessionId id) =>
        workspace.Write(
            actor,
            studyId,
            "Removed a session",
            writing =>
            {
                writing.Label = $"Removed the session “{TitleOf(writing, studyId, id)}”";
                if (
                    writing.Connection.ExecuteScalar<bool>(
                        "SELECT count(*) FROM live_notes WHERE session_id = @id AND ended_at IS NULL",
                        new { id }
                    )
                )
                    throw new Refusal(RefusalKind.Conflict, "Live notes are being taken on this session. End them first.");
                writing.Remove("session", id.Value);
                return id.Value;
            }
        );

    /// <summary>Says of which session sources came, or that they came of none, as one step.</summary>
    public Step Put(Actor actor, StudyId studyId, IReadOnlyList<SourceId> sourceIds, SessionId? sessionId) =>
        workspace.Write(
            actor,
            studyId,
            "Put sources into a session",
            writing =>
            {
                var what = sourceIds.Count == 1 ? "a source" : $"{sourceIds.Count} sources";
                writing.Label = sessionId is { } id
                    ? $"Put {what} into the session “{TitleOf(writing, studyId, id)}”"
                    : $"Took {what} out of their session";
                foreach (var source in sourceIds)
                    writing.Update("source", source.Value, new { sessionId });
                return sessionId?.Value;
            }
        );

    /// <summary>
    /// Makes a session of each given source that comes of none and is of a kind that is held, as one step: with its day, its people, its
    /// length as far as times tell, and its only speaker of the team as moderator.
    /// </summary>
    public Step AddForEach(Actor actor, StudyId studyId, IReadOnlyList<SourceId> sourceIds) =>
        workspace.Write(
            actor,
            studyId,
            "Made sessions of sources",
            writing =>
            {
                var rows = writing
                    .Connection.Query<Held>(
                        """
                        SELECT s.id, s.title, s.kind, s.held_on, (SELECT max(coalesce(t.end_ms, t.begin_ms)) FROM turn t
                          WHERE t.source_id = s.id) AS last_ms,
                          (SELECT CASE count(*) WHEN 1 THEN max(p.label) END FROM speaker p WHERE p.source_id = s.id
                            AND p.is_team) AS moderator
                        FROM source s WHERE s.study_id = @studyId AND s.session_id IS NULL AND s.id IN (SELECT value FROM json_each(@ids))
                          ORDER BY s.position, s.id
                        """,
                        new { studyId, ids = Ids.Json(sourceIds) }
                    )
                    .Where(s => SessionGuess.KindOf(s.Kind) is not null)
                    .ToList();
                if (rows.Count == 0)
                    throw Refusal.Because(
                        "None of these sources can be a session of its own: they come of one already, or were not held with people.",
                        "sourceIds"
                    );
                writing.Label = rows.Count == 1 ? $"Made a session of “{rows[0].Title}”" : $"Made {rows.Count} sessions of sources";
                foreach (var row in rows)
                {
                    var people = writing
                        .Connection.Query<ParticipantId>(
                            "SELECT participant_id FROM source_person WHERE study_id = @studyId AND source_id = @Id",
                            new { studyId, row.Id }
                        )
                        .ToList();
                    var id = Insert(
                        writing,
                        studyId,
                        new SessionText(
                            row.Title,
                            SessionGuess.KindOf(row.Kind)!.Value,
                            row.HeldOn,
                            SessionGuess.MinutesOf(row.LastMs),
                            row.Moderator ?? "",
                            people
                        )
                    );
                    writing.Update("source", row.Id.Value, new { sessionId = id });
                }
                return null;
            }
        );

    private static SessionId Insert(Writing writing, StudyId studyId, SessionText text)
    {
        var position = writing.Connection.ExecuteScalar<long>(
            "SELECT coalesce(max(position), 0) + 1 FROM session WHERE study_id = @studyId",
            new { studyId }
        );
        var id = writing.Insert(
            "session",
            new
            {
                studyId,
                text.Title,
                text.Kind,
                text.HeldOn,
                text.Minutes,
                text.Moderator,
                position,
            }
        );
        writing.Link("session_participant", "session_id", id, "participant_id", text.ParticipantIds);
        return id;
    }

    private static string TitleOf(Writing writing, StudyId studyId, SessionId id) =>
        writing.Connection.QueryFirstOrDefault<string>(
            "SELECT title FROM session WHERE id = @id AND study_id = @studyId",
            new { id, studyId }
        ) ?? throw Refusal.Missing("session");

    private sealed record Held
    {
        public SourceId Id { get; init; }
        public string Title { get; init; } = "";
        public SourceKind Kind { get; init; }
        public DateOnly? HeldOn { get; init; }
        public int? LastMs { get; init; }
        public string? Moderator { get; init; }
    }
}
