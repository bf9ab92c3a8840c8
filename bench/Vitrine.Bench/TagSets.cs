using Dapper;

namespace Vitrine.Bench;

/// <summary>
/// A tag set of 1,000 tags, six deep, over 300,000 observations, over HTTP: opened, a tag moved, two wide tags merged and taken apart,
/// look-alikes.
/// </summary>
internal static class TagSets
{
    private static readonly int Observations = Size.Of(300_000, tiny: 2000);
    private static readonly int TagCount = Size.Of(1000, tiny: 40);
    private static readonly int SourceCount = Size.Of(500, tiny: 20);
    private static readonly int Wide = Size.Of(20_000, tiny: 100);
    private static readonly int Runs = Size.Of(5, tiny: 1);

    /// <summary>Tags right under one: with 1,000 tags the last stand six deep.</summary>
    private const int Children = 4;

    public static async Task Run(string folder)
    {
        var made = new MadeUp(folder);
        made.AddSources(SourceCount, 800);
        made.AddPeople(100, SourceCount);
        made.AddMarks(Observations, TagCount, SourceCount, 2);
        var (one, other) = (TagPages.Only(made, Wide), TagPages.Only(made, Wide + 1));
        List<long> tags;
        using (var connection = made.Workspace.Open())
        {
            tags = [.. connection.Query<long>("SELECT id FROM tag ORDER BY id LIMIT @TagCount", new { TagCount })];
            for (var i = 1; i < tags.Count; i++)
                connection.Execute(
                    "UPDATE tag SET parent_id = @parent WHERE id = @id",
                    new { id = tags[i], parent = tags[(i - 1) / Children] }
                );
        }
        // As a server leaves it that has ended: all in one file.
        made.Workspace.Rest();
        using var process = Screen.Serve(folder);
        try
        {
            var una = await Screen.Open("una", setUp: false);
            Console.WriteLine($"{TagCount:N0} tags, six deep, over {Observations:N0} observations; medians of {Runs}");
            Console.WriteLine("| | took | aim |\n|---|---|---|");
            await Print("the whole tag set", "under 300 ms", Runs, () => una.Read("tags"));
            await Print("how broad each tag is, in a study", "", Runs, () => una.Read($"studies/{made.Study}/tag-counts"));
            var moves = 0;
            await Print(
                "a tag moved",
                "painted before it is answered",
                Runs,
                () =>
                    una.Put(
                        "tags/places",
                        new
                        {
                            tagIds = new[] { tags[^1] },
                            parentId = tags[++moves % 9],
                            beforeTagId = (long?)null,
                        }
                    )
            );
            await Print("look-alikes", "under 1 s", 1, () => una.Read("tag-look-alikes"));
            var desk = $"studies/{made.Study}/tags/{one}/split";
            await una.Put($"{desk}/trays/1", new { tagId = (long?)null, name = "narrow" });
            List<long> carrying;
            using (var connection = made.Workspace.Open())
                carrying = [.. connection.Query<long>("SELECT observation_id FROM observation_tag WHERE tag_id = @one", new { one })];
            var at = 0;
            await Print($"one of {Wide:N0} sent by a key of the split desk", "", Runs, () => Decide([carrying[at++]]));
            await Print(
                "the next five, with the words around them and hints",
                "there before the key: under 50 ms",
                Runs,
                () => una.Read($"{desk}/items?" + string.Join('&', carrying.Skip(at++).Take(5).Select(id => $"observationId={id}")))
            );
            await Decide(carrying);
            await Print($"all {Wide:N0} gone to the narrower tag", "", 1, () => una.Write($"{desk}/finish", new { keep = true }));
            await Print("the same undone", "", 1, Undo);
            await Print($"two tags on {Wide:N0} observations each, merged", "under 1.5 s with its undo", 1, Merge);
            await Print("the same undone", "", 1, Undo);

            Task Decide(IReadOnlyList<long> observationIds) =>
                una.Write(
                    $"{desk}/decisions",
                    new
                    {
                        observationIds,
                        outcome = "trays",
                        trays = new[] { 1 },
                    }
                );

            Task Undo() =>
                una.Write(
                    "undo",
                    new
                    {
                        studyId = (long?)null,
                        actionId = (long?)null,
                        anywhere = true,
                    }
                );

            Task Merge() =>
                una.Write(
                    $"tags/{one}/merge",
                    new
                    {
                        tagIds = new[] { other },
                        definition = "",
                        isNot = "",
                    }
                );
        }
        finally
        {
            process.Kill();
        }
    }

    private static async Task Print(string name, string aim, int runs, Func<Task> work)
    {
        var times = new List<double>();
        for (var i = runs > 1 ? -1 : 0; i < runs; i++)
        {
            var watch = System.Diagnostics.Stopwatch.StartNew();
            await work();
            if (i >= 0)
                times.Add(watch.Elapsed.TotalMilliseconds);
        }
        Console.WriteLine($"| {name} | {Timing.At(0.5, times):F0} ms | {aim} |");
    }
}
