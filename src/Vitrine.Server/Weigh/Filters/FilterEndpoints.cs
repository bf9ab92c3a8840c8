using Vitrine.Core.Counting;
using Vitrine.Server.Access;
using Vitrine.Server.Http;
using Vitrine.Storage.Weigh.Filters;

namespace Vitrine.Server.Weigh.Filters;

internal sealed record FilterToKeep(string Name, Conditions Conditions);

internal static class FilterEndpoints
{
    public static void MapFilters(this RouteGroupBuilder api)
    {
        var study = api.MapGroup("/studies/{studyId:long}/filters").WithTags("Weigh");
        study.MapGet("", (StudyId studyId, SavedFilterStore store) => store.In(studyId));
        study.MapPost(
            "",
            (StudyId studyId, FilterToKeep given, SignedIn me, SavedFilterStore store) =>
                store.Keep(
                    me.Actor,
                    studyId,
                    Validate.Text(given.Name, "name", "Give the filter a name by which you will find it again."),
                    given.Conditions
                )
        );
        study.MapDelete(
            "/{savedFilterId:long}",
            (StudyId studyId, SavedFilterId savedFilterId, SignedIn me, SavedFilterStore store) =>
                store.Remove(me.Actor, studyId, savedFilterId)
        );
    }
}
