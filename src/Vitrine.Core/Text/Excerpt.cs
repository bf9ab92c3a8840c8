namespace Vitrine.Core.Text;

/// <summary>A stretch of a text around a place in it, for reading the place in context.</summary>
/// <param name="Start">Where the excerpt begins in the text, in UTF-16 units.</param>
/// <param name="Words">The words of the excerpt, as they stand in the text.</param>
/// <param name="Marks">What is pointed at, relative to <paramref name="Words"/>; those that lie wholly in the excerpt.</param>
public sealed record Excerpt(int Start, string Words, IReadOnlyList<TextRange> Marks)
{
    /// <summary>UTF-16 units shown before the first mark, at most.</summary>
    public const int Before = 60;

    /// <summary>UTF-16 units shown from the first mark on, at most.</summary>
    public const int After = 140;

    /// <summary>UTF-16 units of a text that name it in a line, at most.</summary>
    private const int InLine = 60;

    /// <summary>The beginning of a text, to name it in a line; a surrogate pair is never cut in two.</summary>
    public static string Beginning(string text, int most = InLine)
    {
        if (text.Length <= most)
            return text;
        return text[..(char.IsHighSurrogate(text[most - 1]) ? most - 1 : most)].TrimEnd() + "…";
    }

    /// <summary>The end of a text; a surrogate pair is never cut in two.</summary>
    public static string Ending(string text, int most)
    {
        if (text.Length <= most)
            return text;
        var from = text.Length - most;
        return "…" + text[(char.IsLowSurrogate(text[from]) ? from + 1 : from)..].TrimStart();
    }

    /// <summary>
    /// The excerpt in which the most different words are marked, from the first of those; the beginning of the text when nothing is. It is
    /// cut between words where it can be.
    /// </summary>
    /// <param name="text">The whole text.</param>
    /// <param name="marks">In text order.</param>
    public static Excerpt Around(string text, IReadOnlyList<TextRange> marks)
    {
        marks = [.. marks.Skip(Fullest(text, marks))];
        var first = marks.Count > 0 ? marks[0].Start : 0;
        var start = marks.Count > 0 ? Math.Max(0, first - Before) : 0;
        var end = Math.Min(text.Length, first + After);
        if (start > 0)
        {
            while (start < first && !char.IsWhiteSpace(text[start - 1]))
                start++;
        }
        if (end < text.Length)
        {
            var least = marks.Count > 0 ? Math.Min(marks[0].End, end) : 0;
            var cut = end;
            while (cut > least && !char.IsWhiteSpace(text[cut]))
                cut--;
            if (cut > least)
                end = cut;
        }
        if (end < text.Length && end > start && char.IsHighSurrogate(text[end - 1]))
            end--;
        var inside = marks.Where(m => m.Start >= start && m.End <= end).Select(m => new TextRange(m.Start - start, m.End - start));
        return new Excerpt(start, text[start..end], [.. inside]);
    }

    /// <summary>The first mark from which the most different marked words lie within <see cref="After"/>.</summary>
    private static int Fullest(string text, IReadOnlyList<TextRange> marks)
    {
        var inside = new Dictionary<string, int>(StringComparer.OrdinalIgnoreCase);
        var (best, most, next) = (0, 0, 0);
        for (var i = 0; i < marks.Count; i++)
        {
            for (; next < marks.Count && marks[next].End <= marks[i].Start + After; next++)
                inside[marks[next].Of(text)] = inside.GetValueOrDefault(marks[next].Of(text)) + 1;
            if (inside.Count > most)
                (best, most) = (i, inside.Count);
            var leaving = marks[i].Of(text);
            if (next <= i)
                next = i + 1;
            else if (--inside[leaving] == 0)
                inside.Remove(leaving);
        }
        return best;
    }
}
