using Dapper;
using Microsoft.Data.Sqlite;
using Vitrine.Core.Gather.Privacy;
using Vitrine.Storage.Anchors;
using Vitrine.Storage.Sql;
using Vitrine.Storage.Trail;

namespace Vitrine.Storage.Gather.Privacy;

/// <summary>A source in which someone takes part.</summary>
public sealed record TouchedSource
{
    public SourceId Id { get; init; }
    public string Title { get; init; } = "";

    /// <summary>Whether others take part as well; then only what this person says is theirs.</summary>
    public bool Shared { get; init; }

    public int Observations { get; init; }

    /// <summary>Whether a file is kept that holds their words, picture or voice.</summary>
    public bool File { get; init; }
}

/// <summary>Something that rests on a person's words.</summary>
/// <param name="Id">Which.</param>
/// <param name="Title">What it is called.</param>
/// <param name="Theirs">How many of its observations are theirs.</param>
/// <param name="All">Out of how many.</param>
public sealed record TouchedThing(long Id, string Title, int Theirs, int All);

/// <summary>Everything that the withdrawal of a participant touches.</summary>
/// <param name="Sources">Where they speak.</param>
/// <param name="Observations">Marks on their words.</param>
/// <param name="Themes">Themes that hold some of them.</param>
/// <param name="Insights">Insights that some of them are evidence of.</param>
/// <param name="Exhibits">Published pages that show such an insight.</param>
public sealed record Touched(
    IReadOnlyList<TouchedSource> Sources,
    int Observations,
    IReadOnlyList<TouchedThing> Themes,
    IReadOnlyList<TouchedThing> Insights,
    IReadOnlyList<TouchedThing> Exhibits
);

/// <summary>What rests on a participant.</summary>
public sealed class WithdrawalStore(Workspace workspace)
{
    /// <summary>Observations that are someone's: of their own turns, or of a source in which only they take part.</summary>
    internal static readonly string Theirs = TheirsIn("observation");

    /// <summary>What of a table, whose rows stand where observations stand, stands on someone's words.</summary>
    internal static string TheirsIn(string table) =>
        $"""
            SELECT o.id FROM {table} o JOIN source_person v ON v.source_id = o.source_id AND v.participant_id = @id
            WHERE NOT EXISTS (SELECT 1 FROM source_person x WHERE x.source_id = o.source_id AND x.participant_id <> @id)
              OR EXISTS (SELECT 1 FROM turn t JOIN speaker p ON p.id = t.speaker_id
                WHERE t.source_id = o.source_id AND p.participant_id = @id AND (t.start < o."end" AND t."end" > o.start
                OR t.begin_ms < o.end_ms AND coalesce(t.end_ms, t.begin_ms + 1) > o.begin_ms))
            """;

    /// <summary>What themes hold: observations laid in them, and those that carry a tag that was laid in them, or one under it.</summary>
    private const string InThemes = """
        SELECT x.theme_id, x.observation_id FROM theme e JOIN theme_observation x ON x.theme_id = e.id WHERE e.study_id = @studyId
        UNION SELECT u.theme_id, o.observation_id FROM (
          WITH RECURSIVE under (theme_id, tag_id) AS (SELECT a.theme_id, a.tag_id FROM theme e JOIN theme_tag a ON a.theme_id = e.id
            WHERE e.study_id = @studyId UNION SELECT e.id, b.tag_id FROM theme e JOIN theme_tag a ON a.theme_id = e.id
              JOIN bundle_tag b ON b.bundle_id = a.tag_id WHERE e.study_id = @studyId
            UNION SELECT a.theme_id, t.id FROM under a JOIN tag t ON t.parent_id = a.tag_id) SELECT *
            FROM under) u
          JOIN observation_tag o ON o.tag_id = u.tag_id JOIN theme e ON e.id = u.theme_id JOIN observation b ON b.id = o.observation_id
            AND b.study_id = e.study_id
        """;

