using System.Text.Json;
using Dapper;
using Microsoft.Data.Sqlite;
using Vitrine.Core.Gather.Privacy;
using Vitrine.Core.Gather.Sources;
using Vitrine.Core.Mark.Recordings;
using Vitrine.Core.RichTexts;
using Vitrine.Core.Show.Publication;
using Vitrine.Core.Text;
using Vitrine.Core.Weigh.Evidence;
using Vitrine.Storage.Anchors;
using Vitrine.Storage.Counting;
using Vitrine.Storage.Show.Exhibits;
using Vitrine.Storage.Show.Insights;
using Vitrine.Storage.Sql;
using Vitrine.Storage.Text;
using Vitrine.Storage.Trail;

namespace Vitrine.Storage.Show.Publication;

/// <summary>Evidence of something published. Its words leave only through the gate.</summary>
public sealed record PublishedEvidence(
    string Key,
    Stance Stance,
    ObservationId ObservationId,
    GatePassage Passage,
    SourceKind Kind,
    DateOnly? HeldOn
);

/// <summary>An insight that is published.</summary>
/// <param name="Study">Its study as it stands in the snapshot, with the sources of its evidence.</param>
/// <param name="People">Everyone in its study, in their order.</param>
/// <param name="NotAsked">Who was not asked about it.</param>
/// <param name="Quoted">The observations that its story quotes; they are no evidence by that.</param>
public sealed record PublishedInsight(
    Insight Insight,
    IReadOnlyList<PublishedEvidence> Evidence,
    IReadOnlyList<PublishedEvidence> Quoted,
    StudyIndex Study,
    IReadOnlyList<GatePerson> People,
    IReadOnlyList<ParticipantId> NotAsked
);

/// <summary>An exhibit as readers may see it: everything of one moment, and the gate through which it leaves.</summary>
public sealed record Published(Exhibit Exhibit, IReadOnlyList<PublishedInsight> Insights, Gate Gate);

/// <summary>
/// Reads what is published, in one snapshot of the database: who has withdrawn, what is masked and what was erased are of the same moment
/// as the words. Nothing of a source that is still tagged blind is among it.
/// </summary>
public sealed class PublicationStore(Workspace workspace)
{
    /// <summary>The exhibit that a token opens; null when there is none or the link was revoked.</summary>
    public Published? Open(string token) =>
        Snapshot(connection => ExhibitStore.Opened(connection, token) is { } id ? Read(connection, id) : null);

    /// <summary>An exhibit as its readers see it.</summary>
    /// <exception cref="Refusal">There is no such exhibit.</exception>
    public Published Of(ExhibitId exhibitId) => Snapshot(connection => Read(connection, exhibitId));

    /// <summary>The evidence of one insight before the gate, as if it were published.</summary>
    /// <exception cref="Refusal">There is no such insight.</exception>
    public (Insight Insight, Gate Gate, IReadOnlyList<PublishedEvidence> Evidence, IReadOnlyList<PublishedEvidence> Quoted) GateFor(
        InsightId insightId
    ) =>
        Snapshot(connection =>
        {
            if (InsightStore.Of(connection, [insightId]) is not [var insight, ..])
                throw Refusal.Missing("insight");
            var attached = InsightStore.EvidenceOf(connection, [insightId])[insightId].ToList();
            var quoted = QuotedIn(connection, [insight])[insightId].ToList();
            var placed = PlacedOf(connection, [.. attached.Concat(quoted).Select(e => e.ObservationId)]).ToDictionary(o => o.Id);
            var people = PeopleOf(connection, [insight.StudyId])[insight.StudyId].ToList();
            var gate = GateOf(connection, [insight.StudyId], people, placed.Values.Select(o => o.SourceId).ToHashSet());
            return (insight, gate, Of(attached, placed), Of(quoted, placed));
        });

    /// <summary>One observation before the gate, as if it were evidence of something published.</summary>
    /// <exception cref="Refusal">There is no such observation.</exception>
    public (Gate Gate, GatePassage Passage) GateFor(ObservationId observationId) =>
        Snapshot(connection =>
        {
            if (PlacedOf(connection, [observationId]) is not [var placed, ..])
                throw connection.ExecuteScalar<bool>(
                    "SELECT count(*) FROM main.observation WHERE id = @observationId",
                    new { observationId }
                )
                    ? new Refusal(
                        RefusalKind.NotAllowed,
                        "Its source is still tagged blind, so readers are given nothing of it. Open the source to both first."
                    )
                    : Refusal.Missing("observation");
            var study = connection.QuerySingle<StudyId>("SELECT study_id FROM source WHERE id = @SourceId", new { placed.SourceId });
            var people = PeopleOf(connection, [study])[study].ToList();
            return (GateOf(connection, [study], people, new HashSet<SourceId> { placed.SourceId }), placed.Passage);
        });

