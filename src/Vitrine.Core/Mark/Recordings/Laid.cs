using Vitrine.Core.Text;

namespace Vitrine.Core.Mark.Recordings;

/// <summary>
/// A transcript without times laid along its recording: between the turns whose beginning is known, speech is spread over the others by
/// their syllables, and pauses are left out. What it gives are estimates; a turn that is pinned where it is heard is exact, and makes its
/// neighbours better.
/// </summary>
public static class Laid
{
    /// <param name="text">The text of the transcript.</param>
    /// <param name="turns">Its turns, in order; what begins where is known has a beginning, later than that of those before.</param>
    /// <param name="pauses">Where nobody speaks, by the transcript's clock, in order.</param>
    /// <param name="lengthMs">How long the recording is by that clock.</param>
    /// <returns>
    /// The same turns, each with a beginning and an end (those without words have none unless theirs is known), and their words with
    /// their times.
    /// </returns>
    public static (IReadOnlyList<SpokenTurn> Turns, IReadOnlyList<TimedWords> Words) Along(
        string text,
        IReadOnlyList<SpokenTurn> turns,
        IReadOnlyList<TimeRange> pauses,
        int lengthMs
    )
    {
        var laid = turns.ToArray();
        var words = turns
            .Select(t => Text.Words.In(text, t.Words.Start, t.Words.End).Select(w => (w, Syllables.In(w.Of(text)))).ToList())
            .ToArray();
        var times = new List<TimedWords>();
        var spoken = Enumerable.Range(0, turns.Count).Where(i => words[i].Count > 0).ToList();
        var from = 0;
        while (from < spoken.Count)
        {
            var to = from + 1;
            while (to < spoken.Count && turns[spoken[to]].BeginMs is null)
                to++;
            var begin = turns[spoken[from]].BeginMs ?? (pauses is [{ BeginMs: <= 0 } first, ..] ? first.EndMs : 0);
            var end =
                to < spoken.Count ? turns[spoken[to]].BeginMs!.Value
                : pauses is [.., var last] && last.EndMs >= lengthMs ? last.BeginMs
                : lengthMs;
            Spread(laid, spoken[from..to], words, times, Speech(pauses, Math.Min(begin, end), end));
            from = to;
        }
        return (laid, times);
    }

    /// <summary>Spreads stretches of speech over the words of turns by their syllables.</summary>
    private static void Spread(
        SpokenTurn[] laid,
        List<int> turns,
        List<(TextRange Words, int Syllables)>[] words,
        List<TimedWords> times,
        List<TimeRange> speech
    )
    {
        var all = turns.Sum(t => words[t].Sum(w => (long)w.Syllables));
        var heard = speech.Sum(s => (long)(s.EndMs - s.BeginMs));
        long before = 0;
        foreach (var t in turns)
        {
            var begin = At(speech, heard * before / all, atBegin: true);
            foreach (var (word, syllables) in words[t])
            {
                var from = At(speech, heard * before / all, atBegin: true);
                before += syllables;
                times.Add(new TimedWords(word, from, Math.Max(from + 1, At(speech, heard * before / all, atBegin: false))));
            }
            // What is known stays.
            laid[t] = laid[t] with
            {
                BeginMs = laid[t].BeginMs ?? begin,
                EndMs = laid[t].EndMs ?? Math.Max(At(speech, heard * before / all, atBegin: false), begin + 1),
            };
        }
    }

    /// <summary>The time at which so much was spoken; at the edge of a pause, its end for a beginning and its begin for an end.</summary>
    private static int At(List<TimeRange> speech, long spoken, bool atBegin)
    {
        foreach (var (begin, end) in speech)
        {
            if (spoken < end - begin || (!atBegin && spoken == end - begin))
                return begin + (int)spoken;
            spoken -= end - begin;
        }
        return speech[^1].EndMs;
    }

    /// <summary>What of a stretch is not paused; all of it where nothing else is left.</summary>
    private static List<TimeRange> Speech(IReadOnlyList<TimeRange> pauses, int begin, int end)
    {
        var speech = new List<TimeRange>();
        var at = begin;
        foreach (var pause in pauses.Where(p => p.EndMs > begin && p.BeginMs < end))
        {
            if (pause.BeginMs > at)
                speech.Add(new TimeRange(at, pause.BeginMs));
            at = Math.Max(at, pause.EndMs);
        }
        if (end > at)
            speech.Add(new TimeRange(at, end));
        return speech.Count > 0 ? speech : [new TimeRange(begin, Math.Max(end, begin + 1))];
    }
}
