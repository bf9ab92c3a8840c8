using FsCheck.Xunit;
using Vitrine.Core.Gather.Corrections;
using Vitrine.Core.Gather.LiveNotes;

namespace Vitrine.Core.Tests;

public class LiveLineTests
{
    [Theory]
    [InlineData("they all turn round", "they all turn round", "", false)]
    [InlineData("#queue they all turn round", "they all turn round", "queue", false)]
    [InlineData("they all #queue turn #named-ticket round", "they all turn round", "queue,named-ticket", false)]
    [InlineData("! the lamp is out", "the lamp is out", "", true)]
    [InlineData("!the lamp is out", "the lamp is out", "", true)]
    [InlineData("the lamp is out !", "the lamp is out", "", true)]
    [InlineData("off! he says, off!", "off! he says, off!", "", false)]
    [InlineData("gate #3 is shut, no. #2 too", "gate is shut, no. too", "3,2", false)]
    [InlineData("see a#b and # alone", "see a#b and # alone", "", false)]
    [InlineData("#queue #Queue twice", "twice", "queue", false)]
    [InlineData("#queue !", "", "queue", true)]
    [InlineData("Wren: it’s #café-life", "Wren: it’s", "café-life", false)]
    public void A_line_is_read(string typed, string words, string tags, bool starred)
    {
        var line = LiveLine.Read(typed);
        Assert.Equal((words, tags, starred), (line.Words, string.Join(',', line.Tags), line.Starred));
    }

    [Theory]
    [InlineData("“return” misread", "return-misread")]
    [InlineData("step-free", "step-free")]
    [InlineData("Too late, to act!", "too-late-to-act")]
    public void A_name_is_typed_with_hyphens(string name, string slug)
    {
        Assert.Equal(slug, LiveLine.SlugOf(name));
        Assert.Equal(slug, LiveLine.SlugOf(LiveLine.Read($"a #{slug}").Tags[0]));
    }

    [Property]
    public bool Words_never_hold_a_line_end_or_white_space_at_the_edges(string? typed) =>
        LiveLine.Read(typed ?? "").Words is var words && words == words.Trim() && !words.Contains('\n');

    private static readonly (string, int, int)[] Lines =
    [
        ("The lamp goes out.", 1_000, 4_000),
        ("Wren: It's off.", 9_000, 12_000),
        ("Nobody moves.", 20_000, 22_000),
    ];

    private static bool IsKnown(string name) => name == "Wren";

    [Fact]
    public void Lines_become_turns_with_their_times()
    {
        var (text, turns) = LiveNotesText.Of(Lines, IsKnown);
        Assert.Equal("The lamp goes out.\n\nWren: It's off.\n\nNobody moves.", text);
        Assert.Equal(
            [("The lamp goes out.", null, 1_000), ("It's off.", "Wren", 9_000), ("Nobody moves.", null, 20_000)],
            turns.Select(t => (t.Words.Of(text), t.Speaker, t.BeginMs!.Value))
        );
    }

    [Theory]
    [InlineData(500, "Late.\n\nThe lamp goes out.\n\nWren: It's off.\n\nNobody moves.")]
    [InlineData(5_000, "The lamp goes out.\n\nLate.\n\nWren: It's off.\n\nNobody moves.")]
    [InlineData(20_000, "The lamp goes out.\n\nWren: It's off.\n\nNobody moves.\n\nLate.")]
    public void A_late_line_goes_to_its_place(int beginMs, string expected)
    {
        var (text, turns) = LiveNotesText.Of(Lines, IsKnown);
        var (edit, turn) = LiveNotesText.Late(text, turns, "Late.", beginMs, beginMs, IsKnown);
        var moved = Reanchor.Through(text, [edit]);
        Assert.Equal(expected, moved.After);
        Assert.Equal("Late.", turn.Words.Of(moved.After));
        Assert.All(turns, t => Assert.Equal(t.Words.Of(text), moved.Of(t.Words).Range.Of(moved.After)));
    }
}
