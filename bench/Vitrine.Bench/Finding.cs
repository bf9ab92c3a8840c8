using Vitrine.Core.Mark.Finding;
using Vitrine.Core.Text;

namespace Vitrine.Bench;

/// <summary>
/// Finding while typing over many words against a bare walk over their numbers; finding more; and how much of the demo's tags is found by
/// answering, beside the first order alone and chance.
/// </summary>
internal static class Finding
{
    private static readonly int Texts = Size.Of(1_000, tiny: 4);
    private static readonly int Observations = Size.Of(300_000, tiny: 100);
    private const int WordsOfText = 8_000;
    private const int WordsOfTurn = 80;
    private static readonly int[] Looked = [10, 20, 40, 60];

    public static void Run(string folder)
    {
        _ = folder;
        WhileTyping();
        More();
        Recall(Path.Combine("demo", "boarding"));
    }

    private static (List<IndexedText> Texts, Vocabulary Vocabulary) Made(int texts)
    {
        var random = new Random(7);
        var vocabulary = new Vocabulary();
        var made = new List<IndexedText>();
        for (var t = 0; t < texts; t++)
        {
            var turns = new List<TurnOf>();
            var text = new System.Text.StringBuilder();
            for (var w = 0; w < WordsOfText; w += WordsOfTurn)
            {
                var start = text.Length;
                for (var i = 0; i < WordsOfTurn; i++)
                    text.Append(i % 12 == 0 ? "Word" : " word").Append(Rank(random)).Append(i % 12 == 11 ? ". " : "");
                turns.Add(new TurnOf(new TextRange(start, text.Length), w / WordsOfTurn % 2 == 0, null));
                text.Append('\n');
            }
            made.Add(IndexedText.Of(text.ToString(), turns, vocabulary));
        }
        return (made, vocabulary);
    }

    // Few words are common and most are rare, as in speech (Zipf).
    private static int Rank(Random random) => (int)(Math.Exp(random.NextDouble() * Math.Log(40_000)) - 1);

    private static void WhileTyping()
    {
        var (texts, vocabulary) = Made(Texts);
        var words = texts.Sum(t => t.Forms.Length);
        string[] typed =
        [
            "word812 ",
            "word4711",
            "word39",
            "\"word20 word3\"",
            "word500 word30 ",
            "word900 | word1200 | word77 ",
            "word640 -word2 ",
            "word300 ~5 word12 ",
            "word12345 ",
            "word2500 word1 ",
        ];
        var (first, found, marked, bare) = (new List<double>(), new List<double>(), new List<double>(), new List<double>());
        var random = new Random(11);
        var observations = Enumerable
            .Range(0, Observations)
            .Select(o => (Text: texts[o % texts.Count], Word: random.Next(WordsOfText - 40)))
            .GroupBy(o => o.Text, o => o.Text.Range(o.Word).Cover(o.Text.Range(o.Word + 20)))
            .ToDictionary(g => g.Key, g => g.ToList());
        foreach (var query in typed)
        {
            var read = FindQuery.Read(query)!;
            void Find() => _ = new Finder(read, vocabulary).InAll(texts, PassageUnit.Sentence, s => !s.IsTeam, 10_000).Sum(t => t.Count);
            first.Add(Timing.Once(Find));
            found.Add(Timing.Median(3, Find));
            marked.Add(
                Timing.Median(
                    3,
                    () =>
                    {
                        var finder = new Finder(read, vocabulary);
                        Parallel.ForEach(observations, here => finder.Holding(here.Key, here.Value));
                    }
                )
            );
            var wanted = new ulong[vocabulary.Forms];
            wanted[0] = 1;
            bare.Add(Timing.Median(3, () => texts.Sum(t => t.Forms.Count(f => wanted[f] != 0))));
        }
        Console.WriteLine(
            $"Finding while typing: {words:N0} words in {texts.Count} texts, {vocabulary.Forms:N0} different; {typed.Length} queries"
        );
        Console.WriteLine("| | median | 95th percentile | times |");
        Console.WriteLine($"| a walk over the numbers of all words | {Timing.At(0.5, bare):F0} ms | {Timing.At(0.95, bare):F0} ms | |");
        Console.WriteLine($"| passages, sentences not known yet | {Timing.At(0.5, first):F0} ms | {Timing.At(0.95, first):F0} ms | |");
        Console.WriteLine(
            $"| {Observations:N0} observations | {Timing.At(0.5, marked):F0} ms | {Timing.At(0.95, marked):F0} ms "
                + $"| {Timing.At(0.95, marked) / Timing.At(0.95, bare):F1} |"
        );
        Console.WriteLine(
            $"| passages, with sentences | {Timing.At(0.5, found):F0} ms | {Timing.At(0.95, found):F0} ms "
                + $"| {Timing.At(0.95, found) / Timing.At(0.95, bare):F1} |\n"
        );
    }

