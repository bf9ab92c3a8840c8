using System.Globalization;

namespace Vitrine.Core.Sort.TagSet;

/// <summary>The colours of tags on light paper, as what leaves carries them; the interface has the same in its styles.</summary>
public static class Palette
{
    private static readonly string[] Colours =
    [
        "#b4532a",
        "#2c6fa8",
        "#3d7d36",
        "#a8407a",
        "#6a58a8",
        "#7a6a1f",
        "#1f7a80",
        "#9c3a3f",
        "#4a6478",
        "#8a5a3c",
        "#53702a",
        "#855098",
    ];

    /// <summary>How many there are.</summary>
    public static int Count => Colours.Length;

    /// <summary>A colour as #rrggbb.</summary>
    /// <param name="number">Its number, from 0; beyond the last they begin again.</param>
    public static string Of(int number) => Colours[number % Colours.Length];

    /// <summary>The number of the colour that is nearest to another, by the distance of red, green and blue.</summary>
    /// <param name="colour">As #rrggbb, in any case; null for what is none.</param>
    public static int? Nearest(string? colour)
    {
        if (
            colour is not { Length: 7 }
            || colour[0] != '#'
            || !int.TryParse(colour[1..], NumberStyles.AllowHexSpecifier, null, out var given)
        )
            return null;
        return Enumerable.Range(0, Count).MinBy(n => Distance(given, int.Parse(Colours[n][1..], NumberStyles.AllowHexSpecifier, null)));

        static int Distance(int a, int b) =>
            Squared((a >> 16) - (b >> 16)) + Squared(((a >> 8) & 255) - ((b >> 8) & 255)) + Squared((a & 255) - (b & 255));
        static int Squared(int difference) => difference * difference;
    }
}
