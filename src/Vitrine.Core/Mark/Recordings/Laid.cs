using Vitrine.Core.Text;

namespace Vitrine.Core.Mark.Recordings;

/// <summary>
/// A transcript without times aligned to its recording. Between the turns whose beginning is known, the others begin where a pause ends: of
/// all ways to give the pauses to the ends of turns and sentences the one is taken in which the speech of each sentence lasts most nearly
/// as long as its syllables say, and fewest pauses stand inside a sentence (dynamic programming, Bellman 1957; the weights are common
/// practice, no source). Where no pause is near, a turn begins where its syllables put it. Inside a sentence, speech is spread over its
/// words by their syllables, and pauses are left out. What it gives are estimates; a turn that is pinned where it is heard is exact, and
/// makes its neighbours better.
/// </summary>
public static class Laid
{
    /// <summary>By how much the speed of one sentence differs from that of all, as a part of its length.</summary>
    private const double SpeedDiffers = 0.15;

    /// <summary>By how much a sentence of one second differs beside that, in milliseconds.</summary>
    private const double MsDiffer = 200;

    /// <summary>What it costs to begin a turn where there is no pause: as much as a length that is off by three times what is
    /// usual.</summary>
    private const double NoPauseAtTurn = 9;

    /// <summary>The same at the end of a sentence inside a turn.</summary>
    private const double NoPauseAtSentence = 2;

    /// <summary>What a pause inside a sentence costs.</summary>
    private const double PauseInside = 2;

    /// <summary>How close beginnings without a pause are tried, in milliseconds of speech.</summary>
    private const int Apart = 250;

    /// <summary>Where a sentence may begin: when the one before has ended by, how much was spoken and how many pauses were till
    /// then.</summary>
    private readonly record struct Place(int EndMs, int BeginMs, long Spoken, int Pauses, bool IsPause);

