using System.Text.Json;
using Dapper;
using Microsoft.Data.Sqlite;
using Vitrine.Core.Counting;
using Vitrine.Core.Mark.Observations;
using Vitrine.Storage.Anchors;
using Vitrine.Storage.Counting;
using Vitrine.Storage.Sql;
using Vitrine.Storage.Trail;

namespace Vitrine.Storage.Mark.MarginNotes;

/// <summary>What carries a note.</summary>
public enum NotedThing
{
    MarginNote,
    Observation,
}

/// <summary>A margin note, or an observation that carries a note or is unsure.</summary>
public sealed record Note
{
    public NotedThing On { get; init; }

    /// <summary>The number of the margin note, or of the observation.</summary>
    public long Id { get; init; }
    public SourceId SourceId { get; init; }
    public required Anchor Anchor { get; init; }

    /// <summary>What was written; empty for an observation that is unsure and carries no note.</summary>
    public string Words { get; init; } = "";

    /// <summary>The words it stands on; empty where it stands in time or in a picture.</summary>
    public string Quote { get; init; } = "";

    /// <summary>Whose words these are; null when they are the team's, or it is not known.</summary>
    public ParticipantId? ParticipantId { get; init; }
    public bool Unsure { get; init; }
    public AccountId CreatedById { get; init; }
    public string CreatedBy { get; init; } = "";
    public DateTimeOffset CreatedAt { get; init; }
    public IReadOnlyList<TagId> TagIds { get; init; } = [];
}

/// <summary>Some of many notes.</summary>
/// <param name="Notes">Those of the page, by source and place.</param>
/// <param name="Total">How many there are on all pages.</param>
public sealed record NotePage(IReadOnlyList<Note> Notes, int Total);

/// <summary>All notes of a study, those in the margin and those on observations, and all that is unsure.</summary>
public sealed class NoteList(Workspace workspace, SeenStudies studies)
{
    private const string All = $"""
        SELECT 'marginNote' AS "on", n.id, n.source_id, n.words, n.unsure, n.created_by, n.created_at, {AnchorRow.Own} FROM margin_note n
        WHERE n.study_id = @studyId
        UNION ALL
        SELECT 'observation', n.id, n.source_id, n.note, n.unsure, n.created_by, n.created_at, {AnchorRow.Own} FROM observation n
        WHERE n.study_id = @studyId AND (n.note <> '' OR n.unsure = 1)
        """;

    private const string Placed = $"""
        FROM ({All}) o JOIN account a ON a.id = o.created_by JOIN source s ON s.id = o.source_id
        WHERE @fitting IS NULL OR o."on" || o.id IN (SELECT value FROM json_each(@fitting))
        """;

