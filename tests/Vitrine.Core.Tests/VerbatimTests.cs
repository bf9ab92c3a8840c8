using FsCheck.Xunit;
using Vitrine.Core.Gather.Privacy;

namespace Vitrine.Core.Tests;

public class VerbatimTests
{
    private static readonly Verbatim Said = new(
        ["I keep the timetable on the fridge, where nobody looks at it.", "It’s always the box."],
        ["It’s always the box", "the box"]
    );

    [Theory]
    [InlineData("She says: “I keep the timetable on the fridge, where nobody looks at it.” So.", "She says: “[…].” So.")]
    [InlineData("I KEEP the timetable – on the fridge.", "[…].")]
    [InlineData("They keep the timetable on the fridge here.", "They […] here.")]
    [InlineData("Somebody keeps a timetable on the fridge.", "Somebody keeps a timetable on the fridge.")]
    [InlineData("“It's always the box”, they say, and: the box.", "“[…]”, they say, and: the box.")]
    [InlineData("on the fridge where nobody looks, and I keep the timetable at home", "[…], and I keep the timetable at home")]
    [InlineData("", "")]
    public void What_somebody_said_is_found_word_for_word(string written, string left) => Assert.Equal(left, Said.Without(written, "[…]"));

    [Fact]
    public void Of_somebody_who_said_nothing_nothing_is_found() =>
        Assert.Equal("I keep the timetable on the fridge", new Verbatim([], []).Without("I keep the timetable on the fridge", "x"));

    [Property]
    public bool No_six_words_of_theirs_are_left(string[] before, string[] after)
    {
        var written = string.Join(' ', (before ?? []).Append("I keep the timetable on the fridge").Concat(after ?? []));
        var left = Said.Without(written, "/");
        return !left.Contains("I keep the timetable on the fridge", StringComparison.Ordinal) && Said.Without(left, "/") == left;
    }
}
