using Vitrine.Core.Sort.Suggestions;
using Vitrine.Core.Statistics;
using Vitrine.Core.Text;

namespace Vitrine.Bench;

/// <summary>
/// How well tags are grouped: the adjusted Rand index against the families of the demo's tag set, beside chance and each of what the
/// likeness is made of alone. The likeness was chosen on the first study; the second is the report. And how long many take.
/// </summary>
internal static class Groupings
{
    private static readonly int Tags = Size.Of(400, tiny: 20);
    private static readonly int Observations = Size.Of(60_000, tiny: 200);

    public static void Run(string folder)
    {
        _ = folder;
        Console.WriteLine("Tags in as many groups as they have families: adjusted Rand index");
        Console.WriteLine("| study | tags | chance | names alone | quotes alone | near alone | grouped |");
        foreach (var study in (string[])["boarding", "freight"])
            Score(study);
        Many();
    }

    private static void Score(string study)
    {
        var (_, texts, marks) = DemoMarks.In(Path.Combine("demo", study));
        var families = DemoMarks.Families();
        // Observations in the order of the study: one for each stretch.
        var places = marks.Select(m => (m.Text, m.Words)).Distinct().OrderBy(m => m.Text).ThenBy(m => m.Words.Start).ToList();
        var placeOf = places.Select((p, i) => (p, i)).ToDictionary(x => x.p, x => x.i);
        int[] sourceOf = [.. places.Select(p => p.Text)];
        var tags = marks.GroupBy(m => m.Tag).Where(t => families.ContainsKey(t.Key)).OrderBy(t => t.Key, StringComparer.Ordinal).ToList();
        int[] family = [.. tags.Select(t => families.Values.Select(f => f.Family).Distinct().ToList().IndexOf(families[t.Key].Family))];
        var groups = family.Distinct().Count();

        LikenessItem Item(IGrouping<string, DemoMark> tag, bool stands, bool name, bool quotes) =>
            new(
                stands ? tag.Select(m => placeOf[(m.Text, m.Words)]).ToHashSet() : [],
                [
                    .. (quotes ? tag.SelectMany(m => Terms(m.Words.Of(texts[m.Text].Text))) : []),
                    .. (name ? Terms($"{tag.Key} {families[tag.Key].Definition}") : []),
                ]
            );
        string Found(bool stands, bool name, bool quotes)
        {
            var likeness = Likeness.Of([.. tags.Select(t => Item(t, stands, name, quotes))], sourceOf);
            return $"{Clustering.AdjustedRand(family, AverageLinkage.Of(likeness.Distances).Cut(groups)):F2}";
        }
        var random = new Random(1);
        var chance = Enumerable.Range(0, 200).Average(_ => Clustering.AdjustedRand(family, [.. family.Select(_ => random.Next(groups))]));
        Console.WriteLine(
            $"| {study} | {tags.Count} | {chance:F2} | {Found(false, true, false)} | {Found(false, false, true)} "
                + $"| {Found(true, false, false)} | {Found(true, true, true)} |"
        );
    }

    private static IEnumerable<string> Terms(string words) =>
        Words.In(words, 0, words.Length).Select(r => r.Of(words).ToLowerInvariant()).Where(w => !StopWords.Has(w)).Select(EnglishStem.Of);

    private static void Many()
    {
        var random = new Random(3);
        int[] sourceOf = [.. Enumerable.Range(0, Observations).Select(o => o / 300)];
        LikenessItem[] items =
        [
            .. Enumerable
                .Range(0, Tags)
                .Select(_ => new LikenessItem(
                    Enumerable.Range(0, 2 * Observations / Tags).Select(_ => random.Next(Observations)).ToHashSet(),
                    [.. Enumerable.Range(0, 2_000).Select(_ => $"w{(int)Math.Exp(random.NextDouble() * 9)}")]
                )),
        ];
        var likening = Timing.Once(() => _ = Likeness.Of(items, sourceOf));
        var likeness = Likeness.Of(items, sourceOf);
        var grouping = Timing.Once(() => _ = Grouping.Of(items, likeness, 3, 12));
        Console.WriteLine($"\n{Tags} tags on {Observations:N0} observations: likened in {likening:F0} ms, grouped in {grouping:F0} ms\n");
    }
}
