using Vitrine.Core.Sort.TagSet;

namespace Vitrine.Core.Tests;

public sealed class NewTagTests
{
    [Theory]
    [InlineData("too late", "", "too late", "")]
    [InlineData(" hearing /  too  late = News, when = too late ", "hearing", "too late", "News, when = too late")]
    [InlineData("a / b / c", "a > b", "c", "")]
    [InlineData("and/or=both", "", "and/or=both", "")]
    [InlineData("name =\nwhat", "", "name", "what")]
    [InlineData("name = ", "", "name", "")]
    public void A_tag_is_read_as_it_is_typed(string typed, string above, string name, string definition)
    {
        var tag = NewTag.Read(typed, out _)!;
        Assert.Equal((above, name, definition), (string.Join(" > ", tag.Above.Select(a => a.Shown)), tag.Name.Shown, tag.Definition));
    }

    [Theory]
    [InlineData("too late ●1", "too late", 0)]
    [InlineData("hearing / too late ●12 = News", "too late", 11)]
    [InlineData("too late ●13", "too late ●13", null)]
    [InlineData("too late ●", "too late ●", null)]
    public void A_colour_stands_behind_the_name(string typed, string name, int? colour)
    {
        var tag = NewTag.Read(typed, out _)!;
        Assert.Equal((name, colour), (tag.Name.Shown, tag.Colour));
    }

    [Theory]
    [InlineData("")]
    [InlineData(" / b")]
    [InlineData("a / ")]
    [InlineData(" = what it is")]
    public void What_has_a_part_without_a_name_is_none(string typed)
    {
        Assert.Null(NewTag.Read(typed, out var length));
        Assert.Equal(0, length);
    }
}
