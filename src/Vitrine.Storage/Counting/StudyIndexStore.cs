using Dapper;
using Microsoft.Data.Sqlite;
using Vitrine.Core.Counting;
using Vitrine.Core.Gather;
using Vitrine.Core.Tagging;
using Vitrine.Core.Text;

namespace Vitrine.Storage.Counting;

/// <summary>
/// Loads a study's marks for counting, and keeps the studies used last until anything is written.
/// </summary>
public sealed class StudyIndexStore(Workspace workspace)
{
    /// <summary>How many studies are kept at once.</summary>
    public const int MostKept = 8;

    private readonly Lock gate = new();
    private readonly Dictionary<long, (long Edition, long Used, StudyIndex Index)> kept = [];
    private long uses;

    /// <summary>The study as it is now. The same object as long as nothing was written.</summary>
    public StudyIndex Load(long studyId)
    {
        var edition = workspace.Edition;
        lock (gate)
        {
            if (kept.TryGetValue(studyId, out var found) && found.Edition == edition)
            {
                kept[studyId] = found with { Used = ++uses };
                return found.Index;
            }
        }
        var index = Read(studyId);
        lock (gate)
        {
            kept[studyId] = (edition, ++uses, index);
            if (kept.Count > MostKept) kept.Remove(kept.MinBy(k => k.Value.Used).Key);
        }
        return index;
    }

    private StudyIndex Read(long studyId)
    {
        using var connection = workspace.Open();
        using var snapshot = connection.BeginTransaction(deferred: true);
        var sources = connection.Query<(long Id, string Title, string Kind)>("SELECT id, title, kind FROM source WHERE study_id = @studyId ORDER BY position, id", new { studyId })
            .Select(s => new IndexedSource(s.Id, s.Title, Enum.Parse<SourceKind>(s.Kind, ignoreCase: true))).ToArray();
        var people = connection.Query<long>("SELECT id FROM participant WHERE study_id = @studyId ORDER BY position, id", new { studyId }).ToArray();
        var sourcePlace = Places(sources.Select(s => s.Id));
        var personPlace = Places(people);
        var (tags, tree) = LoadTags(connection, studyId);
        var turns = LoadTurns(connection, studyId, sourcePlace, personPlace);
        var peopleOf = LoadPeopleOfSources(connection, studyId, sourcePlace, personPlace);
        var begun = connection.Query<long>("SELECT DISTINCT r.source_id FROM reading r JOIN source s ON s.id = r.source_id WHERE s.study_id = @studyId", new { studyId }).Select(id => sourcePlace[id]).ToHashSet();

        var ids = new List<long>();
        var sourceOf = new List<int>();
        var ranges = new List<TextRange>();
        foreach (var o in connection.Query<(long Id, long Source, int Start, int End)>(
            "SELECT o.id, o.source_id, o.start, o.\"end\" FROM observation o JOIN source s ON s.id = o.source_id WHERE o.study_id = @studyId ORDER BY s.position, s.id, o.start, o.id", new { studyId }, buffered: false))
        {
            ids.Add(o.Id);
            sourceOf.Add(sourcePlace[o.Source]);
            ranges.Add(new TextRange(o.Start, o.End));
        }
        var (tagStarts, tagOf) = LoadTagLinks(connection, studyId, ids, Places(tags));
        return new StudyIndex
        {
            StudyId = studyId,
            Observations = [.. ids],
            Sources = sources,
            People = people,
            Tags = tags,
            InScope = [.. Enumerable.Range(0, people.Length).Select(p => begun.Any(s => peopleOf[s].Contains(p)))],
            Marks = new StudyMarks
            {
                SourceOf = [.. sourceOf],
                PersonOf = [.. ids.Select((_, o) => Attribution.PersonOf(ranges[o], turns[sourceOf[o]], peopleOf[sourceOf[o]]))],
                RangeOf = [.. ranges],
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

    private static List<SpokenTurn>[] LoadTurns(SqliteConnection connection, long studyId, Dictionary<long, int> sourcePlace, Dictionary<long, int> personPlace)
    {
        var turns = sourcePlace.Select(_ => new List<SpokenTurn>()).ToArray();
        foreach (var t in connection.Query<(long Source, int Start, int End, long? Person)>("""
            SELECT t.source_id, t.start, t."end", p.participant_id FROM turn t JOIN source s ON s.id = t.source_id LEFT JOIN speaker p ON p.id = t.speaker_id
            WHERE s.study_id = @studyId ORDER BY t.source_id, t.start
            """, new { studyId }, buffered: false))
        {
            turns[sourcePlace[t.Source]].Add(new SpokenTurn(new TextRange(t.Start, t.End), t.Person is { } p ? personPlace[p] : null));
        }
        return turns;
    }

    private static HashSet<int>[] LoadPeopleOfSources(SqliteConnection connection, long studyId, Dictionary<long, int> sourcePlace, Dictionary<long, int> personPlace)
    {
        var people = sourcePlace.Select(_ => new HashSet<int>()).ToArray();
        foreach (var (source, person) in connection.Query<(long Source, long Person)>("""
            SELECT sp.source_id, sp.participant_id FROM source_participant sp JOIN source s ON s.id = sp.source_id WHERE s.study_id = @studyId
            UNION SELECT p.source_id, p.participant_id FROM speaker p JOIN source s ON s.id = p.source_id WHERE s.study_id = @studyId AND p.participant_id IS NOT NULL
            """, new { studyId }))
        {
            people[sourcePlace[source]].Add(personPlace[person]);
        }
        return people;
    }

    private static (int[] Starts, int[] Tags) LoadTagLinks(SqliteConnection connection, long studyId, List<long> observations, Dictionary<long, int> tagPlace)
    {
        var links = connection.Query<(long Observation, long Tag)>(
            "SELECT x.observation_id, x.tag_id FROM observation_tag x JOIN observation o ON o.id = x.observation_id WHERE o.study_id = @studyId ORDER BY x.id", new { studyId }).ToLookup(l => l.Observation, l => tagPlace[l.Tag]);
        var starts = new int[observations.Count + 1];
        var tags = new List<int>();
        for (var o = 0; o < observations.Count; o++)
        {
            tags.AddRange(links[observations[o]]);
            starts[o + 1] = tags.Count;
        }
        return (starts, [.. tags]);
    }

    private static Dictionary<long, int> Places(IEnumerable<long> ids) => ids.Select((id, i) => (id, i)).ToDictionary(x => x.id, x => x.i);
}
