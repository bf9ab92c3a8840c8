using Vitrine.Server.Access;

namespace Vitrine.Server.Sort.WhoNext;

internal static class WhoNextEndpoints
{
    public static void MapWhoNext(this RouteGroupBuilder api) =>
        api.MapGet(
                "/studies/{studyId:long}/who-next",
                (StudyId studyId, ThemeId? themeId, ResearchQuestionId? researchQuestionId, SignedIn me, WhoNextViews views) =>
                    views.Of(studyId, me.Id, themeId, researchQuestionId)
            )
            .WithTags("Sort");
}
