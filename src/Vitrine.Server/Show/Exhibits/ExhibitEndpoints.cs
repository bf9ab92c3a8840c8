using Vitrine.Core.Gather.Privacy;
using Vitrine.Core.Show.Publication;
using Vitrine.Server.Access;
using Vitrine.Server.Http;
using Vitrine.Server.Show.Insights;
using Vitrine.Server.Show.Publication;
using Vitrine.Storage.Access;
using Vitrine.Storage.Catalogue;
using Vitrine.Storage.Show.Exhibits;
using Vitrine.Storage.Show.Insights;
using Vitrine.Storage.Show.Publication;
using Vitrine.Storage.Trail;

namespace Vitrine.Server.Show.Exhibits;

internal sealed record NewExhibit(string Question, string Summary);

internal sealed record Arrangement(IReadOnlyList<InsightId> InsightIds);

/// <summary>Words that are covered for readers, in what belongs to a study.</summary>
internal sealed record Covered(StudyId StudyId, CoveredWords Words);

/// <summary>Someone whose words an exhibit leaves out.</summary>
/// <param name="Consent">Why: what they have said, or that they have not answered.</param>
/// <param name="Quotes">How many of its quotes are theirs, whole or in part.</param>
internal sealed record LeftOut(StudyId StudyId, ParticipantId ParticipantId, string Pseudonym, Consent Consent, int Quotes);

/// <param name="ShownToReaders">The keys of the evidence whose words readers are shown; the other words stay with the team.</param>
/// <param name="Covered">What is covered because it looks like a name or a masked word; it can be let stand.</param>
/// <param name="LeftOut">Whose words readers are not shown because of what they have said, or not yet said.</param>
internal sealed record ExhibitPage(
    Exhibit Exhibit,
    IReadOnlyList<InsightPage> Insights,
    IReadOnlyList<ExhibitLink> Links,
    IReadOnlyList<string> ShownToReaders,
    IReadOnlyList<LeftOut> LeftOut,
    IReadOnlyList<Covered> Covered
);

/// <summary>A new link. The token is shown this once; the workspace keeps only its hash.</summary>
internal sealed record PublishedLink(Step Step, string Token);

internal static class ExhibitEndpoints
{
    private const string NoQuestion = "An exhibit needs the question that it answers.";

    public static void MapExhibits(this RouteGroupBuilder api)
    {
        var exhibits = api.MapGroup("/exhibits").WithTags("Show").About(Thing.Exhibit);
        exhibits.MapGet("", (SignedIn me, ExhibitStore store, StudyAccess access) => store.For(me.Viewer, access));
        exhibits.MapPost(
            "",
            (NewExhibit given, SignedIn me, ExhibitStore store) =>
                store.Make(me.Actor, Validate.Text(given.Question, "question", NoQuestion), Validate.Optional(given.Summary, "summary"))
        );
        exhibits.MapGet(
            "/{id:long}",
            (ExhibitId id, SignedIn me, ExhibitStore store, InsightStore insights, InsightPages pages, PublicationStore published) =>
            {
                var shown = published.Of(id);
                return new ExhibitPage(
                    store.Get(id),
                    pages.Of(insights.Of(store.InsightsOf(id)), me.Id),
                    store.LinksOf(id),
                    [.. shown.Insights.SelectMany(i => ReadEndpoints.Told(i, shown.Gate)).Select(e => e.Key)],
                    LeftOutOf(shown),
                    CoveredIn(shown)
                );
            }
        );
        exhibits.MapPut(
            "/{id:long}/question",
            (ExhibitId id, NewText given, SignedIn me, ExhibitStore store) =>
                store.Rewrite(me.Actor, id, ExhibitText.Question, given.Was, Validate.Text(given, "question", NoQuestion))
        );
        exhibits.MapPut(
            "/{id:long}/summary",
            (ExhibitId id, NewText given, SignedIn me, ExhibitStore store) =>
                store.Rewrite(me.Actor, id, ExhibitText.Summary, given.Was, Validate.Optional(given.Text, "summary"))
        );
        exhibits
            .MapDelete("/{id:long}", (ExhibitId id, SignedIn me, ExhibitStore store) => store.Remove(me.Actor, id))
            .RequireAuthorization(AccessEndpoints.Publishers);
        exhibits.MapPut(
            "/{id:long}/insights",
            (ExhibitId id, Arrangement given, SignedIn me, ExhibitStore store) =>
                store.Arrange(me.Actor, id, [.. given.InsightIds.Distinct()])
        );
        exhibits
            .MapPost(
                "/{id:long}/links",
                (ExhibitId id, SignedIn me, ExhibitStore store) =>
                {
                    var (step, token) = store.MakeLink(me.Actor, id);
                    return new PublishedLink(step, token);
                }
            )
            .RequireAuthorization(AccessEndpoints.Publishers);
        exhibits
            .MapDelete(
                "/{id:long}/links/{linkId:long}",
                (ExhibitId id, LinkId linkId, SignedIn me, ExhibitStore store) => store.RevokeLink(me.Actor, id, linkId)
            )
            .RequireAuthorization(AccessEndpoints.Publishers);
    }

    /// <summary>In the texts of the exhibit and of its insights, and in the quotes; each once, however often it stands there.</summary>
    private static IReadOnlyList<Covered> CoveredIn(Published shown) =>
        [
            .. shown
                .Insights.SelectMany(i =>
                    new[] { shown.Exhibit.Question, shown.Exhibit.Summary, i.Insight.Headline, i.Insight.Story.Plain }
                        .SelectMany(shown.Gate.Covered)
                        .Concat(ReadEndpoints.Given(i).SelectMany(e => shown.Gate.Covered(e.Passage)))
                        .Select(words => new Covered(i.Study.StudyId, words))
                )
                .DistinctBy(c => c.Words.Context),
        ];

    private static IReadOnlyList<LeftOut> LeftOutOf(Published shown) =>
        [
            .. shown
                .Insights.SelectMany(i =>
                    ReadEndpoints
                        .Given(i)
                        .SelectMany(e => shown.Gate.KeptOf(e.Passage))
                        .SelectMany(kept => i.People.Where(p => p.Id == kept).Select(p => (i.Study.StudyId, Person: p)))
                )
                .GroupBy(k => k.Person)
                .Select(k => new LeftOut(k.First().StudyId, k.Key.Id, k.Key.Pseudonym, k.Key.Consent, k.Count()))
                .OrderBy(k => k.Consent)
                .ThenBy(k => k.Pseudonym, StringComparer.CurrentCulture),
        ];
}
