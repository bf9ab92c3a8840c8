using System.Security.Cryptography;
using System.Text.Json;
using Vitrine.Core.Gather.Privacy;
using Vitrine.Core.Mark.Observations;
using Vitrine.Core.Show.Publication;
using Vitrine.Core.Text;
using Vitrine.Storage.Mark.Recordings;
using Vitrine.Storage.Media;

namespace Vitrine.Server.Media;

/// <summary>How a part that is cut out is written.</summary>
internal enum CutoutFormat
{
    Mp4,
    Webm,
    Mp3,
    Wav,
}

/// <summary>A part of a recording that is to stand as a file of its own.</summary>
/// <param name="Time">The stretch.</param>
/// <param name="Films">Whether the moving picture is in it.</param>
/// <param name="Sounds">Whether there is a sound to be in it.</param>
/// <param name="Bleeped">Stretches of the recording that are bleeped over.</param>
/// <param name="Silenced">Stretches of it that are silent.</param>
/// <param name="Captions">Captions of the stretch that are written into the picture, as WebVTT; null for none.</param>
internal sealed record CutoutOf(
    TimeRange Time,
    bool Films,
    bool Sounds,
    CutoutFormat Format,
    Protection Protection,
    IReadOnlyList<TimeRange> Bleeped,
    IReadOnlyList<TimeRange> Silenced,
    string? Captions = null
)
{
    /// <summary>What the gate lets out of a recording: that stretch and no other, protected as the recording is.</summary>
    public static CutoutOf Leaving(LeavingClip clip, Recording known, Protection protection, CutoutFormat format = CutoutFormat.Mp4) =>
        new(
            clip.Time.Clip(new TimeRange(0, Math.Max(1, known.LengthMs))) ?? clip.Time,
            known.Width is not null && format is not (CutoutFormat.Mp3 or CutoutFormat.Wav),
            known.Sounds,
            format,
            protection,
            clip.Bleeped,
            clip.Silenced
        );
}

/// <summary>
/// Parts of recordings and pictures as files of their own, encoded anew, so that nothing else of the recording is in them. A clip that was
/// cut once stands beside what else was made of its file; two are cut at once, others wait.
/// </summary>
internal sealed class Cutouts(MediaFolder media) : IDisposable
{
    private readonly SemaphoreSlim atOnce = new(2);

    /// <returns>Where the clip stands.</returns>
    /// <exception cref="UnplayableException">It could not be cut.</exception>
    public async Task<string> Clip(string hash, CutoutOf wanted, CancellationToken cancel)
    {
        var name = Convert.ToHexStringLower(SHA256.HashData(JsonSerializer.SerializeToUtf8Bytes(wanted)))[..24];
        var cut = Path.GetFullPath(media.MadeOf(hash, $"cut-{name}.{wanted.Format.ToString().ToLowerInvariant()}"));
        if (File.Exists(cut))
            return cut;
        await atOnce.WaitAsync(cancel);
        var captions = $"{cut}.{Guid.NewGuid():N}.vtt";
        try
        {
            if (File.Exists(cut))
                return cut;
            if (wanted.Captions is { } words)
                await File.WriteAllTextAsync(captions, words, cancel);
            var begun = $"{cut}.{Guid.NewGuid():N}";
            try
            {
                await Ffmpeg.Cut(media.PathOf(hash), begun, wanted, wanted.Captions is null ? null : captions, cancel);
                File.Move(begun, cut, overwrite: true);
            }
            finally
            {
                File.Delete(begun);
            }
            return cut;
        }
        finally
        {
            File.Delete(captions);
            atOnce.Release();
        }
    }

    /// <summary>
    /// Clips in a row as one film, each after a card that says what it is. It is not kept: what holds parts of several recordings would
    /// outlive a change of one of them.
    /// </summary>
    public async Task<Stream> Film(IReadOnlyList<(string Hash, CutoutOf Of, string Card)> clips, CancellationToken cancel)
    {
        var parts = new List<(string Path, string Card, CutoutOf Of)>();
        var begun = Path.GetFullPath(media.MadeOf(clips[0].Hash, $"film-{Guid.NewGuid():N}.mp4"));
        try
        {
            foreach (var (hash, of, card) in clips)
            {
                var title = $"{begun}.{parts.Count}.txt";
                await File.WriteAllTextAsync(title, card, cancel);
                parts.Add((await Clip(hash, of, cancel), Path.GetFileName(title), of));
            }
            await atOnce.WaitAsync(cancel);
            try
            {
                await Ffmpeg.Join(parts, begun, cancel);
            }
            finally
            {
                atOnce.Release();
            }
            return new FileStream(begun, FileMode.Open, FileAccess.Read, FileShare.Read | FileShare.Delete);
        }
        finally
        {
            // Who reads it has it open.
            foreach (var left in Directory.GetFiles(Path.GetDirectoryName(begun)!, Path.GetFileName(begun) + "*"))
                File.Delete(left);
        }
    }

    /// <summary>A part of a picture, or of a film at its moment, as PNG.</summary>
    public Task<byte[]> Part(string hash, RegionAnchor part, bool ofFilm, Protection protection, CancellationToken cancel) =>
        Ffmpeg.Cropped(media.PathOf(hash), part, ofFilm ? part.AtMs ?? 0 : null, protection.Covers, cancel);

    public void Dispose() => atOnce.Dispose();

    public static string TypeOf(CutoutFormat format, bool films) =>
        format switch
        {
            CutoutFormat.Webm => films ? "video/webm" : "audio/webm",
            CutoutFormat.Mp3 => "audio/mpeg",
            CutoutFormat.Wav => "audio/wav",
            _ => films ? "video/mp4" : "audio/mp4",
        };

    public static string EndingOf(CutoutFormat format, bool films) =>
        format == CutoutFormat.Mp4 && !films ? "m4a" : format.ToString().ToLowerInvariant();
}
