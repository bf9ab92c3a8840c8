using Dapper;
using Microsoft.Data.Sqlite;
using Vitrine.Core.Ids;
using Vitrine.Storage.Catalogue;
using Vitrine.Storage.Sql;

namespace Vitrine.Storage.Trail;

/// <summary>What a step has changed, as screens are told it.</summary>
/// <param name="StudyId">In which study; null outside studies, and when it may be of every study.</param>
/// <param name="Rows">Ids of changed rows by table; null for many.</param>
/// <param name="Sources">Sources in which something stands otherwise; null for many.</param>
/// <param name="InSources">Those of the tables of which every changed row stands in one of these sources.</param>
public sealed record Changed(
    StudyId? StudyId,
    IReadOnlyDictionary<string, IReadOnlyList<long>?> Rows,
    IReadOnlyList<SourceId>? Sources,
    IReadOnlyList<string> InSources
);

/// <summary>
/// What a step has changed, so that nothing else has to be looked at again: rows by table, and the sources in which something stands
/// otherwise. Of more than <see cref="MostTold"/> only that there are many.
/// </summary>
public sealed class StepNews
{
    /// <summary>How many rows of a table are told one by one.</summary>
    public const int MostTold = 500;

    private readonly Dictionary<string, HashSet<long>?> rows = [];
    private readonly HashSet<string> elsewhere = [];
    private HashSet<SourceId>? sources = [];
    private HashSet<ObservationId>? observations = [];

    /// <summary>As screens are told it.</summary>
    public Changed In(StudyId? studyId) =>
        new(
            studyId,
            rows.ToDictionary(r => r.Key, r => (IReadOnlyList<long>?)r.Value?.Order().ToList()),
            sources?.Order().ToList(),
            [.. rows.Keys.Except(elsewhere).Order()]
        );

    /// <summary>The tables in which something has changed.</summary>
    public IReadOnlyCollection<string> Tables => rows.Keys;

    /// <summary>Sources that changed themselves or of which a row changed; null for many.</summary>
    public IReadOnlySet<SourceId>? Sources => sources;

    /// <summary>Observations that changed themselves or of which a row changed; null for many.</summary>
    public IReadOnlySet<ObservationId>? Observations => observations;

    /// <summary>News of whole tables.</summary>
    public static StepNews Of(params IReadOnlyCollection<string> tables)
    {
        var news = new StepNews { sources = null, observations = null };
        foreach (var table in tables)
        {
            news.rows[table] = null;
            news.elsewhere.Add(table);
        }
        return news;
    }

    /// <summary>Whether of a table, and of what its rows are of, no more is told one by one.</summary>
    internal bool AreMany(string table) => observations is null && rows.TryGetValue(table, out var ids) && ids is null;

    internal void Add(Declaration of, long id, IReadOnlyDictionary<string, object?> row)
    {
        var table = of.Table;
        if (!rows.TryGetValue(table, out var ids))
            rows[table] = ids = [];
        ids?.Add(id);
        if (ids?.Count > MostTold)
            rows[table] = null;
        var source = table == "source" ? id : row.GetValueOrDefault("source_id") as long?;
        var observation = table == "observation" ? id : row.GetValueOrDefault("observation_id") as long?;
        if (source is null && observation is null)
            elsewhere.Add(table);
        Take(ref sources, source);
        Take(ref observations, observation);
        foreach (var link in of.Links.Where(l => l.KindColumn is not null))
        {
            Take(ref sources, link.TableOf(row) == "source" ? row[link.Column] as long? : null);
            Take(ref observations, link.TableOf(row) == "observation" ? row[link.Column] as long? : null);
        }
    }

    /// <summary>Takes up rows of one table whose ids follow each other.</summary>
    internal void AddAll(string table, long first, IReadOnlyList<string> columns, IReadOnlyList<object?[]> added)
    {
        if (!rows.TryGetValue(table, out var ids))
            rows[table] = ids = [];
        if (ids is not null && ids.Count + added.Count > MostTold)
            rows[table] = null;
        else
            ids?.UnionWith(Enumerable.Range(0, added.Count).Select(i => first + i));
        if (!columns.Any(c => c is "source_id" or "observation_id"))
            elsewhere.Add(table);
        for (var c = 0; c < columns.Count; c++)
        {
            if (columns[c] is not ("source_id" or "observation_id"))
                continue;
            foreach (var id in added.Select(row => row[c] as long?).Distinct())
            {
                if (columns[c] == "source_id")
                    Take(ref sources, id);
                else
                    Take(ref observations, id);
            }
        }
    }

    /// <summary>Takes up what another step has changed.</summary>
    internal void AddAll(StepNews other)
    {
        foreach (var (table, ids) in other.rows)
        {
            if (ids is null || (rows.TryGetValue(table, out var mine) && (mine is null || mine.Count + ids.Count > MostTold)))
                rows[table] = null;
            else
                rows[table] = [.. mine ?? [], .. ids];
        }
        elsewhere.UnionWith(other.elsewhere);
        sources = other.sources is null ? null : sources;
        observations = other.observations is null ? null : observations;
        foreach (var source in other.sources ?? [])
            Take(ref sources, source);
        foreach (var observation in other.observations ?? [])
            Take(ref observations, observation);
    }

    /// <summary>Rows of an observation change the source in which it stands.</summary>
    internal void AlsoSourcesOfObservations(SqliteConnection connection)
    {
        if (observations is not { Count: > 0 })
            return;
        foreach (
            var id in connection.Query<SourceId>(
                "SELECT DISTINCT source_id FROM observation WHERE id IN (SELECT value FROM json_each(@ids))",
                new { ids = Ids.Json(observations) }
            )
        )
            Take(ref sources, id);
    }

    private static void Take<TKind>(ref HashSet<Id<TKind>>? of, Id<TKind>? id)
    {
        if (id is { } one)
            of?.Add(one);
        if (of?.Count > MostTold)
            of = null;
    }
}
