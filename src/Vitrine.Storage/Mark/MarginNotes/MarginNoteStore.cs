using Dapper;
using Vitrine.Core.Mark.Observations;
using Vitrine.Core.Sort.TagSet;
using Vitrine.Storage.Anchors;
using Vitrine.Storage.Mark.Observations;
using Vitrine.Storage.Sql;
using Vitrine.Storage.Tags;
using Vitrine.Storage.Trail;

namespace Vitrine.Storage.Mark.MarginNotes;

/// <summary>A remark on a place of a source, which is not (yet) evidence.</summary>
public sealed record MarginNote
{
    public MarginNoteId Id { get; init; }
    public SourceId SourceId { get; init; }
    public required Anchor Anchor { get; init; }
    public string Words { get; init; } = "";

    /// <summary>Whether the reading is unsure: to be looked at again.</summary>
    public bool Unsure { get; init; }
    public long Version { get; init; }
    public AccountId CreatedById { get; init; }
    public string CreatedBy { get; init; } = "";
    public DateTimeOffset CreatedAt { get; init; }
}

/// <summary>Margin notes: writing, listing, turning into observations.</summary>
public sealed class MarginNoteStore(Workspace workspace)
{
    /// <summary>A source's margin notes, in the order of their places.</summary>
    /// <param name="viewer">Who looks.</param>
    public IReadOnlyList<MarginNote> In(SourceId sourceId, AccountId viewer)
    {
        using var connection = workspace.OpenFor(viewer);
        return connection
            .Query<MarginNote, AnchorRow, MarginNote>(
                $"""
                SELECT o.id, o.source_id, o.words, o.unsure, o.version, o.created_by AS created_by_id, a.name AS created_by, o.created_at,
                  {AnchorRow.Columns}
                FROM margin_note o JOIN account a ON a.id = o.created_by
                WHERE o.source_id = @sourceId
                ORDER BY o.start, o.begin_ms, o.id
                """,
                (note, at) => note with { Anchor = at.Anchor },
                new { sourceId },
                splitOn: AnchorRow.First
            )
            .AsList();
    }

    /// <exception cref="Refusal">There is no such note.</exception>
    public StudyId StudyOf(MarginNoteId id)
    {
        using var connection = workspace.Open();
        return connection.QueryFirstOrDefault<long?>("SELECT study_id FROM margin_note WHERE id = @id", new { id })
            ?? throw Refusal.Missing("margin note");
    }

    /// <summary>Writes a note on a place of a source.</summary>
    public Step Make(Actor actor, SourceId sourceId, AnchorGiven given, string words, bool unsure, string? basedOn = null)
    {
        StudyId studyId;
        using (var connection = workspace.Open())
            studyId =
                connection.QueryFirstOrDefault<long?>("SELECT study_id FROM source WHERE id = @sourceId", new { sourceId })
                ?? throw Refusal.Missing("source");
        return workspace.Write(
            actor,
            studyId,
            "Wrote a margin note",
            writing =>
            {
                var ground = ObservationRows.GroundOf(writing.Connection, sourceId);
                var anchor = Placing.Fitting(Placing.Following(writing, sourceId, given, basedOn), ground);
                writing.Label = $"Wrote a margin note on {Placing.InWords(anchor, ground)}";
                return MarginNoteRows.Insert(writing, studyId, sourceId, anchor, words, unsure).Value;
            }
        );
    }

    /// <summary>Rewrites the note that the person saw as <paramref name="was"/>.</summary>
    public Step Rewrite(Actor actor, MarginNoteId id, string was, string words) =>
        workspace.Write(
            actor,
            StudyOf(id),
            "Rewrote a margin note",
            writing =>
            {
                writing.Rewrite("margin_note", id.Value, "words", was, words);
                return id.Value;
            }
        );

    public Step SetUnsure(Actor actor, MarginNoteId id, bool unsure) =>
        workspace.Write(
            actor,
            StudyOf(id),
            unsure ? "Marked a margin note as unsure" : "Marked a margin note as sure",
            writing =>
            {
                writing.Update("margin_note", id.Value, new { unsure });
                return id.Value;
            }
        );

    /// <summary>Removes notes as one step.</summary>
    public Step Remove(Actor actor, StudyId studyId, IReadOnlyList<MarginNoteId> ids) =>
        workspace.Write(
            actor,
            studyId,
            ids.Count == 1 ? "Removed a margin note" : $"Removed {ids.Count} margin notes",
            writing =>
            {
                foreach (var id in ids)
                    writing.Remove("margin_note", id.Value);
            }
        );

    /// <summary>
    /// Turns notes into observations under tags, as one step. What was written becomes the note of the observation, under its writer's name
    /// when somebody else turns it; notes on the very same place become one observation.
    /// </summary>
    /// <returns>The step, with the id of the first observation.</returns>
    public Step Turn(
        Actor actor,
        StudyId studyId,
        IReadOnlyList<MarginNoteId> ids,
        IReadOnlyList<TagId> tagIds,
        IReadOnlyList<NewTag> newTags
    ) =>
        workspace.Write(
            actor,
            studyId,
            ids.Count == 1 ? "Turned a margin note into an observation" : $"Turned {ids.Count} margin notes into observations",
            writing =>
            {
                foreach (var id in ids)
                    writing.Expect("margin_note", id.Value, "study_id", studyId.Value);
                var tags = tagIds.Concat(TagNames.FindOrMake(writing, studyId, newTags)).ToList();
                var notes = writing
                    .Connection.Query<MarginNote, AnchorRow, MarginNote>(
                        $"""
                        SELECT o.id, o.source_id, o.words, o.unsure, o.created_by AS created_by_id, a.name AS created_by,
                          {AnchorRow.Columns}
                        FROM margin_note o JOIN account a ON a.id = o.created_by WHERE o.id IN (SELECT value FROM json_each(@ids))
                        ORDER BY o.source_id, o.start, o.id
                        """,
                        (note, at) => note with { Anchor = at.Anchor },
                        new { ids = Ids.Json(ids) },
                        splitOn: AnchorRow.First
                    )
                    .ToList();
                ObservationId? first = null;
                foreach (var note in notes)
                {
                    var id =
                        ObservationStore.Same(writing.Connection, note.SourceId, note.Anchor, actor.AccountId)
                        ?? ObservationRows.Insert(writing, studyId, note.SourceId, note.Anchor);
                    var there = writing.Connection.QuerySingle<string>("SELECT note FROM observation WHERE id = @id", new { id });
                    var words = note.CreatedById == actor.AccountId ? note.Words : $"{note.CreatedBy}: {note.Words}";
                    writing.Update("observation", id.Value, new { note = there.Length == 0 ? words : $"{there}\n\n{words}" });
                    if (note.Unsure)
                        writing.Update("observation", id.Value, new { unsure = true });
                    ObservationStore.AddTags(writing, id, tags);
                    writing.Remove("margin_note", note.Id.Value);
                    first ??= id;
                }
                return first?.Value ?? throw Refusal.Because("Choose the notes that become observations.", "marginNoteIds");
            }
        );
}
