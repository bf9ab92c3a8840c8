using DuckDB.NET.Data;
using Microsoft.Data.Sqlite;
using Vitrine.Core.Counting;
using Vitrine.Core.Mark.Observations;
using Vitrine.Storage.Counting;
using Vitrine.Storage.Mark.Observations;
using Vitrine.Storage.Trail;

namespace Vitrine.Bench;

/// <summary>
/// Tables over 300,000 observations: loaded and counted in Core, and the same counts by SQL in SQLite and in DuckDB, in the same run. The
/// counts are compared.
/// </summary>
internal static class Counting
{
    private static readonly int Observations = Size.Of(300_000, tiny: 3000);
    private static readonly int TagCount = Size.Of(400, tiny: 40);
    private static readonly int SourceCount = Size.Of(500, tiny: 20);
    private static readonly int Runs = Size.Of(5, tiny: 1);

    private const string TagByTag = """
        SELECT a.tag_id, b.tag_id, count(*) FROM observation_tag a JOIN observation_tag b ON b.observation_id = a.observation_id
          AND b.tag_id > a.tag_id GROUP BY a.tag_id, b.tag_id
        """;

    private const string TagBySource = """
        SELECT x.tag_id, o.source_id, count(*), count(DISTINCT p.participant_id) FROM observation_tag x
          JOIN observation o ON o.id = x.observation_id
        JOIN source_participant p ON p.source_id = o.source_id GROUP BY x.tag_id, o.source_id
        """;

    private const string TagTriples = """
        SELECT x.tag_id, count(*), count(DISTINCT o.source_id), count(DISTINCT p.participant_id) FROM observation_tag x
          JOIN observation o ON o.id = x.observation_id
        JOIN source_participant p ON p.source_id = o.source_id GROUP BY x.tag_id
        """;

    public static void Run(string folder)
    {
        var made = new MadeUp(folder);
        made.AddSources(SourceCount, 800);
        made.AddPeople(100, SourceCount);
        made.AddMarks(Observations, TagCount, SourceCount, 2);
        var index = new StudyIndexStore(made.Workspace).Load(made.Study);
        var load = Timing.Median(3, () => new StudyIndexStore(made.Workspace).Load(made.Study));
        Console.WriteLine(
            $"Counting: {Observations:N0} observations, {index.Marks.TagOf.Length:N0} tag links, {TagCount} tags, {SourceCount} "
                + $"sources; medians of {Runs}"
        );
        Console.WriteLine($"Loading the arrays: {load:F0} ms\n");
        Console.WriteLine("| table | Core, in memory | SQL in SQLite | ratio | SQL in DuckDB | ratio |");
        Console.WriteLine("|---|---|---|---|---|---|");

        using var sqlite = made.Workspace.Open();
        using var duck = Duck(Path.Combine(folder, Workspace.DatabaseName));
        Row(
            "tag x tag on the same observation",
            TagByTag,
            () => OverlapTable.Of(index.Marks, OverlapKind.SameObservation),
            rows =>
            {
                var table = OverlapTable.Of(index.Marks, OverlapKind.SameObservation);
                return rows.All(r => table[(int)r[0] - 1, (int)r[1] - 1].Pairs == r[2]);
            }
        );
        Row(
            "tag x source, with people",
            TagBySource,
            () => CrossTab.Of(index.Marks, byPerson: false, rollUp: false),
            rows =>
            {
                var table = CrossTab.Of(index.Marks, byPerson: false, rollUp: false);
                return rows.All(r =>
                    table.Cells[(int)r[0] - 1][(int)r[1] - 1] is var cell && cell.Observations == r[2] && cell.People == r[3]
                );
            }
        );
        Row(
            "triple of every tag",
            TagTriples,
            () => Triples(index.Marks),
            rows =>
            {
                var triples = Triples(index.Marks);
                return rows.All(r => triples[(int)r[0] - 1] is var t && t.Observations == r[1] && t.Sources == r[2] && t.People == r[3]);
            }
        );
        Console.WriteLine();
        var follow = Following(made);
        Console.WriteLine(
            $"Taking one mark into the arrays and counting a table after it: {follow.Mark:F1} + {follow.Table:F1} ms, "
                + $"{(follow.Mark + follow.Table) / load:P1} of a load (aim: under 5 %)\n"
        );

        void Row(string name, string sql, Action core, Func<List<long[]>, bool> same)
        {
            var inCore = Timing.Median(Runs, core);
            var inSqlite = Timing.Median(Runs, () => Rows(sqlite, sql));
            var inDuck = Timing.Median(Runs, () => Rows(duck, sql));
            if (!same(Rows(sqlite, sql)) || !same(Rows(duck, sql)))
                throw new InvalidOperationException($"{name}: the counts differ.");
            Console.WriteLine(
                $"| {name} | {inCore:F1} ms | {inSqlite:F0} ms | {inSqlite / inCore:F0} | {inDuck:F1} ms | {inDuck / inCore:F1} |"
            );
        }
    }

