using System.Globalization;
using FsCheck.Xunit;
using Vitrine.Core.Gather.Turns;
using Vitrine.Core.Text;

namespace Vitrine.Core.Tests;

// The styles of transcripts are common practice, no source.
public class TurnReadingTests
{
    private static (string? Who, string Words, int? Begin)[] Read(string text) =>
        [.. TurnReading.Of(text).Select(t => (t.Speaker, t.Words.Of(text), t.BeginMs))];

    [Fact]
    public void Name_and_colon() =>
        Assert.Equal(
            [
                ("Ida", "How often?", null),
                ("Sorrel", "Ninety times.\nMore in summer.", null),
                ("Ida", "And then?", null),
                ("Sorrel", "Home.", null),
            ],
            Read("Ida: How often?\nSorrel: Ninety times.\nMore in summer.\n\nIda: And then?\nSorrel: Home.")
        );

    [Fact]
    public void Time_in_brackets_before_the_name() =>
        Assert.Equal(
            [("Ida", "Hello.", 5_000), ("P03 Sorrel", "Hello.", 3_723_000)],
            Read("[00:00:05] Ida: Hello.\n[01:02:03] P03 Sorrel: Hello.")
        );

    [Fact]
    public void Time_and_name_on_a_line_of_their_own() =>
        Assert.Equal(
            [("Tom", "Thanks.", 65_000), ("Wren", "The two children.", 71_500)],
            Read("[01:05] Tom\nThanks.\n\n[01:11.5] Wren\nThe two children.")
        );

    [Fact]
    public void Time_after_the_name() =>
        Assert.Equal(
            [("Tom", "Thanks.", 5_000), ("Wren", "Nearly always.", 11_000)],
            Read("Tom [00:00:05]\nThanks.\nWren (00:11) Nearly always.")
        );

    [Fact]
    public void A_time_on_a_line_of_its_own_above_the_name() =>
        Assert.Equal(
            [("Ida", "Hello.", 12_000), ("Wren", "Hello you.", 15_000), ("Ida", "So.", 20_000)],
            Read("00:00:12\nIda: Hello.\n\n00:00:15 - 00:00:19\nWren: Hello you.\n\n[00:20]\nIda: So.")
        );

    [Fact]
    public void Numbered_lines() =>
        Assert.Equal(
            [("I", "Ready?", null), ("P3", "Yes.", null), ("I", "Go on.", null), ("P3", "Well.", null)],
            Read("1  I: Ready?\n2  P3: Yes.\n3. I: Go on.\n4) P3: Well.")
        );

    [Fact]
    public void A_name_on_a_line_of_its_own() =>
        Assert.Equal(
            [
                ("Ida Moss", "How was it?", null),
                ("Sorrel", "Late.\nVery late.", null),
                ("Ida Moss", "Why?", null),
                ("Sorrel", "Wind.", null),
            ],
            Read("Ida Moss\nHow was it?\n\nSorrel\nLate.\nVery late.\n\nIda Moss\nWhy?\n\nSorrel\nWind.")
        );

    /// <summary>A short answer before the next time is no name, whatever it looks like; layouts are common practice, no source.</summary>
    [Theory]
    [InlineData("{0} - {1}\n{2}\n{3}\n")]
    [InlineData("{0} – {1}\n{2}\n{3}\n\n")]
    [InlineData("[{0} - {1}]\n\n{2}\n\n{3}\n\n")]
    [InlineData("[{0}] - [{1}]\n{2}:\n{3}\n")]
    [InlineData("{0},000 to {1},000\n{2}\n{3}\n\n")]
    [InlineData("From {0} to {1}\n{2}\n{3}\n")]
    [InlineData("{0}-{1}:\n{2}\n{3}\n")]
    [InlineData("{0}:12 - {1}:03\n{2}\n{3}\n")]
    [InlineData("7\n{0}.000 --> {1}.000\n{2}\n{3}\n\n")]
    public void A_range_of_times_on_a_line_of_its_own_stands_over_the_name_and_the_words(string layout)
    {
        (string Who, string Words)[] said =
        [
            ("Anna Reed", "How was it?"),
            ("Sorrel", "Late"),
            ("Anna Reed", "Where?"),
            ("Sorrel", "Tarra."),
        ];
        var text = string.Concat(
            said.Select((t, i) => string.Format(CultureInfo.InvariantCulture, layout, $"00:00:{i}1", $"00:00:{i}9", t.Who, t.Words))
        );
        var turns = TurnReading.Of(text);
        Assert.Equal(said, turns.Select(t => (t.Speaker!, t.Words.Of(text))));
        Assert.Equal(
            [(1000, 9000), (11_000, 19_000), (21_000, 29_000), (31_000, 39_000)],
            turns.Select(t => (t.BeginMs!.Value, t.EndMs!.Value))
        );
    }

    [Fact]
    public void Times_that_stand_here_and_there_between_names_take_no_turn_from_anybody() =>
        Assert.Equal(
            [
                ("Ida", "Late?", 60_000),
                ("Sorrel", "Late.", null),
                ("Ida", "Why?", null),
                ("Sorrel", "Wind.", null),
                ("Ida", "So?", 120_000),
                ("Sorrel", "So.", null),
            ],
            Read("[00:01:00]\nIda\nLate?\n\nSorrel\nLate.\n\nIda\nWhy?\n\nSorrel\nWind.\n\n[00:02:00]\nIda\nSo?\n\nSorrel\nSo.")
        );

