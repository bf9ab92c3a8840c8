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
    // A phrase, or what stands near, that begins in one sentence and ends in the next is in neither.
    [InlineData("\"cancelled the cafe\"", "")]
    [InlineData("cancelled ~2 cafe ", "")]
    [InlineData("told -\"cancelled the\" ", "She was told it was cancelled.")]
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

    [Theory]
    [InlineData("a | -b", true)]
    [InlineData("a ~3 -b", true)]
    [InlineData("a | -\"b c\"", true)]
    [InlineData("a | b -c", false)]
    [InlineData("-c a | b", false)]
    [InlineData("a | - b", false)]
    public void Or_without_is_not_asked_for(string typed, bool asks) => Assert.Equal(asks, FindQuery.AsksForWithoutBesideOthers(typed));

    [Fact]
    public void Signs_that_nobody_sees_hide_no_word()
    {
        const string text = "The time\u00ADtable on the qu\u200Bay.";
        var vocabulary = new Vocabulary();
        var indexed = IndexedText.Of(text, [new TurnOf(new TextRange(0, text.Length), false, null)], vocabulary);
        foreach (var typed in new[] { "timetable", "quay", "\"timetable on the quay\"", "tim\u00ADetable" })
            Assert.Single(new Finder(FindQuery.Read(typed)!, vocabulary).In(indexed, PassageUnit.Sentence, _ => true));
        Assert.Equal(text[4..14], Assert.Single(TextHits.Of(text, "timetable", byStem: false)).Of(text));
        Assert.Equal("The timetable on the quay.", HiddenSigns.Without(text));
        for (var at = 0; at <= HiddenSigns.Without(text).Length; at++)
            Assert.Equal(HiddenSigns.Without(text)[..at], HiddenSigns.Without(text[..HiddenSigns.PlaceIn(text, at)]));
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
