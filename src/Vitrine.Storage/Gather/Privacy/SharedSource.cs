using System.Text.Json;
using Dapper;
using Microsoft.Data.Sqlite;
using Vitrine.Core.Gather.Corrections;
using Vitrine.Core.Gather.Privacy;
using Vitrine.Core.Text;
using Vitrine.Storage.Catalogue;
using Vitrine.Storage.Media;
using Vitrine.Storage.Sql;

namespace Vitrine.Storage.Gather.Privacy;

/// <summary>A source in which others take part as well, when one person is erased.</summary>
internal static class SharedSource
{
    /// <summary>Takes one person out of a source that is also others'. Nobody who remains is credited with what nobody knows.</summary>
    public static void Share(
        SqliteConnection connection,
        ErasedRows erased,
        SourceId source,
        ParticipantId participant,
        SharedDecision? decided,
        NewMedia? instead
    )
    {
        if (instead is null && decided?.What is (SharedOutcome.Silence or SharedOutcome.Cover))
            throw new InvalidOperationException("The file that is to take the place of this one is not there.");
        CutOut(connection, erased, source, participant, decided?.Ranges ?? []);
        Forget(connection, erased, source);
        connection.Execute("UPDATE source SET people_erased = people_erased + 1 WHERE id = @source", new { source });
        erased.Images("source", [source.Value]);
        var (studyId, file, type) = connection.QuerySingle<(StudyId, MediaId?, string?)>(
            "SELECT s.study_id, m.id, m.type FROM source s LEFT JOIN media m ON m.id = s.media_id WHERE s.id = @source",
            new { source }
        );
        // The file of a text holds it as it came in.
        if (file is not { } came || (instead is null && type!.Split('/')[0] is "audio" or "video" or "image"))
            return;
        MediaId? now = null;
        if (instead is not null)
            now = connection.QuerySingle<long>(
                """
                INSERT INTO media (key, study_id, hash, name, type, bytes, created_by, created_at)
                SELECT @key, study_id, @Hash, @Name, @Type, @Bytes, created_by, created_at FROM media WHERE id = @came RETURNING id
                """,
                new
                {
                    key = Guid.CreateVersion7().ToString(),
                    instead.Hash,
                    instead.Name,
                    instead.Type,
                    instead.Bytes,
                    came,
                }
            );
        connection.Execute("UPDATE source SET media_id = @now WHERE id = @source", new { now, source });
        if (instead is not null)
            connection.Execute("DELETE FROM protection WHERE source_id = @source", new { source });
        erased.Row("media", came.Value);
    }

    /// <summary>
    /// Cuts one person's turns, and other words of theirs, out of a source. What was marked of the others stays on its words.
    /// </summary>
    private static void CutOut(
        SqliteConnection connection,
        ErasedRows erased,
        SourceId source,
        ParticipantId participant,
        IReadOnlyList<TextRange> more
    )
    {
        var text = connection.QuerySingle<string>("SELECT text FROM source_text WHERE source_id = @source", new { source });
        var turns = connection
            .Query<(long Id, int Start, int End, long? Begin, bool Theirs)>(
                """
                SELECT t.id, t.start, t."end", t.begin_ms, coalesce(p.participant_id = @participant, 0) FROM turn t
                LEFT JOIN speaker p ON p.id = t.speaker_id WHERE t.source_id = @source ORDER BY t.start
                """,
                new { source, participant }
            )
            .Select(t => t with { Theirs = t.Theirs || more.Any(m => m.Start <= t.Start && m.End >= t.End) })
            .ToList();
        // With the name before the words, which stands on the same line.
        var edits = new List<(int Start, int End, string Words)>();
        foreach (
            var (start, end) in turns
                .Where(t => t.Theirs)
                .Select(t => (Start: LineStart(text, t.Start), t.End))
                .Concat(more.Select(m => (Start: Math.Max(0, m.Start), End: Math.Min(text.Length, m.End))).Where(m => m.Start < m.End))
                .OrderBy(e => e.Start)
        )
        {
            if (edits.Count > 0 && start < edits[^1].End)
                edits[^1] = (edits[^1].Start, Math.Max(edits[^1].End, end), Erasure.Left);
            else
                edits.Add((start, end, Erasure.Left));
        }
        if (edits.Count == 0)
            return;
        var moved = Reanchor.Through(text, edits);
        foreach (var turn in turns.Where(t => t.Theirs))
            erased.Row("turn", turn.Id);
        foreach (var table in new[] { "observation", "margin_note" })
        {
            foreach (
                var (id, start, end) in connection
                    .Query<(long, int, int)>(
                        $"SELECT id, start, \"end\" FROM {table} WHERE source_id = @source AND start IS NOT NULL",
                        new { source }
                    )
                    .ToList()
            )
            {
                if (more.Any(m => m.Start < end && start < m.End))
                    erased.Remove(table, id);
            }
        }
        Rewrite(connection, source, moved);
        foreach (
            var line in connection
                .Query<long>(
                    """
                    SELECT l.id FROM live_line l JOIN live_notes n ON n.id = l.live_notes_id WHERE n.source_id = @source
                    AND l.begin_ms IN (SELECT value FROM json_each(@times))
                    """,
                    new { source, times = Ids.Json(turns.Where(t => t.Theirs).Select(t => t.Begin).OfType<long>()) }
                )
                .ToList()
        )
            erased.Remove("live_line", line);
        foreach (
            var speaker in connection
                .Query<long>(
                    "SELECT id FROM speaker WHERE source_id = @source AND participant_id = @participant",
                    new { source, participant }
                )
                .ToList()
        )
            erased.Row("speaker", speaker);
    }

