using Vitrine.Core.Evidence;
using Vitrine.Server.Access;
using Vitrine.Storage.Show;

namespace Vitrine.Server.Show;

internal sealed record NewInsight(string Headline, string Story, IReadOnlyList<long> ObservationIds);

internal sealed record InsightText(string Headline, string Story, long Version);

internal sealed record NewEvidence(IReadOnlyList<long> ObservationIds, Stance Stance);

internal sealed record StanceChoice(Stance Stance);

internal static class InsightEndpoints
{
    private const string NoHeadline = "An insight needs a headline: the finding in one sentence.";

    public static void MapInsights(this RouteGroupBuilder api)
    {
        var all = api.MapGroup("").WithTags("Show");
        all.MapGet("/insights", (long? studyId, InsightStore store, InsightPages pages) => pages.Of(store.In(studyId)));
        all.MapPost("/studies/{studyId:long}/insights", (long studyId, NewInsight given, SignedIn me, InsightStore store) => store.Make(
            me.Actor, studyId, Given.Text(given.Headline, "headline", NoHeadline), Given.Optional(given.Story, "story"), given.ObservationIds));

        var insight = api.MapGroup("/insights/{id:long}").WithTags("Show");
        insight.MapGet("", (long id, InsightStore store, InsightPages pages) => pages.Of([store.Get(id)])[0]);
        insight.MapPut("", (long id, InsightText given, SignedIn me, InsightStore store) => store.Change(
            me.Actor, id, given.Version, Given.Text(given.Headline, "headline", NoHeadline), Given.Optional(given.Story, "story")));
        insight.MapDelete("", (long id, SignedIn me, InsightStore store) => store.Remove(me.Actor, id));
        insight.MapPost("/evidence", (long id, NewEvidence given, SignedIn me, InsightStore store) => store.Attach(me.Actor, id, Given.Ids(given.ObservationIds, "observation"), given.Stance));
        insight.MapPut("/evidence/{evidenceId:long}", (long id, long evidenceId, StanceChoice given, SignedIn me, InsightStore store) => store.SetStance(me.Actor, id, evidenceId, given.Stance));
        insight.MapDelete("/evidence/{evidenceId:long}", (long id, long evidenceId, SignedIn me, InsightStore store) => store.Detach(me.Actor, id, evidenceId));
    }
}
