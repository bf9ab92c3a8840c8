using Vitrine.Core.Gather.Participants;
using Vitrine.Core.Gather.Privacy;
using Vitrine.Server.Access;
using Vitrine.Server.Http;
using Vitrine.Storage.Catalogue;
using Vitrine.Storage.Gather.Participants;
using Vitrine.Storage.Trail;

namespace Vitrine.Server.Gather.Participants;

/// <param name="Code">What they are told apart by, such as P01; empty for a new participant to get the next that nobody has.</param>
/// <param name="Pseudonym">The made-up name that they are called by.</param>
/// <param name="RealName">Their name, for the team alone.</param>
internal sealed record ParticipantText(string Code, string Pseudonym, string? RealName);

internal sealed record NewAttribute(string Name, AttributeKind Kind);

/// <param name="Name">Its name from now on.</param>
/// <param name="Kind">The type of its values from now on.</param>
/// <param name="LeaveOut">Whether values that are none of the type may be taken away.</param>
internal sealed record ChangedAttribute(string Name, AttributeKind Kind, bool LeaveOut);

/// <param name="ParticipantIds">Whose.</param>
/// <param name="Consent">What they said.</param>
internal sealed record NotedConsent(IReadOnlyList<ParticipantId> ParticipantIds, Consent Consent);

/// <param name="Cells">What is written into which cells.</param>
internal sealed record CellsGiven(IReadOnlyList<ParticipantCell> Cells);

/// <summary>A cell that was not taken, and why.</summary>
internal sealed record CellRefusal(ParticipantId ParticipantId, ParticipantColumn Column, AttributeId? AttributeId, string Sentence);

/// <param name="Step">The step with everything that fitted.</param>
/// <param name="Refused">What did not, cell by cell.</param>
internal sealed record CellsWritten(Step Step, IReadOnlyList<CellRefusal> Refused);

internal static class ParticipantEndpoints
{
    public static void MapParticipants(this RouteGroupBuilder api)
    {
        var study = api.MapGroup("/studies/{studyId:long}").WithTags("Gather");
        study.MapGet(
            "/participants",
            (StudyId studyId, int page, ParticipantStore store) => store.Page(studyId, Validate.Page(page), Limits.LinesOnPage)
        );
        study.MapPost(
            "/participants",
            (StudyId studyId, ParticipantText given, SignedIn me, ParticipantStore store) =>
            {
                var next = string.IsNullOrWhiteSpace(given.Code);
                var text = Checked(next ? given with { Code = "P01" } : given);
                return store.Add(me.Actor, studyId, next ? null : text.Code, text.Pseudonym, text.RealName);
            }
        );
        study
            .MapPut(
                "/participants/{id:long}",
                (StudyId studyId, ParticipantId id, ParticipantText given, SignedIn me, ParticipantStore store) =>
                {
                    var text = Checked(given);
                    return store.Change(me.Actor, studyId, id, text.Code, text.Pseudonym, text.RealName);
                }
            )
            .About(Thing.Participant);
        study
            .MapDelete(
                "/participants/{id:long}",
                (StudyId studyId, ParticipantId id, SignedIn me, ParticipantStore store) => store.Remove(me.Actor, studyId, id)
            )
            .RequireAuthorization(AccessEndpoints.Publishers)
            .About(Thing.Participant);
        study.MapPost(
            "/attributes",
            (StudyId studyId, NewAttribute given, SignedIn me, ParticipantStore store) =>
                store.AddAttribute(
                    me.Actor,
                    studyId,
                    Validate.Text(given.Name, "name", "An attribute needs a name, such as “home” or “age”.", Limits.Name),
                    given.Kind
                )
        );
        study
            .MapDelete(
                "/attributes/{id:long}",
                (StudyId studyId, AttributeId id, SignedIn me, ParticipantStore store) => store.RemoveAttribute(me.Actor, studyId, id)
            )
            .RequireAuthorization(AccessEndpoints.Publishers)
            .About(Thing.Attribute);
        study
            .MapPut(
                "/attributes/{id:long}",
                (StudyId studyId, AttributeId id, ChangedAttribute given, SignedIn me, ParticipantStore store) =>
                    store.ChangeAttribute(
                        me.Actor,
                        studyId,
                        id,
                        Validate.Text(given.Name, "name", "An attribute needs a name, such as “home” or “age”.", Limits.Name),
                        given.Kind,
                        given.LeaveOut
                    )
            )
            .About(Thing.Attribute);
        study.MapPut(
            "/participants/consent",
            (StudyId studyId, NotedConsent given, SignedIn me, ParticipantStore store) =>
                store.SetConsent(me.Actor, studyId, Validate.Ids(given.ParticipantIds, "participant"), given.Consent)
        );
        study.MapPut(
            "/participants/cells",
            (StudyId studyId, CellsGiven given, SignedIn me, ParticipantStore store) =>
            {
                if (given.Cells.Count is 0 or > Limits.Cells)
                    throw Refusal.Because($"Write between 1 and {Limits.Cells:N0} cells at once.", "cells");
                var (step, refused) = store.SetCells(me.Actor, studyId, given.Cells);
                return new CellsWritten(
                    step,
                    [.. refused.Select(r => new CellRefusal(r.ParticipantId, r.Column, r.AttributeId, RefusalSentences.Of(r)))]
                );
            }
        );
    }

    private static ParticipantText Checked(ParticipantText given) =>
        new(
            Validate.Text(given.Code, "code", "A participant needs a code, such as P01.", ParticipantCells.LongestCode),
            Validate.Text(given.Pseudonym, "pseudonym", "A participant needs a pseudonym: a made-up name to be called by.", Limits.Name),
            string.IsNullOrWhiteSpace(given.RealName) ? null : Validate.Optional(given.RealName, "realName", Limits.Name)
        );
}
