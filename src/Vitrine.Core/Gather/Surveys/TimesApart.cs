using System.Text.RegularExpressions;
using Vitrine.Core.Gather.Participants;

namespace Vitrine.Core.Gather.Surveys;

/// <summary>
/// Dates with times of day behind them, parted into two columns: the day is a date that can be compared, and the time with its zone stays
/// beside it as it is written.
/// </summary>
/// <example>
/// "Sent" with the cells "2026-05-03 14:05 +02:00" and "2026-05-04" becomes "Sent" with "2026-05-03" and "2026-05-04", and "Sent, time"
/// with "14:05 +02:00" and "". A column in which anything else stands than dates is left as it is.
/// </example>
public static class TimesApart
{
    private const double AlmostAll = 0.95;
    private const int Longest = 60;

    /// <summary>The table with such columns parted, and the names of those that were.</summary>
    /// <param name="names">The names of the columns.</param>
    /// <param name="rows">Its rows; each has as many cells as there are names.</param>
    public static (IReadOnlyList<string> Names, IReadOnlyList<string[]> Rows, IReadOnlyList<string> Parted) Of(
        IReadOnlyList<string> names,
        IReadOnlyList<string[]> rows
    )
    {
        var parted = Enumerable.Range(0, names.Count).Where(c => IsParted(rows, c)).ToHashSet();
        if (parted.Count == 0)
            return (names, rows, []);
        return (
            [.. names.SelectMany((name, c) => parted.Contains(c) ? [name, $"{name}, time"] : new[] { name })],
            [.. rows.Select(row => row.SelectMany((cell, c) => parted.Contains(c) ? Parts(cell) : [cell]).ToArray())],
            [.. parted.Order().Select(c => names[c])]
        );
    }

    private static bool IsParted(IReadOnlyList<string[]> rows, int column)
    {
        // Most columns have no colon between digits anywhere.
        if (!rows.Any(r => Time(r[column]) is not null))
            return false;
        var cells = rows.Select(r => r[column]).Where(v => v.Length > 0 && !ColumnValues.IsNoAnswer(v)).ToList();
        var days = cells.ConvertAll(cell => Parts(cell)[0]);
        var written = ColumnValues.Of(days);
        return written.DateDoubt is null && days.Count(d => written.Fit(AttributeKind.Date, d) is not null) >= AlmostAll * cells.Count;
    }

    private static string[] Parts(string cell) =>
        Time(cell) is { } time ? [cell[..time.Index], time.Value.TrimStart('T', ',', ' ', '\t', '\u00A0', '\u202F')] : [cell, ""];

    private static Match? Time(string cell) =>
        cell.Length <= Longest && cell.Contains(':', StringComparison.Ordinal) && TimeAtEnd.Match(cell) is { Success: true } match
            ? match
            : null;

    private static readonly Regex TimeAtEnd = new(
        @"(?<=[0-9])(?:[T,]|\s)+[0-9]{1,2}:[0-9]{2}(?::[0-9]{2}(?:[.,][0-9]+)?)?(?:\s?[AaPp]\.?[Mm]\.?)?"
            + @"(?:\s?(?:Z|[A-Z]{2,5}|(?:UTC|GMT)?[+-][0-9]{1,2}:?[0-9]{0,2}))?$"
    );
}
