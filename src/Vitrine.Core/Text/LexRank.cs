namespace Vitrine.Core.Text;

/// <summary>
/// How central each of some short texts is among them: continuous LexRank (Erkan and Radev, Journal of Artificial Intelligence Research
/// 22, 2004, section 3.3). Texts are vectors of TF-IDF; a text is central when it is like texts that are central. The inverse document
/// frequency is smoothed, ln((1 + n) / (1 + df)) + 1, so that a word that all of them have still counts;
/// and a text is not like itself, so that one that is like no other is not central by itself.
/// </summary>
public sealed class LexRank
{
    /// <summary>The share of a text's weight that goes to all texts alike, as in the paper.</summary>
    private const double Damping = 0.15;

    private const double Precision = 1e-12;
    private const int MostRounds = 200;

    private readonly int[][] terms;
    private readonly double[][] weights;
    private readonly int termCount;
    private readonly Dictionary<string, int> numbers = [];
    private readonly double[] center;

    /// <param name="texts">The terms of each text; a term that comes twice counts twice.</param>
    public LexRank(IReadOnlyList<IReadOnlyList<string>> texts)
    {
        var counted = new Dictionary<int, int>[texts.Count];
        for (var i = 0; i < texts.Count; i++)
        {
            counted[i] = [];
            foreach (var term in texts[i])
            {
                if (!numbers.TryGetValue(term, out var number))
                    numbers[term] = number = numbers.Count;
                counted[i][number] = counted[i].GetValueOrDefault(number) + 1;
            }
        }
        termCount = numbers.Count;
        var textsWith = new int[termCount];
        foreach (var number in counted.SelectMany(c => c.Keys))
            textsWith[number]++;
        terms = new int[texts.Count][];
        weights = new double[texts.Count][];
        for (var i = 0; i < texts.Count; i++)
        {
            terms[i] = [.. counted[i].Keys.Order()];
            weights[i] = [.. terms[i].Select(t => counted[i][t] * (Math.Log((1.0 + texts.Count) / (1 + textsWith[t])) + 1))];
            var length = Math.Sqrt(weights[i].Sum(w => w * w));
            for (var k = 0; k < weights[i].Length; k++)
                weights[i][k] /= length;
        }
        Centrality = Ranked();
        center = Together(Centrality);
    }

    /// <summary>How central each text is; all together 1. A text without terms has what goes to all alike.</summary>
    public double[] Centrality { get; }

    /// <summary>The cosine of the vectors of two texts, 0 to 1.</summary>
    public double Likeness(int one, int other)
    {
        double sum = 0;
        for (int i = 0, j = 0; i < terms[one].Length && j < terms[other].Length; )
        {
            if (terms[one][i] == terms[other][j])
                sum += weights[one][i++] * weights[other][j++];
            else if (terms[one][i] < terms[other][j])
                i++;
            else
                j++;
        }
        return sum;
    }

    /// <summary>
    /// How much a term ties a text to the central ones: its weight in the text times its weight in all, by their centrality.
    /// </summary>
    public double TieBy(int text, string term)
    {
        var at = numbers.TryGetValue(term, out var number) ? Array.BinarySearch(terms[text], number) : -1;
        return at < 0 ? 0 : weights[text][at] * center[number];
    }

    // The matrix of likenesses is the vectors times themselves: it is never made, so that 20,000 texts take as many steps as they have
    // words.
    private double[] Ranked()
    {
        var n = terms.Length;
        if (n == 0)
            return [];
        // A text is wholly like itself.
        var degrees = Of(Together([.. Enumerable.Repeat(1.0, n)]))
            .Select((d, i) => d - 1 > Precision && terms[i].Length > 0 ? d - 1 : 0)
            .ToArray();
        var now = Enumerable.Repeat(1.0 / n, n).ToArray();
        for (var round = 0; round < MostRounds; round++)
        {
            // A text that is like no other gives its weight to all alike.
            var loose = Enumerable.Range(0, n).Where(i => degrees[i] == 0).Sum(i => now[i]);
            double[] given = [.. now.Select((p, i) => degrees[i] == 0 ? 0 : p / degrees[i])];
            var next = Of(Together(given)).Select((f, i) => (Damping / n) + ((1 - Damping) * (f - given[i] + (loose / n)))).ToArray();
            var moved = next.Zip(now, (a, b) => Math.Abs(a - b)).Sum();
            now = next;
            if (moved < Precision)
                break;
        }
        return now;
    }

    /// <summary>The sum of the vectors of all texts, each taken as often as is given.</summary>
    private double[] Together(double[] share)
    {
        var sum = new double[termCount];
        for (var i = 0; i < terms.Length; i++)
        {
            for (var k = 0; k < terms[i].Length; k++)
                sum[terms[i][k]] += share[i] * weights[i][k];
        }
        return sum;
    }

    /// <summary>How like each text is to a vector.</summary>
    private double[] Of(double[] vector) => [.. terms.Select((own, i) => own.Select((t, k) => weights[i][k] * vector[t]).Sum())];
}
