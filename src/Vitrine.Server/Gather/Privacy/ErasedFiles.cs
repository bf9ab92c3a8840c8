using Vitrine.Core.Gather.Privacy;
using Vitrine.Core.Mark.Observations;
using Vitrine.Core.Text;
using Vitrine.Server.Media;
using Vitrine.Storage.Gather.Sources;
using Vitrine.Storage.Mark.Recordings;
using Vitrine.Storage.Media;
using Vitrine.Storage.Show.Publication;
using Vitrine.Storage.Trail;

namespace Vitrine.Server.Gather.Privacy;

/// <summary>
/// Makes the files that take the place of those in which others take part too, when someone is erased: as long as before, encoded anew, and
/// silent, dark or covered where they may be heard or seen.
/// </summary>
internal sealed class ErasedFiles(
    MediaFolder media,
    SourceStore sources,
    RecordingStore recordings,
    ProtectionStore protections,
    PublicationStore published
)
{
    /// <summary>Silence begins so long before a turn and ends so long after it, in milliseconds: its edges are read by ear.</summary>
    private const int Margin = 120;

    /// <exception cref="Refusal">A file is not ready, or cannot be read; or ffmpeg is not there. Nothing has happened.</exception>
    public async Task<IReadOnlyDictionary<SourceId, NewMedia>> Make(
        StudyId studyId,
        ParticipantId person,
        IEnumerable<SharedDecision> shared,
        CancellationToken cancel
    )
    {
        var made = new Dictionary<SourceId, NewMedia>();
        foreach (var decision in shared.Where(d => d.What is SharedOutcome.Silence or SharedOutcome.Cover))
        {
            if (!Ffmpeg.IsThere)
                throw new Refusal(
                    RefusalKind.NotFound,
                    "ffmpeg is not installed on the server, so no file can be changed. Remove it instead."
                );
            if (sources.MediaOf(decision.SourceId) is not { } file)
                throw Refusal.Missing("file");
            var path = media.Passing();
            try
            {
                var (name, type) =
                    decision.What == SharedOutcome.Silence
                        ? await Silent(studyId, person, decision.SourceId, file, path, cancel)
                        : await Covered(decision.SourceId, file, path, cancel);
                var (job, bytes) = (Path.GetFileName(path), new FileInfo(path).Length);
                var hash = await media.HashOf(job, cancel);
                media.Keep(job, hash);
                made[decision.SourceId] = new NewMedia(hash, name, type, bytes);
            }
            catch (UnplayableException)
            {
                throw new Refusal(RefusalKind.NotFound, $"“{file.Name}” cannot be read, so it cannot be changed. Remove it instead.");
            }
            finally
            {
                File.Delete(path);
            }
        }
        return made;
    }

    private async Task<(string Name, string Type)> Silent(
        StudyId studyId,
        ParticipantId person,
        SourceId source,
        NewMedia file,
        string path,
        CancellationToken cancel
    )
    {
        var known =
            recordings.Find(file.Hash)
            ?? throw new Refusal(RefusalKind.Conflict, $"“{file.Name}” is not ready yet. Wait until it can be played, then erase.");
        var theirs = published
            .MayBeHeard(studyId, source, person)
            .Select(t => TimeRange.Between(t.BeginMs - Margin, Math.Min(known.LengthMs, (long)t.EndMs + Margin)))
            .OfType<TimeRange>()
            .ToList();
        var films = known.Width is not null;
        var format = file.Type switch
        {
            "video/webm" => CutoutFormat.Webm,
            "audio/mpeg" => CutoutFormat.Mp3,
            "audio/wav" or "audio/x-wav" or "audio/vnd.wave" => CutoutFormat.Wav,
            _ => CutoutFormat.Mp4,
        };
        const int whole = RegionAnchor.Whole;
        var covers = protections
            .Of(source)
            .Covers.Concat(theirs.Select(t => new Cover(CoverLook.Solid, 0, 0, whole, whole, t.BeginMs, t.EndMs)));
        await Ffmpeg.Cut(
            media.PathOf(file.Hash),
            path,
            new CutoutOf(
                new TimeRange(0, Math.Max(1, known.LengthMs)),
                films,
                known.Sounds,
                format,
                new Protection(false, [.. covers]),
                [],
                theirs
            ),
            null,
            cancel
        );
        return ($"{Path.GetFileNameWithoutExtension(file.Name)}.{Cutouts.EndingOf(format, films)}", Cutouts.TypeOf(format, films));
    }

    private async Task<(string Name, string Type)> Covered(SourceId source, NewMedia file, string path, CancellationToken cancel)
    {
        const int whole = RegionAnchor.Whole;
        var picture = await Ffmpeg.Cropped(
            media.PathOf(file.Hash),
            new RegionAnchor(0, 0, whole, whole, null),
            null,
            protections.Of(source).Covers,
            cancel
        );
        await File.WriteAllBytesAsync(path, picture, cancel);
        return ($"{Path.GetFileNameWithoutExtension(file.Name)}.png", "image/png");
    }
}
