using Vitrine.Core.Counting;
using Vitrine.Core.Sort.Suggestions;
using Vitrine.Server.Counting;
using Vitrine.Storage.Counting;
using Vitrine.Storage.Sort.Suggestions;
using Vitrine.Storage.Sort.Themes;
using Vitrine.Storage.Weigh.Evidence;

namespace Vitrine.Server.Sort.Suggestions;

/// <summary>Why something is suggested where it is.</summary>
/// <param name="Words">Words that it shares with the others there, in the form that is said most, the strongest first.</param>
/// <param name="Touching">How many of its observations are also theirs, or stand next to one of theirs.</param>
/// <param name="Observations">Of how many.</param>
internal sealed record SuggestedWhy(IReadOnlyList<string> Words, int Touching, int Observations);

/// <summary>A tag or an observation that may belong somewhere.</summary>
/// <param name="GroupId">Where; null for nowhere.</param>
/// <param name="NextId">Where else it may belong.</param>
/// <param name="Mixes">Whether it mixes good and bad.</param>
internal sealed record SuggestedItemView(
    SuggestedItemId Id,
    TagId? TagId,
    ObservationId? ObservationId,
    SuggestedGroupId? GroupId,
    SuggestedGroupId? NextId,
    SuggestedPile Pile,
    SuggestionAnswer Answer,
    bool Mixes,
    SuggestedWhy? Why
);

/// <summary>What may become a theme, or is one.</summary>
/// <param name="Title">Its claim, as far as there is one.</param>
/// <param name="ThemeId">The theme that it is, or has become.</param>
/// <param name="Words">What is said in it and not in the others, in the form that is said most.</param>
/// <param name="Observations">How many observations it has, but for what was refused.</param>
/// <param name="Mixes">Whether these mix good and bad.</param>
internal sealed record SuggestedGroupView(
    SuggestedGroupId Id,
    string Title,
    ThemeId? ThemeId,
    IReadOnlyList<string> Words,
    int Observations,
    Breadth Breadth,
    bool Mixes
);

/// <summary>Suggestions with why.</summary>
internal sealed record SuggestionView(Suggestion Head, IReadOnlyList<SuggestedGroupView> Groups, IReadOnlyList<SuggestedItemView> Items);

