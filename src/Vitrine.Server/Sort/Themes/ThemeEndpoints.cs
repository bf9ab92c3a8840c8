using Vitrine.Core.Counting;
using Vitrine.Core.Weigh.Evidence;
using Vitrine.Server.Access;
using Vitrine.Server.Http;
using Vitrine.Storage.Catalogue;
using Vitrine.Storage.Counting;
using Vitrine.Storage.Sort.Themes;
using Vitrine.Storage.Weigh.Evidence;

namespace Vitrine.Server.Sort.Themes;

internal sealed record NewTheme(
    string Title,
    string Description,
    [IdOf(Thing.Theme)] ThemeId? ParentId,
    IReadOnlyList<ObservationId> ObservationIds,
    IReadOnlyList<TagId> TagIds
);

internal sealed record ThemeText(string Title, string Description, [IdOf(Thing.Theme)] ThemeId? ParentId, long Version);

internal sealed record Lay(IReadOnlyList<ObservationId> ObservationIds, IReadOnlyList<TagId> TagIds);

/// <summary>A theme with what it holds now: laid by hand, arrived by tag, and from its sub-themes.</summary>
internal sealed record ThemeView(
    Theme Theme,
    Breadth Breadth,
    EvidenceFacts Facts,
    IReadOnlyList<Quote> Quotes,
    IReadOnlyDictionary<TagId, int> ArrivedByTag
);

/// <summary>The sorting table: themes, and how many observations are in none; these come in pages.</summary>
internal sealed record SortingTable(IReadOnlyList<ThemeView> Themes, int Unsorted, int Observations);

internal static class ThemeEndpoints
{
    /// <summary>How many quotes a theme's card shows; the rest are in the evidence drawer.</summary>
    private const int QuotesOnCard = 2;

    public static void MapThemes(this RouteGroupBuilder api)
    {
        var study = api.MapGroup("/studies/{studyId:long}").WithTags("Sort");
        study.MapGet(
            "/sorting",
            (
                StudyId studyId,
                Conditions? where,
                SignedIn me,
                ThemeStore store,
                SeenStudies indexes,
                QuoteStore quotes,
                NotAskedStore notAsked
            ) =>
            {
                var index = indexes.Load(studyId, me.Id, where);
                var themes = store.In(studyId, me.Id);
                var contents = index.ContentsOf(themes);
                var silent = notAsked.In(studyId, AskedThing.Theme);
                var byTag = Tally.ByTag(index.Marks, rollUp: true);
                var starred = store.Starred(studyId, me.Id);
                var onCards = contents.Select(c => OnCard(index, c, starred)).ToList();
                var words = quotes.Of(index, onCards.SelectMany(c => c)).ToDictionary(q => q.ObservationId);
                var views = themes.Select(
                    (theme, i) =>
                        new ThemeView(
                            theme,
                            Breadth.Of(
                                index.Marks,
                                contents[i],
                                index.InScopeFor(theme.TagIds.Select(index.PlaceOfTag).OfType<int>()),
                                index.PlacesOfPeople(silent[theme.Id.Value])
                            ),
                            EvidenceFacts.Of([.. contents[i].Select(o => index.PieceOf(o, Stance.Supports))]),
                            [.. onCards[i].Select(o => words.GetValueOrDefault(index.Observations[o])).OfType<Quote>()],
                            theme.TagIds.ToDictionary(t => t, t => index.PlaceOfTag(t) is { } place ? byTag[place].Length : 0)
                        )
                );
                return new SortingTable([.. views], Unsorted(index, contents).Count, index.Marks.Count);
            }
        );
        study.MapGet(
            "/unsorted",
            (
                StudyId studyId,
                int page,
                string? words,
                Conditions? where,
                SignedIn me,
                ThemeStore store,
                SeenStudies indexes,
                QuoteStore quotes
            ) =>
            {
                var index = indexes.Load(studyId, me.Id, where);
                var unsorted = index.ByPerson(Unsorted(index, index.ContentsOf(store.In(studyId, me.Id))));
                return quotes.Page(
                    index,
                    unsorted,
                    Validate.Page(page),
                    Limits.QuotesOnPage,
                    Validate.Optional(words, "words", Limits.Title)
                );
            }
        );
        study.MapPost(
            "/themes",
            (StudyId studyId, NewTheme given, SignedIn me, ThemeStore store) =>
                store.Make(
                    me.Actor,
                    studyId,
                    Validate.Text(given.Title, "title", "A theme needs a title: the claim its observations make together."),
                    Validate.Optional(given.Description, "description"),
                    given.ParentId,
                    given.ObservationIds,
                    given.TagIds
                )
        );

        var theme = api.MapGroup("/themes/{id:long}").WithTags("Sort").About(Thing.Theme);
        theme.MapPut(
            "",
            (ThemeId id, ThemeText given, SignedIn me, ThemeStore store) =>
                store.Change(
                    me.Actor,
                    id,
                    given.Version,
                    Validate.Text(given.Title, "title", "A theme needs a title."),
                    Validate.Optional(given.Description, "description"),
                    given.ParentId
                )
        );
        theme.MapDelete("", (ThemeId id, SignedIn me, ThemeStore store) => store.Remove(me.Actor, id));
        theme.MapPost(
            "/put",
            (ThemeId id, Lay given, SignedIn me, ThemeStore store) => store.Lay(me.Actor, id, given.ObservationIds, given.TagIds)
        );
        theme.MapPost(
            "/take-out",
            (ThemeId id, Lay given, SignedIn me, ThemeStore store) => store.TakeOut(me.Actor, id, given.ObservationIds, given.TagIds)
        );
    }

    private static IReadOnlyList<int> Unsorted(StudyIndex index, IReadOnlyList<IReadOnlyList<int>> contents)
    {
        var sorted = contents.SelectMany(c => c).ToHashSet();
        return [.. Enumerable.Range(0, index.Marks.Count).Where(o => !sorted.Contains(o))];
    }

    /// <summary>Which observations a theme's card quotes: starred ones first, each of another person.</summary>
    private static IReadOnlyList<int> OnCard(StudyIndex index, IReadOnlyList<int> contents, IReadOnlySet<ObservationId> starred) =>
        [
            .. contents
                .OrderByDescending(o => starred.Contains(index.Observations[o]))
                .DistinctBy(o => index.PersonOf(o)?.Value ?? -index.Observations[o].Value)
                .Take(QuotesOnCard),
        ];
}
