using Dapper;
using Microsoft.Data.Sqlite;
using Vitrine.Core.Counting;
using Vitrine.Core.Mark.Observations;
using Vitrine.Storage.Anchors;
using Vitrine.Storage.Sql;
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
    private readonly Dictionary<StudyId, (long Edition, long Used, StudyIndex Index)> kept = [];
    private long uses;

    /// <summary>
    /// The study as it is now. The same object as long as nothing that is counted was written; single changes are taken into a copy of its
    /// arrays.
    /// </summary>
    public StudyIndex Load(StudyId studyId)
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
            if (kept.Count > MostKept)
                kept.Remove(kept.MinBy(k => k.Value.Used).Key);
        }
        return index;
    }

    /// <summary>The study with what has changed since; read anew where single changes do not tell enough.</summary>
    private StudyIndex Following(StudyIndex before, IReadOnlyList<StepNews> news)
    {
        var touched = news.SelectMany(n => n.Tables).ToHashSet();
        if (touched.Overlaps(Ground))
            return Read(before.StudyId);
        if (!touched.Overlaps([.. Marked, Tag, BundleTag, Begun, Search]))
            return before;
        var changed = new HashSet<ObservationId>();
        foreach (var step in news.Where(n => n.Tables.Any(Marked.Contains)))
        {
            if (step.Observations is not { } some)
                return Read(before.StudyId);
            changed.UnionWith(some);
        }
        using var connection = workspace.Open();
        using var snapshot = connection.BeginTransaction(deferred: true);
        return Patched(connection, before, changed, touched) ?? StudyReader.Read(connection, before.StudyId);
    }

    // What the arrays are made of, by the table in which it stands.
    private static readonly HashSet<string> Ground =
    [
        "source",
        "participant",
        "turn",
        "speaker",
        "source_participant",
        "session_participant",
    ];
    private static readonly HashSet<string> Marked = ["observation", "observation_tag"];
    private const string Tag = "tag";
    private const string BundleTag = "bundle_tag";
    private const string Begun = "reading";
    private const string Search = "tag_search";

    /// <summary>
    /// A study's arrays with some observations read anew, each put in its place; and its tags and its scope, where they have changed. Null
    /// when something does not fit together.
    /// </summary>
    private static StudyIndex? Patched(
        SqliteConnection connection,
        StudyIndex before,
        HashSet<ObservationId> changed,
        HashSet<string> touched
    )
    {
        var old = before.Marks;
        var (tags, tree, links) = (before.Tags, old.Tags, old.TagOf);
        if (touched.Contains(Tag) || touched.Contains(BundleTag))
        {
            (tags, tree) = StudyReader.LoadTags(connection, before.StudyId);
            if (!before.Tags.AsSpan().SequenceEqual(tags.AsSpan(0, Math.Min(tags.Length, before.Tags.Length))))
            {
                var placeNow = StudyReader.Places(tags);
                var moved = before.Tags.Select(t => placeNow.GetValueOrDefault(t, -1)).ToArray();
                links = [.. old.TagOf.Select(t => moved[t])];
            }
        }
        var sourcePlace = StudyReader.Places(before.Sources.Select(s => s.Id));
        var rows = connection
            .Query<Row>(
                $"""
                SELECT o.id, o.source_id, o.found, {AnchorRow.Columns} FROM observation o WHERE o.study_id = @StudyId
                AND o.id IN (SELECT value FROM json_each(@ids))
                """,
                new { before.StudyId, ids = Ids.Json(changed) }
            )
            .ToList();
        if (rows.Any(r => !sourcePlace.ContainsKey(r.SourceId)))
            return null;
        var tagPlace = StudyReader.Places(tags);
        var tagged = connection
            .Query<(ObservationId Observation, TagId Tag)>(
                """
                SELECT observation_id, tag_id FROM observation_tag WHERE observation_id IN (SELECT value FROM json_each(@ids))
                ORDER BY tag_id
                """,
                new { ids = Ids.Json(changed) }
            )
            .Where(t => tagPlace.ContainsKey(t.Tag))
            .ToLookup(t => t.Observation, t => tagPlace[t.Tag]);
        var turns = StudyReader.LoadTurns(
            connection,
            before.Sources,
            StudyReader.Places(before.People),
            rows.Select(r => r.SourceId).ToHashSet()
        );
        var fresh = rows.Select(r =>
                (r.Id, Source: sourcePlace[r.SourceId], r.Anchor, r.Found, Key: (sourcePlace[r.SourceId], r.Start ?? -1, r.Id))
            )
            .OrderBy(r => r.Key)
            .ToList();

        // Runs of the old arrays are copied whole; between them stand the fresh ones.
        var gone = PlacesOf(before.Observations, changed);
        var count = before.Observations.Length - gone.Count + fresh.Count;
        var (ids, sourceOf, personOf, anchorOf, starts) = (
            new ObservationId[count],
            new int[count],
            new int?[count],
            new Anchor[count],
            new int[count + 1]
        );
        var found = old.NotReviewed is not null || fresh.Exists(f => f.Found) ? new bool[count] : null;
        var tagOf = new int[links.Length - gone.Sum(o => old.TagStarts[o + 1] - old.TagStarts[o]) + fresh.Sum(f => tagged[f.Id].Count())];
        var tagsAt = 0;
        var (at, next, hole) = (0, 0, 0);
        for (var o = 0; o <= before.Observations.Length; )
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
                if (old.NotReviewed is { } foundBefore)
                    Array.Copy(foundBefore, o, found!, at, end - o);
                var (shift, length) = (tagsAt - old.TagStarts[o], old.TagStarts[end] - old.TagStarts[o]);
                for (var i = o; i < end; i++)
                    starts[at++] = old.TagStarts[i] + shift;
                Array.Copy(links, old.TagStarts[o], tagOf, tagsAt, length);
                tagsAt += length;
                o = end;
            }
            if (next < fresh.Count && insert <= o)
            {
                var one = fresh[next++];
                (ids[at], sourceOf[at], anchorOf[at], starts[at]) = (one.Id, one.Source, one.Anchor, tagsAt);
                if (found is not null)
                    found[at] = one.Found;
                personOf[at++] = Attribution.PersonOf(one.Anchor, turns[one.Source], before.OnlyOf(one.Source));
                foreach (var tag in tagged[one.Id])
                    tagOf[tagsAt++] = tag;
            }
            else if (o == before.Observations.Length && next == fresh.Count)
                break;
        }
        starts[count] = tagsAt;
        if (touched.Contains(Tag) && Array.IndexOf(tagOf, -1) >= 0)
            return null;
        return before.With(
            ids,
            tags,
            touched.Contains(Begun)
                ? StudyReader.InScope(connection, before.StudyId, sourcePlace, before.PeopleOf, before.People.Length)
                : before.InScope,
            new StudyMarks
            {
                SourceOf = sourceOf,
                PersonOf = personOf,
                AnchorOf = anchorOf,
                NotReviewed = found,
                TagStarts = starts,
                TagOf = tagOf,
                Tags = tree,
                SourceCount = old.SourceCount,
                PersonCount = old.PersonCount,
            },
            touched.Overlaps([Tag, BundleTag, Search])
                ? StudyReader.Searched(
                    connection,
                    before.StudyId,
                    sourcePlace,
                    StudyReader.Places(tags),
                    tree,
                    before.PeopleOf,
                    before.People.Length
                )
                : before.Searched
        );
    }

    // Each looked for in the row of ids, which the processor does many at once; or all of them in one walk.
    private static List<int> PlacesOf(ObservationId[] ids, HashSet<ObservationId> wanted) =>
        wanted.Count <= 16
            ? [.. wanted.Select(id => Array.IndexOf(ids, id)).Where(place => place >= 0).Order()]
            : [.. Enumerable.Range(0, ids.Length).Where(o => wanted.Contains(ids[o]))];

    /// <summary>
    /// Before which observation one belongs that stands there, in the order of the arrays: by source, place in its text, id.
    /// </summary>
    private static int PlaceFor(StudyIndex index, (int Source, int Start, ObservationId Id) key)
    {
        var (low, high) = (0, index.Observations.Length);
        while (low < high)
        {
            var middle = (low + high) / 2;
            var there = (
                index.Marks.SourceOf[middle],
                index.Marks.AnchorOf[middle] is TextAnchor text ? text.Start : -1,
                index.Observations[middle]
            );
            if (there.CompareTo(key) < 0)
                low = middle + 1;
            else
                high = middle;
        }
        return low;
    }

    private sealed record Row : AnchorRow
    {
        public ObservationId Id { get; init; }
        public SourceId SourceId { get; init; }
        public bool Found { get; init; }
    }

    private StudyIndex Read(StudyId studyId)
    {
        using var connection = workspace.Open();
        using var snapshot = connection.BeginTransaction(deferred: true);
        return StudyReader.Read(connection, studyId);
    }
}
