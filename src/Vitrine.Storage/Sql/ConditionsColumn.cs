using System.Data;
using Dapper;
using Vitrine.Core.Counting;

namespace Vitrine.Storage.Sql;

/// <summary>Conditions as they stand in their column: JSON. What cannot be read is null: it never means everything.</summary>
internal sealed class ConditionsColumn : SqlMapper.TypeHandler<Conditions>
{
    public override Conditions? Parse(object value) => Conditions.TryParse((string)value, null, out var read) ? read : null;

    public override void SetValue(IDbDataParameter parameter, Conditions? value) => parameter.Value = (value ?? new Conditions()).ToJson();
}
