using System.Text.RegularExpressions;
using Vitrine.Core.Sort.TagSet;

namespace Vitrine.Core.Tests;

public sealed partial class PaletteTests
{
    [Fact]
    public void Colours_that_leave_are_those_of_the_interface_on_light_paper()
    {
        var folder = AppContext.BaseDirectory;
        while (!File.Exists(Path.Combine(folder, "Vitrine.slnx")))
            folder = Path.GetDirectoryName(folder)!;
        var inStyles = Colour()
            .Matches(File.ReadAllText(Path.Combine(folder, "web/src/styles.css")))
            .ToDictionary(m => int.Parse(m.Groups[1].Value), m => m.Groups[2].Value);
        Assert.Equal(Palette.Count, inStyles.Count);
        Assert.All(inStyles, c => Assert.Equal(c.Value, Palette.Of(c.Key)));
        Assert.Equal(Palette.Of(0), Palette.Of(Palette.Count));
    }

    // Values that CSS Color 4 gives for these colours (from memory).
    [Theory]
    [InlineData("#ffffff", 1, 0, 0)]
    [InlineData("#ff0000", 0.62796, 0.22486, 0.12585)]
    [InlineData("#00ff00", 0.86644, -0.23389, 0.17950)]
    [InlineData("#0000ff", 0.45201, -0.03246, -0.31153)]
    public void Colours_are_measured_as_they_look(string colour, double lightness, double green, double blue)
    {
        var (l, a, b) = Palette.OkLab(colour);
        Assert.Equal((lightness, green, blue), (Math.Round(l, 3), Math.Round(a, 3), Math.Round(b, 3)), Within);
    }

    private static readonly EqualityComparer<(double, double, double)> Within = EqualityComparer<(double, double, double)>.Create(
        (x, y) => Math.Abs(x.Item1 - y.Item1) < 0.001 && Math.Abs(x.Item2 - y.Item2) < 0.001 && Math.Abs(x.Item3 - y.Item3) < 0.001
    );

    [Theory]
    [InlineData("#90ee90", "#3d7d36 #53702a #1f7a80")] // light green is a green
    [InlineData("#9e9", "#3d7d36 #53702a #1f7a80")]
    [InlineData("#FFB6C1", "#a8407a #9c3a3f #b4532a")] // light pink
    [InlineData("#add8e6", "#2c6fa8 #4a6478 #1f7a80")] // light blue
    [InlineData("#2C6FA8", "#2c6fa8")]
    public void A_colour_is_shown_in_the_one_that_looks_most_like_it(string colour, string oneOf) =>
        Assert.Contains(Palette.Of(Palette.Nearest(colour)!.Value), oneOf.Split(' '));

    [Theory]
    [InlineData("#9E9", "#99ee99")]
    [InlineData("#90EE90", "#90ee90")]
    [InlineData("90ee90", null)]
    [InlineData("#90ee9", null)]
    [InlineData("#ggg", null)]
    [InlineData("", null)]
    [InlineData(null, null)]
    public void Colours_of_three_digits_are_read_too(string? colour, string? read) => Assert.Equal(read, Palette.Read(colour));

    [GeneratedRegex(@"--tag-(\d+): light-dark\((#[0-9a-f]{6})")]
    private static partial Regex Colour();
}
