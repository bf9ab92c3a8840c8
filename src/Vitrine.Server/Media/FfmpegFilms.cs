using System.Globalization;

namespace Vitrine.Server.Media;

/// <summary>Films: where their scenes change, and several in a row.</summary>
internal sealed partial class Ffmpeg
{
    /// <summary>How much the picture changes at the moments of a film: ffmpeg's measure of a change of scene, 0..1.</summary>
    /// <param name="keyFrames">Whether key frames alone are looked at: quick, and as exact as they lie.</param>
    public static async Task<IReadOnlyList<(int AtMs, double Score)>> Changes(string path, bool keyFrames, CancellationToken cancel)
    {
        var found = new List<(int, double)>();
        var at = -1;
        await Run(
            [
                .. Quiet,
                .. keyFrames ? (string[])["-skip_frame", "nokey"] : [],
                .. Safe,
                "-i",
                path,
                "-map",
                "0:v:0",
                "-an",
                "-vf",
                "scale=160:-2,select='gte(scene,0)',metadata=print:file=-",
                "-f",
                "null",
                "-",
            ],
            async (bytes, stop) =>
            {
                using var lines = new StreamReader(bytes);
                while (await lines.ReadLineAsync(stop) is { } line)
                {
                    if (Value(line, "pts_time:") is { } seconds)
                        at = (int)Math.Round(seconds * 1000);
                    else if (Value(line, "lavfi.scene_score=") is { } score && at >= 0)
                        found.Add((at, score));
                }
            },
            cancel
        );
        return found;
    }

    private static double? Value(string line, string name) =>
        line.IndexOf(name, StringComparison.Ordinal) is >= 0 and var from
        && double.TryParse(line.AsSpan(from + name.Length), NumberStyles.Float, CultureInfo.InvariantCulture, out var value)
            ? value
            : null;

    /// <summary>Several clips in a row as one film, each after a card with its title.</summary>
    /// <param name="clips">
    /// The clips, what stands on their cards as the name of a file beside <paramref name="to"/>, and what is in them.
    /// </param>
    public static Task Join(IReadOnlyList<(string Path, string Card, CutoutOf Of)> clips, string to, CancellationToken cancel)
    {
        var (inputs, chains, all) = (new List<string>(), new List<string>(), "");
        foreach (var (path, card, of) in clips)
        {
            var length = Seconds(of.Time.EndMs - of.Time.BeginMs);
            var at = Add("-f", "lavfi", "-t", CardSeconds, "-i", $"color=c=0xf7f4ec:s={FilmSize}:r=25");
            chains.Add(
                $"[{at}:v]drawtext=textfile={card}:expansion=none:fontcolor=0x1f2b2e:fontsize=44:line_spacing=18:"
                    + $"x=(w-text_w)/2:y=(h-text_h)/2,"
                    + $"setsar=1[t{at}]"
            );
            var silence = Add("-f", "lavfi", "-t", CardSeconds, "-i", "anullsrc=r=44100:cl=stereo");
            var clip = Add([.. Safe, "-i", Path.GetFullPath(path)]);
            var picture = of.Films ? $"{clip}:v" : $"{Add("-f", "lavfi", "-t", length, "-i", $"color=c=0xe9e4d6:s={FilmSize}:r=25")}:v";
            var sound = of.Sounds ? $"{clip}:a" : $"{Add("-f", "lavfi", "-t", length, "-i", "anullsrc=r=44100:cl=stereo")}:a";
            chains.Add(
                $"[{picture}]scale={FilmSize.Replace('x', ':')}:force_original_aspect_ratio=decrease,"
                    + $"pad={FilmSize.Replace('x', ':')}:(ow-iw)/2:(oh-ih)/2:color=0xe9e4d6,fps=25,setsar=1[v{at}]"
            );
            chains.Add($"[{sound}]aresample=44100,aformat=channel_layouts=stereo[a{at}]");
            all += $"[t{at}][{silence}:a][v{at}][a{at}]";
        }
        return Run(
            [
                .. Quiet,
                "-y",
                .. inputs,
                "-filter_complex",
                $"{string.Join(';', chains)};{all}concat=n={2 * clips.Count}:v=1:a=1[film][sound]",
                "-map",
                "[film]",
                "-map",
                "[sound]",
                .. PackedCodec,
                .. "-c:a aac -b:a 128k -movflags +faststart -map_metadata -1 -progress pipe:1 -f mp4".Split(' '),
                Path.GetFullPath(to),
            ],
            (bytes, stop) => bytes.CopyToAsync(Stream.Null, stop),
            cancel,
            Path.GetDirectoryName(Path.GetFullPath(to))
        );

        int Add(params string[] input)
        {
            inputs.AddRange(input);
            return inputs.Count(i => i == "-i") - 1;
        }
    }

    /// <summary>How long a card stands.</summary>
    public const string CardSeconds = "2.5";

    private const string FilmSize = "1280x720";
}
