using System.Diagnostics;
using System.Globalization;
using Vitrine.Core.Gather.Privacy;
using Vitrine.Core.Mark.Observations;

namespace Vitrine.Server.Media;

/// <summary>
/// Debian's ffmpeg and ffprobe, each call a process of its own at low priority. They open files alone, of containers that are named here
/// (never a list that leads elsewhere), and are ended when nothing comes of them for a minute.
/// </summary>
internal sealed partial class Ffmpeg
{
    /// <summary>Samples in a second of what is decoded for peaks.</summary>
    public const int SamplesPerSecond = 8000;

    private const string Containers =
        "mov,matroska,webm,ogg,mp3,wav,flac,aac,avi,w64,aiff,caf,mpegts,amr,asf,3gp,png_pipe,jpeg_pipe,webp_pipe,gif,gif_pipe";

    private static readonly string[] Safe = ["-protocol_whitelist", "file,pipe", "-format_whitelist", Containers];

    private static readonly TimeSpan Patience = TimeSpan.FromMinutes(1);

    /// <summary>Whether both programs are installed.</summary>
    public static bool IsThere { get; } = Has("ffmpeg") && Has("ffprobe");

    /// <summary>
    /// Decodes the first sound of a file: one channel of 16-bit samples, as they come, from the beginning of the file; where its sound
    /// begins late, or is interrupted, there is silence.
    /// </summary>
    public static Task Samples(string path, Action<ReadOnlySpan<short>> take, CancellationToken cancel) =>
        Run(
            [
                .. Quiet,
                .. Safe,
                "-i",
                path,
                .. "-map 0:a:0 -vn -ac 1".Split(' '),
                "-af",
                $"aresample={SamplesPerSecond}:async=1:first_pts=0",
                .. "-f s16le pipe:1".Split(' '),
            ],
            (bytes, stop) => InSamples(bytes, take, stop),
            cancel
        );

    /// <summary>Hands on bytes as samples of two, however many of them come at once.</summary>
    internal static async Task InSamples(Stream bytes, Action<ReadOnlySpan<short>> take, CancellationToken stop)
    {
        var buffer = new byte[1 << 16];
        var left = 0;
        int read;
        while ((read = await bytes.ReadAsync(buffer.AsMemory(left), stop)) > 0)
        {
            var whole = (left + read) & ~1;
            take(System.Runtime.InteropServices.MemoryMarshal.Cast<byte, short>(buffer.AsSpan(0, whole)));
            left = left + read - whole;
            if (left > 0)
                buffer[0] = buffer[whole];
        }
    }

    /// <summary>Writes a file anew as <paramref name="how"/> says, and tells how many milliseconds of it are written.</summary>
    public static Task Write(string path, string to, IEnumerable<string> how, Action<long> reached, CancellationToken cancel) =>
        Run(
            [.. Quiet, "-y", .. Safe, "-i", path, .. how, "-progress", "pipe:1", to],
            async (bytes, stop) =>
            {
                using var lines = new StreamReader(bytes);
                while (await lines.ReadLineAsync(stop) is { } line)
                {
                    if (line.StartsWith("out_time_us=", StringComparison.Ordinal) && long.TryParse(line[12..], out var us))
                        reached(us / 1000);
                }
            },
            cancel
        );

