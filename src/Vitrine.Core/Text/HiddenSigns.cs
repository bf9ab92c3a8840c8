using System.Buffers;

namespace Vitrine.Core.Text;

/// <summary>
/// Signs that nobody sees and that split no word: soft hyphens (U+00AD), spaces of no width (U+200B, U+FEFF), joiners and what keeps
/// letters apart (U+200C, U+200D, U+2060). They stay in texts, and are left out where words are compared.
/// </summary>
public static class HiddenSigns
{
    /// <summary>All of them.</summary>
    public const string All = "\u00AD\u200B\u200C\u200D\u2060\uFEFF";

    private static readonly SearchValues<char> Signs = SearchValues.Create(All);

    /// <summary>Whether a sign is one of them.</summary>
    public static bool Has(char sign) => Signs.Contains(sign);

    /// <summary>A text without them.</summary>
    public static string Without(string text) => text.AsSpan().ContainsAny(Signs) ? string.Concat(text.Where(c => !Has(c))) : text;

    /// <summary>Where a position of the text without them stands in the text.</summary>
    /// <param name="text">The text with them.</param>
    /// <param name="position">In UTF-16 units of <see cref="Without"/>, 0 to its length.</param>
    public static int PlaceIn(string text, int position)
    {
        var at = 0;
        for (; position > 0 && at < text.Length; at++)
            position -= Has(text[at]) ? 0 : 1;
        return at;
    }
}
