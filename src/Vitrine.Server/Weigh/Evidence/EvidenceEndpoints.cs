using Microsoft.AspNetCore.Mvc;
using Vitrine.Core.Counting;
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
                var meant = Meant.Of(index, me.Id, of, themes);
                var found = Found(index, me.Id, meant, cell, indexes);
                var silent =
                    of.TagId is { } tag && of.OtherTagId is null ? notAsked.In(studyId, AskedThing.Tag)[tag.Value]
                    : of.ThemeId is { } theme ? notAsked.In(studyId, AskedThing.Theme)[theme.Value]
                    : [];
                return new EvidenceBehind(
                    Breadth.Of(
                        index.Marks,
                        [.. found.Where(o => !meant.Against.Contains(o))],
                        index.InScopeFor(meant.Tags.Select(index.PlaceOfTag).OfType<int>()),
                        index.PlacesOfPeople(silent),
                        [.. found.Where(meant.Against.Contains)]
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
                    Found(index, me.Id, Meant.Of(index, me.Id, of, themes), cell, indexes),
                    Validate.Page(page),
                    Limits.QuotesOnPage,
                    Validate.Optional(words, "words")
                );
            }
        );
    }

    private static IReadOnlyList<int> Found(StudyIndex index, AccountId viewer, Meant meant, Conditions? cell, SeenStudies indexes)
    {
        var within = cell is { Any: true } ? indexes.Load(index.StudyId, viewer, cell).Observations.ToHashSet() : null;
        return index.ByPerson(meant.Observations.Where(o => within?.Contains(index.Observations[o]) != false));
    }

    /// <summary>What a number or label stands for, in a study's arrays.</summary>
    /// <param name="Observations">By their places.</param>
    /// <param name="Against">Those of them that contradict the claim of a theme.</param>
    /// <param name="Tags">The tags that were asked for: who a search has gone through for one of them was asked.</param>
    private sealed record Meant(IEnumerable<int> Observations, IReadOnlySet<int> Against, IReadOnlyList<TagId> Tags)
    {
        public static Meant Of(StudyIndex index, AccountId viewer, EvidenceOf of, ThemeStore themes)
        {
            if (of.ThemeId is { } themeId)
            {
                var all = themes.In(index.StudyId, viewer);
                var (theme, pieces) = all.Zip(index.ContentsOf(all)).FirstOrDefault(t => t.First.Id == themeId);
                if (theme is null)
                    throw Refusal.Missing("theme");
                return new Meant(
                    pieces.Select(p => p.Observation),
                    pieces.Where(p => p.Stance == Stance.Contradicts).Select(p => p.Observation).ToHashSet(),
                    theme.TagIds
                );
            }
            return new Meant(Tagged(index, of), new HashSet<int>(), of is { TagId: { } tag, OtherTagId: null } ? [tag] : []);
        }

        private static IEnumerable<int> Tagged(StudyIndex index, EvidenceOf of)
        {
            if (of.TagId is not { } tagId)
                return Enumerable.Range(0, index.Marks.Count);
            var tag = index.PlaceOfTag(tagId) ?? throw Refusal.Missing("tag");
            if (of.OtherTagId is not { } otherId)
                return Tally.ByTag(index.Marks, rollUp: true)[tag];
            var other = index.PlaceOfTag(otherId) ?? throw Refusal.Missing("tag");
            return OverlapTable.Behind(index.Marks, of.Overlap?.Value ?? OverlapKind.SameObservation, tag, other);
        }
    }
}
