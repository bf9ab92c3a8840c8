using System.Globalization;
using System.Text.Json;
using Microsoft.Net.Http.Headers;
using Vitrine.Server.Access;
using Vitrine.Server.Http;
using Vitrine.Server.Jobs;
using Vitrine.Server.Media;
using Vitrine.Storage.Catalogue;
using Vitrine.Storage.Gather.Sources;
using Vitrine.Storage.Jobs;
using Vitrine.Storage.Mark.Recordings;
using Vitrine.Storage.Media;
using Vitrine.Storage.Trail;

namespace Vitrine.Server.Mark.Recordings;

/// <summary>Where a recording stands on its way to being marked.</summary>
internal enum RecordingState
{
    /// <summary>It can be played and marked.</summary>
    Ready,

    /// <summary>It waits for others to be made ready.</summary>
    Waiting,

    /// <summary>It is being made ready.</summary>
    Working,

    /// <summary>It could not be made ready, or somebody stopped it.</summary>
    Unready,
}

/// <summary>What is known of a recording.</summary>
/// <param name="Progress">While it is made ready, 0..1.</param>
/// <param name="Said">Why it is not ready; empty where nothing is wrong.</param>
/// <param name="LengthMs">How long it lasts, as measured, in milliseconds; 0 while that is not known.</param>
/// <param name="SaysMs">How long its file says that it lasts, where it ends before; null else.</param>
/// <param name="Sounds">Whether it has a sound, and so peaks.</param>
/// <param name="Films">Whether it has a moving picture.</param>
/// <param name="FrameMs">How long one frame stands, in milliseconds; null where that differs, or is not known.</param>
internal sealed record RecordingFacts(
    RecordingState State,
    double Progress,
    string Said,
    int LengthMs,
    int? SaysMs,
    bool Sounds,
    bool Films,
    int? Width,
    int? Height,
    double? FrameMs
);

/// <param name="AtMs">The moment, in milliseconds from the beginning.</param>
internal sealed record Moment(int AtMs);

/// <summary>
/// The words of a transcript with their times by its own clock, four numbers a word: start, end, begin and end in milliseconds.
/// </summary>
/// <param name="Estimated">Whether turns without a beginning of their own are laid along the recording.</param>
internal sealed record WordsInStep(IReadOnlyList<int> Words, bool Estimated);

internal static class RecordingEndpoints
{
    /// <summary>The most peaks that are sent at once: ten minutes of the finest.</summary>
    private const int MostPeaks = 60_000;

    public static void MapRecordings(this RouteGroupBuilder api)
    {
        var source = api.MapGroup("/sources/{id:long}").WithTags("Mark").About(Thing.Source);
        source.MapGet(
            "/recording",
            (SourceId id, SourceStore sources, RecordingStore recordings, JobStore jobs) => Facts(File(sources, id), recordings, jobs)
        );
        source.MapGet("/media", Played).Produces(StatusCodes.Status200OK, contentType: "application/octet-stream");
        source.MapPost(
            "/recording/ready",
            (SourceId id, SignedIn me, SourceStore sources, RecordingStore recordings, JobStore jobs, JobRunner runner) =>
            {
                var file = File(sources, id);
                if (Facts(file, recordings, jobs).State == RecordingState.Unready)
                {
                    jobs.Add(
                        sources.StudyOf(id),
                        me.Id,
                        JobKind.Recording,
                        JobState.Waiting,
                        file.Name,
                        file.Bytes,
                        "",
                        "{}",
                        file.Hash,
                        id
                    );
                    runner.Wake();
                }
                return Facts(file, recordings, jobs);
            }
        );
        source
            .MapGet(
                "/peaks",
                (SourceId id, int perSecond, int from, int to, SourceStore sources, MediaFolder media) =>
                {
                    if (!RecordingPeaks.Resolutions.Contains(perSecond))
                        throw Refusal.Because("A second has 100, 10 or 1 peaks.", "perSecond");
                    if (from < 0 || to <= from || to - from > MostPeaks)
                        throw Refusal.Because($"Ask for 1 to {MostPeaks:N0} peaks at once, counted from 0.", "from");
                    var path = media.MadeOf(File(sources, id).Hash, RecordingPeaks.NameOf(perSecond));
                    if (!System.IO.File.Exists(path))
                        throw Refusal.Missing("wave");
                    using var peaks = System.IO.File.OpenRead(path);
                    peaks.Position = Math.Min(from, peaks.Length);
                    var bytes = new byte[(int)Math.Min(to - from, peaks.Length - peaks.Position)];
                    peaks.ReadExactly(bytes);
                    return Results.Bytes(bytes, "application/octet-stream");
                }
            )
            .Produces(StatusCodes.Status200OK, contentType: "application/octet-stream");
        source.MapGet(
            "/pauses",
            (SourceId id, SourceStore sources, MediaFolder media) => RecordingPeaks.PausesOf(media, File(sources, id).Hash)
        );
        source
            .MapGet(
                "/poster",
                (SourceId id, SourceStore sources, MediaFolder media) =>
                    Path.GetFullPath(media.MadeOf(File(sources, id).Hash, RecordingStore.Poster)) is { } path && System.IO.File.Exists(path)
                        ? Results.File(path, "image/png")
                        : throw Refusal.Missing("picture")
            )
            .Produces(StatusCodes.Status200OK, contentType: "image/png");
        source.MapGet(
            "/scenes",
            IReadOnlyList<int> (SourceId id, SourceStore sources, MediaFolder media) =>
                media.MadeOf(File(sources, id).Hash, RecordingStore.Scenes) is { } path && System.IO.File.Exists(path)
                    ? JsonSerializer.Deserialize<List<int>>(System.IO.File.ReadAllText(path))!
                    : []
        );
        source.MapPost("/stills", Still);
        source.MapGet(
            "/in-step",
            (SourceId id, TranscriptsInStep inStep) =>
            {
                var read = inStep.Of(id);
                return new WordsInStep(
                    [.. read.Words.SpokenWords.SelectMany(w => new[] { w.Words.Start, w.Words.End, w.Time.BeginMs, w.Time.EndMs })],
                    read.Estimated
                );
            }
        );
    }

