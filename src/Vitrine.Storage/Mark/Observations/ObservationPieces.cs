using Dapper;
using Vitrine.Core.Mark.Observations;
using Vitrine.Storage.Anchors;
using Vitrine.Storage.Sql;
using Vitrine.Storage.Trail;

namespace Vitrine.Storage.Mark.Observations;

/// <summary>Observations split in two and joined to one, each as one step, with all that hangs on them.</summary>
public sealed class ObservationPieces(Workspace workspace)
{
    /// <summary>
    /// Splits an observation in a text or a recording in two. Both carry its tags with their values, sentiment and star, and stand in its
    /// themes and insights; the note stays with the first.
    /// </summary>
    /// <param name="at">Where the second begins, a position inside it.</param>
    /// <exception cref="Refusal">It is a region, or the place leaves one of them without words or time.</exception>
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
                var ground = ObservationRows.GroundOf(writing.Connection, row.SourceId);
                if (row.At.Anchor.Split(ground.Text, at) is not ({ } before, { } after))
                    throw Refusal.Because(
                        row.At.Anchor.Kind switch
                        {
                            AnchorKind.Text => "Put the caret inside the observation, with words on both sides, and split it there.",
                            AnchorKind.Time => "Go to a moment inside the clip, and split it there.",
                            _ => "Only observations in a text or a recording can be split.",
                        },
                        "at"
                    );
                writing.Update("observation", id.Value, AnchorRow.Of(before));
                var other = ObservationRows.Insert(writing, studyId, row.SourceId, after, row.Starred, row.CreatedBy);
                writing.Update("observation", other.Value, new { sentiment = row.Sentiment, unsure = row.Unsure });
                Copy(writing, id, other);
                writing.Label = $"Split an observation before {Placing.InWords(after, ground)}";
                return other.Value;
            }
        );
    }

    /// <summary>
    /// Joins observations in one text or recording to one that covers them all. It carries all their tags, values and notes, and stands in
    /// all their themes and insights.
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
                    writing.Expect("observation", id.Value, "study_id", studyId.Value);
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
                var whole =
                    rows.Aggregate((Anchor?)kept.At.Anchor, (all, r) => all?.Cover(r.At.Anchor))
                    ?? throw Refusal.Because("Only observations in one text, or clips of one recording, can be joined.", "observationIds");
                foreach (var other in rows.Skip(1))
                {
                    Copy(writing, other.Id, kept.Id);
                    writing.Remove("observation", other.Id.Value);
                }
                writing.Update("observation", kept.Id.Value, AnchorRow.Of(whole));
                writing.Update(
                    "observation",
                    kept.Id.Value,
                    new
                    {
                        note = string.Join("\n\n", rows.Select(r => r.Note).Where(n => n.Length > 0).Distinct()),
                        sentiment = sentiments.Count > 1 ? Sentiment.Mixed : sentiments.Cast<Sentiment?>().FirstOrDefault(),
                        starred = rows.Any(r => r.Starred),
                        unsure = rows.Any(r => r.Unsure),
                    }
                );
                writing.Label = $"Joined {rows.Count} observations";
                return kept.Id.Value;
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
            .Connection.Query<Row, AnchorRow, Row>(
                $"""
                SELECT o.id, o.source_id, o.note, o.sentiment, o.starred, o.unsure, o.created_by, {AnchorRow.Columns} FROM observation o
                WHERE o.id IN (SELECT value FROM json_each(@ids)) ORDER BY o.start, o.begin_ms, o."end" DESC, o.end_ms DESC, o.id
                """,
                (row, at) => row with { At = at },
                new { ids = Ids.Json(ids) },
                splitOn: AnchorRow.First
            )
            .AsList();
        return rows.Count == ids.Count ? rows : throw Refusal.Missing("observation");
    }

    private sealed record Row
    {
        public ObservationId Id { get; init; }
        public SourceId SourceId { get; init; }
        public AnchorRow At { get; init; } = new();
        public string Note { get; init; } = "";
        public Sentiment? Sentiment { get; init; }
        public bool Starred { get; init; }
        public bool Unsure { get; init; }
        public AccountId CreatedBy { get; init; }
    }
}
