using System.Globalization;
using System.Security.Cryptography;
using System.Text;
using System.Text.RegularExpressions;
using Vitrine.Core.Gather.Participants;

namespace Vitrine.Core.Gather.Surveys;

/// <summary>What a column of a survey's table is.</summary>
public enum ColumnRole
{
    /// <summary>Tells who answered.</summary>
    Who,

    /// <summary>The day on which a row was answered; its source is held on it.</summary>
    When,

    /// <summary>A fact about them.</summary>
    Attribute,

    /// <summary>Words of their own: material to read.</summary>
    OpenAnswer,

    /// <summary>A step on a scale; kept as a number among the attributes.</summary>
    Rating,

    /// <summary>A step on a scale; kept as the value of a tag that carries the scale, on the answer.</summary>
    ScaleValue,

    /// <summary>Left out.</summary>
    Ignore,
}

/// <summary>A column and what it is; the type is that of an attribute.</summary>
public sealed record SurveyColumn(string Name, ColumnRole Role, AttributeKind Kind);

/// <summary>One person's row, told apart by <paramref name="Key"/>.</summary>
/// <param name="Key">What tells this row from all others, the same whenever the table comes again.</param>
/// <param name="ContentHash">Changes with any cell.</param>
/// <param name="Who">What the table says of who it is; empty where it says nothing.</param>
/// <param name="Values">Scale values by column.</param>
/// <param name="On">When it was answered; null when no column says so.</param>
/// <param name="IsOneOfMany">Whether the same person has other rows in the table.</param>
/// <param name="Facts">Attribute and rating columns with a value that fits, by column.</param>
/// <param name="Answers">Open answers by column, in order.</param>
public sealed record SurveyRow(
    string Key,
    string ContentHash,
    string Who,
    IReadOnlyList<(int Column, string Value)> Facts,
    IReadOnlyList<(int Column, string Words)> Answers,
    IReadOnlyList<(int Column, double Value)> Values,
    DateOnly? On = null,
    bool IsOneOfMany = false
)
{
    /// <summary>Whether something of it is material to read.</summary>
    public bool Speaks => Answers.Count + Values.Count > 0;

    /// <summary>Its cells as they are written, by column.</summary>
    public IReadOnlyList<string> Cells { get; init; } = [];
}

/// <summary>A value that is none of its column's type.</summary>
public sealed record Misfit(int Column, int Row, string Value);

/// <summary>A cell that would be kept otherwise than it is written; empty where it says that there is no answer.</summary>
public sealed record ChangedCell(int Column, string Cell, string Becomes);

/// <summary>Reads a table as a survey: guesses what its columns are, and makes rows of people with facts and answers.</summary>
public static partial class SurveyReading
{
    private const int LooksAt = 500;
    private const int FewChoices = 12;
    private const int LongestCode = 24;
    private const double AlmostAll = 0.95;
    private const double RowsOfDiary = 1.5;

    /// <summary>
    /// What each column most likely is. Rules of thumb (common practice, no source); the researcher changes what is wrong.
    /// </summary>
    public static IReadOnlyList<SurveyColumn> Guess(IReadOnlyList<string> names, IReadOnlyList<string[]> rows)
    {
        var guessed = names
            .Select(
                (name, c) =>
                    GuessOne(
                        name,
                        [.. rows.Take(LooksAt).Select(r => r[c]).Where(v => v.Length > 0)],
                        ColumnValues.Of(rows.Select(r => r[c]))
                    )
            )
            .ToList();
        var who = Enumerable.Range(0, names.Count).Where(c => WhoName().IsMatch(names[c]) && AllDifferent(rows, c)).Append(-1).First();
        if (who < 0)
            who = Enumerable
                .Range(0, Math.Min(1, names.Count))
                .Where(c => AllDifferent(rows, c) && rows.All(r => Code().IsMatch(r[c])))
                .Append(-1)
                .First();
        if (who >= 0)
            guessed[who] = new SurveyColumn(names[who], ColumnRole.Who, AttributeKind.Text);
        else if (Enumerable.Range(0, names.Count).Where(c => IsDiary(names[c], rows, c)).Append(-1).First() is >= 0 and var teller)
            guessed = Diary(guessed, rows, teller);
        return guessed;
    }

