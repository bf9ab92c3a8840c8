using Dapper;
using Microsoft.Data.Sqlite;
using Vitrine.Core.RichTexts;
using Vitrine.Core.Weigh.Evidence;
using Vitrine.Storage.Sql;
using Vitrine.Storage.Trail;

namespace Vitrine.Storage.Show.Insights;

/// <summary>An insight's words.</summary>
public sealed record Insight
{
    public InsightId Id { get; init; }
    public StudyId StudyId { get; init; }
    public string Headline { get; init; } = "";
    public RichText Story { get; init; } = RichText.Empty;
    public long Version { get; init; }
    public string CreatedBy { get; init; } = "";
    public DateTimeOffset UpdatedAt { get; init; }
}

/// <summary>An observation attached to an insight.</summary>
public sealed record AttachedEvidence
{
    public EvidenceId Id { get; init; }
    public string Key { get; init; } = "";
    public InsightId InsightId { get; init; }
    public ObservationId ObservationId { get; init; }
    public Stance Stance { get; init; }
}

/// <summary>Insights and their evidence.</summary>
public sealed class InsightStore(Workspace workspace)
{
    private const string Columns = """
        SELECT i.id, i.study_id, i.headline, i.story, i.version, a.name AS created_by, i.updated_at FROM insight i
        JOIN account a ON a.id = i.created_by 
        """;

    /// <summary>The insights of the given studies (null: all), the latest first.</summary>
    public IReadOnlyList<Insight> In(IReadOnlyList<StudyId>? studyIds)
    {
        using var connection = workspace.Open();
        return connection
            .Query<Insight>(
                Columns + "WHERE @ids IS NULL OR i.study_id IN (SELECT value FROM json_each(@ids)) ORDER BY i.id DESC",
                new { ids = Ids.Json(studyIds) }
            )
            .ToList();
    }

    /// <exception cref="Refusal">There is no such insight.</exception>
    public Insight Get(InsightId id)
    {
        using var connection = workspace.Open();
        return connection.QueryFirstOrDefault<Insight>(Columns + "WHERE i.id = @id", new { id }) ?? throw Refusal.Missing("insight");
    }

    /// <summary>The given insights, in that order.</summary>
    public IReadOnlyList<Insight> Of(IReadOnlyList<InsightId> ids)
    {
        using var connection = workspace.Open();
        return Of(connection, ids);
    }

    internal static IReadOnlyList<Insight> Of(SqliteConnection connection, IReadOnlyList<InsightId> ids)
    {
        var byId = connection
            .Query<Insight>(Columns + "WHERE i.id IN (SELECT value FROM json_each(@ids))", new { ids = Ids.Json(ids) })
            .ToDictionary(i => i.Id);
        return [.. ids.Where(byId.ContainsKey).Select(id => byId[id])];
    }

    /// <summary>The evidence of many insights that the viewer may see, in its order.</summary>
    public ILookup<InsightId, AttachedEvidence> EvidenceOf(IReadOnlyList<InsightId> insightIds, AccountId viewer)
    {
        using var connection = workspace.OpenFor(viewer);
        return EvidenceOf(connection, insightIds);
    }

    internal static ILookup<InsightId, AttachedEvidence> EvidenceOf(SqliteConnection connection, IReadOnlyList<InsightId> insightIds) =>
        connection
            .Query<AttachedEvidence>(
                """
                SELECT id, insight_id, observation_id, stance, key FROM evidence WHERE insight_id IN (SELECT value FROM json_each(@ids))
                ORDER BY position, id
                """,
                new { ids = Ids.Json(insightIds) }
            )
            .ToLookup(e => e.InsightId);

    /// <summary>Makes an insight from a selection of observations, all attached in support, as one step.</summary>
    public Step Make(Actor actor, StudyId studyId, string headline, RichText story, IReadOnlyList<ObservationId> observationIds) =>
        Make(actor, studyId, headline, story, observationIds.ToLookup(_ => Stance.Supports));

