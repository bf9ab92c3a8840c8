using System.Diagnostics;
using System.Globalization;
using Dapper;
using Vitrine.Core.Access;
using Vitrine.Core.Gather.Surveys;
using Vitrine.Storage.Access;
using Vitrine.Storage.Gather.Corrections;
using Vitrine.Storage.Gather.Participants;
using Vitrine.Storage.Gather.Sources;
using Vitrine.Storage.Gather.Studies;
using Vitrine.Storage.Gather.Surveys;
using Vitrine.Storage.Gather.Turns;
using Vitrine.Storage.Trail;

namespace Vitrine.Bench;

/// <summary>
/// A survey of 5,000 rows and 30 columns becomes participants, attributes and sources as one step, beside the same rows written by bare
/// prepared inserts without trail and search.
/// </summary>
internal static class Surveying
{
    private static readonly int People = Size.Of(5_000, tiny: 50);
    private const int FirstRows = 500;
    private static readonly int Columns = Size.Of(30, tiny: 8);

    public static void Run(string folder)
    {
        var random = new Random(7);
        string[] names =
        [
            "Respondent",
            "What would you change?",
            "What went well?",
            .. Enumerable.Range(4, Columns - 3).Select(i => $"Fact {i}"),
        ];
        var rows = Enumerable
            .Range(1, People)
            .Select(p =>
                names
                    .Select(
                        (_, c) =>
                            c switch
                            {
                                0 => $"S{p}",
                                1 or 2 => $"Tell us earlier than person {p} was told, even if it is only a maybe.",
                                _ => random.Next(5).ToString(CultureInfo.InvariantCulture),
                            }
                    )
                    .ToArray()
            )
            .ToList();
        var workspace = new Workspace(folder, TimeProvider.System);
        var account = new AccountStore(workspace).Add("Ida", "ida@vitrine.example", Role.Researcher, "x");
        var actor = new Actor(account.Id, account.Name, account.Role);
        var study = new StudyStore(workspace).Create(actor, new StudyText("Survey", "", "", [])).Id!.Value;

        var participants = new ParticipantStore(workspace);
        var surveys = new SurveyStore(
            workspace,
            new CorrectionStore(workspace, new SourceStore(workspace, participants), new TurnStore(workspace, participants))
        );
        var watch = Stopwatch.StartNew();
        var columns = SurveyReading.Guess(names, rows);
        var guessed = watch.Elapsed.TotalSeconds;
        watch.Restart();
        var (read, _) = SurveyReading.Rows(columns, rows);
        var valued = watch.Elapsed.TotalSeconds;
        // A server that is in use has its code compiled; this one compiles it over a first small survey.
        var (few, _) = SurveyReading.Rows(columns, [.. rows.Take(FirstRows)]);
        surveys.Add(
            actor,
            new StudyStore(workspace).Create(actor, new StudyText("First", "", "", [])).Id!.Value,
            "First",
            columns,
            few,
            new Progress<double>()
        );
        watch.Restart();
        // Somebody else writes all the while.
        var (waits, going) = (new List<double>(), true);
        var others = Task.Run(() =>
        {
            for (var i = 0; Volatile.Read(ref going); i++)
            {
                waits.Add(Timing.Once(() => participants.Add(actor, study, $"T{i}", "Someone", null)));
                Thread.Sleep(100);
            }
        });
        var (_, result) = surveys.Add(actor, study, "Survey", columns, read, new Progress<double>());
        var added = watch.Elapsed.TotalSeconds;
        Volatile.Write(ref going, false);
        others.Wait();
        var changes = workspace.Open().ExecuteScalar<long>("SELECT count(*) FROM change");
        watch.Restart();
        Bare(folder, rows);
        var bare = watch.Elapsed.TotalSeconds;
        Console.WriteLine(
            $"Survey: {People} rows, {Columns} columns; {result.NewPeople} participants, {result.Sources} sources, {changes} rows "
                + $"in the trail"
        );
        Console.WriteLine(
            "| columns guessed | values read | taken in, with trail and search | the values alone by bare inserts | times | "
                + "somebody else’s writes meanwhile: median, slowest |"
        );
        Console.WriteLine("|---|---|---|---|---|---|");
        Console.WriteLine(
            string.Create(
                CultureInfo.InvariantCulture,
                $"| {guessed:F2} s | {valued:F2} s | {added:F1} s ({changes / added / 1000:F0} thousand rows a second) | {bare:F2} s | "
                    + $"{added / bare:F0} | {Timing.At(0.5, waits):F0} ms, {waits.Max():F0} ms of {waits.Count} |\n"
            )
        );
    }

    private static void Bare(string folder, List<string[]> rows)
    {
        using var connection = new Microsoft.Data.Sqlite.SqliteConnection($"Data Source={Path.Combine(folder, "bare.db")}");
        connection.Open();
        connection.Execute(
            "PRAGMA journal_mode = WAL; CREATE TABLE value (id INTEGER PRIMARY KEY, person INTEGER, attribute INTEGER, value TEXT)"
        );
        using var transaction = connection.BeginTransaction();
        using var command = connection.CreateCommand();
        command.CommandText = "INSERT INTO value (person, attribute, value) VALUES ($0, $1, $2)";
        var parameters = Enumerable.Range(0, 3).Select(i => command.Parameters.AddWithValue("$" + i, 0)).ToList();
        for (var r = 0; r < rows.Count; r++)
        {
            for (var c = 0; c < rows[r].Length; c++)
            {
                (parameters[0].Value, parameters[1].Value, parameters[2].Value) = (r, c, rows[r][c]);
                command.ExecuteNonQuery();
            }
        }
        transaction.Commit();
    }
}