    /// <summary>Writes a stretch of a recording as a file of its own, encoded anew, so that it holds nothing before and after it.</summary>
    /// <param name="captions">A file with captions beside <paramref name="to"/> that are written into the picture; null for none.</param>
    public static async Task Cut(string path, string to, CutoutOf wanted, string? captions, CancellationToken cancel)
    {
        var (format, stretch) = (wanted.Format, wanted.Time);
        string[] picture =
            !wanted.Films ? []
            : format == CutoutFormat.Webm ? "-c:v libvpx-vp9 -deadline realtime -cpu-used 8 -row-mt 1 -crf 34 -b:v 0".Split(' ')
            : PackedCodec;
        string[] sound = format switch
        {
            CutoutFormat.Webm => ["-c:a", "libopus", "-b:a", "96k", "-f", "webm"],
            CutoutFormat.Mp3 => ["-c:a", "libmp3lame", "-b:a", "128k", "-f", "mp3"],
            CutoutFormat.Wav => ["-c:a", "pcm_s16le", "-f", "wav"],
            _ => ["-c:a", "aac", "-b:a", "128k", "-movflags", "+faststart", "-f", "mp4"],
        };
        // A film is opened where the frame begins that stands at the beginning of the stretch.
        var opened = wanted.Films
            ? Math.Min(stretch.BeginMs, await Standing(path, stretch.BeginMs, cancel) ?? stretch.BeginMs)
            : stretch.BeginMs;
        opened = Math.Max(0, opened - (opened < stretch.BeginMs ? Exact : 0));
        var early = Seconds(stretch.BeginMs - opened);
        var chains = new List<string>();
        if (wanted.Films)
            chains.Add(
                // Frames come evenly, so that one that stands long is seen all the while.
                $"[0:v:0]setpts=PTS-{early}/TB,fps=fps={(await Probe(path, cancel)).FramesPerSecond ?? "30"}:round=up:start_time=0,"
                    + "tpad=stop=-1:stop_mode=clone[even];"
                    + $"{Protecting.Picture(wanted.Protection.Covers, stretch, "even", "covered")};[covered]{Even}"
                    + $"{(captions is null ? "" : $",subtitles=filename={Path.GetFileName(captions)}")}[picture]"
            );
        if (wanted.Sounds)
            chains.Add(
                $"[0:a:0]aresample=async=1:first_pts=0,atrim=start={early},asetpts=PTS-STARTPTS,apad[whole];"
                    + Protecting.Sound(wanted, "whole", "sound")
            );
        await Run(
            [
                .. Quiet,
                "-y",
                "-ss",
                Seconds(opened),
                .. Safe,
                "-i",
                Path.GetFullPath(path),
                "-t",
                Seconds(stretch.EndMs - stretch.BeginMs),
                "-filter_complex",
                string.Join(';', chains),
                .. wanted.Films ? (string[])["-map", "[picture]"] : [],
                .. wanted.Sounds ? (string[])["-map", "[sound]"] : [],
                .. picture,
                .. sound,
                // Titles, places and cameras are nobody's business.
                "-map_metadata",
                "-1",
                // A long clip is written for minutes: what is told of it meanwhile shows that it goes on.
                "-progress",
                "pipe:1",
                Path.GetFullPath(to),
            ],
            (bytes, stop) => bytes.CopyToAsync(Stream.Null, stop),
            cancel,
            Path.GetDirectoryName(Path.GetFullPath(to))
        );
    }

    /// <summary>So many pixels on each side tell what is inside of an outline.</summary>
    private const int OutlineSide = 2000;

    /// <summary>A part of a picture as PNG, with what is covered in it; outside of its outline it is blank.</summary>
    /// <param name="atMs">The moment, of a film; null for a picture.</param>
    public static async Task<byte[]> Cropped(
        string path,
        RegionAnchor part,
        int? atMs,
        IReadOnlyList<Cover> covers,
        CancellationToken cancel
    )
    {
        using var png = new MemoryStream();
        const int whole = RegionAnchor.Whole;
        var crop = string.Create(
            CultureInfo.InvariantCulture,
            $"crop=max(1\\,iw*{part.Width}/{whole}):max(1\\,ih*{part.Height}/{whole}):iw*{part.X}/{whole}:ih*{part.Y}/{whole}"
        );
        var outline = Path.Combine(Path.GetTempPath(), $"vitrine-{Guid.NewGuid():N}.gray");
        try
        {
            var chain = $"{Protecting.Picture(covers, null, "0:v:0", "covered")};[covered]{crop}";
            if (Outline.Read(part.Outline) is { } drawn)
            {
                await File.WriteAllBytesAsync(
                    outline,
                    [.. drawn.Pixels(OutlineSide, OutlineSide).Select(i => i ? byte.MaxValue : (byte)0)],
                    cancel
                );
                chain +=
                    ",format=gbrp[p];[1:v][p]scale2ref=flags=neighbor[m][q];[m]format=gbrp[n];"
                    + "[q]split[seen][under];[under]lutrgb=r=233:g=228:b=214[blank];[blank][seen][n]maskedmerge";
            }
            await Run(
                [
                    .. Quiet,
                    .. await From(path, atMs, cancel),
                    .. Safe,
                    "-i",
                    path,
                    .. part.Outline is null
                        ? (string[])[]
                        : ["-f", "rawvideo", "-pix_fmt", "gray", "-s", $"{OutlineSide}x{OutlineSide}", "-i", outline],
                    "-filter_complex",
                    chain + "[out]",
                    "-map",
                    "[out]",
                    .. "-frames:v 1 -c:v png -f image2pipe pipe:1".Split(' '),
                ],
                async (bytes, stop) => await bytes.CopyToAsync(png, stop),
                cancel
            );
        }
        finally
        {
            File.Delete(outline);
        }
        return png.ToArray();
    }

