using Vitrine.Core.Gather.Turns;
using Vitrine.Core.Text;

namespace Vitrine.Core.Tests;

// What is no speaker, what is doubtful, and what a person says of it; common practice, no source. Layouts: Formats' TranscriptLayoutTests.
public class TurnGuessTests
{
    private const string Talk =
        "Ida: How was it?\nSorrel: Late. The thing is: nobody tells you.\nCaptain Reed: I tell everybody.\nIda: And then?\nSorrel: Home.";

    private static (string? Who, string Words)[] Turns(TurnGuess guess, string text) =>
        [.. guess.Turns.Select(t => (t.Speaker, t.Words.Of(text)))];

    [Theory]
    [InlineData("The thing is: nobody tells you.\n\nAnother thing: the board is empty.\n\nWhat I mean is: it was late.")]
    [InlineData("Problem: no ticket.\nIdea: a name on it.\n\nProblem: no board.\nIdea: a board at the head of the quay.")]
    [InlineData(
        "Date: 3 March\nPlace: the quay\nParticipant numbers: 9\n\nIt rained. Everybody stood under the roof.\n\nDate: 4 March\nPlace: on board"
    )]
    [InlineData("Monday: the boat was late.\nTuesday: it did not go.\nWednesday: it went.\nMonday: late again.")]
    [InlineData("Take with you:\nA box\nA pram\n\nTake home:\nA box\nA pram")]
    [InlineData("Summary\nIt was late.\n\nResults\nNobody knew.\n\nSummary\nIt was late again.")]
    [InlineData("See https://example.org/now\nSee https://example.org/then")]
    [InlineData("We met at 10:30 and waited.\nWe left at 11:30 and went home.\nWe met at 12:00 and ate.")]
    public void What_only_looks_like_turns_is_paragraphs(string text)
    {
        var guess = TurnReading.Guess(text);
        Assert.Equal(TurnStyle.NoTurns, guess.Style);
        Assert.All(guess.Turns, t => Assert.Null(t.Speaker));
    }

    /// <summary>One talk, written in many more ways: # is the line's number, @ the name, ~ the time, / a line's end, $ the words.</summary>
    [Theory]
    [InlineData("@ [laughs]: $")]
    [InlineData("@ (~) –/$")]
    [InlineData("@ @ ~: $")]
    [InlineData("- @: $")]
    [InlineData("• @: $")]
    [InlineData("@:$")]
    [InlineData("@ Moss, researcher: $")]
    [InlineData("[#] @: $")]
    [InlineData("00#| @: $")]
    [InlineData("2026-03-14 10:0#:05 @: $")]
    [InlineData("[14.03.26, 10:0#:05] @: $")]
    [InlineData("@/~/$")]
    [InlineData("~/@/$")]
    [InlineData("“@”: $")]
    [InlineData("*@*: $")]
    [InlineData("@> $")]
    [InlineData("@: (~) $")]
    [InlineData("[@] ~/$")]
    [InlineData("Ms. @ (she/her): $")]
    public void Other_ways_of_writing_a_talk(string form)
    {
        (string Who, string Said)[] talk =
        [
            ("Ida", "How did you hear of it?"),
            ("Sorrel", "A neighbour told me. I asked: nobody knew."),
            ("Captain Reed", "I told everybody."),
            ("Sorrel", "We waited for two hours."),
            ("Ida", "Thanks for that."),
        ];
        string Line((string Who, string Said) turn, int i) =>
            form.Replace("@ @", "\0 §")
                .Replace("@", "\0")
                .Replace("§", "@")
                .Replace('/', form.Contains("she/her", StringComparison.Ordinal) ? '/' : '\n')
                .Replace("\0", turn.Who)
                .Replace("#", $"{i + 1}")
                .Replace("~", $"00:{i + 1}5")
                .Replace("$", turn.Said);
        foreach (var between in (string[])["\n", "\n\n"])
        {
            var text = string.Join(between, talk.Select(Line));
            var guess = TurnReading.Guess(text);
            Assert.Equal(talk.Select(t => t.Said), guess.Turns.Select(t => t.Words.Of(text)));
            Assert.All(guess.Turns.Zip(talk), t => Assert.Contains(t.Second.Who, t.First.Speaker!));
        }
    }

