using System.Globalization;
using System.Text;
using Vitrine.Core.Mark.Recordings;
using Vitrine.Core.Text;

namespace Vitrine.Core.Mark.Transcription;

/// <summary>A word as a transcription service heard it.</summary>
/// <param name="Word">Without spaces.</param>
/// <param name="BeginMs">When it begins, in milliseconds from the beginning of the recording; null where that is not known.</param>
/// <param name="EndMs">When it has ended; the same where it has no length of its own.</param>
/// <param name="Unsure">Whether the service doubts it, so that a person should look.</param>
public sealed record HeardWord(string Word, int? BeginMs, int? EndMs, bool Unsure = false);

/// <summary>What one speaker says without another between.</summary>
/// <param name="Speaker">Who, from 0: services tell voices apart and know no names.</param>
/// <param name="Words">What is said, in order.</param>
public sealed record HeardTurn(int Speaker, IReadOnlyList<HeardWord> Words);

/// <summary>A transcript made of what was heard: its text, turns, and the times of its words.</summary>
public sealed record WrittenDown(string Text, IReadOnlyList<Turn> Turns, Shape Shape)
{
    /// <summary>Turns without words are left out.</summary>
    public static WrittenDown Of(IEnumerable<HeardTurn> heard)
    {
        var text = new StringBuilder();
        var turns = new List<Turn>();
        var times = new List<TimedWords>();
        foreach (var turn in heard.Where(t => t.Words.Count > 0))
        {
            if (text.Length > 0)
                text.Append("\n\n");
            var begun = text.Length;
            foreach (var word in turn.Words)
            {
                if (text.Length > begun)
                    text.Append(' ');
                var range = new TextRange(text.Length, text.Length + word.Word.Length);
                text.Append(word.Word);
                if (word is { BeginMs: { } begin, EndMs: { } end } && end > begin)
                    times.Add(new TimedWords(range, begin, end, word.Unsure));
            }
            var who = string.Create(CultureInfo.InvariantCulture, $"Speaker {turn.Speaker + 1}");
            turns.Add(new Turn(new TextRange(begun, text.Length), who, turn.Words[0].BeginMs, turn.Words[^1].EndMs));
        }
        return new WrittenDown(
            text.ToString(),
            turns,
            new Shape([.. turns.Select(t => new Block(t.Words, BlockKind.Paragraph))], [], [], Times: times)
        );
    }

    /// <summary>Words of one phrase, its time spread over their syllables.</summary>
    /// <param name="words">The words.</param>
    /// <param name="time">When the phrase is spoken.</param>
    /// <param name="unsure">Which of them are doubted, by their place; null for none.</param>
    public static IReadOnlyList<HeardWord> Spread(IReadOnlyList<string> words, TimeRange time, Func<int, bool>? unsure = null)
    {
        var weights = words.Select(Syllables.In).ToList();
        var all = Math.Max(1, weights.Sum());
        var heard = new List<HeardWord>();
        for (var (i, before) = (0, 0); i < words.Count; before += weights[i], i++)
            heard.Add(new HeardWord(words[i], At(before), At(before + weights[i]), unsure?.Invoke(i) ?? false));
        return heard;

        int At(int syllables) => time.BeginMs + (int)((long)(time.EndMs - time.BeginMs) * syllables / all);
    }
}
