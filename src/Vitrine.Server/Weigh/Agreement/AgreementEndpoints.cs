using Vitrine.Core.Mark.Finding;
using Vitrine.Server.Access;
using Vitrine.Server.Http;
using Vitrine.Storage.Weigh.Agreement;

namespace Vitrine.Server.Weigh.Agreement;

internal static class AgreementEndpoints
{
    public static void MapAgreement(this RouteGroupBuilder api)
    {
        var study = api.MapGroup("/studies/{studyId:long}/agreement").WithTags("Weigh");
        study.MapGet("/taggers", (StudyId studyId, AgreementStore store) => store.Taggers(studyId));
        study.MapGet(
            "",
            (
                StudyId studyId,
                [IdOf("account")] AccountId first,
                [IdOf("account")] AccountId second,
                string? unit,
                SourceId[]? sourceId,
                AgreementStore store
            ) => store.Compare(studyId, first, second, Unit(unit), sourceId ?? [])
        );
        study.MapGet(
            "/disagreements",
            (
                StudyId studyId,
                [IdOf("account")] AccountId first,
                [IdOf("account")] AccountId second,
                TagId tagId,
                string? unit,
                SourceId[]? sourceId,
                AgreementStore store
            ) => store.Disagreements(studyId, first, second, Unit(unit), tagId, sourceId ?? [])
        );
    }

    private static PassageUnit Unit(string? unit) =>
        unit is null ? PassageUnit.Sentence
        : Validate.Choice<PassageUnit>(unit, nameof(unit)) is PassageUnit.Turn ? PassageUnit.Turn
        : PassageUnit.Sentence;
}