    /// <summary>This way of packing needs even numbers of pixels.</summary>
    private const string Even = "scale=trunc(iw/2)*2:trunc(ih/2)*2";

    private static readonly string[] PackedCodec = "-c:v libx264 -preset veryfast -crf 23 -pix_fmt yuv420p".Split(' ');

    /// <summary>A film as browsers play it.</summary>
    public static readonly string[] Packed = [.. PackedCodec, "-vf", Even];

    private static string Seconds(double ms) => (ms / 1000).ToString("0.000000", CultureInfo.InvariantCulture);

    /// <summary>Opens a film where the frame begins that stands at a moment; nothing for null.</summary>
    private static async Task<string[]> From(string path, int? atMs, CancellationToken cancel) =>
        atMs is { } at && await Standing(path, at, cancel) is { } begin and > Exact ? ["-ss", Seconds(begin - Exact)] : [];

    /// <summary>The frame that stands on the screen at a moment of a film, as PNG.</summary>
    public static async Task<byte[]> Frame(string path, int atMs, CancellationToken cancel)
    {
        using var png = new MemoryStream();
        await Run(
            [
                .. Quiet,
                .. await From(path, atMs, cancel),
                .. Safe,
                "-i",
                path,
                "-map",
                "0:v:0",
                "-frames:v",
                "1",
                "-c:v",
                "png",
                "-f",
                "image2pipe",
                "pipe:1",
            ],
            async (bytes, stop) => await bytes.CopyToAsync(png, stop),
            cancel
        );
        return png.ToArray();
    }

    private static readonly string[] Quiet = ["ffmpeg", "-v", "error", "-nostdin", "-threads", "2"];

    /// <summary>Whether a program is installed.</summary>
    internal static bool Has(string program) =>
        (Environment.GetEnvironmentVariable("PATH") ?? "").Split(':').Any(folder => File.Exists(Path.Combine(folder, program)));

    /// <summary>Runs a program, and hands on what it writes as it comes.</summary>
    /// <param name="folder">Where it runs; null for where the server does.</param>
    /// <param name="patience">How long nothing may come of it; null for a minute.</param>
    /// <exception cref="UnplayableException">It failed, or nothing came of it for a minute.</exception>
    internal static async Task Run(
        string[] command,
        Func<Stream, CancellationToken, Task> take,
        CancellationToken cancel,
        string? folder = null,
        TimeSpan? patience = null
    )
    {
        using var process = Process.Start(
            new ProcessStartInfo("nice", ["-n", "10", .. command])
            {
                RedirectStandardOutput = true,
                RedirectStandardError = true,
                WorkingDirectory = folder ?? "",
            }
        )!;
        using var stop = CancellationTokenSource.CreateLinkedTokenSource(cancel);
        try
        {
            var wrong = process.StandardError.ReadToEndAsync(stop.Token);
            await take(new Watched(process.StandardOutput.BaseStream, stop, patience ?? Patience), stop.Token);
            await process.WaitForExitAsync(stop.Token);
            if (process.ExitCode != 0)
                throw new UnplayableException((await wrong).Trim());
        }
        catch (OperationCanceledException) when (!cancel.IsCancellationRequested)
        {
            throw new UnplayableException("Nothing came of it in time.");
        }
        finally
        {
            if (!process.HasExited)
                process.Kill(entireProcessTree: true);
        }
    }

    /// <summary>Stops the reading when nothing came for a while.</summary>
    private sealed class Watched(Stream inner, CancellationTokenSource stop, TimeSpan patience) : Stream
    {
        public override async ValueTask<int> ReadAsync(Memory<byte> buffer, CancellationToken cancellationToken = default)
        {
            stop.CancelAfter(patience);
            var read = await inner.ReadAsync(buffer, cancellationToken);
            stop.CancelAfter(patience);
            return read;
        }

        public override int Read(byte[] buffer, int offset, int count) => inner.Read(buffer, offset, count);

        public override bool CanRead => true;
        public override bool CanSeek => false;
        public override bool CanWrite => false;
        public override long Length => throw new NotSupportedException();
        public override long Position
        {
            get => throw new NotSupportedException();
            set => throw new NotSupportedException();
        }

        public override void Flush() { }

        public override long Seek(long offset, SeekOrigin origin) => throw new NotSupportedException();

        public override void SetLength(long value) => throw new NotSupportedException();

        public override void Write(byte[] buffer, int offset, int count) => throw new NotSupportedException();
    }
}

/// <summary>A file that cannot be decoded, with what the decoder says.</summary>
internal sealed class UnplayableException(string message) : Exception(message);
