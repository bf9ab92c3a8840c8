using Vitrine.Core.RichTexts;
using Vitrine.Core.Weigh.Evidence;
using Vitrine.Server.Access;
using Vitrine.Server.Http;
using Vitrine.Storage.Access;
using Vitrine.Storage.Catalogue;
using Vitrine.Storage.Show.Insights;

namespace Vitrine.Server.Show.Insights;

internal sealed record NewInsight(string Headline, RichText Story, IReadOnlyList<ObservationId> ObservationIds);

internal sealed record NewEvidence(IReadOnlyList<ObservationId> ObservationIds, Stance Stance);

internal sealed record StanceChoice(Stance Stance);

internal static class InsightEndpoints
{
    private const string NoHeadline = "An insight needs a headline: the finding in one sentence.";

    public static void MapInsights(this RouteGroupBuilder api)
    {
        var all = api.MapGroup("").WithTags("Show");
        all.MapGet(
                "/insights",
                (StudyId? studyId, SignedIn me, InsightStore store, InsightPages pages, StudyAccess access) =>
                    pages.Of(store.In(studyId is { } study ? [study] : access.VisibleTo(me.Viewer)), me.Id)
            )
            .About(null);
        all.MapPost(
            "/studies/{studyId:long}/insights",
            (StudyId studyId, NewInsight given, SignedIn me, InsightStore store) =>
                store.Make(
                    me.Actor,
                    studyId,
                    Validate.Text(given.Headline, "headline", NoHeadline),
                    Validate.Rich(given.Story, "story"),
                    given.ObservationIds
                )
        );

        var insight = api.MapGroup("/insights/{id:long}").WithTags("Show").About(Thing.Insight);
        insight.MapGet("", (InsightId id, SignedIn me, InsightStore store, InsightPages pages) => pages.Of([store.Get(id)], me.Id)[0]);
        insight.MapPut(
            "/headline",
            (InsightId id, NewText given, SignedIn me, InsightStore store) =>
                store.RewriteHeadline(me.Actor, id, given.Was, Validate.Text(given, "headline", NoHeadline))
        );
        insight.MapPut(
            "/story",
            (InsightId id, NewRichText given, SignedIn me, InsightStore store) =>
                store.RewriteStory(me.Actor, id, given.Was, Validate.Rich(given.Text, "text"))
        );
        insight.MapDelete("", (InsightId id, SignedIn me, InsightStore store) => store.Remove(me.Actor, id));
        insight.MapPost(
            "/evidence",
            (InsightId id, NewEvidence given, SignedIn me, InsightStore store) =>
                store.Attach(me.Actor, id, Validate.Ids(given.ObservationIds, "observation"), given.Stance)
        );
        insight.MapPut(
            "/evidence/{evidenceId:long}",
            (InsightId id, EvidenceId evidenceId, StanceChoice given, SignedIn me, InsightStore store) =>
                store.SetStance(me.Actor, id, evidenceId, given.Stance)
        );
        insight.MapDelete(
            "/evidence/{evidenceId:long}",
            (InsightId id, EvidenceId evidenceId, SignedIn me, InsightStore store) => store.Detach(me.Actor, id, evidenceId)
        );
    }
}
