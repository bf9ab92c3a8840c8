using Vitrine.Core.Counting;
using Vitrine.Core.Sort.TagSet;
using Vitrine.Server.Access;
using Vitrine.Server.Http;
using Vitrine.Storage.Access;
using Vitrine.Storage.Catalogue;
using Vitrine.Storage.Counting;
using Vitrine.Storage.Gather.Studies;
using Vitrine.Storage.Sort.TagSet;
using Vitrine.Storage.Tags;
using Vitrine.Storage.Trail;

namespace Vitrine.Server.Sort.TagSet;

/// <param name="Definition">What it is.</param>
/// <param name="IsNot">What one might take for it, and is not.</param>
/// <param name="Aliases">Other names by which it is found; null for those that it has.</param>
internal sealed record TagText(
    string Name,
    [IdOf(Thing.Tag)] TagId? ParentId,
    int? Colour,
    string Definition,
    bool Settled,
    Scale? Scale,
    string IsNot = "",
    IReadOnlyList<string>? Aliases = null
);

/// <param name="TagIds">The tags that are put there, in this order; what stands under them goes along.</param>
/// <param name="ParentId">The tag that they stand under; null for none.</param>
/// <param name="BeforeTagId">Which of the tags there they stand before; null to stand last.</param>
internal sealed record TagPlaces(IReadOnlyList<TagId> TagIds, [IdOf(Thing.Tag)] TagId? ParentId, [IdOf(Thing.Tag)] TagId? BeforeTagId);

/// <param name="Name">
/// Its name; with the names above it, and with what it is: <c>hearing / too late = The news came when nothing could be changed</c>.
/// </param>
internal sealed record NewStudyTag(string Name);

internal sealed record ChangedTag(TagText Text, long Version);

/// <param name="TagIds">The tags that go.</param>
/// <param name="Definition">What the one that stays is, from now on.</param>
/// <param name="IsNot">What it is not.</param>
/// <param name="ConvertValues">Whether values of another scale are laid on the one that stays; else those that are not on it go.</param>
internal sealed record MergeTags(IReadOnlyList<TagId> TagIds, string Definition, string IsNot, bool ConvertValues = false);

/// <param name="TagIds">What it holds, at first.</param>
internal sealed record NewBundle(string Name, IReadOnlyList<TagId> TagIds);

/// <param name="Held">Whether they are in it from then on.</param>
internal sealed record BundleMembers(IReadOnlyList<TagId> TagIds, bool Held);

/// <param name="Cells">What is written into which cells.</param>
internal sealed record TagCellsGiven(IReadOnlyList<TagCell> Cells);

/// <summary>A cell that was not taken, and why.</summary>
internal sealed record TagCellRefusal(TagId TagId, TagColumn Column, string Sentence);

/// <param name="Step">The step with everything that fitted.</param>
/// <param name="Refused">What did not, cell by cell.</param>
internal sealed record TagCellsWritten(Step Step, IReadOnlyList<TagCellRefusal> Refused);

/// <param name="Retired">Whether it is offered no more.</param>
internal sealed record RetiredTag(bool Retired);

internal sealed record TagApart(TagId OtherTagId);

/// <param name="Words">Why other studies may want it; may be empty.</param>
internal sealed record ProposedTag(string Words);

/// <param name="Name">For one that is accepted: what it is called from now on; null for as it is.</param>
/// <param name="TagId">For one that is merged: the shared tag that it goes into.</param>
/// <param name="Words">A word to the study; one that is declined needs it.</param>
internal sealed record ProposalAnswer(ProposalOutcome Outcome, string? Name, [IdOf(Thing.Tag)] TagId? TagId, string Words);

/// <summary>How a study uses a tag, with all tags under it.</summary>
/// <param name="OutOf">How many people are in scope.</param>
internal sealed record TagInStudy(StudyId StudyId, string Study, Triple Triple, int OutOf);

/// <summary>Where a tag is used.</summary>
/// <param name="Studies">Those that the person sees and that use it; who took part in several is counted in each.</param>
/// <param name="OtherStudies">How many others use it.</param>
internal sealed record TagAcross(IReadOnlyList<TagInStudy> Studies, int OtherStudies);

