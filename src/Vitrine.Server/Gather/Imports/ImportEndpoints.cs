using System.Text.Json;
using Vitrine.Core.Gather.Sources;
using Vitrine.Formats;
using Vitrine.Server.Access;
using Vitrine.Server.Http;
using Vitrine.Server.Jobs;
using Vitrine.Storage.Jobs;
using Vitrine.Storage.Media;
using Vitrine.Storage.Trail;

namespace Vitrine.Server.Gather.Imports;

/// <summary>A file that someone is about to send.</summary>
/// <param name="Name">Its name with the ending.</param>
/// <param name="Bytes">Its size.</param>
/// <param name="Modified">When it was changed last, as the browser tells; with name and size it tells a file that was broken off.</param>
/// <param name="Kind">What the source will be.</param>
/// <param name="FolderId">The folder it goes into, or null.</param>
/// <param name="Attachment">Whether it is kept as an attachment and not read.</param>
/// <param name="Batch">The same for files that are given at once; undo takes them back together. Null for a file by itself.</param>
internal sealed record NewFile(
    string Name,
    long Bytes,
    string Modified,
    SourceKind Kind,
    FolderId? FolderId,
    bool Attachment,
    Guid? Batch = null
);

/// <summary>A file on its way in, and what became of it.</summary>
/// <param name="Key">Its own name in addresses.</param>
/// <param name="Name">The file's name.</param>
/// <param name="Bytes">Its size.</param>
/// <param name="Received">How many bytes have come in.</param>
/// <param name="State">Where it stands.</param>
/// <param name="Progress">Of the work on it, 0..1.</param>
/// <param name="Said">What became of it, in words.</param>
/// <param name="SourceId">The source that it became, or that is the same.</param>
/// <param name="Kind">What is done with it.</param>
internal sealed record Import(
    string Key,
    string Name,
    long Bytes,
    long Received,
    JobState State,
    double Progress,
    string Said,
    SourceId? SourceId,
    JobKind Kind
);

/// <summary>Files come in in pieces, so that a broken line loses nothing, and are worked on aside.</summary>
internal static class ImportEndpoints
{
    public static void MapImports(this RouteGroupBuilder api)
    {
        var imports = api.MapGroup("/studies/{studyId:long}/imports").WithTags("Gather");
        imports.MapGet(
            "",
            (StudyId studyId, SignedIn me, JobStore jobs, MediaFolder media) =>
                jobs.Of(studyId, me.Id).Select(j => Of(j, jobs, media)).ToList()
        );
        imports.MapPost(
            "",
            (StudyId studyId, NewFile given, SignedIn me, JobStore jobs, MediaFolder media, JobRunner runner) =>
            {
                var name = Path.GetFileName(Validate.Text(given.Name, "name", "The file has no name."));
                if (given.Bytes < 0)
                    throw Refusal.Because("A file has 0 bytes or more. Choose it again.", "bytes");
                if (given.Bytes > Limits.FileBytes)
                    throw Refusal.Because(
                        $"This file is larger than {Limits.FileBytes / 1_000_000_000} GB. Split the recording, or save it smaller.",
                        "bytes"
                    );
                var broken = jobs.Broken(studyId, me.Id, name, given.Bytes, given.Modified);
                if (broken is not null)
                    return Of(broken, jobs, media);
                // What cannot be read at all need not be sent.
                var sent = given.Bytes <= 0 || (!given.Attachment && SourceFile.UseOf(name) is null);
                var job = jobs.Add(
                    studyId,
                    me.Id,
                    JobKind.File,
                    sent ? JobState.Waiting : JobState.Sending,
                    name,
                    given.Bytes,
                    given.Modified,
                    JsonSerializer.Serialize(new FileGiven(given.Kind, given.FolderId, false, given.Attachment, given.Batch))
                );
                if (sent)
                    runner.Wake();
                return Of(job, jobs, media);
            }
        );
        imports.MapPut(
            "/{key}/bytes",
            async (
                StudyId studyId,
                string key,
                long from,
                HttpRequest request,
                SignedIn me,
                JobStore jobs,
                MediaFolder media,
                JobRunner runner
            ) =>
            {
                var job = Find(jobs, studyId, me, key);
                if (from < 0 || from > job.Bytes || from + (request.ContentLength ?? 0) > job.Bytes)
                    throw Refusal.Because("This piece does not fit into the file as it was announced. Choose the file again.", "from");
                if (
                    job.State == JobState.Sending
                    && await media.Append(
                        job.Key,
                        from,
                        job.Bytes,
                        request.Body,
                        () => Find(jobs, studyId, me, key).State == JobState.Sending,
                        request.HttpContext.RequestAborted
                    ) == job.Bytes
                    && jobs.Move(job, JobState.Waiting, from: JobState.Sending)
                )
                    runner.Wake();
                return Of(Find(jobs, studyId, me, key), jobs, media);
            }
        );
        imports.MapPost(
            "/{key}/anyway",
            (StudyId studyId, string key, SignedIn me, JobStore jobs, MediaFolder media, JobRunner runner) =>
            {
                var job = Find(jobs, studyId, me, key);
                var given = JsonSerializer.Deserialize<FileGiven>(job.Given)! with { Anyway = true };
                if (jobs.Move(job, JobState.Waiting, given: JsonSerializer.Serialize(given), from: JobState.Same))
                    runner.Wake();
                return Of(Find(jobs, studyId, me, key), jobs, media);
            }
        );
        imports.MapDelete(
            "/{key}",
            (StudyId studyId, string key, SignedIn me, JobStore jobs, MediaFolder media, JobRunner runner) =>
            {
                var job = Find(jobs, studyId, me, key);
                if (job is { Kind: JobKind.Recording, State: JobState.Working })
                    runner.Stop(job.Key);
                else if (
                    jobs.Move(
                        job,
                        JobState.Cancelled,
                        "You took it back.",
                        from: [JobState.Sending, JobState.Waiting, JobState.Same, JobState.Table]
                    )
                )
                    media.Drop(job.Key);
                return Of(Find(jobs, studyId, me, key), jobs, media);
            }
        );
        imports.MapPost("/put-away", (StudyId studyId, SignedIn me, JobStore jobs) => jobs.PutAway(studyId, me.Id));
    }

    private static Job Find(JobStore jobs, StudyId studyId, SignedIn me, string key) =>
        jobs.Get(studyId, me.Id, key) ?? throw Refusal.Missing("file");

    private static Import Of(Job job, JobStore jobs, MediaFolder media) =>
        new(
            job.Key,
            job.Name,
            job.Bytes,
            job.State == JobState.Sending ? media.Received(job.Key) : job.Bytes,
            job.State,
            jobs.ProgressOf(job),
            job.Said,
            job.SourceId,
            job.Kind
        );
}