    /// <summary>Where somebody may be heard in a recording of their study.</summary>
    public IReadOnlyList<TimeRange> MayBeHeard(StudyId studyId, SourceId recording, ParticipantId person) =>
        Snapshot(connection =>
            GateOf(connection, [studyId], [.. PeopleOf(connection, [studyId])[studyId]], new HashSet<SourceId> { recording })
                .MayBeHeard(recording, person)
        );

    /// <summary>All observations of a study before the gate.</summary>
    /// <exception cref="Refusal">There is no such study.</exception>
    public (Gate Gate, IReadOnlyDictionary<ObservationId, GatePassage> Passages) GateFor(StudyId studyId) =>
        Snapshot(connection =>
        {
            var ids = connection.Query<ObservationId>("SELECT id FROM observation WHERE study_id = @studyId", new { studyId }).AsList();
            var placed = PlacedOf(connection, ids);
            var people = PeopleOf(connection, [studyId])[studyId].ToList();
            return (
                GateOf(connection, [studyId], people, placed.Select(o => o.SourceId).ToHashSet()),
                (IReadOnlyDictionary<ObservationId, GatePassage>)placed.ToDictionary(o => o.Id, o => o.Passage)
            );
        });

    private T Snapshot<T>(Func<SqliteConnection, T> read)
    {
        using var connection = workspace.OpenForReaders();
        using var snapshot = connection.BeginTransaction(deferred: true);
        return read(connection);
    }

    private static Published Read(SqliteConnection connection, ExhibitId exhibitId)
    {
        var exhibit = ExhibitStore.Get(connection, exhibitId);
        var insights = InsightStore.Of(connection, ExhibitStore.InsightsOf(connection, exhibitId));
        var evidence = InsightStore.EvidenceOf(connection, [.. insights.Select(i => i.Id)]);
        var studies = insights.Select(i => i.StudyId).Distinct().ToList();
        var people = PeopleOf(connection, studies);
        var quoted = QuotedIn(connection, insights);
        var placed = PlacedOf(connection, [.. evidence.Concat(quoted).SelectMany(e => e).Select(e => e.ObservationId)])
            .ToDictionary(o => o.Id);
        var shown = placed.Values.Select(o => o.SourceId).ToHashSet();
        var gate = GateOf(connection, studies, [.. people.SelectMany(p => p)], shown);
        var indexes = studies.ToDictionary(s => s, s => StudyReader.Read(connection, s, shown));
        var silent = connection
            .Query<(InsightId Insight, ParticipantId Person)>(
                "SELECT insight_id, participant_id FROM not_asked WHERE insight_id IN (SELECT value FROM json_each(@ids))",
                new { ids = Ids.Json(insights.Select(i => i.Id)) }
            )
            .ToLookup(n => n.Insight, n => n.Person);
        return new Published(
            exhibit,
            [
                .. insights.Select(i => new PublishedInsight(
                    i,
                    Of(evidence[i.Id], placed),
                    Of(quoted[i.Id], placed),
                    indexes[i.StudyId],
                    [.. people[i.StudyId]],
                    [.. silent[i.Id]]
                )),
            ],
            gate
        );
    }

    private static IReadOnlyList<PublishedEvidence> Of(
        IEnumerable<AttachedEvidence> pieces,
        IReadOnlyDictionary<ObservationId, Placed> placed
    ) => [.. pieces.Where(e => placed.ContainsKey(e.ObservationId)).Select(e => placed[e.ObservationId].As(e))];

    /// <summary>The observations that stories refer to, in the order of the story, each by the key of its reference.</summary>
    private static ILookup<InsightId, AttachedEvidence> QuotedIn(SqliteConnection connection, IReadOnlyList<Insight> insights)
    {
        var stories = insights.ToDictionary(i => i.Id, i => i.Story.References);
        return connection
            .Query<AttachedEvidence>(
                """
                SELECT id, key, holder_id AS insight_id, thing_id AS observation_id, 'context' AS stance FROM text_reference
                WHERE holder_kind = 'insight' AND holder_id IN (SELECT value FROM json_each(@ids)) AND thing_kind = 'observation'
                """,
                new { ids = Ids.Json(stories.Keys) }
            )
            .OrderBy(q => stories[q.InsightId].ToList().IndexOf(new ThingRef(ThingKind.Observation, q.ObservationId.Value)))
            .ToLookup(q => q.InsightId);
    }

    private static ILookup<StudyId, GatePerson> PeopleOf(SqliteConnection connection, IReadOnlyList<StudyId> studies) =>
        connection
            .Query<(StudyId Study, ParticipantId Id, string Pseudonym, string? RealName, Consent Consent)>(
                """
                SELECT study_id, id, pseudonym, real_name, consent FROM participant WHERE study_id IN (SELECT value
                FROM json_each(@studies)) ORDER BY position, id
                """,
                new { studies = Ids.Json(studies) }
            )
            .ToLookup(p => p.Study, p => new GatePerson(p.Id, p.Pseudonym, p.RealName, p.Consent));