    /// <summary>
    /// One mark more in a study that is loaded: how long the arrays take to follow it, and a table after that. They are compared with
    /// arrays that are loaded anew.
    /// </summary>
    private static (double Mark, double Table) Following(MadeUp made)
    {
        var (store, observations) = (new StudyIndexStore(made.Workspace), new ObservationStore(made.Workspace));
        store.Load(made.Study);
        var random = new Random(5);
        var (marks, tables) = (new List<double>(), new List<double>());
        for (var i = 0; i < Math.Max(Runs, 3); i++)
        {
            var start = random.Next(3_000);
            observations.Make(
                made.Actor,
                1 + random.Next(SourceCount),
                new AnchorGiven(AnchorKind.Text, start, start + 40),
                [1 + random.Next(TagCount)],
                []
            );
            var index = (StudyIndex?)null;
            marks.Add(Timing.Once(() => index = store.Load(made.Study)));
            tables.Add(Timing.Once(() => CrossTab.Of(index!.Marks, byPerson: false, rollUp: true)));
        }
        var (followed, anew) = (store.Load(made.Study), new StudyIndexStore(made.Workspace).Load(made.Study));
        if (
            !followed.Observations.AsSpan().SequenceEqual(anew.Observations)
            || !followed.Marks.TagOf.AsSpan().SequenceEqual(anew.Marks.TagOf)
        )
            throw new InvalidOperationException("The arrays that followed are not those that are loaded.");
        return (marks.Order().ElementAt(marks.Count / 2), tables.Order().ElementAt(tables.Count / 2));
    }

    private static Triple[] Triples(StudyMarks marks) => Tally.OfEach(marks, Tally.ByTag(marks, rollUp: false));

    private static List<long[]> Rows(System.Data.Common.DbConnection connection, string sql)
    {
        using var command = connection.CreateCommand();
        command.CommandText = sql;
        using var reader = command.ExecuteReader();
        var rows = new List<long[]>();
        while (reader.Read())
            rows.Add([
                .. Enumerable
                    .Range(0, reader.FieldCount)
                    .Select(i => Convert.ToInt64(reader.GetValue(i), System.Globalization.CultureInfo.InvariantCulture)),
            ]);
        return rows;
    }

    /// <summary>DuckDB in memory, with the three tables copied into it.</summary>
    private static DuckDBConnection Duck(string database)
    {
        var duck = new DuckDBConnection("Data Source=:memory:");
        duck.Open();
        using var sqlite = new SqliteConnection($"Data Source={database}");
        sqlite.Open();
        Copy("observation", "id", "source_id");
        Copy("observation_tag", "observation_id", "tag_id");
        Copy("source_participant", "source_id", "participant_id");
        return duck;

        void Copy(string table, string a, string b)
        {
            using var make = duck.CreateCommand();
            make.CommandText = $"CREATE TABLE {table} ({a} BIGINT, {b} BIGINT)";
            make.ExecuteNonQuery();
            using var appender = duck.CreateAppender(table);
            foreach (var row in Rows(sqlite, $"SELECT {a}, {b} FROM {table}"))
                appender.CreateRow().AppendValue(row[0]).AppendValue(row[1]).EndRow();
        }
    }
}
