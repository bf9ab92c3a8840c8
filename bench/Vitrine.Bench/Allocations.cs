using Vitrine.Core.Sort.Suggestions;
using Vitrine.Core.Sort.TagSet;

namespace Vitrine.Bench;

/// <summary>
/// How well observations are put into themes that have a name and a description: the families of the demo's tag set stand for themes, and
/// the tags themselves are not told. After 0, 10 and 20 are placed, beside the most frequent theme and chance; and how much of what belongs
/// nowhere is placed all the same: each theme in turn is not asked. The bounds were chosen on the first study; the others are the report.
/// </summary>
internal static class Allocations
{
    private static readonly int[] AfterPlaced = [0, 10, 20];
    private static readonly int Draws = Size.Of(20, tiny: 1);

    private sealed record Labelled(IReadOnlyList<LikenessItem> Items, int[] Theme, string[][] Names, Surroundings Surroundings);

    public static void Run()
    {
        Console.WriteLine("\nObservations into themes: nearest theme right, of all; and of those it was sure of (their share)");
        Console.WriteLine(
            "| study | observations, themes | chance | most frequent | after 0 | after 10 | after 20 "
                + "| of what belongs nowhere, placed after 20 |"
        );
        Console.WriteLine("|---|---|---|---|---|---|---|---|");
        foreach (var study in (string[])["boarding", "freight"])
            Score(study, OfDemo(study));
        foreach (var seed in (int[])[1, 2])
            Score($"made {seed}", Made(seed));
        Many();
    }

    private static void Score(string name, Labelled study)
    {
        var n = study.Items.Count;
        var cells = new List<string>();
        double nowhere = 0;
        foreach (var after in AfterPlaced)
        {
            double right = 0,
                rightOfPlaced = 0,
                placed = 0,
                most = 0;
            for (var draw = 0; draw < Draws; draw++)
            {
                var order = Enumerable.Range(0, n).ToArray();
                new Random(draw).Shuffle(order);
                var (held, left) = (order[..Math.Min(after, n - 1)], order[Math.Min(after, n - 1)..]);
                var found = Allocate(study, held, left, except: []);
                most += found.Count(f => f.Sure) / (double)left.Length;
                right += left.Zip(found, (i, f) => f.Theme == study.Theme[i] ? 1.0 : 0).Average();
                placed += found.Count(f => f.Sure);
                rightOfPlaced += left.Zip(found, (i, f) => f.Sure && f.Theme == study.Theme[i] ? 1.0 : 0).Sum();
                if (after != AfterPlaced[^1])
                    continue;
                var (wrong, asked) = (0, 0);
                for (var t = 0; t < study.Names.Length; t++)
                {
                    var of = left.Where(i => study.Theme[i] == t).ToArray();
                    if (of.Length == 0)
                        continue;
                    wrong += Allocate(study, [.. held.Where(i => study.Theme[i] != t)], of, except: [t]).Count(f => f.Sure);
                    asked += of.Length;
                }
                nowhere += (double)wrong / asked / Draws;
            }
            cells.Add($"{right / Draws:P0}, {rightOfPlaced / Math.Max(1, placed):P0} ({most / Draws:P0})");
        }
        var frequent = study.Theme.GroupBy(t => t).Max(g => g.Count()) / (double)n;
        Console.WriteLine(
            $"| {name} | {n}, {study.Names.Length} | {1.0 / study.Names.Length:P0} | {frequent:P0} "
                + $"| {string.Join(" | ", cells)} | {nowhere:P0} |"
        );
    }

    private static List<(int? Theme, bool Sure)> Allocate(Labelled study, int[] held, int[] left, int[] except)
    {
        var allocation = new Allocation(
            [.. left.Select(i => study.Items[i])],
            [
                .. study.Names.Select(
                    (name, t) => new AllocationTheme(name, [.. held.Where(i => study.Theme[i] == t).Select(i => study.Items[i])])
                ),
            ],
            study.Surroundings
        );
        return
        [
            .. Enumerable
                .Range(0, left.Length)
                .Select(i => allocation.Of(i, except))
                .Select(a => (a.Theme, a.Theme is not null && a.IsSure)),
        ];
    }

