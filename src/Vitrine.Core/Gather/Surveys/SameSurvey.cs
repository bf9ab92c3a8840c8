using System.Text.RegularExpressions;
using Vitrine.Core.Text;

namespace Vitrine.Core.Gather.Surveys;

/// <summary>What is asked otherwise when a survey comes again.</summary>
/// <param name="Added">Questions that are new, as they are called now.</param>
/// <param name="Dropped">Questions that are not asked any more, as they were called.</param>
public sealed record SurveyChange(IReadOnlyList<string> Added, IReadOnlyList<string> Dropped);

/// <summary>
/// Knows a survey by its questions when its table comes again with columns in another order, added, dropped or renamed in part.
/// </summary>
/// <example>
/// A table asked "Q1. How easy?", "Home" and "Why?"; one that asks "why", "1) How easy" and "Age" is the same survey: two of three
/// questions are the same, "Age" is added, "Home" dropped.
/// </example>
public static partial class SameSurvey
{
    /// <summary>The part of the shorter table's questions that must be in both (common practice, no source).</summary>
    private const double Alike = 0.5;

    /// <summary>What is asked otherwise; null when the two are different surveys.</summary>
    public static SurveyChange? Between(IReadOnlyList<string> before, IReadOnlyList<string> now)
    {
        var (were, are) = (before.Select(Question).ToHashSet(), now.Select(Question).ToHashSet());
        var both = were.Intersect(are).Count();
        return both >= Math.Min(2, Math.Min(were.Count, are.Count)) && both > 0 && both >= Alike * Math.Min(were.Count, are.Count)
            ? new SurveyChange([.. now.Where(n => !were.Contains(Question(n)))], [.. before.Where(b => !are.Contains(Question(b)))])
            : null;
    }

    /// <summary>
    /// The rows, with those that name nobody known by their cells in the columns of a table that came before, whatever their order is now
    /// and whatever was added to them.
    /// </summary>
    /// <param name="keyColumns">The columns of the table that came first.</param>
    /// <param name="columns">The columns now.</param>
    /// <param name="rows">The rows as <see cref="SurveyReading.Rows"/> read them.</param>
    public static IReadOnlyList<SurveyRow> KeyedBy(
        IReadOnlyList<string> keyColumns,
        IReadOnlyList<SurveyColumn> columns,
        IReadOnlyList<SurveyRow> rows
    )
    {
        var places = PlacesOf(keyColumns, [.. columns.Select(c => c.Name)]);
        var seen = new Dictionary<string, int>();
        return
        [
            .. rows.Select(row =>
            {
                if (row.Who.Length > 0)
                    return row;
                var key = SurveyReading.Hash([.. places.Select(p => p < 0 ? "" : row.Cells[p])]);
                return row with { Key = SurveyReading.Numbered(key, seen[key] = seen.GetValueOrDefault(key) + 1) };
            }),
        ];
    }

    /// <summary>Where columns stand now, by their questions; the second of two that ask the same is the second now; -1 for none.</summary>
    private static List<int> PlacesOf(IReadOnlyList<string> before, IReadOnlyList<string> now)
    {
        var places = now.Select((name, c) => (Question: Question(name), c))
            .GroupBy(n => n.Question, n => n.c)
            .ToDictionary(g => g.Key, g => new Queue<int>(g));
        return [.. before.Select(name => places.GetValueOrDefault(Question(name)) is { Count: > 0 } left ? left.Dequeue() : -1)];
    }

    /// <summary>What columns are, where it was said before of the same question; else as they were guessed.</summary>
    /// <param name="guessed">The columns of the table that comes in now.</param>
    /// <param name="said">The columns of a table that came in before.</param>
    public static IReadOnlyList<SurveyColumn> AsSaidBefore(IReadOnlyList<SurveyColumn> guessed, IReadOnlyList<SurveyColumn> said)
    {
        var places = PlacesOf([.. said.Select(c => c.Name)], [.. guessed.Select(c => c.Name)]);
        var columns = guessed.ToList();
        for (var i = 0; i < said.Count; i++)
        {
            if (places[i] >= 0)
                columns[places[i]] = said[i] with { Name = columns[places[i]].Name };
        }
        // Who answered is told by one column alone.
        var who = said.Any(c => c.Role == ColumnRole.Who);
        return
        [
            .. columns.Select(
                (c, i) => who && c.Role == ColumnRole.Who && !places.Contains(i) ? c with { Role = ColumnRole.Attribute } : c
            ),
        ];
    }

    /// <summary>A question as it is compared: without its number, case, accents and signs.</summary>
    public static string Question(string name)
    {
        var bare = Number().Replace(FoldedText.Of(name), "");
        return string.Concat((bare.Any(char.IsLetterOrDigit) ? bare : FoldedText.Of(name)).Where(char.IsLetterOrDigit));
    }

    [GeneratedRegex(@"^\s*(?:q(?:uestion)?\s*)?\d+[a-z]?\s*[.):]\s*")]
    private static partial Regex Number();
}
