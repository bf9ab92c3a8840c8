using Dapper;
using Microsoft.Data.Sqlite;
using Vitrine.Core.Counting;
using Vitrine.Core.Gather;
using Vitrine.Core.Mark.Observations;
using Vitrine.Core.Tagging;
using Vitrine.Core.Text;
using Vitrine.Storage.Quotes;
using Vitrine.Storage.Trail;

namespace Vitrine.Storage.Counting;

/// <summary>
/// Loads a study's marks for counting, and keeps the studies used last until they change.
/// </summary>
public sealed class StudyIndexStore(Workspace workspace)
{
    /// <summary>How many studies are kept at once.</summary>
    public const int MostKept = 8;

    private readonly Lock gate = new();
    private readonly Dictionary<long, (long Edition, long Used, StudyIndex Index)> kept = [];
    private long uses;

    /// <summary>The study as it is now. The same object as long as nothing that is counted was written; single changes are taken into a copy of its arrays.</summary>
    public StudyIndex Load(long studyId)
    {
        // Asked first: what is written while it is being read is taken in again at the next call, which does no harm.
        var edition = workspace.Edition;
        StudyIndex? before = null;
        IReadOnlyList<StepNews>? news = null;
        lock (gate)
        {
            if (kept.TryGetValue(studyId, out var found))
            {
                news = workspace.NewsSince(studyId, found.Edition);
                before = found.Index;
            }
        }
        var index = before is null || news is null ? Read(studyId) : Following(before, news);
        lock (gate)
        {
            kept[studyId] = (edition, ++uses, index);
            if (kept.Count > MostKept) kept.Remove(kept.MinBy(k => k.Value.Used).Key);
        }
        return index;
    }

    /// <summary>The study with what has changed since; read anew where single changes do not tell enough.</summary>
    private StudyIndex Following(StudyIndex before, IReadOnlyList<StepNews> news)
    {
        var touched = news.SelectMany(n => n.Tables).ToHashSet();
        if (touched.Overlaps(Ground)) return Read(before.StudyId);
        if (!touched.Overlaps([.. Marked, Tag, Begun])) return before;
        var changed = new HashSet<long>();
        foreach (var step in news.Where(n => n.Tables.Any(Marked.Contains)))
        {
            if (step.Observations is not { } some) return Read(before.StudyId);
            changed.UnionWith(some);
        }
        using var connection = workspace.Open();
        using var snapshot = connection.BeginTransaction(deferred: true);
        return Patched(connection, before, changed, touched) ?? Read(connection, before.StudyId);
    }

    // What the arrays are made of, by the table in which it stands.
    private static readonly HashSet<string> Ground = ["source", "participant", "turn", "speaker", "source_participant", "session_participant"];
    private static readonly HashSet<string> Marked = ["observation", "observation_tag"];
    private const string Tag = "tag";
    private const string Begun = "reading";

