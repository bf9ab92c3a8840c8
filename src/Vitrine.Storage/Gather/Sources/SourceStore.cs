using System.Text.Json;
using Dapper;
using Microsoft.Data.Sqlite;
using Vitrine.Core.Gather.Sources;
using Vitrine.Core.Gather.Turns;
using Vitrine.Core.Mark.Observations;
using Vitrine.Core.Text;
using Vitrine.Storage.Anchors;
using Vitrine.Storage.Gather.Participants;
using Vitrine.Storage.Gather.Turns;
using Vitrine.Storage.Media;
using Vitrine.Storage.Sql;
using Vitrine.Storage.Tags;
using Vitrine.Storage.Trail;

namespace Vitrine.Storage.Gather.Sources;

/// <summary>Sources with their texts, turns and speakers.</summary>
public sealed class SourceStore(Workspace workspace, ParticipantStore participants)
{
    /// <summary>A study's sources with the given account's reading progress.</summary>
    public IReadOnlyList<SourceLine> In(StudyId studyId, AccountId accountId) => Page(studyId, accountId, 0, int.MaxValue).Sources;

    /// <summary>One page of a study's sources, in their order, with the given account's reading progress.</summary>
    /// <param name="page">Which page, from 0.</param>
    /// <param name="size">How many a page holds.</param>
    public SourcePage Page(StudyId studyId, AccountId accountId, int page, int size)
    {
        using var connection = workspace.Open();
        using var snapshot = connection.BeginTransaction(deferred: true);
        var ids = connection.Query<SourceId>(
            "SELECT id FROM source WHERE study_id = @studyId ORDER BY position, id LIMIT @size OFFSET @before",
            new
            {
                studyId,
                size,
                before = (long)page * size,
            }
        );
        var total = connection.ExecuteScalar<int>("SELECT count(*) FROM source WHERE study_id = @studyId", new { studyId });
        return new SourcePage(Lines(connection, [.. ids], accountId), total);
    }

    /// <summary>How many observations stand in each source of a study that has any.</summary>
    /// <param name="viewer">Who looks.</param>
    public IReadOnlyList<SourceCount> CountsIn(StudyId studyId, AccountId viewer)
    {
        using var connection = workspace.OpenFor(viewer);
        return connection
            .Query<SourceCount>(
                """
                SELECT o.source_id, count(*) AS observations FROM source s CROSS JOIN observation o ON o.source_id = s.id
                WHERE s.study_id = @studyId GROUP BY o.source_id
                """,
                new { studyId }
            )
            .AsList();
    }

    private static List<SourceLine> Lines(SqliteConnection connection, IReadOnlyList<SourceId> sourceIds, AccountId accountId)
    {
        var ids = Ids.Json(sourceIds);
        var sources = connection
            .Query<SourceLine>(
                """
                SELECT s.id, s.title, s.kind, s.held_on, s.file_name, s.length, s.folder_id, s.session_id, s.offset_ms,
                  s.still_of_id, s.still_at_ms, s.still_page, s.in_step_with_id, s.written_by, m.type AS media_type, q.length_ms,
                  r.furthest, c.name AS channel, f.rating
                FROM source s LEFT JOIN media m ON m.id = s.media_id LEFT JOIN recording q ON q.hash = m.hash
                  LEFT JOIN reading r ON r.source_id = s.id AND r.account_id = @accountId
                  LEFT JOIN routing g ON g.source_id = s.id LEFT JOIN feedback f ON f.id = g.feedback_id
                  LEFT JOIN channel c ON c.id = f.channel_id
                WHERE s.id IN (SELECT value FROM json_each(@ids)) ORDER BY s.position, s.id
                """,
                new { ids, accountId }
            )
            .ToList();
        var byId = sources.ToDictionary(s => s.Id);
        var speakers = connection.Query<Speaker, SourceId, (Speaker, SourceId)>(
            """
            SELECT id, label, participant_id, is_team, (SELECT count(*) FROM turn t WHERE t.speaker_id = p.id) AS turns, source_id
            FROM speaker p WHERE source_id IN (SELECT value FROM json_each(@ids)) ORDER BY position
            """,
            (speaker, sourceId) => (speaker, sourceId),
            new { ids },
            splitOn: "source_id"
        );
        foreach (var (speaker, sourceId) in speakers)
            byId[sourceId].Speakers.Add(speaker);
        var present = connection.Query<(SourceId Source, ParticipantId Person)>(
            """
            SELECT source_id, participant_id FROM source_participant WHERE source_id IN (SELECT value FROM json_each(@ids)) ORDER BY id
            """,
            new { ids }
        );
        foreach (var (source, person) in present)
            byId[source].ParticipantIds.Add(person);
        foreach (
            var (source, person) in connection.Query<(SourceId Source, ParticipantId Person)>(
                """
                SELECT v.source_id, v.participant_id FROM source_person v JOIN participant p ON p.id = v.participant_id
                WHERE v.source_id IN (SELECT value FROM json_each(@ids)) ORDER BY p.position, p.id
                """,
                new { ids }
            )
        )
            byId[source].PeopleIds.Add(person);
        return sources;
    }

