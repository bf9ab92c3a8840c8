using System.Globalization;
using System.Runtime.InteropServices;
using Vitrine.Core.Gather.Privacy;
using Vitrine.Core.Mark.Observations;
using Vitrine.Core.Text;
using Vitrine.Server.Media;

namespace Vitrine.Server.Tests;

/// <summary>What is taken out of a recording or picture is not in what leaves, to the sample and to the pixel.</summary>
public sealed class ProtectingTests : IDisposable
{
    private const int Rate = 48_000;
    private readonly string folder = Directory.CreateTempSubdirectory("vitrine-protecting-test-").FullName;

    public void Dispose() => Directory.Delete(folder, recursive: true);

    /// <summary>
    /// A voice of 300 Hz is heard in what is bleeped and in what is silent, and nowhere else; when the tone of the bleep has been taken out
    /// again, nothing of it is left.
    /// </summary>
    [Theory]
    [InlineData("wav", 8_000, CutoutFormat.Mp4)]
    [InlineData("wav", 11_025, CutoutFormat.Webm)]
    [InlineData("wav", 16_000, CutoutFormat.Wav)]
    [InlineData("wav", 48_000, CutoutFormat.Mp3)]
    [InlineData("mp3", 16_000, CutoutFormat.Wav)]
    [InlineData("mp3", 44_100, CutoutFormat.Mp4)]
    [InlineData("m4a", 22_050, CutoutFormat.Mp3)]
    [InlineData("m4a", 48_000, CutoutFormat.Webm)]
    [InlineData("ogg", 8_000, CutoutFormat.Webm)]
    [InlineData("ogg", 48_000, CutoutFormat.Mp4)]
    internal async Task A_bleeped_word_is_gone_to_the_sample_in_every_format_that_leaves(string kind, int rate, CutoutFormat format)
    {
        var recording = await Sound(kind, rate, (1_003, 2_011), (3_007, 3_501));
        var whole = new CutoutOf(new TimeRange(500, 4_000), false, true, format, Protection.None, [], []);
        Assert.InRange(Loudest(await Cut(recording, whole)), 0.2, 1);
        // A pause is silent as far as it reaches; what an encoder smeared over its edge is in the sound as it came in.
        var left = whole with
        {
            Bleeped = [new TimeRange(1_003, 2_011)],
            Silenced = [new TimeRange(2_950, 3_560)],
        };
        var cut = await Cut(recording, left);
        Assert.InRange(Loudest(cut), 0, 0.01);
        // The tone begins before the word, and ends after it.
        Assert.InRange(Tone(cut, 1000, At(1_003 - 500 - 30), Rate / 50), 0.05, 1);
        Assert.InRange(Tone(cut, 1000, At(2_011 - 500 + 10), Rate / 50), 0.05, 1);
    }

    [Fact]
    public async Task Outside_of_its_outline_a_part_of_a_picture_is_blank()
    {
        var picture = Path.Combine(folder, "red.png");
        await Run("-f", "lavfi", "-i", "color=red:s=300x200", "-frames:v", "1", picture);
        // A triangle in the lower left half of the box.
        var part = new RegionAnchor(1000, 1000, 6000, 8000, null, "1000,1000 7000,9000 1000,9000");
        var png = Path.Combine(folder, "part.png");
        await File.WriteAllBytesAsync(png, await Ffmpeg.Cropped(picture, part, null, [], default));
        var raw = Path.Combine(folder, "raw");
        await Run("-i", png, "-f", "rawvideo", "-pix_fmt", "rgb24", raw);
        var (width, height, pixels) = (180, 160, await File.ReadAllBytesAsync(raw));
        Assert.Equal(width * height * 3, pixels.Length);
        for (var y = 0; y < height; y++)
        {
            for (var x = 0; x < width; x++)
            {
                var red = pixels[((y * width) + x) * 3] > 200 && pixels[(((y * width) + x) * 3) + 1] < 60;
                var over = (y + 0.5) / height - ((x + 0.5) / width);
                if (Math.Abs(over) > 0.02)
                    Assert.Equal((x, y, over > 0), (x, y, red));
            }
        }
    }

    private static int At(int ms) => (int)((long)ms * Rate / 1000);

    /// <summary>Five seconds in which a tone of 300 Hz stands in the given stretches.</summary>
    private async Task<string> Sound(string kind, int rate, params (int Begin, int End)[] heard)
    {
        var path = Path.Combine(folder, $"sound.{kind}");
        var when = string.Join(
            '+',
            heard.Select(h => string.Create(CultureInfo.InvariantCulture, $"between(t,{h.Begin / 1000.0},{h.End / 1000.0})"))
        );
        await Run("-f", "lavfi", "-i", $"aevalsrc='0.5*sin(2*PI*300*t)*min(1,{when})':s={rate}:d=5", path);
        return path;
    }

    private async Task<double[]> Cut(string recording, CutoutOf wanted)
    {
        var cut = Path.Combine(folder, $"cut.{Cutouts.EndingOf(wanted.Format, false)}");
        await Ffmpeg.Cut(recording, cut, wanted, null, default);
        var raw = Path.Combine(folder, "raw");
        await Run("-i", cut, "-ac", "1", "-ar", $"{Rate}", "-f", "s16le", raw);
        return [.. MemoryMarshal.Cast<byte, short>(await File.ReadAllBytesAsync(raw)).ToArray().Select(s => s / 32768.0)];
    }

    /// <summary>The most that is heard of 300 Hz in any fiftieth of a second.</summary>
    private static double Loudest(double[] sound)
    {
        var (window, most) = (Rate / 50, 0.0);
        for (var at = 0; at + window <= sound.Length; at += window / 4)
            most = Math.Max(most, Tone(sound, 300, at, window));
        return most;
    }

    /// <summary>How strong a tone is in a stretch, under a Hann window, so that another tone is not taken for it; 0..1.</summary>
    private static double Tone(double[] sound, double frequency, int from, int length)
    {
        var (real, imaginary) = (0.0, 0.0);
        for (var i = 0; i < length && from + i < sound.Length; i++)
        {
            var weight = 0.5 - (0.5 * Math.Cos(2 * Math.PI * i / length));
            var turn = 2 * Math.PI * frequency * i / Rate;
            real += weight * sound[from + i] * Math.Cos(turn);
            imaginary += weight * sound[from + i] * Math.Sin(turn);
        }
        return 4 * Math.Sqrt((real * real) + (imaginary * imaginary)) / length;
    }

    private static Task Run(params string[] how) =>
        Ffmpeg.Run(["ffmpeg", "-v", "error", "-nostdin", "-y", .. how], (bytes, stop) => bytes.CopyToAsync(Stream.Null, stop), default);
}
