using Vitrine.Core.Statistics;

namespace Vitrine.Core.Mark.Finding;

/// <summary>A passage that is like those that were given.</summary>
/// <param name="Passage">Its number among the passages.</param>
/// <param name="Score">How much it is like them; it says nothing by itself.</param>
/// <param name="Carried">
/// The stems that carried it, the one that weighed most first; none where only what stands beside it did.
/// </param>
public sealed record LikePassage(int Passage, double Score, IReadOnlyList<int> Carried);

/// <summary>
/// Ranks passages by how much they are like some that are given. The first order is BM25 with all given words as the query, a word that
/// comes often weighing more, with saturation (k3 = 8). From then on the query learns from each yes and no by Rocchio's feedback
/// ("Relevance feedback in information retrieval", 1971): the first query, and the middle of what was taken, less a part of the middle of
/// what was refused; all are vectors of length 1 of BM25 weights. The shares 1 and 0.15 are those of Manning, Raghavan and Schütze,
/// "Introduction to Information Retrieval" (2008), section 9.1.1. That of what was taken, theirs is 0.75, begins with 0.6 and grows with
/// the root of their number: the more were taken, the more is known of what is meant.
/// </summary>
/// <param name="set">The passages.</param>
public sealed class FindMore(PassageSet set)
{
    private const double K3 = 8;

    // Measured on the demo's tags, as bench/run finding prints it: without them, 24 of 100 are found after 40 looked at, with them 38.
    private const double Beside = 0.4;
    private const double Nearby = 0.1;
    private const double First = 1;

    // Measured as above, after 40 looked at: with a share of 0.75 whatever their number, 38 of 100; so, 41.
    private const double Taken = 0.6;
    private const double Refused = 0.15;

    /// <summary>
    /// How much more a passage counts of somebody who was not heard on it yet. Common practice, no source.
    /// </summary>
    public const double Unheard = 1.25;

    /// <summary>How many words are given for why.</summary>
    public const int MostCarried = 4;

    /// <summary>The query that learns: a weight for each stem.</summary>
    /// <param name="given">What was given to begin with, as bags of stems.</param>
    /// <param name="taken">What was taken since.</param>
    /// <param name="refused">What was refused.</param>
    public double[] Query(
        IReadOnlyList<IReadOnlyDictionary<int, int>> given,
        IReadOnlyList<IReadOnlyDictionary<int, int>> taken,
        IReadOnlyList<IReadOnlyDictionary<int, int>> refused
    )
    {
        var query = new double[set.Stems];
        foreach (var (stem, times) in given.SelectMany(b => b).Where(t => t.Key < query.Length))
            query[stem] += times;
        for (var s = 0; s < query.Length; s++)
            query[s] = query[s] * (K3 + 1) / (query[s] + K3);
        if (taken.Count + refused.Count == 0)
            return query;
        // As long as the middles of what was answered: its words weighed as BM25 weighs them.
        var length = Math.Sqrt(query.Select((q, s) => q == 0 ? 0 : Math.Pow(q * set.Rarity(s), 2)).Sum());
        for (var s = 0; s < query.Length; s++)
            query[s] = length == 0 || query[s] == 0 ? 0 : First * query[s] * set.Rarity(s) / length;
        Add(query, taken, Taken * Math.Sqrt(taken.Count));
        Add(query, refused, -Refused);
        // The weights of passages hold the rarity of words already.
        for (var s = 0; s < query.Length; s++)
            query[s] = query[s] <= 0 ? 0 : query[s] / set.Rarity(s);
        return query;
    }

    private void Add(double[] query, IReadOnlyList<IReadOnlyDictionary<int, int>> bags, double share)
    {
        foreach (var bag in bags)
        {
            var weights = set.WeightsOf(bag.Where(t => t.Key < query.Length).ToDictionary(t => t.Key, t => t.Value)).ToList();
            var length = Math.Sqrt(weights.Sum(w => w.Weight * w.Weight));
            if (length == 0)
                continue;
            foreach (var (stem, weight) in weights)
                query[stem] += share * weight / length / bags.Count;
        }
    }

    /// <summary>The passages most like what is asked, best first; those of equal likeness in the order of the texts.</summary>
    /// <param name="query">A weight for each stem, from <see cref="Query"/>.</param>
    /// <param name="left">Whether a passage may be offered at all.</param>
    /// <param name="unheard">Whether a passage is of somebody who was not heard yet.</param>
    /// <param name="most">At most so many.</param>
    public IReadOnlyList<LikePassage> Ranked(double[] query, Func<int, bool> left, Func<int, bool> unheard, int most)
    {
        var scores = InContext(set.Scores(query));
        return
        [
            .. InOrder
                .Descending(
                    Enumerable
                        .Range(0, scores.Length)
                        .Where(p => scores[p] > 0 && left(p))
                        .Select(p => (Passage: p, Score: scores[p] * (unheard(p) ? Unheard : 1))),
                    p => p.Score
                )
                .Take(most)
                .Select(p => new LikePassage(p.Passage, p.Score, Carried(p.Passage, query))),
        ];
    }

    /// <summary>
    /// What stands beside a passage says what it is about: a part of what its neighbours weigh is added. Words of the passage before and
    /// after in the same turn count most; those two away, and across the edge of a turn, less.
    /// </summary>
    private double[] InContext(double[] own)
    {
        var scores = new double[own.Length];
        for (var p = 0; p < own.Length; p++)
        {
            scores[p] = own[p];
            for (var q = Math.Max(0, p - 2); q <= Math.Min(own.Length - 1, p + 2); q++)
            {
                if (q == p || own[q] == 0 || set.At(q).Text != set.At(p).Text)
                    continue;
                var (near, sameTurn) = (Math.Abs(q - p) == 1, set.At(q).Turn == set.At(p).Turn);
                scores[p] +=
                    own[q]
                    * (
                        near && sameTurn ? Beside
                        : near || sameTurn ? Nearby
                        : 0
                    );
            }
        }
        return scores;
    }

    private List<int> Carried(int passage, double[] query) =>
        [
            .. InOrder
                .Descending(
                    set.WeightsOf(passage)
                        .Select(t => (t.Stem, Weight: t.Weight * query[t.Stem]))
                        .Where(t => t.Weight > 0)
                        .OrderBy(t => t.Stem),
                    t => t.Weight
                )
                .Take(MostCarried)
                .Select(t => t.Stem),
        ];
}
