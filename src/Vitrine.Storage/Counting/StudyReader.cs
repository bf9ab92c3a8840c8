using Dapper;
using Microsoft.Data.Sqlite;
using Vitrine.Core.Counting;
using Vitrine.Core.Gather.Sources;
using Vitrine.Core.Ids;
using Vitrine.Core.Mark.Observations;
using Vitrine.Core.Sort.TagSet;
using Vitrine.Core.Text;
using Vitrine.Storage.Anchors;

namespace Vitrine.Storage.Counting;

/// <summary>Reads a study into arrays.</summary>
internal static class StudyReader
{
    /// <summary>A study as it stands in the caller's snapshot.</summary>
    /// <param name="only">The only sources whose observations are wanted; null for all.</param>
    public static StudyIndex Read(SqliteConnection connection, StudyId studyId, IReadOnlySet<SourceId>? only = null)
    {
        var sources = Sources(connection, studyId);
        var people = connection
            .Query<ParticipantId>("SELECT id FROM participant WHERE study_id = @studyId ORDER BY position, id", new { studyId })
            .ToArray();
        var sourcePlace = Places(sources.Select(s => s.Id));
        var personPlace = Places(people);
        var (tags, tree) = LoadTags(connection, studyId);
        var turns = LoadTurns(connection, sources, personPlace, only);
        var peopleOf = PeopleOfSources(connection, studyId, sourcePlace, personPlace);

        var (ids, sourceOf, anchors, found) = LoadObservations(connection, sources, only);
        var (tagStarts, tagOf) = LoadTagLinks(connection, ids, Places(tags));
        IReadOnlyCollection<int> Only(int source) => sources[source].SomebodyErased ? [] : peopleOf[source];
        return new StudyIndex
        {
            StudyId = studyId,
            Observations = [.. ids],
            Sources = sources,
            People = people,
            Tags = tags,
            PeopleOf = peopleOf,
            InScope = InScope(connection, studyId, sourcePlace, peopleOf, people.Length),
            Searched = Searched(connection, studyId, sourcePlace, Places(tags), tree, peopleOf, people.Length),
            Marks = new StudyMarks
            {
                SourceOf = [.. sourceOf],
                PersonOf = [.. ids.Select((_, o) => Attribution.PersonOf(anchors[o], turns[sourceOf[o]], Only(sourceOf[o])))],
                AnchorOf = [.. anchors],
                NotReviewed = found.Contains(true) ? [.. found] : null,
                TagStarts = tagStarts,
                TagOf = tagOf,
                Tags = tree,
                SourceCount = sources.Length,
                PersonCount = people.Length,
            },
        };
    }

    public static IndexedSource[] Sources(SqliteConnection connection, StudyId studyId) =>
        connection
            .Query<(SourceId Id, string Title, string Kind, bool Erased)>(
                "SELECT id, title, kind, people_erased > 0 FROM source WHERE study_id = @studyId ORDER BY position, id",
                new { studyId }
            )
            .Select(s => new IndexedSource(s.Id, s.Title, Enum.Parse<SourceKind>(s.Kind, ignoreCase: true), s.Erased))
            .ToArray();

    public static (TagId[] Ids, TagTree Tree) LoadTags(SqliteConnection connection, StudyId studyId)
    {
        var rows = connection
            .Query<(TagId Id, TagId? Parent)>(
                "SELECT id, parent_id FROM tag WHERE study_id IS NULL OR study_id = @studyId ORDER BY position, id",
                new { studyId }
            )
            .ToList();
        var place = Places(rows.Select(r => r.Id));
        var members = connection
            .Query<(TagId Bundle, TagId Tag)>("SELECT bundle_id, tag_id FROM bundle_tag")
            .Where(m => place.ContainsKey(m.Bundle) && place.ContainsKey(m.Tag))
            .Select(m => (place[m.Bundle], place[m.Tag]));
        return (
            [.. rows.Select(r => r.Id)],
            new TagTree([.. rows.Select(r => r.Parent is { } p && place.TryGetValue(p, out var at) ? at : -1)], [.. members])
        );
    }

