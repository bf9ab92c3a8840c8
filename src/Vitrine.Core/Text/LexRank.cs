namespace Vitrine.Core.Text;

/// <summary>
/// How central each of some short texts is among them: continuous LexRank (Erkan and Radev, Journal of Artificial Intelligence Research
/// 22, 2004, section 3.3). Texts are <see cref="TermVectors"/>; a text is central when it is like texts that are central. A text is not
/// like itself, so that one that is like no other is not central by itself.
/// </summary>
public sealed class LexRank
{
    /// <summary>The share of a text's weight that goes to all texts alike, as in the paper.</summary>
    private const double Damping = 0.15;

    private const double Precision = 1e-12;
    private const int MostRounds = 200;

    private readonly TermVectors vectors;
    private readonly double[] center;

    /// <param name="texts">The terms of each text; a term that comes twice counts twice.</param>
    public LexRank(IReadOnlyList<IReadOnlyList<string>> texts)
    {
        vectors = new TermVectors(texts);
        Centrality = Ranked();
        center = vectors.Together(Centrality);
    }

    /// <summary>How central each text is; all together 1. A text without terms has what goes to all alike.</summary>
    public double[] Centrality { get; }

    /// <summary>The cosine of the vectors of two texts, 0 to 1.</summary>
    public double Likeness(int one, int other) => vectors.Likeness(one, other);

    /// <summary>
    /// How much a term ties a text to the central ones: its weight in the text times its weight in all, by their centrality.
    /// </summary>
    public double TieBy(int text, string term) => vectors.Weight(text, term) * vectors.Weight(center, term);

    // The matrix of likenesses is the vectors times themselves: it is never made, so that 20,000 texts take as many steps as they have
    // words.
    private double[] Ranked()
    {
        var n = vectors.Count;
        if (n == 0)
            return [];
        // A text is wholly like itself.
        var degrees = vectors
            .Times(vectors.Together([.. Enumerable.Repeat(1.0, n)]))
            .Select((d, i) => d - 1 > Precision && vectors.HasTerms(i) ? d - 1 : 0)
            .ToArray();
        var now = Enumerable.Repeat(1.0 / n, n).ToArray();
        for (var round = 0; round < MostRounds; round++)
        {
            // A text that is like no other gives its weight to all alike.
            var loose = Enumerable.Range(0, n).Where(i => degrees[i] == 0).Sum(i => now[i]);
            double[] given = [.. now.Select((p, i) => degrees[i] == 0 ? 0 : p / degrees[i])];
            var next = vectors
                .Times(vectors.Together(given))
                .Select((f, i) => (Damping / n) + ((1 - Damping) * (f - given[i] + (loose / n))))
                .ToArray();
            var moved = next.Zip(now, (a, b) => Math.Abs(a - b)).Sum();
            now = next;
            if (moved < Precision)
                break;
        }
        return now;
    }
}
