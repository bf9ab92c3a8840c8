using System.Text.Json;
using Dapper;
using Vitrine.Core.Gather.Turns;
using Vitrine.Core.Mark.Transcription;
using Vitrine.Core.Text;
using Vitrine.Storage.Media;
using Vitrine.Storage.Trail;

namespace Vitrine.Storage.Gather.Sources;

/// <summary>Sources that come of a recording: its stills and its transcripts.</summary>
public sealed class RecordedSourceStore(Workspace workspace, SourceStore sources)
{
    /// <summary>
    /// Keeps a frame of a film, or a page of a document, as a picture, which knows of what it is; it is of the same session, and of the
    /// same people.
    /// </summary>
    public Step AddStill(Actor actor, SourceId filmId, int? atMs, int? page, string title, NewMedia picture)
    {
        var film = sources.Get(filmId, actor.AccountId);
        return workspace.Write(
            actor,
            film.StudyId,
            $"Kept the still “{title}”",
            writing =>
                SourceStore
                    .Insert(
                        writing,
                        film.StudyId,
                        new NewSource(
                            title,
                            film.Line.Kind,
                            film.Line.HeldOn,
                            picture.Name,
                            "",
                            [],
                            film.Line.ParticipantIds,
                            Media: picture,
                            FolderId: film.Line.FolderId,
                            SessionId: film.Line.SessionId,
                            StillOfId: filmId,
                            StillAtMs: atMs,
                            StillPage: page
                        ),
                        SourceStore.NextPosition(writing, film.StudyId),
                        _ => new SpeakerMatch(null, false)
                    )
                    .Value
        );
    }

    /// <summary>Adds what was written down of a recording; it is of the same session, and of the same people.</summary>
    public Step AddTranscript(Actor actor, SourceId recordingId, string title, WrittenDown written, WrittenBy by)
    {
        var recording = sources.Get(recordingId, actor.AccountId);
        return workspace.Write(
            actor,
            recording.StudyId,
            $"Transcribed “{recording.Line.Title}”",
            writing =>
                SourceStore
                    .Insert(
                        writing,
                        recording.StudyId,
                        new NewSource(
                            title,
                            recording.Line.Kind,
                            recording.Line.HeldOn,
                            null,
                            written.Text,
                            written.Turns,
                            recording.Line.ParticipantIds,
                            written.Shape,
                            FolderId: recording.Line.FolderId,
                            SessionId: recording.Line.SessionId,
                            InStepWithId: recordingId,
                            WrittenBy: by
                        ),
                        SourceStore.NextPosition(writing, recording.StudyId),
                        _ => new SpeakerMatch(null, false)
                    )
                    .Value
        );
    }

    /// <summary>Attaches a transcript to the recording with which it runs; null for that of its session.</summary>
    public Step SetInStepWith(Actor actor, SourceId id, SourceId? recordingId)
    {
        var transcript = sources.Get(id, actor.AccountId);
        if (
            transcript.Text.Length == 0
            || (recordingId is { } recording && (sources.StudyOf(recording) != transcript.StudyId || sources.MediaOf(recording) is null))
        )
            throw Refusal.Because("Choose a transcript with words, and a recording of the same study.", "sourceId");
        return workspace.Write(
            actor,
            transcript.StudyId,
            recordingId is null ? "Detached a transcript from its recording" : "Attached a transcript to a recording",
            writing =>
            {
                writing.Update("source", id.Value, new { inStepWithId = recordingId });
                return id.Value;
            }
        );
    }

    /// <summary>Somebody has looked at words that whoever wrote them down doubted, and they are right.</summary>
    public Step SetSure(Actor actor, SourceId id, int start, int end, string basedOn)
    {
        var source = sources.Get(id, actor.AccountId);
        if (source.TextHash != basedOn)
            throw new Refusal(RefusalKind.Conflict, "Somebody has corrected this text meanwhile. Look at the words again.");
        bool Touched(TimedWords t) => t.Unsure && t.Words.Start < end && start < t.Words.End;
        if (source.Shape?.Times is not { } times || !times.Any(Touched))
            throw Refusal.Because("Nobody doubts these words.", "start");
        return workspace.Write(
            actor,
            source.StudyId,
            "Looked at doubted words",
            writing =>
            {
                var shape = source.Shape with { Times = [.. times.Select(t => Touched(t) ? t with { Unsure = false } : t)] };
                writing.Update(
                    "source_shape",
                    writing.Connection.QuerySingle<long>("SELECT id FROM source_shape WHERE source_id = @id", new { id }),
                    new { shape = JsonSerializer.Serialize(shape) }
                );
                return id.Value;
            }
        );
    }
}
