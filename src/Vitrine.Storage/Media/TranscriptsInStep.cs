using System.Collections.Concurrent;
using System.Text.Json;
using Dapper;
using Vitrine.Core.Mark.Observations;
using Vitrine.Core.Mark.Recordings;
using Vitrine.Core.Text;
using Vitrine.Storage.Trail;

namespace Vitrine.Storage.Media;

/// <summary>A transcript with the times of its words.</summary>
/// <param name="Text">Its canonical text.</param>
/// <param name="Words">When its words are spoken, by its own clock.</param>
/// <param name="Estimated">Whether the beginnings of some turns are estimated.</param>
public sealed record TimedTranscript(SourceId Id, string Text, InStep Words, bool Estimated);

/// <summary>A recording with which a transcript runs.</summary>
/// <param name="ShiftMs">What is added to the transcript's times to have the recording's.</param>
public sealed record RecordingInStep(SourceId RecordingId, int ShiftMs);

/// <summary>
/// When the words of transcripts are spoken, and in which recordings. One that was attached to a recording, and of whose words no times are
/// known, is aligned to it (<see cref="Laid"/>); only turns whose beginning somebody has pinned are exact then.
/// </summary>
public sealed class TranscriptsInStep(Workspace workspace, MediaFolder media)
{
    private const int MostKept = 64;

    private readonly ConcurrentDictionary<string, TimedTranscript> kept = [];

    /// <exception cref="Refusal">There is no such source with words.</exception>
    public TimedTranscript Of(SourceId transcript)
    {
        using var connection = workspace.Open();
        var (text, shape) = connection.QueryFirstOrDefault<(string? Text, string? Shape)>(
            """
            SELECT t.text, h.shape FROM source_text t LEFT JOIN source_shape h ON h.source_id = t.source_id
            WHERE t.source_id = @transcript
            """,
            new { transcript }
        );
        if (text is null)
            throw Refusal.Missing("source");
        var turns = connection
            .Query<(int Start, int End, int? BeginMs, int? EndMs)>(
                "SELECT start, \"end\", begin_ms, end_ms FROM turn WHERE source_id = @transcript ORDER BY start",
                new { transcript }
            )
            .Select(t => new SpokenTurn(new TextRange(t.Start, t.End), t.BeginMs, t.EndMs))
            .ToList();
        var attached = connection
            .Query<(string Hash, int LengthMs, int Offset, int RecordingOffset)>(
                """
                SELECT m.hash, q.length_ms, i.offset_ms, i.recording_offset_ms FROM in_step i JOIN source r ON r.id = i.recording_id
                  JOIN media m ON m.id = r.media_id JOIN recording q ON q.hash = m.hash
                WHERE i.transcript_id = @transcript AND i.attached
                """,
                new { transcript }
            )
            .Select(r => (r.Hash, r.LengthMs, Shift: SessionClock.Shift(r.Offset, r.RecordingOffset)))
            .FirstOrDefault();
        var key = JsonSerializer.Serialize(
            new object?[] { transcript.Value, ContentHash.Of(text), shape, turns, attached.Hash, attached.Shift }
        );
        if (kept.TryGetValue(key, out var known))
            return known;
        var read = Read(transcript, text, turns, shape is null ? null : JsonSerializer.Deserialize<Shape>(shape)?.Times, attached);
        if (kept.Count >= MostKept)
            kept.Clear();
        return kept[key] = read;
    }

    private TimedTranscript Read(
        SourceId id,
        string text,
        List<SpokenTurn> turns,
        IReadOnlyList<TimedWords>? times,
        (string? Hash, int LengthMs, int Shift) recording
    )
    {
        if (recording.Hash is null || times is { Count: > 0 })
            return new TimedTranscript(id, text, InStep.Of(text, turns, times), false);
        // By the transcript's own clock.
        var pauses = RecordingPeaks.PausesOf(media, recording.Hash).Select(p => p.Shift(-recording.Shift)).OfType<TimeRange>().ToList();
        var (laid, words) = Laid.Along(text, turns, pauses, Math.Max(1, recording.LengthMs - recording.Shift));
        return new TimedTranscript(id, text, InStep.Of(text, laid, words), turns.Exists(t => t.BeginMs is null));
    }

    /// <summary>The recordings with which a transcript runs and that are ready: the one it is attached to first, then by place.</summary>
    public IReadOnlyList<RecordingInStep> RecordingsOf(SourceId transcript)
    {
        using var connection = workspace.Open();
        return
        [
            .. connection
                .Query<(SourceId Id, int Offset, int RecordingOffset)>(
                    """
                    SELECT i.recording_id, i.offset_ms, i.recording_offset_ms FROM in_step i JOIN source r ON r.id = i.recording_id
                      JOIN media m ON m.id = r.media_id JOIN recording q ON q.hash = m.hash
                    WHERE i.transcript_id = @transcript ORDER BY i.attached DESC, i.position, i.recording_id
                    """,
                    new { transcript }
                )
                .Select(r => new RecordingInStep(r.Id, SessionClock.Shift(r.Offset, r.RecordingOffset))),
        ];
    }

    /// <summary>
    /// The transcript that tells what is said in a recording, with what is added to its times to have the recording's: one that is attached
    /// to it before those of its session, the first of these by place; null where there is none.
    /// </summary>
    public (SourceId Transcript, int ShiftMs)? TranscriptOf(SourceId recording)
    {
        using var connection = workspace.Open();
        return connection
            .Query<(SourceId Id, int Offset, int RecordingOffset)>(
                """
                SELECT i.transcript_id, i.offset_ms, i.recording_offset_ms FROM in_step i JOIN source s ON s.id = i.transcript_id
                WHERE i.recording_id = @recording AND EXISTS (SELECT 1 FROM turn t WHERE t.source_id = s.id)
                ORDER BY i.attached DESC, s.position, s.id LIMIT 1
                """,
                new { recording }
            )
            .Select(t => ((SourceId, int)?)(t.Id, SessionClock.Shift(t.Offset, t.RecordingOffset)))
            .FirstOrDefault();
    }

    /// <summary>What is said in clips: each transcript is read once for all of them.</summary>
    public SaidInClips Clips() => new(this);
}

/// <summary>What is said in clips, by the transcripts of their recordings as they are when each is first asked for.</summary>
public sealed class SaidInClips
{
    private readonly TranscriptsInStep inStep;
    private readonly Dictionary<SourceId, (TimedTranscript Transcript, int ShiftMs)?> read = [];

    internal SaidInClips(TranscriptsInStep inStep) => this.inStep = inStep;

    /// <summary>
    /// Where the words of an observation stand: a clip has those that are said in it. Null for a picture, and where nothing is known to be
    /// said.
    /// </summary>
    public (SourceId Source, TextRange Words)? WordsOf(SourceId source, Anchor anchor) =>
        anchor switch
        {
            TextAnchor text => (source, text.Range),
            TimeAnchor clip => SaidIn(source, clip),
            _ => null,
        };

    private (SourceId Source, TextRange Words)? SaidIn(SourceId recording, TimeAnchor clip)
    {
        if (!read.TryGetValue(recording, out var said))
            read[recording] = said = inStep.TranscriptOf(recording) is var (id, shift) ? (inStep.Of(id), shift) : null;
        return
            said is var (transcript, shiftMs)
            && clip.Range.Shift(-shiftMs) is { } time
            && transcript.Words.SaidIn(transcript.Text, time) is { } words
            ? (transcript.Id, words)
            : null;
    }
}
