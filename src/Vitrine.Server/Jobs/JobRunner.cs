using System.Collections.Concurrent;
using System.Diagnostics;
using Vitrine.Storage.Access;
using Vitrine.Storage.Gather.Privacy;
using Vitrine.Storage.Jobs;
using Vitrine.Storage.Media;
using Vitrine.Storage.Trail;

namespace Vitrine.Server.Jobs;

/// <summary>How a job ended.</summary>
internal sealed record JobEnd(JobState State, string Said, SourceId? SourceId = null);

/// <summary>One kind of long work.</summary>
internal interface IJobWork
{
    JobKind Kind { get; }

    /// <summary>
    /// Does the work as <paramref name="actor"/>, whose request key is the job's own: done again after a crash, it makes nothing twice.
    /// </summary>
    /// <exception cref="Refusal">It cannot be done, with a sentence.</exception>
    Task<JobEnd> Run(Job job, Actor actor, IProgress<double> progress, CancellationToken cancel);

    /// <summary>How a job ended whose step stands already.</summary>
    JobEnd DoneBefore(Job job, Step step);
}

/// <summary>
/// Works on jobs aside from requests: files and tables one after the other, and beside them recordings one after the other, which take as
/// long as decoding them takes, and transcriptions. A server that was killed begins its work again.
/// </summary>
internal sealed class JobRunner(
    Workspace workspace,
    JobStore jobs,
    MediaFolder media,
    AccountStore accounts,
    StudyAccess access,
    Erasure erasure,
    IEnumerable<IJobWork> works,
    ILogger<JobRunner> log
) : BackgroundService
{
    private static readonly TimeSpan BetweenTellings = TimeSpan.FromMilliseconds(300);

    private static readonly TimeSpan LongestPause = TimeSpan.FromMilliseconds(100);

    private readonly (JobKind[] Kinds, SemaphoreSlim Waiting)[] lanes =
    [
        ([JobKind.File, JobKind.Survey], new SemaphoreSlim(0)),
        ([JobKind.Recording], new SemaphoreSlim(0)),
        ([JobKind.Transcription], new SemaphoreSlim(0)),
    ];

    private readonly ConcurrentDictionary<string, CancellationTokenSource> stops = [];

    /// <summary>A job may be waiting.</summary>
    public void Wake()
    {
        foreach (var (_, waiting) in lanes)
            waiting.Release();
    }

    /// <summary>Ends the work on a job; whether it was being worked on.</summary>
    public bool Stop(string key)
    {
        if (!stops.TryGetValue(key, out var stop))
            return false;
        stop.Cancel();
        return true;
    }

    protected override async Task ExecuteAsync(CancellationToken stoppingToken)
    {
        jobs.BeginAgain();
        erasure.Clean();
        if (media.Sweep() is > 0 and var swept)
            log.LogInformation("Took away {Files} files that nothing named", swept);
        await Task.WhenAll(lanes.Select(lane => WorkOn(lane.Kinds, lane.Waiting, stoppingToken)));
    }

    private async Task WorkOn(JobKind[] kinds, SemaphoreSlim waiting, CancellationToken stoppingToken)
    {
        while (!stoppingToken.IsCancellationRequested)
        {
            try
            {
                while (jobs.Next(kinds) is { } job)
                {
                    var begun = Stopwatch.GetTimestamp();
                    await Work(job, stoppingToken);
                    // A film that has come in is to be made ready.
                    if (job.Kind == JobKind.File)
                        Wake();
                    // People who work meanwhile come first: as long a pause as the work took, within reason.
                    await Task.Delay(
                        TimeSpan.FromTicks(Math.Min(Stopwatch.GetElapsedTime(begun).Ticks, LongestPause.Ticks)),
                        stoppingToken
                    );
                }
                await waiting.WaitAsync(stoppingToken);
            }
            catch (OperationCanceledException)
            {
                return;
            }
            catch (Exception failure)
            {
                // The server goes on without this job; it is begun again at the next start.
                log.LogError(failure, "A job could not be ended");
            }
        }
    }

    private async Task Work(Job job, CancellationToken stopping)
    {
        JobEnd end;
        using var stop = CancellationTokenSource.CreateLinkedTokenSource(stopping);
        stops[job.Key] = stop;
        try
        {
            var account = accounts.Find(job.AccountId);
            if (account is null or { Closed: true } || !access.SeesStudy(new Viewer(account.Id, account.Role), job.StudyId))
                throw new Refusal(RefusalKind.NotAllowed, "You are not in this study’s team any more.");
            var actor = new Actor(account.Id, account.Name, account.Role, Guid.Parse(job.Key));
            var work = works.Single(w => w.Kind == job.Kind);
            // Killed between the work and the word that it is done.
            try
            {
                end = await Done(work, job, actor, stop.Token);
            }
            catch (Exception failure) when (failure is not (Refusal or OperationCanceledException or IOException))
            {
                // What failed of itself is tried again, once.
                log.LogWarning(failure, "Job {Job} of kind {Kind} failed, and is tried again", job.Id, job.Kind);
                end = await Done(work, job, actor, stop.Token);
            }
        }
        catch (Refusal refusal)
        {
            end = new JobEnd(JobState.Refused, refusal.Message);
        }
        catch (OperationCanceledException) when (stopping.IsCancellationRequested)
        {
            // Begun again at the next start.
            return;
        }
        catch (OperationCanceledException)
        {
            end = new JobEnd(JobState.Cancelled, "You stopped it.");
        }
        catch (Exception failure)
        {
            log.LogError(failure, "Job {Job} of kind {Kind} failed", job.Id, job.Kind);
            end = new JobEnd(
                JobState.Refused,
                failure is IOException
                    ? "The server could not keep this file; its disk may be full. Tell the person who runs Vitrine, then try again."
                    : "Something went wrong on the server while this was read. Nothing was added. Try again, and tell the person "
                        + "who runs Vitrine if it stays."
            );
        }
        finally
        {
            stops.TryRemove(job.Key, out _);
        }
        jobs.Move(job, end.State, end.Said, end.SourceId ?? job.SourceId, from: JobState.Working);
        // What was kept has been moved away before; what came of a table is in the database.
        if (end.State is JobState.Done or JobState.Refused)
            media.Drop(job.Key);
    }

    private async Task<JobEnd> Done(IJobWork work, Job job, Actor actor, CancellationToken stop) =>
        workspace.DoneBefore(actor) is { } step ? work.DoneBefore(job, step) : await work.Run(job, actor, new Told(jobs, job), stop);

    private sealed class Told(JobStore jobs, Job job) : IProgress<double>
    {
        private DateTime last;

        public void Report(double value)
        {
            if (DateTime.UtcNow - last < BetweenTellings)
                return;
            last = DateTime.UtcNow;
            jobs.Progress(job, value);
        }
    }
}
