using System.Globalization;
using System.Text.RegularExpressions;
using Vitrine.Core.Text;

namespace Vitrine.Core.Mark.Finding;

/// <summary>A word that is looked for.</summary>
/// <param name="Form">The word as it is compared.</param>
/// <param name="Exact">Whether only this form counts; else every word of its stem.</param>
/// <param name="Unfinished">Whether longer words that begin so count too: somebody is still typing it.</param>
public sealed record WantedWord(string Form, bool Exact, bool Unfinished);

/// <summary>Words in a row, or several such rows near each other.</summary>
/// <param name="Parts">Each a row of words; one for all but those that stand near each other.</param>
/// <param name="Within">How many words may stand between each part and the next.</param>
public sealed record Term(IReadOnlyList<IReadOnlyList<WantedWord>> Parts, IReadOnlyList<int> Within);

/// <summary>What a passage must hold, or must not.</summary>
/// <param name="AnyOf">One of these is enough.</param>
/// <param name="Not">Whether it must hold none of them.</param>
public sealed record Clause(IReadOnlyList<Term> AnyOf, bool Not);

/// <summary>
/// What is looked for, as it is typed: words by their stems, <c>"in a row as they stand"</c>, <c>one | another</c> for any of them,
/// <c>one ~5 another</c> for at most five words between (8 where no number is given), <c>-word</c> for passages without it. All that is
/// typed side by side must stand in one passage. The last word may be unfinished.
/// </summary>
/// <example><c>cancel | "called off" -kiosk</c> finds "They called it off" no, "She cancelled" yes, "the kiosk cancelled" no.</example>
public sealed partial class FindQuery
{
    /// <summary>How many words may stand between where no number is given.</summary>
    public const int Near = 8;

    /// <summary>More different words than these are not looked for at once.</summary>
    public const int MostWords = 64;

    private FindQuery(IReadOnlyList<Clause> clauses) => Clauses = clauses;

    /// <summary>What must hold, all together; at least one without Not.</summary>
    public IReadOnlyList<Clause> Clauses { get; }

    /// <summary>All words that are looked for.</summary>
    public IEnumerable<WantedWord> Words => Clauses.SelectMany(c => c.AnyOf).SelectMany(t => t.Parts).SelectMany(p => p);

    /// <summary>
    /// Whether it is asked for something "or without" something, or near what must not be there: such a passage cannot be told from any
    /// other.
    /// </summary>
    public static bool AsksForWithoutBesideOthers(string typed)
    {
        var before = "";
        foreach (Match piece in Piece().Matches(typed))
        {
            var said = piece.Value;
            if (said[0] == '-' && said.Length > 1 && before.Length > 0 && before[0] is '|' or '~')
                return true;
            before = said;
        }
        return false;
    }

    /// <summary>Reads what was typed; null when nothing is looked for: no word, or only words that must not be there.</summary>
    public static FindQuery? Read(string typed)
    {
        var clauses = new List<(List<(List<IReadOnlyList<WantedWord>> Parts, List<int> Within)> AnyOf, bool Not)>();
        var (any, near) = (false, (int?)null);
        var words = 0;
        foreach (Match piece in Piece().Matches(typed))
        {
            var said = piece.Value;
            if (said == "|")
                any = clauses.Count > 0;
            else if (said[0] == '~' && (said.Length == 1 || int.TryParse(said[1..], CultureInfo.InvariantCulture, out _)))
                near =
                    clauses.Count == 0 ? null
                    : said.Length == 1 ? Near
                    : int.Parse(said[1..], CultureInfo.InvariantCulture);
            else
            {
                var not = said[0] == '-' && said.Length > 1;
                var bare = not ? said[1..] : said;
                var exact = bare[0] == '"';
                var last = !exact && piece.Index + piece.Length == typed.Length;
                var inside = Text.Words.In(bare, 0, bare.Length).Select(w => Vocabulary.Folded(w.Of(bare))).ToList();
                if (inside.Count == 0 || (words += inside.Count) > MostWords)
                    continue;
                IReadOnlyList<WantedWord> row = [.. inside.Select((form, i) => new WantedWord(form, exact, last && i == inside.Count - 1))];
                if (near is { } within)
                {
                    clauses[^1].AnyOf[^1].Parts.Add(row);
                    clauses[^1].AnyOf[^1].Within.Add(within);
                }
                else if (any)
                    clauses[^1].AnyOf.Add(([row], []));
                else
                    clauses.Add(([([row], [])], not));
                (any, near) = (false, null);
            }
        }
        return clauses.Exists(c => !c.Not)
            ? new FindQuery([.. clauses.Select(c => new Clause([.. c.AnyOf.Select(t => new Term(t.Parts, t.Within))], c.Not))])
            : null;
    }

    [GeneratedRegex("-?\"[^\"]*\"?|\\||[^\\s|\"]+")]
    private static partial Regex Piece();
}