    private static List<Placed> PlacedOf(SqliteConnection connection, IReadOnlyList<ObservationId> ids) =>
        connection
            .Query<Placed>(
                $"""
                SELECT o.id, o.source_id, {AnchorRow.Columns}, s.kind, s.held_on, EXISTS (SELECT 1 FROM correction_look l
                  WHERE l.observation_id = o.id AND l.fate = 'gone') AS gone
                FROM observation o JOIN source s ON s.id = o.source_id WHERE o.id IN (SELECT value FROM json_each(@ids))
                """,
                new { ids = Ids.Json(ids) }
            )
            .AsList();

    private static Gate GateOf(
        SqliteConnection connection,
        IReadOnlyList<StudyId> studies,
        IReadOnlyList<GatePerson> everyone,
        IReadOnlySet<SourceId> shown
    )
    {
        var pairs = InStep(connection, shown);
        // What is said in a clip is of its transcript.
        var sources = Sources(connection, studies, everyone, shown.Concat(pairs.Select(p => p.Transcript)).ToHashSet());
        var recordings = Recordings(connection, [.. shown.Concat(pairs.Select(p => p.Recording)).Distinct()], pairs, sources);
        var letStand = connection
            .Query<string>(
                "SELECT words FROM let_stand WHERE study_id IN (SELECT value FROM json_each(@studies))",
                new { studies = Ids.Json(studies) }
            )
            .ToHashSet();
        return new Gate(everyone, sources, recordings, letStand);
    }

    /// <summary>Which transcripts run with which recordings, of those of which something is shown; what a stand-in wrote is none.</summary>
    private static List<Pair> InStep(SqliteConnection connection, IReadOnlySet<SourceId> shown) =>
        connection
            .Query<Pair>(
                """
                SELECT i.recording_id AS recording, i.transcript_id AS transcript, i.offset_ms AS offset,
                  i.recording_offset_ms AS recording_offset, i.attached, h.shape
                FROM in_step i JOIN source s ON s.id = i.transcript_id LEFT JOIN source_shape h ON h.source_id = s.id
                WHERE i.recording_id IN (
                    SELECT value FROM json_each(@ids)
                    UNION SELECT recording_id FROM in_step WHERE transcript_id IN (SELECT value FROM json_each(@ids))
                  ) AND s.written_by IS NOT 'simulated'
                  -- Notes without a time tell nothing of when something is heard.
                  AND (i.attached OR EXISTS (SELECT 1 FROM turn t WHERE t.source_id = s.id AND t.begin_ms IS NOT NULL))
                  -- A second recording of a session says nothing for certain until it was aligned to the first.
                  AND (i.attached OR i.recording_offset_ms <> 0 OR NOT EXISTS (
                    SELECT 1 FROM in_step e WHERE e.transcript_id = i.transcript_id AND e.recording_id <> i.recording_id
                      AND (e.attached OR (e.position, e.recording_id) < (i.position, i.recording_id))))
                ORDER BY i.attached DESC, s.position, s.id
                """,
                new { ids = Ids.Json(shown) }
            )
            .AsList();

    private static List<GateRecording> Recordings(
        SqliteConnection connection,
        IReadOnlyList<SourceId> ids,
        List<Pair> pairs,
        IReadOnlyCollection<GateSource> sources
    )
    {
        var byId = sources.ToDictionary(s => s.Id);
        var transcripts = pairs.ToLookup(
            p => p.Recording,
            p => new GateTranscript(
                byId[p.Transcript],
                p.InStepOf(byId[p.Transcript]),
                SessionClock.Shift(p.Offset, p.RecordingOffset),
                p.Attached
            )
        );
        var taking = connection
            .Query<(SourceId Source, ParticipantId Person)>(
                "SELECT source_id, participant_id FROM source_person WHERE source_id IN (SELECT value FROM json_each(@ids))",
                new { ids = Ids.Json(ids) }
            )
            .ToLookup(t => t.Source, t => t.Person);
        return
        [
            .. connection
                .Query<(SourceId Id, string Kind, bool Sounds, int Offset, bool Erased)>(
                    """
                    SELECT s.id, s.kind, coalesce(q.sounds, 0), s.offset_ms, s.people_erased > 0
                    FROM source s JOIN media m ON m.id = s.media_id
                      LEFT JOIN recording q ON q.hash = m.hash
                    WHERE s.id IN (SELECT value FROM json_each(@ids)) AND (q.id IS NOT NULL OR m.type LIKE 'image/%')
                      -- What is masked in a document is not covered in a picture of its page, which therefore stays inside.
                      AND s.still_page IS NULL
                    ORDER BY s.position, s.id
                    """,
                    new { ids = Ids.Json(ids) }
                )
                .Select(s => new GateRecording(
                    new GateSource(s.Id, Enum.Parse<SourceKind>(s.Kind, ignoreCase: true), "", [], [.. taking[s.Id]], [], [], s.Erased),
                    s.Sounds,
                    [.. transcripts[s.Id]],
                    s.Offset
                )),
        ];
    }

