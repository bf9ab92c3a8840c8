using Vitrine.Core.Sort.Suggestions;
using Vitrine.Core.Sort.TagSet;
using Vitrine.Core.Statistics;

namespace Vitrine.Bench;

/// <summary>
/// How well tags are grouped: the adjusted Rand index against the families of the demo's tag set, beside chance and each of what the
/// likeness is made of alone. The likeness was chosen on the first study; the second is the report. And how long many take.
/// </summary>
internal static class Groupings
{
    private static readonly int Tags = Size.Of(400, tiny: 20);
    private static readonly int Observations = Size.Of(60_000, tiny: 200);

    private sealed record GroupedTag(HashSet<int> Observations, IReadOnlyList<string> Name, IReadOnlyList<string> Quotes, int Family);

    public static void Run(string folder)
    {
        _ = folder;
        Console.WriteLine("Tags in as many groups as they have families: adjusted Rand index\n");
        Console.WriteLine("| study | tags | chance | names alone | quotes alone | near alone | grouped |");
        Console.WriteLine("|---|---|---|---|---|---|---|");
        foreach (var study in (string[])["boarding", "freight"])
        {
            var (tags, surroundings) = OfDemo(study);
            Score(study, tags, surroundings);
        }
        foreach (var seed in (int[])[1, 2])
        {
            var (tags, surroundings) = Made(seed);
            Score($"made {seed}", tags, surroundings);
        }
        Many();
        Allocations.Run();
    }

    private static void Score(string study, IReadOnlyList<GroupedTag> tags, Surroundings surroundings)
    {
        int[] family = [.. tags.Select(t => t.Family)];
        var groups = family.Distinct().Count();
        string Found(bool stands, bool name, bool quotes)
        {
            var items = tags.Select(t => new LikenessItem(
                stands ? t.Observations : [],
                [.. (quotes ? t.Quotes : []), .. (name ? t.Name : [])]
            ));
            return $"{Clustering.AdjustedRand(family, AverageLinkage.Of(Likeness.Of([.. items], surroundings).Distances).Cut(groups)):F2}";
        }
        var random = new Random(1);
        var chance = Enumerable.Range(0, 200).Average(_ => Clustering.AdjustedRand(family, [.. family.Select(_ => random.Next(groups))]));
        Console.WriteLine(
            $"| {study} | {tags.Count} | {chance:F2} | {Found(false, true, false)} | {Found(false, false, true)} "
                + $"| {Found(true, false, false)} | {Found(true, true, true)} |"
        );
    }

    private static (IReadOnlyList<GroupedTag> Tags, Surroundings Surroundings) OfDemo(string study)
    {
        var (_, texts, marks) = DemoMarks.In(Path.Combine("demo", study));
        var families = DemoMarks.Families();
        var names = families.Values.Select(f => f.Family).Distinct().ToList();
        // Observations in the order of the study: one for each stretch.
        var places = marks.Select(m => (m.Text, m.Words)).Distinct().OrderBy(m => m.Text).ThenBy(m => m.Words.Start).ToList();
        var placeOf = places.Select((p, i) => (p, i)).ToDictionary(x => x.p, x => x.i);
        return (
            [
                .. marks
                    .GroupBy(m => m.Tag)
                    .Where(t => families.ContainsKey(t.Key))
                    .OrderBy(t => t.Key, StringComparer.Ordinal)
                    .Select(t => new GroupedTag(
                        [.. t.Select(m => placeOf[(m.Text, m.Words)])],
                        TrayHint.TermsOf($"{t.Key} {families[t.Key].Definition}"),
                        [.. t.SelectMany(m => TrayHint.TermsOf(m.Words.Of(texts[m.Text].Text)))],
                        names.IndexOf(families[t.Key].Family)
                    )),
            ],
            DemoMarks.Around(texts, places)
        );
    }

    /// <summary>
    /// 40 tags of 8 families on 200 observations of 5 sources: one time of two an observation is about the family of the one before; it
    /// carries one or two tags, one time of two of any family. Of its 12 words one in six is of 40 words of its family.
    /// </summary>
    private static (IReadOnlyList<GroupedTag> Tags, Surroundings Surroundings) Made(int seed)
    {
        var random = new Random(seed);
        var tags = Enumerable.Range(0, 40).Select(t => (On: new HashSet<int>(), Quotes: new List<string>(), Family: t / 5)).ToArray();
        var family = 0;
        for (var o = 0; o < 200; o++)
        {
            family = random.Next(2) > 0 ? family : random.Next(8);
            string[] words =
            [
                .. Enumerable
                    .Range(0, 12)
                    .Select(_ =>
                        random.Next(6) == 0 ? $"f{family}-{random.Next(40)}" : $"w{(int)Math.Exp(random.NextDouble() * Math.Log(2_000))}"
                    ),
            ];
            for (var n = random.Next(2); n >= 0; n--)
            {
                var tag = tags[random.Next(2) == 0 ? random.Next(40) : (family * 5) + random.Next(5)];
                if (tag.On.Add(o))
                    tag.Quotes.AddRange(words);
            }
        }
        return (
            [.. tags.Select(t => new GroupedTag(t.On, [$"f{t.Family}-{random.Next(40)}", $"w{random.Next(2_000)}"], t.Quotes, t.Family))],
            Alike(200, 40)
        );
    }

    /// <summary>So many observations, so many in each source, without turns.</summary>
    internal static Surroundings Alike(int observations, int each) =>
        new([.. Enumerable.Range(0, observations).Select(o => o / each)], new int?[observations]);

    private static void Many()
    {
        var random = new Random(3);
        var surroundings = Alike(Observations, 300);
        LikenessItem[] items =
        [
            .. Enumerable
                .Range(0, Tags)
                .Select(_ => new LikenessItem(
                    Enumerable.Range(0, 2 * Observations / Tags).Select(_ => random.Next(Observations)).ToHashSet(),
                    [.. Enumerable.Range(0, 2_000).Select(_ => $"w{(int)Math.Exp(random.NextDouble() * 9)}")]
                )),
        ];
        var likening = Timing.Once(() => _ = Likeness.Of(items, surroundings));
        var likeness = Likeness.Of(items, surroundings);
        var grouping = Timing.Once(() => _ = Grouping.Of(items, likeness, 3, 12, new HashSet<(int, int)>()));
        Console.WriteLine($"\n{Tags} tags on {Observations:N0} observations: likened in {likening:F0} ms, grouped in {grouping:F0} ms\n");
    }
}