    private static void More()
    {
        var (texts, vocabulary) = Made(Size.Of(125, tiny: 2));
        PassageSet set = null!;
        var taking = Timing.Once(() => set = new PassageSet(texts, vocabulary, PassageUnit.Sentence, t => !t.IsTeam));
        var more = new FindMore(set);
        var given = Enumerable.Range(0, 8).Select(i => (IReadOnlyDictionary<int, int>)Bag(set, texts, i * 7)).ToList();
        var answered = Enumerable.Range(0, 20).Select(i => (IReadOnlyDictionary<int, int>)Bag(set, texts, 100 + (i * 3))).ToList();
        var first = Timing.Median(5, () => more.Ranked(more.Query(given, [], []), _ => true, _ => false, 20));
        var after = Timing.Median(5, () => more.Ranked(more.Query(given, answered, answered[..8]), _ => true, _ => false, 20));
        Console.WriteLine($"Finding more: {texts.Sum(t => t.Forms.Length):N0} words, {set.Count:N0} sentences");
        Console.WriteLine($"| taking all sentences in, once | {taking:F0} ms |");
        Console.WriteLine($"| the first order | {first:F0} ms |");
        Console.WriteLine($"| after an answer | {after:F0} ms |\n");
    }

    private static SortedDictionary<int, int> Bag(PassageSet set, List<IndexedText> texts, int passage)
    {
        var (text, _, range) = set.At(passage % set.Count);
        return set.BagOf(texts[text], range);
    }

    /// <summary>Of the demo's tags: two observations are given, the others are to be found.</summary>
    private const int Begins = 5;

    private static void Recall(string demo)
    {
        var (vocabulary, texts, marks) = DemoMarks.In(demo);
        var set = new PassageSet(texts, vocabulary, PassageUnit.Sentence, t => !t.IsTeam);
        var learning = new double[Looked.Length];
        var firstAlone = new double[Looked.Length];
        var bare = new double[Looked.Length];
        var chance = new double[Looked.Length];
        var measured = 0;
        var often = marks.GroupBy(m => m.Tag).Where(t => t.Count() >= 6).Select(t => t.ToList()).ToList();
        // From several pairs of observations of each tag: one pair alone says little.
        foreach (var (tag, from) in often.SelectMany(t => Enumerable.Range(0, Begins).Select(from => (t, from * (t.Count - 1) / Begins))))
        {
            var (seeds, rest) = (tag.GetRange(from, 2), tag.Where((_, i) => i < from || i > from + 1).ToList());
            bool Holds(int p, IReadOnlyList<DemoMark> of) => of.Any(m => m.Text == set.At(p).Text && m.Words.Touches(set.At(p).Range));
            var open = Enumerable.Range(0, set.Count).Where(p => !Holds(p, seeds)).ToHashSet();
            var wanted = open.Where(p => Holds(p, rest)).ToHashSet();
            if (wanted.Count == 0)
                continue;
            measured++;
            var given = seeds.Select(s => (IReadOnlyDictionary<int, int>)set.BagOf(texts[s.Text], s.Words)).ToList();
            var more = new FindMore(set);
            var first = more.Ranked(more.Query(given, [], []), open.Contains, _ => false, set.Count).Select(r => r.Passage).ToList();
            var scores = set.Scores(more.Query(given, [], []));
            var words = open.Where(p => scores[p] > 0).OrderByDescending(p => scores[p]).ThenBy(p => p).ToList();
            var (yes, no) = (new List<IReadOnlyDictionary<int, int>>(), new List<IReadOnlyDictionary<int, int>>());
            var left = open.ToHashSet();
            var taken = new List<bool>();
            while (taken.Count < Looked[^1] && left.Count > 0)
            {
                var next = more.Ranked(more.Query(given, yes, no), left.Contains, _ => false, 1);
                var passage = next.Count > 0 ? next[0].Passage : left.Min();
                left.Remove(passage);
                taken.Add(wanted.Contains(passage));
                (taken[^1] ? yes : no).Add(set.BagOf(texts[set.At(passage).Text], set.At(passage).Range));
            }
            for (var l = 0; l < Looked.Length; l++)
            {
                learning[l] += (double)taken.Take(Looked[l]).Count(t => t) / wanted.Count;
                firstAlone[l] += (double)first.Take(Looked[l]).Count(wanted.Contains) / wanted.Count;
                bare[l] += (double)words.Take(Looked[l]).Count(wanted.Contains) / wanted.Count;
                chance[l] += Math.Min(1, (double)Looked[l] / open.Count);
            }
        }
        Console.WriteLine(
            $"Finding more on {often.Count} tags of the demo, begun {Begins} times with two observations; share of the others found, "
                + $"{set.Count} sentences"
        );
        Console.WriteLine($"| passages looked at | {string.Join(" | ", Looked)} |");
        foreach (
            var (name, values) in new[]
            {
                ("learning from each answer", learning),
                ("the first order alone", firstAlone),
                ("BM25 of the words alone", bare),
                ("chance", chance),
            }
        )
            Console.WriteLine($"| {name} | {string.Join(" | ", values.Select(v => $"{v / Math.Max(1, measured):P0}"))} |");
    }
}
