using System.Buffers;
using System.Collections.Concurrent;
using System.Runtime.CompilerServices;
using System.Text;
using System.Text.Json;
using Dapper;
using Microsoft.Data.Sqlite;
using SQLitePCL;
using Vitrine.Core.Ids;

namespace Vitrine.Storage.Sql;

/// <summary>Rows as images: read whole, compared whole, and put back whole.</summary>
internal static class Rows
{
    private static readonly ConcurrentDictionary<string, HashSet<string>> ColumnsByTable = new();
    private static readonly ConcurrentDictionary<string, Form> Forms = new();
    private static readonly ConcurrentDictionary<(string, int, int), string> Inserts = new();
    private static readonly ConcurrentDictionary<string, string> Images = new();
    private const int RowsInStatement = 100;

    // A step that writes thousands of rows says the same few statements; each is prepared once for its connection.
    private static readonly ConditionalWeakTable<SqliteConnection, Dictionary<string, SqliteCommand>> Prepared = [];
    private static readonly ConditionalWeakTable<SqliteConnection, Dictionary<string, sqlite3_stmt>> Statements = [];

    private static Form FormOf(SqliteConnection connection, string table) =>
        Forms.GetOrAdd(
            table,
            t =>
            {
                var columns = connection
                    .Query<(string Name, string Type, string? Default)>(
                        "SELECT name, type, dflt_value FROM pragma_table_info(@t)",
                        new { t }
                    )
                    .Select(c => new Column(
                        c.Name,
                        c.Default is null ? null : connection.ExecuteScalar("SELECT " + c.Default),
                        c.Type == "REAL"
                    ))
                    .ToList();
                if (columns.Count == 0)
                    throw new ArgumentException($"There is no table {t}.", nameof(table));
                return new Form(
                    columns,
                    $"INSERT INTO {t} ({string.Join(", ", columns.Select(c => Quoted(c.Name)))}) "
                        + $"VALUES ({string.Join(", ", Enumerable.Range(0, columns.Count).Select(i => "$" + i))})",
                    columns.Any(c => c.Name == "id")
                );
            }
        );

    private sealed record Column(string Name, object? Default, bool IsReal);

    /// <summary>A table as rows are added to it.</summary>
    private sealed record Form(IReadOnlyList<Column> Columns, string InsertSql, bool HasId);

    public static HashSet<string> ColumnsOf(SqliteConnection connection, string table) =>
        ColumnsByTable.GetOrAdd(
            table,
            t =>
            {
                var columns = connection.Query<string>("SELECT name FROM pragma_table_info(@t)", new { t }).ToHashSet();
                return columns.Count > 0 ? columns : throw new ArgumentException($"There is no table {t}.", nameof(table));
            }
        );

    public static Dictionary<string, object?>? Find(SqliteConnection connection, string table, long id)
    {
        using var reader = Command(connection, $"SELECT * FROM {table} WHERE id = $0", [id]).ExecuteReader();
        return reader.Read() ? Read(reader) : null;
    }

    /// <summary>Adds a change to the trail.</summary>
    public static void AddChange(SqliteConnection connection, ActionId actionId, string table, long id, string? before, string? after) =>
        Run(
            connection,
            "INSERT INTO change (action_id, table_name, row_id, before, after) VALUES ($0, $1, $2, $3, $4)",
            [actionId, table, id, before, after]
        );

    /// <summary>Adds the images of rows that were added one after the other; the database writes them itself, in one statement.</summary>
    public static void AddChanges(SqliteConnection connection, ActionId actionId, string table, long first, long last)
    {
        Run(
            connection,
            Images.GetOrAdd(
                table,
                t =>
                    "INSERT INTO change (action_id, table_name, row_id, before, after) "
                    + $"SELECT $0, '{t}', id, NULL, json_object({ImageOf(FormOf(connection, t))}) FROM {t} "
                    + "WHERE id BETWEEN $1 AND $2 ORDER BY id"
            ),
            [actionId, first, last]
        );
    }