    /// <summary>A sentence of a turn.</summary>
    /// <param name="Turn">The place of the turn.</param>
    /// <param name="Words">Its words with their syllables, one or more.</param>
    /// <param name="EndsTurn">Whether it is the turn's last.</param>
    private sealed record Sentence(int Turn, List<(TextRange Words, int Syllables)> Words, bool EndsTurn)
    {
        public int Syllables { get; } = Words.Sum(w => w.Syllables);
    }

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
        var sentences = turns.SelectMany((t, i) => SentencesOf(text, t.Words, i)).ToList();
        var times = new List<TimedWords>();
        var from = 0;
        while (from < sentences.Count)
        {
            var to = from + 1;
            while (to < sentences.Count && !(sentences[to - 1].EndsTurn && turns[sentences[to].Turn].BeginMs is not null))
                to++;
            var begin = turns[sentences[from].Turn].BeginMs ?? (pauses is [{ BeginMs: <= 0 } first, ..] ? first.EndMs : 0);
            var end =
                to < sentences.Count ? turns[sentences[to].Turn].BeginMs!.Value
                : pauses is [.., var last] && last.EndMs >= lengthMs ? last.BeginMs
                : lengthMs;
            // A turn that is known to have ended leaves what comes after it to nobody.
            if (sentences[from].Turn == sentences[to - 1].Turn && turns[sentences[from].Turn].EndMs is { } ended)
                end = Math.Min(end, ended);
            begin = Math.Min(begin, end);
            var stretches = Stretches(sentences[from..to], pauses, begin, end);
            for (var i = from; i < to; i++)
            {
                var own = stretches[i - from];
                Spread(sentences[i].Words, Speech(pauses, own.BeginMs, own.EndMs), times);
                var turn = sentences[i].Turn;
                laid[turn] = laid[turn] with { BeginMs = laid[turn].BeginMs ?? own.BeginMs, EndMs = turns[turn].EndMs ?? own.EndMs };
            }
            from = to;
        }
        return (laid, times);
    }

    /// <summary>A turn in sentences, as far as signs that end them tell; none for a turn without words.</summary>
    private static List<Sentence> SentencesOf(string text, TextRange turn, int place)
    {
        var sentences = new List<Sentence>();
        var words = new List<(TextRange Words, int Syllables)>();
        foreach (var word in Text.Words.In(text, turn.Start, turn.End))
        {
            if (words.Count > 0 && text.AsSpan(words[^1].Words.End, word.Start - words[^1].Words.End).ContainsAny(Ends))
            {
                sentences.Add(new Sentence(place, words, false));
                words = [];
            }
            words.Add((word, Syllables.In(word.Of(text))));
        }
        if (words.Count > 0)
            sentences.Add(new Sentence(place, words, true));
        return sentences;
    }

    private static readonly System.Buffers.SearchValues<char> Ends = System.Buffers.SearchValues.Create(".?!…:;—–。？！");

    /// <summary>When each of several sentences in a row is spoken.</summary>
    private static TimeRange[] Stretches(List<Sentence> sentences, IReadOnlyList<TimeRange> pauses, int begin, int end)
    {
        var speech = Speech(pauses, begin, end);
        var heard = speech.Sum(s => (long)(s.EndMs - s.BeginMs));
        var chosen = sentences.Count > 1 ? Cheapest(sentences, Places(speech), heard) : [];
        var stretches = new TimeRange[sentences.Count];
        var at = begin;
        for (var i = 0; i < stretches.Length; i++)
        {
            var (ends, next) = i < chosen.Length ? (chosen[i].EndMs, chosen[i].BeginMs) : (speech[^1].EndMs, end);
            stretches[i] = new TimeRange(at, Math.Max(ends, at + 1));
            at = Math.Min(end, Math.Max(next, at + 1));
        }
        return stretches;
    }

    /// <summary>Where sentences may begin: after each pause, and in between, in the order of time.</summary>
    private static List<Place> Places(List<TimeRange> speech)
    {
        var places = new List<Place>();
        long spoken = 0;
        for (var i = 0; i < speech.Count; i++)
        {
            var (begin, end) = speech[i];
            if (i > 0)
                places.Add(new Place(speech[i - 1].EndMs, begin, spoken, i, true));
            for (var ms = Apart; ms < end - begin; ms += Apart)
                places.Add(new Place(begin + ms, begin + ms, spoken + ms, i, false));
            spoken += end - begin;
        }
        // Two turns in too little speech still follow each other.
        return places.Count > 0 ? places : [new Place(speech[0].BeginMs, speech[0].BeginMs, spoken / 2, 0, false)];
    }

    /// <summary>The beginnings of all sentences but the first that cost least.</summary>
    private static Place[] Cheapest(List<Sentence> sentences, List<Place> places, long heard)
    {
        var all = sentences.Sum(s => (long)s.Syllables);
        var expected = sentences.ConvertAll(s => heard * (double)s.Syllables / all);
        var beginning = new Place(0, 0, 0, 0, true);
        var reached = new List<(int From, double[] Cost, int[] Before)>();
        double until = 0;
        for (var b = 0; b + 1 < sentences.Count; b++)
        {
            until += expected[b];
            // As far off as the speeds of what comes before, and after, may put it.
            var slack = 10_000 + (0.15 * Math.Min(until, heard - until));
            var first = Math.Min(FirstFrom(places, until - slack), places.Count - 1);
            var last = Math.Max(first, FirstFrom(places, until + slack) - 1);
            var (cost, before) = (new double[last - first + 1], new int[last - first + 1]);
            for (var p = first; p <= last; p++)
            {
                var place = places[p];
                (cost[p - first], before[p - first]) = (b == 0 ? Off(beginning, place, expected[0]) : double.PositiveInfinity, -1);
                if (b > 0)
                {
                    var (from, costs, _) = reached[^1];
                    // What takes three times as long is some other sentence.
                    for (
                        var q = Math.Max(from, FirstFrom(places, place.Spoken - (3 * expected[b]) - 2000));
                        q < from + costs.Length && q <= p;
                        q++
                    )
                    {
                        var here = costs[q - from] + Off(places[q], place, expected[b]);
                        if (here < cost[p - first])
                            (cost[p - first], before[p - first]) = (here, q);
                    }
                }
                if (!place.IsPause)
                    cost[p - first] += sentences[b].EndsTurn ? NoPauseAtTurn : NoPauseAtSentence;
            }
            if (cost.All(double.IsPositiveInfinity))
                return InProportion(expected, places);
            reached.Add((first, cost, before));
        }
        var (start, ends, _) = reached[^1];
        var ending = new Place(0, 0, heard, places[^1].Pauses, false);
        var best = start;
        for (var p = start + 1; p < start + ends.Length; p++)
        {
            if (ends[p - start] + Off(places[p], ending, expected[^1]) < ends[best - start] + Off(places[best], ending, expected[^1]))
                best = p;
        }
        var chosen = new Place[reached.Count];
        for (var b = reached.Count - 1; b >= 0; b--)
        {
            chosen[b] = places[best];
            best = reached[b].Before[best - reached[b].From];
        }
        return chosen;
    }

    /// <summary>Where nothing fits: the places nearest to where syllables put the sentences.</summary>
    private static Place[] InProportion(List<double> expected, List<Place> places)
    {
        double until = 0;
        return
        [
            .. expected[..^1]
                .Select(e =>
                {
                    until += e;
                    return places[Math.Min(FirstFrom(places, until), places.Count - 1)];
                }),
        ];
    }

    /// <summary>What a sentence from one place to another costs: by its length, and the pauses inside it.</summary>
    private static double Off(Place from, Place to, double expected)
    {
        var off = to.Spoken - from.Spoken - expected;
        var usual = (SpeedDiffers * expected * (SpeedDiffers * expected)) + (MsDiffer * MsDiffer * Math.Max(1, expected / 1000));
        return (off * off / usual) + (PauseInside * Math.Max(0, to.Pauses - from.Pauses - (to.IsPause ? 1 : 0)));
    }

    private static int FirstFrom(List<Place> places, double spoken)
    {
        var (low, high) = (0, places.Count);
        while (low < high)
        {
            var middle = (low + high) / 2;
            if (places[middle].Spoken < spoken)
                low = middle + 1;
            else
                high = middle;
        }
        return low;
    }

    /// <summary>Spreads stretches of speech over words by their syllables.</summary>
    private static void Spread(List<(TextRange Words, int Syllables)> words, List<TimeRange> speech, List<TimedWords> times)
    {
        var all = words.Sum(w => (long)w.Syllables);
        var heard = speech.Sum(s => (long)(s.EndMs - s.BeginMs));
        long before = 0;
        foreach (var (word, syllables) in words)
        {
            var from = At(speech, heard * before / all, atBegin: true);
            before += syllables;
            times.Add(new TimedWords(word, from, Math.Max(from + 1, At(speech, heard * before / all, atBegin: false))));
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
