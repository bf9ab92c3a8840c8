using System.Data;
using System.Globalization;
using Dapper;

namespace Vitrine.Storage.Sql;

/// <summary>An instant as it stands in its column: UTC, ISO 8601, milliseconds.</summary>
internal sealed class InstantColumn : SqlMapper.TypeHandler<DateTimeOffset>
{
    public static string Stored(DateTimeOffset instant) =>
        instant.UtcDateTime.ToString("yyyy-MM-dd'T'HH:mm:ss.fff'Z'", CultureInfo.InvariantCulture);

    public override DateTimeOffset Parse(object value) => Read((string)value);

    public static DateTimeOffset Read(string stored) =>
        DateTimeOffset.Parse(stored, CultureInfo.InvariantCulture, DateTimeStyles.AssumeUniversal | DateTimeStyles.AdjustToUniversal);

    public override void SetValue(IDbDataParameter parameter, DateTimeOffset value) => parameter.Value = Stored(value);
}
