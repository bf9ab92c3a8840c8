using Vitrine.Core.Statistics;
using Vitrine.Core.Text;

namespace Vitrine.Core.Sort.TagSet;

/// <summary>What somebody said under a tag.</summary>
/// <param name="Words">The words.</param>
/// <param name="Person">Whose they are; null when that is not known.</param>
public sealed record SpokenQuote(string Words, int? Person);

/// <summary>A quote that was chosen, and why.</summary>
/// <param name="Place">Which of the given quotes.</param>
/// <param name="Ties">
/// Its words, as they stand in it, that tie it most to the others; for one that fits least, those that it shares.
/// </param>
/// <param name="SharedWith">How many of the other quotes have one of these words.</param>
/// <param name="People">How many people these are of.</param>
public sealed record TellingQuote(int Place, IReadOnlyList<string> Ties, int SharedWith, int People);

/// <summary>The quotes that tell best what a tag is about, and the one that fits least.</summary>
/// <param name="Telling">At most three, best first.</param>
/// <param name="Odd">The one that is least like the others; null where there are too few to say.</param>
public sealed record ToldByQuotes(IReadOnlyList<TellingQuote> Telling, TellingQuote? Odd);

/// <summary>Chooses telling quotes.</summary>
public static class TellingQuotes
{
    private const int Most = 3;

    /// <summary>A quote of fewer words than the one tells nothing by itself, one of more than the other is no quote to show.</summary>
    private const int FewestWords = 5;
    private const int MostWords = 60;

    /// <summary>An odd one stands out of at least this many.</summary>
    private const int FewestForOdd = 4;

    private const int MostTies = 3;

    /// <summary>What is this like to a chosen one says it in the same words, and is not chosen as well.</summary>
    private const double SameWords = 0.95;

    /// <summary>How much centrality counts against being like one that was chosen.</summary>
    private const double Weight = 0.7;

    /// <summary>
    /// Chooses by centrality (<see cref="LexRank"/> over stems without stop words), then by maximal marginal relevance (Carbonell and
    /// Goldstein, SIGIR 1998, lambda 0.7), each time among those of people who are not quoted yet, as long as there are any. Among equals
    /// the first stands. Quotes of 5 to 60 words are taken before any others (common practice, no source).
    /// </summary>
    /// <param name="quotes">All quotes of the tag, in a fixed order.</param>
    public static ToldByQuotes Of(IReadOnlyList<SpokenQuote> quotes)
    {
        var said = quotes.Select(q => TermsOf(q.Words)).ToList();
        var ranks = new LexRank([.. said.Select(s => s.Terms.Select(t => t.Stem).ToList())]);
        var telling = Chosen(quotes, said, ranks);
        var odd = Odd(said, ranks, telling);
        return new ToldByQuotes(
            [.. telling.Select(i => Why(quotes, said, ranks, i))],
            odd is { } place ? Why(quotes, said, ranks, place) : null
        );
    }

    private static List<int> Chosen(IReadOnlyList<SpokenQuote> quotes, IReadOnlyList<Said> said, LexRank ranks)
    {
        var chosen = new List<int>();
        var left = Enumerable.Range(0, quotes.Count).Where(i => said[i].Terms.Count > 0).ToList();
        var fitting = left.Where(i => said[i].WordCount is >= FewestWords and <= MostWords).ToList();
        if (fitting.Count > 0)
            left = fitting;
        var most = left.Select(i => ranks.Centrality[i]).DefaultIfEmpty(1).Max();
        while (chosen.Count < Most && left.Count > 0)
        {
            var unheard = left.Where(i => chosen.All(c => quotes[c].Person != quotes[i].Person || quotes[i].Person is null)).ToList();
            // Somebody is quoted twice only when everybody else is quoted.
            var among = unheard.Count > 0 ? unheard : left;
            var next = InOrder.Largest(
                among,
                i =>
                    (Weight * ranks.Centrality[i] / most)
                    - ((1 - Weight) * chosen.Select(c => ranks.Likeness(c, i)).DefaultIfEmpty(0).Max())
            );
            chosen.Add(next);
            left.RemoveAll(i => i == next || ranks.Likeness(i, next) > SameWords);
        }
        return chosen;
    }

    private static int? Odd(IReadOnlyList<Said> said, LexRank ranks, IReadOnlyList<int> chosen)
    {
        var able = Enumerable.Range(0, said.Count).Where(i => said[i].WordCount >= FewestWords && said[i].Terms.Count > 0).ToList();
        if (able.Count < FewestForOdd)
            return null;
        var least = InOrder.Largest(able, i => -ranks.Centrality[i]);
        return chosen.Contains(least) ? null : least;
    }

    private static TellingQuote Why(IReadOnlyList<SpokenQuote> quotes, IReadOnlyList<Said> said, LexRank ranks, int place)
    {
        var others = Enumerable.Range(0, quotes.Count).Where(i => i != place).ToList();
        var ties = InOrder
            .Descending(
                said[place].Terms.DistinctBy(t => t.Stem).Where(t => others.Any(i => said[i].Stems.Contains(t.Stem))),
                t => ranks.TieBy(place, t.Stem)
            )
            .Take(MostTies)
            .ToList();
        var shared = others.Where(i => ties.Any(t => said[i].Stems.Contains(t.Stem))).ToList();
        return new TellingQuote(
            place,
            [.. ties.Select(t => t.Word)],
            shared.Count,
            shared.Select(i => quotes[i].Person).OfType<int>().Distinct().Count()
        );
    }

    private static Said TermsOf(string words)
    {
        var all = Words.In(words, 0, words.Length).Select(r => r.Of(words)).ToList();
        var terms = all.Select(w => (Word: w, Lower: w.ToLowerInvariant()))
            .Where(w => !StopWords.Has(w.Lower))
            .Select(w => new Term(w.Word, EnglishStem.Of(w.Lower)))
            .ToList();
        return new Said(all.Count, terms, terms.Select(t => t.Stem).ToHashSet());
    }

    private sealed record Term(string Word, string Stem);

    private sealed record Said(int WordCount, IReadOnlyList<Term> Terms, IReadOnlySet<string> Stems);
}
