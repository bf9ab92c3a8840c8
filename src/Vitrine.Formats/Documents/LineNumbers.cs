using System.Globalization;
using System.Text.RegularExpressions;

namespace Vitrine.Formats.Documents;

/// <summary>
/// Numbers of lines that the print of a word processor leaves inside a text that is pasted: before each line, or before each fifth or
/// tenth, or on lines of their own, from 1 upwards, on each page anew or through all pages (common practice, no source).
/// </summary>
internal static partial class LineNumbers
{
    /// <summary>Fewer numbers than these may be a list.</summary>
    private const int Fewest = 15;

    /// <summary>So many of them must follow each other in even steps.</summary>
    private const double Even = 0.95;

    /// <summary>The text without them, and whether there were any.</summary>
    public static (string Text, bool Found) Without(string text)
    {
        var lines = text.Split('\n');
        var numbers = lines
            .Select((line, at) => (At: at, Match: Number().Match(line)))
            .Where(n => n.Match.Success)
            .Select(n => (n.At, n.Match.Length, Value: int.Parse(n.Match.Groups[1].Value, CultureInfo.InvariantCulture)))
            .ToList();
        if (numbers.Count < Fewest)
            return (text, false);
        var step = numbers.Zip(numbers.Skip(1), (a, b) => b.Value - a.Value).CountBy(s => s).MaxBy(s => s.Value).Key;
        if (step is not (1 or 2 or 5 or 10))
            return (text, false);
        // A page begins anew; and as many lines stand between two numbers as they differ.
        var even = numbers
            .Zip(numbers.Skip(1))
            .Count(p => p.Second.Value - p.First.Value == step && Fits(lines, p.First.At, p.Second.At, step));
        var anew = numbers.Count(n => n.Value <= step);
        if (even + anew < (numbers.Count - 1) * Even || anew > (numbers.Count / 6) + 1 || numbers[0].Value > step)
            return (text, false);
        var lengths = numbers.ToDictionary(n => n.At, n => n.Length);
        // A number on a line of its own goes with its line.
        var bare = lines
            .Select((line, at) => (Line: line, Length: lengths.GetValueOrDefault(at)))
            .Where(l => l.Length == 0 || l.Length < l.Line.Length);
        return (string.Join('\n', bare.Select(l => l.Line[l.Length..])), true);
    }

    private static int Worded(string[] lines, int from, int to) => lines[from..to].Count(l => !string.IsNullOrWhiteSpace(l));

    /// <summary>Numbers on lines of their own stand between those they count.</summary>
    private static bool Fits(string[] lines, int from, int to, int step) =>
        Worded(lines, from, to) is var worded && (worded == step || worded == step * 2 || worded == step + 1);

    [GeneratedRegex(@"^[ \t]*(\d{1,5})(?=[ \t]|$)[ \t]*")]
    private static partial Regex Number();
}
