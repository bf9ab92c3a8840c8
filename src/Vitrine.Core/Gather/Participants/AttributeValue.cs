using System.Globalization;

namespace Vitrine.Core.Gather.Participants;

/// <summary>The type of an attribute's values.</summary>
public enum AttributeKind
{
    /// <summary>One of some words, such as a role.</summary>
    Choice,

    /// <summary>A number.</summary>
    Number,

    /// <summary>A day.</summary>
    Date,

    /// <summary>Yes or no.</summary>
    YesNo,

    /// <summary>Free words.</summary>
    Text,
}

/// <summary>How a value of an attribute is written: numbers with a decimal point, dates as year-month-day (ISO 8601), yes or no.</summary>
public static class AttributeValue
{
    // Written day first with points or month by name; a date with slashes is day first only where it cannot be month first.
    private static readonly string[] Dates =
    [
        "yyyy-MM-dd",
        "yyyy-MM-dd HH:mm",
        "yyyy-MM-dd HH:mm:ss",
        "yyyy-MM-ddTHH:mm:ss",
        "yyyy/MM/dd",
        "yyyy/M/d",
        "d.M.yyyy",
        "d MMM yyyy",
        "d MMMM yyyy",
        "MMM d, yyyy",
        "MMMM d, yyyy",
    ];

    /// <summary>The value as it is kept; null when it is none of the type. Empty stays empty.</summary>
    public static string? Fit(AttributeKind kind, string raw)
    {
        var value = raw.Trim();
        if (value.Length == 0)
            return value;
        return kind switch
        {
            AttributeKind.Number => Number(value)?.ToString("R", CultureInfo.InvariantCulture),
            AttributeKind.Date => DateTime.TryParseExact(value, Dates, CultureInfo.InvariantCulture, DateTimeStyles.None, out var day)
                ? day.ToString("yyyy-MM-dd", CultureInfo.InvariantCulture)
                : null,
            AttributeKind.YesNo => value.ToLowerInvariant() switch
            {
                "yes" or "y" or "true" or "1" or "x" => "yes",
                "no" or "n" or "false" or "0" => "no",
                _ => null,
            },
            _ => value,
        };
    }

    /// <summary>
    /// How one kept value stands to another: numbers as numbers, days as days. Below zero when it comes before; null when one of them is
    /// neither or they are not of one type.
    /// </summary>
    public static int? Order(string one, string other)
    {
        if (Day(one) is { } day && Day(other) is { } otherDay)
            return day.CompareTo(otherDay);
        return KeptNumber(one) is { } number && KeptNumber(other) is { } otherNumber ? number.CompareTo(otherNumber) : null;

        static DateOnly? Day(string kept) =>
            DateOnly.TryParseExact(kept, "yyyy-MM-dd", CultureInfo.InvariantCulture, DateTimeStyles.None, out var day) ? day : null;
        static double? KeptNumber(string kept) =>
            double.TryParse(kept, NumberStyles.Float, CultureInfo.InvariantCulture, out var number) && double.IsFinite(number)
                ? number
                : null;
    }

    /// <summary>A number with a decimal point or, where there is no other reading, a decimal comma.</summary>
    private static double? Number(string value)
    {
        if (double.TryParse(value, NumberStyles.Float, CultureInfo.InvariantCulture, out var number))
            return double.IsFinite(number) ? number : null;
        var comma = value.IndexOf(',', StringComparison.Ordinal);
        var decimalComma = comma >= 0 && comma == value.LastIndexOf(',') && !value.Contains('.', StringComparison.Ordinal);
        return decimalComma && double.TryParse(value.Replace(',', '.'), NumberStyles.Float, CultureInfo.InvariantCulture, out number)
            ? number
            : null;
    }
}
