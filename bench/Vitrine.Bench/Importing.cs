using System.Diagnostics;
using System.Globalization;
using DocumentFormat.OpenXml;
using DocumentFormat.OpenXml.Packaging;
using DocumentFormat.OpenXml.Wordprocessing;

namespace Vitrine.Bench;

/// <summary>
/// 200 interviews of 8,000 words come in as Word documents while somebody else marks, beside the same person marking on an idle server.
/// </summary>
internal static class Importing
{
    private static readonly int Files = Size.Of(200, tiny: 3);
    private static readonly int Words = Size.Of(8_000, tiny: 800);
    private const int WordsInTurn = 40;
    private const int MarkEvery = 250;
    private static readonly int IdleSeconds = Size.Of(30, tiny: 1);

    public static async Task Run(string folder)
    {
        using var process = Screen.Serve(folder);
        try
        {
            var una = await Screen.Open("una", setUp: true);
            await una.Write(
                "accounts",
                new
                {
                    name = "Ida",
                    email = "ida@vitrine.example",
                    password = Screen.Password,
                    role = "steward",
                }
            );
            var ida = await Screen.Open("ida", setUp: false);
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
            var text = string.Join(' ', Enumerable.Range(0, Words).Select(i => $"word{i}"));
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

            var watch = Stopwatch.StartNew();
            var idle = await una.Mark(source, text.Length, MarkEvery, () => watch.Elapsed.TotalSeconds >= IdleSeconds, new Random(1));

            var documents = Enumerable.Range(0, Files).Select(Interview).ToList();
            watch.Restart();
            var over = false;
            var marking = una.Mark(source, text.Length, MarkEvery, () => Volatile.Read(ref over), new Random(2));
            for (var i = 0; i < Files; i++)
                await ida.Bring(study, $"interview {i:000}.docx", documents[i]);
            var sent = watch.Elapsed;
            while ((await ida.Read($"studies/{study}/imports")).AsArray().Any(j => (string)j!["state"]! is "waiting" or "working"))
                await Task.Delay(200);
            var done = watch.Elapsed;
            Volatile.Write(ref over, true);
            var busy = await marking;
            var added = (await ida.Read($"studies/{study}/imports")).AsArray().Count(j => (string)j!["state"]! == "done");
            var memory = File.ReadLines($"/proc/{process.Id}/status")
                .First(l => l.StartsWith("VmHWM", StringComparison.Ordinal))
                .Split(':')[1]
                .Trim();
            Console.WriteLine(
                $"Importing: {added} of {Files} documents of {Words:N0} words in {done.TotalSeconds:F1} s (all had been sent "
                    + $"after {sent.TotalSeconds:F1} s), memory of the server at most {memory}"
            );
            Console.WriteLine("| somebody else’s marks | saved | median | 95th percentile | slowest |");
            Console.WriteLine("|---|---|---|---|---|");
            Console.WriteLine(
                $"| idle server | {idle.Count} | {Timing.At(0.5, idle):F1} ms | {Timing.At(0.95, idle):F1} ms | {idle.Max():F0} ms |"
            );
            Console.WriteLine(
                $"| while they come in | {busy.Count} | {Timing.At(0.5, busy):F1} ms | {Timing.At(0.95, busy):F1} ms | {busy.Max():F0} ms |"
            );
            Console.WriteLine(
                $"| times | | {Timing.At(0.5, busy) / Timing.At(0.5, idle):F1} | {Timing.At(0.95, busy) / Timing.At(0.95, idle):F1} | |\n"
            );
        }
        finally
        {
            process.Kill();
        }
    }

    private static byte[] Interview(int number)
    {
        var random = new Random(number);
        using var stream = new MemoryStream();
        using (var document = WordprocessingDocument.Create(stream, WordprocessingDocumentType.Document))
        {
            var body = new Body();
            for (var turn = 0; turn < Words / WordsInTurn; turn++)
            {
                var said = string.Join(
                    ' ',
                    Enumerable.Range(0, WordsInTurn).Select(_ => $"word{random.Next(6_000).ToString(CultureInfo.InvariantCulture)}")
                );
                body.AppendChild(new Paragraph(new Run(new Text($"{(turn % 2 == 0 ? "Una" : $"P{number}")}: {said}."))));
            }
            document.AddMainDocumentPart().Document = new Document(body);
        }
        return stream.ToArray();
    }
}
