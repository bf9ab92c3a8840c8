using System.Text.Json;
using Vitrine.Core.Mark.Recordings;
using Vitrine.Server.Jobs;
using Vitrine.Server.Media;
using Vitrine.Storage.Jobs;
using Vitrine.Storage.Mark.Recordings;
using Vitrine.Storage.Media;
using Vitrine.Storage.Trail;

namespace Vitrine.Server.Mark.Recordings;

/// <summary>
/// Makes a recording ready: looks at what it holds, draws its peaks in three resolutions, and makes a copy that browsers play where they
/// cannot play the file. What came of it stands beside the kept file, and can be made again.
/// </summary>
internal sealed class RecordingWork(MediaFolder media, RecordingStore recordings) : IJobWork
{
    /// <summary>Of the work, where a copy may have to be made as well: decoding is quicker than encoding.</summary>
    private const double ShareOfPeaks = 0.2;

    /// <summary>By how much the length of a file may be off: containers round, and sound is coded in frames.</summary>
    private const int MostOffMs = 250;

    public JobKind Kind => JobKind.Recording;

    public async Task<JobEnd> Run(Job job, Actor actor, IProgress<double> progress, CancellationToken cancel)
    {
        var hash = job.Hash!;
        if (recordings.Find(hash) is not null)
            return new JobEnd(JobState.Done, "Ready to be marked.", job.SourceId);
        if (!Ffmpeg.IsThere)
            throw Refusal.Because(
                "ffmpeg is not installed on the server, so this recording has no wave and is played only as far as the browser can. Ask "
                    + "the person who runs Vitrine to install it, then try again.",
                "file"
            );
        var path = media.PathOf(hash);
        Directory.CreateDirectory(Path.GetDirectoryName(media.MadeOf(hash, "x"))!);
        try
        {
            var file = await Ffmpeg.Probe(path, cancel);
            if (file.Sound is null && file.Picture is null)
                throw new UnplayableException("neither");
            // What a file says of its length is often wrong: it is measured.
            var lengthMs = file.Picture is null ? 0 : await Ffmpeg.PictureLength(path, cancel);
            if (file.Sound is not null)
                lengthMs = Math.Max(lengthMs, await Peaks(hash, path, file.LengthMs, progress, cancel));
            var honest = file.LengthMs is { } says && Math.Abs(says - lengthMs) <= MostOffMs;
            // What is within the grain of coded sound is as the file says.
            lengthMs = honest ? file.LengthMs!.Value : lengthMs;
            var playable = PlayableAs.Of(honest ? file : file with { LengthMs = null }, Path.GetExtension(job.Name));
            if (playable.Type is not null)
                lengthMs = await Copy(hash, path, playable, lengthMs, progress, cancel);
            if (lengthMs <= 0)
                throw new UnplayableException("empty");
            recordings.Keep(
                new Recording
                {
                    Hash = hash,
                    LengthMs = lengthMs,
                    SaysMs = !honest && file.LengthMs > lengthMs ? file.LengthMs : null,
                    Sounds = file.Sound is not null,
                    Width = file.Width,
                    Height = file.Height,
                    FrameMs = file.FrameMs,
                    CopyType = playable.Type,
                },
                job.StudyId,
                job.AccountId
            );
            if (file.Picture is not null)
                await Scenes(hash, path, lengthMs, cancel);
            return new JobEnd(JobState.Done, "Ready to be marked.", job.SourceId);
        }
        catch (UnplayableException problem)
        {
            throw Refusal.Because(
                problem.Message == "neither"
                    ? "There is neither sound nor film in this file. It is kept as it came in; check whether it is the one you meant."
                    : "This recording cannot be played; it may be broken, or have ended in the middle. It is kept as it came in. Open "
                        + "it in the program that made it, save it anew, and add that.",
                "file"
            );
        }
    }

    public JobEnd DoneBefore(Job job, Step step) => new(JobState.Done, "Ready to be marked.", job.SourceId);

    /// <returns>How long its sound lasts.</returns>
    private async Task<int> Peaks(string hash, string path, int? saysMs, IProgress<double> progress, CancellationToken cancel)
    {
        var meter = new PeakMeter(Ffmpeg.SamplesPerSecond, RecordingPeaks.Resolutions[0]);
        var expected = (saysMs ?? 0) / 1000.0 * Ffmpeg.SamplesPerSecond;
        await Ffmpeg.Samples(
            path,
            samples =>
            {
                meter.Add(samples);
                if (expected > 0)
                    progress.Report(Math.Min(1, meter.Samples / expected) * ShareOfPeaks);
            },
            cancel
        );
        var peaks = meter.Done();
        foreach (var perSecond in RecordingPeaks.Resolutions)
        {
            peaks = peaks.PerSecond == perSecond ? peaks : peaks.Coarser(peaks.PerSecond / perSecond);
            await Whole(hash, RecordingPeaks.NameOf(perSecond), to => File.WriteAllBytesAsync(to, peaks.Values, cancel));
        }
        return (int)(meter.Samples * 1000 / Ffmpeg.SamplesPerSecond);
    }

    private async Task<int> Copy(
        string hash,
        string path,
        PlayableAs playable,
        int lengthMs,
        IProgress<double> progress,
        CancellationToken cancel
    )
    {
        await Whole(
            hash,
            RecordingStore.Copy,
            to =>
                Ffmpeg.Write(
                    path,
                    to,
                    playable.How,
                    ms => progress.Report(lengthMs == 0 ? 0 : ShareOfPeaks + ((1 - ShareOfPeaks) * Math.Min(1, ms / (double)lengthMs))),
                    cancel
                )
        );
        var copy = await Ffmpeg.Probe(media.MadeOf(hash, RecordingStore.Copy), cancel);
        return copy.LengthMs ?? lengthMs;
    }

    /// <summary>
    /// A frame to know the film by, and where its scenes change. It can be marked already, and goes without them where they cannot be
    /// found.
    /// </summary>
    private async Task Scenes(string hash, string path, int lengthMs, CancellationToken cancel)
    {
        try
        {
            var poster = await Ffmpeg.Frame(path, Math.Min(lengthMs / 10, PosterAtMs), cancel);
            await Whole(hash, RecordingStore.Poster, to => File.WriteAllBytesAsync(to, poster, cancel));
            var scenes = SceneChanges.In(await Ffmpeg.Changes(path, lengthMs > ShortMs, cancel));
            await Whole(hash, RecordingStore.Scenes, to => File.WriteAllTextAsync(to, JsonSerializer.Serialize(scenes), cancel));
        }
        catch (UnplayableException) { }
    }

    /// <summary>The frame to know a film by is not its first, which is often black.</summary>
    private const int PosterAtMs = 10_000;

    /// <summary>In films up to this length every frame is looked at for a change of scene, in longer ones key frames alone.</summary>
    private const int ShortMs = 20 * 60_000;

    /// <summary>What is written stands under its name only when it is whole.</summary>
    private async Task Whole(string hash, string name, Func<string, Task> write)
    {
        var begun = media.MadeOf(hash, name + ".begun");
        try
        {
            await write(begun);
            File.Move(begun, media.MadeOf(hash, name), overwrite: true);
        }
        finally
        {
            File.Delete(begun);
        }
    }
}
