using System.Text.RegularExpressions;
using Vitrine.Core.Text;

namespace Vitrine.Core.Gather.Corrections;

/// <summary>What became of a stretch when its text was corrected.</summary>
public enum AnchorFate
{
    /// <summary>It stands on the same words, wherever they are now.</summary>
    Same,

    /// <summary>It stands where it stood, on words that were changed.</summary>
    Changed,

    /// <summary>Its words are not in the text any more; the stretch given is what stands nearest to where they were.</summary>
    Gone,
}

/// <summary>Where a stretch stands after a correction.</summary>
public readonly record struct Anchored(TextRange Range, AnchorFate Fate);

/// <summary>
/// Moves stretches of a text to where their words stand after the text was corrected. An edit outside a stretch never changes its words; an
/// edit inside gives the new words; nothing is ever dropped.
/// Where an edit can be read in two ways ("on on the quay", one "on" taken out), the reading that leaves the stretch whole is taken.
/// </summary>
public sealed class Reanchor
{
    /// <summary>
    /// UTF-16 units of text on each side of a stretch that are compared to tell one place of the same words from another.
    /// </summary>
    private const int Context = 32;

    /// <summary>
    /// Words shorter than this are found again elsewhere only beside the same context; longer ones are seldom said twice.
    /// </summary>
    private const int Telling = 20;

    private readonly string before;
    private readonly string after;
    private readonly IReadOnlyList<TextChange> changes;

    private Reanchor(string before, string after, IReadOnlyList<TextChange> changes) =>
        (this.before, this.after, this.changes) = (before, after, changes);

    /// <summary>From one version of a text to another, when it is not known how it was edited.</summary>
    /// <exception cref="ArgumentException">The new text holds no words.</exception>
    public static Reanchor Between(string before, string after) => new(before, Checked(after), TextChanges.Between(before, after));

    /// <summary>From a text to what known edits make of it.</summary>
    /// <param name="before">The text.</param>
    /// <param name="edits">Stretches and what stands in their place now, in order, not overlapping; an empty stretch is an
    /// insertion.</param>
    /// <exception cref="ArgumentException">The edits overlap, or leave no words.</exception>
    public static Reanchor Through(string before, IReadOnlyList<(int Start, int End, string Words)> edits)
    {
        var changes = new List<TextChange>();
        var after = new System.Text.StringBuilder();
        var at = 0;
        foreach (var (start, end, words) in edits)
        {
            if (start < at || end < start || end > before.Length)
                throw new ArgumentException("Edits come in order and do not overlap.", nameof(edits));
            after.Append(before, at, start - at);
            if (end > start || words.Length > 0)
                changes.Add(new TextChange(start, end, after.Length, after.Length + words.Length));
            after.Append(words);
            at = end;
        }
        after.Append(before, at, before.Length - at);
        return new Reanchor(before, Checked(after.ToString()), changes);
    }

    /// <summary>The text after the correction.</summary>
    public string After => after;

    /// <summary>How many places were changed.</summary>
    public int Changes => changes.Count;

    /// <summary>Where a stretch of the text before stands now.</summary>
    public Anchored Of(TextRange range)
    {
        if (Shifted(range) is { } same)
            return new Anchored(same, AnchorFate.Same);
        var (start, end) = Outer(range);
        var words = range.Of(before);
        var now = TextRange.Tidy(after, start, end);
        if (now is { } unchanged && unchanged.Of(after) == words)
            return new Anchored(unchanged, AnchorFate.Same);
        if (now is not { } candidate || !HasWords(candidate) || SharedWords(words, candidate.Of(after)) < 0.5)
        {
            if (Elsewhere(range, start) is { } moved)
                return new Anchored(moved, AnchorFate.Same);
        }
        return now is { } changed && HasWords(changed)
            ? new Anchored(changed, AnchorFate.Changed)
            : new Anchored(Nearest(start), AnchorFate.Gone);
    }