    /// <summary>Whether a column tells of every row whose it is, and of most people more than once.</summary>
    private static bool IsDiary(string name, IReadOnlyList<string[]> rows, int column) =>
        PersonName().IsMatch(name)
        && rows.All(r => r[column].Length > 0)
        && rows.Select(r => r[column]).Distinct(StringComparer.OrdinalIgnoreCase).Count() is var people
        && people > 1
        && rows.Count >= people * RowsOfDiary;

    /// <summary>
    /// The columns of a table with several rows a person: what is the same in all rows of each person is known of them; the rest is of the
    /// row, a rating on the scale of a tag, anything else as words. The first days that differ tell when a row was answered.
    /// </summary>
    private static List<SurveyColumn> Diary(List<SurveyColumn> guessed, IReadOnlyList<string[]> rows, int who)
    {
        var people = rows.GroupBy(r => r[who], StringComparer.OrdinalIgnoreCase).Select(g => g.ToList()).ToList();
        bool IsOfRow(int c) => people.Exists(of => of.Select(r => r[c]).Distinct().Skip(1).Any());
        var when = Enumerable
            .Range(0, guessed.Count)
            .Where(c => guessed[c] is { Role: ColumnRole.Attribute, Kind: AttributeKind.Date } && IsOfRow(c))
            .Append(-1)
            .First();
        return
        [
            .. guessed.Select(
                (column, c) =>
                    c == who ? new SurveyColumn(column.Name, ColumnRole.Who, AttributeKind.Text)
                    : c == when ? column with { Role = ColumnRole.When }
                    : !IsOfRow(c) ? column
                    : column.Role switch
                    {
                        ColumnRole.Rating => column with { Role = ColumnRole.ScaleValue },
                        ColumnRole.Attribute => column with { Role = ColumnRole.OpenAnswer },
                        _ => column,
                    }
            ),
        ];
    }

    /// <summary>
    /// The table's rows by what its columns are, and the values that do not fit. A value that does not fit is left out; nothing else is.
    /// </summary>
    public static (IReadOnlyList<SurveyRow> Rows, IReadOnlyList<Misfit> Misfits) Rows(
        IReadOnlyList<SurveyColumn> columns,
        IReadOnlyList<string[]> cells
    )
    {
        var who = columns.ToList().FindIndex(c => c.Role == ColumnRole.Who);
        var written = WrittenIn(columns, cells);
        var rows = new List<SurveyRow>(cells.Count);
        var misfits = new List<Misfit>();
        var when = columns.ToList().FindIndex(c => c.Role == ColumnRole.When);
        var seen = new Dictionary<string, int>(StringComparer.OrdinalIgnoreCase);
        var many =
            who < 0
                ? []
                : cells
                    .GroupBy(r => r[who], StringComparer.OrdinalIgnoreCase)
                    .Where(g => g.Key.Length > 0 && g.Skip(1).Any())
                    .Select(g => g.Key)
                    .ToHashSet(StringComparer.OrdinalIgnoreCase);
        for (var r = 0; r < cells.Count; r++)
        {
            var facts = new List<(int, string)>();
            var answers = new List<(int, string)>();
            var values = new List<(int, double)>();
            DateOnly? on = null;
            for (var c = 0; c < columns.Count; c++)
            {
                var value = cells[r][c];
                if (value.Length == 0)
                    continue;
                if (columns[c].Role == ColumnRole.OpenAnswer)
                    answers.Add((c, value));
                if (!IsValue(columns[c]))
                    continue;
                if (written[c].Fit(KindOf(columns[c]), value) is not { } fit)
                    misfits.Add(new Misfit(c, r, value));
                else if (fit.Length == 0)
                    continue;
                else if (columns[c].Role == ColumnRole.When)
                    on = c == when ? DateOnly.ParseExact(fit, "yyyy-MM-dd", CultureInfo.InvariantCulture) : on;
                else if (columns[c].Role == ColumnRole.ScaleValue)
                    values.Add((c, double.Parse(fit, CultureInfo.InvariantCulture)));
                else
                    facts.Add((c, fit));
            }
            var hash = Hash(cells[r]);
            var name = who >= 0 ? cells[r][who] : "";
            var key = name.Length > 0 ? name.ToLowerInvariant() : hash;
            if (many.Contains(name) && on is { } day)
                key += day.ToString(" yyyy-MM-dd", CultureInfo.InvariantCulture);
            // The same person twice on one day, or two rows alike, are two rows.
            var times = seen[key] = seen.GetValueOrDefault(key) + 1;
            rows.Add(new SurveyRow(Numbered(key, times), hash, name, facts, answers, values, on, many.Contains(name)) { Cells = cells[r] });
        }
        return (rows, misfits);
    }

