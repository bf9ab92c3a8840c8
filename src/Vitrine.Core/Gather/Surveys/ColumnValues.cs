using System.Globalization;
using System.Text.RegularExpressions;
using Vitrine.Core.Gather.Participants;

namespace Vitrine.Core.Gather.Surveys;

/// <summary>Why a column that looks like numbers or dates stays text until somebody says otherwise.</summary>
public enum ValueDoubt
{
    /// <summary>Cells such as 007: as numbers they would lose their noughts.</summary>
    LeadingNoughts,

    /// <summary>Cells of more than 15 digits: numbers cannot hold them exactly (IEEE 754, binary64).</summary>
    LongNumbers,

    /// <summary>Some cells are written 1,5 and others 1.5.</summary>
    MixedSeparators,

    /// <summary>Every cell is like 1,234, which can be a thousand and more, or one and a bit.</summary>
    UnclearSeparators,

    /// <summary>Some cells have a percent sign or a currency and others have none, or another.</summary>
    MixedUnits,

    /// <summary>In some cells the day comes first, in others the month.</summary>
    MixedDates,

    /// <summary>No cell tells whether day or month comes first.</summary>
    UnclearDates,
}

/// <summary>
/// How the numbers and dates of one column are written, decided by all its cells: those that can be read in one way decide for those that
/// can be read in two. Common practice, no source; two digits of a year as POSIX reads them (strptime, %y: 69 to 99 are of the twentieth
/// century).
/// </summary>
public sealed class ColumnValues
{
    private const int MostDigits = 15;

    /// <summary>No number and no date is longer.</summary>
    private const int Longest = 60;

    private const int LongestNoAnswer = 14;

    private static readonly HashSet<string> NoAnswers = new(StringComparer.OrdinalIgnoreCase)
    {
        "n/a",
        "na",
        "n.a.",
        "-",
        "–",
        "—",
        "?",
        "null",
        "not applicable",
        "no answer",
        "(blank)",
    };

    private readonly char decimalSign;
    private readonly bool dayFirst;

    private ColumnValues(char decimalSign, ValueDoubt? numbers, bool dayFirst, ValueDoubt? dates)
    {
        (this.decimalSign, this.dayFirst) = (decimalSign, dayFirst);
        (NumberDoubt, DateDoubt) = (numbers, dates);
    }

    /// <summary>Why its cells may not be numbers; null when they are all written alike.</summary>
    public ValueDoubt? NumberDoubt { get; }

    /// <summary>Why its cells may not be dates.</summary>
    public ValueDoubt? DateDoubt { get; }

    /// <summary>Looks through the cells of a column.</summary>
    public static ColumnValues Of(IEnumerable<string> cells)
    {
        var (decimals, groups, unclear) = (new HashSet<char>(), new HashSet<char>(), new HashSet<char>());
        var (noughts, long_, dayFirst, monthFirst, either) = (false, false, false, false, false);
        var units = new HashSet<string>();
        foreach (var cell in cells)
        {
            var value = cell.Trim();
            if (value.Length is 0 or > Longest || SaysNothing(value))
                continue;
            if (Numeric(value) is { } number)
            {
                noughts |= number.Digits.Length > 1 && number.Digits[0] == '0' && char.IsAsciiDigit(number.Digits[1]);
                long_ |= number.Digits.Count(char.IsAsciiDigit) > MostDigits;
                units.Add(number.Unit);
                if (number.Group is { } group)
                    groups.Add(group);
                if (number.Decimal is { } sign)
                    decimals.Add(sign);
                if (number.Either is { } sign2)
                    unclear.Add(sign2);
            }
            else if (Numbered(value) is { } date)
            {
                dayFirst |= date.First > 12 || date.Sign == '.';
                monthFirst |= date.Second > 12;
                either |= date is { First: <= 12, Second: <= 12, Sign: not '.' } && date.First != date.Second;
            }
        }
        var (sign1, numbers) = Separators(decimals, groups, unclear);
        if (noughts)
            numbers = ValueDoubt.LeadingNoughts;
        else if (long_)
            numbers = ValueDoubt.LongNumbers;
        else if (units.Count > 1)
            numbers = ValueDoubt.MixedUnits;
        ValueDoubt? dates =
            dayFirst && monthFirst ? ValueDoubt.MixedDates
            : either && !dayFirst && !monthFirst ? ValueDoubt.UnclearDates
            : null;
        return new ColumnValues(sign1, numbers, dayFirst || !monthFirst, dates);
    }

