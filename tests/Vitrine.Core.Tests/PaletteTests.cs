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

    [GeneratedRegex(@"--tag-(\d+): light-dark\((#[0-9a-f]{6})")]
    private static partial Regex Colour();
}
