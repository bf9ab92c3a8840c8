using Vitrine.Core.Mark.Recordings;
using Vitrine.Core.Text;

namespace Vitrine.Core.Show.Publication;

/// <summary>A transcript that runs with a recording.</summary>
/// <param name="Source">Its words, turns and masks.</param>
/// <param name="InStep">When its words are spoken, by its own clock.</param>
/// <param name="ShiftMs">What is added to that clock to have the recording's.</param>
/// <param name="Attached">Whether it was attached to this recording, and not to its session alone.</param>
public sealed record GateTranscript(GateSource Source, InStep InStep, int ShiftMs, bool Attached = false);

/// <summary>A recording or picture of which a part may leave.</summary>
/// <param name="Source">Its kind and who takes part in it; it has no text.</param>
/// <param name="Sounds">Whether something can be heard in it.</param>
/// <param name="Transcripts">What was written down of it by people, or by a service that hears; never by a stand-in.</param>
/// <param name="OffsetMs">What is added to its times to have those of its session, by which turns are told.</param>
public sealed record GateRecording(GateSource Source, bool Sounds, IReadOnlyList<GateTranscript> Transcripts, int OffsetMs = 0);

/// <summary>A stretch of a recording that leaves.</summary>
/// <param name="RecordingId">The recording.</param>
/// <param name="Time">The stretch, in milliseconds of the recording.</param>
/// <param name="Bleeped">Stretches of the recording that are bleeped over, in order, not touching.</param>
/// <param name="Silenced">Those in which nobody knows who is heard, in order, not touching.</param>
public sealed record LeavingClip(SourceId RecordingId, TimeRange Time, IReadOnlyList<TimeRange> Bleeped, IReadOnlyList<TimeRange> Silenced);
