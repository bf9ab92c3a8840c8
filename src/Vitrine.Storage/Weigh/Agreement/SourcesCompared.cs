using Dapper;
using Microsoft.Data.Sqlite;
using Vitrine.Core.Mark.Finding;
using Vitrine.Core.Mark.Recordings;
using Vitrine.Core.Text;
using Vitrine.Core.Weigh.Agreement;
using Vitrine.Storage.Counting;
using Vitrine.Storage.Media;
using Vitrine.Storage.Text;

namespace Vitrine.Storage.Weigh.Agreement;

/// <summary>A source that both have marked.</summary>
/// <param name="Text">Its text; null where seconds are compared.</param>
/// <param name="Units">Its units in order: stretches of its text, or of its time in milliseconds.</param>
/// <param name="First">Where its units begin among those of all sources.</param>
internal sealed record SourceCompared(SourceId Id, IndexedText? Text, IReadOnlyList<(int Turn, TextRange Range)> Units, int First)
{
    /// <summary>The units that a stretch touches, as places among those of this source.</summary>
    public IEnumerable<int> Touched(TextRange range)
    {
        var (low, high) = (0, Units.Count);
        while (low < high)
        {
            var middle = (low + high) / 2;
            if (Units[middle].Range.End <= range.Start)
                low = middle + 1;
            else
                high = middle;
        }
        for (; low < Units.Count && Units[low].Range.Start < range.End; low++)
            yield return low;
    }
}

/// <summary>An observation as its author had made it, before anything was settled.</summary>
/// <param name="Tags">Its tags, those too that went when it was settled.</param>
/// <param name="Late">Whether it, or a tag on it, came after a source that was tagged blind had been opened.</param>
internal sealed record MarkCompared(ObservationId Id, int Source, AccountId By, TextRange Range, IReadOnlyList<TagId> Tags, bool Late);

/// <summary>
/// The sources that two people have marked, as agreement needs them. What a search has found and nobody has looked at is nobody's; a source
/// that is still tagged blind is left out.
/// </summary>
internal sealed class SourcesCompared
{
    private readonly StudyIndex index;

    public SourcesCompared(
        SqliteConnection connection,
        TextsOfStudy study,
        StudyIndex index,
        AgreementUnit unit,
        TranscriptsInStep inStep,
        IReadOnlyList<AccountId> both,
        IReadOnlyCollection<SourceId> only
    )
    {
        this.index = index;
        var seconds = unit == AgreementUnit.Second;
        var read = new Dictionary<SourceId, TimedTranscript>();
        var rows = connection
            .Query<(ObservationId Id, SourceId Source, AccountId By, int? Start, int? End, int? BeginMs, int? EndMs, bool Late)>(
                $"""
                SELECT o.id, o.source_id, o.created_by, o.start, o."end", o.begin_ms, o.end_ms,
                  b.opened_at IS NOT NULL AND (o.created_at > b.opened_at
                    OR EXISTS (SELECT 1 FROM observation_tag x WHERE x.observation_id = o.id AND x.created_at > b.opened_at))
                FROM observation o LEFT JOIN blind_tagging b ON b.source_id = o.source_id
                WHERE o.study_id = @StudyId AND (o.start IS NOT NULL{(seconds ? " OR o.begin_ms IS NOT NULL AND o.x IS NULL" : "")})
                  AND o.found = 0
                ORDER BY o.source_id, coalesce(o.start, o.begin_ms), o.id
                """,
                new { index.StudyId }
            )
            .ToList();
        var blind = connection
            .Query<SourceId>("SELECT source_id FROM blind_tagging WHERE study_id = @StudyId AND opened_at IS NULL", new { index.StudyId })
            .ToHashSet();
        StillBlind = [.. blind.Order()];
        var marks = rows.Select(m =>
                (
                    m.Id,
                    m.By,
                    m.Late,
                    At: seconds ? TimeOf(m.Source, m.Start, m.End, m.BeginMs, m.EndMs) : (m.Source, m.Start!.Value, m.End!.Value)
                )
            )
            .Where(m => m.At is not null)
            .ToLookup(m => m.At!.Value.Source, m => (m.Id, m.By, m.Late, m.At!.Value.Start, m.At.Value.End));
        var tags = TagsOf(connection, index.StudyId);
        var sources = new List<SourceCompared>();
        var all = new List<MarkCompared>();
        var units = 0;
        foreach (
            var (id, text, length) in seconds
                ? Recorded(connection, index.StudyId)
                : study.Sources.Select(s => (s.Id, (IndexedText?)s.Text, s.Text.Text.Length))
        )
        {
            var here = marks[id].Where(m => m.End <= length).ToList();
            var people = here.Select(m => m.By).ToHashSet();
            if (blind.Contains(id) || (only.Count > 0 && !only.Contains(id)) || !both.All(people.Contains))
                continue;
            var of = text is null ? Seconds(length) : Stretches(text, unit);
            all.AddRange(
                here.Select(m => new MarkCompared(m.Id, sources.Count, m.By, new TextRange(m.Start, m.End), [.. tags[m.Id]], m.Late))
            );
            sources.Add(new SourceCompared(id, text, of, units));
            units += of.Count;
        }
        (Sources, Units) = (sources, units);
        Marks = all.ToLookup(m => m.By);
        // Those who have marked in every one of these sources have read them all.
        People = [.. Marks.Where(m => m.Select(x => x.Source).Distinct().Count() == sources.Count).Select(m => m.Key).Order()];

        // Words cover the seconds in which they are said.
        (SourceId Source, int Start, int End)? TimeOf(SourceId source, int? start, int? end, int? beginMs, int? endMs)
        {
            if (start is null)
                return (source, beginMs!.Value, endMs!.Value);
            if (blind.Contains(source) || inStep.RecordingsOf(source) is not [var (recording, shift), ..])
                return null;
            if (!read.TryGetValue(source, out var transcript))
                read[source] = transcript = inStep.Of(source);
            return
                transcript.Words.TimeOf(new TextRange(start.Value, end!.Value)) is { } said
                && SessionClock.InRecording(said, shift) is { } heard
                ? (recording, heard.BeginMs, heard.EndMs)
                : null;
        }
    }

