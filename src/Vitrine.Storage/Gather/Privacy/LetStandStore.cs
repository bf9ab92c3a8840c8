using Dapper;
using Vitrine.Storage.Trail;

namespace Vitrine.Storage.Gather.Privacy;

/// <summary>What looks like a name or a masked word in what leaves, and is none.</summary>
public sealed class LetStandStore(Workspace workspace)
{
    /// <summary>Lets words stand, or covers them again.</summary>
    /// <param name="context">The words by their letters, with those before and after.</param>
    /// <param name="shown">The words as they are shown in the trail.</param>
    public Step Set(Actor actor, StudyId studyId, string context, string shown, bool stands) =>
        workspace.Write(
            actor,
            studyId,
            stands ? $"Let “{shown}” stand for readers" : $"Covered “{shown}” for readers again",
            writing =>
            {
                var there = writing.Connection.QueryFirstOrDefault<long?>(
                    "SELECT id FROM let_stand WHERE study_id = @studyId AND words = @context",
                    new { studyId, context }
                );
                if (stands && there is null)
                    writing.Insert("let_stand", new { studyId, words = context });
                else if (!stands && there is { } id)
                    writing.Remove("let_stand", id);
            }
        );
}