    // The three large tables are read row by row without an object for each, source by source along their indices.
    private static (List<ObservationId> Ids, List<int> SourceOf, List<Anchor> Anchors, List<bool> Found) LoadObservations(
        SqliteConnection connection,
        IndexedSource[] sources,
        IReadOnlySet<SourceId>? only
    )
    {
        var (ids, sourceOf, anchors, found) = (new List<ObservationId>(), new List<int>(), new List<Anchor>(), new List<bool>());
        using var command = connection.CreateCommand();
        command.CommandText = """
            SELECT id, start, "end", begin_ms, end_ms, x, y, width, height, outline, found
            FROM observation WHERE source_id = $source ORDER BY start, id
            """;
        var source = command.Parameters.Add("$source", SqliteType.Integer);
        for (var place = 0; place < sources.Length; place++)
        {
            if (only?.Contains(sources[place].Id) == false)
                continue;
            source.Value = sources[place].Id.Value;
            using var row = command.ExecuteReader();
            while (row.Read())
            {
                ids.Add(row.GetInt64(0));
                sourceOf.Add(place);
                anchors.Add(AnchorRow.Read(row, 1));
                found.Add(row.GetBoolean(10));
            }
        }
        return (ids, sourceOf, anchors, found);
    }

    public static List<SpokenTurn>[] LoadTurns(
        SqliteConnection connection,
        IndexedSource[] sources,
        Dictionary<ParticipantId, int> personPlace,
        IReadOnlySet<SourceId>? only
    )
    {
        var transcripts = TranscriptsOf(connection, sources);
        using var command = connection.CreateCommand();
        command.CommandText = """
            SELECT t.start, t."end", p.participant_id, t.begin_ms + $offset, t.end_ms + $offset, p.id IS NOT NULL
            FROM turn t LEFT JOIN speaker p ON p.id = t.speaker_id WHERE t.source_id = $source ORDER BY t.start
            """;
        var source = command.Parameters.Add("$source", SqliteType.Integer);
        var offset = command.Parameters.Add("$offset", SqliteType.Integer);
        return
        [
            .. sources.Select(s =>
            {
                var turns = new List<SpokenTurn>();
                if (only?.Contains(s.Id) == false)
                    return turns;
                // Who speaks in a recording, its transcript tells.
                (source.Value, offset.Value) = transcripts.TryGetValue(s.Id, out var written)
                    ? (written.Transcript.Value, written.Offset)
                    : (s.Id.Value, 0);
                using var row = command.ExecuteReader();
                while (row.Read())
                    turns.Add(
                        new SpokenTurn(
                            new TextRange(row.GetInt32(0), row.GetInt32(1)),
                            row.IsDBNull(3) ? null : row.GetInt32(3),
                            row.IsDBNull(4) ? null : row.GetInt32(4),
                            row.IsDBNull(2) ? null : personPlace[row.GetInt64(2)],
                            row.GetBoolean(5)
                        )
                    );
                return turns;
            }),
        ];
    }

    /// <summary>
    /// The first transcript of each recording that has one, with what is added to its times to have the recording's. What a stand-in made
    /// up tells of nobody.
    /// </summary>
    private static Dictionary<SourceId, (SourceId Transcript, int Offset)> TranscriptsOf(
        SqliteConnection connection,
        IndexedSource[] sources
    )
    {
        var found = new Dictionary<SourceId, (SourceId, int)>();
        if (sources.Length == 0)
            return found;
        foreach (
            var (recording, transcript, offset, recordingOffset) in connection.Query<(SourceId, SourceId, int, int)>(
                """
                WITH heard AS (
                  SELECT r.id, r.session_id FROM source r JOIN media m ON m.id = r.media_id JOIN recording q ON q.hash = m.hash
                  WHERE r.study_id = (SELECT study_id FROM source WHERE id = @any)
                )
                SELECT i.recording_id, i.transcript_id, i.offset_ms, i.recording_offset_ms
                FROM source s JOIN in_step i ON i.transcript_id = s.id
                WHERE s.length > 0 AND s.written_by IS NOT 'simulated'
                  AND (i.attached OR EXISTS (SELECT 1 FROM turn t WHERE t.source_id = s.id AND t.begin_ms IS NOT NULL))
                  AND (s.in_step_with_id IN (SELECT id FROM heard) OR s.session_id IN (SELECT session_id FROM heard))
                  AND i.recording_id IN (SELECT id FROM heard)
                ORDER BY i.attached DESC, s.position, s.id
                """,
                new { any = sources[0].Id }
            )
        )
            found.TryAdd(recording, (transcript, Core.Mark.Recordings.SessionClock.Shift(offset, recordingOffset)));
        return found;
    }

