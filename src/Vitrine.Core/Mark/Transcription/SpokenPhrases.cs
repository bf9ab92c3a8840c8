using Vitrine.Core.Text;

namespace Vitrine.Core.Mark.Transcription;

/// <summary>A stretch in which somebody speaks without a pause.</summary>
/// <param name="Time">When.</param>
/// <param name="MayHandOver">Whether somebody else may have taken the word: a long pause stands before it.</param>
public readonly record struct SpokenPhrase(TimeRange Time, bool MayHandOver);

/// <summary>
/// When somebody speaks, as far as pauses tell it: a phrase stands between two pauses. Who speaks they do not tell: after a long pause it
/// may be somebody else, which is for a person to look at; common practice of rough tools, no source.
/// </summary>
public static class SpokenPhrases
{
    /// <summary>After a pause of this length somebody else may speak, in milliseconds.</summary>
    public const int HandsOverMs = 900;

    /// <summary>What is shorter is a click and no phrase, in milliseconds.</summary>
    public const int ShortestMs = 150;

    /// <param name="pauses">Where nobody speaks, in order.</param>
    /// <param name="lengthMs">How long the recording lasts.</param>
    /// <param name="speakers">How many speak, 1 or more; one hands over to nobody.</param>
    public static IReadOnlyList<SpokenPhrase> In(IReadOnlyList<TimeRange> pauses, int lengthMs, int speakers)
    {
        ArgumentOutOfRangeException.ThrowIfLessThan(speakers, 1);
        var phrases = new List<SpokenPhrase>();
        var begin = 0;
        foreach (var (ends, goesOn) in pauses.Select(p => (p.BeginMs, p.EndMs)).Append((lengthMs, lengthMs)))
        {
            if (ends - begin >= ShortestMs)
            {
                var rested = phrases.Count > 0 ? begin - phrases[^1].Time.EndMs : 0;
                phrases.Add(new SpokenPhrase(new TimeRange(begin, ends), MayHandOver(rested, speakers)));
            }
            begin = goesOn;
        }
        return phrases;
    }

    /// <summary>Whether somebody else may speak after a pause.</summary>
    public static bool MayHandOver(int pauseMs, int speakers) => speakers > 1 && pauseMs >= HandsOverMs;
}
