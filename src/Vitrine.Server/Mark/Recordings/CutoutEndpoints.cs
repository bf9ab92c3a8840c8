using Microsoft.Net.Http.Headers;
using Vitrine.Core.Gather.Privacy;
using Vitrine.Core.Mark.Observations;
using Vitrine.Core.Mark.Recordings;
using Vitrine.Core.Show.Publication;
using Vitrine.Core.Text;
using Vitrine.Formats.Captions;
using Vitrine.Server.Access;
using Vitrine.Server.Http;
using Vitrine.Server.Media;
using Vitrine.Storage.Catalogue;
using Vitrine.Storage.Gather.Sources;
using Vitrine.Storage.Mark.Observations;
using Vitrine.Storage.Mark.Recordings;
using Vitrine.Storage.Media;
using Vitrine.Storage.Show.Publication;
using Vitrine.Storage.Trail;

namespace Vitrine.Server.Mark.Recordings;

/// <summary>
/// The part of a recording or picture on which an observation stands, or in which its words are heard, as a file of its own that holds
/// nothing else of it.
/// </summary>
internal static class CutoutEndpoints
{
    /// <summary>The longest handle on both sides of a clip, in milliseconds.</summary>
    private const int LongestHandle = 1000;

    public static void MapCutouts(this RouteGroupBuilder api)
    {
        var observation = api.MapGroup("/observations/{id:long}").WithTags("Mark").About(Thing.Observation);
        observation.MapGet("/cutout", Cutout).Produces(StatusCodes.Status200OK, contentType: "application/octet-stream");
        observation
            .MapGet(
                "/captions",
                (
                    ObservationId id,
                    SignedIn me,
                    ObservationStore observations,
                    SourceStore sources,
                    PublicationStore published,
                    TranscriptsInStep inStep,
                    bool? asReaders
                ) =>
                {
                    var (gate, leaves) = asReaders == true ? Leaving(published, id) : (null, null);
                    var (heard, stretch) = leaves is null
                        ? Stretch(id, observations, sources, inStep)
                        : (leaves.RecordingId, new TimeAnchor(leaves.Time));
                    return Results.Text(WebVtt.Written(CaptionsIn(heard, stretch, me, sources, inStep, gate)), "text/vtt; charset=utf-8");
                }
            )
            .Produces(StatusCodes.Status200OK, contentType: "text/vtt");
    }

    /// <param name="format">Null to be played in the page; else the format of a file to be saved.</param>
    /// <param name="handleMs">How much of what comes before and after is in it.</param>
    /// <param name="captioned">Whether what is said is written into the picture.</param>
    /// <param name="asReaders">Whether it is protected as it is for readers outside the team, who have no handle.</param>
    private static async Task<IResult> Cutout(
        ObservationId id,
        Choice<CutoutFormat>? format,
        int? handleMs,
        bool? captioned,
        bool? asReaders,
        SignedIn me,
        ObservationStore observations,
        SourceStore sources,
        RecordingStore recordings,
        PublicationStore published,
        ProtectionStore protections,
        Cutouts cutouts,
        TranscriptsInStep inStep,
        CancellationToken cancel
    )
    {
        if (!Ffmpeg.IsThere)
            throw new Refusal(RefusalKind.NotFound, "ffmpeg is not installed on the server, so nothing can be cut out.");
        var wanted = format?.Value;
        if (handleMs is < 0 or > LongestHandle)
            throw Refusal.Because($"A clip has up to {LongestHandle / 1000} second more on both sides.", "handleMs");
        try
        {
            var (source, anchor) = observations.PlaceOf(id);
            if (anchor is RegionAnchor part)
            {
                var picture = RecordingEndpoints.File(sources, source);
                if (asReaders == true && published.GateFor(id) is var (shown, passage) && !shown.Shows(passage))
                    throw new Refusal(RefusalKind.NotAllowed, NotShown);
                var protection = asReaders == true ? protections.Of(source) : Protection.None;
                return Results.Bytes(
                    await cutouts.Part(picture.Hash, part, recordings.Find(picture.Hash) is not null, protection, cancel),
                    "image/png",
                    format is null ? null
                        : asReaders == true ? "picture.png"
                        : $"{Path.GetFileNameWithoutExtension(picture.Name)}.png"
                );
            }
            var (gate, leaves) = asReaders == true ? Leaving(published, id) : (null, null);
            var (heard, stretch) = leaves is null
                ? Stretch(id, observations, sources, inStep)
                : (leaves.RecordingId, new TimeAnchor(leaves.Time.BeginMs, leaves.Time.EndMs));
            var file = RecordingEndpoints.File(sources, heard);
            var known = recordings.Find(file.Hash) ?? throw new UnplayableException("not ready");
            var handle = leaves is null ? handleMs ?? 0 : 0;
            var cutting = CutoutOf.Leaving(
                leaves ?? new LeavingClip(heard, new TimeRange(Math.Max(0, stretch.BeginMs - handle), stretch.EndMs + handle), [], []),
                known,
                leaves is null ? Protection.None : protections.Of(heard),
                wanted ?? CutoutFormat.Mp4
            );
            if (!cutting.Films && !known.Sounds)
                throw Refusal.Because("This film has no sound. Choose .mp4 or .webm.", "format");
            var (time, films, written) = (cutting.Time, cutting.Films, cutting.Format);
            var called = leaves is null ? Path.GetFileNameWithoutExtension(file.Name) : "clip";
            if (captioned == true && films)
                cutting = cutting with
                {
                    Captions = WebVtt.Written(CaptionsIn(heard, new TimeAnchor(time.BeginMs, time.EndMs), me, sources, inStep, gate)),
                };
            var cut = await cutouts.Clip(file.Hash, cutting, cancel);
            return Results.File(
                cut,
                Cutouts.TypeOf(written, films),
                format is null ? null : $"{called} {time.BeginMs}-{time.EndMs}.{Cutouts.EndingOf(written, films)}",
                entityTag: new EntityTagHeaderValue($"\"{Path.GetFileName(cut)}\""),
                enableRangeProcessing: true
            );
        }
        catch (UnplayableException)
        {
            throw new Refusal(RefusalKind.NotFound, "This part cannot be cut out; open the recording, and see what is the matter with it.");
        }
    }

