using System.Text.RegularExpressions;

namespace Vitrine.Formats.Documents;

/// <summary>
/// Finds what is printed at the head or foot of every page: lines among the outermost two that stand at the same height on at least half
/// of the pages and differ in nothing but numbers, and page numbers.
/// </summary>
internal static partial class RunningHeads
{
    private const int Outermost = 2;
    private const int FewestPages = 2;

    /// <summary>Takes them away.</summary>
    /// <returns>What was taken, each once, as it stands first.</returns>
    public static IReadOnlyList<string> TakeFrom(IReadOnlyList<PrintedPage> pages)
    {
        var outer = pages
            .SelectMany(page =>
                page.Lines.Take(Outermost).Concat(page.Lines.TakeLast(Outermost)).Distinct().Select(line => (Page: page, Line: line))
            )
            .ToList();
        var running = outer
            .GroupBy(o => (Form: Number().Replace(o.Line.Text, "#"), Height: Math.Round(o.Line.Baseline / 4)))
            .Where(g => IsRunning(g.Key.Form, g.Select(o => o.Page).Distinct().Count(), pages.Count))
            .SelectMany(g => g)
            .ToList();
        foreach (var (page, line) in running)
            page.Lines.Remove(line);
        return
        [
            .. running
                .Select(r => Number().Replace(r.Line.Text, "#"))
                .Distinct()
                .Select(form => running.First(r => Number().Replace(r.Line.Text, "#") == form).Line.Text)
                .Take(4),
        ];
    }

    private static bool IsRunning(string form, int on, int pages) =>
        on >= FewestPages && on * 2 >= pages && (on > FewestPages || PageNumber().IsMatch(form) || pages == FewestPages);

    [GeneratedRegex("[0-9]+")]
    private static partial Regex Number();

    [GeneratedRegex(@"^\W*(?:[Pp]age|p\.)?\s*#(?:\s*(?:/|of)\s*#)?\W*$")]
    private static partial Regex PageNumber();
}
