using Microsoft.Data.Sqlite;
using Vitrine.Storage.Catalogue;
using Vitrine.Storage.Sql;

namespace Vitrine.Storage.Trail;

/// <summary>
/// The studies that a row belongs to or is tied to, told by the links of the catalogue, so that a new table is guarded without being named
/// here.
/// </summary>
internal sealed class StudyOfRow(SqliteConnection connection, WorkspaceCatalogue catalogue)
{
    private readonly Dictionary<(string Table, long Id), long?> known = [];

    /// <summary>
    /// Its own study and those of the rows it points to. What belongs to no study (a shared tag, an exhibit, an account) is left out.
    /// </summary>
    public IEnumerable<long> Of(string table, IReadOnlyDictionary<string, object?> row)
    {
        if (row.TryGetValue("study_id", out var own) && own is long study)
            yield return study;
        foreach (var link in Ties(table))
        {
            if (
                row.TryGetValue(link.Column, out var id)
                && id is long there
                && link.TableOf(row) is { } other
                && StudyOf(other, there) is { } tied
            )
                yield return tied;
        }
    }

    /// <summary>Those of the columns, one by one or two together, that tell a row's study or point to a row that does.</summary>
    public IEnumerable<IReadOnlyList<string>> Ties(string table, IReadOnlyList<string> columns) =>
        Ties(table).Select(link => (IReadOnlyList<string>)[.. link.Columns]).Append(["study_id"]).Where(tie => tie.All(columns.Contains));

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
        if (table == "study")
            return id;
        if (known.TryGetValue((table, id), out var found))
            return found;
        var row = Rows.Find(connection, table, id);
        return known[(table, id)] =
            row is null ? null
            : row.TryGetValue("study_id", out var own) ? (long?)own
            : Of(table, row).Select(s => (long?)s).FirstOrDefault();
    }

    private IEnumerable<Link> Ties(string table) => catalogue[table].Links.Where(link => link.To is not ("account" or "study"));
}
