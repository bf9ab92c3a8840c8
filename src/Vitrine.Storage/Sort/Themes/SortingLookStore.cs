using Dapper;
using Vitrine.Storage.Trail;

namespace Vitrine.Storage.Sort.Themes;

/// <summary>What has come to a sorting table since somebody's last look at it.</summary>
/// <param name="Since">When that was; null where they have never looked: then nothing is new to them.</param>
/// <param name="Marked">Observations that were marked since.</param>
/// <param name="Tagged">Which observation got which tag since.</param>
/// <param name="Laid">Which observation somebody else has laid in which theme since.</param>
public sealed record CameSince(
    string? Since,
    IReadOnlySet<ObservationId> Marked,
    ILookup<ObservationId, TagId> Tagged,
    ILookup<ThemeId, ObservationId> Laid
)
{
    /// <summary>How many of some observations were marked since.</summary>
    public int CountMarked(IEnumerable<ObservationId> observations) => observations.Count(Marked.Contains);
}

/// <summary>When each person has last looked at a sorting table, and what came since.</summary>
public sealed class SortingLookStore(Workspace workspace)
{
    /// <summary>What has come since the viewer's last look, of what they may see.</summary>
    public CameSince Since(StudyId studyId, AccountId viewer)
    {
        using var connection = workspace.OpenFor(viewer);
        var since = connection.QueryFirstOrDefault<string>(
            "SELECT looked_at FROM sorting_look WHERE account_id = @viewer AND study_id = @studyId",
            new { viewer, studyId }
        );
        // Of nobody's look nothing is asked.
        var asked = new
        {
            studyId,
            viewer,
            since = since ?? "9999",
        };
        return new CameSince(
            since,
            connection
                .Query<ObservationId>("SELECT id FROM observation WHERE study_id = @studyId AND created_at > @since", asked)
                .ToHashSet(),
            connection
                .Query<(ObservationId Observation, TagId Tag)>(
                    """
                    SELECT x.observation_id, x.tag_id FROM observation o JOIN observation_tag x ON x.observation_id = o.id
                    WHERE o.study_id = @studyId AND x.created_at > @since
                    """,
                    asked
                )
                .ToLookup(x => x.Observation, x => x.Tag),
            connection
                .Query<(ThemeId Theme, ObservationId Observation)>(
                    """
                    SELECT t.id, x.observation_id FROM theme t JOIN theme_observation x ON x.theme_id = t.id
                      JOIN observation o ON o.id = x.observation_id
                    WHERE t.study_id = @studyId AND x.created_at > @since AND x.created_by <> @viewer
                    """,
                    asked
                )
                .ToLookup(x => x.Theme, x => x.Observation)
        );
    }

    /// <summary>Notes that somebody has looked, now. It changes nothing for anybody else, and is no step.</summary>
    public void Look(StudyId studyId, AccountId accountId) =>
        workspace.WriteUntrailed(connection =>
            connection.Execute(
                """
                INSERT INTO sorting_look (account_id, study_id, looked_at) VALUES (@accountId, @studyId, @now)
                ON CONFLICT (account_id, study_id) DO UPDATE SET looked_at = excluded.looked_at
                """,
                new
                {
                    accountId,
                    studyId,
                    now = workspace.Now,
                }
            )
        );
}