internal static class TagEndpoints
{
    public static void MapTags(this RouteGroupBuilder api)
    {
        var set = api.MapGroup("/tags").WithTags("Tag set").About(Thing.Tag);
        set.MapGet("", (SignedIn me, TagStore store, StudyAccess access) => store.In(me.Id, access.VisibleTo(me.Viewer)));
        set.MapPost("", (TagText given, SignedIn me, TagStore store) => store.Add(me.Actor, null, Read(given)));
        set.MapPut(
            "/{id:long}",
            (TagId id, ChangedTag given, SignedIn me, TagStore store) => store.Change(me.Actor, id, given.Version, Read(given.Text))
        );
        set.MapGet("/{id:long}/reach", (TagId id, SignedIn me, TagReachStore store) => store.ReachOf(id, me.Viewer));
        set.MapGet("/{id:long}/hangs", (TagId id, SignedIn me, TagReachStore store) => store.HangsOn(id, me.Viewer));
        set.MapPost(
            "/bundles",
            (NewBundle given, SignedIn me, BundleStore bundles) =>
                bundles.Make(me.Actor, null, ReadBundle(given), Validate.Ids(given.TagIds, "tag"))
        );
        set.MapPut(
            "/{id:long}/members",
            (TagId id, BundleMembers given, SignedIn me, BundleStore bundles) =>
                bundles.Put(me.Actor, id, Validate.Ids(given.TagIds, "tag"), given.Held)
        );
        set.MapPut(
            "/{id:long}/retired",
            (TagId id, RetiredTag given, SignedIn me, TagStore store) => store.Retire(me.Actor, id, given.Retired)
        );
        set.MapDelete("/{id:long}", (TagId id, SignedIn me, TagStore store) => store.Remove(me.Actor, id));

        set.MapGet(
            "/{id:long}/across",
            (TagId id, SignedIn me, TagReachStore store, StudyStore studies, SeenStudies indexes, StudyAccess access) =>
            {
                var visible = access.VisibleTo(me.Viewer);
                var reach = store.ReachOf(id, me.Viewer);
                var found = studies
                    .All(visible, me.Id)
                    .Where(s => reach.Seen.Contains(s.Title))
                    .Select(s =>
                    {
                        var index = indexes.Load(s.Id, me.Id);
                        if (index.PlaceOfTag(id) is not { } place)
                            return null;
                        var breadth = Breadth.Of(index.Marks, Tally.ByTag(index.Marks, rollUp: true)[place], index.InScopeFor(place));
                        return breadth.Triple.Observations == 0 ? null : new TagInStudy(s.Id, s.Title, breadth.Triple, breadth.OutOf);
                    })
                    .OfType<TagInStudy>()
                    .ToList();
                return new TagAcross(found, Math.Max(0, reach.Studies - reach.Seen.Count));
            }
        );
        set.MapGet("/{id:long}/merge", (TagId id, TagId[] tagId, SignedIn me, TagMerge merge) => merge.Preview(id, tagId, me.Viewer));
        set.MapPost(
            "/{id:long}/merge",
            (TagId id, MergeTags given, SignedIn me, TagMerge merge) =>
                merge.Merge(
                    me.Actor,
                    id,
                    given.TagIds,
                    Validate.Optional(given.Definition, "definition"),
                    Validate.Optional(given.IsNot, "isNot"),
                    given.ConvertValues
                )
        );
        set.MapPost(
            "/{id:long}/apart",
            (TagId id, TagApart given, SignedIn me, LookAlikeStore lookAlikes) => lookAlikes.KeepApart(me.Actor, id, given.OtherTagId)
        );
        api.MapGet(
                "/tag-look-alikes",
                (SignedIn me, LookAlikeStore lookAlikes, StudyAccess access) => lookAlikes.Find(me.Id, access.VisibleTo(me.Viewer))
            )
            .WithTags("Tag set")
            .About(null);

        api.MapGet(
                "/tag-proposals",
                (SignedIn me, ProposalStore proposals, StudyAccess access) => proposals.In(access.VisibleTo(me.Viewer))
            )
            .WithTags("Tag set")
            .About(null);
        set.MapGet(
            "/then",
            (DateOnly? day, int? utcOffset, SignedIn me, TagHistoryStore history, StudyAccess access) =>
                history.On(EndOf(day, utcOffset), access.VisibleTo(me.Viewer))
        );
        set.MapPut(
            "/cells",
            (TagCellsGiven given, SignedIn me, TagCellStore store) =>
            {
                if (given.Cells.Count is 0 or > Limits.Cells)
                    throw Refusal.Because($"Write between 1 and {Limits.Cells:N0} cells at once.", "cells");
                var (step, refused) = store.Set(me.Actor, given.Cells);
                return new TagCellsWritten(
                    step,
                    [.. refused.Select(r => new TagCellRefusal(r.Cell.TagId, r.Cell.Column, RefusalSentences.Of(r.Problem)))]
                );
            }
        );
        set.MapPut(
            "/places",
            (TagPlaces given, SignedIn me, TagStore store) =>
                store.Place(me.Actor, Validate.Ids(given.TagIds, "tag"), given.ParentId, given.BeforeTagId)
        );

        var study = api.MapGroup("/studies/{studyId:long}/tags").WithTags("Tag set");
        study.MapGet("", (StudyId studyId, TagStore store) => store.For(studyId));
        study.MapPost(
            "/{tagId:long}/proposal",
            (StudyId studyId, TagId tagId, ProposedTag given, SignedIn me, ProposalStore proposals) =>
                proposals.Propose(me.Actor, studyId, tagId, Validate.Optional(given.Words, "words"))
        );
        study.MapDelete(
            "/{tagId:long}/proposal",
            (StudyId studyId, TagId tagId, SignedIn me, ProposalStore proposals) => proposals.TakeBack(me.Actor, studyId, tagId)
        );
        study.MapPost(
            "/{tagId:long}/proposal/answer",
            (StudyId studyId, TagId tagId, ProposalAnswer given, SignedIn me, ProposalStore proposals) =>
            {
                var words = Validate.Optional(given.Words, "words");
                return given.Outcome switch
                {
                    ProposalOutcome.Accepted => proposals.Accept(
                        me.Actor,
                        studyId,
                        tagId,
                        given.Name is { Length: > 0 } name ? Validate.TagNameOf(name) : null,
                        words
                    ),
                    ProposalOutcome.Merged => proposals.Merge(
                        me.Actor,
                        studyId,
                        tagId,
                        given.TagId ?? throw Refusal.Because("Choose the tag that it is merged into.", "tagId"),
                        words
                    ),
                    _ => proposals.Decline(
                        me.Actor,
                        studyId,
                        tagId,
                        words.Length > 0 ? words : throw Refusal.Because("Say in a word why it stays with its study.", "words")
                    ),
                };
            }
        );
        study.MapGet(
            "/then",
            (StudyId studyId, DateOnly? day, int? utcOffset, TagHistoryStore history) => history.On(EndOf(day, utcOffset), [studyId])
        );
        study.MapPost(
            "/bundles",
            (StudyId studyId, NewBundle given, SignedIn me, BundleStore bundles) =>
                bundles.Make(me.Actor, studyId, ReadBundle(given), Validate.Ids(given.TagIds, "tag"))
        );
        study.MapPost(
            "",
            (StudyId studyId, NewStudyTag given, SignedIn me, TagStore store) =>
                store.Make(me.Actor, studyId, Validate.NewTagOf(given.Name))
        );
    }

