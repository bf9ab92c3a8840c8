using System.Globalization;
using Vitrine.Core.Mark.Transcription;
using Vitrine.Formats;
using Vitrine.Server.FileReading;
using Vitrine.Server.Media;
using Vitrine.Storage.Gather.Sources;
using Vitrine.Storage.Media;
using Vitrine.Storage.Trail;

namespace Vitrine.Server.Mark.Transcription;

/// <summary>
/// Any program that writes down what is said, as the people who run Vitrine have it: --transcriber "program {in} {out}". It runs without a
/// shell, with a time limit; {in} is the sound as a .wav file of 16 kHz, {out} the path of the file that it writes, to which it adds .vtt,
/// .srt or .txt. What it writes is read like any file that comes in.
/// </summary>
internal sealed class ProgramTranscriber(IConfiguration settings, MediaFolder media, FileReader reader) : ITranscriber
{
    /// <summary>The least time that it has.</summary>
    private static readonly TimeSpan LeastTime = TimeSpan.FromMinutes(5);

    /// <summary>It has so many times the length of a recording besides.</summary>
    private const int TimesLength = 6;

    private static readonly string[] Endings = [".vtt", ".srt", ".txt"];

    private readonly IReadOnlyList<string> command = Words(settings["transcriber"]!)!;

    public WrittenBy Kind => WrittenBy.Program;

    public string Says =>
        $"{Path.GetFileName(command[0])} writes it down, a program that runs here. Read what it writes against the sound.";

    public bool IsThere => command[0].Contains('/') ? File.Exists(command[0]) : Ffmpeg.Has(command[0]);

    public IReadOnlyList<string> Languages { get; } = ["any"];

    /// <summary>The words of a command, where quotes hold words together; null where it does not say where sound and words stand.</summary>
    public static IReadOnlyList<string>? Words(string command)
    {
        var words = new List<string>();
        var (word, quote, begun) = (new System.Text.StringBuilder(), '\0', false);
        foreach (var sign in command)
        {
            if (quote == '\0' && sign is '"' or '\'')
                (quote, begun) = (sign, true);
            else if (sign == quote)
                quote = '\0';
            else if (quote == '\0' && char.IsWhiteSpace(sign))
            {
                if (begun)
                    words.Add(word.ToString());
                word.Clear();
                begun = false;
            }
            else
            {
                word.Append(sign);
                begun = true;
            }
        }
        if (begun)
            words.Add(word.ToString());
        bool Says(string what) => words.Skip(1).Any(w => w.Contains(what, StringComparison.Ordinal));
        return quote == '\0' && Says("{in}") && Says("{out}") ? words : null;
    }

    public async Task<IReadOnlyList<HeardTurn>> Hear(ToHear recording, IProgress<double> progress, CancellationToken cancel)
    {
        var folder = media.Passing();
        Directory.CreateDirectory(folder);
        try
        {
            var (sound, written) = (Path.Combine(folder, "in.wav"), Path.Combine(folder, "out"));
            await Ffmpeg.Write(
                recording.Path,
                sound,
                "-map 0:a:0 -vn -af aresample=16000:async=1:first_pts=0 -ac 1 -c:a pcm_s16le -f wav".Split(' '),
                _ => { },
                cancel
            );
            progress.Report(0.1);
            using var stop = CancellationTokenSource.CreateLinkedTokenSource(cancel);
            var time = LeastTime + TimeSpan.FromMilliseconds((double)recording.LengthMs * TimesLength);
            time = settings.GetValue<double?>("transcriber-seconds") is { } seconds ? TimeSpan.FromSeconds(seconds) : time;
            stop.CancelAfter(time);
            try
            {
                await Ffmpeg.Run(
                    [
                        .. command.Select(w =>
                            w.Replace("{in}", sound, StringComparison.Ordinal).Replace("{out}", written, StringComparison.Ordinal)
                        ),
                    ],
                    (output, token) => output.CopyToAsync(Stream.Null, token),
                    stop.Token,
                    folder,
                    time
                );
            }
            // A program that is ended just then says that it failed.
            catch (Exception ended)
                when (ended is OperationCanceledException or UnplayableException
                    && stop.IsCancellationRequested
                    && !cancel.IsCancellationRequested
                )
            {
                throw Failed(
                    string.Create(
                        CultureInfo.InvariantCulture,
                        $"was not done in {Math.Ceiling(time.TotalMinutes):0} minutes and was ended"
                    )
                );
            }
            catch (UnplayableException)
            {
                throw Failed("ended with an error");
            }
            var found = Endings.Select(e => written + e).FirstOrDefault(File.Exists) ?? throw Failed("wrote no .vtt, .srt or .txt");
            if (new FileInfo(found).Length > Http.Limits.DocumentBytes)
                throw Failed("wrote more than a transcript can hold");
            return Heard(await reader.Source(Path.GetFileName(found), found, [], [], cancel));
        }
        finally
        {
            Directory.Delete(folder, recursive: true);
        }
    }

    private Refusal Failed(string what) =>
        Refusal.Because(
            $"{Path.GetFileName(command[0])} {what}. The recording is kept as it is. Tell the person who runs Vitrine, or write it down by "
                + "hand.",
            "id"
        );

    /// <summary>What was read as what was heard: speakers by number, words with the times of their captions.</summary>
    private static List<HeardTurn> Heard(ReadSource read)
    {
        var voices = new List<string?>();
        var times = read.Shape?.Times ?? [];
        var turns = new List<HeardTurn>();
        foreach (var turn in read.Turns)
        {
            if (!voices.Contains(turn.Speaker))
                voices.Add(turn.Speaker);
            var words = new List<HeardWord>();
            var at = turn.Words.Start;
            foreach (var timed in times.Where(t => t.Words.Start >= turn.Words.Start && t.Words.End <= turn.Words.End))
            {
                words.AddRange(Untimed(read.Text, at, timed.Words.Start));
                words.AddRange(WrittenDown.Spread(Split(timed.Words.Of(read.Text)), new(timed.BeginMs, timed.EndMs)));
                at = timed.Words.End;
            }
            if (words.Count == 0 && turn is { BeginMs: { } begin, EndMs: { } end } && end > begin)
                words.AddRange(WrittenDown.Spread(Split(turn.Words.Of(read.Text)), new(begin, end)));
            else
                words.AddRange(Untimed(read.Text, at, turn.Words.End));
            turns.Add(new HeardTurn(voices.IndexOf(turn.Speaker), words));
        }
        return turns;
    }

    private static IEnumerable<HeardWord> Untimed(string text, int start, int end) =>
        Split(text[Math.Min(start, end)..end]).Select(w => new HeardWord(w, null, null));

    private static string[] Split(string text) => text.Split((char[]?)null, StringSplitOptions.RemoveEmptyEntries);
}
