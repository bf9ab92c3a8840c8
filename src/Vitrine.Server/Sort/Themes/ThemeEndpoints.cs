using Vitrine.Core.Counting;
using Vitrine.Core.RichTexts;
using Vitrine.Core.Sort.TagSet;
using Vitrine.Core.Weigh.Evidence;
using Vitrine.Server.Access;
using Vitrine.Server.Http;
using Vitrine.Storage.Catalogue;
using Vitrine.Storage.Show.Insights;
using Vitrine.Storage.Sort.Themes;
using Vitrine.Storage.Trail;
using Vitrine.Storage.Uses;

namespace Vitrine.Server.Sort.Themes;

/// <param name="Title">Its claim; may be empty until there is one.</param>
internal sealed record NewTheme(
    string Title,
    string Description,
    [IdOf(Thing.Theme)] ThemeId? ParentId,
    IReadOnlyList<ObservationId> ObservationIds,
    IReadOnlyList<TagId> TagIds
);

/// <param name="ParentId">Under which theme; null for none.</param>
/// <param name="BeforeId">Before which of the themes there; null for the last place.</param>
internal sealed record ThemePlace([IdOf(Thing.Theme)] ThemeId? ParentId, [IdOf(Thing.Theme)] ThemeId? BeforeId);

/// <param name="Colour">Its place in the palette, from 0.</param>
internal sealed record ThemeColour(int Colour);

internal sealed record ThemeQuestions(IReadOnlyList<ResearchQuestionId> ResearchQuestionIds);

/// <param name="Stance">
/// How the observations bear on its claim; null for support, and for what they are already where they lie there.
/// </param>
/// <param name="From">Out of which themes they are taken in the same step; what was laid there by hand keeps its stance.</param>
internal sealed record Lay(
    IReadOnlyList<ObservationId> ObservationIds,
    IReadOnlyList<TagId> TagIds,
    Stance? Stance = null,
    IReadOnlyList<PieceAt>? From = null
);

/// <summary>A piece of a theme.</summary>
internal sealed record PieceAt(ThemeId ThemeId, ObservationId ObservationId);

internal sealed record TakenOut(IReadOnlyList<ObservationId> ObservationIds, IReadOnlyList<TagId> TagIds);

internal sealed record StanceOfPieces(IReadOnlyList<ObservationId> ObservationIds, Stance Stance);

/// <param name="LeftOut">Whether they are left out of all themes from then on.</param>
internal sealed record LeavingOut(IReadOnlyList<ObservationId> ObservationIds, bool LeftOut);

internal sealed record MergeThemes(IReadOnlyList<ThemeId> ThemeIds);

/// <summary>What a theme brings to one that it is merged into.</summary>
/// <param name="Observations">How many observations it holds.</param>
/// <param name="AlsoInto">How many of them the other holds too.</param>
/// <param name="OtherStance">How many were laid in both by hand with another stance; the one in the theme that stays holds.</param>
/// <param name="SubThemes">How many themes stand under it; they stand under the other then.</param>
internal sealed record MergedTheme(ThemeId ThemeId, int Observations, int AlsoInto, int OtherStance, int SubThemes);

/// <summary>What a merge of themes does, before it is done.</summary>
/// <param name="Before">How many observations the one that stays holds.</param>
/// <param name="After">How many it will.</param>
/// <param name="Uses">All that uses one that goes; it uses the one that stays then.</param>
internal sealed record ThemeMergeShown(IReadOnlyList<MergedTheme> Merged, int Before, int After, ThingUses Uses);

