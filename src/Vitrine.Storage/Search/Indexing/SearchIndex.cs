using Dapper;
using Microsoft.Data.Sqlite;
using Vitrine.Core.RichTexts;
using Vitrine.Core.Text;
using Vitrine.Storage.Catalogue;
using Vitrine.Storage.Sql;

namespace Vitrine.Storage.Search.Indexing;

/// <summary>Keeps the full-text index in step with the rows, inside the transaction that changes them.</summary>
internal static class SearchIndex
{
    private const int KindBits = 4;
    private const int ThingBits = 36;

    /// <summary>
    /// Kind, thing and study in one number, so that a search can leave out a study without reading a row. Room for 8 million studies and 68
    /// billion things.
    /// </summary>
    public static long RowOf(FoundKind kind, long id, StudyId? studyId) =>
        ((studyId?.Value ?? 0) << (ThingBits + KindBits)) | (id << KindBits) | (long)kind;

    public static (FoundKind Kind, long Id) Found(long row) =>
        ((FoundKind)(row & ((1L << KindBits) - 1)), (row >> KindBits) & ((1L << ThingBits) - 1));

    /// <summary>The part of a statement that tells the study of a row in the index; 0 for none.</summary>
    public static string StudyOfRowSql(string row) => $"({row} >> {ThingBits + KindBits})";

    /// <summary>
    /// Takes up that a row was <paramref name="before"/> and is now <paramref name="after"/>; null where it was or is not there.
    /// An observation's words stand in its source, which may change in the same step: observations are taken up at its end, by
    /// <see cref="FollowObservations"/>.
    /// </summary>
    public static void Follow(
        SqliteConnection connection,
        WorkspaceCatalogue catalogue,
        string table,
        IReadOnlyDictionary<string, object?>? before,
        IReadOnlyDictionary<string, object?>? after
    )
    {
        if (table == "source_text")
        {
            if (before is not null)
                Rows.Run(
                    connection,
                    "INSERT INTO source_search (source_search, rowid, text) VALUES ('delete', $0, $1)",
                    [before["id"], HiddenSigns.Without((string)before["text"]!)]
                );
            if (after is not null)
                Rows.Run(
                    connection,
                    "INSERT INTO source_search (rowid, text) VALUES ($0, $1)",
                    [after["id"], HiddenSigns.Without((string)after["text"]!)]
                );
        }
        else if (table != "observation" && catalogue[table].Search is { } what)
        {
            if (before is not null)
                Rows.Run(connection, "DELETE FROM searchable WHERE rowid = $0", [Row(connection, catalogue, table, before)]);
            if (after is not null)
                Add(connection, catalogue, table, after);
        }
    }

    /// <summary>Takes up observations that a step has made, changed or removed, or whose words it has changed.</summary>
    public static void FollowObservations(
        SqliteConnection connection,
        WorkspaceCatalogue catalogue,
        IEnumerable<(long Id, long StudyId)> observations
    )
    {
        foreach (var (id, study) in observations)
        {
            Rows.Run(connection, "DELETE FROM searchable WHERE rowid = $0", [RowOf(FoundKind.Observation, id, study)]);
            if (Rows.Find(connection, "observation", id) is { } row)
                Add(connection, catalogue, "observation", row);
        }
    }

    /// <summary>Fills the index of a workspace that was made before there was one.</summary>
    public static int FillIfEmpty(SqliteConnection connection, WorkspaceCatalogue catalogue)
    {
        if (connection.ExecuteScalar<bool>("SELECT EXISTS (SELECT 1 FROM searchable) OR NOT EXISTS (SELECT 1 FROM study)"))
            return 0;
        Rebuild(connection, catalogue);
        return 0;
    }

    /// <summary>Makes the index anew from the rows, with nothing of what it held before.</summary>
    public static void Rebuild(SqliteConnection connection, WorkspaceCatalogue catalogue)
    {
        connection.Execute("DELETE FROM searchable");
        connection.Execute("INSERT INTO source_search (source_search) VALUES ('rebuild')");
        foreach (var table in Indexed(catalogue))
        {
            foreach (var row in connection.Query($"SELECT * FROM {table}"))
                Add(connection, catalogue, table, ((IDictionary<string, object?>)row).ToDictionary());
        }
        connection.Execute("INSERT INTO searchable (searchable) VALUES ('rebuild')");
    }