    public IReadOnlyList<SourceCompared> Sources { get; }
    public int Units { get; }
    public ILookup<AccountId, MarkCompared> Marks { get; }
    public IReadOnlyList<AccountId> People { get; }

    /// <summary>Sources that are still tagged blind.</summary>
    public IReadOnlyList<SourceId> StillBlind { get; }

    /// <summary>Which units a person has marked with each tag, one under it, or one in a bundle; by place in the study's arrays.</summary>
    public Dictionary<int, bool[]> UnitsByTag(AccountId person) => UnitsBy(person, CountsFor);

    /// <summary>Which units a person has marked with each tag itself.</summary>
    public Dictionary<int, bool[]> UnitsByOwnTag(AccountId person) =>
        UnitsBy(person, tag => index.PlaceOfTag(tag) is { } place ? [place] : []);

    private Dictionary<int, bool[]> UnitsBy(AccountId person, Func<TagId, IEnumerable<int>> countsFor)
    {
        var found = new Dictionary<int, bool[]>();
        foreach (var mark in Marks[person])
        {
            var source = Sources[mark.Source];
            foreach (var tag in mark.Tags.SelectMany(countsFor).Distinct())
            {
                if (!found.TryGetValue(tag, out var units))
                    found[tag] = units = new bool[Units];
                foreach (var u in source.Touched(mark.Range))
                    units[source.First + u] = true;
            }
        }
        return found;
    }

    /// <summary>What a person has marked that touches a stretch of a source.</summary>
    public IEnumerable<MarkCompared> Touching(AccountId person, int source, TextRange range) =>
        Marks[person].Where(m => m.Source == source && m.Range.Touches(range));

    /// <summary>A tag with those above it and the bundles that hold one of them, as places in the study's arrays.</summary>
    public IEnumerable<int> CountsFor(TagId tag) => index.PlaceOfTag(tag) is { } place ? index.Marks.Tags.CountsFor(place) : [];

    private static ILookup<ObservationId, TagId> TagsOf(SqliteConnection connection, StudyId studyId) =>
        connection
            .Query<(ObservationId Observation, TagId Tag)>(
                """
                SELECT x.observation_id, x.tag_id FROM observation_tag x JOIN observation o ON o.id = x.observation_id
                WHERE o.study_id = @studyId
                UNION SELECT m.observation_id, m.tag_id FROM settled_mark m JOIN settlement s ON s.id = m.settlement_id
                WHERE s.study_id = @studyId AND m.taken = 1
                """,
                new { studyId }
            )
            .ToLookup(t => t.Observation, t => t.Tag);

    private static IReadOnlyList<(int Turn, TextRange Range)> Stretches(IndexedText text, AgreementUnit unit) =>
        [
            .. Enumerable
                .Range(0, text.Turns.Count)
                .Where(t => !text.Turns[t].IsTeam)
                .SelectMany(t =>
                    Passages.Of(text, t, unit == AgreementUnit.Turn ? PassageUnit.Turn : PassageUnit.Sentence).Select(range => (t, range))
                ),
        ];

    private static IReadOnlyList<(int Turn, TextRange Range)> Seconds(int lengthMs) =>
        [.. Enumerable.Range(0, (lengthMs + 999) / 1000).Select(second => (0, new TextRange(second * 1000, (second + 1) * 1000)))];

    private static IEnumerable<(SourceId Id, IndexedText? Text, int LengthMs)> Recorded(SqliteConnection connection, StudyId studyId) =>
        connection
            .Query<(SourceId Id, int LengthMs)>(
                """
                SELECT s.id, r.length_ms FROM source s JOIN media m ON m.id = s.media_id JOIN recording r ON r.hash = m.hash
                WHERE s.study_id = @studyId ORDER BY s.position, s.id
                """,
                new { studyId }
            )
            .Select(s => (s.Id, (IndexedText?)null, s.LengthMs));
}