    /// <summary>A study's arrays with some observations read anew, each put in its place; and its tags and its scope, where they have changed. Null when something does not fit together.</summary>
    private static StudyIndex? Patched(SqliteConnection connection, StudyIndex before, HashSet<long> changed, HashSet<string> touched)
    {
        var old = before.Marks;
        var (tags, tree, links) = (before.Tags, old.Tags, old.TagOf);
        if (touched.Contains(Tag))
        {
            (tags, tree) = LoadTags(connection, before.StudyId);
            if (!before.Tags.AsSpan().SequenceEqual(tags.AsSpan(0, Math.Min(tags.Length, before.Tags.Length))))
            {
                var placeNow = Places(tags);
                var moved = before.Tags.Select(t => placeNow.GetValueOrDefault(t, -1)).ToArray();
                links = [.. old.TagOf.Select(t => moved[t])];
            }
        }
        var sourcePlace = Places(before.Sources.Select(s => s.Id));
        var rows = connection.Query<Row>($"SELECT o.id, o.source_id, {AnchorRow.Columns} FROM observation o WHERE o.study_id = @StudyId AND o.id IN (SELECT value FROM json_each(@ids))", new { before.StudyId, ids = Ids.Json(changed) }).ToList();
        if (rows.Any(r => !sourcePlace.ContainsKey(r.SourceId))) return null;
        var tagPlace = Places(tags);
        var tagged = connection.Query<(long Observation, long Tag)>("SELECT observation_id, tag_id FROM observation_tag WHERE observation_id IN (SELECT value FROM json_each(@ids)) ORDER BY tag_id", new { ids = Ids.Json(changed) })
            .Where(t => tagPlace.ContainsKey(t.Tag)).ToLookup(t => t.Observation, t => tagPlace[t.Tag]);
        var turns = LoadTurns(connection, before.Sources, Places(before.People), rows.Select(r => r.SourceId).ToHashSet());
        var fresh = rows.Select(r => (r.Id, Source: sourcePlace[r.SourceId], r.Anchor, Key: (sourcePlace[r.SourceId], r.Start ?? -1, r.Id))).OrderBy(r => r.Key).ToList();

        // Runs of the old arrays are copied whole; between them stand the fresh ones.
        var gone = PlacesOf(before.Observations, changed);
        var count = before.Observations.Length - gone.Count + fresh.Count;
        var (ids, sourceOf, personOf, anchorOf, starts) = (new long[count], new int[count], new int[count], new Anchor[count], new int[count + 1]);
        var tagOf = new int[links.Length - gone.Sum(o => old.TagStarts[o + 1] - old.TagStarts[o]) + fresh.Sum(f => tagged[f.Id].Count())];
        var tagsAt = 0;
        var (at, next, hole) = (0, 0, 0);
        for (var o = 0; o <= before.Observations.Length;)
        {
            if (hole < gone.Count && gone[hole] == o)
            {
                hole++;
                o++;
                continue;
            }
            var insert = next < fresh.Count ? PlaceFor(before, fresh[next].Key) : before.Observations.Length + 1;
            var end = Math.Min(hole < gone.Count ? gone[hole] : before.Observations.Length, insert);
            if (end > o)
            {
                Array.Copy(before.Observations, o, ids, at, end - o);
                Array.Copy(old.SourceOf, o, sourceOf, at, end - o);
                Array.Copy(old.PersonOf, o, personOf, at, end - o);
                Array.Copy(old.AnchorOf, o, anchorOf, at, end - o);
                var (shift, length) = (tagsAt - old.TagStarts[o], old.TagStarts[end] - old.TagStarts[o]);
                for (var i = o; i < end; i++) starts[at++] = old.TagStarts[i] + shift;
                Array.Copy(links, old.TagStarts[o], tagOf, tagsAt, length);
                tagsAt += length;
                o = end;
            }
            if (next < fresh.Count && insert <= o)
            {
                var one = fresh[next++];
                (ids[at], sourceOf[at], anchorOf[at], starts[at]) = (one.Id, one.Source, one.Anchor, tagsAt);
                personOf[at++] = Attribution.PersonOf(one.Anchor, turns[one.Source], before.PeopleOf[one.Source]);
                foreach (var tag in tagged[one.Id]) tagOf[tagsAt++] = tag;
            }
            else if (o == before.Observations.Length && next == fresh.Count) break;
        }
        starts[count] = tagsAt;
        if (touched.Contains(Tag) && Array.IndexOf(tagOf, -1) >= 0) return null;
        return before.With(ids, tags, touched.Contains(Begun) ? InScope(connection, before.StudyId, sourcePlace, before.PeopleOf, before.People.Length) : before.InScope, new StudyMarks
        {
            SourceOf = sourceOf,
            PersonOf = personOf,
            AnchorOf = anchorOf,
            TagStarts = starts,
            TagOf = tagOf,
            Tags = tree,
            SourceCount = old.SourceCount,
            PersonCount = old.PersonCount,
        });
    }

    // Each looked for in the row of ids, which the processor does many at once; or all of them in one walk.
    private static List<int> PlacesOf(long[] ids, HashSet<long> wanted) => wanted.Count <= 16
        ? [.. wanted.Select(id => Array.IndexOf(ids, id)).Where(place => place >= 0).Order()]
        : [.. Enumerable.Range(0, ids.Length).Where(o => wanted.Contains(ids[o]))];

    /// <summary>Before which observation one belongs that stands there, in the order of the arrays: by source, place in its text, id.</summary>
    private static int PlaceFor(StudyIndex index, (int Source, int Start, long Id) key)
    {
        var (low, high) = (0, index.Observations.Length);
        while (low < high)
        {
            var middle = (low + high) / 2;
            var there = (index.Marks.SourceOf[middle], index.Marks.AnchorOf[middle] is TextAnchor text ? text.Start : -1, index.Observations[middle]);
            if (there.CompareTo(key) < 0) low = middle + 1;
            else high = middle;
        }
        return low;
    }

