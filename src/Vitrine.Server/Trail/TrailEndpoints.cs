using Vitrine.Server.Access;
using Vitrine.Server.Http;
using Vitrine.Storage.Access;
using Vitrine.Storage.Catalogue;
using Vitrine.Storage.Trail;

namespace Vitrine.Server.Trail;

/// <param name="StudyId">The study whose steps are meant; null for what belongs to no study.</param>
/// <param name="ActionId">One certain step; null for the latest.</param>
/// <param name="Anywhere">Whether the latest is meant wherever it was made; what was done then says where, when it was elsewhere.</param>
internal sealed record UndoWhat(StudyId? StudyId, ActionId? ActionId, bool Anywhere = false);

internal static class TrailEndpoints
{
    public static void MapTrail(this RouteGroupBuilder api)
    {
        var trail = api.MapGroup("").WithTags("Trail").About(null);
        trail.MapPost(
            "/undo",
            (UndoWhat what, SignedIn me, Undo undo, TrailStore store, StudyAccess access) =>
                Reversed(what, me, store, access, back: true, study => undo.Back(me.Actor, study, what.ActionId))
        );
        trail.MapPost(
            "/redo",
            (UndoWhat what, SignedIn me, Undo undo, TrailStore store, StudyAccess access) =>
                Reversed(what, me, store, access, back: false, study => undo.Again(me.Actor, study, what.ActionId))
        );
        api.MapGet(
                "/studies/{studyId:long}/history",
                (
                    StudyId studyId,
                    long? by,
                    SourceId? sourceId,
                    TagId? tagId,
                    DateTimeOffset? since,
                    DateTimeOffset? until,
                    int page,
                    SignedIn me,
                    TrailStore store
                ) => store.In(studyId, by, sourceId, tagId, since, until, Validate.Page(page), me.Id)
            )
            .WithTags("Trail");
        trail.MapGet(
            "/steps",
            (StudyId? studyId, SignedIn me, TrailStore store, StudyAccess access) =>
            {
                Expect(access, me, studyId);
                return store.Recent(me.Id, studyId);
            }
        );
        trail.MapGet(
            "/trail/{thing}/{of:long}",
            (string thing, long of, SignedIn me, TrailStore store, StudyAccess access) =>
            {
                var which =
                    Thing.Named(thing) ?? throw Refusal.Because($"There is no kind of thing “{thing}” that has a trail.", nameof(thing));
                return access.Sees(me.Viewer, which, of)
                    ? store.Of(which, of, me.Id, access.VisibleTo(me.Viewer))
                    : throw Refusal.Missing(Thing.InWords(which));
            }
        );
    }

    private static Step Reversed(UndoWhat what, SignedIn me, TrailStore store, StudyAccess access, bool back, Func<StudyId?, Step> reverse)
    {
        var last = what.Anywhere && what.ActionId is null ? store.WhereLast(me.Id, access.VisibleTo(me.Viewer), back) : null;
        var study = last is { } found ? found.StudyId : what.StudyId;
        Expect(access, me, what.ActionId is { } one ? store.StudyOf(one) : study);
        var step = reverse(study);
        return last is not { } there || there.StudyId == what.StudyId
            ? step
            : step with
            {
                Label = $"{step.Label}, {(there.Title is { } title ? $"in “{title}”" : "outside studies")}",
            };
    }

    /// <summary>Who has left a study's team has left their steps in it behind.</summary>
    private static void Expect(StudyAccess access, SignedIn me, StudyId? studyId)
    {
        if (studyId is { } study && !access.SeesStudy(me.Viewer, study))
            throw Refusal.Missing("study");
    }
}
