using Dapper;
using Vitrine.Storage.Tags;
using Vitrine.Storage.Trail;

namespace Vitrine.Storage.Sort.TagSet;

/// <summary>How far a tag reaches.</summary>
/// <param name="Studies">How many studies use it.</param>
/// <param name="Observations">On how many observations it is, over all of them.</param>
/// <param name="Seen">Those of the studies that the person sees.</param>
public sealed record TagReach(int Studies, int Observations, IReadOnlyList<string> Seen);

/// <summary>All that hangs on a tag.</summary>
/// <param name="LeftWithout">Observations that carry no other tag.</param>
/// <param name="Children">Tags right under it.</param>
/// <param name="Insights">Insights that rest on it, or on an observation that carries it.</param>
public sealed record TagHangs(TagReach Reach, int LeftWithout, int Children, int Themes, int Insights, int Bundles, int SavedFilters);

/// <summary>Where tags and bundles are used, and what hangs on them.</summary>
public sealed class TagReachStore(Workspace workspace)
{
    /// <summary>
    /// Which studies a tag is used in, on an observation (for a bundle: of its tags), an attachment or in a theme: all counted, and those
    /// of <paramref name="visible"/> (null: all) by title. Marks that the viewer may not see are in none.
    /// </summary>
    public TagReach ReachOf(TagId id, AccountId viewer, IReadOnlyList<StudyId>? visible)
    {
        using var connection = workspace.OpenFor(viewer);
        using var snapshot = connection.BeginTransaction(deferred: true);
        var studies = connection
            .Query<(long Id, string Title)>(
                $"""
                WITH RECURSIVE {Bundles.Within}
                SELECT s.id, s.title FROM study s WHERE s.id IN (
                  SELECT o.study_id FROM observation_tag x JOIN observation o ON o.id = x.observation_id
                  WHERE x.tag_id = @id OR (x.tag_id IN (SELECT tag_id FROM within) AND ({Bundles.InItsStudy}))
                  UNION SELECT a.study_id FROM attachment_tag x JOIN attachment a ON a.id = x.attachment_id WHERE x.tag_id = @id
                  UNION SELECT t.study_id FROM theme_tag x JOIN theme t ON t.id = x.theme_id WHERE x.tag_id = @id) ORDER BY s.id
                """,
                new { id }
            )
            .ToList();
        var observations = connection.ExecuteScalar<int>(
            $"""
            WITH RECURSIVE {Bundles.Within}
            SELECT count(*) FROM observation_tag WHERE tag_id = @id UNION ALL
            SELECT count(DISTINCT o.id) FROM observation_tag x JOIN observation o ON o.id = x.observation_id
            WHERE x.tag_id IN (SELECT tag_id FROM within) AND ({Bundles.InItsStudy}) ORDER BY 1 DESC LIMIT 1
            """,
            new { id }
        );
        return new TagReach(
            studies.Count,
            observations,
            [.. studies.Where(s => visible is null || visible.Contains(s.Id)).Select(s => s.Title)]
        );
    }

    /// <summary>All that hangs on a tag, over all studies; only those of <paramref name="visible"/> (null: all) are named.</summary>
    public TagHangs HangsOn(TagId id, AccountId viewer, IReadOnlyList<StudyId>? visible)
    {
        var reach = ReachOf(id, viewer, visible);
        using var connection = workspace.OpenFor(viewer);
        int Count(string sql) => connection.ExecuteScalar<int>("SELECT count(*) FROM " + sql, new { id });
        return new TagHangs(
            reach,
            Count(
                """
                observation_tag x WHERE x.tag_id = @id AND NOT EXISTS (
                  SELECT 1 FROM observation_tag y WHERE y.observation_id = x.observation_id AND y.tag_id <> @id)
                """
            ),
            Count("tag WHERE parent_id = @id"),
            Count("theme_tag WHERE tag_id = @id"),
            connection.ExecuteScalar<int>(
                """
                SELECT count(DISTINCT e.insight_id) FROM evidence e JOIN observation_tag x ON x.observation_id = e.observation_id
                WHERE x.tag_id = @id
                """,
                new { id }
            ),
            Count("bundle_tag WHERE tag_id = @id"),
            Count("saved_filter f WHERE EXISTS (SELECT 1 FROM json_each(f.conditions, '$.tagIds') WHERE value = @id)")
        );
    }
}
