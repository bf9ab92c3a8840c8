using Microsoft.Data.Sqlite;
using Vitrine.Storage.Access;
using Vitrine.Storage.Catalogue;
using Vitrine.Storage.Trail;

namespace Vitrine.Storage.Uses;

/// <summary>How something uses a thing.</summary>
public enum UseReach
{
    /// <summary>It is tied to the thing itself, or hangs on it.</summary>
    Itself,

    /// <summary>It has something that the thing is in: a theme a tag of the observation.</summary>
    Within,

    /// <summary>It uses what uses the thing: an exhibit an insight with the observation as evidence.</summary>
    Further,
}

/// <summary>Something that uses a thing.</summary>
/// <param name="StudyId">Its study; null for what belongs to none.</param>
public sealed record UsedIn(long Id, string Title, StudyId? StudyId, UseReach Reach);

/// <summary>What of one kind uses a thing.</summary>
/// <param name="Kind">Of which kind.</param>
/// <param name="As">As what, where that is not what the kind is called: a tag that is a bundle.</param>
/// <param name="Itself">How many use the thing itself, seen or not.</param>
/// <param name="Within">How many have it by something that it is in.</param>
/// <param name="Further">How many use what uses it.</param>
/// <param name="Named">The first <see cref="UsesStore.MostNamed"/> of those that the person sees, nearest first.</param>
/// <param name="Unseen">How many the person does not see.</param>
public sealed record UsesOfKind(ThingKind Kind, string? As, int Itself, int Within, int Further, IReadOnlyList<UsedIn> Named, int Unseen);

/// <summary>All that uses a thing.</summary>
/// <param name="Kinds">By kind, in the order of the kinds.</param>
/// <param name="Studies">Titles of the studies of what uses it directly, of those that the person sees.</param>
/// <param name="OtherStudies">How many other studies there are.</param>
public sealed record ThingUses(IReadOnlyList<UsesOfKind> Kinds, IReadOnlyList<string> Studies, int OtherStudies)
{
    /// <summary>All these studies.</summary>
    internal IReadOnlySet<long?> StudyIds { get; init; } = new HashSet<long?>();
}

/// <summary>The one answer to what hangs on a thing, from the catalogue alone.</summary>
public sealed class UsesStore(Workspace workspace, StudyAccess access)
{
    /// <summary>How many of one kind are named.</summary>
    public const int MostNamed = 50;

    /// <summary>All that uses one of the given things of one kind, as far as the viewer may see marks; what cannot be seen is only
    /// counted.</summary>
    public ThingUses Of(ThingKind kind, IReadOnlyCollection<long> ids, Viewer viewer)
    {
        using var connection = workspace.OpenFor(viewer.AccountId);
        using var snapshot = connection.BeginTransaction(deferred: true);
        return Of(connection, kind, ids, viewer);
    }

    internal ThingUses Of(SqliteConnection connection, ThingKind kind, IReadOnlyCollection<long> ids, Viewer viewer)
    {
        var catalogue = workspace.Catalogue;
        var table = Thing.Table(kind);
        var walk = new UsesWalk(connection, catalogue);
        var uses = walk.From(table, ids);
        var visible = access.VisibleTo(viewer);
        var studies = new HashSet<long?>();
        var kinds = new List<UsesOfKind>();
        foreach (var of in uses.GroupBy(u => (u.Key.Kind, u.Key.As)).OrderBy(g => Thing.KindOf(g.Key.Kind)).ThenBy(g => g.Key.As))
        {
            var reach = of.ToDictionary(u => u.Key.Id, u => u.Value);
            var owners = walk.StudiesOf(of.Key.Kind, reach.Keys);
            studies.UnionWith(owners.Where(o => reach[o.Key] != UseReach.Further && o.Value is not null).Select(o => o.Value));
            var seen = owners.Where(o => Sees(o.Key, o.Value)).Select(o => o.Key).OrderBy(id => reach[id]).ThenBy(id => id).ToList();
            // A title may be read from a whole text: only what is named is asked for its own.
            var titled = Titles.Of(connection, catalogue, of.Key.Kind, seen.Take(MostNamed)).ToDictionary(t => t.Id);
            kinds.Add(
                new UsesOfKind(
                    Thing.KindOf(of.Key.Kind),
                    of.Key.As,
                    Count(UseReach.Itself),
                    Count(UseReach.Within),
                    Count(UseReach.Further),
                    [.. seen.Take(MostNamed).Select(id => titled[id]).Select(t => new UsedIn(t.Id, t.Title, t.StudyId, reach[t.Id]))],
                    owners.Count - seen.Count
                )
            );

            int Count(UseReach which) => owners.Keys.Count(id => reach[id] == which);

            bool Sees(long id, long? study) =>
                of.Key.Kind == Thing.Exhibit
                    ? access.SeesExhibit(viewer, id)
                    : study is not { } theirs || visible is null || visible.Contains(theirs);
        }
        var (open, others) = Named(connection, viewer, studies);
        return new ThingUses(kinds, open, others) { StudyIds = studies };
    }

    /// <summary>Titles of studies that the person sees, and how many others there are.</summary>
    internal (IReadOnlyList<string> Seen, int Others) Named(SqliteConnection connection, Viewer viewer, IEnumerable<long?> studies)
    {
        var visible = access.VisibleTo(viewer);
        var named = Titles.Of(connection, workspace.Catalogue, "study", studies.OfType<long>().Distinct());
        var seen = named.Where(s => visible is null || visible.Contains(s.Id)).Select(s => s.Title).ToList();
        return (seen, named.Count - seen.Count);
    }
}
