using Dapper;
using Microsoft.Data.Sqlite;
using Vitrine.Core.Mark.Finding;
using Vitrine.Core.Text;
using Vitrine.Storage.Trail;

namespace Vitrine.Storage.Text;

/// <summary>A source's text with its words by number.</summary>
/// <param name="Hash">The hash of the text.</param>
public sealed record FindableSource(SourceId Id, IndexedText Text, string Hash);

/// <summary>The texts of a study, ready to be looked through. It does not change.</summary>
public sealed class TextsOfStudy
{
    private readonly Dictionary<(PassageUnit Unit, bool Team), PassageSet> sets = [];

    internal TextsOfStudy(IReadOnlyList<FindableSource> sources, Vocabulary vocabulary) => (Sources, Vocabulary) = (sources, vocabulary);

    /// <summary>Sources with words, in the study's order.</summary>
    public IReadOnlyList<FindableSource> Sources { get; }

    /// <summary>
    /// Their vocabulary. It may grow while another edition of the study is read: hold <see cref="Gate"/> to ask it for words.
    /// </summary>
    public Vocabulary Vocabulary { get; }

    /// <summary>Held by who asks the vocabulary, or adds to it.</summary>
    public object Gate => Vocabulary;

    /// <summary>All passages with their stems; made once.</summary>
    /// <param name="unit">What a passage is.</param>
    /// <param name="team">Whether words of the team are among them.</param>
    public PassageSet Passages(PassageUnit unit, bool team)
    {
        lock (Gate)
        {
            if (!sets.TryGetValue((unit, team), out var found))
                sets[(unit, team)] = found = new PassageSet([.. Sources.Select(s => s.Text)], Vocabulary, unit, t => team || !t.IsTeam);
            return found;
        }
    }
}

/// <summary>
/// Reads the texts of studies for finding, and keeps those of the studies used last; only words of texts that changed are numbered anew.
/// </summary>
public sealed class StudyTexts(Workspace workspace)
{
    /// <summary>How many studies are kept at once.</summary>
    public const int MostKept = 4;

    private static readonly HashSet<string> Ground = ["source", "source_text", "turn", "speaker", "participant"];

    private readonly Lock gate = new();
    private readonly Dictionary<StudyId, (long Edition, long Used, TextsOfStudy Texts)> kept = [];
    private long uses;

    /// <summary>The texts of a study as they are now; the same object as long as nothing of them was written.</summary>
    public TextsOfStudy Load(StudyId studyId)
    {
        // One at a time: who asks meanwhile would read the same once more.
        lock (gate)
        {
            var edition = workspace.Edition;
            var before = kept.TryGetValue(studyId, out var found) ? found.Texts : null;
            var news = before is null ? null : workspace.NewsSince(studyId, found.Edition);
            var texts = before is not null && news?.Any(n => n.Tables.Any(Ground.Contains)) == false ? before : Read(studyId, before);
            kept[studyId] = (edition, ++uses, texts);
            if (kept.Count > MostKept)
                kept.Remove(kept.MinBy(k => k.Value.Used).Key);
            return texts;
        }
    }

    private TextsOfStudy Read(StudyId studyId, TextsOfStudy? before)
    {
        var vocabulary = before?.Vocabulary ?? new Vocabulary();
        var known = before?.Sources.ToDictionary(s => s.Id) ?? [];
        using var connection = workspace.Open();
        using var snapshot = connection.BeginTransaction(deferred: true);
        var turns = TurnsOf(connection, studyId);
        var sources = new List<FindableSource>();
        lock (vocabulary)
        {
            foreach (
                var (id, text) in connection.Query<(SourceId, string)>(
                    """
                    SELECT s.id, t.text FROM source s JOIN source_text t ON t.source_id = s.id
                    WHERE s.study_id = @studyId AND s.length > 0 ORDER BY s.position, s.id
                    """,
                    new { studyId },
                    buffered: false
                )
            )
            {
                var spoken = turns.GetValueOrDefault(id, []);
                if (known.TryGetValue(id, out var there) && there.Text.Text == text && SameStretches(there.Text.Turns, spoken))
                    sources.Add(there with { Text = there.Text.SpokenBy(spoken) });
                else
                    sources.Add(new FindableSource(id, IndexedText.Of(text, spoken, vocabulary), ContentHash.Of(text)));
            }
        }
        // Sentences are split aside, so that who looks for words first does not wait for it.
        _ = Task.Run(() =>
        {
            foreach (var text in sources.Select(s => s.Text))
            {
                for (var t = 0; t < text.Turns.Count; t++)
                    text.SentencesOf(t);
            }
        });
        return new TextsOfStudy(sources, vocabulary);
    }

    private static bool SameStretches(IReadOnlyList<TurnOf> one, List<TurnOf> other) =>
        one.Count == other.Count && one.Zip(other).All(t => t.First.Words == t.Second.Words);

    private static Dictionary<SourceId, List<TurnOf>> TurnsOf(SqliteConnection connection, StudyId studyId)
    {
        var turns = new Dictionary<SourceId, List<TurnOf>>();
        foreach (
            var (source, start, end, person, team, speaker) in connection.Query<(SourceId, int, int, long?, bool, bool)>(
                """
                SELECT t.source_id, t.start, t."end", p.participant_id, coalesce(p.is_team, 0), p.id IS NOT NULL
                FROM source s JOIN turn t ON t.source_id = s.id LEFT JOIN speaker p ON p.id = t.speaker_id
                WHERE s.study_id = @studyId ORDER BY t.source_id, t.start
                """,
                new { studyId },
                buffered: false
            )
        )
        {
            if (!turns.TryGetValue(source, out var list))
                turns[source] = list = [];
            list.Add(new TurnOf(new TextRange(start, end), team, person is { } p ? (ParticipantId)p : null, speaker));
        }
        return turns;
    }
}
