using System.Text.RegularExpressions;

namespace Vitrine.Core.Sort.TagSet;

/// <summary>Several names in one cell, so that each is read back as it was, whatever stands in it.</summary>
public static partial class WrittenNames
{
    /// <summary>Names from the top one down: "Hearing / too late". A slash that stands alone in a name is written \/.</summary>
    public static string Path(IEnumerable<string> names) => string.Join(" / ", names.Select(n => Slash().Replace(n, @"$1\/")));

    /// <summary>The names of a path.</summary>
    public static IReadOnlyList<string> ReadPath(string cell) =>
        [
            .. cell.Split(" / ", StringSplitOptions.RemoveEmptyEntries | StringSplitOptions.TrimEntries)
                .Select(n => WrittenSlash().Replace(n, "$1/")),
        ];

    /// <summary>Names beside each other: "late news; no use any more". A semicolon in a name is written \;.</summary>
    public static string List(IEnumerable<string> names) => string.Join("; ", names.Select(n => Stop().Replace(n, @"\$0")));

    /// <summary>The names of a list.</summary>
    public static IReadOnlyList<string> ReadList(string cell) =>
        [.. Names().Matches(cell).Select(m => Stopped().Replace(m.Value, "$1").Trim()).Where(n => n.Length > 0)];

    [GeneratedRegex(@"(?<=^| )(\\*)/(?=$| )")]
    private static partial Regex Slash();

    [GeneratedRegex(@"(?<=^| )(\\*)\\/(?=$| )")]
    private static partial Regex WrittenSlash();

    [GeneratedRegex(@"[\\;]")]
    private static partial Regex Stop();

    [GeneratedRegex(@"\\([\\;])")]
    private static partial Regex Stopped();

    [GeneratedRegex(@"(?:\\[\\;]|[^;])+", RegexOptions.Singleline)]
    private static partial Regex Names();
}
