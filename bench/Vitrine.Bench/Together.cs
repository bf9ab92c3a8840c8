using System.Diagnostics;
using Dapper;
using Vitrine.Core.Gather.Sources;
using Vitrine.Core.Gather.Turns;
using Vitrine.Core.Mark.Observations;
using Vitrine.Core.Sort.TagSet;
using Vitrine.Core.Text;
using Vitrine.Core.Weigh.Agreement;
using Vitrine.Storage.Counting;
using Vitrine.Storage.Gather.Participants;
using Vitrine.Storage.Gather.Sources;
using Vitrine.Storage.Mark.Observations;
using Vitrine.Storage.Media;
using Vitrine.Storage.Text;
using Vitrine.Storage.Trail;
using Vitrine.Storage.Weigh.Agreement;

namespace Vitrine.Bench;

/// <summary>
/// Agreement of two people over many sources, against reading their marks by SQL alone; and thousands of passages tagged in one step and
/// taken back, while somebody else marks.
/// </summary>
internal static class Together
{
    private static readonly int Sources = Size.Of(200, tiny: 4);
    private static readonly int Passages = Size.Of(5_000, tiny: 100);
    private const int Sentences = 100;
    private const int MarksEach = 30;
    private const int Tags = 50;

    public static async Task Run(string folder)
    {
        var made = new MadeUp(folder);
        var (workspace, una) = (made.Workspace, made.Actor);
        StudyId study = made.Study;
        var account = new Storage.Access.AccountStore(workspace).Add("Tom", "tom@vitrine.example", Core.Access.Role.Steward, "x");
        var tom = new Actor(account.Id, account.Name, account.Role);
        var sources = new SourceStore(workspace, new ParticipantStore(workspace));
        var text = string.Join(
            "\n\n",
            Enumerable
                .Range(0, Sentences / 5)
                .Select(t =>
                    "Wren: " + string.Concat(Enumerable.Range(0, 5).Select(s => $"They stood {t} and {s} waited for the boat again. "))
                )
        );
        text = CanonicalText.From(text).Trim();
        var ids = new List<SourceId>();
        for (var i = 0; i < Sources; i++)
            ids.Add(
                sources
                    .Add(una, study, new NewSource($"Talk {i}", SourceKind.Interview, null, null, text, TurnReading.Of(text), []), [])
                    .Id!.Value
            );
        var random = new Random(5);
        var observations = new ObservationStore(workspace);
        foreach (var source in ids)
        {
            for (var m = 0; m < MarksEach * 2; m++)
            {
                var at = random.Next(text.Length - 60);
                observations.Make(
                    m % 2 == 0 ? una : tom,
                    source,
                    new AnchorGiven(AnchorKind.Text, at, at + 50),
                    [],
                    [NewTag.Read($"tag {random.Next(Tags)}", out _)!]
                );
            }
        }
        Agree(workspace, study, una, tom);
        await Bulk(folder, study, ids, text);
    }

    private static void Agree(Workspace workspace, StudyId study, Actor una, Actor tom)
    {
        var store = new AgreementStore(
            workspace,
            new StudyTexts(workspace),
            new StudyIndexStore(workspace),
            new TranscriptsInStep(workspace, new MediaFolder(workspace))
        );
        AgreementFound? found = null;
        void Compare() => found = store.Compare(study, una.AccountId, tom.AccountId, AgreementUnit.Sentence, []);
        var first = Timing.Once(Compare);
        var again = Timing.Median(5, Compare);
        using var connection = workspace.Open();
        var bare = Timing.Median(
            5,
            () =>
                connection
                    .Query(
                        """
                        SELECT o.source_id, o.start, o."end", x.tag_id FROM observation o
                        JOIN observation_tag x ON x.observation_id = o.id WHERE o.study_id = @study
                        """,
                        new { study }
                    )
                    .AsList()
        );
        Console.WriteLine($"Agreement of two people: {found!.Sources.Count} sources, {found.Units:N0} sentences, {found.Tags.Count} tags");
        Console.WriteLine("| | |\n|---|---|");
        Console.WriteLine($"| reading their marks by SQL alone | {bare:F0} ms |");
        Console.WriteLine($"| all figures with intervals, the first time | {first:F0} ms |");
        Console.WriteLine($"| again | {again:F0} ms, {again / bare:F1} times |\n");
    }

