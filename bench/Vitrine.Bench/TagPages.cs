using Dapper;

namespace Vitrine.Bench;

/// <summary>The page of a tag on 20,000 observations of 300,000, over HTTP, against that of a tag on a hundredth of it.</summary>
internal static class TagPages
{
    private static readonly int Observations = Size.Of(300_000, tiny: 3000);
    private static readonly int Wide = Size.Of(20_000, tiny: 200);
    private static readonly int TagCount = Size.Of(400, tiny: 40);
    private static readonly int SourceCount = Size.Of(500, tiny: 20);
    private static readonly int Runs = Size.Of(7, tiny: 1);

    public static async Task Run(string folder)
    {
        var made = new MadeUp(folder);
        made.AddSources(SourceCount, 800);
        made.AddPeople(100, SourceCount);
        made.AddMarks(Observations, TagCount, SourceCount, 2);
        var (wide, narrow) = (Only(made, Wide), Only(made, Wide / 100));
        using var process = Screen.Serve(folder);
        try
        {
            var una = await Screen.Open("una", setUp: false);
            Console.WriteLine($"Page of a tag among {Observations:N0} observations, {SourceCount} sources, 100 people; medians of {Runs}");
            Console.WriteLine($"| | {Wide / 100:N0} observations | {Wide:N0} observations | times | aim |");
            Console.WriteLine("|---|---|---|---|---|");
            foreach (var (name, path, aim) in new[] { ("figures", "page", "under 150 ms"), ("telling quotes", "telling-quotes", "") })
            {
                var (few, many) = (await Median(narrow), await Median(wide));
                Console.WriteLine($"| {name} | {few:F0} ms | {many:F0} ms | {many / few:F1} | {aim} |");

                async Task<double> Median(long tag)
                {
                    var times = new List<double>();
                    for (var i = 0; i <= Runs; i++)
                    {
                        var watch = System.Diagnostics.Stopwatch.StartNew();
                        await una.Read($"studies/{made.Study}/tags/{tag}/{path}");
                        if (i > 0)
                            times.Add(watch.Elapsed.TotalMilliseconds);
                    }
                    return Timing.At(0.5, times);
                }
            }
        }
        finally
        {
            process.Kill();
        }
    }

    /// <summary>A tag on so many observations.</summary>
    internal static long Only(MadeUp made, int observations)
    {
        using var connection = made.Workspace.Open();
        var tag = connection.ExecuteScalar<long>(
            """
            INSERT INTO tag (key, name, name_key, version, created_by, created_at)
            VALUES (@name, @name, @name, 1, 1, '2026-01-01T00:00:00Z') RETURNING id
            """,
            new { name = $"on {observations}" }
        );
        connection.Execute(
            """
            INSERT INTO observation_tag (observation_id, tag_id, created_by, created_at)
            SELECT id, @tag, 1, '2026-01-01T00:00:00Z' FROM observation ORDER BY id * 7919 % 300007 LIMIT @observations
            """,
            new { tag, observations }
        );
        return tag;
    }
}