    [Fact]
    public void A_name_that_comes_once_speaks_for_itself_and_is_doubtful()
    {
        var guess = TurnReading.Guess(Talk);
        Assert.Equal(("Captain Reed", "I tell everybody."), Turns(guess, Talk)[2]);
        Assert.Equal([new DoubtfulLabel("Captain Reed", 1, Talk.IndexOf("Captain", StringComparison.Ordinal), true)], guess.Doubtful);
        Assert.Equal(Sureness.Doubtful, guess.Sureness);
    }

    [Fact]
    public void What_a_person_says_of_a_name_is_followed_and_no_longer_doubtful()
    {
        var guess = TurnReading.Guess(Talk, new TurnAids(Choices: new Dictionary<string, bool> { ["captain reed"] = false }));
        Assert.Equal(("Sorrel", "Late. The thing is: nobody tells you.\nCaptain Reed: I tell everybody."), Turns(guess, Talk)[1]);
        Assert.Empty(guess.Doubtful);
        var speaks = TurnReading.Guess(Talk, new TurnAids(Choices: new Dictionary<string, bool> { ["Captain Reed"] = true }));
        Assert.Equal(Sureness.Sure, speaks.Sureness);
    }

    [Fact]
    public void A_heading_of_notes_inside_a_talk_stays_words_and_is_shown()
    {
        const string text = "Ida: Hello.\nWren: Yes.\nNote: check this.\nIda: Go on.\nWren: So.";
        var guess = TurnReading.Guess(text);
        Assert.Equal(("Wren", "Yes.\nNote: check this."), Turns(guess, text)[1]);
        Assert.Equal([("Note", false)], guess.Doubtful.Select(d => (d.Label, d.Speaks)));
    }

    [Fact]
    public void Names_that_the_text_uses_as_words_are_not_believed_at_once()
    {
        const string text = "Rain: it fell.\nWind: it blew in the rain.\nRain: more rain fell.\nWind: the wind again.";
        var guess = TurnReading.Guess(text);
        Assert.Equal(TurnStyle.NoTurns, guess.Style);
        Assert.Equal(["Rain", "Wind"], guess.Doubtful.Select(d => d.Label));
        Assert.Equal(TurnStyle.NameAndColon, guess.RunnerUp);
        Assert.Equal(Sureness.Unsure, guess.Sureness);
    }

    [Fact]
    public void Headings_and_tables_between_turns_are_nobodys_words()
    {
        const string text = "Ida: Hello.\n\nWren: Yes.\n\nOn the boat\n\nfare\t12\n\nIda: Go on.\n\nWren: So.";
        TextRange At(string words) =>
            new(text.IndexOf(words, StringComparison.Ordinal), text.IndexOf(words, StringComparison.Ordinal) + words.Length);
        Block Of(string words, BlockKind kind = BlockKind.Paragraph) => new(At(words), kind);
        Block[] blocks =
        [
            Of("Ida: Hello."),
            Of("Wren: Yes."),
            Of("On the boat", BlockKind.Heading),
            Of("fare\t12", BlockKind.TableRow),
            Of("Ida: Go on."),
            Of("Wren: So."),
        ];
        var guess = TurnReading.Guess(text, new TurnAids(Blocks: blocks));
        Assert.Equal(
            [("Ida", "Hello."), ("Wren", "Yes."), (null, "On the boat"), (null, "fare\t12"), ("Ida", "Go on."), ("Wren", "So.")],
            Turns(guess, text)
        );
    }

