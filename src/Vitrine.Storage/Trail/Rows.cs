using System.Buffers;
using System.Collections.Concurrent;
using System.Runtime.CompilerServices;
using System.Text;
using System.Text.Json;
using Dapper;
using Microsoft.Data.Sqlite;

namespace Vitrine.Storage.Trail;

/// <summary>Rows as images: read whole, compared whole, and put back whole.</summary>
internal static class Rows
{
    private static readonly ConcurrentDictionary<string, HashSet<string>> ColumnsByTable = new();

    // A step that writes thousands of rows says the same few statements; each is prepared once for its connection.
    private static readonly ConditionalWeakTable<SqliteConnection, Dictionary<string, SqliteCommand>> Prepared = [];

    public static HashSet<string> ColumnsOf(SqliteConnection connection, string table) =>
        ColumnsByTable.GetOrAdd(table, t =>
        {
            var columns = connection.Query<string>("SELECT name FROM pragma_table_info(@t)", new { t }).ToHashSet();
            return columns.Count > 0 ? columns : throw new ArgumentException($"There is no table {t}.", nameof(table));
        });

    public static Dictionary<string, object?>? Find(SqliteConnection connection, string table, long id)
    {
        using var reader = Command(connection, $"SELECT * FROM {table} WHERE id = $0", [id]).ExecuteReader();
        return reader.Read() ? Read(reader) : null;
    }

    /// <summary>Adds a row whose stored form nobody needs to see.</summary>
    public static void Append(SqliteConnection connection, string table, IReadOnlyDictionary<string, object?> row) => Run(connection, InsertSql(table, row), [.. row.Values]);

    /// <summary>Adds a row.</summary>
    /// <returns>The row as it stands.</returns>
    public static Dictionary<string, object?> Insert(SqliteConnection connection, string table, IReadOnlyDictionary<string, object?> row)
    {
        using var reader = Command(connection, InsertSql(table, row) + " RETURNING *", [.. row.Values]).ExecuteReader();
        reader.Read();
        var added = Read(reader);
        // The statement is done only when it has no more rows to give.
        reader.Read();
        return added;
    }

    public static void Update(SqliteConnection connection, string table, long id, IReadOnlyDictionary<string, object?> changes)
    {
        var names = changes.Keys.Where(k => k != "id").ToList();
        Run(connection, $"UPDATE {table} SET {string.Join(", ", names.Select((n, i) => $"{Quoted(n)} = ${i}"))} WHERE id = ${names.Count}", [.. names.Select(n => changes[n]), id]);
    }

    public static void Delete(SqliteConnection connection, string table, long id) => Run(connection, $"DELETE FROM {table} WHERE id = $0", [id]);

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
                    case null: json.WriteNullValue(); break;
                    case string text: json.WriteStringValue(text); break;
                    case long whole: json.WriteNumberValue(whole); break;
                    case double fraction: json.WriteNumberValue(fraction); break;
                    default: throw new ArgumentException($"{column} holds a {value.GetType().Name}, which no image can hold.", nameof(row));
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
        if (row is null || image is null) return row is null && image is null;
        return image.All(column => row.TryGetValue(column.Key, out var value) && Same(value, column.Value));
    }

    // A whole number in a column of fractions is written as 2 and read back as an integer.
    private static bool Same(object? stored, object? imaged) => stored is double fraction && imaged is long whole ? fraction == whole : Equals(stored, imaged);

    private static object? Value(JsonElement value) => value.ValueKind switch
    {
        JsonValueKind.Null => null,
        JsonValueKind.String => value.GetString(),
        _ => value.TryGetInt64(out var whole) ? (object)whole : value.GetDouble(),
    };

    private static string Quoted(string column) => $"\"{column}\"";

    private static string InsertSql(string table, IReadOnlyDictionary<string, object?> row) =>
        $"INSERT INTO {table} ({string.Join(", ", row.Keys.Select(Quoted))}) VALUES ({string.Join(", ", Enumerable.Range(0, row.Count).Select(i => "$" + i))})";

    private static Dictionary<string, object?> Read(SqliteDataReader reader)
    {
        var row = new Dictionary<string, object?>(reader.FieldCount);
        for (var i = 0; i < reader.FieldCount; i++) row[reader.GetName(i)] = reader.IsDBNull(i) ? null : reader.GetValue(i);
        return row;
    }

    private static void Run(SqliteConnection connection, string sql, IReadOnlyList<object?> values) => Command(connection, sql, values).ExecuteNonQuery();

    private static SqliteCommand Command(SqliteConnection connection, string sql, IReadOnlyList<object?> values)
    {
        var known = Prepared.GetOrCreateValue(connection);
        if (!known.TryGetValue(sql, out var command))
        {
            known[sql] = command = connection.CreateCommand();
            command.CommandText = sql;
            for (var i = 0; i < values.Count; i++) command.Parameters.Add(new SqliteParameter { ParameterName = "$" + i });
            // Without this, a reader that is left before its end has the statement compiled again each time.
            command.Prepare();
        }
        for (var i = 0; i < values.Count; i++) command.Parameters[i].Value = values[i] ?? DBNull.Value;
        return command;
    }
}
