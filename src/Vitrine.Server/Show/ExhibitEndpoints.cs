using Vitrine.Server.Access;
using Vitrine.Storage.Show;
using Vitrine.Storage.Trail;

namespace Vitrine.Server.Show;

internal sealed record NewExhibit(string Question, string Summary);

internal sealed record ExhibitText(string Question, string Summary, long Version);

internal sealed record Arrangement(IReadOnlyList<long> InsightIds);

internal sealed record ExhibitPage(Exhibit Exhibit, IReadOnlyList<InsightPage> Insights, IReadOnlyList<ExhibitLink> Links);

/// <summary>A new link. The token is shown this once; the workspace keeps only its hash.</summary>
internal sealed record PublishedLink(Step Step, string Token);

internal static class ExhibitEndpoints
{
    private const string NoQuestion = "An exhibit needs the question that it answers.";

    public static void MapExhibits(this RouteGroupBuilder api)
    {
        var exhibits = api.MapGroup("/exhibits").WithTags("Show");
        exhibits.MapGet("", (ExhibitStore store) => store.All());
        exhibits.MapPost("", (NewExhibit given, SignedIn me, ExhibitStore store) => store.Make(me.Actor, Given.Text(given.Question, "question", NoQuestion), Given.Optional(given.Summary, "summary")));
        exhibits.MapGet("/{id:long}", (long id, ExhibitStore store, InsightStore insights, InsightPages pages) =>
            new ExhibitPage(store.Get(id), pages.Of([.. store.InsightsOf(id).Select(insights.Get)]), store.LinksOf(id)));
        exhibits.MapPut("/{id:long}", (long id, ExhibitText given, SignedIn me, ExhibitStore store) => store.Change(
            me.Actor, id, given.Version, Given.Text(given.Question, "question", NoQuestion), Given.Optional(given.Summary, "summary")));
        exhibits.MapDelete("/{id:long}", (long id, SignedIn me, ExhibitStore store) => store.Remove(me.Actor, id)).RequireAuthorization(AccessEndpoints.Publishers);
        exhibits.MapPut("/{id:long}/insights", (long id, Arrangement given, SignedIn me, ExhibitStore store) => store.Arrange(me.Actor, id, [.. given.InsightIds.Distinct()]));
        exhibits.MapPost("/{id:long}/links", (long id, SignedIn me, ExhibitStore store) =>
        {
            var (step, token) = store.MakeLink(me.Actor, id);
            return new PublishedLink(step, token);
        }).RequireAuthorization(AccessEndpoints.Publishers);
        exhibits.MapDelete("/{id:long}/links/{linkId:long}", (long id, long linkId, SignedIn me, ExhibitStore store) => store.RevokeLink(me.Actor, linkId)).RequireAuthorization(AccessEndpoints.Publishers);
    }
}
