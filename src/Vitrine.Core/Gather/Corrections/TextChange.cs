using System.Text.RegularExpressions;
using DiffPlex;

namespace Vitrine.Core.Gather.Corrections;

/// <summary>A stretch of a text that was replaced by other words. Either side may be empty, not both.</summary>
/// <param name="Start">Where it begins in the text before, in UTF-16 units.</param>
/// <param name="End">One past its end in the text before.</param>
/// <param name="NewStart">Where its replacement begins in the text after.</param>
/// <param name="NewEnd">One past the replacement's end.</param>
public readonly record struct TextChange(int Start, int End, int NewStart, int NewEnd);

/// <summary>Finds what was changed between two versions of a text.</summary>
public static partial class TextChanges
{
    /// <summary>Comparisons of two tokens that are thought bearable, about a second; beyond it whole lines are compared first.</summary>
    private const long Bearable = 200_000_000;

    /// <summary>
    /// The changes that turn one text into the other, in order, none touching the next. Words and signs are compared (Myers 1986, by
    /// DiffPlex), each difference is then narrowed to the letters that differ;
    /// white space counts as changed only where it stands between the same words.
    /// </summary>
    public static IReadOnlyList<TextChange> Between(string before, string after)
    {
        var changes = new List<TextChange>();
        Words(before, after, new TextChange(0, before.Length, 0, after.Length), changes, lines: false);
        return changes;
    }

    private static void Words(string before, string after, TextChange inside, List<TextChange> changes, bool lines)
    {
        if (Narrowed(before, after, inside) is not { } narrow)
            return;
        inside = ToWordEdges(before, after, narrow, inside);
        var (old, now) = (Tokens(before, inside.Start, inside.End, lines), Tokens(after, inside.NewStart, inside.NewEnd, lines));
        if (!lines && Cost(old, now) > Bearable)
        {
            Words(before, after, inside, changes, lines: true);
            return;
        }
        var (at, to) = (inside.Start, inside.NewStart);
        // Two long texts that share next to no line are one change.
        foreach (var (oldToken, newToken) in Cost(old, now) > Bearable ? [] : Matched(old, now))
        {
            Between(oldToken.Start, newToken.Start);
            (at, to) = (oldToken.End, newToken.End);
        }
        Between(inside.End, inside.NewEnd);

        void Between(int end, int newEnd)
        {
            var gap = new TextChange(at, end, to, newEnd);
            if (!lines && Narrowed(before, after, gap) is { } change)
                changes.Add(change);
            else if (lines && Cost(Tokens(before, at, end, false), Tokens(after, to, newEnd, false)) <= Bearable)
                Words(before, after, gap, changes, lines: false);
            else if (lines && Narrowed(before, after, gap) is { } whole)
                changes.Add(whole);
        }
    }

    /// <summary>At least so many comparisons will be made: the two sides' length times what they do not share.</summary>
    private static long Cost(IReadOnlyList<Token> old, IReadOnlyList<Token> now)
    {
        var left = now.CountBy(t => t.Words).ToDictionary();
        long shared = old.CountBy(t => t.Words).Sum(t => Math.Min(t.Value, left.GetValueOrDefault(t.Key)));
        return (old.Count + now.Count) * (old.Count + now.Count - 2 * shared);
    }

    private static IEnumerable<(Token Old, Token Now)> Matched(IReadOnlyList<Token> old, IReadOnlyList<Token> now)
    {
        var given = new Queue<IReadOnlyList<string>>([
            [.. old.Select(t => t.Words)],
            [.. now.Select(t => t.Words)],
        ]);
        var (i, j) = (0, 0);
        foreach (var block in Differ.Instance.CreateDiffs("old", "new", false, false, new Given(given)).DiffBlocks)
        {
            for (; i < block.DeleteStartA; i++, j++)
                yield return (old[i], now[j]);
            (i, j) = (block.DeleteStartA + block.DeleteCountA, block.InsertStartB + block.InsertCountB);
        }
        for (; i < old.Count; i++, j++)
            yield return (old[i], now[j]);
    }

    /// <summary>
    /// The change without what is the same at its two ends; null when nothing is left. A surrogate pair is never cut in two.
    /// </summary>
    private static TextChange? Narrowed(string before, string after, TextChange c)
    {
        var most = Math.Min(c.End - c.Start, c.NewEnd - c.NewStart);
        var head = 0;
        while (head < most && before[c.Start + head] == after[c.NewStart + head])
            head++;
        if (head > 0 && char.IsHighSurrogate(before[c.Start + head - 1]))
            head--;
        var tail = 0;
        while (tail < most - head && before[c.End - tail - 1] == after[c.NewEnd - tail - 1])
            tail++;
        if (tail > 0 && char.IsLowSurrogate(before[c.End - tail]))
            tail--;
        var narrow = new TextChange(c.Start + head, c.End - tail, c.NewStart + head, c.NewEnd - tail);
        return narrow.Start == narrow.End && narrow.NewStart == narrow.NewEnd ? null : narrow;
    }

    private static TextChange ToWordEdges(string before, string after, TextChange c, TextChange within)
    {
        var (start, end, newStart, newEnd) = c;
        while (start > within.Start && newStart > within.NewStart && char.IsLetterOrDigit(before[start - 1]))
            (start, newStart) = (start - 1, newStart - 1);
        while (end < within.End && newEnd < within.NewEnd && char.IsLetterOrDigit(before[end]))
            (end, newEnd) = (end + 1, newEnd + 1);
        return new TextChange(start, end, newStart, newEnd);
    }

    private static List<Token> Tokens(string text, int start, int end, bool lines)
    {
        var tokens = new List<Token>();
        for (var match = (lines ? Line() : Word()).Match(text, start, end - start); match.Success; match = match.NextMatch())
            tokens.Add(new Token(match.Value, match.Index));
        return tokens;
    }

    private readonly record struct Token(string Words, int Start)
    {
        public int End => Start + Words.Length;
    }

    /// <summary>Hands over what was cut already; the package asks for the old text's pieces, then for the new one's.</summary>
    private sealed class Given(Queue<IReadOnlyList<string>> pieces) : IChunker
    {
        public IReadOnlyList<string> Chunk(string text) => pieces.Dequeue();
    }

    [GeneratedRegex(@"[\p{L}\p{M}\p{N}]+|[^\p{L}\p{M}\p{N}\s]")]
    private static partial Regex Word();

    [GeneratedRegex(@"\S[^\n]*")]
    private static partial Regex Line();
}