    [Fact]
    public void What_stands_behind_a_table_is_not_its_last_rows()
    {
        const string text = "Ida\tHow was it?\nWren\tIt was late.\nIda\tAnd then?\nWren\tWe went home.\n\nTyped by the office.";
        var blocks = new List<Block>();
        var start = 0;
        foreach (var line in text.Split('\n').Where(l => l.Contains('\t', StringComparison.Ordinal)))
        {
            var tab = start + line.IndexOf('\t', StringComparison.Ordinal);
            Cell[] cells = [new(new TextRange(start, tab), 0), new(new TextRange(tab + 1, start + line.Length), 1)];
            blocks.Add(new Block(new TextRange(start, start + line.Length), BlockKind.TableRow, Cells: cells));
            start += line.Length + 1;
        }
        blocks.Add(new Block(new TextRange(text.IndexOf("Typed", StringComparison.Ordinal), text.Length), BlockKind.Paragraph));
        Assert.Equal(
            [
                ("Ida", "How was it?"),
                ("Wren", "It was late."),
                ("Ida", "And then?"),
                ("Wren", "We went home."),
                (null, "Typed by the office."),
            ],
            Turns(TurnReading.Guess(text, new TurnAids(Blocks: blocks)), text)
        );
    }

    [Theory]
    [InlineData("Wren\tWe went home.\n\nTyped by the office.", "Wren|We went home.", "|Typed by the office.")]
    [InlineData("Wren\tWe went home.\nTyped by the office.", "Wren|We went home.", "|Typed by the office.")]
    [InlineData("Wren\tWe went\nhome.\nIda\tThen?\nWren\tNothing\nmore.", "Wren|We went\nhome.", "Ida|Then?", "Wren|Nothing\nmore.")]
    [InlineData("Wren\tHome.\n\nThey look at the map.\n\nIda\tGo on.", "Wren|Home.", "|They look at the map.", "Ida|Go on.")]
    public void A_row_of_a_table_as_text_ends_with_its_lines(string last, params string[] turns)
    {
        var text = "Ida\tHow was it?\nWren\tIt was late.\nIda\tAnd then it was?\n" + last;
        var read = Turns(TurnReading.Guess(text), text).Select(t => $"{t.Item1}|{t.Item2}");
        Assert.Equal(["Ida|How was it?", "Wren|It was late.", "Ida|And then it was?", .. turns], read);
    }

    [Fact]
    public void Lines_inside_a_paragraph_open_turns_where_a_document_tells_them()
    {
        const string text = "Ida: Hello. Wren: Yes, and Ida: knows. Ida: Go on. Wren: So.";
        int At(string words) => text.IndexOf(words, StringComparison.Ordinal);
        var aids = new TurnAids(
            Blocks: [new Block(new TextRange(0, text.Length), BlockKind.Paragraph)],
            Lines: [At("Wren: Yes"), At("Ida: Go"), At("Wren: So")]
        );
        Assert.Equal(
            [("Ida", "Hello."), ("Wren", "Yes, and Ida: knows."), ("Ida", "Go on."), ("Wren", "So.")],
            Turns(TurnReading.Guess(text, aids), text)
        );
    }

    [Fact]
    public void The_runner_up_is_told()
    {
        const string text = "Ida: One.\n(Wren) Two.\nIda: Three.\n(Wren) Four.\nIda: Five.";
        var guess = TurnReading.Guess(text);
        Assert.Equal((TurnStyle.NameAndColon, TurnStyle.NameInBrackets), (guess.Style, guess.RunnerUp));
    }

    [Theory]
    [InlineData("2:05 PM", 50_700_000)]
    [InlineData("12:00 am", 0)]
    [InlineData("12:30:10 p.m.", 45_010_000)]
    [InlineData("11 AM", 39_600_000)]
    public void Times_of_day_are_milliseconds_from_midnight(string time, int ms) => Assert.Equal(ms, TurnHeads.Milliseconds(time));
}
