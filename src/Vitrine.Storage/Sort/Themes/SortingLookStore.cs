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
        var look = connection.QueryFirstOrDefault<LookRow>(
            """
            SELECT looked_at, newest_observation, newest_tagging, newest_laying FROM sorting_look
            WHERE account_id = @viewer AND study_id = @studyId
            """,
            new { viewer, studyId }
        );
        if (look is null)
            return new CameSince(
                null,
                new HashSet<ObservationId>(),
                Array.Empty<(ObservationId, TagId)>().ToLookup(x => x.Item1, x => x.Item2),
                Array.Empty<(ThemeId, ObservationId)>().ToLookup(x => x.Item1, x => x.Item2)
            );
        // By ids and not by days: what is new are few rows at the end of long tables.
        var asked = new
        {
            studyId,
            viewer,
            look.NewestObservation,
            look.NewestTagging,
            look.NewestLaying,
        };
        return new CameSince(
            look.LookedAt,
            connection
                .Query<ObservationId>("SELECT id FROM observation WHERE id > @NewestObservation AND +study_id = @studyId", asked)
                .ToHashSet(),
            connection
                .Query<(ObservationId Observation, TagId Tag)>(
                    """
                    SELECT x.observation_id, x.tag_id FROM observation_tag x CROSS JOIN observation o ON o.id = x.observation_id
                    WHERE x.id > @NewestTagging AND o.study_id = @studyId
                    """,
                    asked
                )
                .ToLookup(x => x.Observation, x => x.Tag),
            connection
                .Query<(ThemeId Theme, ObservationId Observation)>(
                    """
                    SELECT t.id, x.observation_id FROM theme_observation x CROSS JOIN theme t ON t.id = x.theme_id
                      JOIN observation o ON o.id = x.observation_id
                    WHERE x.id > @NewestLaying AND t.study_id = @studyId AND x.created_by <> @viewer
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
                INSERT INTO sorting_look (account_id, study_id, looked_at, newest_observation, newest_tagging, newest_laying)
                SELECT @accountId, @studyId, @now, (SELECT coalesce(max(id), 0) FROM observation),
                  (SELECT coalesce(max(id), 0) FROM observation_tag), (SELECT coalesce(max(id), 0) FROM theme_observation)
                WHERE true
                ON CONFLICT (account_id, study_id) DO UPDATE SET looked_at = excluded.looked_at,
                  newest_observation = excluded.newest_observation, newest_tagging = excluded.newest_tagging,
                  newest_laying = excluded.newest_laying
                """,
                new
                {
                    accountId,
                    studyId,
                    now = workspace.Now,
                }
            )
        );

    private sealed record LookRow
    {
        public string LookedAt { get; init; } = "";
        public long NewestObservation { get; init; }
        public long NewestTagging { get; init; }
        public long NewestLaying { get; init; }
    }
}
