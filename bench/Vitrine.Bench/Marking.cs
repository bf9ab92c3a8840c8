using System.Diagnostics;

namespace Vitrine.Bench;

/// <summary>
/// Ten people mark one source, once a second each, for a minute, each with a screen that follows the others over the live line.
/// </summary>
internal static class Marking
{
    private static readonly int People = Size.Of(10, tiny: 3);
    private static readonly int Seconds = Size.Of(60, tiny: 2);

    public static async Task Run(string folder)
    {
        using var process = Screen.Serve(folder);
        try
        {
            var una = await Screen.Open("una", setUp: true);
            var study = (long)
                (
                    await una.Write(
                        "studies",
                        new
                        {
                            title = "Together",
                            purpose = "",
                            method = "",
                            researchQuestions = Array.Empty<string>(),
                        }
                    )
                )["id"]!;
            var text = string.Join(' ', Enumerable.Range(0, 8_000).Select(i => $"word{i}"));
            var source = (long)
                (
                    await una.Write(
                        $"studies/{study}/sources/paste",
                        new
                        {
                            title = "Long",
                            kind = "interview",
                            heldOn = (string?)null,
                            text,
                            participantIds = Array.Empty<long>(),
                        }
                    )
                )["step"]!["id"]!;
            foreach (var i in Enumerable.Range(2, People - 1))
                await una.Write(
                    "accounts",
                    new
                    {
                        name = $"Person {i}",
                        email = $"p{i}@vitrine.example",
                        password = Screen.Password,
                        role = "steward",
                    }
                );
            var screens = new List<Screen> { una };
            foreach (var i in Enumerable.Range(2, People - 1))
                screens.Add(await Screen.Open($"p{i}", setUp: false));
            foreach (var screen in screens)
                await screen.Follow(study, source);

            var saves = (await Task.WhenAll(screens.Select((s, i) => s.Mark(source, text.Length, 1000, Ended(Seconds), new Random(i)))))
                .SelectMany(t => t)
                .ToList();
            await Task.Delay(2_000);
            var shown = screens.Select(s => s.Shown).ToList();
            Console.WriteLine($"Marking: {People} people, once a second each for {Seconds} s, each screen following the others");
            Console.WriteLine($"| marks saved | median | 95th percentile | slowest | rows afterwards | screens equal |");
            Console.WriteLine("|---|---|---|---|---|---|");
            Console.WriteLine(
                $"| {saves.Count} | {Timing.At(0.5, saves):F1} ms | {Timing.At(0.95, saves):F1} ms | {saves.Max():F0} ms | "
                    + $"{await una.Count(source)} | {(shown.Distinct().Count() == 1 ? "yes" : "no")} |\n"
            );
        }
        finally
        {
            process.Kill();
        }
    }

    private static Func<bool> Ended(int seconds)
    {
        var watch = Stopwatch.StartNew();
        return () => watch.Elapsed.TotalSeconds >= seconds;
    }
}
