using Vitrine.Core.Mark.Observations;
using Vitrine.Core.Sort.Suggestions;
using Vitrine.Storage.Counting;
using Vitrine.Storage.Sort.Suggestions;
using Vitrine.Storage.Sort.TagSet;
using Vitrine.Storage.Sort.Themes;
using Vitrine.Storage.Text;
using Vitrine.Storage.Trail;
using Vitrine.Storage.Weigh.Evidence;

namespace Vitrine.Server.Sort.Suggestions;

/// <summary>What suggestions are asked for.</summary>
/// <param name="TagIds">For themes, and to be placed.</param>
/// <param name="ObservationIds">To be placed, or broken up.</param>
/// <param name="ThemeIds">The themes into which things are placed; none for all of the study.</param>
/// <param name="ThemeId">The theme that is broken up; null for the observations that are given.</param>
/// <param name="Groups">How many groups there are to be; null for as many as fit best, 0 for none: what is there is put by hand.</param>
/// <param name="HoldMixed">Whether what mixes good and bad is held apart.</param>
internal sealed record SuggestionAsked(
    SuggestionKind Kind,
    IReadOnlyList<TagId> TagIds,
    IReadOnlyList<ObservationId> ObservationIds,
    IReadOnlyList<ThemeId> ThemeIds,
    ThemeId? ThemeId = null,
    int? Groups = null,
    bool HoldMixed = false
);

