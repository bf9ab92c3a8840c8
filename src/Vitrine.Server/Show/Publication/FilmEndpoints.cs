using Vitrine.Core.Weigh.Evidence;
using Vitrine.Server.Access;
using Vitrine.Server.Media;
using Vitrine.Storage.Catalogue;
using Vitrine.Storage.Gather.Sources;
using Vitrine.Storage.Mark.Recordings;
using Vitrine.Storage.Media;
using Vitrine.Storage.Show.Publication;
using Vitrine.Storage.Trail;

namespace Vitrine.Server.Show.Publication;

/// <summary>
/// The clips of an insight in a row, with cards between them: a file that leaves the team, and passes the gate as readers do.
/// </summary>
internal static class FilmEndpoints
{
    /// <summary>So many letters stand in a line of a card.</summary>
    private const int CardWidth = 46;

    /// <summary>The longest film that is made at once, in milliseconds.</summary>
    private const int LongestMs = 20 * 60_000;

    public static void MapFilms(this RouteGroupBuilder api) =>
        api.MapGet("/insights/{id:long}/film", Film)
            .WithTags("Show")
            .About(Thing.Insight)
            .Produces(StatusCodes.Status200OK, contentType: "video/mp4");

    private static async Task<IResult> Film(
        InsightId id,
        PublicationStore store,
        SourceStore sources,
        RecordingStore recordings,
        ProtectionStore protections,
        Cutouts cutouts,
        CancellationToken cancel
    )
    {
        var (insight, gate, evidence, quoted) = store.GateFor(id);
        // What the story quotes comes first, as it is told.
        var told = quoted
            .Select(q => evidence.FirstOrDefault(e => e.ObservationId == q.ObservationId) ?? q)
            .Concat(evidence.Where(e => e.Stance != Stance.Context))
            .DistinctBy(e => e.ObservationId);
        var clips = new List<(string Hash, CutoutOf Of, string Card)>();
        foreach (var shown in told)
        {
            if (
                gate.Clip(shown.Passage) is not { } clip
                || sources.MediaOf(clip.RecordingId) is not { } file
                || recordings.Find(file.Hash) is not { } known
            )
                continue;
            var card = $"{gate.Who(shown.Passage)}{(shown.Stance == Stance.Contradicts ? ", who says otherwise" : "")}";
            clips.Add(
                (
                    file.Hash,
                    CutoutOf.Leaving(clip, known, protections.Of(clip.RecordingId)),
                    clips.Count == 0 ? $"{Wrapped(gate.Written(insight.Headline))}\n\n{card}" : card
                )
            );
        }
        if (clips.Count == 0 || !Ffmpeg.IsThere)
            throw new Refusal(RefusalKind.NotFound, "Nothing of this insight can be seen or heard by readers, so there is no film of it.");
        if (clips.Sum(c => (long)c.Of.Time.EndMs - c.Of.Time.BeginMs) > LongestMs)
            throw Refusal.Because("Together these clips last more than 20 minutes. Shorten some, or save them one by one.", "id");
        try
        {
            return Results.File(await cutouts.Film(clips, cancel), "video/mp4", "clips.mp4", enableRangeProcessing: true);
        }
        catch (UnplayableException)
        {
            throw new Refusal(RefusalKind.NotFound, "These clips cannot be put together. Save them one by one.");
        }
    }

    /// <summary>Words in lines of a card.</summary>
    private static string Wrapped(string text)
    {
        var lines = new List<string> { "" };
        foreach (var word in text.Split((char[]?)null, StringSplitOptions.RemoveEmptyEntries))
        {
            if (lines[^1].Length > 0 && lines[^1].Length + word.Length >= CardWidth)
                lines.Add("");
            lines[^1] += lines[^1].Length == 0 ? word : " " + word;
        }
        return string.Join('\n', lines);
    }
}