    public static HashSet<int>[] PeopleOfSources(
        SqliteConnection connection,
        StudyId studyId,
        Dictionary<SourceId, int> sourcePlace,
        Dictionary<ParticipantId, int> personPlace
    )
    {
        var people = sourcePlace.Select(_ => new HashSet<int>()).ToArray();
        foreach (
            var (source, person) in connection.Query<(SourceId Source, ParticipantId Person)>(
                "SELECT source_id, participant_id FROM source_person WHERE study_id = @studyId",
                new { studyId }
            )
        )
        {
            people[sourcePlace[source]].Add(personPlace[person]);
        }
        return people;
    }

    private static (int[] Starts, int[] Tags) LoadTagLinks(
        SqliteConnection connection,
        List<ObservationId> observations,
        Dictionary<TagId, int> tagPlace
    )
    {
        var place = new Dictionary<ObservationId, int>(observations.Count);
        for (var o = 0; o < observations.Count; o++)
            place[observations[o]] = o;
        var links = new List<(int Observation, int Tag)>(observations.Count * 2);
        using var command = connection.CreateCommand();
        // One walk along the index of links, rather than a look-up for each observation; other studies' links between are passed over.
        command.CommandText = "SELECT observation_id, tag_id FROM observation_tag WHERE observation_id BETWEEN $first AND $last";
        command.Parameters.AddWithValue("$first", observations.Count > 0 ? observations.Min().Value : 0);
        command.Parameters.AddWithValue("$last", observations.Count > 0 ? observations.Max().Value : 0);
        using var row = command.ExecuteReader();
        while (row.Read())
        {
            if (place.TryGetValue(row.GetInt64(0), out var o))
                links.Add((o, tagPlace[row.GetInt64(1)]));
        }
        // Brought into the order of observations by counting how many each has.
        var starts = new int[observations.Count + 1];
        foreach (var (observation, _) in links)
            starts[observation + 1]++;
        for (var o = 0; o < observations.Count; o++)
            starts[o + 1] += starts[o];
        var tags = new int[links.Count];
        var next = (int[])starts.Clone();
        foreach (var (observation, tag) in links)
            tags[next[observation]++] = tag;
        return (starts, tags);
    }

    public static Dictionary<Id<TKind>, int> Places<TKind>(IEnumerable<Id<TKind>> ids) =>
        ids.Select((id, i) => (id, i)).ToDictionary(x => x.id, x => x.i);

    public static bool[] InScope(
        SqliteConnection connection,
        StudyId studyId,
        Dictionary<SourceId, int> sourcePlace,
        HashSet<int>[] peopleOf,
        int people
    )
    {
        var begun = Begun(connection, studyId).Where(sourcePlace.ContainsKey).Select(id => sourcePlace[id]).ToHashSet();
        return [.. Enumerable.Range(0, people).Select(p => begun.Any(s => peopleOf[s].Contains(p)))];
    }

    /// <summary>Whose material kept searches have gone through, for their tags and all above these.</summary>
    /// <param name="fits">Whether a source, by its place, counts; null for all.</param>
    public static Dictionary<int, bool[]> Searched(
        SqliteConnection connection,
        StudyId studyId,
        Dictionary<SourceId, int> sourcePlace,
        Dictionary<TagId, int> tagPlace,
        TagTree tree,
        HashSet<int>[] peopleOf,
        int people,
        Func<int, bool>? fits = null
    )
    {
        var found = new Dictionary<int, bool[]>();
        var through = connection.Query<(TagId Tag, SourceId Source)>(
            """
            SELECT x.tag_id, s.id FROM tag_search x JOIN source s ON s.study_id = x.study_id AND s.created_at <= x.gone_through_at
            WHERE x.study_id = @studyId AND EXISTS (SELECT 1 FROM source_text t WHERE t.source_id = s.id)
            """,
            new { studyId }
        );
        foreach (var (tag, source) in through)
        {
            if (!tagPlace.TryGetValue(tag, out var place) || !sourcePlace.TryGetValue(source, out var at) || fits?.Invoke(at) == false)
                continue;
            foreach (var above in tree.WithAncestors(place))
            {
                if (!found.TryGetValue(above, out var searched))
                    found[above] = searched = new bool[people];
                foreach (var person in peopleOf[at])
                    searched[person] = true;
            }
        }
        return found;
    }

    /// <summary>The sources of a study that somebody has begun to read.</summary>
    public static IEnumerable<SourceId> Begun(SqliteConnection connection, StudyId studyId) =>
        connection.Query<SourceId>(
            "SELECT DISTINCT r.source_id FROM reading r JOIN source s ON s.id = r.source_id WHERE s.study_id = @studyId",
            new { studyId }
        );
}
