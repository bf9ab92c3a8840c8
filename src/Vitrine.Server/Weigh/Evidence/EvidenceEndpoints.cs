using Microsoft.AspNetCore.Mvc;
using Vitrine.Core.Counting;
using Vitrine.Core.Gather.Sources;
using Vitrine.Server.Access;
using Vitrine.Server.Http;
using Vitrine.Storage.Catalogue;
using Vitrine.Storage.Counting;
using Vitrine.Storage.Gather.Participants;
using Vitrine.Storage.Sort.Themes;
using Vitrine.Storage.Trail;
using Vitrine.Storage.Weigh.Evidence;

namespace Vitrine.Server.Weigh.Evidence;

/// <summary>What a number, cell or label stands for: all given conditions together.</summary>
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

    [FromQuery(Name = "sourceId")]
    public SourceId? SourceId { get; init; }

    [FromQuery(Name = "participantId")]
    public ParticipantId? ParticipantId { get; init; }

    [FromQuery(Name = "sourceKind")]
    public Choice<SourceKind>? SourceKind { get; init; }

    /// <summary>With <see cref="Value"/>: only of people who have this value of the attribute.</summary>
    [FromQuery(Name = "attributeId")]
    public AttributeId? AttributeId { get; init; }

    [FromQuery(Name = "value")]
    public string? Value { get; init; }
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
                Conditions? where,
                SignedIn me,
                SeenStudies indexes,
                ThemeStore themes,
                ParticipantStore participants,
                NotAskedStore notAsked
            ) =>
            {
                var index = indexes.Load(studyId, me.Id, where);
                var found = Found(index, me.Id, of, themes, participants);
                var silent =
                    of.TagId is { } tag && of.OtherTagId is null ? notAsked.In(studyId, AskedThing.Tag)[tag.Value]
                    : of.ThemeId is { } theme ? notAsked.In(studyId, AskedThing.Theme)[theme.Value]
                    : [];
                IReadOnlyList<TagId> asked =
                    of.TagId is { } one ? (of.OtherTagId is null ? [one] : [])
                    : of.ThemeId is { } group ? themes.In(studyId, me.Id).FirstOrDefault(t => t.Id == group)?.TagIds ?? []
                    : [];
                var inScope = index.InScopeFor(asked.Select(index.PlaceOfTag).OfType<int>());
                return new EvidenceBehind(
                    Breadth.Of(index.Marks, found, inScope, index.PlacesOfPeople(silent)),
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
                Conditions? where,
                SignedIn me,
                SeenStudies indexes,
                QuoteStore quotes,
                ThemeStore themes,
                ParticipantStore participants
            ) =>
            {
                var index = indexes.Load(studyId, me.Id, where);
                return quotes.Page(
                    index,
                    Found(index, me.Id, of, themes, participants),
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
        ThemeStore themes,
        ParticipantStore participants
    )
    {
        var kind = of.SourceKind?.Value;
        var group = of.AttributeId is { } attribute ? GroupOf(index.StudyId, attribute, of.Value ?? "", participants) : null;
        return index.ByPerson(
            Selected(index, viewer, of, themes)
                .Where(o =>
                    (of.SourceId is null || index.Sources[index.Marks.SourceOf[o]].Id == of.SourceId)
                    && (of.ParticipantId is null || index.PersonOf(o) == of.ParticipantId)
                    && (kind is null || index.Sources[index.Marks.SourceOf[o]].Kind == kind)
                    && (group is null || (index.PersonOf(o) is { } person && group.Contains(person)))
                )
        );
    }

    private static HashSet<ParticipantId> GroupOf(StudyId studyId, AttributeId attribute, string value, ParticipantStore participants)
    {
        var known = participants.In(studyId);
        if (known.Attributes.All(a => a.Id != attribute))
            throw Refusal.Missing(Thing.Attribute);
        return [.. known.People.Where(p => p.Values.GetValueOrDefault(attribute, "") == value).Select(p => p.Id)];
    }

    private static IEnumerable<int> Selected(StudyIndex index, AccountId viewer, EvidenceOf of, ThemeStore themes)
    {
        if (of.ThemeId is { } themeId)
        {
            var all = themes.In(index.StudyId, viewer);
            var at = all.Select((t, i) => (t.Id, i)).FirstOrDefault(x => x.Id == themeId, (0, -1)).Item2;
            return at < 0 ? throw Refusal.Missing("theme") : index.ContentsOf(all)[at];
        }
        if (of.TagId is not { } tagId)
            return Enumerable.Range(0, index.Marks.Count);
        var tag = index.PlaceOfTag(tagId) ?? throw Refusal.Missing("tag");
        if (of.OtherTagId is not { } otherId)
            return Tally.ByTag(index.Marks, rollUp: true)[tag];
        var other = index.PlaceOfTag(otherId) ?? throw Refusal.Missing("tag");
        return OverlapTable.Behind(index.Marks, of.Overlap?.Value ?? OverlapKind.SameObservation, tag, other);
    }
}
