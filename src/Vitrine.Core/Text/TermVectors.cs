namespace Vitrine.Core.Text;

/// <summary>
/// Short texts as vectors of TF-IDF, each of length 1: how often a term comes, times ln((1 + n) / (1 + df)) + 1, its smoothed inverse
/// document frequency (the weighting of Salton and Buckley, Information Processing and Management 24, 1988, smoothed so that a word that
/// all of them have still counts).
/// </summary>
public sealed class TermVectors
{
    private readonly int[][] terms;
    private readonly double[][] weights;
    private readonly Dictionary<string, int> numbers = [];

    /// <param name="texts">The terms of each text; a term that comes twice counts twice.</param>
    public TermVectors(IReadOnlyList<IReadOnlyList<string>> texts)
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
        var textsWith = new int[numbers.Count];
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
    }

    /// <summary>How many texts there are.</summary>
    public int Count => terms.Length;

    /// <summary>Whether a text has any term.</summary>
    public bool HasTerms(int text) => terms[text].Length > 0;

    /// <summary>The weight of a term in a text; 0 where it is not in it.</summary>
    public double Weight(int text, string term) =>
        numbers.TryGetValue(term, out var number) && Array.BinarySearch(terms[text], number) is >= 0 and var at ? weights[text][at] : 0;

    /// <summary>The weight of a term in a vector over all terms.</summary>
    public double Weight(double[] vector, string term) => numbers.TryGetValue(term, out var number) ? vector[number] : 0;

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

    /// <summary>The cosine of a text's vector with that of each text, itself among them.</summary>
    public double[] Likenesses(int one)
    {
        var vector = new double[numbers.Count];
        for (var k = 0; k < terms[one].Length; k++)
            vector[terms[one][k]] = weights[one][k];
        return Times(vector);
    }

    /// <summary>The sum of the vectors of all texts, each taken as often as is given.</summary>
    public double[] Together(double[] share)
    {
        var sum = new double[numbers.Count];
        for (var i = 0; i < terms.Length; i++)
        {
            for (var k = 0; k < terms[i].Length; k++)
                sum[terms[i][k]] += share[i] * weights[i][k];
        }
        return sum;
    }

    /// <summary>The product of each text's vector with one over all terms.</summary>
    public double[] Times(double[] vector)
    {
        var products = new double[terms.Length];
        for (var i = 0; i < terms.Length; i++)
        {
            var (own, weight) = (terms[i], weights[i]);
            double sum = 0;
            for (var k = 0; k < own.Length; k++)
                sum += weight[k] * vector[own[k]];
            products[i] = sum;
        }
        return products;
    }
}
