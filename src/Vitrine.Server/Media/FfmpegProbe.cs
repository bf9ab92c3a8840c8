using System.Globalization;
using System.Text.Json;
using Vitrine.Storage.Trail;

namespace Vitrine.Server.Media;

/// <summary>What a file of sound or film holds.</summary>
/// <param name="Container">The demuxer's names, such as "mov,mp4,m4a,3gp,3g2,mj2".</param>
/// <param name="LengthMs">How long it says that it lasts; null where it does not say.</param>
/// <param name="Sound">The codec of its first sound; null for none.</param>
/// <param name="Picture">The codec of its first moving picture; null for none.</param>
/// <param name="PixelFormat">Of that picture.</param>
/// <param name="Width">Of that picture as it is seen, in pixels: a film that was turned is measured turned.</param>
/// <param name="Height">Likewise.</param>
/// <param name="StartMs">The time at which the file's own clock begins.</param>
/// <param name="FramesPerSecond">Of a film whose frames come evenly, as a fraction; null where they do not.</param>
internal sealed record Probed(
    string Container,
    int? LengthMs,
    string? Sound,
    string? Picture,
    string? PixelFormat,
    int? Width,
    int? Height,
    int StartMs = 0,
    string? FramesPerSecond = null
)
{
    /// <summary>How long one frame stands, in milliseconds; null where that differs.</summary>
    public double? FrameMs =>
        FramesPerSecond?.Split('/') is [var frames, var seconds]
        && double.TryParse(frames, NumberStyles.Float, CultureInfo.InvariantCulture, out var over)
        && double.TryParse(seconds, NumberStyles.Float, CultureInfo.InvariantCulture, out var under)
        && over > 0
            ? 1000 * under / over
            : null;
}

/// <summary>What a file holds, how long it lasts, and when its frames begin.</summary>
internal sealed partial class Ffmpeg
{
    /// <exception cref="Refusal">The file cannot be read as sound or film.</exception>
    public static async Task<Probed> Probe(string path, CancellationToken cancel)
    {
        using var said = new MemoryStream();
        await Run(
            ["ffprobe", "-v", "error", .. Safe, "-of", "json", "-show_format", "-show_streams", path],
            async (bytes, stop) => await bytes.CopyToAsync(said, stop),
            cancel
        );
        using var json = JsonDocument.Parse(said.ToArray());
        var format = json.RootElement.GetProperty("format");
        var streams = json.RootElement.GetProperty("streams").EnumerateArray().ToList();
        string? Codec(JsonElement? stream) => stream is { } s && s.TryGetProperty("codec_name", out var name) ? name.GetString() : null;
        JsonElement? First(string type) =>
            streams
                .Where(s => s.GetProperty("codec_type").GetString() == type)
                // The cover of a record is no film.
                .Where(s => !s.TryGetProperty("disposition", out var d) || d.GetProperty("attached_pic").GetInt32() == 0)
                .Select(s => (JsonElement?)s)
                .FirstOrDefault();
        var (sound, picture) = (First("audio"), First("video"));
        string? Text(string name) => picture is { } p && p.TryGetProperty(name, out var t) ? t.GetString() : null;
        var turned = Turned(picture) % 180 != 0;
        int? Number(string name) => picture is { } p && p.TryGetProperty(name, out var n) ? n.GetInt32() : null;
        var duration = Seconds(format, "duration") is { } seconds and > 0 and < 1e6 ? (int)Math.Round(seconds * 1000) : (int?)null;
        return new Probed(
            format.GetProperty("format_name").GetString() ?? "",
            duration,
            Codec(sound),
            Codec(picture),
            picture is { } film && film.TryGetProperty("pix_fmt", out var pixels) ? pixels.GetString() : null,
            Number(turned ? "height" : "width"),
            Number(turned ? "width" : "height"),
            Seconds(format, "start_time") is { } start ? (int)Math.Round(start * 1000) : 0,
            Text("r_frame_rate") is { } rate && rate == Text("avg_frame_rate") && rate != "0/0" ? rate : null
        );
    }

    private static double? Seconds(JsonElement of, string name) =>
        of.TryGetProperty(name, out var text)
        && double.TryParse(text.GetString(), NumberStyles.Float, CultureInfo.InvariantCulture, out var seconds)
            ? seconds
            : null;

    /// <summary>By how much a picture is turned when it is shown, in degrees.</summary>
    private static int Turned(JsonElement? picture)
    {
        if (picture is not { } film || !film.TryGetProperty("side_data_list", out var data))
            return 0;
        foreach (var one in data.EnumerateArray())
        {
            if (one.TryGetProperty("rotation", out var turned) && turned.TryGetInt32(out var degrees))
                return degrees;
        }
        return 0;
    }

    /// <summary>
    /// The times at which packets of the first picture begin and end, in milliseconds from the beginning of the file, within a stretch and
    /// from the key frame before it; nothing is decoded.
    /// </summary>
    private static async Task<List<(double BeginMs, double EndMs)>> Packets(string path, string interval, CancellationToken cancel)
    {
        var found = new List<(double, double)>();
        double start = 0;
        await Run(
            [
                .. "ffprobe -v error".Split(' '),
                .. Safe,
                .. "-select_streams v:0 -of compact=p=0:nk=0 -show_entries format=start_time:packet=pts_time,duration_time".Split(' '),
                .. interval.Length == 0 ? (string[])[] : ["-read_intervals", interval],
                path,
            ],
            async (bytes, stop) =>
            {
                using var lines = new StreamReader(bytes);
                while (await lines.ReadLineAsync(stop) is { } line)
                {
                    double? Named(string name) => line.Split('|').Select(part => Value(part, name)).FirstOrDefault(v => v is not null);
                    if (Named("pts_time=") is { } begin)
                        found.Add((begin * 1000, (begin + (Named("duration_time=") ?? 0)) * 1000));
                    else if (Named("start_time=") is { } first)
                        start = first * 1000;
                }
            },
            cancel
        );
        return found.ConvertAll(f => (f.Item1 - start, f.Item2 - start));
    }

    /// <summary>How long the first picture of a file lasts, measured by what is there and not by what the file says; 0 for none.</summary>
    public static async Task<int> PictureLength(string path, CancellationToken cancel) =>
        (int)Math.Round((await Packets(path, "", cancel)).Select(p => p.EndMs).DefaultIfEmpty(0).Max());

    /// <summary>
    /// When the frame begins that stands on the screen at a moment: the last one that begins by then, or the first of all; null where there
    /// is none.
    /// </summary>
    private static async Task<double?> Standing(string path, int atMs, CancellationToken cancel)
    {
        // A packet is written before those that are shown before it: some more are looked at.
        var near = await Packets(path, $"{Seconds(atMs)}%{Seconds(atMs + 1000)}", cancel);
        if (!near.Exists(p => p.BeginMs <= atMs + Exact))
            near = await Packets(path, $"%{Seconds(atMs + 1000)}", cancel);
        return near.Count == 0
            ? null
            : near.Where(p => p.BeginMs <= atMs + Exact).Select(p => p.BeginMs).DefaultIfEmpty(near.Min(p => p.BeginMs)).Max();
    }

    /// <summary>Moments are whole milliseconds, frames are not.</summary>
    private const double Exact = 0.5;
}
