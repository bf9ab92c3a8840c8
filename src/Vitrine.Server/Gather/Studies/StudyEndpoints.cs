using Vitrine.Server.Access;
using Vitrine.Server.Http;
using Vitrine.Storage.Access;
using Vitrine.Storage.Gather.Studies;

namespace Vitrine.Server.Gather.Studies;

internal sealed record ChangedStudy(StudyText Text, long Version);

internal static class StudyEndpoints
{
    public static void MapStudies(this RouteGroupBuilder api)
    {
        var studies = api.MapGroup("/studies").WithTags("Gather");
        studies
            .MapGet("", (SignedIn me, StudyStore store, StudyAccess access) => store.All(access.VisibleTo(me.Viewer), me.Id))
            .About(null);
        studies.MapPost("", (StudyText text, SignedIn me, StudyStore store) => store.Create(me.Actor, Checked(text))).About(null);
        studies.MapGet("/{studyId:long}", (StudyId studyId, SignedIn me, StudyStore store) => store.Get(studyId, me.Id));
        studies.MapGet("/{studyId:long}/research-questions", (StudyId studyId, StudyStore store) => store.Questions(studyId));
        studies.MapPut(
            "/{studyId:long}",
            (StudyId studyId, ChangedStudy change, SignedIn me, StudyStore store) =>
                store.Change(me.Actor, studyId, change.Version, Checked(change.Text))
        );
    }

    private static StudyText Checked(StudyText text) =>
        new(
            Validate.Text(text.Title, "title", "A study needs a title. Type what it is about."),
            Validate.Optional(text.Purpose, "purpose"),
            Validate.Optional(text.Method, "method"),
            text.ResearchQuestions.Select(q => Validate.Optional(q, "researchQuestions", Limits.Title * 2))
                .Where(q => q.Length > 0)
                .ToList()
        );
}
