using Dapper;
using Microsoft.Data.Sqlite;
using Vitrine.Storage.Catalogue;
using Vitrine.Storage.Sql;

namespace Vitrine.Storage.Uses;

/// <summary>Walks along the links and ties of the catalogue: from things to what uses them, and back to what things rest on.</summary>
internal sealed class UsesWalk(SqliteConnection connection, WorkspaceCatalogue catalogue)
{
    /// <summary>What uses: a row of a table, and as what, where that is not what its kind is called.</summary>
    public readonly record struct User(string Kind, string? As, long Id);

    /// <summary>
    /// Everything that uses one of the given things, or something that goes with them; and what uses that, as far as ties lead: from an
    /// observation to its insights and their exhibits.
    /// </summary>
    public IReadOnlyDictionary<User, UseReach> From(string thing, IReadOnlyCollection<long> ids)
    {
        var uses = new Dictionary<User, UseReach>();
        var taken = Taken(thing, ids, uses);
        var next = new Dictionary<string, HashSet<long>>();
        foreach (var (kind, set) in taken)
        {
            foreach (var (of, link) in catalogue.PointingTo(kind).Where(p => p.Of.Title is not null && p.Link.To != "study"))
                Add(
                    of.Table,
                    null,
                    Select($"SELECT x.id FROM {of.Table} x WHERE {link.Points("x", kind, In)}", set),
                    UseReach.Itself,
                    next: null
                );
            foreach (var (of, inside) in catalogue.NamingInside(kind))
                Add(
                    of.Table,
                    null,
                    Select(
                        $"""
                        SELECT DISTINCT x.id FROM {of.Table} x, json_each(x.{inside.Column}, '$.{inside.Property}') i
                        WHERE i.value {In}
                        """,
                        set
                    ),
                    UseReach.Itself,
                    next: null
                );
            Follow(kind, set, UseReach.Itself);
            Live(kind, set);
        }
        while (next.Count > 0)
        {
            var further = next;
            next = [];
            foreach (var (kind, set) in further)
                Follow(kind, set, UseReach.Further);
        }
        return uses;

        void Follow(string kind, IReadOnlyCollection<long> set, UseReach reach)
        {
            foreach (
                var (of, user, used) in Ties()
                    .Where(t => t.Used.To == kind || (t.Used.To == Link.Anything && catalogue.Things.Contains(kind)))
            )
            {
                var users = connection
                    .Query<(string Kind, long Id)>(
                        $"SELECT DISTINCT {user.KindSql("x")}, x.{user.Column} FROM {of.Table} x WHERE {used.Points("x", kind, In)}",
                        new { ids = Ids.Json(set) }
                    )
                    .ToLookup(u => u.Kind, u => u.Id);
                foreach (var found in users)
                    Add(found.Key, of.Ties!.As, found, reach, next);
            }
        }

        // A theme with a tag has what carries the tag.
        void Live(string kind, IReadOnlyCollection<long> set)
        {
            var holders = Holders(kind, set);
            foreach (var (of, user, used) in Ties().Where(t => t.Of.Ties!.Live && holders.ContainsKey(t.Used.To)))
            {
                var users = Select($"SELECT DISTINCT x.{user.Column} FROM {of.Table} x WHERE x.{used.Column} {In}", holders[used.To]);
                Add(user.To, of.Ties!.As, SameStudy(user.To, users, kind, set), UseReach.Within, next);
            }
        }

        void Add(string kind, string? called, IEnumerable<long> found, UseReach reach, Dictionary<string, HashSet<long>>? next)
        {
            foreach (var id in found)
            {
                if (
                    uses.TryAdd(new User(kind, called, id), reach)
                    && next is not null
                    && !(taken.TryGetValue(kind, out var all) && all.Contains(id))
                )
                {
                    if (!next.TryGetValue(kind, out var set))
                        next[kind] = set = [];
                    set.Add(id);
                }
            }
        }
    }

