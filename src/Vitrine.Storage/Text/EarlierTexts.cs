using Dapper;
using Microsoft.Data.Sqlite;
using Vitrine.Core.Gather.Turns;
using Vitrine.Storage.Sql;

namespace Vitrine.Storage.Text;

/// <summary>
/// What stood in sources before they were corrected: words may have been copied from there. Who spoke is told by the names before the words
/// as they are matched now; words of nobody known are taken to be anybody's who takes part.
/// </summary>
internal static class EarlierTexts
{
    /// <summary>The sources in which somebody takes part, or did before a correction.</summary>
    public static IReadOnlyList<SourceId> SourcesOf(SqliteConnection connection, IEnumerable<ParticipantId> people) =>
        connection
            .Query<SourceId>(
                """
                SELECT source_id FROM source_person WHERE participant_id IN (SELECT value FROM json_each(@people))
                UNION SELECT s.id FROM change c JOIN source s ON s.id = json_extract(coalesce(c.before, c.after), '$.source_id')
                WHERE EXISTS (SELECT 1 FROM change t WHERE t.table_name = 'source_text' AND t.before IS NOT NULL AND t.after IS NOT NULL)
                  AND c.table_name IN ('speaker', 'source_participant')
                  AND (json_extract(c.before, '$.participant_id') IN (SELECT value FROM json_each(@people))
                    OR json_extract(c.after, '$.participant_id') IN (SELECT value FROM json_each(@people)))
                """,
                new { people = Ids.Json(people) }
            )
            .AsList();

    /// <summary>The turns of all earlier texts of the given sources that are, or may be, of one of the people.</summary>
    public static ILookup<SourceId, string> Said(SqliteConnection connection, string? sources, Func<ParticipantId, bool> theirs)
    {
        var texts = connection
            .Query<(SourceId Source, string Text)>(
                """
                SELECT o.source_id, o.text FROM source_original o WHERE o.source_id IN (SELECT value FROM json_each(@sources))
                UNION SELECT t.source_id, json_extract(c.before, '$.text') FROM source_text t
                  JOIN change c ON c.table_name = 'source_text' AND c.row_id = t.id
                  WHERE t.source_id IN (SELECT value FROM json_each(@sources)) AND json_extract(c.before, '$.text') <> t.text
                UNION SELECT t.source_id, json_extract(c.after, '$.text') FROM source_text t
                  JOIN change c ON c.table_name = 'source_text' AND c.row_id = t.id
                  WHERE t.source_id IN (SELECT value FROM json_each(@sources)) AND json_extract(c.after, '$.text') <> t.text
                """,
                new { sources }
            )
            .ToList();
        if (texts.Count == 0)
            return texts.ToLookup(t => t.Source, t => t.Text);
        var speakers = connection
            .Query<(SourceId Source, string Label, ParticipantId? Person, bool Team)>(
                """
                SELECT source_id, label, participant_id, is_team FROM speaker
                WHERE source_id IN (SELECT value FROM json_each(@sources))
                """,
                new { sources }
            )
            .ToLookup(s => s.Source);
        return texts
            .SelectMany(t =>
            {
                var here = speakers[t.Source].GroupBy(s => s.Label).ToDictionary(s => s.Key, s => s.First());
                return TurnReading
                    .Of(t.Text, here.ContainsKey)
                    .Where(turn =>
                        turn.Speaker is null
                        || !here.TryGetValue(turn.Speaker, out var who)
                        || (who.Person is { } person ? theirs(person) : !who.Team)
                    )
                    .Select(turn => (t.Source, Words: turn.Words.Of(t.Text)));
            })
            .ToLookup(t => t.Source, t => t.Words);
    }
}
