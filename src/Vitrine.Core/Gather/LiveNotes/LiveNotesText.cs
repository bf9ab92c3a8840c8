using Vitrine.Core.Text;

namespace Vitrine.Core.Gather.LiveNotes;

/// <summary>The text that live notes become: a paragraph of each line, in the order of the clock, with its time.</summary>
public static class LiveNotesText
{
    private const string Between = "\n\n";

    /// <summary>The text, and the turn of each line.</summary>
    /// <param name="lines">In the order of the clock; times in milliseconds since the notes began.</param>
    /// <param name="isKnown">Whether a name before a colon is someone's: the line is then theirs.</param>
    public static (string Text, IReadOnlyList<Turn> Turns) Of(
        IReadOnlyList<(string Words, int BeginMs, int EndMs)> lines,
        Func<string, bool> isKnown
    )
    {
        var at = 0;
        var turns = new List<Turn>();
        foreach (var (words, begin, end) in lines)
        {
            turns.Add(TurnOf(words, at, begin, end, isKnown));
            at += words.Length + Between.Length;
        }
        return (string.Join(Between, lines.Select(l => l.Words)), turns);
    }

    /// <summary>A line that came after the notes became a source: where it goes into the text, and the turn that it is there.</summary>
    /// <param name="text">The text so far.</param>
    /// <param name="turns">Its turns, in order.</param>
    /// <param name="words">The words of the line.</param>
    /// <param name="beginMs">When it was begun, in milliseconds since the notes began.</param>
    /// <param name="endMs">When it was ended.</param>
    /// <param name="isKnown">Whether a name before a colon is somebody’s.</param>
    public static ((int Start, int End, string Words) Edit, Turn Turn) Late(
        string text,
        IReadOnlyList<Turn> turns,
        string words,
        int beginMs,
        int endMs,
        Func<string, bool> isKnown
    )
    {
        var next = turns.FirstOrDefault(t => t.BeginMs > beginMs);
        // A speaker's name stands before the words of the turn, on the same line.
        var at = next is null ? text.Length : text.LastIndexOf('\n', Math.Max(0, next.Words.Start - 1)) + 1;
        return next is null
            ? ((at, at, Between + words), TurnOf(words, at + Between.Length, beginMs, endMs, isKnown))
            : ((at, at, words + Between), TurnOf(words, at, beginMs, endMs, isKnown));
    }

    private static Turn TurnOf(string words, int at, int begin, int end, Func<string, bool> isKnown)
    {
        var colon = words.IndexOf(": ", StringComparison.Ordinal);
        var said = colon > 0 && isKnown(words[..colon]) ? colon + 2 : 0;
        return new Turn(new TextRange(at + said, at + words.Length), said > 0 ? words[..colon] : null, begin, end);
    }
}
