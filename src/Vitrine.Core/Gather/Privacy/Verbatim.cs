using System.Text.RegularExpressions;
using Vitrine.Core.Text;

namespace Vitrine.Core.Gather.Privacy;

/// <summary>
/// Finds what somebody said, word for word, in what others wrote: any <see cref="Telling"/> words in a row of theirs, and a shorter quote
/// of theirs as a whole.
/// Case, signs and white space between the words do not matter. Fewer words are everybody's.
/// </summary>
public sealed partial class Verbatim
{
    /// <summary>Words in a row that are taken to be somebody's own (common practice in looking for copied text, no source).</summary>
    public const int Telling = 6;

    private const int FewestWords = 3;
    private const int FewestLetters = 16;

    private readonly HashSet<string> phrases = [];
    private readonly int[] lengths;

    /// <param name="said">All that they said, turn by turn.</param>
    /// <param name="quotes">What of it is quoted; a quote of three to five words is found as a whole when it has 16 characters or
    /// more.</param>
    public Verbatim(IEnumerable<string> said, IEnumerable<string> quotes)
    {
        var sizes = new HashSet<int>();
        foreach (var turn in said)
            Add(Words(turn), Telling);
        foreach (
            var words in quotes.Where(q => q.Length >= FewestLetters).Select(Words).Where(w => w.Count is >= FewestWords and < Telling)
        )
            Add(words, words.Count);
        lengths = [.. sizes.OrderDescending()];

        void Add(List<(string Word, int Start, int End)> words, int length)
        {
            for (var i = 0; i + length <= words.Count; i++)
            {
                sizes.Add(length);
                phrases.Add(Phrase(words, i, length));
            }
        }
    }

    /// <summary>All runs of <see cref="Telling"/> words that they said, in small letters with a space between.</summary>
    public IEnumerable<string> Runs => phrases.Where(p => p.Count(c => c == ' ') == Telling - 1);

    /// <summary>The runs of <see cref="Telling"/> words of any text, as <see cref="Runs"/> gives them.</summary>
    public static IEnumerable<string> RunsOf(string text)
    {
        var words = Words(text);
        for (var i = 0; i + Telling <= words.Count; i++)
            yield return Phrase(words, i, Telling);
    }

    /// <summary>The text with each such run of words replaced.</summary>
    public string Without(string text, string replacement) =>
        Find(text).Reverse().Aggregate(text, (left, run) => left[..run.Start] + replacement + left[run.End..]);

    /// <summary>Where such runs of words stand, in text order.</summary>
    public IReadOnlyList<TextRange> Find(string text)
    {
        if (phrases.Count == 0)
            return [];
        var runs = new List<TextRange>();
        var words = Words(text);
        for (var i = words.Count - 1; i >= 0; i--)
        {
            var (first, last) = (i, i);
            // The run that ends here: from its last phrase back through all that touch it.
            for (var at = i; at >= first && at >= 0; at--)
            {
                foreach (var length in lengths.Where(l => at - l + 1 >= 0 && phrases.Contains(Phrase(words, at - l + 1, l))))
                    first = Math.Min(first, at - length + 1);
                if (first == i)
                    break;
            }
            if (first == last)
                continue;
            runs.Insert(0, new TextRange(words[first].Start, words[last].End));
            i = first;
        }
        return runs;
    }

    private static string Phrase(List<(string Word, int Start, int End)> words, int from, int length) =>
        string.Join(' ', words.Skip(from).Take(length).Select(w => w.Word));

    private static List<(string Word, int Start, int End)> Words(string text) =>
        [.. Word().Matches(text).Select(m => (m.Value.ToLowerInvariant(), m.Index, m.Index + m.Length))];

    [GeneratedRegex(@"[\p{L}\p{M}\p{N}]+")]
    private static partial Regex Word();
}