    /// <summary>
    /// Puts rows of one table back from one image of their changes to the other, and adds that to the trail: three statements instead of
    /// four for each row.
    /// </summary>
    /// <param name="changes">The changes, each of another row; all rows are changed, or all are added, or all taken away.</param>
    /// <param name="back">Whether they are taken back; else they are made again.</param>
    /// <returns>Whether all rows stood as the images say, to the letter; else nothing is done.</returns>
    public static bool RestoreAll(
        SqliteConnection connection,
        ActionId actionId,
        string table,
        IReadOnlyList<ChangedRow> changes,
        bool back
    )
    {
        var (from, to) = back ? ("after", "before") : ("before", "after");
        var (adds, takes) = (changes[0].From is null, changes[0].To is null);
        var form = FormOf(connection, table);
        var given = new { actionId, ids = Ids.Json(changes.Select(c => c.Id)) };
        const string These = "c.id IN (SELECT value FROM json_each(@ids))";
        var asLeft = adds ? "" : $" AND c.{from} = json_object({ImageOf(form, table)})";
        var stand = connection.ExecuteScalar<int>(
            $"SELECT count(*) FROM change c JOIN {table} ON {table}.id = c.row_id WHERE {These}{asLeft}",
            given
        );
        if (stand != (adds ? 0 : changes.Count))
            return false;
        var columns = form
            .Columns.Where(c => adds || c.Name != "id")
            .Select(c => (Name: Quoted(c.Name), Is: $"json_extract(c.{to}, '$.{c.Name}')"));
        connection.Execute(
            adds
                    ? $"INSERT INTO {table} ({string.Join(", ", columns.Select(c => c.Name))}) "
                        + $"SELECT {string.Join(", ", columns.Select(c => c.Is))} FROM change c WHERE {These} ORDER BY c.row_id"
                : takes ? $"DELETE FROM {table} WHERE id IN (SELECT c.row_id FROM change c WHERE {These})"
                : $"UPDATE {table} SET {string.Join(", ", columns.Select(c => $"{c.Name} = {c.Is}"))} "
                    + $"FROM change c WHERE {table}.id = c.row_id AND {These}",
            given
        );
        connection.Execute(
            "INSERT INTO change (action_id, table_name, row_id, before, after) "
                + $"SELECT @actionId, c.table_name, c.row_id, c.{from}, c.{to} FROM change c WHERE {These} "
                + $"ORDER BY c.id {(back ? "DESC" : "ASC")}",
            given
        );
        return true;
    }

    /// <summary>Changes one column of rows, and adds it to the trail; rows that have the value already are left.</summary>
    public static void UpdateAll(
        SqliteConnection connection,
        ActionId actionId,
        string table,
        IReadOnlyList<long> ids,
        string column,
        object? value
    )
    {
        var form = FormOf(connection, table);
        var after = string.Join(", ", form.Columns.Select(c => $"'{c.Name}', {(c.Name == column ? "@value" : Quoted(c.Name))}"));
        var given = new
        {
            actionId,
            ids = Ids.Json(ids),
            value,
        };
        var these = $"id IN (SELECT value FROM json_each(@ids)) AND {Quoted(column)} IS NOT @value";
        connection.Execute(
            "INSERT INTO change (action_id, table_name, row_id, before, after) "
                + $"SELECT @actionId, '{table}', id, json_object({ImageOf(form)}), json_object({after}) FROM {table} "
                + $"WHERE {these} ORDER BY id",
            given
        );
        connection.Execute($"UPDATE {table} SET {Quoted(column)} = @value WHERE {these}", given);
    }

    /// <summary>Takes rows away, and adds it to the trail.</summary>
    public static void DeleteAll(SqliteConnection connection, ActionId actionId, string table, IReadOnlyList<long> ids)
    {
        var given = new { actionId, ids = Ids.Json(ids) };
        const string These = "id IN (SELECT value FROM json_each(@ids))";
        connection.Execute(
            "INSERT INTO change (action_id, table_name, row_id, before, after) "
                + $"SELECT @actionId, '{table}', id, json_object({ImageOf(FormOf(connection, table))}), NULL FROM {table} "
                + $"WHERE {These} ORDER BY id",
            given
        );
        connection.Execute($"DELETE FROM {table} WHERE {These}", given);
    }

