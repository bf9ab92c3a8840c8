using Dapper;
using Microsoft.Data.Sqlite;
using Vitrine.Core.Sort.TagSet;
using Vitrine.Core.Text;
using Vitrine.Storage.Sql;
using Vitrine.Storage.Trail;

namespace Vitrine.Storage.Sort.TagSet;

/// <summary>One of two tags that may mean the same.</summary>
/// <param name="Quote">Words that carry it, and only it where there are such; null where none can be shown.</param>
public sealed record LookAlike(TagId TagId, int Observations, string? Quote);

/// <summary>Two tags that may mean the same.</summary>
/// <param name="One">The one that more observations carry.</param>
/// <param name="Both">How many observations carry both.</param>
public sealed record LookAlikesShown(LookAlike One, LookAlike Other, IReadOnlyList<LookAlikeReason> Reasons, int Both);

/// <summary>Tags that may mean the same, in the studies that a person sees; those that are kept apart for good are left out.</summary>
public sealed class LookAlikeStore(Workspace workspace, TagStore tags)
{
    /// <summary>So many pairs are shown at once.</summary>
    public const int Most = 60;

    /// <param name="viewer">Who looks.</param>
    /// <param name="visible">The studies that the person sees; null for all.</param>
    public IReadOnlyList<LookAlikesShown> Find(AccountId viewer, IReadOnlyList<StudyId>? visible)
    {
        List<CountedTag> all = [.. tags.In(viewer, visible).Where(t => t.Members is null)];
        using var connection = workspace.OpenFor(viewer);
        using var snapshot = connection.BeginTransaction(deferred: true);
        var seen = Ids.Json(visible);
        var both = Both(connection, seen);
        var apart = connection.Query<(TagId, TagId)>("SELECT tag_id, other_tag_id FROM tag_apart").ToHashSet();
        var counts = all.ToDictionary(t => t.Id, t => t.Observations);
        return
        [
            .. LookAlikes
                .Of([.. all.Select(t => new LookAlikeTag(t.Id, t.Name, t.Aliases, t.ParentId, t.Observations))], both)
                .Where(p => !apart.Contains(InOrder(p.One, p.Other)))
                .Take(Most)
                .Select(p => new LookAlikesShown(
                    new LookAlike(p.One, counts[p.One], Quote(p.One, p.Other)),
                    new LookAlike(p.Other, counts[p.Other], Quote(p.Other, p.One)),
                    p.Reasons,
                    p.Both
                )),
        ];

        string? Quote(TagId of, TagId without)
        {
            var found = connection.QueryFirstOrDefault<(int Start, int End, string Text)?>(
                """
                SELECT o.start, o."end", t.text FROM observation_tag x JOIN observation o ON o.id = x.observation_id
                JOIN source_text t ON t.source_id = o.source_id
                WHERE x.tag_id = @of AND o.start IS NOT NULL AND (@seen IS NULL OR o.study_id IN (SELECT value FROM json_each(@seen)))
                ORDER BY EXISTS (SELECT 1 FROM observation_tag y WHERE y.observation_id = o.id AND y.tag_id = @without),
                  o.starred DESC, o.id
                LIMIT 1
                """,
                new
                {
                    of,
                    without,
                    seen,
                }
            );
            return found is { } f && f.End <= f.Text.Length ? Excerpt.Beginning(f.Text[f.Start..f.End], 240) : null;
        }
    }

    /// <summary>How many observations carry two tags, the smaller id first: one walk, quicker than a join of all pairs.</summary>
    private static Dictionary<(TagId, TagId), int> Both(SqliteConnection connection, string? seen)
    {
        using var command = connection.CreateCommand();
        command.CommandText = seen is null
            ? "SELECT observation_id, tag_id FROM observation_tag ORDER BY observation_id, tag_id"
            : """
                SELECT x.observation_id, x.tag_id FROM observation o JOIN observation_tag x ON x.observation_id = o.id
                WHERE o.study_id IN (SELECT value FROM json_each(@seen)) ORDER BY x.observation_id, x.tag_id
                """;
        if (seen is not null)
            command.Parameters.AddWithValue("@seen", seen);
        using var rows = command.ExecuteReader();
        var both = new Dictionary<(TagId, TagId), int>();
        var (observation, tags) = (0L, new List<long>());
        while (rows.Read())
        {
            if (rows.GetInt64(0) != observation)
            {
                observation = rows.GetInt64(0);
                tags.Clear();
            }
            var tag = rows.GetInt64(1);
            foreach (var before in tags)
                both[(before, tag)] = both.GetValueOrDefault((before, tag)) + 1;
            tags.Add(tag);
        }
        return both;
    }

    /// <summary>Two tags are not the same, however alike they look.</summary>
    public Step KeepApart(Actor actor, TagId one, TagId other) =>
        workspace.Write(
            actor,
            null,
            "Kept two tags apart",
            writing =>
            {
                if (one == other)
                    throw Refusal.Because("A tag cannot be kept apart from itself. Choose two.", "otherTagId");
                var (tagId, otherTagId) = InOrder(one, other);
                var there = writing.Connection.ExecuteScalar<bool>(
                    "SELECT count(*) FROM tag_apart WHERE tag_id = @tagId AND other_tag_id = @otherTagId",
                    new { tagId, otherTagId }
                );
                if (!there)
                    writing.Insert("tag_apart", new { tagId, otherTagId });
            }
        );

    private static (TagId, TagId) InOrder(TagId one, TagId other) => one.Value < other.Value ? (one, other) : (other, one);
}