    internal static string Numbered(string key, int times) =>
        times == 1 ? key : string.Create(CultureInfo.InvariantCulture, $"{key} #{times}");

    /// <summary>
    /// The cells that would be kept otherwise than they are written, each spelling once: a number in another form, a date, and what says
    /// that there is no answer. Nothing is changed without being told here.
    /// </summary>
    public static IReadOnlyList<ChangedCell> Changes(IReadOnlyList<SurveyColumn> columns, IReadOnlyList<string[]> cells)
    {
        var written = WrittenIn(columns, cells);
        return
        [
            .. Enumerable
                .Range(0, columns.Count)
                .Where(c => IsValue(columns[c]))
                .SelectMany(c =>
                    cells
                        .Select(row => row[c])
                        .Where(v => v.Length > 0)
                        .Distinct()
                        .Select(v => (Cell: v, Becomes: written[c].Fit(KindOf(columns[c]), v)))
                        .Where(v => v.Becomes is not null && v.Becomes != v.Cell)
                        .Select(v => new ChangedCell(c, v.Cell, v.Becomes!))
                ),
        ];
    }

    /// <summary>Why columns that look like numbers or dates are guessed to be text.</summary>
    public static IReadOnlyList<(int Column, ValueDoubt Doubt)> Doubts(IReadOnlyList<SurveyColumn> guessed, IReadOnlyList<string[]> rows) =>
        [
            .. Enumerable
                .Range(0, guessed.Count)
                .Where(c => guessed[c] is { Role: ColumnRole.Attribute, Kind: AttributeKind.Text or AttributeKind.Choice })
                .Select(c => (Column: c, Doubt: DoubtOf([.. rows.Select(r => r[c]).Where(v => v.Length > 0)])))
                .Where(d => d.Doubt is not null)
                .Select(d => (d.Column, d.Doubt!.Value)),
        ];

    private static ValueDoubt? DoubtOf(List<string> values)
    {
        var written = ColumnValues.Of(values);
        return Almost(values, written, AttributeKind.Number) ? written.NumberDoubt
            : Almost(values, written, AttributeKind.Date) ? written.DateDoubt
            : null;
    }

    private static bool Almost(List<string> values, ColumnValues written, AttributeKind kind) =>
        values.Count(v => written.Fit(kind, v) is not null) >= AlmostAll * values.Count && values.Exists(v => !ColumnValues.IsNoAnswer(v));

    private static List<ColumnValues> WrittenIn(IReadOnlyList<SurveyColumn> columns, IReadOnlyList<string[]> cells) =>
        [
            .. columns.Select(
                (column, c) =>
                    KindOf(column) is AttributeKind.Number or AttributeKind.Date
                        ? ColumnValues.Of(cells.Select(r => r[c]))
                        : ColumnValues.Of([])
            ),
        ];

    /// <summary>A rating is a number and the day of a row a date, whatever type stands beside it.</summary>
    public static AttributeKind KindOf(SurveyColumn column) =>
        column.Role switch
        {
            ColumnRole.Rating or ColumnRole.ScaleValue => AttributeKind.Number,
            ColumnRole.When => AttributeKind.Date,
            _ => column.Kind,
        };

