using Vitrine.Core.Text;

namespace Vitrine.Core.Mark.Recordings;

/// <summary>A word with the time in which it is spoken, in milliseconds from the beginning of the transcript's own clock.</summary>
public readonly record struct SpokenWord(TextRange Words, TimeRange Time);

/// <summary>
/// A transcript in step with its recording: when each word is spoken. Words whose time is known (a caption, or a single word) have it.
/// Within a caption, or a turn without any, the time is spread over the syllables of the words; a turn without an end lasts to the next
/// beginning, at most <see cref="SlowestMsASyllable"/> for each syllable. So the times of words are estimates within a caption or turn,
/// and its edges are exact.
/// </summary>
public sealed class InStep
{
    /// <summary>
    /// How long a syllable lasts at most when nothing else tells where a turn ends, in milliseconds: conversation has 4 to 5 syllables a
    /// second (from memory), slow speech half of it.
    /// </summary>
    public const int SlowestMsASyllable = 400;

    private readonly SpokenWord[] words;

    private readonly List<SpokenTurn> known;

    private readonly IReadOnlyList<TimedWords> finer;

    private InStep(SpokenWord[] words, List<SpokenTurn> known, IReadOnlyList<TimedWords> finer, bool isWhole) =>
        (this.words, this.known, this.finer, IsWhole) = (words, known, finer, isWhole);

    /// <summary>Whether the time of every word is known or estimated.</summary>
    public bool IsWhole { get; }

    /// <summary>All words whose time is known or estimated, in the order of the text.</summary>
    public IReadOnlyList<SpokenWord> SpokenWords => words;

    /// <param name="text">The text of the transcript.</param>
    /// <param name="turns">Its turns, in order.</param>
    /// <param name="times">What is known finer than turns, in order.</param>
    /// <param name="lengthMs">How long the recording is by the transcript's clock; null when that is not known.</param>
    public static InStep Of(string text, IReadOnlyList<SpokenTurn> turns, IReadOnlyList<TimedWords>? times = null, int? lengthMs = null)
    {
        turns = Finer(turns, times ?? []);
        var found = new List<SpokenWord>();
        var known = new List<SpokenTurn>();
        var all = 0;
        for (var i = 0; i < turns.Count; i++)
        {
            var inside = Text.Words.In(text, turns[i].Words.Start, turns[i].Words.End).ToList();
            all += inside.Count;
            if (turns[i].BeginMs is not { } begin || inside.Count == 0)
                continue;
            var weights = inside.ConvertAll(w => Syllables.In(w.Of(text)));
            var syllablesInAll = weights.Sum();
            var next = turns.Skip(i + 1).FirstOrDefault(t => t.BeginMs > begin).BeginMs ?? lengthMs;
            var end = turns[i].EndMs ?? (int)Math.Min(next ?? int.MaxValue, begin + ((long)syllablesInAll * SlowestMsASyllable));
            if (end <= begin)
                continue;
            // Without an end of its own it may last until another begins; the guess above is none that one could rely on.
            known.Add(turns[i] with { EndMs = turns[i].EndMs ?? next ?? int.MaxValue });
            var before = 0;
            for (var w = 0; w < inside.Count; w++)
            {
                // Where there are more words than milliseconds, each has one.
                found.Add(new SpokenWord(inside[w], new TimeRange(At(before), Math.Max(At(before) + 1, At(before + weights[w])))));
                before += weights[w];
            }

            int At(int syllables) => begin + (int)((long)(end - begin) * syllables / syllablesInAll);
        }
        return new InStep([.. found], known, times ?? [], found.Count == all);
    }

    /// <summary>In the place of a turn what is known finer of it, where something is.</summary>
    private static List<SpokenTurn> Finer(IReadOnlyList<SpokenTurn> turns, IReadOnlyList<TimedWords> times)
    {
        var finer = new List<SpokenTurn>();
        var next = 0;
        foreach (var turn in turns)
        {
            while (next < times.Count && times[next].Words.Start < turn.Words.Start)
                next++;
            var before = finer.Count;
            for (; next < times.Count && times[next].Words.End <= turn.Words.End; next++)
                finer.Add(new SpokenTurn(times[next].Words, times[next].BeginMs, times[next].EndMs));
            if (finer.Count == before)
                finer.Add(turn);
            else
                finer.AddRange(Between(turn.Words, finer.Skip(before).Select(t => t.Words).ToList()));
        }
        return finer;
    }

    /// <summary>What of a turn stands outside of what is known of it has no time.</summary>
    private static IEnumerable<SpokenTurn> Between(TextRange turn, List<TextRange> inside)
    {
        var at = turn.Start;
        foreach (var range in inside)
        {
            if (range.Start > at)
                yield return new SpokenTurn(new TextRange(at, range.Start), null, null);
            at = Math.Max(at, range.End);
        }
        if (turn.End > at)
            yield return new SpokenTurn(new TextRange(at, turn.End), null, null);
    }

    /// <summary>When words are spoken: from the beginning of the first to the end of the last; null where no time is known.</summary>
    public TimeRange? TimeOf(TextRange range)
    {
        var touched = words.Where(w => w.Words.Start < range.End && range.Start < w.Words.End).ToList();
        return touched.Count == 0 ? null : new TimeRange(touched.Min(w => w.Time.BeginMs), touched.Max(w => w.Time.EndMs));
    }

    /// <summary>Whether the time of words is known to its edges, and not estimated within a caption or turn.</summary>
    public bool IsExact(TextRange range) => TimeOf(range) is { } time && time == CertainTimeOf(range);

    /// <summary>
    /// The least time with known edges in which words are spoken for certain: that of their captions, or turns, of which one without an end
    /// lasts until the next begins (<see cref="int.MaxValue"/> where none does); null where none is known.
    /// </summary>
    public TimeRange? CertainTimeOf(TextRange range)
    {
        var touched = known.Where(t => t.Words.Start < range.End && range.Start < t.Words.End).ToList();
        return touched.Count == 0 ? null : new TimeRange(touched.Min(t => t.BeginMs!.Value), touched.Max(t => t.EndMs!.Value));
    }

    /// <summary>The times of captions and words inside a stretch of text that have both edges.</summary>
    public IEnumerable<TimeRange> TimedIn(TextRange range) =>
        finer.Where(t => t.Words.Touches(range)).Select(t => t.Time).OfType<TimeRange>();

    /// <summary>
    /// The words of which the middle is spoken in a stretch of time, with the signs that stand at them; null where there are none.
    /// </summary>
    public TextRange? SaidIn(string text, TimeRange time)
    {
        if (WordsIn(time) is not { } words)
            return null;
        var (start, end) = (words.Start, words.End);
        while (start > 0 && !char.IsWhiteSpace(text[start - 1]))
            start--;
        while (end < text.Length && !char.IsWhiteSpace(text[end]))
            end++;
        return new TextRange(start, end);
    }

    /// <summary>The words of which the middle is spoken in a stretch of time; null where there are none.</summary>
    public TextRange? WordsIn(TimeRange time)
    {
        var heard = words
            .Where(w => (w.Time.BeginMs + w.Time.EndMs) / 2 is var middle && time.BeginMs <= middle && middle < time.EndMs)
            .ToList();
        return heard.Count == 0 ? null : new TextRange(heard.Min(w => w.Words.Start), heard.Max(w => w.Words.End));
    }
}
