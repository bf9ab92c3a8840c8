using Microsoft.AspNetCore.Mvc;
using Vitrine.Core.Counting;
using Vitrine.Storage;
using Vitrine.Storage.Counting;
using Vitrine.Storage.Quotes;
using Vitrine.Storage.Sort;

namespace Vitrine.Server.Weigh;

/// <summary>What a number, cell or label stands for: all given conditions together.</summary>
internal sealed record EvidenceOf
{
    [FromQuery(Name = "tagId")]
    public long? TagId { get; init; }

    [FromQuery(Name = "otherTagId")]
    public long? OtherTagId { get; init; }

    [FromQuery(Name = "overlap")]
    public string? Overlap { get; init; }

    [FromQuery(Name = "themeId")]
    public long? ThemeId { get; init; }

    [FromQuery(Name = "sourceId")]
    public long? SourceId { get; init; }

    [FromQuery(Name = "participantId")]
    public long? ParticipantId { get; init; }
}

/// <summary>The words behind a number.</summary>
internal sealed record EvidenceBehind(Breadth Breadth, IReadOnlyList<Quote> Quotes, IReadOnlyList<long> NotAsked);

internal static class EvidenceEndpoints
{
    public static void MapEvidence(this RouteGroupBuilder api) =>
        api.MapGet("/studies/{studyId:long}/evidence", (long studyId, [AsParameters] EvidenceOf of, StudyIndexStore indexes, QuoteStore quotes, ThemeStore themes, NotAskedStore notAsked) =>
        {
            var index = indexes.Load(studyId);
            var found = Selected(index, of, themes).Where(o =>
                (of.SourceId is null || index.Sources[index.Marks.SourceOf[o]].Id == of.SourceId) &&
                (of.ParticipantId is null || index.PersonOf(o) == of.ParticipantId)).ToList();
            var silent = of.TagId is { } tag && of.OtherTagId is null ? notAsked.In(studyId, AskedThing.Tag)[tag]
                : of.ThemeId is { } theme ? notAsked.In(studyId, AskedThing.Theme)[theme] : [];
            return new EvidenceBehind(Breadth.Of(index.Marks, found, index.InScope, index.PlacesOfPeople(silent)), quotes.Of(index, found), [.. silent]);
        }).WithTags("Weigh");

    private static IEnumerable<int> Selected(StudyIndex index, EvidenceOf of, ThemeStore themes)
    {
        if (of.ThemeId is { } themeId)
        {
            var all = themes.In(index.StudyId);
            var at = all.Select((t, i) => (t.Id, i)).FirstOrDefault(x => x.Id == themeId, (0, -1)).Item2;
            return at < 0 ? throw Refusal.Missing("theme") : index.ContentsOf(all)[at];
        }
        if (of.TagId is not { } tagId) return Enumerable.Range(0, index.Marks.Count);
        var tag = index.PlaceOfTag(tagId) ?? throw Refusal.Missing("tag");
        if (of.OtherTagId is not { } otherId) return Tally.ByTag(index.Marks, rollUp: true)[tag];
        var other = index.PlaceOfTag(otherId) ?? throw Refusal.Missing("tag");
        return OverlapTable.Behind(index.Marks, of.Overlap is null ? OverlapKind.SameObservation : Given.Choice<OverlapKind>(of.Overlap, "overlap"), tag, other);
    }
}