    /// <exception cref="Refusal">There is no such source.</exception>
    public Source Get(SourceId id, AccountId accountId)
    {
        using var connection = workspace.Open();
        var studyId = StudyOf(id);
        var line = Lines(connection, [id], accountId).Single();
        var text = connection.QuerySingle<string>("SELECT text FROM source_text WHERE source_id = @id", new { id });
        var turns = connection
            .Query<StoredTurn>(
                "SELECT start, \"end\", speaker_id, begin_ms, end_ms FROM turn WHERE source_id = @id ORDER BY start",
                new { id }
            )
            .ToList();
        var shape = connection.QueryFirstOrDefault<string>("SELECT shape FROM source_shape WHERE source_id = @id", new { id });
        var corrected = connection.ExecuteScalar<bool>("SELECT count(*) FROM source_original WHERE source_id = @id", new { id });
        return new Source(
            studyId,
            line,
            text,
            ContentHash.Of(text),
            corrected,
            turns,
            shape is null ? null : JsonSerializer.Deserialize<Shape>(shape)
        );
    }

    /// <exception cref="Refusal">There is no such source.</exception>
    public StudyId StudyOf(SourceId id)
    {
        using var connection = workspace.Open();
        return connection.QueryFirstOrDefault<long?>("SELECT study_id FROM source WHERE id = @id", new { id })
            ?? throw Refusal.Missing("source");
    }

    /// <summary>
    /// Of each source of a study the clock on which its times stand, by a number that sources of one session share, and what is added to
    /// its own times to have those of that clock.
    /// </summary>
    public IReadOnlyDictionary<SourceId, (int Clock, int OffsetMs)> ClocksIn(StudyId studyId)
    {
        using var connection = workspace.Open();
        var clocks = new Dictionary<(bool Session, long Id), int>();
        return connection
            .Query<(SourceId Id, long? Session, int Offset)>(
                "SELECT id, session_id, offset_ms FROM source WHERE study_id = @studyId",
                new { studyId }
            )
            .ToDictionary(
                s => s.Id,
                s =>
                {
                    var key = (s.Session is not null, s.Session ?? s.Id.Value);
                    if (!clocks.TryGetValue(key, out var clock))
                        clocks[key] = clock = clocks.Count;
                    return (clock, s.Offset);
                }
            );
    }

    /// <summary>The texts of a study's sources, in their order; without recordings and pictures.</summary>
    public IReadOnlyList<(SourceId Id, string Text)> TextsIn(StudyId studyId)
    {
        using var connection = workspace.Open();
        return connection
            .Query<(SourceId, string)>(
                """
                SELECT s.id, t.text FROM source s JOIN source_text t ON t.source_id = s.id WHERE s.study_id = @studyId AND t.text <> ''
                ORDER BY s.position, s.id
                """,
                new { studyId }
            )
            .AsList();
    }

    /// <summary>The source of this study that holds the same text, if one does.</summary>
    public (SourceId Id, string Title)? SameText(StudyId studyId, string text)
    {
        using var connection = workspace.Open();
        return connection
            .Query<(SourceId, string)?>(
                "SELECT id, title FROM source WHERE study_id = @studyId AND content_hash = @hash",
                new { studyId, hash = ContentHash.Of(text) }
            )
            .FirstOrDefault();
    }

    /// <summary>The source of this study that was made of the same file, if one was.</summary>
    public (SourceId Id, string Title)? SameFile(StudyId studyId, string hash)
    {
        using var connection = workspace.Open();
        return connection
            .Query<(SourceId, string)?>(
                "SELECT s.id, s.title FROM source s JOIN media m ON m.id = s.media_id WHERE s.study_id = @studyId AND m.hash = @hash",
                new { studyId, hash }
            )
            .FirstOrDefault();
    }

    /// <summary>The file that a source was made of, as it was given; null for pasted text.</summary>
    public NewMedia? MediaOf(SourceId id)
    {
        using var connection = workspace.Open();
        return connection.QueryFirstOrDefault<NewMedia>(
            "SELECT m.hash, m.name, m.type, m.bytes FROM media m JOIN source s ON s.media_id = m.id WHERE s.id = @id",
            new { id }
        );
    }

    public Step Add(Actor actor, StudyId studyId, NewSource source, IReadOnlyCollection<string> team) =>
        workspace.Write(
            actor,
            studyId,
            $"Added the source “{source.Title}”",
            writing =>
            {
                var known = participants.Known(studyId);
                return Insert(
                    writing,
                    studyId,
                    source,
                    NextPosition(writing, studyId),
                    label => SpeakerMatching.Guess(label, known, team)
                ).Value;
            }
        );

