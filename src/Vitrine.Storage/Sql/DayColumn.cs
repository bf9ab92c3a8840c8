using System.Data;
using System.Globalization;
using Dapper;

namespace Vitrine.Storage.Sql;

/// <summary>A day as it stands in its column: year-month-day (ISO 8601).</summary>
internal sealed class DayColumn : SqlMapper.TypeHandler<DateOnly>
{
    public static string Stored(DateOnly day) => day.ToString("yyyy-MM-dd", CultureInfo.InvariantCulture);

    public override DateOnly Parse(object value) => DateOnly.ParseExact((string)value, "yyyy-MM-dd", CultureInfo.InvariantCulture);

    public override void SetValue(IDbDataParameter parameter, DateOnly value) => parameter.Value = Stored(value);
}
