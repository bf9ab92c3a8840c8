using System.Text.Json;
using Dapper;
using Vitrine.Core.Access;
using Vitrine.Core.Gather.Corrections;
using Vitrine.Core.Text;
using Vitrine.Storage.Anchors;
using Vitrine.Storage.Gather.Privacy;
using Vitrine.Storage.Gather.Sources;
using Vitrine.Storage.Gather.Turns;
using Vitrine.Storage.Sql;
using Vitrine.Storage.Trail;

namespace Vitrine.Storage.Gather.Corrections;

/// <summary>A text that takes the place of a source's, with what stands beside it.</summary>
/// <param name="BasedOn">The hash of the text that it corrects.</param>
/// <param name="Moved">Where stretches of the text before stand now.</param>
/// <param name="Turns">The turns of the corrected text.</param>
/// <param name="Shape">Its shape, for a document.</param>
public sealed record Correction(string BasedOn, Reanchor Moved, IReadOnlyList<Turn> Turns, Shape? Shape);

/// <summary>An observation to look at: its words were changed or taken out by a correction.</summary>
public sealed record ToLookAt
{
    public ObservationId ObservationId { get; init; }
    public SourceId SourceId { get; init; }
    public string SourceTitle { get; init; } = "";

    /// <summary>Whether the words are gone; otherwise they were changed.</summary>
    public bool Gone { get; init; }

    public string OldWords { get; init; } = "";

    /// <summary>The words it stands on now; for words that are gone, what stands nearest.</summary>
    public string NewWords { get; init; } = "";

    public int Start { get; init; }
    public int End { get; init; }

    /// <summary>When the first correction since the last look was made.</summary>
    public DateTimeOffset CreatedAt { get; init; }
    public List<TagId> TagIds { get; init; } = [];
}

/// <summary>Corrections to sources' texts, and what is to be looked at after them.</summary>
public sealed class CorrectionStore(Workspace workspace, SourceStore sources, TurnStore turns)
{
    /// <summary>
    /// Corrects a source's text as one step: observations follow their words, those whose words were changed are listed for a look, nothing
    /// is dropped. The first text is kept.
    /// </summary>
    /// <exception cref="Refusal">Someone has corrected it since, or a note-taker corrects what is someone else's.</exception>
    public Step Correct(Actor actor, SourceId id, Correction correction, IReadOnlyCollection<string> team)
    {
        var studyId = sources.StudyOf(id);
        return workspace.Write(
            actor,
            studyId,
            "Corrected a text",
            writing =>
            {
                var (title, maker, hash) = writing.Connection.QuerySingle<(string, long, string)>(
                    "SELECT title, created_by, content_hash FROM source WHERE id = @id",
                    new { id }
                );
                writing.Label = $"Corrected the text of “{title}”";
                if (actor.Role == Role.NoteTaker && maker != actor.AccountId)
                    throw new Refusal(
                        RefusalKind.NotAllowed,
                        "Someone else added this source; a note-taker corrects only what is their own. Ask a researcher of the study."
                    );
                if (hash != correction.BasedOn)
                    throw new Refusal(
                        RefusalKind.Conflict,
                        $"{TrailStore.LastChange(writing.Connection, actor.AccountId, "source", id.Value)} "
                            + $"What you wrote is kept in this browser: open the correction again to "
                            + $"go on with it from the text as it is now.",
                        "text"
                    );
                Apply(writing, id, correction, team);
                return id.Value;
            }
        );
    }

