using Vitrine.Core.Weigh.Agreement;
using Vitrine.Server.Access;
using Vitrine.Server.Http;
using Vitrine.Storage.Weigh.Agreement;

namespace Vitrine.Server.Weigh.Agreement;

/// <summary>A passage that two people have marked differently, and what they have come to.</summary>
internal sealed record Settle(
    [property: IdOf("account")] AccountId First,
    [property: IdOf("account")] AccountId Second,
    UnitGiven Unit,
    Outcome Outcome
);

internal static class AgreementEndpoints
{
    public static void MapAgreement(this RouteGroupBuilder api)
    {
        var study = api.MapGroup("/studies/{studyId:long}/agreement").WithTags("Weigh");
        study.MapGet("/taggers", (StudyId studyId, SignedIn me, AgreementStore store) => store.Taggers(studyId, me.Id));
        study.MapGet(
            "",
            (
                StudyId studyId,
                [IdOf("account")] AccountId first,
                [IdOf("account")] AccountId second,
                Choice<AgreementUnit>? unit,
                SourceId[]? sourceId,
                AgreementStore store
            ) => store.Compare(studyId, first, second, unit?.Value ?? AgreementUnit.Sentence, sourceId ?? [])
        );
        study.MapGet(
            "/disagreements",
            (
                StudyId studyId,
                [IdOf("account")] AccountId first,
                [IdOf("account")] AccountId second,
                TagId tagId,
                Choice<AgreementUnit>? unit,
                SourceId[]? sourceId,
                AgreementStore store
            ) => store.Disagreements(studyId, first, second, unit?.Value ?? AgreementUnit.Sentence, tagId, sourceId ?? [])
        );
        study.MapPost(
            "/settlements",
            (StudyId studyId, Settle given, SignedIn me, AgreementStore store) =>
                store.Settle(me.Actor, studyId, given.First, given.Second, given.Unit, given.Outcome)
        );
    }
}
