using Vitrine.Server.Access;
using Vitrine.Storage.Trail;

namespace Vitrine.Server.Trail;

/// <param name="StudyId">The study whose steps are meant; null for what belongs to no study.</param>
/// <param name="ActionId">One certain step; null for the latest.</param>
internal sealed record UndoWhat(long? StudyId, long? ActionId);

internal static class TrailEndpoints
{
    public static void MapTrail(this RouteGroupBuilder api)
    {
        var trail = api.MapGroup("").WithTags("Trail");
        trail.MapPost("/undo", (UndoWhat what, SignedIn me, Undo undo) => undo.Back(me.Actor, what.StudyId, what.ActionId));
        trail.MapPost("/redo", (UndoWhat what, SignedIn me, Undo undo) => undo.Again(me.Actor, what.StudyId));
        trail.MapGet("/trail/{thing}/{id:long}", (string thing, long id, TrailStore store) => store.Of(Given.Choice<TrailThing>(thing, nameof(thing)), id));
    }
}