    /// <summary>Whether a cell says that there is no answer.</summary>
    public static bool IsNoAnswer(string cell) => SaysNothing(cell.Trim());

    private static bool SaysNothing(string value) =>
        value.Length <= LongestNoAnswer && !char.IsAsciiDigit(value[0]) && NoAnswers.Contains(value);

    /// <summary>
    /// A cell as a value of a type, as it is kept; null when it is none of the type, empty when it says that there is none.
    /// </summary>
    public string? Fit(AttributeKind kind, string cell)
    {
        var value = cell.Trim();
        if (kind is AttributeKind.Number or AttributeKind.Date or AttributeKind.YesNo && value.Length > 0 && SaysNothing(value))
            return "";
        return kind switch
        {
            AttributeKind.Number => Number(value),
            AttributeKind.Date => Date(value) ?? AttributeValue.Fit(kind, value),
            _ => AttributeValue.Fit(kind, value),
        };
    }

    private static (char Decimal, ValueDoubt? Doubt) Separators(HashSet<char> decimals, HashSet<char> groups, HashSet<char> unclear)
    {
        if (decimals.Count > 1 || decimals.Overlaps(groups))
            return ('.', ValueDoubt.MixedSeparators);
        if (decimals.Count == 1)
            return (decimals.First(), null);
        // A sign that parts thousands leaves the other for decimals.
        if (groups.Contains(','))
            return groups.Contains('.') ? ('.', ValueDoubt.MixedSeparators) : ('.', null);
        if (groups.Contains('.'))
            return (',', null);
        // Spaces part thousands: what else stands there is the decimal sign.
        if (groups.Count > 0 && unclear.Count == 1)
            return (unclear.First(), null);
        return ('.', unclear.Count > 0 ? ValueDoubt.UnclearSeparators : null);
    }

    private string? Number(string value)
    {
        if (Numeric(value) is not { } number)
            return null;
        var plain = new string([
            .. number.Digits.Where(c => char.IsAsciiDigit(c) || c == decimalSign).Select(c => c == decimalSign ? '.' : c),
        ]);
        return double.TryParse(plain, NumberStyles.AllowDecimalPoint, CultureInfo.InvariantCulture, out var read) && double.IsFinite(read)
            ? (number.Minus ? -read : read).ToString("R", CultureInfo.InvariantCulture)
            : null;
    }

    /// <summary>The parts of a cell that is a number; null when it is none.</summary>
    private static (string Digits, bool Minus, string Unit, char? Group, char? Decimal, char? Either)? Numeric(string value)
    {
        // Most cells are plain digits, or words.
        if (value.AsSpan().IndexOfAnyExceptInRange('0', '9') < 0)
            return (value, false, "", null, null, null);
        if (
            value.Length > Longest
            || !value.AsSpan().ContainsAnyInRange('0', '9')
            || NumberForm.Match(value) is not { Success: true } match
        )
            return null;
        var digits = match.Groups["digits"].Value;
        var unit = match.Groups["before"].Value.Trim() + match.Groups["after"].Value.Trim();
        var minus = match.Groups["minus"].Success;
        var signs = digits.Where(c => !char.IsAsciiDigit(c)).ToList();
        if (signs.Count == 0)
            return (digits, minus, unit, null, null, null);
        var last = digits.LastIndexOf(signs[^1]);
        var behind = digits.Length - last - 1;
        var isPoint = signs[^1] is '.' or ',';
        var parts = digits.Split([.. signs.Distinct()]);
        if (signs.Distinct().Count() == 1)
        {
            var grouped = parts[0].Length is > 0 and <= 3 && parts.Skip(1).All(p => p.Length == 3);
            if (signs.Count > 1 || !isPoint)
                return grouped ? (digits, minus, unit, signs[0], null, null) : null;
            return behind != 3 || parts[0].Length > 3 || parts[0].StartsWith('0')
                ? (digits, minus, unit, null, signs[0], null)
                : (digits, minus, unit, null, null, signs[0]);
        }
        // Two signs: the last, once, for the decimals; the other between threes.
        var thousands = parts[..^1];
        return
            signs.Distinct().Count() == 2
            && isPoint
            && signs.Count(c => c == signs[^1]) == 1
            && thousands[0].Length is > 0 and <= 3
            && thousands.Skip(1).All(p => p.Length == 3)
            ? (digits, minus, unit, signs[0], signs[^1], null)
            : null;
    }