    /// <summary>
    /// The file that a source was made of, or the copy of it that browsers play, in ranges. Only sound, pictures and film are shown in the
    /// page; anything else is for keeping.
    /// </summary>
    private static IResult Played(SourceId id, SourceStore sources, RecordingStore recordings, MediaFolder media)
    {
        var file = File(sources, id);
        if (recordings.Find(file.Hash) is { CopyType: { } type })
            return Results.File(
                Path.GetFullPath(media.MadeOf(file.Hash, RecordingStore.Copy)),
                type,
                entityTag: new EntityTagHeaderValue($"\"{file.Hash} copy\""),
                enableRangeProcessing: true
            );
        return media.Sent(file, file.IsMedia);
    }

    private static async Task<Step> Still(
        SourceId id,
        Moment given,
        SignedIn me,
        SourceStore sources,
        RecordedSourceStore recorded,
        RecordingStore recordings,
        MediaFolder media,
        CancellationToken cancel
    )
    {
        var file = File(sources, id);
        var known = recordings.Find(file.Hash);
        if (known is not { Width: not null })
            throw Refusal.Because("There is no film here to keep a still of, or it is not ready yet.", "atMs");
        if (given.AtMs < 0 || given.AtMs > known.LengthMs)
            throw Refusal.Because("This moment is not in the film. Choose one between its beginning and its end.", "atMs");
        byte[] png;
        try
        {
            png = await Ffmpeg.Frame(
                known.CopyType is null ? media.PathOf(file.Hash) : media.MadeOf(file.Hash, RecordingStore.Copy),
                given.AtMs,
                cancel
            );
        }
        catch (UnplayableException)
        {
            png = [];
        }
        if (png.Length == 0)
            throw Refusal.Because("No picture could be taken here. Go a little back, and try again.", "atMs");
        var title = sources.Get(id, me.Id).Line.Title;
        var at = TimeSpan
            .FromMilliseconds(Math.Round(given.AtMs / 100.0, MidpointRounding.AwayFromZero) * 100)
            .ToString(given.AtMs < 3_600_000 ? @"m\:ss\.f" : @"h\:mm\:ss\.f", CultureInfo.InvariantCulture);
        var path = media.Passing();
        await System.IO.File.WriteAllBytesAsync(path, png, cancel);
        var passing = Path.GetFileName(path);
        var hash = await media.HashOf(passing, cancel);
        media.Keep(passing, hash);
        var name = $"{title} at {at}";
        return recorded.AddStill(
            me.Actor,
            id,
            given.AtMs,
            null,
            name[..Math.Min(name.Length, Limits.Title)],
            new NewMedia(hash, $"{name}.png", "image/png", png.Length)
        );
    }

    internal static NewMedia File(SourceStore sources, SourceId id) =>
        sources.MediaOf(id) ?? throw new Refusal(RefusalKind.NotFound, "This source is no recording.");

    private static RecordingFacts Facts(NewMedia file, RecordingStore recordings, JobStore jobs)
    {
        if (recordings.Find(file.Hash) is { } known)
            return new RecordingFacts(
                RecordingState.Ready,
                1,
                "",
                known.LengthMs,
                known.SaysMs,
                known.Sounds,
                known.Width is not null,
                known.Width,
                known.Height,
                known.FrameMs
            );
        var job = jobs.Last(JobKind.Recording, file.Hash);
        return job?.State switch
        {
            JobState.Waiting => Not(RecordingState.Waiting),
            JobState.Working => Not(RecordingState.Working),
            JobState.Cancelled or JobState.Refused => Not(RecordingState.Unready, job.Said),
            _ => Not(RecordingState.Unready, "This recording was not looked at yet."),
        };

        RecordingFacts Not(RecordingState state, string said = "") =>
            new(state, job is null ? 0 : jobs.ProgressOf(job), said, 0, null, false, false, null, null, null);
    }
}
