using FsCheck.Xunit;
using Vitrine.Core.Text;

namespace Vitrine.Core.Tests;

public class TextRangeTests
{
    [Theory]
    [InlineData(-1, 3)]
    [InlineData(3, 3)]
    [InlineData(5, 4)]
    public void A_range_is_never_empty_or_negative(int start, int end) =>
        Assert.ThrowsAny<ArgumentException>(() => new TextRange(start, end));

    [Theory]
    [InlineData(0, 5, 5, 9, false)]
    [InlineData(0, 5, 4, 9, true)]
    [InlineData(2, 3, 0, 9, true)]
    public void Ranges_touch_when_they_share_a_unit(int a, int b, int c, int d, bool touch)
    {
        Assert.Equal(touch, new TextRange(a, b).Touches(new TextRange(c, d)));
        Assert.Equal(touch, new TextRange(c, d).Touches(new TextRange(a, b)));
    }

    [Fact]
    public void Tidying_drops_white_space_at_the_edges() =>
        Assert.Equal("the box", TextRange.Tidy("  the box \n", 0, 11)!.Value.Of("  the box \n"));

    [Fact]
    public void Tidying_turns_a_backward_selection_round() => Assert.Equal(new TextRange(2, 5), TextRange.Tidy("abcdefg", 5, 2));

    [Fact]
    public void Tidying_keeps_inside_the_text() => Assert.Equal(new TextRange(0, 3), TextRange.Tidy("abc", -4, 99));

    [Fact]
    public void White_space_alone_is_no_stretch() => Assert.Null(TextRange.Tidy("a  \n b", 1, 4));

    [Fact]
    public void Tidying_never_cuts_an_astral_character()
    {
        const string text = "see \U0001F6A2 go";
        Assert.Equal("\U0001F6A2", TextRange.Tidy(text, 5, 6)!.Value.Of(text));
        Assert.Equal("\U0001F6A2", TextRange.Tidy(text, 4, 5)!.Value.Of(text));
    }

    [Property]
    public bool A_tidy_range_can_always_be_quoted(string? text, int start, int end)
    {
        var canonical = CanonicalText.From(text ?? "");
        if (TextRange.Tidy(canonical, start, end) is not { } range)
            return true;
        var words = range.Of(canonical);
        return words == words.Trim() && words.Length == range.Length && !char.IsLowSurrogate(words[0]) && !char.IsHighSurrogate(words[^1]);
    }

    private static TextRange Range(int start, int length) => new(Math.Abs(start % 200), Math.Abs(start % 200) + 1 + Math.Abs(length % 50));

    [Property]
    public void Covering_is_associative_and_loses_nothing(int a, int b, int c, int l, int m, int n)
    {
        var (x, y, z) = (Range(a, l), Range(b, m), Range(c, n));
        Assert.Equal(x.Cover(y).Cover(z), x.Cover(y.Cover(z)));
        Assert.Equal(x.Cover(y), y.Cover(x));
        Assert.Equal(x, x.Cover(y).Clip(x));
    }

    [Property]
    public void Clipping_is_what_both_share_and_shifting_goes_back(int a, int b, int c, int l, int m, int n)
    {
        var (x, y, z) = (Range(a, l), Range(b, m), Range(c, n));
        Assert.Equal(x.Clip(y)?.Clip(z), y.Clip(z)?.Clip(x));
        Assert.Equal(x.Touches(y), x.Clip(y) is not null);
        Assert.Equal(x, x.Shift(l & 0xff).Shift(-(l & 0xff)));
        Assert.Equal(x.Clip(y)?.Shift(7), x.Shift(7).Clip(y.Shift(7)));
    }

    [Property]
    public void Splitting_and_covering_gives_the_words_back(int at)
    {
        const string text = " It\u2019s \U0001F6A2 always the  box. ";
        var whole = TextRange.Tidy(text, 0, text.Length)!.Value;
        var (before, after) = whole.Split(text, at % 40);
        Assert.Equal(whole, before is { } b && after is { } a ? b.Cover(a) : before ?? after);
        Assert.False(before is { } first && after is { } second && first.Touches(second));
        Assert.All(new[] { before, after }, part => Assert.False(part is { } p && char.IsLowSurrogate(text[p.Start])));
    }
}