    private string? Date(string value)
    {
        if (value.Length > Longest || !value.AsSpan().ContainsAnyInRange('0', '9'))
            return null;
        if (Numbered(value) is { } date)
        {
            var (day, month) = dayFirst ? (date.First, date.Second) : (date.Second, date.First);
            return Day(date.Year, month, day);
        }
        if (YearFirst.Match(value) is { Success: true } year)
            return Day(Int(year, "y"), Int(year, "m"), Int(year, "d"));
        if (Named.Match(value) is not { Success: true } named)
            return null;
        var name = Array.FindIndex(
            CultureInfo.InvariantCulture.DateTimeFormat.AbbreviatedMonthNames,
            m => m.Length > 0 && named.Groups["m"].Value.StartsWith(m, StringComparison.OrdinalIgnoreCase)
        );
        return name < 0 ? null : Day(FullYear(named.Groups["y"].Value), name + 1, Int(named, "d"));
    }

    /// <summary>The numbers of a cell such as 3/4/2026; null when it is written otherwise.</summary>
    private static (int First, int Second, int Year, char Sign)? Numbered(string value) =>
        DayAndMonth.Match(value) is { Success: true } match
            ? (Int(match, "a"), Int(match, "b"), FullYear(match.Groups["y"].Value), match.Groups["sign"].Value[0])
            : null;

    private static string? Day(int year, int month, int day) =>
        month is >= 1 and <= 12 && day >= 1 && year is >= 1 and <= 9999 && day <= DateTime.DaysInMonth(year, month)
            ? new DateOnly(year, month, day).ToString("yyyy-MM-dd", CultureInfo.InvariantCulture)
            : null;

    private static int FullYear(string digits)
    {
        var year = int.Parse(digits, CultureInfo.InvariantCulture);
        return digits.Length > 2 ? year
            : year >= 69 ? 1900 + year
            : 2000 + year;
    }

    private static int Int(Match match, string group) => int.Parse(match.Groups[group].ValueSpan, CultureInfo.InvariantCulture);

    /// <summary>A time of day behind a date, with its zone.</summary>
    private const string Time =
        @"(?:(?:[T,]|\s)+[0-9]{1,2}:[0-9]{2}(?::[0-9]{2}(?:[.,][0-9]+)?)?(?:\s?[AaPp]\.?[Mm]\.?)?"
        + @"(?:\s?(?:Z|[A-Z]{2,5}|(?:UTC|GMT)?[+-][0-9]{1,2}:?[0-9]{0,2}))?)?$";

    private const string Currency = "[€$£¥]|[A-Z]{3}";

    /// <summary>Digits with signs and spaces between them; which of them part what is told by the column.</summary>
    private static readonly Regex NumberForm = new(
        @"^(?<minus>[-−])?(?:\+)?(?<before>(?:"
            + Currency
            + @")\s?)?(?<digits>[0-9][0-9.,\u0020\u00A0\u202F'’]*[0-9]|[0-9])(?<after>\s?(?:%|"
            + Currency
            + "))?$"
    );

    private static readonly Regex DayAndMonth = new(
        @"^(?<a>[0-9]{1,2})(?<sign>[/.-])(?<b>[0-9]{1,2})\k<sign>(?<y>[0-9]{4}|[0-9]{2})" + Time
    );

    private static readonly Regex YearFirst = new(@"^(?<y>[0-9]{4})[/.-](?<m>[0-9]{1,2})[/.-](?<d>[0-9]{1,2})" + Time);

    private static readonly Regex Named = new(
        @"^(?:\p{L}{3,9},?\s+)?(?:(?<d>[0-9]{1,2})(?:st|nd|rd|th)?[\s.-]+(?<m>\p{L}{3,9})\.?,?[\s-]+(?<y>[0-9]{4}|[0-9]{2})"
            + @"|(?<m>\p{L}{3,9})\.?\s+(?<d>[0-9]{1,2})(?:st|nd|rd|th)?,?\s+(?<y>[0-9]{4}))"
            + Time
    );
}
