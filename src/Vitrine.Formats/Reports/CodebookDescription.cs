using System.Text.RegularExpressions;
using Vitrine.Core.Sort.TagSet;

namespace Vitrine.Formats.Reports;

/// <summary>
/// All that a tag says of itself as one text, where a format has a place for a description alone: what it is, then lines that begin with
/// what they say. A line of the definition that begins so stands behind a \.
/// </summary>
internal sealed partial record CodebookDescription(
    string Definition,
    string IsNot,
    IReadOnlyList<string> Aliases,
    Scale? Scale,
    bool? Settled
)
{
    private const string Not = "Not: ";
    private const string Also = "Also called: ";
    private const string Measure = "Scale: ";
    private const string State = "State: ";

    /// <summary>A tag in one text; that it is settled goes without saying.</summary>
    public static string Of(CodebookTag tag) =>
        string.Join(
            "\n",
            [
                .. Lines(tag.Definition).Select(line => Begun().IsMatch(line) ? @"\" + line : line),
                .. Lines(tag.IsNot).Select(line => Not + line),
                .. tag.Aliases.Count > 0 ? [Also + WrittenNames.List(tag.Aliases)] : (string[])[],
                .. tag.Scale.Length > 0 ? [Measure + tag.Scale] : (string[])[],
                .. tag.Settled ? (string[])[] : [State + "draft"],
            ]
        );

    /// <summary>What a text says; one that was written elsewhere is a definition.</summary>
    public static CodebookDescription Read(string text)
    {
        var lines = text.Split('\n');
        IEnumerable<string> Begins(string with) =>
            lines.Where(l => l.StartsWith(with, StringComparison.Ordinal)).Select(l => l[with.Length..].TrimEnd('\r'));
        return new CodebookDescription(
            string.Join("\n", lines.Where(l => !Begun().IsMatch(l) || l[0] == '\\').Select(l => Begun().IsMatch(l) ? l[1..] : l)).Trim(),
            string.Join("\n", Begins(Not)).Trim(),
            WrittenNames.ReadList(string.Join("; ", Begins(Also))),
            ScaleWords.Read(string.Join("", Begins(Measure))),
            Begins(State).Any(s => s == "draft") ? false : null
        );
    }

    private static IEnumerable<string> Lines(string text) => text.Length == 0 ? [] : text.ReplaceLineEndings("\n").Split('\n');

    [GeneratedRegex(@"^\\*(?:Not|Also called|Scale|State): ")]
    private static partial Regex Begun();
}