    /// <summary>The end of a day where the person is.</summary>
    /// <param name="day">The day.</param>
    /// <param name="utcOffset">By how many minutes their clock is ahead of UTC; null for UTC.</param>
    private static DateTimeOffset EndOf(DateOnly? day, int? utcOffset)
    {
        if (day is not { Year: > 1 and < 9999 } one)
            throw Refusal.Because("Choose a day, such as 2026-03-14.", "day");
        if (Math.Abs(utcOffset ?? 0) > 15 * 60)
            throw Refusal.Because("No clock is more than 15 hours from UTC.", "utcOffset");
        return new DateTimeOffset(one.AddDays(1).ToDateTime(TimeOnly.MinValue), TimeSpan.Zero).AddMinutes(-(utcOffset ?? 0));
    }

    private static TagValues ReadBundle(NewBundle given) => new(Validate.TagNameOf(given.Name), Settled: true);

    private static TagValues Read(TagText given) =>
        new(
            Validate.TagNameOf(given.Name),
            given.ParentId,
            given.Colour,
            Validate.Optional(given.Definition, "definition"),
            given.Settled,
            Checked(given.Scale),
            Validate.Optional(given.IsNot, "isNot"),
            given.Aliases?.Select(Validate.TagNameOf).DistinctBy(a => a.Key).ToList()
        );

    private static Scale? Checked(Scale? scale)
    {
        if (scale?.Problem() is { } problem)
            throw Refusal.Because(RefusalSentences.Of(problem), "scale");
        return scale is null
            ? null
            : scale with
            {
                Unit = Name(scale.Unit),
                LowLabel = Name(scale.LowLabel),
                HighLabel = Name(scale.HighLabel),
            };

        static string Name(string given) => Validate.Optional(given, "scale", Limits.Name);
    }
}