    /// <summary>
    /// Where a block (a turn, a paragraph) stands now, with whatever was written inside it; null when nothing of it is left.
    /// </summary>
    public TextRange? Block(TextRange range)
    {
        var (start, end) = Shifted(range) is { } same ? (same.Start, same.End) : Outer(range);
        return TextRange.Tidy(after, start, end);
    }

    /// <summary>Where a position of the text before is now: after what was put in before it, at the end of what replaced it.</summary>
    public int Position(int position)
    {
        var last = Last(position);
        return last is not { } change ? position
            : position >= change.End ? position + change.NewEnd - change.End
            : change.NewEnd;
    }

    /// <summary>Whether a stretch of the new text was wholly written in the correction.</summary>
    public bool IsNew(TextRange range) => changes.Any(c => c.NewStart <= range.Start && c.NewEnd >= range.End);

    /// <summary>The stretch when no change reaches into it; null otherwise.</summary>
    private TextRange? Shifted(TextRange range)
    {
        var first = FirstEndingAfter(range.Start);
        if (first == changes.Count || !ReachesInto(changes[first], range))
            return By(first == 0 ? 0 : changes[first - 1].NewEnd - changes[first - 1].End);
        var touching = first;
        while (touching < changes.Count && ReachesInto(changes[touching], range))
            touching++;
        if (touching - first > 1)
            return null;
        // One change reaches into it: what was put in or taken out may have stood just beside it.
        var change = changes[first];
        if (change.Start < change.End && change.NewStart < change.NewEnd)
            return null;
        return Slid(first, range) is not { } at
            ? null
            : By(at <= range.Start ? change.NewEnd - change.End : change.NewStart - change.Start);

        TextRange By(int shift) => new(range.Start + shift, range.End + shift);
    }

    /// <summary>
    /// Where an insertion or deletion can stand instead, by the letters at its two ends, so that the range is left whole: the position it
    /// then has in the text before, or null.
    /// </summary>
    private int? Slid(int index, TextRange range)
    {
        var change = changes[index];
        var length = change.End - change.Start;
        var (text, start, end) = length > 0 ? (before, change.Start, change.End) : (after, change.NewStart, change.NewEnd);
        var leftRoom = change.Start - (index == 0 ? 0 : changes[index - 1].End);
        var rightRoom = (index + 1 == changes.Count ? before.Length : changes[index + 1].Start) - change.End;
        for (var by = 1; by <= leftRoom && text[start - by] == text[end - by]; by++)
        {
            if (change.End - by <= range.Start)
                return change.Start - by;
        }
        for (var by = 1; by <= rightRoom && text[start + by - 1] == text[end + by - 1]; by++)
        {
            if (change.Start + by >= range.End)
                return change.Start + by;
        }
        return null;
    }

    private static bool ReachesInto(TextChange change, TextRange range) => change.Start < range.End && change.End > range.Start;

    /// <summary>The first change that ends after a position of the text before; an insertion at the position is before it.</summary>
    private int FirstEndingAfter(int position)
    {
        var (low, high) = (0, changes.Count);
        while (low < high)
        {
            var middle = (low + high) / 2;
            if (changes[middle].End <= position)
                low = middle + 1;
            else
                high = middle;
        }
        return low;
    }

    private TextChange? Last(int position)
    {
        var next = FirstEndingAfter(position);
        if (next < changes.Count && changes[next].Start < position)
            return changes[next];
        return next == 0 ? null : changes[next - 1];
    }

    /// <summary>From the beginning of whatever replaced its first words to the end of whatever replaced its last.</summary>
    private (int Start, int End) Outer(TextRange range)
    {
        var first = FirstEndingAfter(range.Start);
        var shift = first == 0 ? 0 : changes[first - 1].NewEnd - changes[first - 1].End;
        var start =
            first < changes.Count && changes[first].Start < range.Start
                ? WordAt(changes[first], range.Start, atEnd: false)
                : range.Start + shift;
        var last = FirstEndingAfter(range.End - 1);
        var inside = last < changes.Count && changes[last].Start < range.End;
        var end = inside
            ? changes[last].End > range.End
                ? WordAt(changes[last], range.End, atEnd: true)
                : range.End + changes[last].NewEnd - changes[last].End
            : range.End + (last == 0 ? 0 : changes[last - 1].NewEnd - changes[last - 1].End);
        return (start, Math.Max(start, end));
    }

