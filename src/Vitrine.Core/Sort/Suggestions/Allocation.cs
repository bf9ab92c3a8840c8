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
    private readonly List<Centre> themes = [];

    /// <param name="items">What is put somewhere.</param>
    /// <param name="into">The themes.</param>
    /// <param name="surroundings">Which observations of the study stand near each other.</param>
    public Allocation(IReadOnlyList<LikenessItem> items, IReadOnlyList<AllocationTheme> into, Surroundings surroundings)
    {
        this.items = items;
        this.surroundings = surroundings;
        words = new TermVectors([.. items.Select(i => i.Terms), .. into.SelectMany(t => TextsOf(t))]);
        var first = items.Count;
        foreach (var theme in into)
        {
            var texts = TextsOf(theme).ToList();
            var share = new double[words.Count];
            Array.Fill(share, 1, first, texts.Count);
            first += texts.Count;
            var centroid = words.Together(share);
            var length = Math.Sqrt(centroid.Sum(w => w * w));
            if (length > 0)
                centroid = [.. centroid.Select(w => w / length)];
            themes.Add(
                new Centre(
                    centroid,
                    words.Times(centroid),
                    texts.SelectMany(t => t.Distinct()).CountBy(t => t).ToDictionary(),
                    theme.Holds.SelectMany(h => h.Observations).CountBy(o => o).ToDictionary(),
                    theme.Holds.ToHashSet<object>(ReferenceEqualityComparer.Instance)
                )
            );
        }

        static IEnumerable<IReadOnlyList<string>> TextsOf(AllocationTheme theme) => theme.Holds.Select(h => h.Terms).Prepend(theme.Terms);
    }

    /// <summary>How much something is like a theme: 0 for nothing in common.</summary>
    public double Likeness(int item, int theme) =>
        themes[theme].Cosines[item] + (WeightOfPlaces * ShareOfPlaces(items[item].Observations, themes[theme].Places));

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

    /// <summary>
    /// The stems that something shares with a theme and that speak most for it, the strongest first; no tags. One that the theme holds
    /// shares what others there have.
    /// </summary>
    public IReadOnlyList<string> Shared(int item, int theme, int most)
    {
        var (own, centre) = (OwnIn(item, theme), themes[theme]);
        return
        [
            .. InOrder
                .Descending(
                    items[item]
                        .Terms.Where(t => !LikenessItem.IsTag(t) && centre.Terms.GetValueOrDefault(t) > own)
                        .Distinct()
                        .Order(StringComparer.Ordinal),
                    t => words.Weight(item, t) * words.Weight(centre.Centroid, t)
                )
                .Take(most),
        ];
    }

    /// <summary>The stems that set a theme apart most from the others: the weight in it less the mean weight in them; no tags.</summary>
    public IReadOnlyList<string> TermsOf(int theme, int most)
    {
        double Apart(string term) =>
            words.Weight(themes[theme].Centroid, term)
            - (themes.Where((_, t) => t != theme).Sum(t => words.Weight(t.Centroid, term)) / Math.Max(1, themes.Count - 1));
        return
        [
            .. InOrder
                .Descending(
                    themes[theme]
                        .Terms.Keys.Where(t => !LikenessItem.IsTag(t))
                        .Order(StringComparer.Ordinal)
                        .Select(t => (Term: t, Apart: Apart(t))),
                    t => t.Apart
                )
                .Where(t => t.Apart > 0)
                .Take(most)
                .Select(t => t.Term),
        ];
    }

    /// <summary>
    /// How many of a thing's places are a theme's too, or next to one of its places. One that the theme holds touches what others there
    /// have.
    /// </summary>
    public int Touching(int item, int theme)
    {
        var (places, own, held) = (items[item].Observations.ToHashSet(), OwnIn(item, theme), themes[theme].Places);
        bool IsOthers(int o) => held.GetValueOrDefault(o) > (places.Contains(o) ? own : 0);
        return places.Count(o => IsOthers(o) || surroundings.Around(o).Any(IsOthers));
    }

    private int OwnIn(int item, int theme) => themes[theme].Holds.Contains(items[item]) ? 1 : 0;

    private double ShareOfPlaces(IReadOnlyCollection<int> places, Dictionary<int, int> held) =>
        places.Count == 0 ? 0 : places.Sum(o => Nearness(o, held)) / places.Count;

    private double Nearness(int observation, Dictionary<int, int> held) =>
        held.ContainsKey(observation) ? 1
        : surroundings.Around(observation).Any(held.ContainsKey) ? Surroundings.Near
        : 0;

    /// <summary>A theme as it is compared.</summary>
    /// <param name="Centroid">The mean of its texts, of length 1.</param>
    /// <param name="Cosines">Of each item with it.</param>
    /// <param name="Terms">How many of its texts have each term.</param>
    /// <param name="Places">How many of the things that it holds are on each observation.</param>
    /// <param name="Holds">These things themselves.</param>
    private sealed record Centre(
        double[] Centroid,
        double[] Cosines,
        Dictionary<string, int> Terms,
        Dictionary<int, int> Places,
        HashSet<object> Holds
    );
}
