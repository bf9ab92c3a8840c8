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
/// <param name="Facts">Attribute and rating columns with a value that fits, by column.</param>
/// <param name="Answers">Open answers by column, in order.</param>
public sealed record SurveyRow(
    string Key,
    string ContentHash,
    string Who,
    IReadOnlyList<(int Column, string Value)> Facts,
    IReadOnlyList<(int Column, string Words)> Answers,
    IReadOnlyList<(int Column, double Value)> Values
)
{
    /// <summary>Whether something of it is material to read.</summary>
    public bool Speaks => Answers.Count + Values.Count > 0;
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
        return guessed;
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
        var seen = new Dictionary<string, int>(StringComparer.OrdinalIgnoreCase);
        for (var r = 0; r < cells.Count; r++)
        {
            var facts = new List<(int, string)>();
            var answers = new List<(int, string)>();
            var values = new List<(int, double)>();
            for (var c = 0; c < columns.Count; c++)
            {
                var value = cells[r][c];
                if (value.Length == 0)
                    continue;
                if (columns[c].Role == ColumnRole.OpenAnswer)
                    answers.Add((c, value));
                if (columns[c].Role is not (ColumnRole.Attribute or ColumnRole.Rating or ColumnRole.ScaleValue))
                    continue;
                if (written[c].Fit(KindOf(columns[c]), value) is not { } fit)
                    misfits.Add(new Misfit(c, r, value));
                else if (fit.Length == 0)
                    continue;
                else if (columns[c].Role == ColumnRole.ScaleValue)
                    values.Add((c, double.Parse(fit, CultureInfo.InvariantCulture)));
                else
                    facts.Add((c, fit));
            }
            var hash = Hash(cells[r]);
            var name = who >= 0 ? cells[r][who] : "";
            var key = name.Length > 0 ? name.ToLowerInvariant() : hash;
            // The same person twice, or two rows alike, are two rows.
            var times = seen[key] = seen.GetValueOrDefault(key) + 1;
            rows.Add(new SurveyRow(times == 1 ? key : $"{key} #{times}", hash, name, facts, answers, values));
        }
        return (rows, misfits);
    }

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
                .Where(c => columns[c].Role is ColumnRole.Attribute or ColumnRole.Rating or ColumnRole.ScaleValue)
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

    /// <summary>A rating is a number, whatever type stands beside it.</summary>
    public static AttributeKind KindOf(SurveyColumn column) =>
        column.Role is ColumnRole.Rating or ColumnRole.ScaleValue ? AttributeKind.Number : column.Kind;

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
        if (words >= 4 && (different > values.Count / 3 || name.TrimEnd().EndsWith('?')))
            return new SurveyColumn(name, ColumnRole.OpenAnswer, AttributeKind.Text);
        return new SurveyColumn(
            name,
            ColumnRole.Attribute,
            different <= Math.Max(FewChoices, values.Count / 10) ? AttributeKind.Choice : AttributeKind.Text
        );
    }

    private static bool AllDifferent(IReadOnlyList<string[]> rows, int column) =>
        rows.All(r => r[column].Length > 0) && rows.Select(r => r[column]).Distinct(StringComparer.OrdinalIgnoreCase).Count() == rows.Count;

    private static string Hash(string[] cells) =>
        Convert.ToHexStringLower(SHA256.HashData(Encoding.UTF8.GetBytes(string.Join('\u001F', cells))))[..32];

    [GeneratedRegex(
        @"^(id|code|who|person|participant|respondent|response|name|full name|e-?mail)\b|\b(id|code|number)$",
        RegexOptions.IgnoreCase
    )]
    private static partial Regex WhoName();

    [GeneratedRegex(@"^[\p{L}]{0,8}[-_. ]?\d{1,9}$")]
    private static partial Regex Code();

    [GeneratedRegex(@"\?|how |rat(e|ing)|scale|score|satisf|easy|ease|likely|agree|effort|\(\d+\s*[-–]\s*\d+\)", RegexOptions.IgnoreCase)]
    private static partial Regex RatingName();
}