    /// <summary>
    /// The things of one kind on which each of the given ones rests: the observations of an insight, of a theme with its tags, of an
    /// exhibit.
    /// </summary>
    public ILookup<long, long> RestsOn(string thing, IReadOnlyCollection<long> ids, string kind)
    {
        var (rests, seen) = (new HashSet<(long Root, long Id)>(), new HashSet<(string Kind, long Root, long Id)>());
        var left = new Queue<(string Kind, HashSet<(long Root, long Id)> Pairs)>([(thing, [.. ids.Select(id => (id, id))])]);
        var studies = StudiesOf(thing, ids);
        while (left.TryDequeue(out var one))
        {
            foreach (var (of, user, used) in Ties().Where(t => t.User.To == one.Kind || t.User.To == Link.Anything))
            {
                var to = used.To == Link.Anything ? kind : used.To;
                var found = Joined(
                    one.Pairs,
                    $"SELECT x.{user.Column}, x.{used.Column} FROM {of.Table} x "
                        + $"WHERE {user.Points("x", one.Kind, In)} AND {used.KindSql("x")} = '{to}'"
                );
                if (of.Ties!.Live)
                    rests.UnionWith(InStudy(Held(used.To, found, kind)));
                else if (to == kind)
                    rests.UnionWith(found);
                else if (found.Where(p => seen.Add((to, p.Root, p.Id))).ToHashSet() is { Count: > 0 } more)
                    left.Enqueue((to, more));
            }
        }
        return rests.ToLookup(p => p.Root, p => p.Id);

        HashSet<(long Root, long Id)> InStudy(HashSet<(long Root, long Id)> pairs)
        {
            var theirs = StudiesOf(kind, [.. pairs.Select(p => p.Id).Distinct()]);
            return [.. pairs.Where(p => studies.GetValueOrDefault(p.Root) is not { } study || theirs.GetValueOrDefault(p.Id) == study)];
        }
    }

    /// <summary>The things of one kind that a tag or bundle has in it, each with its study; those of its own study where it has
    /// one.</summary>
    public IReadOnlyDictionary<long, long?> HeldBy(string thing, long id, string kind)
    {
        var held = StudiesOf(kind, [.. Held(thing, [(id, id)], kind).Select(h => h.Id)]);
        return StudiesOf(thing, [id]).GetValueOrDefault(id) is { } own ? held.Where(h => h.Value == own).ToDictionary() : held;
    }

    private const string In = "IN (SELECT value FROM json_each(@ids))";

    /// <summary>The things themselves and all that goes with them.</summary>
    private Dictionary<string, HashSet<long>> Taken(string thing, IReadOnlyCollection<long> ids, Dictionary<User, UseReach> uses)
    {
        var taken = new Dictionary<string, HashSet<long>> { [thing] = [.. ids] };
        var left = new Queue<(string Kind, HashSet<long> Ids)>([(thing, [.. ids])]);
        while (left.TryDequeue(out var one))
        {
            foreach (var (of, link) in catalogue.PointingTo(one.Kind).Where(p => p.Of.Title is not null && p.Link.Then == OnRemoval.Goes))
            {
                if (!taken.TryGetValue(of.Table, out var all))
                    taken[of.Table] = all = [];
                var more = Select($"SELECT x.id FROM {of.Table} x WHERE {link.Points("x", one.Kind, In)}", one.Ids)
                    .Where(all.Add)
                    .ToHashSet();
                foreach (var id in more)
                    uses[new User(of.Table, null, id)] = UseReach.Itself;
                if (more.Count > 0)
                    left.Enqueue((of.Table, more));
            }
        }
        return taken;
    }

