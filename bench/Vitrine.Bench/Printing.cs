using System.Diagnostics;
using System.Globalization;
using System.Text;
using UglyToad.PdfPig;
using Vitrine.Formats;

namespace Vitrine.Bench;

/// <summary>A printed talk of 300 pages is read into turns, beside the package's reading of the letters alone.</summary>
internal static class Printing
{
    private static readonly int Turns = Size.Of(3_900, tiny: 60);
    private static readonly int Runs = Size.Of(5, tiny: 1);
    private const string Said =
        "Nobody tells you. You have to know somebody who works there, or a neighbour, or you stand in the rain until the next boat comes "
        + "in. ";

    public static void Run(string folder)
    {
        var print = Print(folder);
        var bytes = File.ReadAllBytes(print);
        // The first reading compiles; in the app the reader is kept warm.
        var (pages, turns) = (0, 0);
        var (letters, whole) = (new List<double>(), new List<double>());
        for (var i = 0; i <= Runs; i++)
        {
            var alone = Stopwatch.StartNew();
            using (var document = PdfDocument.Open(bytes))
                pages = document.GetPages().Count(p => p.Letters.Count > 0);
            var reading = Stopwatch.StartNew();
            using (var file = File.OpenRead(print))
                turns = SourceFile.Read(print, file).Turns.Count;
            if (i == 0)
                continue;
            letters.Add((alone.Elapsed - reading.Elapsed).TotalSeconds);
            whole.Add(reading.Elapsed.TotalSeconds);
        }
        var (a, b) = (Median(letters), Median(whole));
        Console.WriteLine(
            string.Create(
                CultureInfo.InvariantCulture,
                $"""
                Printing: {pages} pages, {turns:N0} turns; medians of {Runs}
                | the letters by the package alone | read into turns | times | memory at most |
                |---|---|---|---|
                | {a:0.00} s | {b:0.00} s | {b / a:0.0} | {Process.GetCurrentProcess().PeakWorkingSet64 / 1e6:0} MB |

                """
            )
        );
    }

    private static string Print(string folder)
    {
        var html = new StringBuilder(
            "<!doctype html><meta charset=utf-8><style>@page{size:A4;margin:20mm;@top-center{content:'Talks on the quay'}"
                + "@bottom-center{content:counter(page)}}body{font:11pt serif}p{margin:0 0 8pt}</style>"
        );
        string[] who = ["Ida", "Sorrel", "Wren"];
        for (var i = 0; i < Turns; i++)
            html.Append(CultureInfo.InvariantCulture, $"<p>{who[i % 3]}: {string.Concat(Enumerable.Repeat(Said, 1 + i % 4))}</p>");
        var (page, print) = (Path.Combine(folder, "talk.html"), Path.Combine(folder, "talk.pdf"));
        File.WriteAllText(page, html.ToString());
        var printer = new ProcessStartInfo(
            "chromium-headless-shell",
            ["--no-sandbox", "--disable-gpu", "--no-pdf-header-footer", $"--print-to-pdf={print}", $"file://{page}"]
        )
        {
            RedirectStandardError = true,
        };
        using var process = Process.Start(printer)!;
        process.StandardError.ReadToEnd();
        process.WaitForExit();
        return print;
    }

    private static double Median(List<double> values) => values.Order().ElementAt(values.Count / 2);
}
