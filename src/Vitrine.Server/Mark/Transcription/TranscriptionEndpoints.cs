using System.Text.Json;
using Vitrine.Server.Access;
using Vitrine.Server.Jobs;
using Vitrine.Server.Mark.Recordings;
using Vitrine.Storage.Catalogue;
using Vitrine.Storage.Gather.Sources;
using Vitrine.Storage.Jobs;
using Vitrine.Storage.Trail;

namespace Vitrine.Server.Mark.Transcription;

/// <summary>How far the writing down of a recording is, and who does it.</summary>
/// <param name="By">The service.</param>
/// <param name="Says">What to know before trusting it.</param>
/// <param name="Languages">What it understands, as tags of BCP 47.</param>
/// <param name="Working">Whether it waits or is being worked on.</param>
/// <param name="Progress">While it is, 0..1.</param>
/// <param name="Said">How it ended the last time, where it did not succeed; empty otherwise.</param>
internal sealed record TranscriptionFacts(
    WrittenBy By,
    string Says,
    IReadOnlyList<string> Languages,
    bool Working,
    double Progress,
    string Said
);

/// <param name="SourceId">The recording; null for that of its session.</param>
internal sealed record RunsWith(SourceId? SourceId);

/// <param name="Start">Where the words begin that somebody has looked at, in UTF-16 units.</param>
/// <param name="End">One past their end.</param>
/// <param name="BasedOn">The hash of the text in which they were seen.</param>
internal sealed record SureWords(int Start, int End, string BasedOn);

internal static class TranscriptionEndpoints
{
    /// <summary>The most people who speak in one recording.</summary>
    private const int MostSpeakers = 12;

    public static void MapTranscription(this RouteGroupBuilder api)
    {
        var source = api.MapGroup("/sources/{id:long}").WithTags("Mark").About(Thing.Source);
        source.MapGet(
            "/transcription",
            (SourceId id, ITranscriber transcriber, SourceStore sources, JobStore jobs) => Facts(id, transcriber, sources, jobs)
        );
        source.MapPost(
            "/transcription",
            (
                SourceId id,
                TranscriptionGiven given,
                SignedIn me,
                ITranscriber transcriber,
                SourceStore sources,
                JobStore jobs,
                JobRunner runner
            ) =>
            {
                var file = RecordingEndpoints.File(sources, id);
                if (!transcriber.Languages.Contains(given.Language))
                    throw Refusal.Because($"The service understands {string.Join(", ", transcriber.Languages)}. Choose one.", "language");
                if (given.Speakers is < 1 or > MostSpeakers)
                    throw Refusal.Because($"Say how many people speak: 1 to {MostSpeakers}.", "speakers");
                if (!Facts(id, transcriber, sources, jobs).Working)
                {
                    jobs.Add(
                        sources.StudyOf(id),
                        me.Id,
                        JobKind.Transcription,
                        JobState.Waiting,
                        file.Name,
                        file.Bytes,
                        "",
                        JsonSerializer.Serialize(given),
                        file.Hash,
                        id
                    );
                    runner.Wake();
                }
                return Facts(id, transcriber, sources, jobs);
            }
        );
        source.MapDelete(
            "/transcription",
            (SourceId id, ITranscriber transcriber, SourceStore sources, JobStore jobs, JobRunner runner) =>
            {
                RecordingEndpoints.File(sources, id);
                if (
                    jobs.Last(JobKind.Transcription, id) is { } job
                    && !jobs.Move(job, JobState.Cancelled, "You stopped it.", id, from: JobState.Waiting)
                )
                    runner.Stop(job.Key);
                return Facts(id, transcriber, sources, jobs);
            }
        );
        source.MapPut(
            "/in-step-with",
            (SourceId id, RunsWith given, SignedIn me, RecordedSourceStore recorded) => recorded.SetInStepWith(me.Actor, id, given.SourceId)
        );
        source.MapPost(
            "/sure",
            (SourceId id, SureWords given, SignedIn me, RecordedSourceStore recorded) =>
                recorded.SetSure(me.Actor, id, given.Start, given.End, given.BasedOn)
        );
    }

    private static TranscriptionFacts Facts(SourceId id, ITranscriber transcriber, SourceStore sources, JobStore jobs)
    {
        RecordingEndpoints.File(sources, id);
        var job = jobs.Last(JobKind.Transcription, id);
        return new TranscriptionFacts(
            transcriber.Kind,
            transcriber.Says,
            transcriber.Languages,
            job?.State is JobState.Waiting or JobState.Working,
            job is null ? 0 : jobs.ProgressOf(job),
            job?.State is JobState.Refused or JobState.Cancelled ? job.Said : ""
        );
    }
}