internal static class ThemeEndpoints
{
    public static void MapThemes(this RouteGroupBuilder api)
    {
        var study = api.MapGroup("/studies/{studyId:long}").WithTags("Sort");
        study.MapGet(
            "/sorting",
            (StudyId studyId, int? quotes, Conditions? where, SignedIn me, ThemeViews views) =>
                views.Table(studyId, me.Id, where, Math.Clamp(quotes ?? ThemeViews.QuotesOnCard, 0, Limits.QuotesOnPage))
        );
        study.MapGet(
            "/unsorted",
            (
                StudyId studyId,
                int page,
                bool? leftOut,
                string? words,
                Conditions? where,
                Choice<UnsortedBy>? groupBy,
                SignedIn me,
                UnsortedViews views
            ) => views.Page(studyId, me.Id, Asked(where, leftOut, words, groupBy), Validate.Page(page), Limits.QuotesOnPage)
        );
        study.MapGet(
            "/unsorted/ids",
            (
                StudyId studyId,
                bool? leftOut,
                string? words,
                Conditions? where,
                Choice<UnsortedBy>? groupBy,
                SignedIn me,
                UnsortedViews views
            ) => views.Ids(studyId, me.Id, Asked(where, leftOut, words, groupBy))
        );
        study.MapPut("/sorting/looked", (StudyId studyId, SignedIn me, SortingLookStore looks) => looks.Look(studyId, me.Id));
        study.MapPut(
            "/left-out",
            (StudyId studyId, LeavingOut given, SignedIn me, LeftOutStore store) =>
                store.Set(me.Actor, studyId, Validate.Ids(given.ObservationIds, "observation"), given.LeftOut)
        );
        study.MapPost(
            "/themes",
            (StudyId studyId, NewTheme given, SignedIn me, ThemeStore store) =>
                store.Make(
                    me.Actor,
                    studyId,
                    ClaimOf(given.Title),
                    Validate.Optional(given.Description, "description"),
                    given.ParentId,
                    given.ObservationIds,
                    given.TagIds
                )
        );

        var theme = api.MapGroup("/themes/{id:long}").WithTags("Sort").About(Thing.Theme);
        theme.MapGet("", (ThemeId id, Conditions? where, SignedIn me, ThemeViews views) => views.Page(id, me.Id, where));
        theme.MapGet(
            "/pieces",
            (ThemeId id, Choice<Stance>? stance, bool? beside, int page, string? words, Conditions? where, SignedIn me, ThemeViews views) =>
                views.Pieces(
                    id,
                    me.Id,
                    where,
                    stance?.Value,
                    beside == true,
                    Validate.Page(page),
                    Limits.QuotesOnPage,
                    Validate.Optional(words, "words", Limits.Title)
                )
        );
        theme.MapPut(
            "/title",
            (ThemeId id, NewText given, SignedIn me, ThemeStore store) => store.RewriteTitle(me.Actor, id, given.Was, ClaimOf(given.Text))
        );
        theme.MapPut(
            "/description",
            (ThemeId id, NewText given, SignedIn me, ThemeStore store) =>
                store.RewriteDescription(me.Actor, id, given.Was, Validate.Optional(given.Text, "text"))
        );
        theme.MapPut(
            "/place",
            (ThemeId id, ThemePlace given, SignedIn me, ThemeStore store) => store.Move(me.Actor, id, given.ParentId, given.BeforeId)
        );
        theme.MapPut(
            "/colour",
            (ThemeId id, ThemeColour given, SignedIn me, ThemeStore store) =>
                given.Colour >= 0 && given.Colour < Palette.Count
                    ? store.SetColour(me.Actor, id, given.Colour)
                    : throw Refusal.Because($"Colours are counted from 0 to {Palette.Count - 1}.", "colour")
        );
        theme.MapPut(
            "/questions",
            (ThemeId id, ThemeQuestions given, SignedIn me, ThemeStore store) => store.Answer(me.Actor, id, given.ResearchQuestionIds)
        );
        theme.MapDelete("", (ThemeId id, SignedIn me, ThemeStore store) => store.Remove(me.Actor, id));
        theme.MapPost(
            "/put",
            (ThemeId id, Lay given, SignedIn me, ThemeStore store) =>
                store.Lay(
                    me.Actor,
                    id,
                    given.ObservationIds,
                    given.TagIds,
                    given.Stance,
                    given.From?.Select(p => (p.ThemeId, p.ObservationId)).ToList()
                )
        );
        theme.MapPost(
            "/take-out",
            (ThemeId id, TakenOut given, SignedIn me, ThemeStore store) => store.TakeOut(me.Actor, id, given.ObservationIds, given.TagIds)
        );
        theme.MapPut(
            "/stance",
            (ThemeId id, StanceOfPieces given, SignedIn me, ThemeStore store) =>
                store.SetStance(me.Actor, id, Validate.Ids(given.ObservationIds, "observation"), given.Stance)
        );
        theme.MapGet("/merge", ShowMerge);
        theme.MapPost(
            "/merge",
            (ThemeId id, MergeThemes given, SignedIn me, ThemeStore store) => store.Merge(me.Actor, id, given.ThemeIds)
        );
        // An insight with its claim as the headline and everything attached.
        theme.MapPost(
            "/insight",
            (ThemeId id, SignedIn me, ThemeViews views, ThemeStore store, InsightStore insights) =>
            {
                var (from, pieces) = views.Evidence(id, me.Id);
                return insights.Make(me.Actor, store.StudyOf(id), from.Title, RichText.FromPlain(from.Description), pieces);
            }
        );
    }

    private static UnsortedAsked Asked(Conditions? where, bool? leftOut, string? words, Choice<UnsortedBy>? by) =>
        new(where, leftOut == true, Validate.Optional(words, "words", Limits.Title), by?.Value ?? UnsortedBy.Person);

    private static ThemeMergeShown ShowMerge(ThemeId id, ThemeId[] themeId, SignedIn me, ThemeViews views, ThemeStore store, UsesStore uses)
    {
        var studyId = store.StudyOf(id);
        var (all, held) = (store.In(studyId, me.Id).ToDictionary(t => t.Id), views.Held(studyId, me.Id));
        var going = themeId.Distinct().Where(t => t != id && all.ContainsKey(t)).Select(t => all[t]).ToList();
        var stays = all[id];
        return new ThemeMergeShown(
            [
                .. going.Select(t => new MergedTheme(
                    t.Id,
                    held[t.Id].Count,
                    held[t.Id].Count(held[id].Contains),
                    t.Observations.Count(o => stays.Observations.TryGetValue(o.Key, out var stance) && stance != o.Value),
                    all.Values.Count(s => s.ParentId == t.Id && s.Id != id)
                )),
            ],
            held[id].Count,
            going.SelectMany(t => held[t.Id]).Concat(held[id]).Distinct().Count(),
            uses.Of(ThingKind.Theme, [.. going.Select(t => t.Id.Value)], me.Viewer)
        );
    }

    private static string ClaimOf(string title) => Validate.Optional(title, "text", Limits.Title).ReplaceLineEndings(" ");
}
