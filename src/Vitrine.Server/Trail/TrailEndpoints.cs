using Vitrine.Server.Access;
using Vitrine.Storage.Access;
using Vitrine.Storage.Catalogue;
using Vitrine.Storage.Trail;

namespace Vitrine.Server.Trail;

/// <param name="StudyId">The study whose steps are meant; null for what belongs to no study.</param>
/// <param name="ActionId">One certain step; null for the latest.</param>
internal sealed record UndoWhat(StudyId? StudyId, ActionId? ActionId);

internal static class TrailEndpoints
{
    public static void MapTrail(this RouteGroupBuilder api)
    {
        var trail = api.MapGroup("").WithTags("Trail").About(null);
        trail.MapPost(
            "/undo",
            (UndoWhat what, SignedIn me, Undo undo, TrailStore store, StudyAccess access) =>
            {
                Expect(access, me, what.ActionId is { } step ? store.StudyOf(step) : what.StudyId);
                return undo.Back(me.Actor, what.StudyId, what.ActionId);
            }
        );
        trail.MapPost(
            "/redo",
            (UndoWhat what, SignedIn me, Undo undo, TrailStore store, StudyAccess access) =>
            {
                Expect(access, me, what.ActionId is { } step ? store.StudyOf(step) : what.StudyId);
                return undo.Again(me.Actor, what.StudyId, what.ActionId);
            }
        );
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
                    ? store.Of(which, of, access.VisibleTo(me.Viewer))
                    : throw Refusal.Missing(Thing.InWords(which));
            }
        );
    }

    /// <summary>Who has left a study's team has left their steps in it behind.</summary>
    private static void Expect(StudyAccess access, SignedIn me, StudyId? studyId)
    {
        if (studyId is { } study && !access.SeesStudy(me.Viewer, study))
            throw Refusal.Missing("study");
    }
}