    /// <summary>The indexes that are damaged or do not agree with the texts they were made of.</summary>
    public static IEnumerable<string> Broken(SqliteConnection connection)
    {
        // With 1, an index is held against the texts outside it; searchable holds its own.
        foreach (var (index, outside) in new[] { ("source_search", 1), ("searchable", 0) })
        {
            string? broken = null;
            try
            {
                connection.Execute($"INSERT INTO {index} ({index}, rank) VALUES ('integrity-check', {outside})");
            }
            catch (SqliteException)
            {
                broken = index;
            }
            if (broken is not null)
                yield return broken;
        }
    }

    /// <summary>
    /// The rows of which the index holds other words than stand there, or which it does not hold, or which are not there.
    /// </summary>
    public static IEnumerable<(string Table, long Id)> Disagreeing(SqliteConnection connection, WorkspaceCatalogue catalogue)
    {
        var held = connection
            .Query<(long Row, string Name, string Words)>("SELECT rowid, name, words FROM searchable")
            .ToDictionary(r => r.Row, r => (r.Name, r.Words));
        foreach (var table in Indexed(catalogue))
        {
            foreach (var found in connection.Query($"SELECT * FROM {table}", buffered: false))
            {
                var row = ((IDictionary<string, object?>)found).ToDictionary();
                if (
                    !held.Remove(Row(connection, catalogue, table, row), out var words)
                    || words != WordsOf(connection, catalogue[table], row)
                )
                    yield return (table, (long)row["id"]!);
            }
        }
        foreach (var row in held.Keys)
            yield return (Found(row).Kind.ToString().ToLowerInvariant(), Found(row).Id);
    }

    private static IEnumerable<string> Indexed(WorkspaceCatalogue catalogue) =>
        catalogue.Tables.Where(t => t.Search is not null).Select(t => t.Table);

    private static void Add(
        SqliteConnection connection,
        WorkspaceCatalogue catalogue,
        string table,
        IReadOnlyDictionary<string, object?> row
    )
    {
        var (name, words) = WordsOf(connection, catalogue[table], row);
        Rows.Run(
            connection,
            "INSERT INTO searchable (rowid, name, words) VALUES ($0, $1, $2)",
            [Row(connection, catalogue, table, row), name, words]
        );
    }

    private static (string Name, string Words) WordsOf(
        SqliteConnection connection,
        Declaration of,
        IReadOnlyDictionary<string, object?> row
    )
    {
        var what = of.Search!;
        var quote = what.Kind == FoundKind.Observation ? QuoteOf(connection, row) + "\n" : "";
        var words = quote + string.Join('\n', what.Words.Select(Of));
        return (what.Name is null ? "" : HiddenSigns.Without((string)row[what.Name]!), HiddenSigns.Without(words.Trim()));

        // A row that comes back as it was before there was a column has none of it.
        object? Of(string column) =>
            row.GetValueOrDefault(column) is string text && of.RichTexts.Contains(column)
                ? RichTextJson.FromStored(text).Plain
                : row.GetValueOrDefault(column);
    }

    private static string QuoteOf(SqliteConnection connection, IReadOnlyDictionary<string, object?> observation)
    {
        if (
            connection.QueryFirstOrDefault<string>(
                "SELECT old_words FROM correction_look WHERE observation_id = @id AND fate = 'gone'",
                new { id = observation["id"] }
            ) is
            { } gone
        )
            return gone;
        // A stretch of time and a picture have no words.
        if (observation["start"] is null)
            return "";
        var text = connection.QueryFirstOrDefault<string>(
            "SELECT text FROM source_text WHERE source_id = @id",
            new { id = observation["source_id"] }
        );
        var range = new TextRange((int)(long)observation["start"]!, (int)(long)observation["end"]!);
        return text is null || range.End > text.Length ? "" : range.Of(text);
    }

    private static long Row(
        SqliteConnection connection,
        WorkspaceCatalogue catalogue,
        string table,
        IReadOnlyDictionary<string, object?> row
    ) => RowOf(catalogue[table].Search!.Kind, (long)row["id"]!, StudyOf(connection, catalogue, table, row));

    /// <summary>The study to which the catalogue leads from a row; null for what belongs to none.</summary>
    private static StudyId? StudyOf(
        SqliteConnection connection,
        WorkspaceCatalogue catalogue,
        string table,
        IReadOnlyDictionary<string, object?> row
    )
    {
        if (table == "study")
            return (long)row["id"]!;
        if (catalogue[table].StudyBy is not { } by)
            return null;
        if (by == "study_id")
            return (long?)row.GetValueOrDefault(by);
        var owner = catalogue[table].Links.Single(l => l.Column == by).To;
        return row.GetValueOrDefault(by) is long id && Rows.Find(connection, owner, id) is { } found
            ? StudyOf(connection, catalogue, owner, found)
            : null;
    }
}
