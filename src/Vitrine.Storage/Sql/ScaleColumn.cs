using System.Data;
using System.Text.Json;
using Dapper;
using Vitrine.Core.Sort.TagSet;

namespace Vitrine.Storage.Sql;

/// <summary>A tag's scale as it stands in its column: JSON.</summary>
internal sealed class ScaleColumn : SqlMapper.TypeHandler<Scale>
{
    public override Scale? Parse(object value) => value is string json ? JsonSerializer.Deserialize<Scale>(json) : null;

    public override void SetValue(IDbDataParameter parameter, Scale? value) =>
        parameter.Value = value is null ? DBNull.Value : JsonSerializer.Serialize(value);
}
