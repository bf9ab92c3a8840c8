using Dapper;
using Vitrine.Storage.Trail;

namespace Vitrine.Storage.Gather.Sources;

/// <summary>A folder of sources inside a study.</summary>
public sealed record Folder
{
    public FolderId Id { get; init; }
    public string Name { get; init; } = "";
}

/// <summary>Folders. A source is in one or in none.</summary>
public sealed class FolderStore(Workspace workspace)
{
    public IReadOnlyList<Folder> In(StudyId studyId)
    {
        using var connection = workspace.Open();
        return connection
            .Query<Folder>("SELECT id, name FROM folder WHERE study_id = @studyId ORDER BY position, id", new { studyId })
            .ToList();
    }

    public Step Add(Actor actor, StudyId studyId, string name) =>
        workspace.Write(
            actor,
            studyId,
            $"Made the folder “{name}”",
            writing =>
            {
                RefuseTaken(writing, studyId, name, null);
                return FindOrMake(writing, studyId, name).Value;
            }
        );

    /// <summary>The folder of that name, made when there is none.</summary>
    internal static FolderId FindOrMake(Writing writing, StudyId studyId, string name) =>
        writing.Connection.QueryFirstOrDefault<long?>(
            "SELECT id FROM folder WHERE study_id = @studyId AND name = @name COLLATE NOCASE",
            new { studyId, name }
        )
        ?? writing.Insert(
            "folder",
            new
            {
                studyId,
                name,
                position = writing.Connection.ExecuteScalar<long>(
                    "SELECT coalesce(max(position), 0) + 1 FROM folder WHERE study_id = @studyId",
                    new { studyId }
                ),
            }
        );

    public Step Rename(Actor actor, StudyId studyId, FolderId id, string name) =>
        workspace.Write(
            actor,
            studyId,
            $"Renamed a folder to “{name}”",
            writing =>
            {
                writing.Expect("folder", id.Value, "study_id", studyId.Value);
                RefuseTaken(writing, studyId, name, id);
                writing.Update("folder", id.Value, new { name });
                return id.Value;
            }
        );

    /// <summary>Takes a folder away; what was in it is in none.</summary>
    public Step Remove(Actor actor, StudyId studyId, FolderId id) =>
        workspace.Write(
            actor,
            studyId,
            "Removed a folder",
            writing =>
            {
                var name =
                    writing.Connection.QueryFirstOrDefault<string>(
                        "SELECT name FROM folder WHERE id = @id AND study_id = @studyId",
                        new { id, studyId }
                    ) ?? throw Refusal.Missing("folder");
                writing.Label = $"Removed the folder “{name}”";
                writing.Remove("folder", id.Value);
                return id.Value;
            }
        );

    /// <summary>
    /// Puts sources into a folder, or into none, as one step; before or after another source there, when one is given, and else where they
    /// stand.
    /// </summary>
    public Step Put(
        Actor actor,
        StudyId studyId,
        IReadOnlyList<SourceId> sourceIds,
        FolderId? folderId,
        SourceId? beforeId = null,
        SourceId? afterId = null
    ) =>
        workspace.Write(
            actor,
            studyId,
            "Moved sources",
            writing =>
            {
                var name = folderId is null
                    ? null
                    : writing.Connection.QueryFirstOrDefault<string>(
                        "SELECT name FROM folder WHERE id = @folderId AND study_id = @studyId",
                        new { folderId, studyId }
                    ) ?? throw Refusal.Missing("folder");
                var what = sourceIds.Count == 1 ? "a source" : $"{sourceIds.Count} sources";
                writing.Label = (beforeId ?? afterId) is not null
                    ? $"Changed the order of {what}"
                    : $"Moved {what} {(name is null ? "out of their folder" : $"to “{name}”")}";
                foreach (var source in sourceIds)
                    writing.Update("source", source.Value, new { folderId });
                if ((beforeId ?? afterId) is { } beside)
                    Order(writing, studyId, folderId, sourceIds, beside, after: beforeId is null);
                return folderId?.Value;
            }
        );

    // Those between the old place and the new one change places among themselves; nothing else in the study moves.
    private static void Order(
        Writing writing,
        StudyId studyId,
        FolderId? folderId,
        IReadOnlyList<SourceId> moved,
        SourceId beside,
        bool after
    )
    {
        var there = writing
            .Connection.Query<(SourceId Id, long Position)>(
                "SELECT id, position FROM source WHERE study_id = @studyId AND folder_id IS @folderId ORDER BY position, id",
                new { studyId, folderId }
            )
            .ToList();
        var rest = there.Select(s => s.Id).Except(moved).ToList();
        var place = rest.IndexOf(beside);
        if (place < 0)
            throw Refusal.Because(
                "The source to stand beside is not in this folder any more. Look again, and move it once more.",
                "beforeId"
            );
        rest.InsertRange(after ? place + 1 : place, there.Select(s => s.Id).Where(moved.Contains));
        for (var i = 0; i < rest.Count; i++)
            writing.Update("source", rest[i].Value, new { there[i].Position });
    }

    private static void RefuseTaken(Writing writing, StudyId studyId, string name, FolderId? exceptId)
    {
        if (
            writing.Connection.ExecuteScalar<bool>(
                "SELECT count(*) FROM folder WHERE study_id = @studyId AND name = @name COLLATE NOCASE AND id IS NOT @exceptId",
                new
                {
                    studyId,
                    name,
                    exceptId,
                }
            )
        )
        {
            throw Refusal.Because($"There is a folder “{name}” already. Choose another name.", "name");
        }
    }
}
