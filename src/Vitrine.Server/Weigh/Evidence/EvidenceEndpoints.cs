using Microsoft.AspNetCore.Mvc;
using Vitrine.Core.Counting;
using Vitrine.Core.Sort.Themes;
using Vitrine.Core.Weigh.Evidence;
using Vitrine.Server.Access;
using Vitrine.Server.Http;
using Vitrine.Storage.Counting;
using Vitrine.Storage.Sort.Themes;
using Vitrine.Storage.Trail;
using Vitrine.Storage.Weigh.Evidence;

namespace Vitrine.Server.Weigh.Evidence;

/// <summary>What a number or label stands for: all that is given, together.</summary>
internal sealed record EvidenceOf
{
    [FromQuery(Name = "tagId")]
    public TagId? TagId { get; init; }

    [FromQuery(Name = "otherTagId")]
    public TagId? OtherTagId { get; init; }

    [FromQuery(Name = "overlap")]
    public Choice<OverlapKind>? Overlap { get; init; }

    [FromQuery(Name = "themeId")]
    public ThemeId? ThemeId { get; init; }
}

/// <summary>What stands behind a number; its words come in pages.</summary>
/// <param name="Breadth">How broad it is.</param>
/// <param name="ObservationIds">All of it, person by person; in this order the pages of quotes come.</param>
/// <param name="NotAsked">Who was not asked.</param>
internal sealed record EvidenceBehind(Breadth Breadth, IReadOnlyList<ObservationId> ObservationIds, IReadOnlyList<ParticipantId> NotAsked);

internal sealed record NotAsked(AskedThing Thing, long Id, IReadOnlyList<ParticipantId> ParticipantIds) : INamesThings
{
    public IEnumerable<(string Thing, long Id)> Named() => [(Storage.Catalogue.Thing.Named(Thing.ToString())!, Id)];
}

internal static class EvidenceEndpoints
{
    public static void MapEvidence(this RouteGroupBuilder api)
    {
        var study = api.MapGroup("/studies/{studyId:long}").WithTags("Weigh");
        study.MapPut(
            "/not-asked",
            (StudyId studyId, NotAsked given, SignedIn me, NotAskedStore store) =>
                store.Set(me.Actor, studyId, given.Thing, given.Id, given.ParticipantIds)
        );
        study.MapGet(
            "/evidence",
            (
                StudyId studyId,
                [AsParameters] EvidenceOf of,
                // The cell of a table: unlike other conditions it does not change who is in scope.
                Conditions? cell,
                Conditions? where,
                SignedIn me,
                SeenStudies indexes,
                ThemeStore themes,
                NotAskedStore notAsked
            ) =>
            {
                var index = indexes.Load(studyId, me.Id, where);
                var found = Found(index, me.Id, of, cell, themes, indexes);
                var silent =
                    of.TagId is { } tag && of.OtherTagId is null ? notAsked.In(studyId, AskedThing.Tag)[tag.Value]
                    : of.ThemeId is { } theme ? notAsked.In(studyId, AskedThing.Theme)[theme.Value]
                    : [];
                IReadOnlyList<TagId> asked =
                    of.TagId is { } one ? (of.OtherTagId is null ? [one] : [])
                    : of.ThemeId is { } group ? themes.In(studyId, me.Id).FirstOrDefault(t => t.Id == group)?.TagIds ?? []
                    : [];
                var against = of.ThemeId is { } claim
                    ? PiecesOf(index, me.Id, claim, themes)
                        .Where(p => p.Stance == Stance.Contradicts)
                        .Select(p => p.Observation)
                        .ToHashSet()
                    : [];
                var inScope = index.InScopeFor(asked.Select(index.PlaceOfTag).OfType<int>());
                return new EvidenceBehind(
                    Breadth.Of(
                        index.Marks,
                        [.. found.Where(o => !against.Contains(o))],
                        inScope,
                        index.PlacesOfPeople(silent),
                        [.. found.Where(against.Contains)]
                    ),
                    [.. found.Select(o => index.Observations[o])],
                    [.. silent]
                );
            }
        );
        study.MapGet(
            "/evidence/quotes",
            (
                StudyId studyId,
                [AsParameters] EvidenceOf of,
                int page,
                string? words,
                Conditions? cell,
                Conditions? where,
                SignedIn me,
                SeenStudies indexes,
                QuoteStore quotes,
                ThemeStore themes
            ) =>
            {
                var index = indexes.Load(studyId, me.Id, where);
                return quotes.Page(
                    index,
                    Found(index, me.Id, of, cell, themes, indexes),
                    Validate.Page(page),
                    Limits.QuotesOnPage,
                    Validate.Optional(words, "words")
                );
            }
        );
    }

    private static IReadOnlyList<int> Found(
        StudyIndex index,
        AccountId viewer,
        EvidenceOf of,
        Conditions? cell,
        ThemeStore themes,
        SeenStudies indexes
    )
    {
        var within = cell is { Any: true } ? indexes.Load(index.StudyId, viewer, cell).Observations.ToHashSet() : null;
        return index.ByPerson(Selected(index, viewer, of, themes).Where(o => within?.Contains(index.Observations[o]) != false));
    }

    private static IReadOnlyList<ThemePiece> PiecesOf(StudyIndex index, AccountId viewer, ThemeId id, ThemeStore themes)
    {
        var all = themes.In(index.StudyId, viewer);
        var at = all.Select((t, i) => (t.Id, i)).FirstOrDefault(x => x.Id == id, (0, -1)).Item2;
        return at < 0 ? throw Refusal.Missing("theme") : index.ContentsOf(all)[at];
    }

    private static IEnumerable<int> Selected(StudyIndex index, AccountId viewer, EvidenceOf of, ThemeStore themes)
    {
        if (of.ThemeId is { } themeId)
            return PiecesOf(index, viewer, themeId, themes).Select(p => p.Observation);
        if (of.TagId is not { } tagId)
            return Enumerable.Range(0, index.Marks.Count);
        var tag = index.PlaceOfTag(tagId) ?? throw Refusal.Missing("tag");
        if (of.OtherTagId is not { } otherId)
            return Tally.ByTag(index.Marks, rollUp: true)[tag];
        var other = index.PlaceOfTag(otherId) ?? throw Refusal.Missing("tag");
        return OverlapTable.Behind(index.Marks, of.Overlap?.Value ?? OverlapKind.SameObservation, tag, other);
    }
}