/// <summary>Makes suggestions: nothing but what is there is asked, and the same gives the same.</summary>
internal sealed class Suggesting(
    SuggestionStore store,
    SeenStudies indexes,
    StudyTexts texts,
    TagStore tags,
    ThemeStore themes,
    QuoteStore quotes
)
{
    /// <summary>So many things are looked at in one go: each is compared with each.</summary>
    public const int MostItems = 2_000;

    /// <summary>The most groups that may be asked for.</summary>
    public const int MostGroups = 20;

    /// <summary>A theme is broken into three to seven parts; tags make so many themes where nobody says how many.</summary>
    private static readonly (int Fewest, int Most) Parts = (3, 7);
    private static readonly (int Fewest, int Most) Themes = (3, 12);

    public Step Make(Actor actor, StudyId studyId, SuggestionAsked asked)
    {
        var index = indexes.Load(studyId, actor.AccountId);
        var ground = GroundOf(index);
        var felt = themes.Sentiments(studyId, actor.AccountId);
        var all = themes.In(studyId, actor.AccountId);
        var things = ThingsOf(index, ground, asked, all);
        if (asked.Kind == SuggestionKind.Placing)
            return Place(actor, studyId, asked, things, index, ground, felt, all);
        // By hand: each is put somewhere by whoever goes through them.
        if (asked.Groups == 0)
            return store.Make(
                actor,
                studyId,
                asked.Kind,
                asked.Kind == SuggestionKind.Parts ? asked.ThemeId : null,
                [],
                [.. things.Select(t => new NewSuggestedItem(t, null, SuggestedPile.Fits))]
            );
        if (asked.Groups is < 2 or > MostGroups)
            throw Refusal.Because($"Ask for 2 to {MostGroups} groups, for as many as fit, or for none to put all of it by hand.", "groups");
        ground.Read(things);
        IReadOnlyList<LikenessItem> items = [.. things.Select(ground.ItemOf)];
        var place = things.Select((t, i) => (t, i)).ToDictionary(x => x.t, x => x.i);
        var apart = store
            .Refused(studyId, actor.AccountId)
            .SelectMany(g => g.Refused.SelectMany(r => g.All.Where(o => o != r).Select(o => (r, o))))
            .Where(p => place.ContainsKey(p.r) && place.ContainsKey(p.o))
            .Select(p => (place[p.r], place[p.o]))
            .ToHashSet();
        var (fewest, most) = asked.Kind == SuggestionKind.Parts ? Parts : Themes;
        var found = Grouping.Of(items, Likeness.Of(items, ground.Around), asked.Groups ?? fewest, asked.Groups ?? most, apart);
        if (found.Groups.Count == 0)
            throw Refusal.Because(
                found.Refused.Count > 0
                    ? "You have said no to what would go together here. Choose other things, or make a theme by hand."
                    : "They have too little in common: no two of them stand near each other or share words.",
                "kind"
            );
        bool IsApart(int i) => asked.HoldMixed && SuggestionGround.Mixes(ground.ObservationsOf(things[i]), index, felt);
        var groups = found.Groups.Select(g => g.Where(i => !IsApart(i)).ToList()).Where(g => g.Count > 0).ToList();
        return store.Make(
            actor,
            studyId,
            asked.Kind,
            asked.Kind == SuggestionKind.Parts ? asked.ThemeId : null,
            [.. groups.Select(_ => new NewSuggestedGroup(null))],
            [
                .. groups.SelectMany((g, at) => g.Select(i => new NewSuggestedItem(things[i], at, SuggestedPile.Fits))),
                .. Piled(found.Unsure, SuggestedPile.Unsure),
                .. Piled(found.Refused, SuggestedPile.Refused),
                .. Piled(found.Alone, SuggestedPile.Alone),
                .. Piled(found.Groups.SelectMany(g => g).Where(IsApart), SuggestedPile.Mixed),
            ]
        );

        IEnumerable<NewSuggestedItem> Piled(IEnumerable<int> which, SuggestedPile pile) =>
            which.Select(i => new NewSuggestedItem(things[i], null, pile));
    }

    public SuggestionGround GroundOf(StudyIndex index) => new(index, texts.Load(index.StudyId), tags.For(index.StudyId), quotes);

    private Step Place(
        Actor actor,
        StudyId studyId,
        SuggestionAsked asked,
        IReadOnlyList<Suggested> things,
        StudyIndex index,
        SuggestionGround ground,
        IReadOnlyDictionary<ObservationId, Sentiment> felt,
        IReadOnlyList<Theme> all
    )
    {
        var into = asked.ThemeIds.Count == 0 ? all : [.. all.Where(t => asked.ThemeIds.Contains(t.Id))];
        if (into.Count == 0)
            throw Refusal.Because("Make a theme first, and say in it what belongs there.", "themeIds");
        return store.Make(
            actor,
            studyId,
            SuggestionKind.Placing,
            null,
            [.. into.Select(t => new NewSuggestedGroup(t.Id))],
            [
                .. things.Select(t => new NewSuggestedItem(
                    t,
                    null,
                    asked.HoldMixed && SuggestionGround.Mixes(ground.ObservationsOf(t), index, felt)
                        ? SuggestedPile.Mixed
                        : SuggestedPile.Fits
                )),
            ]
        );
    }

    private static IReadOnlyList<Suggested> ThingsOf(
        StudyIndex index,
        SuggestionGround ground,
        SuggestionAsked asked,
        IReadOnlyList<Theme> all
    )
    {
        IEnumerable<ObservationId> observations = asked.Kind switch
        {
            SuggestionKind.Themes => [],
            SuggestionKind.Parts when asked.ThemeId is { } id => PiecesOf(index, all, id),
            _ => asked.ObservationIds,
        };
        List<Suggested> things =
        [
            .. (asked.Kind == SuggestionKind.Parts ? [] : asked.TagIds)
                .Distinct()
                .Select(t => new Suggested(t, null))
                .Where(t => ground.ObservationsOf(t).Count > 0),
            .. observations.Distinct().Select(o => new Suggested(null, o)).Where(t => ground.ObservationsOf(t).Count > 0),
        ];
        var (what, fewest) = asked.Kind switch
        {
            SuggestionKind.Themes => ("Choose at least three tags that are on observations of this study.", 3),
            SuggestionKind.Placing => ("Choose at least one tag or observation of this study to be placed.", 1),
            SuggestionKind.Parts when asked.Groups == 0 => ("It holds too few to be split: there must be at least two observations.", 2),
            _ => ("It holds too few to be broken up: there must be at least six observations.", 6),
        };
        if (things.Count < fewest)
            throw Refusal.Because(what, "kind");
        if (things.Count > MostItems)
            throw Refusal.Because(
                $"These are {things.Count:N0}; {MostItems:N0} are looked at in one go. Choose fewer, such as what a filter shows.",
                "kind"
            );
        return things;
    }

    /// <summary>What a theme holds beside its sub-themes.</summary>
    private static IEnumerable<ObservationId> PiecesOf(StudyIndex index, IReadOnlyList<Theme> all, ThemeId id)
    {
        var at = all.Select(t => t.Id).ToList().IndexOf(id);
        return at < 0
            ? throw Refusal.Missing("theme")
            : all.Beside(index.ContentsOf(all), at).Select(p => index.Observations[p.Observation]);
    }
}
