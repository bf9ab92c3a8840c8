using System.Text;
using Vitrine.Core.Gather.Participants;
using Vitrine.Core.Gather.Sources;
using Vitrine.Core.Gather.Surveys;
using Vitrine.Core.Text;
using Vitrine.Storage.Gather.Sources;
using Vitrine.Storage.Gather.Surveys;
using Vitrine.Storage.Jobs;
using Vitrine.Storage.Media;
using Vitrine.Storage.Trail;

namespace Vitrine.Storage.Tests;

public sealed class MediaAndJobTests : IDisposable
{
    private readonly TestWorkspace w = new();
    private readonly JobStore jobs;
    private readonly MediaFolder media;

    public MediaAndJobTests()
    {
        jobs = new JobStore(w.Workspace);
        media = new MediaFolder(w.Workspace);
    }

    public void Dispose() => w.Dispose();

    private Job Sending(long bytes = 10) =>
        jobs.Add(w.Study, w.Ida.AccountId, JobKind.File, JobState.Sending, "talk.txt", bytes, "1", "{}");

    private Task<long> Send(Job job, long from, string words) =>
        media.Append(job.Key, from, job.Bytes, new MemoryStream(Encoding.UTF8.GetBytes(words)), () => true, CancellationToken.None);

    [Fact]
    public async Task Pieces_are_put_together_and_one_that_does_not_fit_is_not_taken()
    {
        var job = Sending();
        Assert.Equal(4, await Send(job, 0, "some"));
        Assert.Equal(4, await Send(job, 2, "xx"));
        await Assert.ThrowsAsync<Refusal>(() => Send(job, 4, " words and more than was announced"));
        Assert.Equal(10, await Send(job, 4, " words"));
        // SHA-256 of "some words", by coreutils' sha256sum.
        Assert.Equal(
            "050777a35dcd48838062824126e60a0780dc322c5b1f84c3a32636cc7466b1b6",
            await media.HashOf(job.Key, CancellationToken.None)
        );
        Assert.Equal("some words", await File.ReadAllTextAsync(media.PathOf(job.Key, "")));
    }

    [Fact]
    public async Task What_nothing_names_is_swept_away_and_what_undo_may_need_is_not()
    {
        var (kept, lost, coming) = (Sending(), Sending(), Sending());
        foreach (var (job, words) in new[] { (kept, "kept words"), (lost, "lost words"), (coming, "coming") })
            await Send(job, 0, words);
        var hashes = new List<string>();
        foreach (var job in new[] { kept, lost })
        {
            hashes.Add(await media.HashOf(job.Key, CancellationToken.None));
            media.Keep(job.Key, hashes[^1]);
            jobs.Move(job, JobState.Refused, from: JobState.Sending);
        }
        var source = w
            .Sources.Add(
                w.Ida,
                w.Study,
                new NewSource(
                    "Kept",
                    SourceKind.Document,
                    null,
                    "kept.txt",
                    "kept words",
                    [new Turn(new TextRange(0, 10))],
                    [],
                    null,
                    new NewMedia(hashes[0], "kept.txt", "text/plain", 10)
                ),
                []
            )
            .Id!.Value;
        w.Sources.Remove(w.Ida, source);
        Assert.Equal(1, media.Sweep());
        Assert.True(File.Exists(media.PathOf(hashes[0])));
        Assert.False(File.Exists(media.PathOf(hashes[1])));
        Assert.Equal(6, media.Received(coming.Key));
        w.Undo.Back(w.Ida, w.Study);
        Assert.Equal(hashes[0], w.Sources.MediaOf(source)!.Hash);
    }

    [Fact]
    public void Work_is_taken_up_in_order_and_begun_again_after_a_restart()
    {
        var (first, second) = (Sending(), Sending());
        foreach (var job in new[] { first, second })
            Assert.True(jobs.Move(job, JobState.Waiting, from: JobState.Sending));
        Assert.Equal(first.Id, jobs.Next(JobKind.File)!.Id);
        jobs.Progress(first, 0.5);
        jobs.BeginAgain();
        Assert.Equal(first.Id, jobs.Next(JobKind.File)!.Id);
        Assert.Equal(second.Id, jobs.Next(JobKind.File)!.Id);
        Assert.Null(jobs.Next(JobKind.File));
    }

    [Fact]
    public void A_job_moves_only_from_where_it_stands()
    {
        var job = Sending();
        Assert.False(jobs.Move(job, JobState.Done, from: JobState.Working));
        Assert.True(jobs.Move(job, JobState.Cancelled, "You took it back.", from: [JobState.Sending, JobState.Waiting]));
        Assert.Equal(
            (JobState.Cancelled, "You took it back."),
            (jobs.Get(w.Study, w.Ida.AccountId, job.Key)!.State, jobs.Get(w.Study, w.Ida.AccountId, job.Key)!.Said)
        );
        jobs.PutAway(w.Study, w.Ida.AccountId);
        Assert.Empty(jobs.Of(w.Study, w.Ida.AccountId));
    }

    [Fact]
    public void A_file_that_broke_off_is_known_by_name_size_and_date_and_by_whose_it_is()
    {
        var job = Sending();
        Assert.Equal(job.Key, jobs.Broken(w.Study, w.Ida.AccountId, "talk.txt", 10, "1")!.Key);
        Assert.Null(jobs.Broken(w.Study, w.Ida.AccountId, "talk.txt", 10, "2"));
        Assert.Null(jobs.Broken(w.Study, w.Tom.AccountId, "talk.txt", 10, "1"));
        Assert.Null(jobs.Get(w.Study, w.Tom.AccountId, job.Key));
    }

    [Fact]
    public void A_survey_made_twice_under_one_key_is_made_once()
    {
        var surveys = new SurveyStore(w.Workspace, w.Corrections);
        SurveyColumn[] columns = [new("who", ColumnRole.Who, AttributeKind.Text), new("why", ColumnRole.OpenAnswer, AttributeKind.Text)];
        var (rows, _) = SurveyReading.Rows(
            columns,
            [
                ["P03", "It was late."],
                ["Marnie Otherwise", "It was off."],
            ]
        );
        var actor = w.Ida with { RequestKey = Guid.NewGuid() };
        surveys.Add(actor, w.Study, "Quay", columns, rows, new Progress<double>());
        surveys.Add(actor, w.Study, "Quay", columns, rows, new Progress<double>());
        var people = w.Participants.In(w.Study).People;
        Assert.Equal(["P03", "P02", "R003"], people.Select(p => p.Code));
        // A name is no code: it stays with the team.
        Assert.Equal(("Respondent R003", "Marnie Otherwise"), (people[2].Pseudonym, people[2].RealName));
        Assert.Equal(3, w.Sources.In(w.Study, w.Ida.AccountId).Count);
    }
}
