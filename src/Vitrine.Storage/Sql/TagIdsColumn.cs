using System.Data;
using System.Text.Json;
using Dapper;

namespace Vitrine.Storage.Sql;

/// <summary>Tags as a query lists them: a JSON array of their ids.</summary>
internal sealed class TagIdsColumn : SqlMapper.TypeHandler<IReadOnlyList<TagId>>
{
    public override IReadOnlyList<TagId> Parse(object value) =>
        [.. JsonSerializer.Deserialize<long[]>((string)value)!.Select(id => new TagId(id))];

    public override void SetValue(IDbDataParameter parameter, IReadOnlyList<TagId>? value) => parameter.Value = Ids.Json(value ?? []);
}
