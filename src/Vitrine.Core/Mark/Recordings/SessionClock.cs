using Vitrine.Core.Text;

namespace Vitrine.Core.Mark.Recordings;

/// <summary>
/// The clock of a session, on which a transcript and a recording each may stand off: a time of either, and its own offset, is the
/// session's time. The only place where times of one become times of the other.
/// </summary>
public static class SessionClock
{
    /// <summary>What is added to a time of a transcript to have the recording's, in milliseconds.</summary>
    /// <param name="transcriptOffsetMs">What is added to the transcript's times to have the session's.</param>
    /// <param name="recordingOffsetMs">What is added to the recording's times to have the session's.</param>
    public static int Shift(int transcriptOffsetMs, int recordingOffsetMs) => transcriptOffsetMs - recordingOffsetMs;

    /// <summary>When something of a transcript is heard in a recording; null where it was over before the recording began.</summary>
    public static TimeRange? InRecording(TimeRange transcript, int shiftMs) => transcript.Shift(shiftMs);
}
