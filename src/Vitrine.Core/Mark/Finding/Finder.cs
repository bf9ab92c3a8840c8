using Vitrine.Core.Text;

namespace Vitrine.Core.Mark.Finding;

/// <summary>A passage that holds what was looked for.</summary>
/// <param name="Turn">Which turn of the text it stands in.</param>
/// <param name="Passage">Its stretch of the text.</param>
/// <param name="Hits">Where in the text what was looked for stands, in order.</param>
public sealed record FoundPassage(int Turn, TextRange Passage, IReadOnlyList<TextRange> Hits);

/// <summary>
/// Finds passages. Each text is walked through once, word by word by number, for all that is looked for: there is no index to keep in
/// step, and a phrase, nearness and what must not be there cost no more than a word.
/// </summary>
public sealed class Finder
{
    private readonly FindQuery query;
    private readonly IReadOnlyList<WantedWord> words;
    private readonly ulong[] wanted;
    private readonly Dictionary<WantedWord, int> bit = [];

    // Whether single words are looked for alone, so that it is enough to know which of them stand there; and those that must not.
    private readonly bool singly;
    private readonly ulong unwanted;

    // Of each clause that must be met, the words of each of its terms.
    private readonly ulong[][] neededOfClause;

    /// <param name="query">What is looked for.</param>
    /// <param name="vocabulary">That of all texts; words that come into it later are not known.</param>
    public Finder(FindQuery query, Vocabulary vocabulary)
    {
        this.query = query;
        words = [.. query.Words.Distinct()];
        wanted = new ulong[vocabulary.Forms];
        for (var w = 0; w < words.Count; w++)
        {
            bit[words[w]] = w;
            var stem = words[w].Exact ? null : vocabulary.StemNumber(EnglishStem.Of(words[w].Form));
            for (var f = 0; f < wanted.Length; f++)
            {
                if (
                    (stem is { } s && vocabulary.StemOf(f) == s)
                    || vocabulary.Form(f) == words[w].Form
                    || (words[w].Unfinished && vocabulary.Form(f).StartsWith(words[w].Form, StringComparison.Ordinal))
                )
                    wanted[f] |= 1UL << w;
            }
        }
        singly = query.Clauses.All(c => c.AnyOf.All(t => t.Parts is [{ Count: 1 }]));
        unwanted = query.Clauses.Where(c => c.Not).SelectMany(c => c.AnyOf).Aggregate(0UL, (all, t) => all | Bit(t.Parts[0][0]));
        neededOfClause =
        [
            .. query
                .Clauses.Where(c => !c.Not)
                .Select(c => c.AnyOf.Select(t => t.Parts.SelectMany(p => p).Aggregate(0UL, (all, word) => all | Bit(word))).ToArray()),
        ];
    }

    /// <summary>
    /// The passages of many texts, text by text, in order; several texts are looked through at once. It ends with the text in which more
    /// than <paramref name="most"/> are reached, those after it are not looked through.
    /// </summary>
    public IReadOnlyList<IReadOnlyList<FoundPassage>> InAll(
        IReadOnlyList<IndexedText> texts,
        PassageUnit unit,
        Func<TurnOf, bool> counts,
        int most
    )
    {
        const int AtOnce = 32;
        var found = new List<IReadOnlyList<FoundPassage>>();
        var passages = 0;
        for (var from = 0; from < texts.Count && passages <= most; from += AtOnce)
        {
            var some = new IReadOnlyList<FoundPassage>[Math.Min(AtOnce, texts.Count - from)];
            Parallel.For(0, some.Length, i => some[i] = [.. In(texts[from + i], unit, counts)]);
            foreach (var one in some.TakeWhile(_ => passages <= most))
            {
                found.Add(one);
                passages += one.Count;
            }
        }
        return found;
    }

    /// <summary>The passages of a text that hold what is looked for, in order.</summary>
    /// <param name="text">The text.</param>
    /// <param name="unit">What a passage is.</param>
    /// <param name="counts">Whether a turn is looked through.</param>
    public IEnumerable<FoundPassage> In(IndexedText text, PassageUnit unit, Func<TurnOf, bool> counts)
    {
        var (places, seen) = Places(text);
        if (places.Count == 0 || Array.Exists(neededOfClause, needed => !Array.Exists(needed, all => (seen & all) == all)))
            yield break;
        var from = 0;
        while (from < places.Count)
        {
            // Turn by turn.
            var turn = text.TurnAt(places[from]);
            var (_, end) = text.WordsOf(turn);
            var to = from;
            while (to < places.Count && places[to] < end)
                to++;
            if (counts(text.Turns[turn]) && May(text, places, from, to))
            {
                foreach (var found in InTurn(text, turn, unit, places, from, to))
                    yield return found;
            }
            from = to;
        }
    }

    /// <summary>Which stretches of a text hold what is looked for.</summary>
    /// <param name="text">The text.</param>
    /// <param name="stretches">The stretches; they may overlap.</param>
    public IReadOnlyList<bool> Holding(IndexedText text, IReadOnlyList<TextRange> stretches)
    {
        var holds = new bool[stretches.Count];
        var (places, seen) = Places(text);
        if (places.Count == 0 || Array.Exists(neededOfClause, needed => !Array.Exists(needed, all => (seen & all) == all)))
            return holds;
        for (var s = 0; s < holds.Length; s++)
        {
            var (from, to) = (From(stretches[s].Start), From(stretches[s].End));
            holds[s] =
                from < to
                && May(text, places, from, to)
                && (singly ? !Stands(unwanted, text, places, from, to) : Holds(Hits(text, places, from, to)));
        }
        return holds;

        // The first of them that begins at a position, or after it: they are far fewer than all words.
        int From(int position)
        {
            var (low, high) = (0, places.Count);
            while (low < high)
            {
                var middle = (low + high) / 2;
                if (text.Range(places[middle]).Start < position)
                    low = middle + 1;
                else
                    high = middle;
            }
            return low;
        }
    }

