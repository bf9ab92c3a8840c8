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