    private static Labelled OfDemo(string study)
    {
        var (_, texts, marks) = DemoMarks.In(Path.Combine("demo", study));
        var families = DemoMarks.Families();
        var places = marks.GroupBy(m => (m.Text, m.Words)).OrderBy(m => m.Key.Text).ThenBy(m => m.Key.Words.Start).ToList();
        var known = places
            .Select(
                (p, at) =>
                    (p, at, Families: p.Where(m => families.ContainsKey(m.Tag)).Select(m => families[m.Tag].Family).Distinct().ToList())
            )
            .Where(p => p.Families.Count == 1)
            .ToList();
        var names = known.GroupBy(k => k.Families[0]).Where(g => g.Count() >= 3).Select(g => g.Key).Order(StringComparer.Ordinal).ToList();
        known = [.. known.Where(k => names.Contains(k.Families[0]))];
        return new Labelled(
            [.. known.Select(k => new LikenessItem([k.at], TrayHint.TermsOf(k.p.Key.Words.Of(texts[k.p.Key.Text].Text))))],
            [.. known.Select(k => names.IndexOf(k.Families[0]))],
            [
                .. names.Select(n =>
                    TrayHint
                        .TermsOf(
                            string.Join(
                                ' ',
                                families.Where(f => f.Value.Family == n).Select(f => $"{f.Key} {f.Value.Definition}").Prepend(n)
                            )
                        )
                        .ToArray()
                ),
            ],
            DemoMarks.Around(texts, [.. places.Select(p => p.Key)])
        );
    }

    /// <summary>
    /// 400 observations of 8 themes: 12 words each, a third of them of 40 words of their theme, the others of 2,000 by Zipf's law;
    /// two times of three an observation is of the theme of the one before. A theme's name has six of its words.
    /// </summary>
    private static Labelled Made(int seed)
    {
        var random = new Random(seed);
        int[] theme = new int[Size.Of(400, tiny: 60)];
        for (var i = 0; i < theme.Length; i++)
            theme[i] = i > 0 && random.Next(3) > 0 ? theme[i - 1] : random.Next(8);
        string Word(int t) => random.Next(3) == 0 ? $"t{t}-{random.Next(40)}" : $"w{(int)Math.Exp(random.NextDouble() * Math.Log(2_000))}";
        return new Labelled(
            [.. theme.Select((t, i) => new LikenessItem([i], [.. Enumerable.Range(0, 12).Select(_ => Word(t))]))],
            theme,
            [.. Enumerable.Range(0, 8).Select(t => Enumerable.Range(0, 6).Select(_ => $"t{t}-{random.Next(40)}").ToArray())],
            Groupings.Alike(theme.Length, 40)
        );
    }

    private static void Many()
    {
        var random = new Random(5);
        var count = Size.Of(2_000, tiny: 60);
        LikenessItem Item(int at) => new([at], [.. Enumerable.Range(0, 30).Select(_ => $"w{(int)Math.Exp(random.NextDouble() * 9)}")]);
        LikenessItem[] items = [.. Enumerable.Range(0, count).Select(Item)];
        var surroundings = Groupings.Alike(2 * count, 100);
        AllocationTheme[] themes =
        [
            .. Enumerable
                .Range(0, 8)
                .Select(t => new AllocationTheme(["a", $"w{t}"], [.. Enumerable.Range(0, 100).Select(i => Item(count + (100 * t) + i))])),
        ];
        var took = Timing.Once(() =>
        {
            var allocation = new Allocation(items, themes, surroundings);
            for (var i = 0; i < items.Length; i++)
                _ = allocation.Of(i, []);
        });
        Console.WriteLine($"\n{count:N0} observations into 8 themes: {took:F0} ms\n");
    }
}