    /// <summary>Corrects a text as part of a larger step.</summary>
    /// <param name="keepFirst">Whether the text as it stands is the first one, to be kept.</param>
    internal void Apply(Writing writing, SourceId id, Correction correction, IReadOnlyCollection<string> team, bool keepFirst = true)
    {
        var (textId, before) = writing.Connection.QuerySingle<(long, string)>(
            "SELECT id, text FROM source_text WHERE source_id = @id",
            new { id }
        );
        var (moved, text) = (correction.Moved, correction.Moved.After);
        if (text == before)
            return;
        if (keepFirst && !writing.Connection.ExecuteScalar<bool>("SELECT count(*) FROM source_original WHERE source_id = @id", new { id }))
            writing.Insert("source_original", new { sourceId = id, text = before });
        writing.Update("source", id.Value, new { contentHash = ContentHash.Of(text), length = text.Length });
        writing.Update("source_text", textId, new { text });
        if (correction.Shape is { } shape)
            writing.Update(
                "source_shape",
                writing.Connection.QuerySingle<long>("SELECT id FROM source_shape WHERE source_id = @id", new { id }),
                new { shape = JsonSerializer.Serialize(shape) }
            );
        turns.Replace(writing, id, correction.Turns, team);
        var looks = writing
            .Connection.Query<(long Observation, long Id, string Words, string Fate)>(
                "SELECT observation_id, id, old_words, fate FROM correction_look WHERE source_id = @id",
                new { id }
            )
            .ToDictionary(l => l.Observation);
        foreach (
            var (observationId, start, end) in writing
                .Connection.Query<(long, int, int)>(
                    "SELECT id, start, \"end\" FROM observation WHERE source_id = @id AND start IS NOT NULL ORDER BY id",
                    new { id }
                )
                .ToList()
        )
        {
            var (words, now) = (new TextRange(start, end).Of(before), moved.Of(new TextRange(start, end)));
            var known = looks.TryGetValue(observationId, out var look);
            writing.Update("observation", observationId, new { now.Range.Start, now.Range.End });
            var fate =
                now.Fate == AnchorFate.Same ? look.Fate
                : known && look.Fate == "gone" ? "gone"
                : StoredName.Of(now.Fate);
            if (known && fate == "changed" && now.Range.Of(text) == look.Words)
                writing.Delete("correction_look", look.Id);
            else if (known && fate != look.Fate)
                writing.Update("correction_look", look.Id, new { fate });
            else if (!known && now.Fate != AnchorFate.Same)
                writing.Insert(
                    "correction_look",
                    new
                    {
                        sourceId = id,
                        observationId,
                        fate,
                        oldWords = words,
                    }
                );
        }
        MarginNoteRows.Follow(writing, id, moved);
        MaskStore.Follow(writing, id, moved);
        Bookmarks.Follow(writing.Connection, id, moved);
    }

    /// <summary>The text as it came in, where it was corrected since.</summary>
    public string? OriginalOf(SourceId id)
    {
        using var connection = workspace.Open();
        return connection.QueryFirstOrDefault<string>("SELECT text FROM source_original WHERE source_id = @id", new { id });
    }

    /// <summary>The observations of a study that are to be looked at and that the viewer may see, by source and place.</summary>
    public IReadOnlyList<ToLookAt> ToLookAtIn(StudyId studyId, AccountId viewer)
    {
        using var connection = workspace.OpenFor(viewer);
        using var snapshot = connection.BeginTransaction(deferred: true);
        var tags = connection
            .Query<(long Observation, long Tag)>(
                """
                SELECT x.observation_id, x.tag_id FROM observation_tag x JOIN correction_look l ON l.observation_id = x.observation_id
                JOIN source s ON s.id = l.source_id WHERE s.study_id = @studyId ORDER BY x.id
                """,
                new { studyId }
            )
            .ToLookup(t => t.Observation, t => t.Tag);
        var texts = connection
            .Query<(long Source, string Text)>(
                """
                SELECT source_id, text FROM source_text WHERE source_id IN (SELECT l.source_id FROM correction_look l
                JOIN source s ON s.id = l.source_id WHERE s.study_id = @studyId)
                """,
                new { studyId }
            )
            .ToDictionary(t => t.Source, t => t.Text);
        return connection
            .Query<ToLookAt>(
                """
                SELECT l.observation_id, l.source_id, s.title AS source_title, l.fate = 'gone' AS gone, l.old_words, o.start, o."end",
                  l.created_at
                FROM correction_look l JOIN observation o ON o.id = l.observation_id JOIN source s ON s.id = l.source_id
                WHERE o.study_id = @studyId ORDER BY s.position, s.id, o.start, o.id
                """,
                new { studyId }
            )
            .Select(l =>
                l with
                {
                    NewWords = new TextRange(l.Start, l.End).Of(texts[l.SourceId.Value]),
                    TagIds = [.. tags[l.ObservationId.Value]],
                }
            )
            .ToList();
    }

    /// <summary>
    /// Says that observations stand rightly on their new words. Those whose words are gone stay on the list: they need a place, or to be
    /// removed.
    /// </summary>
    public Step Settle(Actor actor, StudyId studyId, IReadOnlyList<ObservationId> observationIds) =>
        workspace.Write(
            actor,
            studyId,
            observationIds.Count == 1
                ? "Looked at an observation after a correction"
                : $"Looked at {observationIds.Count} observations after a correction",
            writing =>
            {
                foreach (
                    var look in writing
                        .Connection.Query<long>(
                            """
                            SELECT id FROM correction_look WHERE fate = 'changed' AND source_id IN (SELECT id FROM source
                            WHERE study_id = @studyId) AND observation_id IN (SELECT value FROM json_each(@ids))
                            """,
                            new { studyId, ids = Ids.Json(observationIds) }
                        )
                        .ToList()
                )
                    writing.Delete("correction_look", look);
            }
        );
}