    private static string ImageOf(Form form, string table) =>
        string.Join(", ", form.Columns.Select(c => $"'{c.Name}', {table}.{Quoted(c.Name)}"));

    private static string ImageOf(Form form) => string.Join(", ", form.Columns.Select(c => $"'{c.Name}', {Quoted(c.Name)}"));

    /// <summary>Adds rows one after the other; what is not given gets its default.</summary>
    /// <returns>The id of the first; the others follow it.</returns>
    public static long InsertAll(SqliteConnection connection, string table, IReadOnlyList<string> columns, IReadOnlyList<object?[]> rows)
    {
        string Sql(int count) =>
            $"INSERT INTO {table} ({string.Join(", ", columns.Select(Quoted))}) VALUES "
            + string.Join(
                ", ",
                Enumerable.Range(0, count).Select(r => $"({string.Join(", ", columns.Select((_, c) => "$" + ((r * columns.Count) + c)))})")
            );
        var last = 0L;
        // A statement for each row would also write for each the number that the next row will have.
        foreach (var part in rows.Chunk(RowsInStatement))
        {
            var sql = Inserts.GetOrAdd((table, columns.Count, part.Length), _ => Sql(part.Length));
            Run(connection, sql, [.. part.SelectMany(row => row)]);
            var now = raw.sqlite3_last_insert_rowid(connection.Handle);
            if (last > 0 && now != last + part.Length)
                throw new InvalidOperationException($"Rows of {table} did not follow each other.");
            last = now;
        }
        return last - rows.Count + 1;
    }

    /// <summary>Adds a row; what is not given gets its default.</summary>
    /// <returns>The row as it stands, its columns in the order of the table.</returns>
    public static Dictionary<string, object?> Insert(SqliteConnection connection, string table, IReadOnlyDictionary<string, object?> row)
    {
        var form = FormOf(connection, table);
        // Asked back from the database (RETURNING), the row would cost three times as much as adding it.
        var added = new Dictionary<string, object?>(form.Columns.Count);
        foreach (var column in form.Columns)
            added[column.Name] = row.TryGetValue(column.Name, out var given)
                ? given switch
                {
                    IId id => id.Value,
                    long whole when column.IsReal => (double)whole,
                    _ => given,
                }
                : column.Default;
        if (row.Count > 0 && row.Keys.FirstOrDefault(k => !added.ContainsKey(k)) is { } unknown)
            throw new ArgumentException($"{table} has no column {unknown}.", nameof(row));
        Run(connection, form.InsertSql, added.Values);
        if (form.HasId)
            added["id"] = added["id"] ?? raw.sqlite3_last_insert_rowid(connection.Handle);
        return added;
    }

    public static void Update(SqliteConnection connection, string table, long id, IReadOnlyDictionary<string, object?> changes)
    {
        var names = changes.Keys.Where(k => k != "id").ToList();
        Run(
            connection,
            $"UPDATE {table} SET {string.Join(", ", names.Select((n, i) => $"{Quoted(n)} = ${i}"))} WHERE id = ${names.Count}",
            [.. names.Select(n => changes[n]), id]
        );
    }

    public static void Delete(SqliteConnection connection, string table, long id) =>
        Run(connection, $"DELETE FROM {table} WHERE id = $0", [id]);

    public static string ToImage(IReadOnlyDictionary<string, object?> row)
    {
        // By hand: a survey writes some 200,000 of them, and looking up how to write each value costs more than writing it.
        var image = new ArrayBufferWriter<byte>();
        using (var json = new Utf8JsonWriter(image))
        {
            json.WriteStartObject();
            foreach (var (column, value) in row)
            {
                json.WritePropertyName(column);
                switch (value)
                {
                    case null:
                        json.WriteNullValue();
                        break;
                    case string text:
                        json.WriteStringValue(text);
                        break;
                    case long whole:
                        json.WriteNumberValue(whole);
                        break;
                    case double fraction:
                        json.WriteNumberValue(fraction);
                        break;
                    default:
                        throw new ArgumentException($"{column} holds a {value.GetType().Name}, which no image can hold.", nameof(row));
                }
            }
            json.WriteEndObject();
        }
        return Encoding.UTF8.GetString(image.WrittenSpan);
    }

