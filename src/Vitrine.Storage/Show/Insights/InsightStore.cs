using Dapper;
using Microsoft.Data.Sqlite;
using Vitrine.Core.Weigh.Evidence;
using Vitrine.Storage.Sql;
using Vitrine.Storage.Trail;

namespace Vitrine.Storage.Show.Insights;

/// <summary>An insight's words.</summary>
public sealed record Insight
{
    public long Id { get; init; }
    public long StudyId { get; init; }
    public string Headline { get; init; } = "";
    public string Story { get; init; } = "";
    public long Version { get; init; }
    public string CreatedBy { get; init; } = "";
    public DateTimeOffset UpdatedAt { get; init; }
}

/// <summary>An observation attached to an insight.</summary>
public sealed record AttachedEvidence
{
    public long Id { get; init; }
    public string Key { get; init; } = "";
    public long InsightId { get; init; }
    public long ObservationId { get; init; }
    public Stance Stance { get; init; }
}

/// <summary>The texts of an insight.</summary>
public enum InsightText
{
    Headline,
    Story,
}

/// <summary>Insights and their evidence.</summary>
public sealed class InsightStore(Workspace workspace)
{
    private const string Columns = """
        SELECT i.id, i.study_id, i.headline, i.story, i.version, a.name AS created_by, i.updated_at FROM insight i
        JOIN account a ON a.id = i.created_by 
        """;

    /// <summary>The insights of the given studies (null: all), the latest first.</summary>
    public IReadOnlyList<Insight> In(IReadOnlyList<long>? studyIds)
    {
        using var connection = workspace.Open();
        return connection
            .Query<Insight>(Columns + (studyIds is null ? "" : "WHERE i.study_id IN @studyIds ") + "ORDER BY i.id DESC", new { studyIds })
            .ToList();
    }

    /// <exception cref="Refusal">There is no such insight.</exception>
    public Insight Get(long id)
    {
        using var connection = workspace.Open();
        return connection.QueryFirstOrDefault<Insight>(Columns + "WHERE i.id = @id", new { id }) ?? throw Refusal.Missing("insight");
    }

    /// <summary>The given insights, in that order.</summary>
    public IReadOnlyList<Insight> Of(IReadOnlyList<long> ids)
    {
        using var connection = workspace.Open();
        return Of(connection, ids);
    }

    internal static IReadOnlyList<Insight> Of(SqliteConnection connection, IReadOnlyList<long> ids)
    {
        var byId = connection
            .Query<Insight>(Columns + "WHERE i.id IN (SELECT value FROM json_each(@ids))", new { ids = Ids.Json(ids) })
            .ToDictionary(i => i.Id);
        return [.. ids.Where(byId.ContainsKey).Select(id => byId[id])];
    }

    /// <summary>The evidence of many insights, in its order.</summary>
    public ILookup<long, AttachedEvidence> EvidenceOf(IReadOnlyList<long> insightIds)
    {
        using var connection = workspace.Open();
        return EvidenceOf(connection, insightIds);
    }

    internal static ILookup<long, AttachedEvidence> EvidenceOf(SqliteConnection connection, IReadOnlyList<long> insightIds) =>
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
    public Step Make(Actor actor, long studyId, string headline, string story, IReadOnlyList<long> observationIds) =>
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
                Attach(writing, studyId, id, observationIds, Stance.Supports);
                return id;
            }
        );

    /// <summary>Rewrites a text that the person saw as <paramref name="was"/>.</summary>
    public Step Rewrite(Actor actor, long id, InsightText which, string was, string text) =>
        workspace.Write(
            actor,
            Get(id).StudyId,
            $"Changed an insight’s {which.ToString().ToLowerInvariant()}",
            writing =>
            {
                writing.Rewrite("insight", id, which.ToString().ToLowerInvariant(), was, text);
                return id;
            }
        );

    public Step Attach(Actor actor, long id, IReadOnlyList<long> observationIds, Stance stance)
    {
        var insight = Get(id);
        return workspace.Write(
            actor,
            insight.StudyId,
            $"Attached {observationIds.Count} to “{insight.Headline}”",
            writing => Attach(writing, insight.StudyId, id, observationIds, stance)
        );
    }

    public Step SetStance(Actor actor, long insightId, long evidenceId, Stance stance) =>
        workspace.Write(
            actor,
            Get(insightId).StudyId,
            $"Set the stance of evidence to “{stance.ToString().ToLowerInvariant()}”",
            writing =>
            {
                writing.Expect("evidence", evidenceId, "insight_id", insightId);
                writing.Update("evidence", evidenceId, new { stance });
                return evidenceId;
            }
        );

    public Step Detach(Actor actor, long insightId, long evidenceId) =>
        workspace.Write(
            actor,
            Get(insightId).StudyId,
            "Took evidence off an insight",
            writing =>
            {
                writing.Expect("evidence", evidenceId, "insight_id", insightId);
                writing.Delete("evidence", evidenceId);
                return evidenceId;
            }
        );

    public Step Remove(Actor actor, long id)
    {
        var insight = Get(id);
        return workspace.Write(
            actor,
            insight.StudyId,
            $"Removed the insight “{insight.Headline}”",
            writing =>
            {
                writing.Remove("insight", id);
                return id;
            }
        );
    }

    private static void Attach(Writing writing, long studyId, long id, IReadOnlyList<long> observationIds, Stance stance)
    {
        var there = writing.Connection.Query<long>("SELECT observation_id FROM evidence WHERE insight_id = @id", new { id });
        var fitting = writing
            .Connection.Query<long>(
                "SELECT id FROM observation WHERE study_id = @studyId AND id IN @observationIds",
                new { studyId, observationIds }
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
