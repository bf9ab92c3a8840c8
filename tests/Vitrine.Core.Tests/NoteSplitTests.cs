using Vitrine.Core.Gather.Sources;

namespace Vitrine.Core.Tests;

public class NoteSplitTests
{
    [Fact]
    public void Lines_are_notes_and_empty_ones_are_none() =>
        Assert.Equal(["one", "two", "three"], NoteSplit.Of("one\r\n  two \n\n \t\nthree\n", NoteBreak.Line));

    [Fact]
    public void Notes_between_blank_lines_keep_their_own_lines() =>
        Assert.Equal(["one\nstill one", "two"], NoteSplit.Of("\n\none\nstill one\n \n\ntwo\n\n", NoteBreak.BlankLine));

    [Fact]
    public void Nothing_is_no_note() => Assert.Empty(NoteSplit.Of(" \n\t\n", NoteBreak.BlankLine));

    [Fact]
    public void Forty_lines_are_forty_notes() =>
        Assert.Equal(40, NoteSplit.Of(string.Join('\n', Enumerable.Range(1, 40).Select(i => $"line {i}")), NoteBreak.Line).Count);

    [Theory]
    [InlineData("short", "short")]
    [InlineData("first line\nsecond", "first line")]
    [InlineData(
        "Tell us earlier, even if it is only a maybe, and tell the shop as well",
        "Tell us earlier, even if it is only a maybe, and tell the…"
    )]
    public void A_note_is_called_by_its_first_words(string note, string title) => Assert.Equal(title, NoteSplit.TitleOf(note));
}
