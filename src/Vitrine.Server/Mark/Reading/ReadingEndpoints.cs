using Vitrine.Server.Access;
using Vitrine.Storage.Catalogue;
using Vitrine.Storage.Mark.Reading;

namespace Vitrine.Server.Mark.Reading;

internal sealed record Reached(int Furthest);

internal static class ReadingEndpoints
{
    public static void MapReadingProgress(this RouteGroupBuilder api) =>
        api.MapPut(
                "/sources/{id:long}/reading",
                (SourceId id, Reached given, SignedIn me, ReadingStore store) =>
                {
                    store.Reach(me.Id, id, given.Furthest);
                    return TypedResults.NoContent();
                }
            )
            .WithTags("Mark")
            .About(Thing.Source);
}