    /// <summary>What has the given things in it: the tags of observations, the tags above these, bundles.</summary>
    private Dictionary<string, HashSet<long>> Holders(string kind, IReadOnlyCollection<long> set)
    {
        var holders = new Dictionary<string, HashSet<long>>();
        var left = new Queue<(string Kind, HashSet<long> Ids)>([(kind, [.. set])]);
        while (left.TryDequeue(out var one))
        {
            foreach (var (of, user, used) in Ties())
            {
                if (of.Ties!.Holds && user.To == one.Kind)
                    Add(used.To, $"SELECT DISTINCT x.{used.Column} FROM {of.Table} x WHERE x.{user.Column} {In}");
                if (of.Ties.Held && used.To == one.Kind)
                    Add(user.To, $"SELECT DISTINCT x.{user.Column} FROM {of.Table} x WHERE x.{used.Column} {In}");
            }
            foreach (var above in catalogue[one.Kind].Links.Where(l => l.Then == OnRemoval.MovesUp))
                Add(one.Kind, $"SELECT DISTINCT x.{above.Column} FROM {one.Kind} x WHERE x.{above.Column} IS NOT NULL AND x.id {In}");

            void Add(string to, string sql)
            {
                if (!holders.TryGetValue(to, out var all))
                    holders[to] = all = [];
                var more = Select(sql, one.Ids).Where(all.Add).ToHashSet();
                if (more.Count > 0)
                    left.Enqueue((to, more));
            }
        }
        return holders;
    }

    /// <summary>The things of one kind that are in the given ones.</summary>
    private HashSet<(long Root, long Id)> Held(string from, HashSet<(long Root, long Id)> pairs, string kind)
    {
        var (held, seen) = (new HashSet<(long, long)>(), new HashSet<(string, long, long)>());
        var left = new Queue<(string Kind, HashSet<(long Root, long Id)> Pairs)>([(from, pairs)]);
        while (left.TryDequeue(out var one))
        {
            foreach (var (of, user, used) in Ties())
            {
                if (of.Ties!.Holds && used.To == one.Kind)
                    Add(user.To, $"SELECT x.{used.Column}, x.{user.Column} FROM {of.Table} x WHERE x.{used.Column} {In}");
                if (of.Ties.Held && user.To == one.Kind)
                    Add(used.To, $"SELECT x.{user.Column}, x.{used.Column} FROM {of.Table} x WHERE x.{user.Column} {In}");
            }
            foreach (var above in catalogue[one.Kind].Links.Where(l => l.Then == OnRemoval.MovesUp))
                Add(one.Kind, $"SELECT x.{above.Column}, x.id FROM {one.Kind} x WHERE x.{above.Column} {In}");

            void Add(string to, string sql)
            {
                var more = Joined(one.Pairs, sql).Where(p => seen.Add((to, p.Root, p.Id))).ToHashSet();
                if (to == kind)
                    held.UnionWith(more);
                if (more.Count > 0)
                    left.Enqueue((to, more));
            }
        }
        return held;
    }

    private IEnumerable<(Declaration Of, Link User, Link Used)> Ties() =>
        catalogue
            .Tables.Where(t => t.Ties is not null)
            .Select(t => (t, t.Links.Single(l => l.Column == t.Ties!.User), t.Links.Single(l => l.Column == t.Ties!.Used)));

    private IEnumerable<long> SameStudy(string kind, IReadOnlyCollection<long> ids, string thing, IReadOnlyCollection<long> of)
    {
        var (theirs, studies) = (StudiesOf(kind, ids), StudiesOf(thing, of).Values.ToHashSet());
        return studies.Contains(null) ? ids : ids.Where(id => theirs.GetValueOrDefault(id) is not { } study || studies.Contains(study));
    }

    /// <summary>The study of each of these things that is there; null for what belongs to none.</summary>
    public Dictionary<long, long?> StudiesOf(string kind, IReadOnlyCollection<long> ids) =>
        connection
            .Query<(long Id, long? Study)>($"{catalogue.OwnersSql(kind)} WHERE x.id {In}", new { ids = Ids.Json(ids) })
            .ToDictionary(o => o.Id, o => o.Study);

    private IReadOnlyCollection<long> Select(string sql, IReadOnlyCollection<long> ids) =>
        ids.Count == 0 ? [] : connection.Query<long>(sql, new { ids = Ids.Json(ids) }).AsList();

    private HashSet<(long Root, long Id)> Joined(HashSet<(long Root, long Id)> pairs, string sql)
    {
        var roots = pairs.ToLookup(p => p.Id, p => p.Root);
        return connection
            .Query<(long From, long? To)>(sql, new { ids = Ids.Json(roots.Select(r => r.Key)) })
            .Where(f => f.To is not null)
            .SelectMany(f => roots[f.From].Select(root => (root, f.To!.Value)))
            .ToHashSet();
    }
}
