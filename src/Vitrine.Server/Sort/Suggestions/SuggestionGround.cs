using Vitrine.Core.Counting;
using Vitrine.Core.Mark.Observations;
using Vitrine.Core.Sort.Suggestions;
using Vitrine.Core.Sort.TagSet;
using Vitrine.Core.Sort.Themes;
using Vitrine.Core.Text;
using Vitrine.Storage.Counting;
using Vitrine.Storage.Sort.Suggestions;
using Vitrine.Storage.Sort.TagSet;
using Vitrine.Storage.Sort.Themes;
using Vitrine.Storage.Text;
using Vitrine.Storage.Weigh.Evidence;

namespace Vitrine.Server.Sort.Suggestions;

/// <summary>What suggestions for a study rest on: where its observations stand, and what is said in them.</summary>
internal sealed class SuggestionGround
{
    /// <summary>Of more observations of a tag than these, every second, third and so on is read.</summary>
    private const int MostReadOfTag = 300;

    private readonly StudyIndex index;
    private readonly IReadOnlyDictionary<TagId, Tag> tags;
    private readonly int[][] byTag;
    private readonly Dictionary<int, string> words = [];
    private readonly Dictionary<int, IReadOnlyList<string>> terms = [];
    private readonly QuoteStore quotes;
    private readonly HashSet<Suggested> kept = [];

    public SuggestionGround(StudyIndex index, TextsOfStudy texts, IReadOnlyList<Tag> tags, QuoteStore quotes)
    {
        (this.index, this.quotes) = (index, quotes);
        this.tags = tags.ToDictionary(t => t.Id);
        byTag = Tally.ByTag(index.Marks, rollUp: true);
        Around = new Surroundings(index.Marks.SourceOf, TurnsOf(index, texts));
    }

    /// <summary>Which observations stand near each other.</summary>
    public Surroundings Around { get; }

    /// <summary>The observations of something, by their places: its own, or those of a tag and the tags under it.</summary>
    public IReadOnlyCollection<int> ObservationsOf(Suggested thing) =>
        thing.TagId is { } tag ? (index.PlaceOfTag(tag) is { } at ? byTag[at] : [])
        : index.PlaceOfObservation(thing.ObservationId!.Value) is { } place ? [place]
        : [];

    /// <summary>Reads what is said in observations that are asked for next, at once.</summary>
    public void Read(IEnumerable<int> observations)
    {
        var wanted = observations.Where(o => !words.ContainsKey(o)).ToHashSet();
        foreach (var quote in quotes.Of(index, wanted))
            words[index.PlaceOfObservation(quote.ObservationId)!.Value] = quote.Words;
    }

    /// <summary>Reads what is said in some things.</summary>
    public void Read(IEnumerable<Suggested> things) => Read(things.Where(kept.Add).SelectMany(SampleOf));

    /// <summary>Something as it is compared: where it stands and what is said in it.</summary>
    public LikenessItem ItemOf(Suggested thing)
    {
        IReadOnlyList<string> name = TextOf(thing) is { } text
            ? TrayHint.TermsOf(text)
            : [.. index.Marks.TagsOn(index.PlaceOfObservation(thing.ObservationId!.Value)!.Value).ToArray().Select(LikenessItem.TagTerm)];
        return new LikenessItem(ObservationsOf(thing), [.. SampleOf(thing).SelectMany(TermsOf), .. name]);
    }

    /// <summary>A theme as things are put into it.</summary>
    public AllocationTheme ThemeOf(Theme theme, IEnumerable<int> holds) =>
        new(
            TrayHint.TermsOf($"{theme.Title} {theme.Description}"),
            [.. holds.Select(o => ItemOf(new Suggested(null, index.Observations[o])))]
        );

    /// <summary>The forms in which words are said most in some things, and in the names and definitions of tags among them.</summary>
    public MostSaid SaidIn(IReadOnlyCollection<Suggested> things)
    {
        var said = new MostSaid();
        foreach (var text in things.SelectMany(ObservationsOf).Distinct().Select(o => words.GetValueOrDefault(o, "")))
            said.Add(text);
        foreach (var text in things.Select(TextOf).OfType<string>())
            said.Add(text);
        return said;
    }

    /// <summary>What a tag is called and means; null of an observation.</summary>
    private string? TextOf(Suggested thing) =>
        thing.TagId is { } id && tags.GetValueOrDefault(id) is { } tag
            ? $"{tag.Name} {string.Join(' ', tag.Aliases)} {tag.Definition}"
            : null;

    /// <summary>Whether observations mix good and bad: one that is both at once, or several of each.</summary>
    public static bool Mixes(IReadOnlyCollection<int> observations, StudyIndex index, IReadOnlyDictionary<ObservationId, Sentiment> felt)
    {
        var all = observations.Select(o => index.Observations[o]).Where(felt.ContainsKey).Select(o => felt[o]).ToList();
        return all is [Sentiment.Mixed]
            || ThinSpots.MixesGoodAndBad(all.Count(s => s == Sentiment.Negative), all.Count(s => s == Sentiment.Positive));
    }

    private IEnumerable<int> SampleOf(Suggested thing)
    {
        var all = ObservationsOf(thing);
        var each = ((all.Count - 1) / MostReadOfTag) + 1;
        return all.Where((_, i) => i % each == 0);
    }

    private IReadOnlyList<string> TermsOf(int observation)
    {
        if (!terms.TryGetValue(observation, out var found))
            terms[observation] = found = TrayHint.TermsOf(words.GetValueOrDefault(observation, ""));
        return found;
    }

    private static int?[] TurnsOf(StudyIndex index, TextsOfStudy texts)
    {
        var sources = texts.Sources.ToDictionary(s => s.Id, s => s.Text);
        var turns = new int?[index.Marks.Count];
        var (first, before, source) = (0, 0, -1);
        IReadOnlyList<TurnOf> here = [];
        for (var o = 0; o < turns.Length; o++)
        {
            if (index.Marks.SourceOf[o] != source)
            {
                source = index.Marks.SourceOf[o];
                first += here.Count;
                here = sources.TryGetValue(index.Sources[source].Id, out var text) ? text.Turns : [];
                before = 0;
            }
            if (index.Marks.AnchorOf[o] is not TextAnchor at)
                continue;
            // Observations stand in the order of their beginnings.
            while (before < here.Count && here[before].Words.End <= at.Range.Start)
                before++;
            if (before < here.Count && here[before].Words.Start <= at.Range.Start)
                turns[o] = first + before;
        }
        return turns;
    }
}