    /// <summary>Whether every clause may be met by words that stand between two places.</summary>
    private bool May(IndexedText text, List<int> places, int from, int to)
    {
        ulong seen = 0;
        for (var p = from; p < to; p++)
            seen |= wanted[text.Forms[places[p]]];
        return Array.TrueForAll(neededOfClause, needed => Array.Exists(needed, all => (seen & all) == all));
    }

    private bool Stands(ulong any, IndexedText text, List<int> places, int from, int to)
    {
        for (var p = from; any != 0 && p < to; p++)
        {
            if ((wanted[text.Forms[places[p]]] & any) != 0)
                return true;
        }
        return false;
    }

    private (List<int> Places, ulong Seen) Places(IndexedText text)
    {
        var places = new List<int>();
        ulong seen = 0;
        var forms = text.Forms;
        var masks = wanted;
        for (var i = 0; i < forms.Length; i++)
        {
            // Words that came into the vocabulary later are not looked for.
            if ((uint)forms[i] < (uint)masks.Length && masks[forms[i]] is var mask and not 0)
            {
                places.Add(i);
                seen |= mask;
            }
        }
        return (places, seen);
    }

    private ulong Bit(WantedWord word) => 1UL << bit[word];

    private IEnumerable<FoundPassage> InTurn(IndexedText text, int turn, PassageUnit unit, List<int> places, int from, int to)
    {
        // Both are in order, and passages share nothing. All of what is looked for must stand in the passage itself.
        var next = from;
        foreach (var passage in Passages.Of(text, turn, unit))
        {
            while (next < to && text.Range(places[next]).Start < passage.Start)
                next++;
            if (next == to)
                yield break;
            var first = next;
            while (next < to && text.Range(places[next]).Start < passage.End)
                next++;
            if (next > first && May(text, places, first, next) && Hits(text, places, first, next) is var inside && Holds(inside))
                yield return new FoundPassage(turn, passage, InOrder(inside));
        }
    }

    private List<(int Clause, TextRange Range)> Hits(IndexedText text, List<int> places, int from, int to)
    {
        var hits = new List<(int Clause, TextRange Range)>();
        for (var c = 0; c < query.Clauses.Count; c++)
        {
            foreach (var term in query.Clauses[c].AnyOf)
            {
                foreach (var range in Of(text, term, places, from, to))
                    hits.Add((c, range));
            }
        }
        return hits;
    }

    private bool Holds(List<(int Clause, TextRange Range)> hits)
    {
        for (var c = 0; c < query.Clauses.Count; c++)
        {
            if (hits.Exists(h => h.Clause == c) == query.Clauses[c].Not)
                return false;
        }
        return hits.Count > 0;
    }

    private static IReadOnlyList<TextRange> InOrder(List<(int Clause, TextRange Range)> hits) =>
        hits.Count == 1 ? [hits[0].Range] : [.. hits.Select(h => h.Range).Distinct().OrderBy(r => r.Start).ThenBy(r => r.End)];

    private IEnumerable<TextRange> Of(IndexedText text, Term term, List<int> places, int from, int to)
    {
        var rows = term.Parts.Select(part => Rows(text, part, places, from, to).ToList()).ToList();
        if (rows.Count == 1)
            return rows[0].Select(r => text.Range(r.First).Cover(text.Range(r.Last)));
        // Each part stands near one of the part before it: what cannot be reached from the first part is left out, then what does not
        // reach the last, so that what is left stands in some whole chain.
        for (var part = 1; part < rows.Count; part++)
            rows[part] = [.. rows[part].Where(r => rows[part - 1].Exists(before => Near(before, r, term.Within[part - 1])))];
        for (var part = rows.Count - 2; part >= 0; part--)
            rows[part] = [.. rows[part].Where(r => rows[part + 1].Exists(after => Near(r, after, term.Within[part])))];
        return rows.SelectMany(r => r).Distinct().Select(r => text.Range(r.First).Cover(text.Range(r.Last)));
    }

    private static bool Near((int First, int Last) one, (int First, int Last) other, int within) =>
        Between(one, other) is >= 0 and var between && between <= within;

    /// <summary>How many words stand between two rows of words; negative where they share one.</summary>
    private static int Between((int First, int Last) one, (int First, int Last) other) =>
        one.Last < other.First ? other.First - one.Last - 1
        : other.Last < one.First ? one.First - other.Last - 1
        : -1;

    private IEnumerable<(int First, int Last)> Rows(IndexedText text, IReadOnlyList<WantedWord> row, List<int> places, int from, int to)
    {
        for (var p = from; p < to; p++)
        {
            var n = 0;
            while (n < row.Count && p + n < to && places[p + n] == places[p] + n && (wanted[text.Forms[places[p + n]]] & Bit(row[n])) != 0)
                n++;
            if (n == row.Count)
                yield return (places[p], places[p] + n - 1);
        }
    }
}
