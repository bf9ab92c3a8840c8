using Vitrine.Core.Statistics;
using Vitrine.Core.Text;

namespace Vitrine.Core.Sort.Suggestions;

/// <summary>A theme that things may be put into.</summary>
/// <param name="Terms">Stems of its claim and its description.</param>
/// <param name="Holds">What it holds already.</param>
public sealed record AllocationTheme(IReadOnlyList<string> Terms, IReadOnlyList<LikenessItem> Holds);

/// <summary>Where something may belong.</summary>
/// <param name="Theme">The theme that is most like it; null where none has anything in common with it.</param>
/// <param name="Next">The one after that; null for none.</param>
/// <param name="IsSure">Whether the first is clearly more like it than the next.</param>
public sealed record Allocated(int? Theme, int? Next, bool IsSure)
{
    /// <summary>It has nothing in common with any theme.</summary>
    public static Allocated Nowhere { get; } = new(null, null, false);
}

/// <summary>
/// Puts things into themes that somebody has named, each into the nearest centroid (Rocchio's classifier; Manning, Raghavan and Schütze,
/// "Introduction to Information Retrieval", 2008, section 14.2). The centroid of a theme is the mean of what it holds and of what it says,
/// so that it learns from all that is put into it. To the cosine comes the share of a thing's places that are a theme's too, or next to
/// one of its places.
/// <para>The bounds and the weight were chosen on one study of the demo, and are reported on others (docs/speed.md, grouping).</para>
/// </summary>
public sealed class Allocation
{
    /// <summary>How much places count beside words.</summary>
    private const double WeightOfPlaces = 0.3;

    /// <summary>What is less like a theme has nothing to do with it.</summary>
    private const double LeastForGuess = 0.05;

    /// <summary>What is less like the theme that is nearest is not sure.</summary>
    private const double LeastForSure = 0.1;

    /// <summary>The next theme is at most so much as like as the first; else it is not sure.</summary>
    private const double MostOfNext = 0.8;

    private readonly IReadOnlyList<LikenessItem> items;
    private readonly Surroundings surroundings;
    private readonly TermVectors words;
    private readonly List<(double[] Centroid, HashSet<int> Places)> themes = [];
    private readonly double[][] cosines;
    private readonly IReadOnlyList<string>[] terms;

    /// <param name="items">What is put somewhere.</param>
    /// <param name="into">The themes.</param>
    /// <param name="surroundings">Which observations of the study stand near each other.</param>
    public Allocation(IReadOnlyList<LikenessItem> items, IReadOnlyList<AllocationTheme> into, Surroundings surroundings)
    {
        this.items = items;
        this.surroundings = surroundings;
        var texts = items.Select(i => i.Terms).ToList();
        var own = new List<(int From, int To)>();
        foreach (var theme in into)
        {
            var from = texts.Count;
            texts.Add(theme.Terms);
            texts.AddRange(theme.Holds.Select(h => h.Terms));
            own.Add((from, texts.Count));
        }
        words = new TermVectors(texts);
        for (var t = 0; t < into.Count; t++)
        {
            var share = new double[texts.Count];
            for (var i = own[t].From; i < own[t].To; i++)
                share[i] = 1;
            var centroid = words.Together(share);
            var length = Math.Sqrt(centroid.Sum(w => w * w));
            if (length > 0)
            {
                for (var w = 0; w < centroid.Length; w++)
                    centroid[w] /= length;
            }
            themes.Add((centroid, [.. into[t].Holds.SelectMany(h => h.Observations)]));
        }
        terms = [.. own.Select(o => texts[o.From..o.To].SelectMany(t => t).Distinct().Order(StringComparer.Ordinal).ToList())];
        cosines = [.. themes.Select(t => words.Times(t.Centroid))];
    }

    /// <summary>How much something is like a theme: 0 for nothing in common.</summary>
    public double Likeness(int item, int theme) =>
        cosines[theme][item] + (WeightOfPlaces * ShareOfPlaces(items[item].Observations, themes[theme].Places));

    /// <summary>Where something may belong.</summary>
    /// <param name="item">Its place.</param>
    /// <param name="except">Themes that are not asked: somebody has said no to them.</param>
    public Allocated Of(int item, IReadOnlyCollection<int> except)
    {
        var order = InOrder
            .Descending(Enumerable.Range(0, themes.Count).Except(except).Select(t => (Theme: t, Like: Likeness(item, t))), t => t.Like)
            .Where(t => t.Like >= LeastForGuess)
            .Take(2)
            .ToList();
        if (order.Count == 0)
            return Allocated.Nowhere;
        var isSure = order[0].Like >= LeastForSure && (order.Count == 1 || order[1].Like <= MostOfNext * order[0].Like);
        return new Allocated(order[0].Theme, order.Count == 1 ? null : order[1].Theme, isSure);
    }

    /// <summary>The stems that something shares with a theme and that speak most for it, the strongest first; no tags.</summary>
    public IReadOnlyList<string> Shared(int item, int theme, int most) =>
        [
            .. InOrder
                .Descending(
                    items[item].Terms.Where(t => !LikenessItem.IsTag(t)).Distinct().Order(StringComparer.Ordinal),
                    t => words.Weight(item, t) * words.Weight(themes[theme].Centroid, t)
                )
                .Where(t => words.Weight(themes[theme].Centroid, t) > 0)
                .Take(most),
        ];

    /// <summary>The stems that set a theme apart most from the others: the weight in it less the mean weight in them; no tags.</summary>
    public IReadOnlyList<string> TermsOf(int theme, int most)
    {
        double Apart(string term) =>
            words.Weight(themes[theme].Centroid, term)
            - (themes.Where((_, t) => t != theme).Sum(t => words.Weight(t.Centroid, term)) / Math.Max(1, themes.Count - 1));
        return
        [
            .. InOrder
                .Descending(terms[theme].Where(t => !LikenessItem.IsTag(t)).Select(t => (Term: t, Apart: Apart(t))), t => t.Apart)
                .Where(t => t.Apart > 0)
                .Take(most)
                .Select(t => t.Term),
        ];
    }

    /// <summary>How many of a thing's places are a theme's too, or next to one of its places.</summary>
    public int Touching(int item, int theme) => items[item].Observations.Count(o => Nearness(o, themes[theme].Places) > 0);

    private double ShareOfPlaces(IReadOnlyCollection<int> places, HashSet<int> held) =>
        places.Count == 0 ? 0 : places.Sum(o => Nearness(o, held)) / places.Count;

    private double Nearness(int observation, HashSet<int> held) =>
        held.Contains(observation)
            ? 1
            : surroundings
                .Around(observation)
                .Where(near => held.Contains(near.Observation))
                .Select(near => near.Weight)
                .DefaultIfEmpty(0)
                .Max();
}