    private static bool[] InScope(SqliteConnection connection, long studyId, Dictionary<long, int> sourcePlace, HashSet<int>[] peopleOf, int people)
    {
        var begun = connection.Query<long>("SELECT DISTINCT r.source_id FROM reading r JOIN source s ON s.id = r.source_id WHERE s.study_id = @studyId", new { studyId }).Where(sourcePlace.ContainsKey).Select(id => sourcePlace[id]).ToHashSet();
        return [.. Enumerable.Range(0, people).Select(p => begun.Any(s => peopleOf[s].Contains(p)))];
    }

    private sealed record Row : AnchorRow
    {
        public long Id { get; init; }
        public long SourceId { get; init; }
    }

    private StudyIndex Read(long studyId)
    {
        using var connection = workspace.Open();
        using var snapshot = connection.BeginTransaction(deferred: true);
        return Read(connection, studyId);
    }

    /// <summary>A study as it stands in the caller's snapshot.</summary>
    /// <param name="only">The only sources whose observations are wanted; null for all.</param>
    internal static StudyIndex Read(SqliteConnection connection, long studyId, IReadOnlySet<long>? only = null)
    {
        var sources = connection.Query<(long Id, string Title, string Kind)>("SELECT id, title, kind FROM source WHERE study_id = @studyId ORDER BY position, id", new { studyId })
            .Select(s => new IndexedSource(s.Id, s.Title, Enum.Parse<SourceKind>(s.Kind, ignoreCase: true))).ToArray();
        var people = connection.Query<long>("SELECT id FROM participant WHERE study_id = @studyId ORDER BY position, id", new { studyId }).ToArray();
        var sourcePlace = Places(sources.Select(s => s.Id));
        var personPlace = Places(people);
        var (tags, tree) = LoadTags(connection, studyId);
        var turns = LoadTurns(connection, sources, personPlace, only);
        var peopleOf = LoadPeopleOfSources(connection, studyId, sourcePlace, personPlace);

        var (ids, sourceOf, anchors) = LoadObservations(connection, sources, only);
        var (tagStarts, tagOf) = LoadTagLinks(connection, ids, Places(tags));
        return new StudyIndex
        {
            StudyId = studyId,
            Observations = [.. ids],
            Sources = sources,
            People = people,
            Tags = tags,
            PeopleOf = peopleOf,
            InScope = InScope(connection, studyId, sourcePlace, peopleOf, people.Length),
            Marks = new StudyMarks
            {
                SourceOf = [.. sourceOf],
                PersonOf = [.. ids.Select((_, o) => Attribution.PersonOf(anchors[o], turns[sourceOf[o]], peopleOf[sourceOf[o]]))],
                AnchorOf = [.. anchors],
                TagStarts = tagStarts,
                TagOf = tagOf,
                Tags = tree,
                SourceCount = sources.Length,
                PersonCount = people.Length,
            },
        };
    }

    private static (long[] Ids, TagTree Tree) LoadTags(SqliteConnection connection, long studyId)
    {
        var rows = connection.Query<(long Id, long? Parent)>("SELECT id, parent_id FROM tag WHERE study_id IS NULL OR study_id = @studyId ORDER BY position, id", new { studyId }).ToList();
        var place = Places(rows.Select(r => r.Id));
        return ([.. rows.Select(r => r.Id)], new TagTree([.. rows.Select(r => r.Parent is { } p && place.TryGetValue(p, out var at) ? at : -1)]));
    }

    // The three large tables are read row by row without an object for each, source by source along their indices.
    private static (List<long> Ids, List<int> SourceOf, List<Anchor> Anchors) LoadObservations(SqliteConnection connection, IndexedSource[] sources, IReadOnlySet<long>? only)
    {
        var (ids, sourceOf, anchors) = (new List<long>(), new List<int>(), new List<Anchor>());
        using var command = connection.CreateCommand();
        command.CommandText = "SELECT id, start, \"end\", begin_ms, end_ms, x, y, width, height FROM observation WHERE source_id = $source ORDER BY start, id";
        var source = command.Parameters.Add("$source", SqliteType.Integer);
        for (var place = 0; place < sources.Length; place++)
        {
            if (only?.Contains(sources[place].Id) == false) continue;
            source.Value = sources[place].Id;
            using var row = command.ExecuteReader();
            while (row.Read())
            {
                ids.Add(row.GetInt64(0));
                sourceOf.Add(place);
                anchors.Add(AnchorIn(row));
            }
        }
        return (ids, sourceOf, anchors);
    }

