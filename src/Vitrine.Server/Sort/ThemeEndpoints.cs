using Vitrine.Core.Counting;
using Vitrine.Core.Evidence;
using Vitrine.Server.Access;
using Vitrine.Storage.Access;
using Vitrine.Storage.Catalogue;
using Vitrine.Storage.Counting;
using Vitrine.Storage.Quotes;
using Vitrine.Storage.Sort;

namespace Vitrine.Server.Sort;

internal sealed record NewTheme(string Title, string Description, [IdOf(Thing.Theme)] long? ParentId, IReadOnlyList<long> ObservationIds, IReadOnlyList<long> TagIds);

internal sealed record ThemeText(string Title, string Description, [IdOf(Thing.Theme)] long? ParentId, long Version);

internal sealed record Lay(IReadOnlyList<long> ObservationIds, IReadOnlyList<long> TagIds);

internal sealed record NotAsked(AskedThing Thing, long Id, IReadOnlyList<long> ParticipantIds) : INamesThings
{
    public IEnumerable<(string Thing, long Id)> Named() => [(Storage.Catalogue.Thing.Named(Thing.ToString())!, Id)];
}

/// <summary>A theme with what it holds now: laid by hand, arrived by tag, and from its sub-themes.</summary>
internal sealed record ThemeView(Theme Theme, Breadth Breadth, EvidenceFacts Facts, IReadOnlyList<Quote> Quotes, IReadOnlyDictionary<long, int> ArrivedByTag);

/// <summary>The sorting table: themes, and the observations that are in none.</summary>
internal sealed record SortingTable(IReadOnlyList<ThemeView> Themes, IReadOnlyList<Quote> Unsorted, int Observations);

internal static class ThemeEndpoints
{
    /// <summary>How many quotes a theme's card shows; the rest are in the evidence drawer.</summary>
    private const int QuotesOnCard = 2;

    public static void MapThemes(this RouteGroupBuilder api)
    {
        var study = api.MapGroup("/studies/{studyId:long}").WithTags("Sort");
        study.MapGet("/sorting", (long studyId, ThemeStore store, StudyIndexStore indexes, QuoteStore quotes, NotAskedStore notAsked) =>
        {
            var index = indexes.Load(studyId);
            var themes = store.In(studyId);
            var contents = index.ContentsOf(themes);
            var silent = notAsked.In(studyId, AskedThing.Theme);
            var byTag = Tally.ByTag(index.Marks, rollUp: true);
            var starred = store.Starred(studyId);
            var onCards = contents.Select(c => OnCard(index, c, starred)).ToList();
            var words = quotes.Of(index, onCards.SelectMany(c => c)).ToDictionary(q => q.ObservationId);
            var views = themes.Select((theme, i) => new ThemeView(
                theme,
                Breadth.Of(index.Marks, contents[i], index.InScope, index.PlacesOfPeople(silent[theme.Id])),
                EvidenceFacts.Of([.. contents[i].Select(o => index.PieceOf(o, Stance.Supports))]),
                [.. onCards[i].Select(o => words.GetValueOrDefault(index.Observations[o])).OfType<Quote>()],
                theme.TagIds.ToDictionary(t => t, t => index.PlaceOfTag(t) is { } place ? byTag[place].Length : 0)));
            var sorted = contents.SelectMany(c => c).ToHashSet();
            return new SortingTable([.. views], quotes.Of(index, Enumerable.Range(0, index.Marks.Count).Where(o => !sorted.Contains(o))), index.Marks.Count);
        });
        study.MapPost("/themes", (long studyId, NewTheme given, SignedIn me, ThemeStore store) => store.Make(
            me.Actor, studyId, Given.Text(given.Title, "title", "A theme needs a title: the claim its observations make together."), Given.Optional(given.Description, "description"), given.ParentId, given.ObservationIds, given.TagIds));
        study.MapPut("/not-asked", (long studyId, NotAsked given, SignedIn me, NotAskedStore store) => store.Set(me.Actor, studyId, given.Thing, given.Id, given.ParticipantIds));

        var theme = api.MapGroup("/themes/{id:long}").WithTags("Sort").About(Thing.Theme);
        theme.MapPut("", (long id, ThemeText given, SignedIn me, ThemeStore store) => store.Change(
            me.Actor, id, given.Version, Given.Text(given.Title, "title", "A theme needs a title."), Given.Optional(given.Description, "description"), given.ParentId));
        theme.MapDelete("", (long id, SignedIn me, ThemeStore store) => store.Remove(me.Actor, id));
        theme.MapPost("/lay", (long id, Lay given, SignedIn me, ThemeStore store) => store.Lay(me.Actor, id, given.ObservationIds, given.TagIds));
        theme.MapPost("/take-out", (long id, Lay given, SignedIn me, ThemeStore store) => store.TakeOut(me.Actor, id, given.ObservationIds, given.TagIds));
    }

    /// <summary>Which observations a theme's card quotes: starred ones first, each of another person.</summary>
    private static IReadOnlyList<int> OnCard(StudyIndex index, IReadOnlyList<int> contents, IReadOnlySet<long> starred) =>
        [.. contents.OrderByDescending(o => starred.Contains(index.Observations[o])).DistinctBy(o => index.PersonOf(o) ?? -index.Observations[o]).Take(QuotesOnCard)];
}
