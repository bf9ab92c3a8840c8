using Vitrine.Core.Text;

namespace Vitrine.Core.Sort.Suggestions;

/// <summary>Something that may be grouped: a tag, or an observation.</summary>
/// <param name="Observations">
/// The observations that it is on, by their places in the study: source by source, in the order of the text.
/// </param>
/// <param name="Terms">
/// Stems of what is said under it, of its name and of its definition; the tags that it carries, each as <see cref="TagTerm"/>.
/// </param>
public sealed record LikenessItem(IReadOnlyCollection<int> Observations, IReadOnlyList<string> Terms)
{
    private const char TagSign = '#';

    /// <summary>A tag that an observation carries, as a term.</summary>
    public static string TagTerm(int tag) => $"{TagSign}{tag}";

    /// <summary>Whether a term is a tag.</summary>
    public static bool IsTag(string term) => term[0] == TagSign;
}

/// <summary>
/// How alike things are: first by where they stand, then by the words that are said under them.
/// <para>
/// Two stand near each other by the observations of either that have one of the other near, of all observations of either; the same
/// observation counts wholly, the next one in the source and another of the same turn half. What is on every
/// second observation is near everything: the figure is divided by what both have on average with all others (their geometric mean). To
/// this comes, with half the weight, the cosine of their TF-IDF. Both are measured against the largest there is.
/// </para>
/// The reach and the weight were chosen on one study of the demo, and are reported on others (docs/speed.md, grouping).
/// </summary>
public sealed class Likeness
{
    /// <summary>How much words count beside where things stand.</summary>
    private const double WeightOfWords = 0.5;

    private readonly double[,] near;

    private Likeness(double[,] near, TermVectors words, double[,] distances)
    {
        this.near = near;
        Words = words;
        Distances = distances;
    }

    /// <summary>For each pair 0 (the most alike of all) to 1 (nothing in common).</summary>
    public double[,] Distances { get; }

    /// <summary>What is said under each.</summary>
    public TermVectors Words { get; }

    /// <summary>Of the observations of two things, how many have one of the other near: 0 to 1.</summary>
    public double Near(int one, int other) => near[one, other];

    /// <summary>Whether something has nothing in common with any other.</summary>
    public bool IsAlone(int item)
    {
        for (var other = 0; other < Distances.GetLength(0); other++)
        {
            if (other != item && Distances[item, other] < 1)
                return false;
        }
        return true;
    }

    /// <param name="items">What is compared.</param>
    /// <param name="surroundings">Which observations of the study stand near each other.</param>
    public static Likeness Of(IReadOnlyList<LikenessItem> items, Surroundings surroundings)
    {
        var near = NearOf(items, surroundings);
        var words = new TermVectors([.. items.Select(i => i.Terms)]);
        var n = items.Count;
        var (stands, said) = (AgainstChance(near), new double[n, n]);
        for (var a = 0; a < n; a++)
        {
            var likenesses = words.Likenesses(a);
            for (var b = 0; b < n; b++)
                said[a, b] = a == b ? 0 : likenesses[b];
        }
        var (mostNear, mostSaid) = (Largest(stands), Largest(said));
        var alike = new double[n, n];
        for (var a = 0; a < n; a++)
        {
            for (var b = 0; b < n; b++)
            {
                if (a != b)
                    alike[a, b] = Share(stands[a, b], mostNear) + (WeightOfWords * Share(said[a, b], mostSaid));
            }
        }
        var most = Largest(alike);
        var distances = new double[n, n];
        for (var a = 0; a < n; a++)
        {
            for (var b = 0; b < n; b++)
                distances[a, b] = a == b ? 0 : 1 - Share(alike[a, b], most);
        }
        return new Likeness(near, words, distances);
    }

    private static double[,] NearOf(IReadOnlyList<LikenessItem> items, Surroundings surroundings)
    {
        var on = new List<int>[surroundings.Count];
        for (var i = 0; i < items.Count; i++)
        {
            foreach (var observation in items[i].Observations)
                (on[observation] ??= []).Add(i);
        }
        var found = new double[items.Count, items.Count];
        // Near which observation each item was seen last: one that stands there, or near it several times, counts once.
        var seen = new int[items.Count];
        var (here, around) = (new List<int>(), new List<int>());
        for (var o = 0; o < on.Length; o++)
        {
            if (on[o] is null)
                continue;
            Take(on[o], here, o);
            foreach (var next in surroundings.Around(o))
                Take(on[next] ?? [], around, o);
            foreach (var item in here)
            {
                foreach (var other in here)
                    found[item, other] += 1;
                foreach (var other in around)
                    found[item, other] += Surroundings.Near;
            }
            here.Clear();
            around.Clear();
        }
        var near = new double[items.Count, items.Count];
        for (var a = 0; a < items.Count; a++)
        {
            for (var b = 0; b < items.Count; b++)
                near[a, b] = Share(found[a, b] + found[b, a], items[a].Observations.Count + items[b].Observations.Count);
        }
        return near;

        void Take(List<int> from, List<int> into, int o)
        {
            foreach (var item in from.Where(item => seen[item] != o + 1))
            {
                seen[item] = o + 1;
                into.Add(item);
            }
        }
    }

    private static double[,] AgainstChance(double[,] near)
    {
        var n = near.GetLength(0);
        var means = new double[n];
        for (var a = 0; a < n; a++)
        {
            for (var b = 0; b < n; b++)
                means[a] += a == b ? 0 : near[a, b] / (n - 1);
        }
        var lifted = new double[n, n];
        for (var a = 0; a < n; a++)
        {
            for (var b = 0; b < n; b++)
                lifted[a, b] = a == b ? 0 : Share(near[a, b], Math.Sqrt(means[a] * means[b]));
        }
        return lifted;
    }

    private static double Share(double part, double whole) => whole > 0 ? part / whole : 0;

    private static double Largest(double[,] numbers) => numbers.Cast<double>().DefaultIfEmpty(0).Max();
}
