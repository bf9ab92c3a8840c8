using Dapper;
using Microsoft.Data.Sqlite;
using Vitrine.Storage.Access;
using Vitrine.Storage.Trail;

namespace Vitrine.Storage.Show.Exhibits;

/// <summary>A published page's words.</summary>
public sealed record Exhibit
{
    public ExhibitId Id { get; init; }
    public string Question { get; init; } = "";
    public string Summary { get; init; } = "";
    public long Version { get; init; }
    public DateTimeOffset UpdatedAt { get; init; }
    public int Insights { get; init; }
    public int OpenLinks { get; init; }
}

/// <summary>A secret link to an exhibit. The token itself is shown once, when it is made; only its hash is kept.</summary>
public sealed record ExhibitLink
{
    public LinkId Id { get; init; }
    public DateTimeOffset CreatedAt { get; init; }
    public string CreatedBy { get; init; } = "";
    public string? RevokedAt { get; init; }
}

/// <summary>The texts of an exhibit.</summary>
public enum ExhibitText
{
    Question,
    Summary,
}

/// <summary>Exhibits, their insights in order, and their links.</summary>
public sealed class ExhibitStore(Workspace workspace)
{
    private const string Columns = """
        SELECT e.id, e.question, e.summary, e.version, e.updated_at,
          (SELECT count(*) FROM exhibit_insight x WHERE x.exhibit_id = e.id) AS insights,
          (SELECT count(*) FROM exhibit_link l WHERE l.exhibit_id = e.id AND l.revoked_at IS NULL) AS open_links
        FROM exhibit e

        """;

    /// <summary>The exhibits that a person sees, the latest first.</summary>
    public IReadOnlyList<Exhibit> For(Viewer viewer, StudyAccess access)
    {
        using var connection = workspace.Open();
        return connection.Query<Exhibit>(Columns + "ORDER BY e.updated_at DESC").Where(e => access.SeesExhibit(viewer, e.Id)).ToList();
    }

    /// <exception cref="Refusal">There is no such exhibit.</exception>
    public Exhibit Get(ExhibitId id)
    {
        using var connection = workspace.Open();
        return Get(connection, id);
    }

    internal static Exhibit Get(SqliteConnection connection, ExhibitId id) =>
        connection.QueryFirstOrDefault<Exhibit>(Columns + "WHERE e.id = @id", new { id }) ?? throw Refusal.Missing("exhibit");

    public IReadOnlyList<InsightId> InsightsOf(ExhibitId id)
    {
        using var connection = workspace.Open();
        return InsightsOf(connection, id);
    }

    internal static IReadOnlyList<InsightId> InsightsOf(SqliteConnection connection, ExhibitId id) =>
        connection
            .Query<InsightId>("SELECT insight_id FROM exhibit_insight WHERE exhibit_id = @id ORDER BY position, id", new { id })
            .ToList();

    public IReadOnlyList<ExhibitLink> LinksOf(ExhibitId id)
    {
        using var connection = workspace.Open();
        return connection
            .Query<ExhibitLink>(
                """
                SELECT l.id, l.created_at, a.name AS created_by, l.revoked_at FROM exhibit_link l JOIN account a ON a.id = l.created_by
                WHERE l.exhibit_id = @id ORDER BY l.id DESC
                """,
                new { id }
            )
            .ToList();
    }

    public Step Make(Actor actor, string question, string summary) =>
        workspace.Write(actor, null, $"Made the exhibit “{question}”", writing => writing.Insert("exhibit", new { question, summary }));

    /// <summary>Rewrites a text that the person saw as <paramref name="was"/>.</summary>
    public Step Rewrite(Actor actor, ExhibitId id, ExhibitText which, string was, string text) =>
        workspace.Write(
            actor,
            null,
            $"Changed an exhibit’s {which.ToString().ToLowerInvariant()}",
            writing =>
            {
                writing.Rewrite("exhibit", id.Value, which.ToString().ToLowerInvariant(), was, text);
                return id.Value;
            }
        );

    /// <summary>Sets which insights stand in the exhibit, in this order.</summary>
    public Step Arrange(Actor actor, ExhibitId id, IReadOnlyList<InsightId> insightIds) =>
        workspace.Write(
            actor,
            null,
            "Arranged an exhibit",
            writing =>
            {
                var rows = writing
                    .Connection.Query<(long Id, long Insight)>(
                        "SELECT id, insight_id FROM exhibit_insight WHERE exhibit_id = @id",
                        new { id }
                    )
                    .ToDictionary(r => r.Insight, r => r.Id);
                foreach (var (insight, row) in rows.Where(r => !insightIds.Contains(r.Key)))
                    writing.Delete("exhibit_insight", row);
                for (var position = 0; position < insightIds.Count; position++)
                {
                    if (rows.TryGetValue(insightIds[position].Value, out var row))
                        writing.Update("exhibit_insight", row, new { position });
                    else
                        writing.Insert(
                            "exhibit_insight",
                            new
                            {
                                exhibitId = id,
                                insightId = insightIds[position],
                                position,
                            }
                        );
                }
                return id.Value;
            }
        );

    /// <summary>Makes a secret link of 256 random bits.</summary>
    /// <returns>The step, and the token, which is not kept.</returns>
    public (Step Step, string Token) MakeLink(Actor actor, ExhibitId id)
    {
        var token = SecretToken.Make();
        var step = workspace.Write(
            actor,
            null,
            "Published an exhibit by a new link",
            writing =>
            {
                Get(id);
                return writing.Insert("exhibit_link", new { exhibitId = id, tokenHash = SecretToken.HashOf(token) });
            }
        );
        return (step, token);
    }

    public Step RevokeLink(Actor actor, ExhibitId id, LinkId linkId) =>
        workspace.Write(
            actor,
            null,
            "Revoked a link to an exhibit",
            writing =>
            {
                writing.Expect("exhibit_link", linkId.Value, "exhibit_id", id.Value);
                writing.Update("exhibit_link", linkId.Value, new { revokedAt = workspace.Now });
                return linkId.Value;
            }
        );

    /// <summary>The exhibit that a token opens; null when there is none or the link was revoked.</summary>
    public ExhibitId? Opened(string token)
    {
        using var connection = workspace.Open();
        return Opened(connection, token);
    }

    internal static ExhibitId? Opened(SqliteConnection connection, string token) =>
        connection.QueryFirstOrDefault<long?>(
            "SELECT exhibit_id FROM exhibit_link WHERE token_hash = @hash AND revoked_at IS NULL",
            new { hash = SecretToken.HashOf(token) }
        );

    public Step Remove(Actor actor, ExhibitId id) =>
        workspace.Write(
            actor,
            null,
            $"Removed the exhibit “{Get(id).Question}”",
            writing =>
            {
                writing.Remove("exhibit", id.Value);
                return id.Value;
            }
        );
}
