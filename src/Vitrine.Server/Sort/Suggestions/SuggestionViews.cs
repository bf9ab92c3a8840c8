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
        var studyId = whole.Head.StudyId;
        var index = indexes.Load(studyId, viewer);
        var ground = suggesting.GroundOf(index);
        var felt = themes.Sentiments(studyId, viewer);
        var all = themes.In(studyId, viewer);
        // A theme that has gone holds nothing; a group that was to become one stays.
        var groups = whole.Head.Kind == SuggestionKind.Placing ? [.. whole.Groups.Where(g => g.ThemeId is not null)] : whole.Groups;
        var items = whole.Items.Where(i => ground.ObservationsOf(Thing(i)).Count > 0).ToList();
        ground.Read(items.Select(Thing));
        var contents = index.ContentsOf(all);
        var placeOf = groups.Select((g, i) => (g.Id, i)).ToDictionary(g => g.Id, g => g.i);
        int? StoredPlace(SuggestedItemRow item) => item.GroupId is { } g && placeOf.TryGetValue(g, out var at) ? at : null;
        var into = groups
            .Select(
                (group, at) =>
                {
                    var theme = all.FirstOrDefault(t => t.Id == group.ThemeId);
                    IReadOnlyList<int> holds = theme is null ? [] : [.. contents[IndexOf(all, theme.Id)].Select(p => p.Observation)];
                    ground.Read(holds);
                    if (whole.Head.Kind == SuggestionKind.Placing && theme is not null)
                        return ground.ThemeOf(theme, holds);
                    var inside = items.Where(i => StoredPlace(i) == at && i.Answer != SuggestionAnswer.Refused);
                    return new AllocationTheme([], [.. inside.Select(i => ground.ItemOf(Thing(i)))]);
                }
            )
            .ToList();
        var likened = items.ConvertAll(i => ground.ItemOf(Thing(i)));
        var allocation = new Allocation(likened, into, ground.Around);
        var refused = store
            .Refused(studyId, viewer)
            .Where(g => g.ThemeId is not null)
            .SelectMany(g => g.Refused.Select(r => (r, g.ThemeId)))
            .ToLookup(r => r.r, r => r.ThemeId);
        var said = ground.SaidIn(items.SelectMany(i => ground.ObservationsOf(Thing(i))).Distinct());
        var views = items
            .Select(
                (item, i) =>
                {
                    List<int> not =
                    [
                        .. refused[Thing(item)]
                            .SelectMany(t => groups.Select((g, at) => (g.ThemeId, at)).Where(g => g.ThemeId == t))
                            .Select(g => g.at),
                    ];
                    var found = allocation.Of(i, not);
                    var isOpen = item.Answer is SuggestionAnswer.Open or SuggestionAnswer.Later;
                    var stored = StoredPlace(item);
                    var looksUp = isOpen && stored is null && item.Pile is SuggestedPile.Fits or SuggestedPile.Unsure;
                    var place = stored ?? (looksUp || item.Pile == SuggestedPile.Unsure ? found.Theme : null);
                    var pile =
                        whole.Head.Kind != SuggestionKind.Placing || stored is not null || item.Pile == SuggestedPile.Mixed ? item.Pile
                        : found.Theme is null ? SuggestedPile.Alone
                        : found.IsSure ? SuggestedPile.Fits
                        : SuggestedPile.Unsure;
                    return new SuggestedItemView(
                        item.Id,
                        item.TagId,
                        item.ObservationId,
                        place is { } p ? groups[p].Id : null,
                        found.Theme is { } f && f != place ? groups[f].Id
                            : found.Next is { } n && n != place ? groups[n].Id
                            : null,
                        pile,
                        item.Answer,
                        Suggesting.Mixes(Thing(item), ground, index, felt),
                        place is { } at
                            ? new SuggestedWhy(
                                [.. allocation.Shared(i, at, MostWords).Select(said.FormOf)],
                                TouchingOthers(i, at),
                                likened[i].Observations.Count
                            )
                            : null
                    );
                }
            )
            .ToList();
        return new SuggestionView(whole.Head, [.. groups.Select(GroupOf)], views);

        // A thing does not touch itself.
        int TouchingOthers(int item, int group)
        {
            var others = items
                .Select((other, i) => (other, i))
                .Where(o => o.i != item && StoredPlace(o.other) == group && o.other.Answer != SuggestionAnswer.Refused)
                .SelectMany(o => likened[o.i].Observations)
                .ToHashSet();
            if (whole.Head.Kind == SuggestionKind.Placing)
                others.UnionWith(into[group].Holds.SelectMany(h => h.Observations).Except(likened[item].Observations));
            return likened[item]
                .Observations.Count(o => others.Contains(o) || ground.Around.Around(o).Any(n => others.Contains(n.Observation)));
        }

        SuggestedGroupView GroupOf(SuggestedGroupRow group, int at)
        {
            var inside = views
                .Select((view, i) => (view, i))
                .Where(v => v.view.GroupId == group.Id && v.view.Pile == SuggestedPile.Fits && v.view.Answer != SuggestionAnswer.Refused)
                .ToList();
            var observations = inside
                .SelectMany(v => likened[v.i].Observations)
                .Concat(into[at].Holds.SelectMany(h => h.Observations))
                .Distinct()
                .Order()
                .ToList();
            return new SuggestedGroupView(
                group.Id,
                group.Title,
                group.ThemeId,
                [.. allocation.TermsOf(at, MostWords).Select(said.FormOf)],
                observations.Count,
                Breadth.Of(index.Marks, observations, index.InScope, index.PlacesOfPeople([]), []),
                SuggestionGround.Mixes(
                    observations.Where(o => felt.ContainsKey(index.Observations[o])).Select(o => felt[index.Observations[o]])
                )
            );
        }
    }

    /// <summary>The words of observations that are suggested somewhere.</summary>
    public IReadOnlyList<Quote> Quotes(SuggestionId id, AccountId viewer, IReadOnlyList<ObservationId> observations)
    {
        var index = indexes.Load(store.StudyOf(id), viewer);
        return quotes.Of(index, observations.Select(index.PlaceOfObservation).OfType<int>());
    }

    /// <summary>The quotes that tell best what a group is about.</summary>
    public QuotesThatTell Told(SuggestionId id, AccountId viewer, SuggestedGroupId groupId)
    {
        var view = Of(id, viewer);
        var index = indexes.Load(view.Head.StudyId, viewer);
        var byTag = Tally.ByTag(index.Marks, rollUp: true);
        var observations = view
            .Items.Where(i => i.GroupId == groupId && i.Pile == SuggestedPile.Fits && i.Answer != SuggestionAnswer.Refused)
            .SelectMany(i =>
                i.TagId is { } tag ? (index.PlaceOfTag(tag) is { } at ? byTag[at] : [])
                : index.PlaceOfObservation(i.ObservationId!.Value) is { } place ? [place]
                : Array.Empty<int>()
            )
            .Distinct();
        return QuotesThatTell.Of(index, observations, quotes);
    }

    private static Suggested Thing(SuggestedItemRow item) => new(item.TagId, item.ObservationId);

    private static int IndexOf(IReadOnlyList<Theme> all, ThemeId id) => all.Select((t, i) => (t.Id, i)).First(t => t.Id == id).i;
}
