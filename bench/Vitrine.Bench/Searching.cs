using Dapper;
using Vitrine.Core.Access;
using Vitrine.Storage.Access;
using Vitrine.Storage.Search;

namespace Vitrine.Bench;

/// <summary>Search over 10,000 sources of 800 words and 20,000 observations, beside the bare full-text query on the same file.</summary>
internal static class Searching
{
    private static readonly int Sources = Size.Of(10_000, tiny: 100);
    private static readonly int Queries = Size.Of(50, tiny: 5);

    public static void Run(string folder)
    {
        var made = new MadeUp(folder);
        made.AddSources(Sources, 800);
        made.AddMarks(20_000, 200, Sources, 2);
        using var connection = made.Workspace.Open();
        // A study that the researcher is not in, so that what may be seen has to be looked up.
        connection.Execute(
            """
            INSERT INTO study (key, title, purpose, method, version, created_by, created_at, updated_at)
            VALUES ('other', 'Other', '', '', 1, 1, '', '')
            """
        );
        connection.Execute(
            """
            INSERT INTO searchable (rowid, name, words)
            SELECT (o.study_id << 40) | (o.id << 4) | 7, '', substr(t.text, o.start + 1, o."end" - o.start) FROM observation o
            JOIN source_text t ON t.source_id = o.source_id
            """
        );
        var store = new SearchStore(made.Workspace, new StudyAccess(made.Workspace));
        var random = new Random(7);
        var typed = Enumerable
            .Range(0, Queries)
            .Select(i =>
                (i % 5) switch
                {
                    0 => MadeUp.Word(random),
                    1 => MadeUp.Word(random)[..3],
                    2 => $"{MadeUp.Word(random)} {MadeUp.Word(random)}",
                    3 => $"\"{MadeUp.Word(random)} {MadeUp.Word(random)}\"",
                    _ => $"{MadeUp.Word(random)} {MadeUp.Word(random)} {MadeUp.Word(random)}",
                }
            )
            .ToList();
        Console.WriteLine(
            $"Search: {Queries} mixed queries (words, beginnings, phrases) over {Sources:N0} sources, {Sources * 800 / 1e6:F0} "
                + $"million words; each three times, the middle one counts"
        );
        Console.WriteLine("| | median | 95th percentile | ratio to the bare query at each |");
        Console.WriteLine("|---|---|---|---|");
        var bare = Measured(
            typed,
            t =>
            {
                foreach (var index in new[] { "source_search", "searchable" })
                    connection
                        .Query<long>(
                            $"SELECT rowid FROM {index} WHERE {index} MATCH @q ORDER BY rank LIMIT 6",
                            new { q = SearchStore.QueryOf(t) }
                        )
                        .AsList();
            }
        );
        Console.WriteLine(
            $"| the bare FTS5 queries over both indices, numbers alone | {Timing.At(0.5, bare):F1} ms | {Timing.At(0.95, bare):F1} ms | |"
        );
        Show("a steward, who sees everything", new Viewer(1, Role.Steward));
        Show("a researcher, who sees their studies", new Viewer(1, Role.Researcher));
        Console.WriteLine();

        void Show(string who, Viewer viewer)
        {
            var ours = Measured(typed, t => store.Find(viewer, t, null, 6));
            Console.WriteLine(
                $"| everything, in context, for {who} | {Timing.At(0.5, ours):F1} ms | {Timing.At(0.95, ours):F1} ms | "
                    + $"{Timing.At(0.5, ours) / Timing.At(0.5, bare):F1}, {Timing.At(0.95, ours) / Timing.At(0.95, bare):F1} |"
            );
        }
    }

    private static List<double> Measured(IReadOnlyList<string> typed, Action<string> find)
    {
        foreach (var t in typed)
            find(t);
        return [.. typed.Select(t => Timing.At(0.5, [.. Enumerable.Range(0, 3).Select(_ => Timing.Once(() => find(t)))]))];
    }
}
