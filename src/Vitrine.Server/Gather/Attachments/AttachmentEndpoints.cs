using Vitrine.Server.Access;
using Vitrine.Server.Http;
using Vitrine.Storage.Catalogue;
using Vitrine.Storage.Gather.Attachments;
using Vitrine.Storage.Media;

namespace Vitrine.Server.Gather.Attachments;

/// <param name="Title">What it is called.</param>
/// <param name="Note">What it is good for.</param>
/// <param name="Version">The version that the person saw.</param>
/// <param name="TagIds">All of its tags.</param>
/// <param name="NewTags">Names of further tags that may not be there yet.</param>
internal sealed record AttachmentText(string Title, string Note, long Version, IReadOnlyList<TagId> TagIds, IReadOnlyList<string> NewTags);

internal sealed record AttachmentsOf(IReadOnlyList<AttachmentId> AttachmentIds);

internal static class AttachmentEndpoints
{
    public static void MapAttachments(this RouteGroupBuilder api)
    {
        var attachments = api.MapGroup("/studies/{studyId:long}/attachments").WithTags("Gather");
        attachments.MapGet("", (StudyId studyId, AttachmentStore store) => store.In(studyId));
        attachments
            .MapPut(
                "/{id:long}",
                (StudyId studyId, AttachmentId id, AttachmentText given, SignedIn me, AttachmentStore store) =>
                    store.Change(
                        me.Actor,
                        studyId,
                        id,
                        given.Version,
                        Validate.Text(given.Title, "title", "An attachment needs a title."),
                        Validate.Optional(given.Note, "note"),
                        given.TagIds,
                        Validate.NewTags(given.NewTags)
                    )
            )
            .About(Thing.Attachment);
        attachments
            .MapDelete(
                "/{id:long}",
                (StudyId studyId, AttachmentId id, SignedIn me, AttachmentStore store) => store.Remove(me.Actor, studyId, id)
            )
            .About(Thing.Attachment);
        // Always for keeping: a file of any type is never opened inside the page.
        attachments
            .MapGet(
                "/{id:long}/original",
                (StudyId studyId, AttachmentId id, AttachmentStore store, MediaFolder media) => media.Sent(store.MediaOf(id), shown: false)
            )
            .About(Thing.Attachment)
            .Produces(StatusCodes.Status200OK, contentType: "application/octet-stream");
        api.MapPut(
                "/studies/{studyId:long}/insights/{id:long}/attachments",
                (StudyId studyId, InsightId id, AttachmentsOf given, SignedIn me, AttachmentStore store) =>
                    store.SetOf(me.Actor, studyId, id, given.AttachmentIds)
            )
            .WithTags("Show")
            .About(Thing.Insight);
    }
}