    private static bool IsValue(SurveyColumn column) =>
        column.Role is ColumnRole.Attribute or ColumnRole.Rating or ColumnRole.ScaleValue or ColumnRole.When;

    /// <summary>Whether what a table says of who it is can be shown as a code; a name or an address stays with the team.</summary>
    public static bool IsCode(string who) => who.Length <= LongestCode && Code().IsMatch(who);

    private static SurveyColumn GuessOne(string name, List<string> values, ColumnValues written)
    {
        if (values.Count == 0)
            return new SurveyColumn(name, ColumnRole.Ignore, AttributeKind.Text);
        bool Fits(AttributeKind kind) => Almost(values, written, kind);
        var different = values.Distinct(StringComparer.OrdinalIgnoreCase).Count();
        if (written.NumberDoubt is null && Fits(AttributeKind.Number))
        {
            var numbers = values
                .Select(v => written.Fit(AttributeKind.Number, v))
                .Where(v => v is { Length: > 0 })
                .Select(v => double.Parse(v!, CultureInfo.InvariantCulture))
                .ToList();
            var steps =
                numbers.All(n => n is >= 0 and <= 10 && n == Math.Floor(n)) && different <= 11 && (values.Count < 3 || different > 1);
            return new SurveyColumn(
                name,
                steps && RatingName().IsMatch(name) ? ColumnRole.Rating : ColumnRole.Attribute,
                AttributeKind.Number
            );
        }
        if (Fits(AttributeKind.YesNo))
            return new SurveyColumn(name, ColumnRole.Attribute, AttributeKind.YesNo);
        if (written.DateDoubt is null && Fits(AttributeKind.Date))
            return new SurveyColumn(name, ColumnRole.Attribute, AttributeKind.Date);
        var words = values.Average(v => v.Split(' ', StringSplitOptions.RemoveEmptyEntries).Length);
        if (words >= 4 && (different > values.Count / 3 || name.TrimEnd().EndsWith('?')) || AreSentences(values, different))
            return new SurveyColumn(name, ColumnRole.OpenAnswer, AttributeKind.Text);
        return new SurveyColumn(
            name,
            ColumnRole.Attribute,
            different <= Math.Max(FewChoices, values.Count / 10) ? AttributeKind.Choice : AttributeKind.Text
        );
    }

    /// <summary>Whether nearly every cell says something of its own, and most of them as a sentence, however short.</summary>
    private static bool AreSentences(List<string> values, int different) =>
        different > values.Count * 2 / 3 && values.Count(v => Sentence().IsMatch(v)) * 2 > values.Count;

    [GeneratedRegex(@"\S\s+\S.*[.!?…]\W*$")]
    private static partial Regex Sentence();

    private static bool AllDifferent(IReadOnlyList<string[]> rows, int column) =>
        rows.All(r => r[column].Length > 0) && rows.Select(r => r[column]).Distinct(StringComparer.OrdinalIgnoreCase).Count() == rows.Count;

    internal static string Hash(string[] cells) =>
        Convert.ToHexStringLower(SHA256.HashData(Encoding.UTF8.GetBytes(string.Join('\u001F', cells))))[..32];

    [GeneratedRegex(
        @"^(id|code|who|person|participant|respondent|response|name|full name|e-?mail)\b|\b(id|code|number)$",
        RegexOptions.IgnoreCase
    )]
    private static partial Regex WhoName();

    [GeneratedRegex(
        @"^(who|person|participant|respondent|diarist|name|full name|e-?mail)\b|\bparticipant( code| id)?$",
        RegexOptions.IgnoreCase
    )]
    private static partial Regex PersonName();

    [GeneratedRegex(@"^[\p{L}]{0,8}[-_. ]?\d{1,9}$")]
    private static partial Regex Code();

    [GeneratedRegex(@"\?|how |rat(e|ing)|scale|score|satisf|easy|ease|likely|agree|effort|\(\d+\s*[-–]\s*\d+\)", RegexOptions.IgnoreCase)]
    private static partial Regex RatingName();
}
