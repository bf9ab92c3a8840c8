using Dapper;
using Vitrine.Storage.Trail;

namespace Vitrine.Storage.Weigh.Evidence;

/// <summary>What a person may not have been asked about.</summary>
public enum AskedThing
{
    Tag,
    Theme,
    Insight,
}

/// <summary>Who was not asked about a tag, theme or insight.</summary>
public sealed class NotAskedStore(Workspace workspace)
{
    /// <summary>The participants of a study who were not asked, by the id of the thing.</summary>
    public ILookup<long, ParticipantId> In(StudyId studyId, AskedThing thing)
    {
        using var connection = workspace.Open();
        var column = ColumnOf(thing);
        return connection
            .Query<(long Thing, ParticipantId Person)>(
                $"""
                SELECT n.{column}, n.participant_id FROM not_asked n JOIN participant p ON p.id = n.participant_id
                WHERE p.study_id = @studyId AND n.{column} IS NOT NULL
                """,
                new { studyId }
            )
            .ToLookup(n => n.Thing, n => n.Person);
    }

    public Step Set(Actor actor, StudyId studyId, AskedThing thing, long id, IReadOnlyList<ParticipantId> participantIds) =>
        workspace.Write(
            actor,
            studyId,
            "Said who was not asked",
            writing =>
            {
                var rows = writing
                    .Connection.Query<(long Id, ParticipantId Person)>(
                        $"""
                        SELECT n.id, n.participant_id FROM not_asked n JOIN participant p ON p.id = n.participant_id
                        WHERE p.study_id = @studyId AND n.{ColumnOf(thing)} = @id
                        """,
                        new { studyId, id }
                    )
                    .ToList();
                foreach (var row in rows.Where(r => !participantIds.Contains(r.Person)))
                    writing.Delete("not_asked", row.Id);
                foreach (var participantId in participantIds.Except(rows.Select(r => r.Person)))
                {
                    writing.Insert(
                        "not_asked",
                        new
                        {
                            participantId,
                            tagId = thing == AskedThing.Tag ? id : (long?)null,
                            themeId = thing == AskedThing.Theme ? id : (long?)null,
                            insightId = thing == AskedThing.Insight ? id : (long?)null,
                        }
                    );
                }
                return id;
            }
        );

    private static string ColumnOf(AskedThing thing) => thing.ToString().ToLowerInvariant() + "_id";
}
