using Vitrine.Core.Mark.Recordings;

namespace Vitrine.Core.Mark.Transcription;

/// <summary>A stretch in which somebody speaks without a pause.</summary>
/// <param name="Speaker">Who, from 0.</param>
/// <param name="Time">When.</param>
public readonly record struct SpokenPhrase(int Speaker, TimeRange Time);

/// <summary>
/// Who speaks when, as far as pauses tell it: a phrase stands between two pauses, and after a long one the next speaker has the word. It
/// does not know voices; common practice of rough tools, no source.
/// </summary>
public static class SpokenPhrases
{
    /// <summary>A pause of this length hands the word over, in milliseconds.</summary>
    public const int HandsOverMs = 900;

    /// <summary>What is shorter is a click and no phrase, in milliseconds.</summary>
    public const int ShortestMs = 150;

    /// <param name="pauses">Where nobody speaks, in order.</param>
    /// <param name="lengthMs">How long the recording lasts.</param>
    /// <param name="speakers">How many speak in turn, 1 or more.</param>
    public static IReadOnlyList<SpokenPhrase> In(IReadOnlyList<TimeRange> pauses, int lengthMs, int speakers)
    {
        ArgumentOutOfRangeException.ThrowIfLessThan(speakers, 1);
        var phrases = new List<SpokenPhrase>();
        var begin = 0;
        foreach (var pause in pauses.Append(new TimeRange(lengthMs, lengthMs)))
        {
            if (pause.BeginMs - begin >= ShortestMs)
            {
                var before = phrases.Count == 0 ? (SpokenPhrase?)null : phrases[^1];
                var handsOver = before is { } b && begin - b.Time.EndMs >= HandsOverMs;
                phrases.Add(
                    new SpokenPhrase(((before?.Speaker ?? 0) + (handsOver ? 1 : 0)) % speakers, new TimeRange(begin, pause.BeginMs))
                );
            }
            begin = pause.EndMs;
        }
        return phrases;
    }
}