/// <summary>
/// Shows suggestions: why each is made is told by what is there now. What is to be placed is looked up anew with each answer.
/// </summary>
internal sealed class SuggestionViews(
    SuggestionStore store,
    Suggesting suggesting,
    SeenStudies indexes,
    ThemeStore themes,
    QuoteStore quotes
)
{
    private const int MostWords = 4;

    public SuggestionView Of(SuggestionId id, AccountId viewer)
    {
        var whole = store.Get(id, viewer);
        var (studyId, isPlacing) = (whole.Head.StudyId, whole.Head.Kind == SuggestionKind.Placing);
        var index = indexes.Load(studyId, viewer);
        var ground = suggesting.GroundOf(index);
        var felt = themes.Sentiments(studyId, viewer);
        // A theme that has gone takes nothing in; a group that was to become one stays.
        var groups = whole.Groups.Where(g => !isPlacing || g.ThemeId is not null).ToList();
        var placeOf = groups.Select((g, at) => (g.Id, at)).ToDictionary(g => g.Id, g => g.at);
        var items = whole.Items.Where(i => ground.ObservationsOf(Thing(i)).Count > 0).ToList();
        ground.Read(items.Select(Thing));
        var likened = items.ConvertAll(i => ground.ItemOf(Thing(i)));
        var into = isPlacing ? Themes() : Groups();
        var allocation = new Allocation(likened, into, ground.Around);
        var refused = store
            .Refused(studyId, viewer)
            .SelectMany(g => g.Refused.Select(r => (r, g.ThemeId)))
            .ToLookup(r => r.r, r => r.ThemeId);
        var said = ground.SaidIn([.. items.Select(Thing)]);
        var views = items.Select(ItemOf).ToList();
        return new SuggestionView(whole.Head, [.. groups.Select(GroupOf)], views);

        int? PlaceOf(SuggestedItemRow item) => item.GroupId is { } group && placeOf.TryGetValue(group, out var at) ? at : null;

        bool IsIn(SuggestedItemRow item, int group) => PlaceOf(item) == group && item.Answer != SuggestionAnswer.Refused;

        // Themes hold what lies in them now, groups what is suggested for them.
        List<AllocationTheme> Themes()
        {
            var all = themes.In(studyId, viewer);
            var contents = index.ContentsOf(all);
            return groups.ConvertAll(group =>
            {
                var at = all.Select(t => t.Id).ToList().IndexOf(group.ThemeId!.Value);
                int[] holds = [.. contents[at].Select(p => p.Observation)];
                ground.Read(holds);
                return ground.ThemeOf(all[at], holds);
            });
        }

        List<AllocationTheme> Groups() =>
            [.. groups.Select((_, at) => new AllocationTheme([], [.. likened.Where((_, i) => IsIn(items[i], at))]))];

        SuggestedItemView ItemOf(SuggestedItemRow item, int i)
        {
            var stored = PlaceOf(item);
            var found = allocation.Of(i, [.. Enumerable.Range(0, groups.Count).Where(g => IsRefused(item, g))]);
            // What is to be placed and was put nowhere is looked up; what is unsure is shown with what it is nearest to.
            var looksUp = stored is null && (item.Pile == SuggestedPile.Unsure || (isPlacing && item.Pile == SuggestedPile.Fits));
            var place = stored ?? (looksUp ? found.Theme : null);
            return new SuggestedItemView(
                item.Id,
                item.TagId,
                item.ObservationId,
                place is { } p ? groups[p].Id : null,
                new[] { found.Theme, found.Next }.FirstOrDefault(g => g is not null && g != place) is { } next ? groups[next].Id : null,
                !looksUp || !isPlacing ? item.Pile
                    : found.Theme is null ? SuggestedPile.Alone
                    : found.IsSure ? SuggestedPile.Fits
                    : SuggestedPile.Unsure,
                item.Answer,
                SuggestionGround.Mixes(likened[i].Observations, index, felt),
                place is { } at
                    ? new SuggestedWhy(
                        [.. allocation.Shared(i, at, MostWords).Select(said.FormOf)],
                        allocation.Touching(i, at),
                        likened[i].Observations.Count
                    )
                    : null
            );
        }

        bool IsRefused(SuggestedItemRow item, int group) => groups[group].ThemeId is { } theme && refused[Thing(item)].Any(t => t == theme);

        SuggestedGroupView GroupOf(SuggestedGroupRow group, int at)
        {
            var inside = likened.Where((_, i) => views[i].GroupId == group.Id && IsCounted(views[i]));
            var observations = inside.Concat(into[at].Holds).SelectMany(h => h.Observations).Distinct().Order().ToList();
            return new SuggestedGroupView(
                group.Id,
                group.Title,
                group.ThemeId,
                [.. allocation.TermsOf(at, MostWords).Select(said.FormOf)],
                observations.Count,
                Breadth.Of(index.Marks, observations, index.InScope, index.PlacesOfPeople([]), []),
                SuggestionGround.Mixes(observations, index, felt)
            );
        }
    }

    /// <summary>The words of observations that are suggested somewhere.</summary>
    public IReadOnlyList<Quote> Quotes(SuggestionId id, AccountId viewer, IReadOnlyList<ObservationId> observations)
    {
        var index = indexes.Load(store.StudyOf(id), viewer);
        return quotes.Of(index, observations.Select(index.PlaceOfObservation).OfType<int>());
    }

    /// <summary>
    /// The quotes that tell best what a group is about: what lies in it where it is a theme already, else what is suggested for it.
    /// </summary>
    public QuotesThatTell Told(SuggestionId id, AccountId viewer, SuggestedGroupId groupId)
    {
        var view = Of(id, viewer);
        var index = indexes.Load(view.Head.StudyId, viewer);
        var byTag = Tally.ByTag(index.Marks, rollUp: true);
        var all = themes.In(view.Head.StudyId, viewer);
        var theme = view.Groups.FirstOrDefault(g => g.Id == groupId)?.ThemeId;
        var held = all.Select((t, at) => (t.Id, at)).Where(t => t.Id == theme).SelectMany(t => index.ContentsOf(all)[t.at]).ToList();
        var observations =
            held.Count > 0
                ? held.Select(p => p.Observation)
                : view
                    .Items.Where(i => i.GroupId == groupId && IsCounted(i))
                    .SelectMany(i =>
                        i.TagId is { } tag ? (index.PlaceOfTag(tag) is { } at ? byTag[at] : [])
                        : index.PlaceOfObservation(i.ObservationId!.Value) is { } place ? [place]
                        : Array.Empty<int>()
                    );
        return QuotesThatTell.Of(index, observations.Distinct(), quotes);
    }

    private static Suggested Thing(SuggestedItemRow item) => new(item.TagId, item.ObservationId);

    private static bool IsCounted(SuggestedItemView item) => item.Pile == SuggestedPile.Fits && item.Answer != SuggestionAnswer.Refused;
}
