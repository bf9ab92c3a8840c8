using Vitrine.Core.Mark.Observations;
using Vitrine.Core.Mark.Recordings;
using Vitrine.Core.Text;

namespace Vitrine.Core.Show.Publication;

/// <summary>Sounds, films and pictures: what of them leaves.</summary>
public sealed partial class Gate
{
    /// <summary>
    /// The stretch of a recording that leaves with a passage: that of a clip, or in which its words are said; null when nothing of the
    /// recording leaves. Everyone who takes part must allow it, seen or heard. Where something is heard, it must have been written down
    /// whole: only then it is known who speaks in the stretch and where masked words and names are, which are bleeped as far as their
    /// captions reach. A turn that may be heard in the stretch and does not leave keeps all of it inside; sound that no turn is known to
    /// cover is silenced.
    /// </summary>
    public LeavingClip? Clip(GatePassage passage)
    {
        if (Heard(passage) is not var (recording, time) || passage.IsGone)
            return null;
        var everyone = EveryoneIn(recording).ToList();
        if (everyone.Count == 0 ? !IsNobodys(recording.Source) : !everyone.All(MayLeave))
            return null;
        if (!recording.Sounds)
            return new LeavingClip(recording.Source.Id, time, [], []);
        if (recording.Transcripts.Count == 0 || recording.Transcripts.Any(t => !t.InStep.IsWhole))
            return null;
        var heard = HeardIn(recording, time).ToList();
        if (heard.Any(h => !Leaves(h.Source, h.Turn)))
            return null;
        var silenced = Outside(time, Merged(heard.SelectMany(h => h.Certain)));
        if (silenced.Contains(time))
            return null;
        var bleeped = heard.SelectMany(h => Over(h.Source, h.Turn).Select(mask => h.TimeOf(mask.Range))).Where(b => b.Touches(time));
        return new LeavingClip(recording.Source.Id, time, Merged(bleeped), silenced);
    }

    /// <summary>
    /// Where somebody may be heard in a recording: in the longest time that their turns may last, and those of which nobody knows who
    /// speaks.
    /// </summary>
    public IReadOnlyList<TimeRange> MayBeHeard(SourceId recording, ParticipantId person) =>
        recordings.TryGetValue(recording, out var known)
            ? Merged(
                HeardIn(known, new TimeRange(0, int.MaxValue))
                    .Where(h => PersonOf(h.Source, h.Turn) is { } who ? who == person : !h.Turn.IsTeam)
                    .Select(h => h.Possible)
            )
            : [];

    /// <summary>A turn by the clock of its recording.</summary>
    /// <param name="Written">Its transcript.</param>
    /// <param name="Turn">What is said.</param>
    /// <param name="Possible">The longest time in which it may be heard.</param>
    /// <param name="Certain">The times in which nobody else is, as far as the transcript tells.</param>
    private readonly record struct HeardTurn(GateTranscript Written, GateTurn Turn, TimeRange Possible, IReadOnlyList<TimeRange> Certain)
    {
        public GateSource Source => Written.Source;

        /// <summary>Where words of it may be heard: as far as their captions reach, or all of it where they have none.</summary>
        public TimeRange TimeOf(TextRange words) => Written.InStep.CertainTimeOf(words)?.Shift(Written.ShiftMs) ?? Possible;
    }

    /// <summary>The turns that may be heard in a stretch of a recording.</summary>
    private static IEnumerable<HeardTurn> HeardIn(GateRecording recording, TimeRange time) =>
        recording.Transcripts.SelectMany(t => TurnsOf(t, recording.OffsetMs)).Where(h => h.Possible.Touches(time));

    /// <summary>
    /// When the turns of a transcript are heard. One without an end may last until another begins; where it begins is not told, it may from
    /// the one before.
    /// </summary>
    private static IEnumerable<HeardTurn> TurnsOf(GateTranscript written, int offset)
    {
        var turns = written.Source.Turns;
        var captions = turns.Select(t => written.InStep.CertainTimeOf(t.Words)?.Shift(written.ShiftMs)).ToList();
        var begins = turns.Select((t, i) => t.AtMs - offset ?? captions[i]?.BeginMs).ToList();
        var sorted = begins.OfType<int>().Order().ToList();
        var before = 0;
        for (var i = 0; i < turns.Count; i++)
        {
            var begin = begins[i] ?? before;
            before = Math.Max(before, begin);
            var next = sorted.BinarySearch(begin + 1);
            var end =
                turns[i].EndMs - offset
                ?? (
                    next >= 0 ? begin + 1
                    : ~next < sorted.Count ? sorted[~next]
                    : int.MaxValue
                );
            // A turn that lasts no time is heard at its moment all the same.
            var whole = TimeRange.Between(begin, Math.Max(begin + 1L, end));
            IReadOnlyList<TimeRange> certain =
                turns[i].EndMs is not null && begins[i] is not null
                    ? [.. new[] { whole }.OfType<TimeRange>()]
                    : [.. written.InStep.TimedIn(turns[i].Words).Select(t => t.Shift(written.ShiftMs)).OfType<TimeRange>()];
            var possible = certain.Aggregate(whole, (all, caption) => all?.Cover(caption) ?? caption);
            // What was over before the recording began is not heard in it.
            if (possible is { } time)
                yield return new HeardTurn(written, turns[i], time, certain);
        }
    }

