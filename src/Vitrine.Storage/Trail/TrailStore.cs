using Dapper;
using Microsoft.Data.Sqlite;

namespace Vitrine.Storage.Trail;

/// <summary>One line of a thing's history.</summary>
public sealed record TrailEntry
{
    public long ActionId { get; init; }
    public string At { get; init; } = "";
    public string Who { get; init; } = "";
    public string Label { get; init; } = "";
    public bool Undone { get; init; }
}

/// <summary>The step that undo or redo would take next.</summary>
public sealed record NextSteps(TrailEntry? Undo, TrailEntry? Redo);

/// <summary>Things whose trail can be read.</summary>
public enum TrailThing
{
    Observation,
    Tag,
    Theme,
    Insight,
    Exhibit,
    Source,
    Participant,
}

/// <summary>Reads the trail.</summary>
public sealed class TrailStore(Workspace workspace)
{
    /// <summary>The history of one thing, newest first: its own row and the rows that tie others to it.</summary>
    public IReadOnlyList<TrailEntry> Of(TrailThing thing, long id)
    {
        var table = thing.ToString().ToLowerInvariant();
        using var connection = workspace.Open();
        return connection.Query<TrailEntry>($"""
            SELECT DISTINCT a.id AS action_id, a.at, p.name AS who, a.label, a.undone
            FROM change c JOIN action a ON a.id = c.action_id JOIN account p ON p.id = a.account_id
            WHERE (c.table_name = @table AND c.row_id = @id) OR json_extract(coalesce(c.after, c.before), '$.{table}_id') = @id
            ORDER BY a.id DESC
            """, new { table, id }).ToList();
    }

    /// <summary>What this person can undo and redo in a study (or, for null, in what belongs to no study).</summary>
    public NextSteps Next(long accountId, long? studyId)
    {
        using var connection = workspace.Open();
        return new NextSteps(Undoable(connection, accountId, studyId), Redoable(connection, accountId, studyId));
    }

    private const string Entry = "SELECT a.id AS action_id, a.at, p.name AS who, a.label, a.undone FROM action a JOIN account p ON p.id = a.account_id ";

    internal static TrailEntry? Undoable(SqliteConnection connection, long accountId, long? studyId) => connection.QueryFirstOrDefault<TrailEntry>(
        Entry + "WHERE a.account_id = @accountId AND a.study_id IS @studyId AND a.kind = 'do' AND a.undone = 0 ORDER BY a.id DESC LIMIT 1", new { accountId, studyId });

    /// <summary>The oldest undone step that is younger than everything still done: ids alone tell the order of the stack.</summary>
    internal static TrailEntry? Redoable(SqliteConnection connection, long accountId, long? studyId) => connection.QueryFirstOrDefault<TrailEntry>(
        Entry + """
        WHERE a.account_id = @accountId AND a.study_id IS @studyId AND a.kind = 'do' AND a.undone = 1
          AND a.id > (SELECT coalesce(max(d.id), 0) FROM action d WHERE d.account_id = @accountId AND d.study_id IS @studyId AND d.kind = 'do' AND d.undone = 0)
        ORDER BY a.id LIMIT 1
        """, new { accountId, studyId });

    /// <summary>A sentence that says who changed a row last, after a given action.</summary>
    internal static string LastChange(SqliteConnection connection, string table, long rowId, long afterAction)
    {
        var last = connection.QueryFirstOrDefault<TrailEntry>(
            Entry + "JOIN change c ON c.action_id = a.id WHERE c.table_name = @table AND c.row_id = @rowId AND a.id > @afterAction ORDER BY a.id DESC LIMIT 1",
            new { table, rowId, afterAction });
        return last is null ? "It has changed since." : $"{last.Who} changed it at {last.At[11..16]} UTC: “{last.Label}”.";
    }
}
