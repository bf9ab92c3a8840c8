using Vitrine.Core.Text;

namespace Vitrine.Core.Mark.Finding;

/// <summary>
/// All passages of many texts with their stems, for ranking by likeness: BM25 (Robertson and Zaragoza, Foundations and Trends in
/// Information Retrieval 3, 2009, section 3.4), with k1 = 1.2 and b = 0.75. Passages are the documents; small words (see
/// <see cref="StopWords"/>) are no terms, and lengths are counted in terms. The inverse document frequency is
/// ln(1 + (N - n + 0.5) / (n + 0.5)), which is never below 0. A word of many people is used of everything and tells
/// less: of P people of whom u use it, it keeps 1 - (u - 1) / P of that (ours, no source).
/// </summary>
public sealed class PassageSet
{
    private const double K1 = 1.2;
    private const double B = 0.75;

    private readonly Vocabulary vocabulary;
    private readonly List<(int Text, int Turn, TextRange Range)> passages = [];
    private readonly List<int> terms = [];
    private readonly List<ushort> times = [];
    private readonly List<int> first = [0];
    private readonly List<int> lengths = [];
    private readonly int[] passagesWith;
    private readonly double[] rarity;
    private readonly bool[] small;
    private readonly double meanLength;

    /// <param name="texts">The texts.</param>
    /// <param name="vocabulary">Their vocabulary.</param>
    /// <param name="unit">What a passage is.</param>
    /// <param name="counts">Whether a turn is looked through.</param>
    public PassageSet(IReadOnlyList<IndexedText> texts, Vocabulary vocabulary, PassageUnit unit, Func<TurnOf, bool> counts)
    {
        this.vocabulary = vocabulary;
        small = [.. Enumerable.Range(0, vocabulary.Forms).Select(f => StopWords.Has(vocabulary.Form(f)))];
        passagesWith = new int[vocabulary.Stems];
        var users = new HashSet<int>[vocabulary.Stems];
        var people = new Dictionary<(ParticipantId?, int), int>();
        for (var t = 0; t < texts.Count; t++)
        {
            for (var turn = 0; turn < texts[t].Turns.Count; turn++)
            {
                if (!counts(texts[t].Turns[turn]))
                    continue;
                // Who is not known is somebody in each text.
                var who = texts[t].Turns[turn].Person;
                if (!people.TryGetValue((who, who is null ? t : 0), out var person))
                    people[(who, who is null ? t : 0)] = person = people.Count;
                foreach (var range in Passages.Of(texts[t], turn, unit))
                {
                    var bag = BagOf(texts[t], range);
                    Add(t, turn, range, bag);
                    foreach (var stem in bag.Keys)
                        (users[stem] ??= []).Add(person);
                }
            }
        }
        rarity = [.. passagesWith.Select((with, s) => Rarity(passages.Count, with) * Share(people.Count, users[s]?.Count ?? 0))];
        meanLength = lengths.Count == 0 ? 1 : Math.Max(1, lengths.Average());
    }

    /// <summary>How many passages there are.</summary>
    public int Count => passages.Count;

    /// <summary>Where a passage stands.</summary>
    public (int Text, int Turn, TextRange Range) At(int passage) => passages[passage];

    private void Add(int text, int turn, TextRange range, SortedDictionary<int, int> bag)
    {
        passages.Add((text, turn, range));
        foreach (var (stem, count) in bag)
        {
            terms.Add(stem);
            times.Add((ushort)Math.Min(count, ushort.MaxValue));
            passagesWith[stem]++;
        }
        first.Add(terms.Count);
        lengths.Add(bag.Values.Sum());
    }

    /// <summary>The stems of a stretch with how often each stands there; small words are left out.</summary>
    public SortedDictionary<int, int> BagOf(IndexedText text, TextRange range)
    {
        var bag = new SortedDictionary<int, int>();
        var (from, to) = text.WordsIn(range);
        for (var w = from; w < to; w++)
        {
            var form = text.Forms[w];
            if (form < small.Length && !small[form])
                bag[vocabulary.StemOf(form)] = bag.GetValueOrDefault(vocabulary.StemOf(form)) + 1;
        }
        return bag;
    }

    /// <summary>How much a stem tells: the fewer passages have it, the more.</summary>
    public double Rarity(int stem) => rarity[stem];

    private static double Rarity(int all, int with) => Math.Log(1 + ((all - with + 0.5) / (with + 0.5)));

    private static double Share(int people, int users) => users < 2 ? 1 : 1 - ((users - 1.0) / people);

    /// <summary>The terms of a passage with their BM25 weights.</summary>
    public IEnumerable<(int Stem, double Weight)> WeightsOf(int passage)
    {
        var whole = K1 * (1 - B + (B * lengths[passage] / meanLength));
        for (var i = first[passage]; i < first[passage + 1]; i++)
            yield return (terms[i], Rarity(terms[i]) * times[i] * (K1 + 1) / (times[i] + whole));
    }

    /// <summary>The terms of a bag with the weights that they would have in a passage of its length.</summary>
    public IEnumerable<(int Stem, double Weight)> WeightsOf(IReadOnlyDictionary<int, int> bag)
    {
        var whole = K1 * (1 - B + (B * bag.Values.Sum() / meanLength));
        return bag.Select(t => (t.Key, Rarity(t.Key) * t.Value * (K1 + 1) / (t.Value + whole)));
    }

    /// <summary>What each passage weighs for a query: the sum over its terms of BM25 weight times the query's weight.</summary>
    /// <param name="query">A weight for each stem.</param>
    public double[] Scores(double[] query)
    {
        var asked = new double[passagesWith.Length];
        for (var s = 0; s < asked.Length; s++)
            asked[s] = query[s] * rarity[s];
        var scores = new double[passages.Count];
        for (var p = 0; p < scores.Length; p++)
        {
            var whole = K1 * (1 - B + (B * lengths[p] / meanLength));
            double sum = 0;
            for (var i = first[p]; i < first[p + 1]; i++)
            {
                if (asked[terms[i]] is var weight and not 0)
                    sum += weight * times[i] * (K1 + 1) / (times[i] + whole);
            }
            scores[p] = sum;
        }
        return scores;
    }

    /// <summary>How many stems there were when the passages were taken in.</summary>
    public int Stems => passagesWith.Length;
}
