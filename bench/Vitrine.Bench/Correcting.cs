using System.Diagnostics;
using DiffPlex;
using DiffPlex.Chunkers;
using Vitrine.Core.Access;
using Vitrine.Core.Gather.Corrections;
using Vitrine.Core.Gather.Sources;
using Vitrine.Core.Gather.Turns;
using Vitrine.Core.Mark.Observations;
using Vitrine.Core.Text;
using Vitrine.Storage.Access;
using Vitrine.Storage.Gather.Corrections;
using Vitrine.Storage.Gather.Participants;
using Vitrine.Storage.Gather.Sources;
using Vitrine.Storage.Gather.Studies;
using Vitrine.Storage.Gather.Turns;
using Vitrine.Storage.Mark.Observations;
using Vitrine.Storage.Trail;

namespace Vitrine.Bench;

/// <summary>An interview of 30,000 words with 600 turns and 300 observations, in which 200 typing errors are mended at once.</summary>
internal static class Correcting
{
    private static readonly int Words = Size.Of(30_000, tiny: 3000);
    private static readonly int Errors = Size.Of(200, tiny: 20);
    private static readonly int Marks = Size.Of(300, tiny: 30);
    private static readonly int Times = Size.Of(9, tiny: 2);

    public static void Run(string folder)
    {
        var random = new Random(3);
        var words = Enumerable
            .Range(0, Words)
            .Select(i => i % 50 == 0 ? $"\n\n{(i % 100 == 0 ? "Ida" : "Wren")}:" : $"w{(int)(4_000 * Math.Pow(random.NextDouble(), 3))}")
            .ToArray();
        var text = CanonicalText.From(string.Join(' ', words)).Trim();
        foreach (var i in Enumerable.Range(0, Errors).Select(_ => random.Next(Words)).Where(i => i % 50 != 0))
            words[i] += "x";
        var corrected = CanonicalText.From(string.Join(' ', words)).Trim();

        var workspace = new Workspace(folder, TimeProvider.System);
        var accounts = new AccountStore(workspace);
        var account = accounts.Add("Ida", "ida@vitrine.example", Role.Steward, "x");
        var ida = new Actor(account.Id, account.Name, account.Role);
        var study = new StudyStore(workspace).Create(ida, new StudyText("Long", "", "", [])).Id!.Value;
        var sources = new SourceStore(workspace, new ParticipantStore(workspace));
        var corrections = new CorrectionStore(workspace, sources, new TurnStore(workspace, new ParticipantStore(workspace)));
        var turns = TurnReading.Of(text);
        var source = sources.Add(ida, study, new NewSource("Long", SourceKind.Interview, null, null, text, turns, []), ["Ida"]).Id!.Value;
        var observations = new ObservationStore(workspace);
        for (var i = 0; i < Marks; i++)
            observations.Make(
                ida,
                source,
                new AnchorGiven(AnchorKind.Text, i * (text.Length / Marks), i * (text.Length / Marks) + 80),
                [],
                []
            );

        var diff = Median(() => Differ.Instance.CreateDiffs(text, corrected, false, false, new WordChunker()));
        var follow = Median(() =>
        {
            var moved = Reanchor.Between(text, corrected);
            foreach (var o in observations.In(source, ida.AccountId))
                moved.Of(((TextAnchor)o.Anchor).Range);
        });
        var undo = new Undo(workspace);
        var stored = Median(
            () =>
            {
                var moved = Reanchor.Between(text, corrected);
                corrections.Correct(
                    ida,
                    source,
                    new Correction(sources.Get(source, ida.AccountId).TextHash, moved, TurnReading.Of(corrected), null),
                    ["Ida"]
                );
            },
            () => undo.Back(ida, study)
        );
        Console.WriteLine(
            $"Correcting: {Words:N0} words, {turns.Count} turns, {Marks} observations, {Errors} typing errors mended at once, "
                + $"medians of {Times}"
        );
        Console.WriteLine(
            "| the words compared by the package alone | compared, and every observation followed | stored, with turns, "
                + "observations, index and trail |"
        );
        Console.WriteLine("|---|---|---|");
        Console.WriteLine($"| {diff:F0} ms | {follow:F0} ms ({follow / diff:F1} times) | {stored:F0} ms ({stored / diff:F1} times) |\n");
    }

    private static double Median(Action work, Action? between = null)
    {
        var times = new List<double>();
        for (var i = 0; i < Times; i++)
        {
            var watch = Stopwatch.StartNew();
            work();
            times.Add(watch.Elapsed.TotalMilliseconds);
            between?.Invoke();
        }
        return Timing.At(0.5, times);
    }
}
