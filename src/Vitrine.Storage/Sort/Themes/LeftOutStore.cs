using Dapper;
using Vitrine.Storage.Sql;
using Vitrine.Storage.Trail;

namespace Vitrine.Storage.Sort.Themes;

/// <summary>Observations that somebody has looked at and left out of all themes on purpose.</summary>
public sealed class LeftOutStore(Workspace workspace)
{
    /// <summary>The observations of a study that were left out of all themes on purpose, those that the viewer may see.</summary>
    public IReadOnlySet<ObservationId> In(StudyId studyId, AccountId viewer)
    {
        using var connection = workspace.OpenFor(viewer);
        return connection
            .Query<ObservationId>(
                "SELECT o.id FROM left_out x JOIN observation o ON o.id = x.observation_id WHERE o.study_id = @studyId",
                new { studyId }
            )
            .ToHashSet();
    }

    /// <summary>Leaves observations out of all themes on purpose, or takes that back, as one step.</summary>
    public Step Set(Actor actor, StudyId studyId, IReadOnlyList<ObservationId> observationIds, bool leftOut) =>
        workspace.Write(
            actor,
            studyId,
            $"{(leftOut ? "Left out" : "Took back")} {new Laid(observationIds, []).InWords}",
            writing =>
            {
                foreach (var id in observationIds)
                    writing.Expect("observation", id.Value, "study_id", studyId.Value);
                var there = Among(writing, observationIds);
                if (!leftOut)
                    writing.DeleteEach("left_out", [.. there.Values]);
                else
                    foreach (var observationId in observationIds.Distinct().Except(there.Keys))
                        writing.Insert("left_out", new { observationId });
            }
        );

    /// <summary>What is put in a theme is left out no more.</summary>
    internal static void TakeBack(Writing writing, IReadOnlyList<ObservationId> observationIds) =>
        writing.DeleteEach("left_out", [.. Among(writing, observationIds).Values]);

    private static Dictionary<ObservationId, long> Among(Writing writing, IReadOnlyList<ObservationId> observationIds) =>
        writing
            .Connection.Query<(ObservationId Observation, long Row)>(
                "SELECT observation_id, id FROM left_out WHERE observation_id IN (SELECT value FROM json_each(@ids))",
                new { ids = Ids.Json(observationIds) }
            )
            .ToDictionary(r => r.Observation, r => r.Row);
}
