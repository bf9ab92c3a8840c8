using System.Collections.Concurrent;
using System.Text.Json;
using Dapper;
using Microsoft.Data.Sqlite;

namespace Vitrine.Storage.Trail;

/// <summary>Rows as images: read whole, compared whole, and put back whole.</summary>
internal static class Rows
{
    private static readonly ConcurrentDictionary<string, HashSet<string>> ColumnsByTable = new();

    public static HashSet<string> ColumnsOf(SqliteConnection connection, string table) =>
        ColumnsByTable.GetOrAdd(table, t =>
        {
            var columns = connection.Query<string>("SELECT name FROM pragma_table_info(@t)", new { t }).ToHashSet();
            return columns.Count > 0 ? columns : throw new ArgumentException($"There is no table {t}.", nameof(table));
        });

    public static Dictionary<string, object?>? Find(SqliteConnection connection, string table, long id)
    {
        using var command = connection.CreateCommand();
        command.CommandText = $"SELECT * FROM {table} WHERE id = $id";
        command.Parameters.AddWithValue("$id", id);
        using var reader = command.ExecuteReader();
        if (!reader.Read()) return null;
        var row = new Dictionary<string, object?>(reader.FieldCount);
        for (var i = 0; i < reader.FieldCount; i++) row[reader.GetName(i)] = reader.IsDBNull(i) ? null : reader.GetValue(i);
        return row;
    }

    public static void Insert(SqliteConnection connection, string table, IReadOnlyDictionary<string, object?> row)
    {
        var names = row.Keys.ToList();
        Run(connection, $"INSERT INTO {table} ({string.Join(", ", names.Select(Quoted))}) VALUES ({string.Join(", ", names.Select((_, i) => "$" + i))})", [.. names.Select(n => row[n])]);
    }

    public static void Update(SqliteConnection connection, string table, long id, IReadOnlyDictionary<string, object?> changes)
    {
        var names = changes.Keys.Where(k => k != "id").ToList();
        Run(connection, $"UPDATE {table} SET {string.Join(", ", names.Select((n, i) => $"{Quoted(n)} = ${i}"))} WHERE id = ${names.Count}", [.. names.Select(n => changes[n]), id]);
    }

    public static void Delete(SqliteConnection connection, string table, long id) => Run(connection, $"DELETE FROM {table} WHERE id = $0", [id]);

    public static string ToImage(IReadOnlyDictionary<string, object?> row) => JsonSerializer.Serialize(row);

    public static Dictionary<string, object?> FromImage(string image) =>
        JsonDocument.Parse(image).RootElement.EnumerateObject().ToDictionary(p => p.Name, p => Value(p.Value));

    /// <summary>Whether a row still is what the image says; columns that a later schema added are not looked at.</summary>
    public static bool Matches(IReadOnlyDictionary<string, object?>? row, IReadOnlyDictionary<string, object?>? image)
    {
        if (row is null || image is null) return row is null && image is null;
        return image.All(column => row.TryGetValue(column.Key, out var value) && Equals(value, column.Value));
    }

    private static object? Value(JsonElement value) => value.ValueKind switch
    {
        JsonValueKind.Null => null,
        JsonValueKind.String => value.GetString(),
        _ => value.TryGetInt64(out var whole) ? (object)whole : value.GetDouble(),
    };

    private static string Quoted(string column) => $"\"{column}\"";

    private static void Run(SqliteConnection connection, string sql, IReadOnlyList<object?> values)
    {
        using var command = connection.CreateCommand();
        command.CommandText = sql;
        for (var i = 0; i < values.Count; i++) command.Parameters.AddWithValue("$" + i, values[i] ?? DBNull.Value);
        command.ExecuteNonQuery();
    }
}