    /// <param name="viewer">Who looks.</param>
    /// <param name="where">Which notes; a margin note is asked like an observation without tags. Null for all.</param>
    /// <param name="page">Which page, from 0.</param>
    /// <param name="size">How many a page holds.</param>
    public NotePage Page(StudyId studyId, AccountId viewer, Conditions? where, int page, int size)
    {
        using var connection = workspace.OpenFor(viewer);
        using var snapshot = connection.BeginTransaction(deferred: true);
        var index = studies.Load(studyId, viewer);
        var fitting = where is { Any: true } ? Fitting(connection, index, viewer, where) : null;
        var notes = connection
            .Query<Note, AnchorRow, Note>(
                $"""
                SELECT o."on", o.id, o.source_id, o.words, o.unsure, o.created_by AS created_by_id, a.name AS created_by, o.created_at,
                  {AnchorRow.Columns}
                {Placed}
                ORDER BY s.position, s.id, o.start, o.begin_ms, o."on", o.id LIMIT @size OFFSET @from
                """,
                (note, at) => note with { Anchor = at.Anchor },
                new
                {
                    studyId,
                    viewer,
                    fitting,
                    size,
                    from = Math.Min((long)page * size, int.MaxValue),
                },
                splitOn: AnchorRow.First
            )
            .ToList();
        var texts = connection
            .Query<(SourceId Id, string Text)>(
                "SELECT source_id, text FROM source_text WHERE source_id IN (SELECT value FROM json_each(@ids))",
                new { ids = Ids.Json(notes.Select(n => n.SourceId).Distinct()) }
            )
            .ToDictionary(t => t.Id, t => t.Text);
        var onObservations = notes.Where(n => n.On == NotedThing.Observation).Select(n => (ObservationId)n.Id).ToList();
        var tags = connection
            .Query<(long Observation, TagId Tag)>(
                """
                SELECT observation_id, tag_id FROM observation_tag WHERE observation_id IN (SELECT value FROM json_each(@ids))
                ORDER BY id
                """,
                new { ids = Ids.Json(onObservations) }
            )
            .ToLookup(t => t.Observation, t => t.Tag);
        var gone = connection
            .Query<(long Observation, string Words)>(
                """
                SELECT observation_id, old_words FROM correction_look WHERE fate = 'gone'
                AND observation_id IN (SELECT value FROM json_each(@ids))
                """,
                new { ids = Ids.Json(onObservations) }
            )
            .ToDictionary(l => l.Observation, l => l.Words);
        var whose = new WhoseWords(connection, studyId);
        return new NotePage(
            [.. notes.Select(Filled)],
            connection.QuerySingle<int>(
                $"SELECT count(*) {Placed}",
                new
                {
                    studyId,
                    viewer,
                    fitting,
                }
            )
        );

        Note Filled(Note note)
        {
            var quote = (note.Anchor as TextAnchor)?.Range.Of(texts[note.SourceId]) ?? "";
            if (note.On == NotedThing.MarginNote)
                return note with { Quote = quote, ParticipantId = whose.Of(note.SourceId, note.Anchor) };
            return note with
            {
                Quote = gone.GetValueOrDefault(note.Id, quote),
                TagIds = [.. tags[note.Id]],
                // Whose it is counted as.
                ParticipantId = index.PlaceOfObservation(note.Id) is { } place ? index.PersonOf(place) : null,
            };
        }
    }

    /// <summary>A row of <see cref="All"/>, as conditions ask for it.</summary>
    private sealed record NotedRow
    {
        public NotedThing On { get; init; }
        public long Id { get; init; }
        public SourceId SourceId { get; init; }
        public bool Unsure { get; init; }
        public AccountId CreatedBy { get; init; }
    }

    /// <summary>What carries the notes that fit, as JSON.</summary>
    private string Fitting(SqliteConnection connection, StudyIndex index, AccountId viewer, Conditions where)
    {
        var seen = studies.Load(index.StudyId, viewer, where);
        var (sources, people) = (SeenStudies.SourcesFitting(connection, index, where), SeenStudies.PeopleFitting(connection, index, where));
        var whose = new WhoseWords(connection, index.StudyId);
        var placeOf = index.Sources.Select((s, i) => (s.Id, i)).ToDictionary(s => s.Id, s => s.i);
        return JsonSerializer.Serialize(
            connection
                .Query<NotedRow, AnchorRow, (NotedRow Row, Anchor Anchor)>(
                    $"""SELECT o."on", o.id, o.source_id, o.unsure, o.created_by, {AnchorRow.Columns} {Placed}""",
                    (row, at) => (row, at.Anchor),
                    new
                    {
                        studyId = index.StudyId,
                        viewer,
                        fitting = (string?)null,
                    },
                    splitOn: AnchorRow.First
                )
                .Where(n =>
                    n.Row.On == NotedThing.Observation
                        ? seen.PlaceOfObservation(n.Row.Id) is not null
                        : placeOf.TryGetValue(n.Row.SourceId, out var source)
                            && sources[source]
                            && (
                                !where.OfPeople
                                || (whose.Of(n.Row.SourceId, n.Anchor) is { } id && index.PlaceOfPerson(id) is { } person && people[person])
                            )
                            && where.Fits([], n.Row.CreatedBy, sentiment: null, starred: false, n.Row.Unsure, found: false)
                )
                .Select(n => n.Row)
                .Select(n => $"{(n.On == NotedThing.Observation ? "observation" : "marginNote")}{n.Id}")
        );
    }
}
