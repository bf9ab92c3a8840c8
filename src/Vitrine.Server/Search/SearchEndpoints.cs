using Vitrine.Server.Access;
using Vitrine.Storage.Search;

namespace Vitrine.Server.Search;

internal static class SearchEndpoints
{
    /// <summary>Hits of each kind when all kinds are asked for.</summary>
    private const int OfEach = 6;

    /// <summary>Hits when one kind is asked for.</summary>
    private const int OfOne = 60;

    public static void MapSearch(this RouteGroupBuilder api) =>
        api.MapGet("/search", (string typed, string? kind, SignedIn me, SearchStore store) =>
        {
            FoundKind? only = kind is null ? null : Given.Choice<FoundKind>(kind, nameof(kind));
            return store.Find(me.Viewer, typed.Length <= Limits.Title ? typed : typed[..Limits.Title], only, only is null ? OfEach : OfOne);
        }).WithTags("Search").About(null);
}