    /// <summary>The same, each observation with its stance.</summary>
    public Step Make(Actor actor, StudyId studyId, string headline, RichText story, ILookup<Stance, ObservationId> evidence) =>
        workspace.Write(
            actor,
            studyId,
            $"Made the insight “{headline}”",
            writing =>
            {
                var id = writing.Insert(
                    "insight",
                    new
                    {
                        studyId,
                        headline,
                        story,
                    }
                );
                writing.Refer("insight", id, story);
                foreach (var pieces in evidence)
                    Attach(writing, studyId, id, [.. pieces], pieces.Key);
                return id;
            }
        );

    /// <summary>Rewrites the headline that the person saw as <paramref name="was"/>.</summary>
    public Step RewriteHeadline(Actor actor, InsightId id, string was, string text) =>
        workspace.Write(
            actor,
            Get(id).StudyId,
            "Changed an insight’s headline",
            writing =>
            {
                writing.Rewrite("insight", id.Value, "headline", was, text);
                return id.Value;
            }
        );

    /// <summary>Rewrites the story that the person saw as <paramref name="was"/>.</summary>
    public Step RewriteStory(Actor actor, InsightId id, RichText was, RichText text) =>
        workspace.Write(
            actor,
            Get(id).StudyId,
            "Changed an insight’s story",
            writing =>
            {
                writing.Rewrite("insight", id.Value, "story", was, text);
                return id.Value;
            }
        );

    public Step Attach(Actor actor, InsightId id, IReadOnlyList<ObservationId> observationIds, Stance stance)
    {
        var insight = Get(id);
        return workspace.Write(
            actor,
            insight.StudyId,
            $"Attached {observationIds.Count} to “{insight.Headline}”",
            writing => Attach(writing, insight.StudyId, id, observationIds, stance)
        );
    }

    public Step SetStance(Actor actor, InsightId insightId, EvidenceId evidenceId, Stance stance) =>
        workspace.Write(
            actor,
            Get(insightId).StudyId,
            $"Set the stance of evidence to “{stance.ToString().ToLowerInvariant()}”",
            writing =>
            {
                writing.Expect("evidence", evidenceId.Value, "insight_id", insightId.Value);
                writing.Update("evidence", evidenceId.Value, new { stance });
                return evidenceId.Value;
            }
        );

    public Step Detach(Actor actor, InsightId insightId, EvidenceId evidenceId) =>
        workspace.Write(
            actor,
            Get(insightId).StudyId,
            "Removed evidence from an insight",
            writing =>
            {
                writing.Expect("evidence", evidenceId.Value, "insight_id", insightId.Value);
                writing.Delete("evidence", evidenceId.Value);
                return evidenceId.Value;
            }
        );

    public Step Remove(Actor actor, InsightId id)
    {
        var insight = Get(id);
        return workspace.Write(
            actor,
            insight.StudyId,
            $"Removed the insight “{insight.Headline}”",
            writing =>
            {
                writing.Remove("insight", id.Value);
                return id.Value;
            }
        );
    }

    private static void Attach(Writing writing, StudyId studyId, InsightId id, IReadOnlyList<ObservationId> observationIds, Stance stance)
    {
        var there = writing.Connection.Query<ObservationId>("SELECT observation_id FROM evidence WHERE insight_id = @id", new { id });
        var fitting = writing
            .Connection.Query<ObservationId>(
                "SELECT id FROM observation WHERE study_id = @studyId AND id IN (SELECT value FROM json_each(@ids))",
                new { studyId, ids = Ids.Json(observationIds) }
            )
            .ToHashSet();
        var position = writing.Connection.ExecuteScalar<int>(
            "SELECT coalesce(max(position), 0) FROM evidence WHERE insight_id = @id",
            new { id }
        );
        foreach (var observationId in observationIds.Distinct().Where(fitting.Contains).Except(there))
            writing.Insert(
                "evidence",
                new
                {
                    insightId = id,
                    observationId,
                    stance,
                    position = ++position,
                }
            );
    }
}