    /// <summary>What of an observation leaves to be heard, as the gate has checked it, and the gate.</summary>
    /// <exception cref="Refusal">Nothing of it does.</exception>
    private static (Gate Gate, LeavingClip Clip) Leaving(PublicationStore published, ObservationId id)
    {
        var (gate, passage) = published.GateFor(id);
        return (gate, gate.Clip(passage) ?? throw new Refusal(RefusalKind.NotAllowed, NotShown));
    }

    private const string NotShown =
        "Readers are not given this clip. Everyone in it must have given consent, and all that is said in it must be transcribed.";

    /// <summary>
    /// In which recording an observation is heard, and when: a clip where it was marked; words where they are said in the recording of
    /// their session.
    /// </summary>
    /// <exception cref="Refusal">It is not heard anywhere.</exception>
    private static (SourceId Recording, TimeAnchor Stretch) Stretch(
        ObservationId id,
        ObservationStore observations,
        SourceStore sources,
        TranscriptsInStep inStep
    )
    {
        var (source, anchor) = observations.PlaceOf(id);
        if (anchor is TimeAnchor time && sources.MediaOf(source) is not null)
            return (source, time);
        if (
            anchor is TextAnchor words
            && inStep.RecordingsOf(source) is [var (recording, shift), ..]
            && inStep.Of(source).Words.TimeOf(words.Range) is { } said
            && SessionClock.InRecording(said, shift) is { } heard
        )
            return (recording, new TimeAnchor(heard.BeginMs, heard.EndMs));
        throw new Refusal(RefusalKind.NotFound, "There is no recording in which this can be heard.");
    }

    /// <summary>What is said in a stretch of a recording, turn by turn, with times from the beginning of the stretch.</summary>
    /// <param name="gate">What goes to readers leaves through it, word by word; null for the team.</param>
    private static List<Cue> CaptionsIn(
        SourceId recording,
        TimeAnchor stretch,
        SignedIn me,
        SourceStore sources,
        TranscriptsInStep inStep,
        Gate? gate
    )
    {
        if (inStep.TranscriptOf(recording) is not var (transcript, shift))
            return [];
        var read = sources.Get(transcript, me.Id);
        var step = inStep.Of(transcript).Words;
        if (stretch.Range.Shift(-shift) is not { } time)
            return [];
        // The clip may begin before the transcript’s clock does.
        var begin = stretch.BeginMs - shift;
        var cues = new List<Cue>();
        foreach (var turn in read.Turns)
        {
            var heard = step
                .SpokenWords.Where(w => w.Words.Start >= turn.Start && w.Words.End <= turn.End && w.Time.Touches(time))
                .ToList();
            if (heard.Count == 0)
                continue;
            // Up to the next word, with what is written between.
            var next = step.SpokenWords.FirstOrDefault(w => w.Words.Start >= heard[^1].Words.End && w.Words.End <= turn.End);
            var range = new TextRange(heard[0].Words.Start, next.Words.Length > 0 ? next.Words.Start : turn.End);
            var (who, words) = (read.Line.Speakers.FirstOrDefault(s => s.Id == turn.SpeakerId)?.Label, range.Of(read.Text).TrimEnd());
            if (gate is not null)
            {
                if (gate.Around(new GatePassage(transcript, new TextAnchor(range)), 0) is not [{ QuoteStart: { } from } shown, ..])
                    continue;
                (who, words) = (shown.Who.Length == 0 ? null : shown.Who, shown.Words[from..shown.QuoteEnd!.Value].TrimEnd());
            }
            cues.Add(
                new Cue(Math.Max(0, heard[0].Time.BeginMs - begin), Math.Min(time.EndMs, heard[^1].Time.EndMs) - begin, [(who, words)])
            );
        }
        return cues;
    }
}
