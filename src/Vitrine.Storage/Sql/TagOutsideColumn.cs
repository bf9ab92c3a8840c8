using System.Data;
using System.Text.Json;
using Dapper;
using Vitrine.Core.Sort.TagSet;

namespace Vitrine.Storage.Sql;

/// <summary>What was said of a tag outside as it stands in its column: JSON.</summary>
internal sealed class TagOutsideColumn : SqlMapper.TypeHandler<TagOutside>
{
    public override TagOutside? Parse(object value) => value is string json ? JsonSerializer.Deserialize<TagOutside>(json) : null;

    public override void SetValue(IDbDataParameter parameter, TagOutside? value) =>
        parameter.Value = Stored(value) is { } json ? json : DBNull.Value;

    public static string? Stored(TagOutside? outside) => outside is null ? null : JsonSerializer.Serialize(outside);
}