    private static IEnumerable<ParticipantId> EveryoneIn(GateRecording recording) =>
        recording.Transcripts.SelectMany(t => t.Source.PersonIds).Concat(recording.Source.PersonIds).Distinct();

    /// <summary>The recording in which a passage is heard, and when.</summary>
    private (GateRecording Recording, TimeRange Time)? Heard(GatePassage passage)
    {
        if (passage.Anchor is TimeAnchor clip)
            return recordings.TryGetValue(passage.SourceId, out var recording) ? (recording, clip.Range) : null;
        if (passage.Range is not { } range || !Shows(passage))
            return null;
        var found = recordings
            .Values.SelectMany(r => r.Transcripts.Select(t => (Recording: r, Transcript: t)))
            .Where(f => f.Transcript.Source.Id == passage.SourceId)
            .OrderByDescending(f => f.Transcript.Attached)
            .FirstOrDefault();
        return found.Transcript?.InStep.TimeOf(range) is { } said && SessionClock.InRecording(said, found.Transcript.ShiftMs) is { } heard
            ? (found.Recording, heard)
            : null;
    }

    /// <summary>The words of a passage: those that are said in a clip; null where there are none.</summary>
    private GatePassage? Said(GatePassage passage)
    {
        if (passage.Anchor is not TimeAnchor clip)
            return passage.Range is null ? null : passage;
        return
            recordings.TryGetValue(passage.SourceId, out var recording)
            && recording.Transcripts is [var (source, inStep, offset, _), ..]
            && clip.Range.Shift(-offset) is { } time
            && inStep.SaidIn(source.Text, time) is { } words
            ? new GatePassage(source.Id, new TextAnchor(words))
            : null;
    }

    /// <summary>A part of a picture leaves when everyone who is in it allows it.</summary>
    private bool Leaves(RegionAnchor? part, SourceId picture) =>
        part is not null
        && recordings.TryGetValue(picture, out var known)
        && (known.Source.PersonIds.Count == 0 ? IsNobodys(known.Source) : known.Source.PersonIds.All(MayLeave));

    /// <summary>What of a stretch is in none of the ranges, which are in order and do not touch.</summary>
    private static IReadOnlyList<TimeRange> Outside(TimeRange stretch, IEnumerable<TimeRange> ranges)
    {
        var left = new List<TimeRange>();
        var at = stretch.BeginMs;
        foreach (var range in ranges)
        {
            if (range.BeginMs > at)
                left.Add(new TimeRange(at, Math.Min(range.BeginMs, stretch.EndMs)));
            at = Math.Max(at, range.EndMs);
            if (at >= stretch.EndMs)
                return left;
        }
        left.Add(new TimeRange(at, stretch.EndMs));
        return left;
    }

    private static IReadOnlyList<TimeRange> Merged(IEnumerable<TimeRange> ranges)
    {
        var merged = new List<TimeRange>();
        foreach (var range in ranges.OrderBy(r => r.BeginMs))
        {
            if (merged.Count > 0 && range.BeginMs <= merged[^1].EndMs)
                merged[^1] = new TimeRange(merged[^1].BeginMs, Math.Max(merged[^1].EndMs, range.EndMs));
            else
                merged.Add(range);
        }
        return merged;
    }

    /// <summary>Whose a clip is: of who speaks in it by the transcript in step.</summary>
    private static ParticipantId? Speaker(GateRecording recording, TimeAnchor clip) =>
        PersonOf(
            recording.Source with
            {
                Turns = recording.Transcripts is [var first, ..]
                    ?
                    [
                        .. first.Source.Turns.Select(t =>
                            t with
                            {
                                AtMs = t.AtMs - recording.OffsetMs,
                                EndMs = t.EndMs - recording.OffsetMs,
                            }
                        ),
                    ]
                    : [],
            },
            clip
        );
}
