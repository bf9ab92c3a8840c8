using Dapper;
using Vitrine.Core.Mark.Observations;
using Vitrine.Storage.Sql;
using Vitrine.Storage.Trail;

namespace Vitrine.Storage.Sort.TagSet;

/// <summary>How often a sentiment was given; null for none.</summary>
public sealed record SentimentCount(Sentiment? Sentiment, int Count);

/// <summary>How often a value was given on a tag's scale.</summary>
public sealed record ValueCount(double Value, int Count);

/// <summary>What was said of a study's observations under one tag.</summary>
public sealed class TagUseStore(Workspace workspace)
{
    /// <summary>How often each sentiment stands on the observations of the given tags, each observation once.</summary>
    /// <param name="viewer">Who looks.</param>
    /// <param name="only">Of these observations alone; null for all.</param>
    public IReadOnlyList<SentimentCount> Sentiments(
        StudyId studyId,
        AccountId viewer,
        IEnumerable<TagId> tags,
        IReadOnlyCollection<ObservationId>? only = null
    )
    {
        using var connection = workspace.OpenFor(viewer);
        return connection
            .Query<(Sentiment? Sentiment, int Count)>(
                """
                SELECT sentiment, count(*) FROM observation o WHERE study_id = @studyId
                AND id IN (SELECT observation_id FROM observation_tag WHERE tag_id IN (SELECT value FROM json_each(@tags)))
                AND (@only IS NULL OR id IN (SELECT value FROM json_each(@only)))
                GROUP BY sentiment ORDER BY sentiment
                """,
                new
                {
                    studyId,
                    tags = Ids.Json(tags),
                    only = Ids.Json(only),
                }
            )
            .Select(s => new SentimentCount(s.Sentiment, s.Count))
            .ToList();
    }

    /// <summary>The observations that were picked as examples of a tag, in the order of their making.</summary>
    public IReadOnlyList<ObservationId> Examples(StudyId studyId, AccountId viewer, TagId tag)
    {
        using var connection = workspace.OpenFor(viewer);
        return connection
            .Query<ObservationId>(
                """
                SELECT o.id FROM observation_tag x JOIN observation o ON o.id = x.observation_id
                WHERE x.tag_id = @tag AND x.example = 1 AND o.study_id = @studyId ORDER BY o.id
                """,
                new { studyId, tag }
            )
            .ToList();
    }

    /// <summary>How often each value was given on a tag's own scale, least first.</summary>
    /// <param name="viewer">Who looks.</param>
    /// <param name="only">Of these observations alone; null for all.</param>
    public IReadOnlyList<ValueCount> Values(StudyId studyId, AccountId viewer, TagId tag, IReadOnlyCollection<ObservationId>? only = null)
    {
        using var connection = workspace.OpenFor(viewer);
        return connection
            .Query<(double Value, int Count)>(
                """
                SELECT x.value, count(*) FROM observation_tag x JOIN observation o ON o.id = x.observation_id
                WHERE x.tag_id = @tag AND o.study_id = @studyId AND x.value IS NOT NULL
                AND (@only IS NULL OR o.id IN (SELECT value FROM json_each(@only)))
                GROUP BY x.value ORDER BY x.value
                """,
                new
                {
                    studyId,
                    tag,
                    only = Ids.Json(only),
                }
            )
            .Select(v => new ValueCount(v.Value, v.Count))
            .ToList();
    }
}
