using Vitrine.Server.Access;
using Vitrine.Server.Http;
using Vitrine.Storage.Catalogue;
using Vitrine.Storage.Gather.Sources;

namespace Vitrine.Server.Gather.Sources;

internal sealed record FolderName(string Name);

/// <summary>Sources that go into a folder, and their place in it.</summary>
/// <param name="SourceIds">Which.</param>
/// <param name="FolderId">The folder; null for none.</param>
/// <param name="BeforeId">The source they stand before, or null.</param>
/// <param name="AfterId">The source they stand after, or null. With neither they stay where they stand in the study's order.</param>
internal sealed record MovedSources(
    IReadOnlyList<SourceId> SourceIds,
    FolderId? FolderId,
    [IdOf(Thing.Source)] SourceId? BeforeId,
    [IdOf(Thing.Source)] SourceId? AfterId
);

internal static class FolderEndpoints
{
    private const string Missing = "A folder needs a name, such as “Islanders”.";

    public static void MapFolders(this RouteGroupBuilder api)
    {
        var folders = api.MapGroup("/studies/{studyId:long}/folders").WithTags("Gather");
        folders.MapGet("", (StudyId studyId, FolderStore store) => store.In(studyId));
        folders.MapPost(
            "",
            (StudyId studyId, FolderName given, SignedIn me, FolderStore store) =>
                store.Add(me.Actor, studyId, Validate.Text(given.Name, "name", Missing, Limits.Name))
        );
        folders
            .MapPut(
                "/{id:long}",
                (StudyId studyId, FolderId id, FolderName given, SignedIn me, FolderStore store) =>
                    store.Rename(me.Actor, studyId, id, Validate.Text(given.Name, "name", Missing, Limits.Name))
            )
            .About(Thing.Folder);
        folders
            .MapDelete("/{id:long}", (StudyId studyId, FolderId id, SignedIn me, FolderStore store) => store.Remove(me.Actor, studyId, id))
            .About(Thing.Folder);
        api.MapPut(
                "/studies/{studyId:long}/sources/folder",
                (StudyId studyId, MovedSources given, SignedIn me, FolderStore store) =>
                    store.Put(me.Actor, studyId, Validate.Ids(given.SourceIds, "source"), given.FolderId, given.BeforeId, given.AfterId)
            )
            .WithTags("Gather");
    }
}
