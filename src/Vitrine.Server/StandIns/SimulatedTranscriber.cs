using System.Text.Json;
using Vitrine.Core.Mark.Recordings;
using Vitrine.Core.Mark.Transcription;
using Vitrine.Core.Text;
using Vitrine.Formats.Captions;
using Vitrine.Server.Mark.Transcription;
using Vitrine.Storage.Gather.Sources;

namespace Vitrine.Server.StandIns;

/// <summary>
/// A stand-in for a transcription service. The turns are found in the pauses of the sound, and who speaks is not; the words are filled in,
/// always the same for
/// the same recording, and each turn says so. Of the demo's recordings the true words ship with it. As services do, it doubts names and
/// figures.
/// </summary>
internal sealed class SimulatedTranscriber : ITranscriber
{
    /// <summary>Stands before the words of every turn that are made up.</summary>
    public const string Mark = "[simulated]";

    /// <summary>How many syllables of filled-in words a second of speech gets.</summary>
    private const int SyllablesPerSecond = 4;

    /// <summary>Ordinary words, which say nothing about anything.</summary>
    private static readonly Dictionary<string, string[]> Fillers = new()
    {
        ["en"] = "and then we went there so it was like that before or maybe after because one could see how it goes on and on".Split(' '),
        ["de"] = "und dann war es eben so wie vorher oder vielleicht danach weil man sehen konnte wie es immer weiter geht".Split(' '),
        ["fr"] = "et puis on est alors comme avant ou bien plus tard parce que tout cela va encore et encore sans fin".Split(' '),
        ["es"] = "y luego era como antes o tal vez después porque se puede ver que todo sigue y sigue sin parar".Split(' '),
    };

    private static readonly Lazy<IReadOnlyDictionary<string, string>> Known = new(() =>
    {
        using var stream = typeof(SimulatedTranscriber).Assembly.GetManifestResourceStream("spoken.json")!;
        return JsonSerializer.Deserialize<Dictionary<string, string>>(stream)!;
    });

    public WrittenBy Kind => WrittenBy.Simulated;

    public string Says =>
        "This is a simulated service: it finds when somebody speaks, not who, and fills in words that were not said. Replace them by hand, "
        + "or by the transcript of a real service.";

    public bool IsThere => true;

    public IReadOnlyList<string> Languages { get; } = [.. Fillers.Keys];

    public Task<IReadOnlyList<HeardTurn>> Hear(ToHear recording, IProgress<double> progress, CancellationToken cancel) =>
        Task.FromResult<IReadOnlyList<HeardTurn>>(
            Known.Value.TryGetValue(recording.Hash, out var captions) ? True(captions) : Filled(recording, progress, cancel)
        );

    private static List<HeardTurn> Filled(ToHear recording, IProgress<double> progress, CancellationToken cancel)
    {
        var fillers = Fillers[recording.Language];
        // Another recording begins at another word.
        var next = Convert.ToInt32(recording.Hash[..4], 16) % fillers.Length;
        var turns = new List<HeardTurn>();
        foreach (var phrase in SpokenPhrases.In(recording.Pauses, recording.LengthMs, recording.Speakers))
        {
            cancel.ThrowIfCancellationRequested();
            var goesOn = turns.Count > 0 && !phrase.MayHandOver;
            var words = new List<string>();
            for (
                var syllables = (phrase.Time.EndMs - phrase.Time.BeginMs) * SyllablesPerSecond / 1000;
                syllables > 0 || words.Count == 0;
                next = (next + 1) % fillers.Length
            )
            {
                words.Add(fillers[next]);
                syllables -= Syllables.In(fillers[next]);
            }
            var heard = WrittenDown.Spread(words, phrase.Time, _ => true);
            if (goesOn)
                turns[^1] = turns[^1] with { Words = [.. turns[^1].Words, .. heard] };
            else
                turns.Add(new HeardTurn(0, [new HeardWord(Mark, phrase.Time.BeginMs, phrase.Time.BeginMs), .. heard]));
            progress.Report((double)phrase.Time.EndMs / recording.LengthMs);
        }
        return turns;
    }

    private static List<HeardTurn> True(string captions)
    {
        using var stream = typeof(SimulatedTranscriber).Assembly.GetManifestResourceStream(captions)!;
        using var text = new StreamReader(stream);
        var turns = new List<HeardTurn>();
        var voices = new List<string?>();
        foreach (var cue in WebVtt.Cues(text.ReadToEnd()).Cues)
        {
            foreach (var (voice, said) in cue.Parts)
            {
                if (!voices.Contains(voice))
                    voices.Add(voice);
                var speaker = voices.IndexOf(voice);
                var words = said.Split((char[]?)null, StringSplitOptions.RemoveEmptyEntries);
                var heard = WrittenDown.Spread(
                    words,
                    new TimeRange(cue.BeginMs, Math.Max(cue.BeginMs + 1, cue.EndMs)),
                    i => Doubtful(words, i)
                );
                if (turns.Count > 0 && turns[^1].Speaker == speaker)
                    turns[^1] = turns[^1] with { Words = [.. turns[^1].Words, .. heard] };
                else
                    turns.Add(new HeardTurn(speaker, heard));
            }
        }
        return turns;
    }

    /// <summary>A figure, or a name: a capital that begins no sentence.</summary>
    private static bool Doubtful(string[] words, int i)
    {
        var word = words[i].Trim('“', '”', '‘', '’', '"', '(', ')', ',', '.', '?', '!');
        var before = i == 0 ? '.' : words[i - 1].TrimEnd('”', '’', '"', ')')[^1];
        return word.Any(char.IsDigit) || (word.Length > 2 && char.IsUpper(word[0]) && char.IsLetter(word[1]) && !".?!:…".Contains(before));
    }
}