    private static Anchor AnchorIn(SqliteDataReader row)
    {
        if (!row.IsDBNull(1)) return new TextAnchor(new TextRange(row.GetInt32(1), row.GetInt32(2)));
        int? moment = row.IsDBNull(3) ? null : row.GetInt32(3);
        return row.IsDBNull(5) ? new TimeAnchor(moment!.Value, row.GetInt32(4)) : new RegionAnchor(row.GetInt32(5), row.GetInt32(6), row.GetInt32(7), row.GetInt32(8), moment);
    }

    private static List<SpokenTurn>[] LoadTurns(SqliteConnection connection, IndexedSource[] sources, Dictionary<long, int> personPlace, IReadOnlySet<long>? only)
    {
        using var command = connection.CreateCommand();
        command.CommandText = "SELECT t.start, t.\"end\", p.participant_id, t.begin_ms, t.end_ms FROM turn t LEFT JOIN speaker p ON p.id = t.speaker_id WHERE t.source_id = $source ORDER BY t.start";
        var source = command.Parameters.Add("$source", SqliteType.Integer);
        return [.. sources.Select(s =>
        {
            var turns = new List<SpokenTurn>();
            if (only?.Contains(s.Id) == false) return turns;
            source.Value = s.Id;
            using var row = command.ExecuteReader();
            while (row.Read()) turns.Add(new SpokenTurn(new TextRange(row.GetInt32(0), row.GetInt32(1)), row.IsDBNull(2) ? null : personPlace[row.GetInt64(2)], row.IsDBNull(3) ? null : row.GetInt32(3), row.IsDBNull(4) ? null : row.GetInt32(4)));
            return turns;
        })];
    }

    private static HashSet<int>[] LoadPeopleOfSources(SqliteConnection connection, long studyId, Dictionary<long, int> sourcePlace, Dictionary<long, int> personPlace)
    {
        var people = sourcePlace.Select(_ => new HashSet<int>()).ToArray();
        foreach (var (source, person) in connection.Query<(long Source, long Person)>("SELECT source_id, participant_id FROM source_person WHERE study_id = @studyId", new { studyId }))
        {
            people[sourcePlace[source]].Add(personPlace[person]);
        }
        return people;
    }

    private static (int[] Starts, int[] Tags) LoadTagLinks(SqliteConnection connection, List<long> observations, Dictionary<long, int> tagPlace)
    {
        var place = new Dictionary<long, int>(observations.Count);
        for (var o = 0; o < observations.Count; o++) place[observations[o]] = o;
        var links = new List<(int Observation, int Tag)>(observations.Count * 2);
        using var command = connection.CreateCommand();
        // One walk along the index of links, rather than a look-up for each observation; other studies' links between are passed over.
        command.CommandText = "SELECT observation_id, tag_id FROM observation_tag WHERE observation_id BETWEEN $first AND $last";
        command.Parameters.AddWithValue("$first", observations.Count > 0 ? observations.Min() : 0);
        command.Parameters.AddWithValue("$last", observations.Count > 0 ? observations.Max() : 0);
        using var row = command.ExecuteReader();
        while (row.Read())
        {
            if (place.TryGetValue(row.GetInt64(0), out var o)) links.Add((o, tagPlace[row.GetInt64(1)]));
        }
        // Brought into the order of observations by counting how many each has.
        var starts = new int[observations.Count + 1];
        foreach (var (observation, _) in links) starts[observation + 1]++;
        for (var o = 0; o < observations.Count; o++) starts[o + 1] += starts[o];
        var tags = new int[links.Count];
        var next = (int[])starts.Clone();
        foreach (var (observation, tag) in links) tags[next[observation]++] = tag;
        return (starts, tags);
    }

    private static Dictionary<long, int> Places(IEnumerable<long> ids) => ids.Select((id, i) => (id, i)).ToDictionary(x => x.id, x => x.i);
}