    [Fact]
    public void A_soft_hyphen_or_a_space_of_no_width_is_no_part_of_a_name()
    {
        const string text = "An\u00ADna Reed: One.\nSorrel: Two.\nAnna Reed: Th\u00ADree.\nSor\u200Brel: Four.";
        Assert.Equal(
            [("Anna Reed", "One."), ("Sorrel", "Two."), ("Anna Reed", "Th\u00ADree."), ("Sorrel", "Four.")],
            TurnReading.Of(text).Select(t => (t.Speaker!, t.Words.Of(text)))
        );
    }

    [Theory]
    [InlineData(TurnStyle.NameAndColon, 4)]
    [InlineData(TurnStyle.TimeAndName, 2)]
    [InlineData(TurnStyle.NameOnItsOwnLine, 3)]
    [InlineData(TurnStyle.NoTurns, 3)]
    public void A_style_that_is_chosen_is_the_one_that_is_read(TurnStyle style, int turns)
    {
        const string Text = "[00:01] Ida: One.\nSorrel: Two.\n\n[00:05] Ida: Three.\nSorrel: Four.\n\nIda: Five.";
        var read = TurnReading.Of(Text, style: style);
        Assert.Equal(style is TurnStyle.NoTurns or TurnStyle.NameOnItsOwnLine, read.All(t => t.Speaker is null));
        if (style == TurnStyle.TimeAndName)
            Assert.All(read, t => Assert.NotNull(t.BeginMs));
        Assert.Equal(turns, read.Count);
    }

    [Fact]
    public void Single_letters_and_codes() =>
        Assert.Equal(
            [("I", "Ready?", null), ("P3", "Yes.", null), ("I", "Go on.", null), ("P3", "Well.", null)],
            Read("I: Ready?\nP3: Yes.\nI: Go on.\nP3: Well.")
        );

    [Fact]
    public void A_colon_in_a_sentence_makes_no_speaker()
    {
        var turns = Read("The thing is: nobody tells you.\n\nAnd another thing: see https://example.org/now");
        Assert.Equal([null, null], turns.Select(t => t.Who));
    }

    [Fact]
    public void A_name_that_opens_one_line_only_stays_words()
    {
        var turns = Read("Ida: Hello.\nSorrel: Remember: the box.\nNote: check this.\nIda: Go on.\nSorrel: So.");
        Assert.Equal(["Ida", "Sorrel", "Ida", "Sorrel"], turns.Select(t => t.Who));
        Assert.Equal("Remember: the box.\nNote: check this.", turns[1].Words);
    }

    [Fact]
    public void A_known_name_is_believed_at_its_first_line()
    {
        const string text = "Ida: Hello.\nWren: Yes.\nNote: check.";
        Assert.Equal(["Ida", "Wren"], TurnReading.Of(text, name => name is "Ida" or "Wren").Select(t => t.Speaker));
        Assert.Null(Assert.Single(TurnReading.Of(text)).Speaker);
    }

    [Fact]
    public void What_stands_before_the_first_turn_is_kept_as_paragraphs()
    {
        var turns = Read("At the kitchen table.\n\nRain.\n\nIda: One.\nWren: Two.\nIda: Three.\nWren: Four.");
        Assert.Equal((null, "At the kitchen table.", null), turns[0]);
        Assert.Equal((null, "Rain.", null), turns[1]);
        Assert.Equal(6, turns.Length);
    }

    [Fact]
    public void Text_without_turns_is_read_as_paragraphs() =>
        Assert.Equal([(null, "First,\nstill first.", null), (null, "Second.", null)], Read("First,\nstill first.\n\n\n\nSecond.\n"));

    [Fact]
    public void A_speaker_who_says_nothing_has_no_turn() =>
        Assert.Equal(["Wren", "Wren"], Read("Ida:\nWren: One.\nIda:\nWren: Two.").Select(t => t.Who));

    [Fact]
    public void Astral_characters_keep_positions_exact()
    {
        const string text = "Ida: \U0001F6A2?\nWren: \U0001F44D\U0001F3FD yes\nIda: שלום\nWren: ok";
        Assert.Equal(["\U0001F6A2?", "\U0001F44D\U0001F3FD yes", "שלום", "ok"], Read(text).Select(t => t.Words));
    }

    [Theory]
    [InlineData("12:03", 723_000)]
    [InlineData("1:12:03", 4_323_000)]
    [InlineData("00:12:03.250", 723_250)]
    [InlineData("00:12:03,250", 723_250)]
    public void Times_are_milliseconds(string time, int milliseconds) => Assert.Equal(milliseconds, TurnHeads.Milliseconds(time));

    [Property]
    public bool Turns_are_in_order_apart_and_inside_the_text(string? raw)
    {
        var text = CanonicalText.From(raw ?? "");
        var turns = TurnReading.Of(text);
        return turns.Zip(turns.Skip(1)).All(p => p.First.Words.End <= p.Second.Words.Start) && turns.All(t => t.Words.End <= text.Length);
    }
}
