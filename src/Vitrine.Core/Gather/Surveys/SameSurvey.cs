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

    /// <summary>A question as it is compared: without its number, case, accents and signs.</summary>
    public static string Question(string name)
    {
        var bare = Number().Replace(FoldedText.Of(name), "");
        return string.Concat((bare.Any(char.IsLetterOrDigit) ? bare : FoldedText.Of(name)).Where(char.IsLetterOrDigit));
    }

    [GeneratedRegex(@"^\s*(?:q(?:uestion)?\s*)?\d+[a-z]?\s*[.):]\s*")]
    private static partial Regex Number();
}