    private static async Task Bulk(string folder, StudyId study, List<SourceId> ids, string text)
    {
        using var process = Screen.Serve(folder);
        try
        {
            var una = await Screen.Open("una", setUp: false);
            await una.Write(
                "accounts",
                new
                {
                    name = "Nell",
                    email = "nell@vitrine.example",
                    password = Screen.Password,
                    role = "steward",
                }
            );
            var nell = await Screen.Open("nell", setUp: false);
            var hash = ContentHash.Of(text);
            var each = Core.Text.Sentences.In(text, new TextRange(0, text.Length));
            var passages = ids.SelectMany(id =>
                    each.Select(s => new
                    {
                        sourceId = id.Value,
                        start = s.Start,
                        end = s.End,
                        basedOn = hash,
                    })
                )
                .Take(Passages)
                .ToList();
            var place = 0;
            async Task<double> Mark()
            {
                place = (place + 7) % (text.Length - 60);
                var watch = Stopwatch.StartNew();
                await nell.Write(
                    $"sources/{ids[^1]}/observations",
                    new
                    {
                        anchor = new
                        {
                            kind = "text",
                            start = place,
                            end = place + 30,
                        },
                        tagIds = Array.Empty<long>(),
                        newTags = Array.Empty<string>(),
                    }
                );
                return watch.Elapsed.TotalMilliseconds;
            }
            async Task<(double Took, List<double> Marks)> While(Func<Task> work)
            {
                var marks = new List<double>();
                var watch = Stopwatch.StartNew();
                var running = Task.Run(async () =>
                {
                    await work();
                    return watch.Elapsed.TotalMilliseconds;
                });
                while (!running.IsCompleted)
                {
                    marks.Add(await Mark());
                    await Task.Delay(20);
                }
                return (await running, marks);
            }
            for (var i = 0; i < 30; i++)
                await Mark();
            var idle = new List<double>();
            for (var i = 0; i < 60; i++)
            {
                idle.Add(await Mark());
                await Task.Delay(20);
            }
            long action = 0;
            var (tagging, besideTagging) = await While(async () =>
                action = (long)
                    (
                        await una.Write(
                            $"studies/{study}/passages/tags",
                            new
                            {
                                passages,
                                tagIds = Array.Empty<long>(),
                                newTags = new[] { "found" },
                                reviewed = false,
                            }
                        )
                    )["actionId"]!
            );
            var (undoing, besideUndoing) = await While(() =>
                una.Write(
                    "undo",
                    new
                    {
                        studyId = study.Value,
                        actionId = action,
                        anywhere = true,
                    }
                )
            );
            Console.WriteLine($"{passages.Count:N0} passages tagged in one step, and taken back, while somebody else marks, over HTTP");
            Console.WriteLine("| | took | another’s mark, median | 95th percentile | times idle |\n|---|---|---|---|---|");
            Line("idle", null, idle);
            Line("tagging", tagging, besideTagging);
            Line("undoing", undoing, besideUndoing);

            void Line(string what, double? took, List<double> marks) =>
                Console.WriteLine(
                    $"| {what} | {(took is { } ms ? $"{ms:F0} ms" : "")} | {Timing.At(0.5, marks):F1} ms | {Timing.At(0.95, marks):F1} ms "
                        + $"| {Timing.At(0.5, marks) / Timing.At(0.5, idle):F1} |"
                );
        }
        finally
        {
            process.Kill();
        }
    }
}
