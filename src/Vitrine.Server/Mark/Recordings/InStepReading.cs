using Vitrine.Core.Mark.Recordings;
using Vitrine.Core.Text;
using Vitrine.Storage.Gather.Sources;
using Vitrine.Storage.Mark.Recordings;
using Vitrine.Storage.Media;

namespace Vitrine.Server.Mark.Recordings;

/// <summary>
/// When the words of transcripts are spoken. One that was attached to a recording and does not say when its turns begin is laid along it;
/// only those whose beginning somebody has pinned are exact then.
/// </summary>
internal sealed class InStepReading(SourceStore sources, RecordingStore recordings, MediaFolder media)
{
    /// <returns>The transcript with the times of its words, and whether some of them are laid along.</returns>
    public (InStep Words, bool Estimated) Of(Source read)
    {
        IReadOnlyList<SpokenTurn> turns = [.. read.Turns.Select(t => new SpokenTurn(new TextRange(t.Start, t.End), t.BeginMs, t.EndMs))];
        if (
            read.Line.InStepWithId is not { } recording
            || turns.All(t => t.BeginMs is not null)
            || sources.MediaOf(recording) is not { } file
            || recordings.Find(file.Hash) is not { } known
        )
            return (InStep.Of(read.Text, turns, read.Shape?.Times), false);
        var offset = read.Line.OffsetMs;
        var pauses = RecordingEndpoints
            .PausesOf(media, file.Hash)
            .Select(p => new TimeRange(Math.Max(0, p.BeginMs - offset), Math.Max(0, p.EndMs - offset)))
            .ToList();
        var (laid, words) = Laid.Along(read.Text, turns, pauses, Math.Max(1, known.LengthMs - offset));
        return (InStep.Of(read.Text, laid, read.Shape?.Times is { Count: > 0 } times ? times : words), true);
    }
}