    /// <summary>Earlier texts of a source may hold their words, also where the text as it stands does not any more.</summary>
    public static void Forget(SqliteConnection connection, ErasedRows erased, SourceId source)
    {
        erased.All("source_original", "source_id", source.Value);
        erased.All("correction_look", "source_id", source.Value);
        foreach (var table in new[] { "source_text", "source_shape" })
            erased.Images(table, connection.Query<long>($"SELECT id FROM {table} WHERE source_id = @source", new { source }));
        // Marks on their words that were taken away before are told of by the words.
        foreach (var table in new[] { "observation", "margin_note" })
        {
            erased.Images(
                table,
                connection.Query<long>(
                    $"""
                    SELECT DISTINCT row_id FROM change WHERE table_name = '{table}'
                    AND json_extract(coalesce(before, after), '$.source_id') = @source AND row_id NOT IN (SELECT id FROM {table})
                    """,
                    new { source }
                )
            );
        }
    }

    /// <summary>Puts another text in the place of a source's, and moves everything that stands in it along.</summary>
    public static void Rewrite(SqliteConnection connection, SourceId source, Reanchor moved)
    {
        foreach (var table in WorkspaceCatalogue.Own.Tables.Where(t => t.StandsInText).Select(t => t.Table))
        {
            foreach (
                var (id, start, end) in connection
                    .Query<(long, int, int)>(
                        $"SELECT id, start, \"end\" FROM {table} WHERE source_id = @source AND start IS NOT NULL",
                        new { source }
                    )
                    .ToList()
            )
            {
                var now = moved.Block(new TextRange(start, end)) ?? moved.Of(new TextRange(start, end)).Range;
                connection.Execute(
                    $"UPDATE {table} SET start = @Start, \"end\" = @End WHERE id = @id",
                    new
                    {
                        now.Start,
                        now.End,
                        id,
                    }
                );
            }
        }
        if (connection.QueryFirstOrDefault<string>("SELECT shape FROM source_shape WHERE source_id = @source", new { source }) is { } shape)
        {
            connection.Execute(
                "UPDATE source_shape SET shape = @shape WHERE source_id = @source",
                new { source, shape = JsonSerializer.Serialize(CorrectedText.ShapeOf(moved, JsonSerializer.Deserialize<Shape>(shape)!)) }
            );
        }
        connection.Execute("UPDATE source_text SET text = @After WHERE source_id = @source", new { moved.After, source });
        connection.Execute(
            "UPDATE source SET content_hash = @hash, length = @Length WHERE id = @source",
            new
            {
                hash = ContentHash.Of(moved.After),
                moved.After.Length,
                source,
            }
        );
    }

    private static int LineStart(string text, int position) => text.LastIndexOf('\n', Math.Max(0, position - 1)) + 1;
}