    /// <summary>
    /// Adds many notes as one step, each a source; with tags, each is marked whole with all of them. With a folder's name they go into it.
    /// </summary>
    public Step AddNotes(Actor actor, StudyId studyId, NewNotes notes) =>
        workspace.Write(
            actor,
            studyId,
            $"Added {notes.Notes.Count} notes",
            writing =>
            {
                FolderId? folderId = notes.Folder.Length == 0 ? null : FolderStore.FindOrMake(writing, studyId, notes.Folder);
                var tagIds = notes.TagIds.Concat(TagNames.FindOrMake(writing, studyId, notes.NewTags)).Distinct().ToList();
                var position = NextPosition(writing, studyId);
                foreach (var note in notes.Notes)
                {
                    var whole = new TextRange(0, note.Length);
                    var sourceId = Insert(
                        writing,
                        studyId,
                        new NewSource(
                            NoteSplit.TitleOf(note),
                            notes.Kind,
                            notes.HeldOn,
                            null,
                            note,
                            [new Turn(whole)],
                            notes.ParticipantIds,
                            null,
                            null,
                            folderId,
                            notes.SessionId
                        ),
                        position++,
                        _ => new SpeakerMatch(null, false)
                    );
                    if (tagIds.Count == 0)
                        continue;
                    var observationId = ObservationRows.Insert(writing, studyId, sourceId, new TextAnchor(whole));
                    foreach (var tagId in tagIds)
                        writing.Insert("observation_tag", new { observationId, tagId });
                }
                return folderId?.Value;
            }
        );

    /// <summary>Where the next source of a study stands.</summary>
    internal static long NextPosition(Writing writing, StudyId studyId) =>
        writing.Connection.ExecuteScalar<long>(
            "SELECT coalesce(max(position), 0) + 1 FROM source WHERE study_id = @studyId",
            new { studyId }
        );

    /// <summary>Adds a source as part of a larger step.</summary>
    internal static SourceId Insert(Writing writing, StudyId studyId, NewSource source, long position, Func<string, SpeakerMatch> match)
    {
        MediaId? mediaId = source.Media is { } media ? MediaRows.Insert(writing, studyId, media) : null;
        var id = writing.Insert(
            "source",
            new
            {
                studyId,
                source.Title,
                source.Kind,
                source.HeldOn,
                source.FileName,
                contentHash = ContentHash.Of(source.Text),
                length = source.Text.Length,
                position,
                mediaId,
                source.FolderId,
                source.SessionId,
                source.StillOfId,
                source.StillAtMs,
                source.StillPage,
                source.InStepWithId,
                source.WrittenBy,
            }
        );
        if (source.Shape is { } shape)
            writing.Insert("source_shape", new { sourceId = id, shape = JsonSerializer.Serialize(shape) });
        writing.Insert("source_text", new { sourceId = id, source.Text });
        writing.InsertAll(
            "source_participant",
            ["source_id", "participant_id"],
            [.. source.ParticipantIds.Distinct().Select(participantId => new object?[] { id, participantId })]
        );
        TurnStore.Insert(writing, [new NewTurns(id, source.Turns, match)]);
        foreach (var (words, note) in source.Comments ?? [])
            MarginNoteRows.Insert(writing, studyId, id, new TextAnchor(words), note);
        return id;
    }

    public Step Change(
        Actor actor,
        SourceId id,
        string title,
        SourceKind kind,
        DateOnly? heldOn,
        SessionId? sessionId,
        IReadOnlyList<ParticipantId> participantIds
    ) =>
        workspace.Write(
            actor,
            StudyOf(id),
            $"Changed the source “{title}”",
            writing =>
            {
                writing.Update(
                    "source",
                    id.Value,
                    new
                    {
                        title,
                        kind,
                        heldOn,
                        sessionId,
                    }
                );
                writing.Link("source_participant", "source_id", id.Value, "participant_id", participantIds);
                return id.Value;
            }
        );

    /// <summary>Lines a source's times up with the recording of its session.</summary>
    public Step SetOffset(Actor actor, SourceId id, int offsetMs) =>
        workspace.Write(
            actor,
            StudyOf(id),
            "Lined a source up with a recording",
            writing =>
            {
                writing.Update("source", id.Value, new { offsetMs });
                return id.Value;
            }
        );

    /// <summary>Takes a source away with everything that stands in it, as one step.</summary>
    public Step Remove(Actor actor, SourceId id) =>
        workspace.Write(
            actor,
            StudyOf(id),
            "Removed a source",
            writing =>
            {
                writing.Label = $"Removed the source “{TitleOf(writing, id)}”";
                foreach (var routing in writing.Connection.Query<long>("SELECT id FROM routing WHERE source_id = @id", new { id }).ToList())
                    writing.Update("routing", routing, new { state = "dismissed", sourceId = (long?)null });
                // The file itself stays for undo.
                writing.Remove("source", id.Value);
                return id.Value;
            }
        );

    private static string TitleOf(Writing writing, SourceId id) =>
        writing.Connection.QuerySingle<string>("SELECT title FROM source WHERE id = @id", new { id });
}
