using Dapper;
using Vitrine.Core.Mark.Observations;
using Vitrine.Core.Text;
using Vitrine.Storage.Anchors;
using Vitrine.Storage.Sql;
using Vitrine.Storage.Trail;

namespace Vitrine.Storage.Mark.Observations;

/// <summary>Observations split in two and joined to one, each as one step, with all that hangs on them.</summary>
public sealed class ObservationPieces(Workspace workspace)
{
    /// <summary>
    /// Splits an observation in a text in two. Both carry its tags with their values, sentiment and star, and stand in its themes and
    /// insights; the note stays with the first.
    /// </summary>
    /// <param name="at">Where the second begins, a position inside it.</param>
    /// <exception cref="Refusal">It does not stand in a text, or the place leaves one of them without words.</exception>
    public Step Split(Actor actor, ObservationId id, int at)
    {
        var studyId = new ObservationStore(workspace).StudyOf(id);
        return workspace.Write(
            actor,
            studyId,
            "Split an observation",
            writing =>
            {
                var row = RowsOf(writing, [id])[0];
                var text = ObservationRows.GroundOf(writing.Connection, row.SourceId).Text;
                var (first, second) = row.Range.Split(text, at);
                if (first is not { } before || second is not { } after)
                    throw Refusal.Because("Put the caret inside the observation, with words on both sides, and split it there.", "at");
                writing.Update("observation", id, AnchorRow.Of(new TextAnchor(before)));
                var other = ObservationRows.Insert(writing, studyId, row.SourceId, new TextAnchor(after), row.Starred, row.CreatedBy);
                writing.Update("observation", other, new { sentiment = row.Sentiment, unsure = row.Unsure });
                Copy(writing, id, other);
                writing.Label = $"Split an observation before “{Excerpt.Beginning(after.Of(text))}”";
                return other;
            }
        );
    }

    /// <summary>
    /// Joins observations in one text to one that covers them all. It carries all their tags, values and notes, and stands in all their
    /// themes and insights.
    /// </summary>
    /// <exception cref="Refusal">
    /// They are fewer than two, of several sources, or carry different values of one tag, of which nobody but a person can choose.
    /// </exception>
    public Step Join(Actor actor, StudyId studyId, IReadOnlyList<ObservationId> ids) =>
        workspace.Write(
            actor,
            studyId,
            "Joined observations",
            writing =>
            {
                foreach (var id in ids)
                    writing.Expect("observation", id, "study_id", studyId);
                var rows = RowsOf(writing, [.. ids.Distinct()]);
                if (rows.Count < 2)
                    throw Refusal.Because("Choose two observations or more to join them.", "observationIds");
                if (rows.Any(r => r.SourceId != rows[0].SourceId))
                    throw Refusal.Because("Only observations of one source can be joined.", "observationIds");
                if (ValuesApart(writing, rows) is { } tag)
                    throw Refusal.Because(
                        $"They carry different values of “{tag}”. Give them the same value, then join them.",
                        "observationIds"
                    );
                var kept = rows[0];
                var sentiments = rows.Select(r => r.Sentiment).OfType<Sentiment>().Distinct().ToList();
                var range = rows.Aggregate(kept.Range, (all, r) => all.Cover(r.Range));
                foreach (var other in rows.Skip(1))
                {
                    Copy(writing, other.Id, kept.Id);
                    writing.Remove("observation", other.Id);
                }
                writing.Update("observation", kept.Id, AnchorRow.Of(new TextAnchor(range)));
                writing.Update(
                    "observation",
                    kept.Id,
                    new
                    {
                        note = string.Join("\n\n", rows.Select(r => r.Note).Where(n => n.Length > 0).Distinct()),
                        sentiment = sentiments.Count > 1 ? Sentiment.Mixed : sentiments.Cast<Sentiment?>().FirstOrDefault(),
                        starred = rows.Any(r => r.Starred),
                        unsure = rows.Any(r => r.Unsure),
                    }
                );
                writing.Label = $"Joined {rows.Count} observations";
                return kept.Id;
            }
        );

    private static string? ValuesApart(Writing writing, IReadOnlyList<Row> rows) =>
        writing.Connection.QueryFirstOrDefault<string>(
            """
            SELECT t.name FROM observation_tag x JOIN tag t ON t.id = x.tag_id WHERE x.observation_id IN (SELECT value FROM json_each(@ids))
            GROUP BY x.tag_id HAVING count(DISTINCT x.value) > 1
            """,
            new { ids = Ids.Json(rows.Select(r => r.Id)) }
        );

    /// <summary>Puts one observation's tags, values, themes and insights on another that lacks them.</summary>
    private static void Copy(Writing writing, ObservationId from, ObservationId to)
    {
        var pair = new { from, to };
        var tags = writing.Connection.Query<(TagId Tag, double? Value, long? There, double? Own)>(
            """
            SELECT x.tag_id, x.value, y.id, y.value FROM observation_tag x
            LEFT JOIN observation_tag y ON y.observation_id = @to AND y.tag_id = x.tag_id WHERE x.observation_id = @from ORDER BY x.id
            """,
            pair
        );
        foreach (var (tagId, value, there, own) in tags.ToList())
        {
            if (there is null)
                writing.Insert(
                    "observation_tag",
                    new
                    {
                        observationId = to,
                        tagId,
                        value,
                    }
                );
            else if (own is null && value is not null)
                writing.Update("observation_tag", there.Value, new { value });
        }
        foreach (var (table, owner) in (ReadOnlySpan<(string, string)>)[("theme_observation", "theme_id"), ("evidence", "insight_id")])
        {
            var found = writing.Connection.Query<(long Owner, string Stance, long Position)>(
                $"""
                SELECT {owner}, stance, {(
                    table == "evidence" ? "position" : "0"
                )} FROM {table} f WHERE observation_id = @from AND NOT EXISTS
                (SELECT 1 FROM {table} g WHERE g.observation_id = @to AND g.{owner} = f.{owner}) ORDER BY id
                """,
                pair
            );
            foreach (var (thing, stance, position) in found.ToList())
            {
                var row = new Dictionary<string, object?>
                {
                    [owner] = thing,
                    ["observation_id"] = to,
                    ["stance"] = stance,
                };
                if (table == "evidence")
                    row["position"] = position;
                writing.Insert(table, row);
            }
        }
    }

    private static IReadOnlyList<Row> RowsOf(Writing writing, IReadOnlyList<ObservationId> ids)
    {
        var rows = writing
            .Connection.Query<Row>(
                """
                SELECT id, source_id, start, "end", note, sentiment, starred, unsure, created_by FROM observation
                WHERE id IN (SELECT value FROM json_each(@ids)) AND start IS NOT NULL ORDER BY start, "end" DESC, id
                """,
                new { ids = Ids.Json(ids) }
            )
            .AsList();
        return rows.Count == ids.Count
            ? rows
            : throw Refusal.Because("Only observations in a text can be split or joined.", "observationIds");
    }

    private sealed record Row
    {
        public ObservationId Id { get; init; }
        public SourceId SourceId { get; init; }
        public int Start { get; init; }
        public int End { get; init; }
        public string Note { get; init; } = "";
        public Sentiment? Sentiment { get; init; }
        public bool Starred { get; init; }
        public bool Unsure { get; init; }
        public AccountId CreatedBy { get; init; }

        public TextRange Range => new(Start, End);
    }
}
