using System.Text;
using System.Text.RegularExpressions;

namespace Vitrine.Formats.Documents;

/// <summary>The styles of an .rtf file that are headings: those that say an outline level, and those that are called headings.</summary>
internal sealed partial class RtfStyles
{
    private readonly Dictionary<int, int> headings = [];
    private readonly StringBuilder name = new();
    private int style;

    /// <summary>Another style begins; it is number 0 as long as it says none.</summary>
    public void Begin()
    {
        style = 0;
        name.Clear();
    }

    public void Number(int number) => style = number;

    public void Outline(int level) => headings[style] = level;

    /// <summary>A letter of the style's name, which ends with a semicolon. A level that was said counts for more than a name.</summary>
    public void Letter(char letter)
    {
        if (letter != ';')
        {
            name.Append(letter);
            return;
        }
        if (!headings.ContainsKey(style) && HeadingName().Match(name.ToString()) is { Success: true } match)
            headings[style] = match.Groups["level"] is { Success: true } level ? level.Value[0] - '1' : 0;
        name.Clear();
    }

    /// <summary>The outline level of a style, from 0; null for one that is no heading.</summary>
    public int? LevelOf(int number) => headings.TryGetValue(number, out var level) ? level : null;

    /// <summary>As word processors call them in the languages that they are most used in (common practice, no source).</summary>
    [GeneratedRegex(
        @"^\s*(?:heading|Überschrift|titre|título|titolo|kop|rubrik|overskrift)\s*(?<level>[1-9])\b|^\s*title\s*$",
        RegexOptions.IgnoreCase
    )]
    private static partial Regex HeadingName();
}
