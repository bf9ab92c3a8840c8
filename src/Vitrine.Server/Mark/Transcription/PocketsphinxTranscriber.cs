using System.Globalization;
using Vitrine.Core.Mark.Transcription;
using Vitrine.Server.Media;
using Vitrine.Storage.Gather.Sources;
using Vitrine.Storage.Media;

namespace Vitrine.Server.Mark.Transcription;

/// <summary>
/// Debian's pocketsphinx with its model of American English: real, local, and rough. It knows no voices: where somebody else may
/// speak, a turn begins that is marked for a look.
/// Off unless the server is started with --transcriber pocketsphinx.
/// </summary>
internal sealed class PocketsphinxTranscriber(MediaFolder media) : ITranscriber
{
    private const string Program = "pocketsphinx_continuous";

    public WrittenBy Kind => WrittenBy.Pocketsphinx;

    public string Says => "pocketsphinx is rough: more words may be wrong than right. Read all of it against the sound.";

    public bool IsThere => Ffmpeg.Has(Program);

    public IReadOnlyList<string> Languages { get; } = ["en-US"];

    public async Task<IReadOnlyList<HeardTurn>> Hear(ToHear recording, IProgress<double> progress, CancellationToken cancel)
    {
        var sound = media.Passing();
        try
        {
            await Ffmpeg.Write(
                recording.Path,
                sound,
                ["-map", "0:a:0", "-vn", "-ac", "1", "-ar", "16000", "-c:a", "pcm_s16le", "-f", "wav"],
                _ => { },
                cancel
            );
            var words = new List<HeardWord>();
            await Ffmpeg.Run(
                [Program, "-infile", sound, "-time", "yes", "-logfn", "/dev/null"],
                async (output, stop) =>
                {
                    using var lines = new StreamReader(output);
                    while (await lines.ReadLineAsync(stop) is { } line)
                    {
                        if (WordOf(line) is not { } word)
                            continue;
                        words.Add(word);
                        progress.Report(Math.Min(1, (double)word.EndMs! / recording.LengthMs));
                    }
                },
                cancel
            );
            return Turns(words, recording.Speakers);
        }
        finally
        {
            File.Delete(sound);
        }
    }

    /// <summary>
    /// A line such as "harbour(2) 1.230 1.710 0.983": a word with the number of its way to be said, begin and end in seconds, and how sure
    /// it is, 0..1. Silence, noises and the repeated sentence are no words.
    /// </summary>
    internal static HeardWord? WordOf(string line)
    {
        var parts = line.Split(' ', StringSplitOptions.RemoveEmptyEntries);
        if (
            parts.Length != 4
            || parts[0][0] is '<' or '[' or '+'
            || Number(parts[1]) is not { } begin
            || Number(parts[2]) is not { } end
            || Number(parts[3]) is not { } sure
        )
            return null;
        return new HeardWord(parts[0].Split('(')[0], (int)Math.Round(begin * 1000), (int)Math.Round(end * 1000), sure < 0.5);
    }

    private static List<HeardTurn> Turns(List<HeardWord> words, int speakers)
    {
        var turns = new List<HeardTurn>();
        foreach (var word in words)
        {
            if (turns.Count > 0 && !SpokenPhrases.MayHandOver(word.BeginMs!.Value - turns[^1].Words[^1].EndMs!.Value, speakers))
                turns[^1] = turns[^1] with { Words = [.. turns[^1].Words, word] };
            else
                turns.Add(new HeardTurn(0, [turns.Count == 0 ? word : word with { Unsure = true }]));
        }
        return turns;
    }

    private static double? Number(string text) =>
        double.TryParse(text, NumberStyles.Float, CultureInfo.InvariantCulture, out var number) ? number : null;
}
