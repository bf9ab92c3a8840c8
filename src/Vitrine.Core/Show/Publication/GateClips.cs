using Vitrine.Core.Mark.Observations;
using Vitrine.Core.Mark.Recordings;

namespace Vitrine.Core.Show.Publication;

/// <summary>Sounds, films and pictures: what of them leaves.</summary>
public sealed partial class Gate
{
    /// <summary>
    /// The stretch of a recording that leaves with a passage: that of a clip, or in which its words are said; null when nothing of the
    /// recording leaves. Everyone who takes part must allow it, seen or heard. Where something is heard, it must have been written down
    /// whole: only then it is known who speaks in the stretch and where masked words and names are, which are bleeped as far as their
    /// captions reach. A turn that does not leave keeps all of the stretch inside.
    /// </summary>
    public LeavingClip? Clip(GatePassage passage)
    {
        if (Heard(passage) is not var (recording, time) || passage.IsGone)
            return null;
        var everyone = recording.Transcripts.SelectMany(t => t.Source.PersonIds).Concat(recording.Source.PersonIds).Distinct().ToList();
        if (everyone.Count == 0 ? !IsNobodys(recording.Source) : !everyone.All(RecordingLeaves))
            return null;
        if (!recording.Sounds)
            return new LeavingClip(recording.Source.Id, time, []);
        if (recording.Transcripts.Count == 0 || recording.Transcripts.Any(t => !t.InStep.IsWhole))
            return null;
        var bleeped = new List<TimeRange>();
        foreach (var (source, inStep, offset, _) in recording.Transcripts)
        {
            foreach (var turn in source.Turns.Where(t => Touches(inStep.CertainTimeOf(t.Words), offset, time)))
            {
                if (!Leaves(source, turn))
                    return null;
                foreach (var mask in Over(source, turn))
                {
                    // What is covered has words, and they have a time: the transcript is whole.
                    if (inStep.CertainTimeOf(mask.Range) is not { } certain)
                        return null;
                    if (Touches(certain, offset, time))
                        bleeped.Add(new TimeRange(Math.Max(0, certain.BeginMs + offset), certain.EndMs + offset));
                }
            }
        }
        return new LeavingClip(recording.Source.Id, time, Merged(bleeped));
    }

    /// <summary>The recording in which a passage is heard, and when.</summary>
    private (GateRecording Recording, TimeRange Time)? Heard(GatePassage passage)
    {
        if (passage.Anchor is TimeAnchor clip)
            return recordings.TryGetValue(passage.SourceId, out var recording)
                ? (recording, new TimeRange(clip.BeginMs, clip.EndMs))
                : null;
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
            && inStep.SaidIn(source.Text, new TimeRange(clip.BeginMs - offset, clip.EndMs - offset)) is { } words
            ? new GatePassage(source.Id, new TextAnchor(words))
            : null;
    }

    /// <summary>A part of a picture leaves when everyone who is in it allows it.</summary>
    private bool Leaves(RegionAnchor? part, SourceId picture) =>
        part is not null
        && recordings.TryGetValue(picture, out var known)
        && (known.Source.PersonIds.Count == 0 ? IsNobodys(known.Source) : known.Source.PersonIds.All(RecordingLeaves));

    private static bool Touches(TimeRange? own, int offset, TimeRange time) =>
        own is { } range && range.BeginMs + offset < time.EndMs && time.BeginMs < range.EndMs + offset;

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
