using Vitrine.Core.Mark.Finding;
using Vitrine.Core.Text;

namespace Vitrine.Core.Tests;

public sealed class FinderTests
{
    private const string Talk =
        "Ida: Did they cancel it?\n"
        + "Wren: She was told it was cancelled. The Café never said so.\nCancellations come late.\n"
        + "Ida: And the app?\n"
        + "Wren: Called off, it said. The kiosk cancels nothing, and the ticket for a child is on the other side.";

    private static readonly TextRange[] Spoken = [.. Talk.Split('\n').Select(Line).Where(r => r.Length > 0)];

    // The line without its speaker; "Cancellations" goes on with Wren's first turn.
    private static TextRange Line(string line) =>
        Talk.IndexOf(line, StringComparison.Ordinal) is var at && line.IndexOf(": ", StringComparison.Ordinal) is >= 0 and var name
            ? new TextRange(at + name + 2, at + line.Length)
            : new TextRange(at, at + line.Length);

    private static (IndexedText Text, Vocabulary Vocabulary) Indexed()
    {
        var vocabulary = new Vocabulary();
        TurnOf[] turns =
        [
            new(Spoken[0], true, null),
            new(Spoken[1].Cover(Spoken[2]), false, (ParticipantId)1),
            new(Spoken[3], true, null),
            new(Spoken[4], false, (ParticipantId)1),
        ];
        return (IndexedText.Of(Talk, turns, vocabulary), vocabulary);
    }

    private static string[] Find(string typed, PassageUnit unit = PassageUnit.Sentence, bool team = false)
    {
        var (text, vocabulary) = Indexed();
        var query = FindQuery.Read(typed);
        return query is null
            ? []
            : [.. new Finder(query, vocabulary).In(text, unit, t => team || !t.IsTeam).Select(f => f.Passage.Of(Talk))];
    }

    // practice.md's check value: by stem, "cancel" finds cancels, cancelled, cancelling, cancellation; the passage is the whole sentence.
    [Theory]
    [InlineData(
        "cancel ",
        "She was told it was cancelled.|Cancellations come late.|The kiosk cancels nothing, and the ticket for a child is on the other side."
    )]
    [InlineData("\"cancel\"", "")]
    [InlineData("\"cancelled\"", "She was told it was cancelled.")]
    [InlineData("CAFE ", "The Café never said so.")]
    [InlineData("tol", "She was told it was cancelled.")]
    [InlineData("tol ", "")]
    [InlineData("\"tol", "")]
    [InlineData("cancel late", "Cancellations come late.")]
    [InlineData("cancel -kiosk", "She was told it was cancelled.|Cancellations come late.")]
    [InlineData("cancel -\"kiosk cancels\"", "She was told it was cancelled.|Cancellations come late.")]
    [InlineData("cancel -kiosk | late", "She was told it was cancelled.")]
    [InlineData("late | \"called off\"", "Cancellations come late.|Called off, it said.")]
    [InlineData("late|café", "The Café never said so.|Cancellations come late.")]
    [InlineData("\"called it off\"", "")]
    [InlineData("cancel ~2 ticket", "")]
    [InlineData("cancel ~3 ticket ", "The kiosk cancels nothing, and the ticket for a child is on the other side.")]
    [InlineData("ticket ~ kiosk", "The kiosk cancels nothing, and the ticket for a child is on the other side.")]
    [InlineData("wren", "")]
    public void What_is_typed_finds_the_sentences_that_hold_it(string typed, string passages) =>
        Assert.Equal(passages, string.Join('|', Find(typed)));

    [Theory]
    [InlineData("")]
    [InlineData(" … ")]
    [InlineData("-cancel")]
    [InlineData("|")]
    [InlineData("~")]
    [InlineData("\"")]
    public void What_holds_no_word_to_find_looks_for_nothing(string typed) => Assert.Null(FindQuery.Read(typed));

    [Fact]
    public void A_passage_is_a_sentence_a_paragraph_a_turn_or_a_turn_with_its_question()
    {
        Assert.Equal(["The Café never said so."], Find("never"));
        Assert.Equal(["She was told it was cancelled. The Café never said so."], Find("never told", PassageUnit.Paragraph));
        Assert.Equal(
            ["She was told it was cancelled. The Café never said so.\nCancellations come late."],
            Find("never late", PassageUnit.Turn)
        );
        Assert.StartsWith("Did they cancel it?", Assert.Single(Find("never", PassageUnit.TurnWithQuestion)), StringComparison.Ordinal);
        Assert.Equal(["Did they cancel it?"], Find("\"cancel\"", team: true));
    }

    [Fact]
    public void Hits_are_where_the_words_stand_and_words_side_by_side_must_share_a_passage()
    {
        var (text, vocabulary) = Indexed();
        var found = Assert.Single(
            new Finder(FindQuery.Read("\"was told\" cancel")!, vocabulary).In(text, PassageUnit.Sentence, t => !t.IsTeam)
        );
        Assert.Equal(["was told", "cancelled"], found.Hits.Select(h => h.Of(Talk)));
        Assert.Empty(Find("told late"));
        Assert.Single(Find("told late", PassageUnit.Turn));
    }

    [Fact]
    public void Hundreds_of_words_and_signs_are_taken_as_they_can_be()
    {
        Assert.True(FindQuery.Read(string.Join(' ', Enumerable.Range(0, 500).Select(i => $"w{i}")))!.Words.Count() <= FindQuery.MostWords);
        Assert.Empty(Find("~99999999999 cancel ~ ~3"));
        Assert.NotEmpty(Find("| cancel || late"));
    }
}
