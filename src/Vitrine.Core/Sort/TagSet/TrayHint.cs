using Vitrine.Core.Statistics;
using Vitrine.Core.Text;

namespace Vitrine.Core.Sort.TagSet;

/// <summary>Where a passage may belong.</summary>
/// <param name="Tray">The tray.</param>
/// <param name="Probability">Of that tray among all, 0 to 1; words are not independent, so it is too sure of itself.</param>
/// <param name="Because">Stems that it shares with what lies there and that speak most for it, at most three.</param>
public sealed record HintedTray(int Tray, double Probability, IReadOnlyList<string> Because);

/// <summary>
/// Learns from the words of what was sent to each tray where the next passage may belong: multinomial naive Bayes with one added to each
/// count (Manning, Raghavan and Schütze, "Introduction to Information Retrieval", 2008, section 13.2). Only a hint: nothing is sent by it.
/// </summary>
public sealed class TrayHint
{
    /// <summary>What is less probable is no hint. Common practice, no source.</summary>
    public const double LeastProbable = 0.6;

    private readonly Dictionary<int, Dictionary<string, int>> counts = [];
    private readonly Dictionary<int, int> passages = [];
    private readonly HashSet<string> vocabulary = [];

    /// <param name="sent">What lies in trays: its terms, and in which tray.</param>
    public TrayHint(IEnumerable<(IReadOnlyList<string> Terms, int Tray)> sent)
    {
        foreach (var (terms, tray) in sent)
        {
            passages[tray] = passages.GetValueOrDefault(tray) + 1;
            if (!counts.TryGetValue(tray, out var of))
                counts[tray] = of = [];
            foreach (var term in terms)
            {
                of[term] = of.GetValueOrDefault(term) + 1;
                vocabulary.Add(term);
            }
        }
    }

    /// <summary>The stems of a passage without small words.</summary>
    public static IReadOnlyList<string> TermsOf(string words) =>
        [.. FoldedWords(words).Where(w => !StopWords.Has(w)).Select(EnglishStem.Of)];

    /// <summary>Whether a passage holds every word that was typed, in any of its forms.</summary>
    public static bool Holds(string words, string typed) =>
        FoldedWords(typed).Select(EnglishStem.Of).ToHashSet().IsSubsetOf(FoldedWords(words).Select(EnglishStem.Of).ToHashSet());

    private static IEnumerable<string> FoldedWords(string words) =>
        Words.In(words, 0, words.Length).Select(w => FoldedText.Of(w.Of(words)));

    /// <summary>The logarithm of what speaks for each tray: its share of passages times the shares of the terms in it.</summary>
    public IReadOnlyDictionary<int, double> Scores(IReadOnlyList<string> terms)
    {
        var all = passages.Values.Sum();
        return passages.ToDictionary(
            p => p.Key,
            p => Math.Log((double)p.Value / all) + terms.Where(vocabulary.Contains).Sum(t => Math.Log(ShareOf(t, p.Key)))
        );
    }

    /// <summary>The tray that a passage may belong to; null where no word that it shares speaks clearly for one of several.</summary>
    public HintedTray? For(IReadOnlyList<string> terms)
    {
        if (passages.Count < 2)
            return null;
        var scores = Scores(terms);
        var (best, highest) = InOrder.Largest([.. scores.OrderBy(s => s.Key)], s => s.Value);
        var probability = 1 / scores.Values.Sum(s => Math.Exp(s - highest));
        var because = InOrder
            .Descending(
                terms
                    .Distinct()
                    .Where(t => counts[best].ContainsKey(t))
                    .Select(t => (Term: t, Weight: ShareOf(t, best) / passages.Keys.Where(o => o != best).Max(o => ShareOf(t, o))))
                    .Where(t => t.Weight > 1)
                    .OrderBy(t => t.Term, StringComparer.Ordinal),
                t => t.Weight
            )
            .Take(3)
            .Select(t => t.Term)
            .ToList();
        return probability >= LeastProbable && because.Count > 0 ? new HintedTray(best, probability, because) : null;
    }

    private double ShareOf(string term, int tray) =>
        (counts[tray].GetValueOrDefault(term) + 1.0) / (counts[tray].Values.Sum() + vocabulary.Count);
}