    private static IReadOnlyCollection<GateSource> Sources(
        SqliteConnection connection,
        IReadOnlyList<StudyId> studies,
        IReadOnlyList<GatePerson> people,
        IReadOnlySet<SourceId> shown
    )
    {
        var masks = connection
            .Query<(SourceId Source, int Start, int End, string Replacement)>(
                """
                SELECT m.source_id, m.start, m."end", m.replacement FROM mask m JOIN source s ON s.id = m.source_id
                WHERE s.study_id IN (SELECT value FROM json_each(@studies)) ORDER BY m.source_id, m.start
                """,
                new { studies = Ids.Json(studies) }
            )
            .ToLookup(m => m.Source, m => new Mask(new TextRange(m.Start, m.End), m.Replacement));
        var taking = connection
            .Query<(SourceId Source, ParticipantId Person)>(
                "SELECT source_id, participant_id FROM source_person WHERE study_id IN (SELECT value FROM json_each(@studies))",
                new { studies = Ids.Json(studies) }
            )
            .ToLookup(t => t.Source, t => t.Person);
        var kept = people.Where(p => !ConsentRule.MayLeave(p.Consent)).Select(p => p.Id).ToHashSet();
        var keptIn = EarlierTexts.SourcesOf(connection, kept);
        var sources = Ids.Json(shown.Concat(masks.Select(m => m.Key)).Concat(keptIn).Distinct());
        var turns = connection
            .Query<(SourceId Source, int Start, int End, ParticipantId? Person, bool? Team, int? At, int? EndMs)>(
                """
                SELECT t.source_id, t.start, t."end", p.participant_id, p.is_team, t.begin_ms + s.offset_ms, t.end_ms + s.offset_ms
                FROM turn t
                  JOIN source s ON s.id = t.source_id LEFT JOIN speaker p ON p.id = t.speaker_id
                WHERE t.source_id IN (SELECT value FROM json_each(@sources)) ORDER BY t.source_id, t.start
                """,
                new { sources }
            )
            .ToLookup(
                t => t.Source,
                t => new GateTurn(new TextRange(t.Start, t.End), t.Person, t.Team == true, t.Team is not null, t.At, t.EndMs)
            );
        var quoted = ObservationRows.TextRanges(connection, sources);
        var earlier = EarlierTexts.Said(connection, Ids.Json(keptIn), kept.Contains);
        return
        [
            .. connection
                .Query<(SourceId Id, string Kind, string Text, bool Erased)>(
                    """
                    SELECT s.id, s.kind, t.text, s.people_erased > 0 FROM source s JOIN source_text t ON t.source_id = s.id
                    WHERE s.id IN (SELECT value
                    FROM json_each(@sources))
                    """,
                    new { sources }
                )
                .Select(s => new GateSource(
                    s.Id,
                    Enum.Parse<SourceKind>(s.Kind, ignoreCase: true),
                    s.Text,
                    [.. turns[s.Id]],
                    [.. taking[s.Id]],
                    [.. masks[s.Id]],
                    [.. quoted[s.Id]],
                    s.Erased,
                    [.. earlier[s.Id]]
                )),
        ];
    }

    /// <summary>A transcript with the recording with which it runs.</summary>
    private sealed record Pair
    {
        public SourceId Recording { get; init; }
        public SourceId Transcript { get; init; }
        public int Offset { get; init; }
        public int RecordingOffset { get; init; }
        public bool Attached { get; init; }
        public string? Shape { get; init; }

        public InStep InStepOf(GateSource source) =>
            Core.Mark.Recordings.InStep.Of(
                source.Text,
                // Turns are told by the clock of the session; words are timed by the transcript's own.
                [.. source.Turns.Select(t => new SpokenTurn(t.Words, t.AtMs - Offset, t.EndMs - Offset))],
                Shape is null ? null : JsonSerializer.Deserialize<Shape>(Shape)?.Times
            );
    }

    private sealed record Placed : AnchorRow
    {
        public ObservationId Id { get; init; }
        public SourceId SourceId { get; init; }
        public SourceKind Kind { get; init; }
        public DateOnly? HeldOn { get; init; }
        public bool Gone { get; init; }

        public GatePassage Passage => new(SourceId, Anchor, Gone);

        public PublishedEvidence As(AttachedEvidence attached) => new(attached.Key, attached.Stance, Id, Passage, Kind, HeldOn);
    }
}
