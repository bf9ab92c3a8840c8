using Dapper;
using Microsoft.Data.Sqlite;
using Vitrine.Storage.Access;
using Vitrine.Storage.Trail;
using Vitrine.Storage.Uses;

namespace Vitrine.Storage.Sort.TagSet;

/// <summary>How far a tag or bundle reaches.</summary>
/// <param name="Studies">How many studies use it.</param>
/// <param name="Observations">On how many observations it is, over all of them; for a bundle, one of its tags.</param>
/// <param name="Seen">Those of the studies that the person sees.</param>
public sealed record TagReach(int Studies, int Observations, IReadOnlyList<string> Seen);

/// <summary>All that hangs on a tag.</summary>
/// <param name="LeftWithout">Observations that carry no other tag.</param>
public sealed record TagHangs(TagReach Reach, int LeftWithout, ThingUses Uses);

/// <summary>Where tags and bundles are used, and what hangs on them.</summary>
public sealed class TagReachStore(Workspace workspace, UsesStore uses)
{
    /// <summary>Which studies use a tag or, for a bundle, one of its tags. Marks that the viewer may not see are in none.</summary>
    public TagReach ReachOf(TagId id, Viewer viewer)
    {
        using var connection = workspace.OpenFor(viewer.AccountId);
        using var snapshot = connection.BeginTransaction(deferred: true);
        return ReachOf(connection, id, viewer, uses.Of(connection, ThingKind.Tag, [id.Value], viewer));
    }

    private TagReach ReachOf(SqliteConnection connection, TagId id, Viewer viewer, ThingUses used)
    {
        if (!connection.ExecuteScalar<bool>("SELECT bundle FROM tag WHERE id = @id", new { id }))
            return new TagReach(
                used.Studies.Count + used.OtherStudies,
                used.Kinds.Where(k => k.Kind == ThingKind.Observation).Sum(k => k.Itself),
                used.Studies
            );
        var held = new UsesWalk(connection, workspace.Catalogue).HeldBy("tag", id.Value, "observation");
        var (seen, others) = uses.Named(connection, viewer, held.Values.Concat(used.StudyIds));
        return new TagReach(seen.Count + others, held.Count, seen);
    }

    /// <summary>All that hangs on a tag, over all studies.</summary>
    public TagHangs HangsOn(TagId id, Viewer viewer)
    {
        using var connection = workspace.OpenFor(viewer.AccountId);
        using var snapshot = connection.BeginTransaction(deferred: true);
        var used = uses.Of(connection, ThingKind.Tag, [id.Value], viewer);
        return new TagHangs(
            ReachOf(connection, id, viewer, used),
            connection.ExecuteScalar<int>(
                """
                SELECT count(*) FROM observation_tag x WHERE x.tag_id = @id AND NOT EXISTS (
                  SELECT 1 FROM observation_tag y WHERE y.observation_id = x.observation_id AND y.tag_id <> @id)
                """,
                new { id }
            ),
            used
        );
    }
}