    /// <summary>What rests on a participant, as far as the viewer may see it.</summary>
    public Touched Touches(StudyId studyId, ParticipantId id, AccountId viewer)
    {
        using var connection = workspace.OpenFor(viewer);
        using var snapshot = connection.BeginTransaction(deferred: true);
        if (!connection.ExecuteScalar<bool>("SELECT count(*) FROM participant WHERE id = @id AND study_id = @studyId", new { id, studyId }))
            throw Refusal.Missing("participant");
        var theirs = Ids.Json(connection.Query<long>(Theirs, new { id }))!;
        var sources = connection
            .Query<TouchedSource>(
                """
                SELECT s.id, s.title, s.media_id IS NOT NULL AS file,
                  EXISTS (SELECT 1 FROM source_person x WHERE x.source_id = s.id AND x.participant_id <> @id) AS shared,
                  (SELECT count(*) FROM observation o WHERE o.source_id = s.id AND o.id IN (SELECT value
                    FROM json_each(@theirs))) AS observations
                FROM source s JOIN source_person v ON v.source_id = s.id AND v.participant_id = @id WHERE s.study_id = @studyId
                  ORDER BY s.position, s.id
                """,
                new
                {
                    studyId,
                    id,
                    theirs,
                }
            )
            .AsList();
        return new Touched(
            sources,
            sources.Sum(s => s.Observations),
            Things($"theme t JOIN ({InThemes}) x ON x.theme_id = t.id", "t.title"),
            Things("insight t JOIN evidence x ON x.insight_id = t.id", "t.headline"),
            Things("exhibit t JOIN exhibit_insight i ON i.exhibit_id = t.id JOIN evidence x ON x.insight_id = i.insight_id", "t.question")
        );

        IReadOnlyList<TouchedThing> Things(string from, string title) =>
            connection
                .Query<(long Id, string Title, int Theirs, int All)>(
                    $"""
                    SELECT t.id, {title}, count(DISTINCT CASE WHEN x.observation_id IN (SELECT value
                    FROM json_each(@theirs)) THEN x.observation_id END) AS theirs, count(DISTINCT x.observation_id) FROM {from}
                    GROUP BY t.id HAVING theirs > 0 ORDER BY t.id
                    """,
                    new { theirs, studyId }
                )
                .Select(t => new TouchedThing(t.Id, t.Title, t.Theirs, t.All))
                .ToList();
    }

    /// <summary>
    /// What the given participants have said: the turns that are matched to them, and those of nobody known in sources where they take
    /// part.
    /// </summary>
    internal static Verbatim Words(SqliteConnection connection, IReadOnlyList<ParticipantId> participants)
    {
        var people = Ids.Json(participants);
        var turns = connection
            .Query<(long Source, int Start, int End)>(
                """
                SELECT t.source_id, t.start, t."end" FROM turn t LEFT JOIN speaker p ON p.id = t.speaker_id
                WHERE p.participant_id IN (SELECT value FROM json_each(@people))
                  OR (p.participant_id IS NULL AND coalesce(p.is_team, 0) = 0 AND t.source_id IN (SELECT source_id FROM source_person
                    WHERE participant_id IN (SELECT value FROM json_each(@people))))
                """,
                new { people }
            )
            .ToList();
        var sources = Ids.Json(turns.Select(t => t.Source).Distinct());
        var texts = connection
            .Query<(long Id, string Text)>(
                "SELECT source_id, text FROM source_text WHERE source_id IN (SELECT value FROM json_each(@sources))",
                new { sources }
            )
            .ToDictionary(t => t.Id, t => t.Text);
        var theirs = turns.ToLookup(t => t.Source);
        var quotes = ObservationRows
            .TextRanges(connection, sources)
            .SelectMany(o => o.Where(q => theirs[o.Key].Any(t => t.Start <= q.Start && t.End >= q.End)).Select(q => q.Of(texts[o.Key])));
        return new Verbatim(turns.Select(t => texts[t.Source][t.Start..t.End]), quotes);
    }
}
