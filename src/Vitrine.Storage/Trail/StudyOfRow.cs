using System.Collections.Concurrent;
using Dapper;
using Microsoft.Data.Sqlite;
using Vitrine.Storage.Sql;

namespace Vitrine.Storage.Trail;

/// <summary>
/// The studies that a row belongs to or is tied to, told by its columns and foreign keys, so that a new table is guarded without being
/// named here.
/// </summary>
internal sealed class StudyOfRow(SqliteConnection connection)
{
    private static readonly ConcurrentDictionary<string, IReadOnlyList<(string Column, string Table)>> TiesByTable = new();

    private readonly Dictionary<(string Table, long Id), long?> known = [];

    /// <summary>
    /// Its own study and those of the rows it points to. What belongs to no study (a shared tag, an exhibit, an account) is left out.
    /// </summary>
    public IEnumerable<long> Of(string table, IReadOnlyDictionary<string, object?> row)
    {
        if (row.TryGetValue("study_id", out var own) && own is long study)
            yield return study;
        foreach (var (column, other) in Ties(table))
        {
            if (row.TryGetValue(column, out var id) && id is long there && StudyOf(other, there) is { } tied)
                yield return tied;
        }
    }

    /// <summary>Whether a column tells a row's study, or points to a row that does.</summary>
    public bool Points(string table, string column) => column == "study_id" || Ties(table).Any(tie => tie.Column == column);

    /// <summary>Takes up a row that was added just now, so that it need not be read when others point to it.</summary>
    public void Learn(string table, long id, IReadOnlyDictionary<string, object?> row)
    {
        if (row.TryGetValue("study_id", out var own))
            known[(table, id)] = own as long?;
    }

    /// <summary>Takes up rows that were added one after the other and all belong to this study.</summary>
    public void LearnAll(string table, long first, int count, long studyId)
    {
        for (var id = first; id < first + count; id++)
            known[(table, id)] = studyId;
    }

    private long? StudyOf(string table, long id)
    {
        if (known.TryGetValue((table, id), out var found))
            return found;
        var row = Rows.Find(connection, table, id);
        return known[(table, id)] =
            row is null ? null
            : row.TryGetValue("study_id", out var own) ? (long?)own
            : Of(table, row).Select(s => (long?)s).FirstOrDefault();
    }

    private IReadOnlyList<(string Column, string Table)> Ties(string table) =>
        TiesByTable.GetOrAdd(
            table,
            t =>
                [
                    .. connection
                        .Query<(string, string)>("SELECT \"from\", \"table\" FROM pragma_foreign_key_list(@t)", new { t })
                        .Where(tie => tie.Item2 is not ("account" or "study")),
                ]
        );
}
