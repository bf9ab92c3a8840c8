using System.Data;
using Dapper;
using Vitrine.Core.Ids;

namespace Vitrine.Storage.Sql;

/// <summary>An id as it stands in its column: the bare number.</summary>
internal sealed class IdColumn<TKind> : SqlMapper.TypeHandler<Id<TKind>>
{
    public override Id<TKind> Parse(object value) => (long)value;

    public override void SetValue(IDbDataParameter parameter, Id<TKind> value) => parameter.Value = value.Value;
}

internal static class IdColumns
{
    /// <summary>Tells Dapper of every kind of id.</summary>
    public static void Register()
    {
        foreach (var kind in typeof(Kinds).GetNestedTypes())
            SqlMapper.AddTypeHandler(
                typeof(Id<>).MakeGenericType(kind),
                (SqlMapper.ITypeHandler)Activator.CreateInstance(typeof(IdColumn<>).MakeGenericType(kind))!
            );
    }
}
