using System.Globalization;
using System.Text.Json;
using Vitrine.Core.Mark.Transcription;
using Vitrine.Server.Http;
using Vitrine.Server.Jobs;
using Vitrine.Server.Mark.Recordings;
using Vitrine.Server.Media;
using Vitrine.Storage.Gather.Sources;
using Vitrine.Storage.Jobs;
using Vitrine.Storage.Mark.Recordings;
using Vitrine.Storage.Media;
using Vitrine.Storage.Trail;

namespace Vitrine.Server.Mark.Transcription;

/// <summary>What a person says of a recording that is to be written down.</summary>
/// <param name="Language">One of the service's languages.</param>
/// <param name="Speakers">How many people speak in it.</param>
internal sealed record TranscriptionGiven(string Language, int Speakers);

/// <summary>Has a recording written down by the service, and keeps what it heard as a transcript in step with the recording.</summary>
internal sealed class TranscriptionWork(
    ITranscriber transcriber,
    MediaFolder media,
    RecordingStore recordings,
    SourceStore sources,
    RecordedSourceStore recorded
) : IJobWork
{
    public JobKind Kind => JobKind.Transcription;

    public async Task<JobEnd> Run(Job job, Actor actor, IProgress<double> progress, CancellationToken cancel)
    {
        var given = JsonSerializer.Deserialize<TranscriptionGiven>(job.Given)!;
        var source = job.SourceId!.Value;
        var file = RecordingEndpoints.File(sources, source);
        var known = recordings.Find(file.Hash);
        if (known is not { Sounds: true })
            throw Refusal.Because("This recording has no sound, or is not ready yet. Wait until it can be played, then try again.", "id");
        if (!transcriber.IsThere)
            throw Refusal.Because("The transcription service is not installed on the server. Ask the person who runs Vitrine.", "id");
        IReadOnlyList<HeardTurn> heard;
        try
        {
            heard = await transcriber.Hear(
                new ToHear(
                    media.PathOf(file.Hash),
                    file.Hash,
                    known.LengthMs,
                    RecordingPeaks.PausesOf(media, file.Hash),
                    given.Language,
                    given.Speakers
                ),
                progress,
                cancel
            );
        }
        catch (UnplayableException)
        {
            throw Refusal.Because(
                "The transcription service could not read this recording. It is kept as it is; transcribe it by hand.",
                "id"
            );
        }
        var written = WrittenDown.Of(heard);
        if (written.Turns.Count == 0)
            throw Refusal.Because("The transcription service heard nobody speak in this recording. Nothing was added.", "id");
        var title = sources.Get(source, actor.AccountId).Line.Title;
        var added = transcriber.Kind == WrittenBy.Simulated ? ", simulated transcript" : ", transcript";
        var step = recorded.AddTranscript(
            actor,
            source,
            title[..Math.Min(title.Length, Limits.Title - added.Length)] + added,
            written,
            transcriber.Kind
        );
        var unsure = written.Shape.Times!.Count(t => t.Unsure);
        return new JobEnd(
            JobState.Done,
            string.Create(CultureInfo.InvariantCulture, $"{written.Turns.Count} turns transcribed; {unsure} words need a look."),
            step.Id
        );
    }

    public JobEnd DoneBefore(Job job, Step step) => new(JobState.Done, "Transcribed.", step.Id);
}