    public static Dictionary<string, object?> FromImage(string image) =>
        JsonDocument.Parse(image).RootElement.EnumerateObject().ToDictionary(p => p.Name, p => Value(p.Value));

    /// <summary>Whether a row still is what the image says; columns that a later schema added are not looked at.</summary>
    public static bool Matches(IReadOnlyDictionary<string, object?>? row, IReadOnlyDictionary<string, object?>? image)
    {
        if (row is null || image is null)
            return row is null && image is null;
        return image.All(column => row.TryGetValue(column.Key, out var value) && Same(value, column.Value));
    }

    // A whole number in a column of fractions is written as 2 and read back as an integer.
    private static bool Same(object? stored, object? imaged) =>
        stored is double fraction && imaged is long whole ? fraction == whole : Equals(stored, imaged);

    private static object? Value(JsonElement value) =>
        value.ValueKind switch
        {
            JsonValueKind.Null => null,
            JsonValueKind.String => value.GetString(),
            _ => value.TryGetInt64(out var whole) ? (object)whole : value.GetDouble(),
        };

    private static string Quoted(string column) => $"\"{column}\"";

    private static Dictionary<string, object?> Read(SqliteDataReader reader)
    {
        var row = new Dictionary<string, object?>(reader.FieldCount);
        for (var i = 0; i < reader.FieldCount; i++)
            row[reader.GetName(i)] = reader.IsDBNull(i) ? null : reader.GetValue(i);
        return row;
    }

    // By the database's own functions: a command finds each of its parameters by name each time, which costs more than adding the row.
    /// <summary>Runs a statement that is prepared once for its connection; its parameters are <c>$0</c>, <c>$1</c> …</summary>
    public static void Run(SqliteConnection connection, string sql, IReadOnlyCollection<object?> values)
    {
        var known = Statements.GetOrCreateValue(connection);
        if (!known.TryGetValue(sql, out var statement))
        {
            SqliteException.ThrowExceptionForRC(raw.sqlite3_prepare_v2(connection.Handle, sql, out statement), connection.Handle);
            known[sql] = statement;
        }
        var at = 0;
        foreach (var value in values)
            Bind(statement, ++at, value);
        var done = raw.sqlite3_step(statement);
        var problem = raw.sqlite3_reset(statement);
        if (done != raw.SQLITE_DONE)
            SqliteException.ThrowExceptionForRC(problem, connection.Handle);
    }

    private static void Bind(sqlite3_stmt statement, int at, object? value)
    {
        _ = value switch
        {
            null => raw.sqlite3_bind_null(statement, at),
            string text => raw.sqlite3_bind_text(statement, at, text),
            long whole => raw.sqlite3_bind_int64(statement, at, whole),
            IId id => raw.sqlite3_bind_int64(statement, at, id.Value),
            double fraction => raw.sqlite3_bind_double(statement, at, fraction),
            _ => throw new ArgumentException($"No column holds a {value.GetType().Name}.", nameof(value)),
        };
    }

    /// <summary>Lets go of what was prepared for a connection that is about to be given back.</summary>
    public static void Forget(SqliteConnection connection)
    {
        if (!Statements.TryGetValue(connection, out var known))
            return;
        foreach (var statement in known.Values)
            statement.Dispose();
        Statements.Remove(connection);
    }

    private static SqliteCommand Command(SqliteConnection connection, string sql, IReadOnlyCollection<object?> values)
    {
        var known = Prepared.GetOrCreateValue(connection);
        if (!known.TryGetValue(sql, out var command))
        {
            known[sql] = command = connection.CreateCommand();
            command.CommandText = sql;
            for (var i = 0; i < values.Count; i++)
                command.Parameters.Add(new SqliteParameter { ParameterName = "$" + i });
            // Without this, a reader that is left before its end has the statement compiled again each time.
            command.Prepare();
        }
        var at = 0;
        foreach (var value in values)
            command.Parameters[at++].Value = value is IId id ? id.Value : value ?? DBNull.Value;
        return command;
    }
}
