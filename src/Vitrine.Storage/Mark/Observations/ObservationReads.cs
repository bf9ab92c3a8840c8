using Dapper;
using Microsoft.Data.Sqlite;
using Vitrine.Core.Mark.Observations;
using Vitrine.Storage.Anchors;
using Vitrine.Storage.Trail;

namespace Vitrine.Storage.Mark.Observations;

/// <summary>What is read of observations.</summary>
public sealed partial class ObservationStore
{
    private const string Columns = $"""
        SELECT o.id, o.source_id, o.note, o.sentiment, o.starred, o.unsure, o.found, o.version,
          o.created_by AS created_by_id, a.name AS created_by, o.created_at,
          EXISTS (SELECT 1 FROM blind_tagging b WHERE b.source_id = o.source_id AND (o.created_at > b.opened_at OR EXISTS (
            SELECT 1 FROM observation_tag x WHERE x.observation_id = o.id AND x.created_at > b.opened_at))) AS late, {AnchorRow.Columns}
        FROM observation o JOIN account a ON a.id = o.created_by

        """;

    /// <summary>A source's observations: those in its text in text order, before them those in time and in pictures.</summary>
    /// <param name="viewer">Who looks.</param>
    public IReadOnlyList<Observation> In(SourceId sourceId, AccountId viewer)
    {
        using var connection = workspace.OpenFor(viewer);
        using var snapshot = connection.BeginTransaction(deferred: true);
        var observations = connection
            .Query<Observation, AnchorRow, Observation>(
                Columns + "WHERE o.source_id = @sourceId ORDER BY o.start, o.\"end\" DESC, o.begin_ms, o.id",
                (o, at) => o with { Anchor = at.Anchor },
                new { sourceId },
                splitOn: AnchorRow.First
            )
            .AsList();
        var byId = observations.ToDictionary(o => o.Id);
        foreach (
            var (observation, tag, value) in connection.Query<(ObservationId, TagId, double?)>(
                """
                SELECT x.observation_id, x.tag_id, x.value FROM observation_tag x JOIN observation o ON o.id = x.observation_id
                WHERE o.source_id = @sourceId ORDER BY x.id
                """,
                new { sourceId }
            )
        )
        {
            var seen = byId[observation];
            seen.TagIds.Add(tag);
            if (value is { } given)
                seen.Values[tag] = given;
        }
        return observations;
    }

    private StudyId StudyOfSource(SourceId sourceId)
    {
        using var connection = workspace.Open();
        return connection.QueryFirstOrDefault<long?>("SELECT study_id FROM source WHERE id = @sourceId", new { sourceId })
            ?? throw Refusal.Missing("source");
    }

    public StudyId StudyOf(ObservationId id)
    {
        using var connection = workspace.Open();
        return connection.QueryFirstOrDefault<long?>("SELECT study_id FROM observation WHERE id = @id", new { id })
            ?? throw Refusal.Missing("observation");
    }

    /// <summary>In which source an observation stands, and where.</summary>
    /// <exception cref="Refusal">There is no such observation.</exception>
    public (SourceId Source, Anchor Anchor) PlaceOf(ObservationId id)
    {
        using var connection = workspace.Open();
        return connection
                .Query<long, AnchorRow, (SourceId, Anchor)?>(
                    $"SELECT o.source_id, {AnchorRow.Columns} FROM observation o WHERE o.id = @id",
                    (source, at) => (source, at.Anchor),
                    new { id },
                    splitOn: AnchorRow.First
                )
                .FirstOrDefault()
            ?? throw Refusal.Missing("observation");
    }

    internal static Anchor AnchorOf(SqliteConnection connection, ObservationId id) =>
        connection.QuerySingle<AnchorRow>($"SELECT {AnchorRow.Columns} FROM observation o WHERE o.id = @id", new { id }).Anchor;

    /// <summary>What a person has marked at just this place.</summary>
    internal static ObservationId? Same(SqliteConnection connection, SourceId sourceId, Anchor anchor, AccountId accountId)
    {
        var columns = AnchorRow.Of(anchor);
        var given = new DynamicParameters(columns);
        given.AddDynamicParams(new { sourceId, accountId });
        return connection.QueryFirstOrDefault<long?>(
            $"SELECT id FROM observation WHERE source_id = @sourceId AND created_by = @accountId "
                + $"AND {string.Join(" AND ", columns.Keys.Select(c => $"\"{c}\" IS @{c}"))}",
            given
        );
    }
}
