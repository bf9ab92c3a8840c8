using FsCheck.Xunit;
using Vitrine.Core.Sort.TagSet;

namespace Vitrine.Core.Tests;

public sealed class WrittenNamesTests
{
    private static readonly string[] Pieces = ["late", "/", "\\", "\\/", ";", "\\;", "a/b", "“c”", "//", "; /"];

    /// <summary>Names as tags have them: trimmed, single spaces, none empty.</summary>
    private static List<string> Names(int seed)
    {
        var random = new Random(seed);
        return
        [
            .. Enumerable
                .Range(0, random.Next(5))
                .Select(_ => string.Join(' ', Enumerable.Range(0, random.Next(1, 4)).Select(_ => Pieces[random.Next(Pieces.Length)]))),
        ];
    }

    [Property]
    public bool Names_above_each_other_are_read_back_as_they_were(int seed) =>
        WrittenNames.ReadPath(WrittenNames.Path(Names(seed))).SequenceEqual(Names(seed));

    [Property]
    public bool Names_beside_each_other_are_read_back_as_they_were(int seed) =>
        WrittenNames.ReadList(WrittenNames.List(Names(seed))).SequenceEqual(Names(seed));

    [Fact]
    public void What_is_written_by_hand_is_read_too()
    {
        Assert.Equal(["hearing", "too late"], WrittenNames.ReadPath(" hearing  /  too late "));
        Assert.Equal(["either/or"], WrittenNames.ReadPath("either/or"));
        Assert.Equal(["in vain", "hearsay"], WrittenNames.ReadList("in vain;hearsay ; ;"));
        Assert.Equal(["a\\b"], WrittenNames.ReadList("a\\b"));
        Assert.Empty(WrittenNames.ReadPath(""));
    }
}

public sealed class NearestColourTests
{
    [Fact]
    public void Each_colour_is_the_nearest_to_itself_and_others_go_to_one_of_them()
    {
        for (var n = 0; n < Palette.Count; n++)
            Assert.Equal(n, Palette.Nearest(Palette.Of(n).ToUpperInvariant()));
        // Pure blue and pure red: the palette's blue, and the nearer of its two reds.
        Assert.Equal("#6a58a8", Palette.Of(Palette.Nearest("#4433CC")!.Value));
        Assert.Equal("#9c3a3f", Palette.Of(Palette.Nearest("#A01020")!.Value));
    }

    [Theory]
    [InlineData(null)]
    [InlineData("")]
    [InlineData("red")]
    [InlineData("#12345")]
    [InlineData("#12345g")]
    [InlineData("1234567")]
    public void What_is_no_colour_is_none(string? given) => Assert.Null(Palette.Nearest(given));
}
