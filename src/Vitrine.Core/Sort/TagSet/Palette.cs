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

    /// <summary>A colour as #rrggbb in small letters; null for what is none.</summary>
    /// <param name="colour">As #rgb or #rrggbb, in any case.</param>
    public static string? Read(string? colour)
    {
        if (colour is not { Length: 4 or 7 } || colour[0] != '#' || !colour.Skip(1).All(char.IsAsciiHexDigit))
            return null;
        var digits = colour[1..].ToLowerInvariant();
        return "#" + (digits.Length == 3 ? string.Concat(digits.Select(d => $"{d}{d}")) : digits);
    }

    /// <summary>
    /// The number of the colour that looks most like another: the distance in OKLab, a space in which equal distances look equal (Ottosson
    /// 2020, "A perceptual color space for image processing").
    /// </summary>
    /// <param name="colour">As #rgb or #rrggbb, in any case; null for what is none.</param>
    public static int? Nearest(string? colour)
    {
        if (Read(colour) is not { } read)
            return null;
        var given = OkLab(read);
        return Enumerable.Range(0, Count).MinBy(n => Distance(given, OkLab(Colours[n])));

        static double Distance((double L, double A, double B) one, (double L, double A, double B) other) =>
            Squared(one.L - other.L) + Squared(one.A - other.A) + Squared(one.B - other.B);
        static double Squared(double difference) => difference * difference;
    }

    /// <summary>A colour in OKLab: lightness 0..1, green to red, blue to yellow.</summary>
    /// <param name="colour">As #rrggbb.</param>
    public static (double L, double A, double B) OkLab(string colour)
    {
        double Linear(int at)
        {
            var value = int.Parse(colour.AsSpan(at, 2), NumberStyles.AllowHexSpecifier, CultureInfo.InvariantCulture) / 255.0;
            return value <= 0.04045 ? value / 12.92 : Math.Pow((value + 0.055) / 1.055, 2.4);
        }
        var (r, g, b) = (Linear(1), Linear(3), Linear(5));
        var l = Math.Cbrt((0.4122214708 * r) + (0.5363325363 * g) + (0.0514459929 * b));
        var m = Math.Cbrt((0.2119034982 * r) + (0.6806995451 * g) + (0.1073969566 * b));
        var s = Math.Cbrt((0.0883024619 * r) + (0.2817188376 * g) + (0.6299787005 * b));
        return (
            (0.2104542553 * l) + (0.7936177850 * m) - (0.0040720468 * s),
            (1.9779984951 * l) - (2.4285922050 * m) + (0.4505937099 * s),
            (0.0259040371 * l) + (0.7827717662 * m) - (0.8086757660 * s)
        );
    }
}
