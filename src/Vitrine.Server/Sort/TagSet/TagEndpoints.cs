using Vitrine.Core.Sort.TagSet;
using Vitrine.Server.Access;
using Vitrine.Server.Http;
using Vitrine.Storage.Access;
using Vitrine.Storage.Catalogue;
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
internal sealed record MergeTags(IReadOnlyList<TagId> TagIds, string Definition, string IsNot);

/// <param name="Retired">Whether it is offered no more.</param>
internal sealed record RetiredTag(bool Retired);

internal sealed record TagApart(TagId OtherTagId);

internal static class TagEndpoints
{
    public static void MapTags(this RouteGroupBuilder api)
    {
        var set = api.MapGroup("/tags").WithTags("Tag set").About(Thing.Tag);
        set.MapGet("", (SignedIn me, TagStore store, StudyAccess access) => store.In(access.VisibleTo(me.Viewer)));
        set.MapPost("", (TagText given, SignedIn me, TagStore store) => store.Add(me.Actor, null, Read(given)));
        set.MapPut(
            "/{id:long}",
            (TagId id, ChangedTag given, SignedIn me, TagStore store) => store.Change(me.Actor, id, given.Version, Read(given.Text))
        );
        set.MapGet(
            "/{id:long}/reach",
            (TagId id, SignedIn me, TagStore store, StudyAccess access) => store.ReachOf(id, access.VisibleTo(me.Viewer))
        );
        set.MapGet(
            "/{id:long}/hangs",
            (TagId id, SignedIn me, TagStore store, StudyAccess access) => store.HangsOn(id, access.VisibleTo(me.Viewer))
        );
        set.MapPut(
            "/{id:long}/retired",
            (TagId id, RetiredTag given, SignedIn me, TagStore store) => store.Retire(me.Actor, id, given.Retired)
        );
        set.MapDelete("/{id:long}", (TagId id, SignedIn me, TagStore store) => store.Remove(me.Actor, id));

        set.MapGet(
            "/{id:long}/merge",
            (TagId id, TagId[] tagId, SignedIn me, TagMerge merge, StudyAccess access) =>
                merge.Preview(id, tagId, access.VisibleTo(me.Viewer))
        );
        set.MapPost(
            "/{id:long}/merge",
            (TagId id, MergeTags given, SignedIn me, TagMerge merge) =>
                merge.Merge(
                    me.Actor,
                    id,
                    given.TagIds,
                    Validate.Optional(given.Definition, "definition"),
                    Validate.Optional(given.IsNot, "isNot")
                )
        );
        set.MapPost(
            "/{id:long}/apart",
            (TagId id, TagApart given, SignedIn me, TwinStore twins) => twins.KeepApart(me.Actor, id, given.OtherTagId)
        );
        api.MapGet("/tag-twins", (SignedIn me, TwinStore twins, StudyAccess access) => twins.Find(access.VisibleTo(me.Viewer)))
            .WithTags("Tag set")
            .About(null);

        set.MapGet(
            "/then",
            (DateOnly day, SignedIn me, TagHistoryStore history, StudyAccess access) => history.On(day, access.VisibleTo(me.Viewer))
        );
        set.MapPut(
            "/places",
            (TagPlaces given, SignedIn me, TagStore store) =>
                store.Place(me.Actor, Validate.Ids(given.TagIds, "tag"), given.ParentId, given.BeforeTagId)
        );

        var study = api.MapGroup("/studies/{studyId:long}/tags").WithTags("Tag set");
        study.MapGet("", (StudyId studyId, TagStore store) => store.For(studyId));
        study.MapGet("/then", (StudyId studyId, DateOnly day, TagHistoryStore history) => history.On(day, [studyId]));
        study.MapPost(
            "",
            (StudyId studyId, NewStudyTag given, SignedIn me, TagStore store) =>
                store.Make(me.Actor, studyId, Validate.NewTagOf(given.Name))
        );
    }

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