    /// <summary>
    /// Where the edge of a stretch that lies inside a change is now: word for word where both sides have as many, else the edge of the
    /// whole change.
    /// </summary>
    private int WordAt(TextChange change, int position, bool atEnd)
    {
        var (old, now) = (WordsIn(before, change.Start, change.End), WordsIn(after, change.NewStart, change.NewEnd));
        if (old.Count == now.Count)
        {
            var word = atEnd ? old.FindLastIndex(w => w.Start < position) : old.FindIndex(w => w.End > position);
            if (word >= 0)
                return atEnd ? now[word].End : now[word].Start;
        }
        return atEnd ? change.NewEnd : change.NewStart;
    }

    /// <summary>
    /// The same words at another place that was written in the correction: where they were moved to. Words that stood there all along are
    /// somebody else's.
    /// </summary>
    private TextRange? Elsewhere(TextRange range, int near)
    {
        var words = range.Of(before);
        var (best, most) = (-1, -1);
        for (var at = after.IndexOf(words, StringComparison.Ordinal); at >= 0; at = after.IndexOf(words, at + 1, StringComparison.Ordinal))
        {
            if (!Written(at, at + words.Length))
                continue;
            var alike = Alike(range, at, words.Length);
            if (words.Length < Telling && alike < Context / 4)
                continue;
            if (alike > most || (alike == most && Math.Abs(at - near) < Math.Abs(best - near)))
                (best, most) = (at, alike);
        }
        return best < 0 ? null : new TextRange(best, best + words.Length);
    }

    /// <summary>Whether more than half of a stretch of the new text was written in the correction.</summary>
    private bool Written(int start, int end) =>
        2 * changes.Sum(c => Math.Max(0, Math.Min(end, c.NewEnd) - Math.Max(start, c.NewStart))) > end - start;

    /// <summary>How many units around a place are as they were around the stretch.</summary>
    private int Alike(TextRange range, int at, int length)
    {
        var (left, right) = (0, 0);
        while (left < Context && left < range.Start && left < at && before[range.Start - left - 1] == after[at - left - 1])
            left++;
        while (
            right < Context
            && range.End + right < before.Length
            && at + length + right < after.Length
            && before[range.End + right] == after[at + length + right]
        )
            right++;
        return left + right;
    }

    /// <summary>The word at or before a position, or the first one.</summary>
    private TextRange Nearest(int position)
    {
        var word = WordAround.EnumerateMatches(after, 0);
        var nearest = default(TextRange?);
        foreach (var match in word)
        {
            if (nearest is not null && match.Index > position)
                break;
            nearest = new TextRange(match.Index, match.Index + match.Length);
        }
        return nearest!.Value;
    }

    private bool HasWords(TextRange range) => range.Of(after).Any(char.IsLetterOrDigit);

    private static double SharedWords(string old, string now)
    {
        var words = Bag(old);
        var shared = Bag(now).Sum(w => Math.Min(w.Value, words.GetValueOrDefault(w.Key)));
        return words.Count == 0 ? 0 : (double)shared / words.Values.Sum();
    }

    private static Dictionary<string, int> Bag(string text) =>
        WordAround.Matches(text).CountBy(m => m.Value.ToLowerInvariant()).ToDictionary();

    private static List<(int Start, int End)> WordsIn(string text, int start, int end)
    {
        var words = new List<(int, int)>();
        for (var match = WordAround.Match(text, start, end - start); match.Success; match = match.NextMatch())
            words.Add((match.Index, match.Index + match.Length));
        return words;
    }

    private static string Checked(string after) =>
        after.Any(char.IsLetterOrDigit) ? after : throw new ArgumentException("A text needs words.", nameof(after));

    private static readonly Regex WordAround = new(@"[\p{L}\p{M}\p{N}]+", RegexOptions.Compiled | RegexOptions.CultureInvariant);
}
