using System.Data;
using System.Text.Json;
using Dapper;

namespace Vitrine.Storage.Sql;

/// <summary>Several names as they stand in their column: JSON, or nothing for none.</summary>
internal sealed class NamesColumn : SqlMapper.TypeHandler<IReadOnlyList<string>>
{
    public override IReadOnlyList<string> Parse(object value) => Read((string)value);

    public override void SetValue(IDbDataParameter parameter, IReadOnlyList<string>? value) => parameter.Value = Stored(value ?? []);

    public static string Stored(IReadOnlyList<string> names) => names.Count == 0 ? "" : JsonSerializer.Serialize(names);

    public static IReadOnlyList<string> Read(string stored) =>
        stored.Length == 0 ? [] : JsonSerializer.Deserialize<List<string>>(stored) ?? [];
}
