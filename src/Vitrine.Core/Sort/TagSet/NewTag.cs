using System.Globalization;

namespace Vitrine.Core.Sort.TagSet;

/// <summary>A tag as it is asked for while reading: made when there is none of the name yet.</summary>
/// <param name="Name">Its name.</param>
/// <param name="Above">The names above it, topmost first; they are made where there are none. None for a tag without a family.</param>
/// <param name="Definition">What it is; empty when that is not said yet.</param>
/// <param name="Colour">Its number in the palette, from 0; null to take on its parent's.</param>
public sealed record NewTag(TagName Name, IReadOnlyList<TagName> Above, string Definition, int? Colour = null)
{
    /// <summary>How many colours the palette has.</summary>
    public const int Colours = 12;

    /// <summary>Stands before the number of a colour, from 1, with white space before it.</summary>
    private const string Coloured = " ●";

    /// <summary>Stands between a tag and one under it, with white space on both sides.</summary>
    private const string Under = " / ";

    /// <summary>Stands between a name and what it is, with white space on both sides.</summary>
    private const string Is = " = ";

    /// <summary>A tag of that name and no more.</summary>
    public static implicit operator NewTag(TagName name) => FromTagName(name);

    /// <summary>A tag of that name and no more.</summary>
    public static NewTag FromTagName(TagName name) => new(name, [], "");

    /// <summary>
    /// Reads what was typed: a name, the names above it, and what it is, as in "hearing / too late = The news came when nothing could be
    /// changed"; a colour by its number in the palette stands behind the name, as in "too late ●3". Null when a part cannot be a name.
    /// </summary>
    /// <param name="typed">What was typed.</param>
    /// <param name="length">How many characters the part has that is no name, or the name.</param>
    public static NewTag? Read(string typed, out int length)
    {
        var spaced = $" {typed.ReplaceLineEndings(" ")} ";
        var at = spaced.IndexOf(Is, StringComparison.Ordinal);
        var (path, definition) = at < 0 ? (spaced, "") : (spaced[..(at + 1)], spaced[(at + Is.Length)..].Trim());
        var last = path.LastIndexOf(Coloured, StringComparison.Ordinal);
        int? colour = null;
        if (
            last >= 0
            && int.TryParse(path[(last + Coloured.Length)..], NumberStyles.AllowTrailingWhite, CultureInfo.InvariantCulture, out var number)
            && number is >= 1 and <= Colours
        )
            (path, colour) = (path[..last], number - 1);
        length = 0;
        var names = new List<TagName>();
        foreach (var part in path.Split(Under))
        {
            if (TagName.Read(part, out length) is not { } name)
                return null;
            names.Add(name);
        }
        return new NewTag(names[^1], names[..^1], definition, colour);
    }
}
