using System.Globalization;

namespace Vitrine.Core.Mark.Observations;

/// <summary>
/// A free outline around a part of a picture: at least three corners, each inside the picture, in ten-thousandths of its width and height.
/// It is closed from the last corner to the first. What lies inside is told by the even-odd rule (SVG 1.1, section 11.3).
/// </summary>
/// <remarks>
/// Written as SVG writes points: "1000,2000 3000,2500 1500,4000". Its area is counted in <see cref="StripsAtMost"/> strips across its
/// height, so that it is exact to about a hundredth of its box.
/// </remarks>
public sealed class Outline
{
    /// <summary>The most corners.</summary>
    public const int Most = 400;

    private const int StripsAtMost = 100;

    private readonly (int X, int Y)[] corners;

    private Outline((int X, int Y)[] corners)
    {
        this.corners = corners;
        (X, Y) = (corners.Min(c => c.X), corners.Min(c => c.Y));
        (Width, Height) = (corners.Max(c => c.X) - X, corners.Max(c => c.Y) - Y);
    }

    /// <summary>The left edge of the least box around it.</summary>
    public int X { get; }

    /// <summary>The upper edge of that box.</summary>
    public int Y { get; }

    /// <summary>How wide that box is.</summary>
    public int Width { get; }

    /// <summary>How high that box is.</summary>
    public int Height { get; }

    /// <summary>Its corners as text.</summary>
    public override string ToString() => string.Join(' ', corners.Select(c => string.Create(CultureInfo.InvariantCulture, $"{c.X},{c.Y}")));

    /// <summary>Reads corners; null where the text says none, too few or too many, or some outside the picture, or where they hold
    /// nothing.</summary>
    public static Outline? Read(string? text)
    {
        if (text is null || text.Length > Most * 12)
            return null;
        var found = new List<(int X, int Y)>();
        foreach (var part in text.Split(' ', StringSplitOptions.RemoveEmptyEntries))
        {
            var comma = part.IndexOf(',', StringComparison.Ordinal);
            if (comma < 0 || Number(part[..comma]) is not { } x || Number(part[(comma + 1)..]) is not { } y)
                return null;
            found.Add((x, y));
        }
        if (found.Count is < 3 or > Most)
            return null;
        var outline = new Outline([.. found]);
        return outline is { Width: > 0, Height: > 0 } && outline.Strips().Count > 0 ? outline : null;
    }

    /// <summary>Rectangles that share no area and together cover what lies inside: left, upper, right and lower edges.</summary>
    public IReadOnlyList<(int Left, int Top, int Right, int Bottom)> Strips()
    {
        var strips = new List<(int, int, int, int)>();
        var high = Math.Max(1, (Height + StripsAtMost - 1) / StripsAtMost);
        for (var top = Y; top < Y + Height; top += high)
        {
            var bottom = Math.Min(top + high, Y + Height);
            var crossings = CrossingsAt((top + bottom) / 2.0);
            for (var i = 0; i + 1 < crossings.Count; i += 2)
            {
                var (left, right) = ((int)Math.Round(crossings[i]), (int)Math.Round(crossings[i + 1]));
                if (right > left)
                    strips.Add((left, top, right, bottom));
            }
        }
        return strips;
    }

    /// <summary>Which pixels of a picture of its box lie inside, by their middle, row after row.</summary>
    /// <param name="width">How many pixels the box is wide.</param>
    /// <param name="height">How many it is high.</param>
    public bool[] Pixels(int width, int height)
    {
        var inside = new bool[width * height];
        for (var row = 0; row < height; row++)
        {
            var crossings = CrossingsAt(Y + ((row + 0.5) * Height / height));
            for (var i = 0; i + 1 < crossings.Count; i += 2)
            {
                var left = (int)Math.Ceiling(((crossings[i] - X) * width / Width) - 0.5);
                var right = (int)Math.Ceiling(((crossings[i + 1] - X) * width / Width) - 0.5);
                if (right > left)
                    inside.AsSpan((row * width) + left, right - left).Fill(true);
            }
        }
        return inside;
    }

    /// <summary>Where its sides cross a line across the picture, from left to right: what lies inside is between the first and the second,
    /// the third and the fourth.</summary>
    private List<double> CrossingsAt(double y)
    {
        var crossings = new List<double>();
        for (var i = 0; i < corners.Length; i++)
        {
            var (a, b) = (corners[i], corners[(i + 1) % corners.Length]);
            if (a.Y <= y != b.Y <= y)
                crossings.Add(a.X + ((y - a.Y) * (b.X - a.X) / (b.Y - a.Y)));
        }
        crossings.Sort();
        return crossings;
    }

    private static int? Number(string text) =>
        int.TryParse(text, NumberStyles.None, CultureInfo.InvariantCulture, out var number) && number <= RegionAnchor.Whole ? number : null;
}
