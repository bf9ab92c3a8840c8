using System.Text.Json.Serialization;

namespace Vitrine.Core.Text;

/// <summary>
/// A half-open stretch <c>[Start, End)</c> of a source's canonical plain text, in UTF-16 code units.
/// Never empty and never negative.
/// </summary>
public readonly record struct TextRange
{
    /// <summary>First code unit of the stretch, 0 or more.</summary>
    public int Start { get; }

    /// <summary>One past the last code unit; always greater than <see cref="Start"/>.</summary>
    public int End { get; }

    /// <exception cref="ArgumentOutOfRangeException">Start is negative, or End is not after Start.</exception>
    [JsonConstructor]
    public TextRange(int start, int end)
    {
        ArgumentOutOfRangeException.ThrowIfNegative(start);
        ArgumentOutOfRangeException.ThrowIfLessThanOrEqual(end, start);
        Start = start;
        End = end;
    }

    /// <summary>Length in UTF-16 code units, 1 or more.</summary>
    public int Length => End - Start;

    /// <summary>Whether the two stretches share at least one code unit.</summary>
    public bool Touches(TextRange other) => Start < other.End && other.Start < End;

    /// <summary>The smallest stretch that holds both, with whatever lies between them.</summary>
    public TextRange Cover(TextRange other) => new(Math.Min(Start, other.Start), Math.Max(End, other.End));

    /// <summary>What both share; null where they share nothing.</summary>
    public TextRange? Clip(TextRange other) =>
        Touches(other) ? new TextRange(Math.Max(Start, other.Start), Math.Min(End, other.End)) : null;

    /// <summary>The same stretch further on in the text, or for a negative number further back.</summary>
    /// <exception cref="ArgumentOutOfRangeException">It would begin before the text does.</exception>
    public TextRange Shift(int by) => new(Start + by, End + by);

    /// <summary>
    /// The stretch in two, before and from a position, each without white space at its edges; null for a side on which no words are.
    /// </summary>
    /// <example>
    /// “It’s always the box.” split before “the” gives “It’s always” and “the box.”; split at its end it gives itself and null.
    /// </example>
    public (TextRange? Before, TextRange? After) Split(string text, int at)
    {
        var cut = Math.Clamp(at, Start, End);
        if (cut > 0 && cut < text.Length && char.IsLowSurrogate(text[cut]) && char.IsHighSurrogate(text[cut - 1]))
            cut--;
        return (Tidy(text, Start, cut), Tidy(text, cut, End));
    }

    /// <summary>The words of the stretch.</summary>
    /// <exception cref="ArgumentOutOfRangeException">The stretch ends after the text does.</exception>
    public string Of(string text) => text[Start..End];

    /// <summary>
    /// The stretch a person means when they select <paramref name="start"/> to <paramref name="end"/>: put in order, kept inside the text,
    /// without white space at its edges, and never cutting a surrogate pair in two. Null when nothing but white space is left.
    /// </summary>
    public static TextRange? Tidy(string text, int start, int end)
    {
        var from = Math.Clamp(Math.Min(start, end), 0, text.Length);
        var to = Math.Clamp(Math.Max(start, end), 0, text.Length);
        if (from > 0 && from < text.Length && char.IsLowSurrogate(text[from]) && char.IsHighSurrogate(text[from - 1]))
            from--;
        if (to > 0 && to < text.Length && char.IsLowSurrogate(text[to]) && char.IsHighSurrogate(text[to - 1]))
            to++;
        while (from < to && char.IsWhiteSpace(text[from]))
            from++;
        while (to > from && char.IsWhiteSpace(text[to - 1]))
            to--;
        return from < to ? new TextRange(from, to) : null;
    }
}
