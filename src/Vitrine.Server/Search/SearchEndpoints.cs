using Vitrine.Server.Access;
using Vitrine.Server.Http;
using Vitrine.Storage.Catalogue;
using Vitrine.Storage.Search;

namespace Vitrine.Server.Search;

internal static class SearchEndpoints
{
    /// <summary>Hits of each kind when all kinds are asked for.</summary>
    private const int OfEach = 6;

    /// <summary>Hits when one kind is asked for.</summary>
    private const int OfOne = 60;

    /// <summary>Places that are shown of one source.</summary>
    private const int OfSource = 3;

    public static void MapSearch(this RouteGroupBuilder api)
    {
        api.MapGet(
                "/search",
                (string typed, Choice<FoundKind>? kind, SignedIn me, SearchStore store) =>
                {
                    var only = kind?.Value;
                    return store.Find(me.Viewer, Short(typed), only, only is null ? OfEach : OfOne);
                }
            )
            .WithTags("Search")
            .About(null);
        api.MapGet(
                "/studies/{studyId:long}/sources/words",
                (StudyId studyId, string typed, SearchStore store) => store.InSources(studyId, Short(typed), OfOne, OfSource)
            )
            .WithTags("Search");
    }

    private static string Short(string typed) => typed.Length <= Limits.Title ? typed : typed[..Limits.Title];
}
