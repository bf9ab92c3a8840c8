namespace Vitrine.Core.Text;

/// <summary>
/// The lines of a text that are counted, so that a line has the same number on every screen and in every transcript that is handed on:
/// each stretch begins a new line, and a line holds at most 60 characters, broken at white space (common practice, no source).
/// </summary>
public static class NumberedLines
{
    /// <summary>The longest line, in UTF-16 units; a word that is longer is broken.</summary>
    public const int Longest = 60;

    /// <summary>Where each line begins, in UTF-16 units of the text; the first is line 1.</summary>
    /// <param name="text">The whole text.</param>
    /// <param name="stretches">Its turns or paragraphs, in order.</param>
    public static IReadOnlyList<int> Starts(string text, IEnumerable<TextRange> stretches)
    {
        var starts = new List<int>();
        foreach (var stretch in stretches)
        {
            var at = stretch.Start;
            while (at < stretch.End)
            {
                starts.Add(at);
                at = Next(text, at, stretch.End);
            }
        }
        return starts;
    }

    private static int Next(string text, int at, int end)
    {
        var newline = text.IndexOf('\n', at, Math.Min(Longest + 1, end - at));
        if (newline >= 0)
            return newline + 1;
        if (end - at <= Longest)
            return end;
        // The white space that ends a line may stand after its last character.
        for (var i = at + Longest; i > at; i--)
        {
            if (char.IsWhiteSpace(text[i]))
                return i + 1;
        }
        return char.IsHighSurrogate(text[at + Longest - 1]) ? at + Longest - 1 : at + Longest;
    }
}
