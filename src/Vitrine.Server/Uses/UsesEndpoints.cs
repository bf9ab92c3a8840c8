using Vitrine.Server.Access;
using Vitrine.Server.Http;
using Vitrine.Storage.Access;
using Vitrine.Storage.Catalogue;
using Vitrine.Storage.Trail;
using Vitrine.Storage.Uses;

namespace Vitrine.Server.Uses;

internal static class UsesEndpoints
{
    public static void MapUses(this RouteGroupBuilder api) =>
        api.MapGroup("")
            .WithTags("Uses")
            .About(null)
            .MapGet(
                "/uses/{thing}/{of:long}",
                (Choice<ThingKind> thing, long of, SignedIn me, UsesStore uses, StudyAccess access) =>
                {
                    ThingKind kind = thing;
                    return access.Sees(me.Viewer, Thing.Table(kind), of)
                        ? uses.Of(kind, [of], me.Viewer)
                        : throw Refusal.Missing(Thing.InWords(Thing.Table(kind)));
                }
            );
}
