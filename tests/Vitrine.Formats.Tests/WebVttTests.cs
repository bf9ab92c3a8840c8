using System.Text;
using Vitrine.Formats.Captions;

namespace Vitrine.Formats.Tests;

// Rules and examples: W3C, "WebVTT: The Web Video Text Tracks Format", Candidate Recommendation, 4 April 2019: section 1 (examples),
// section 4 (syntax),
// section 6 (parsing). Examples are written down from memory of that text.
public class WebVttTests
{
    private static (IReadOnlyList<Cue> Cues, IReadOnlyList<int> Dropped) Cues(string text) => WebVtt.Cues(text);

    private static string[] Words(string text) => [.. Cues(text).Cues.Select(c => string.Join('|', c.Parts.Select(p => p.Words)))];

    [Fact]
    public void The_introductory_example_with_voices()
    {
        const string file = """
            WEBVTT

            00:11.000 --> 00:13.000
            <v Roger Bingham>We are in New York City

            00:13.000 --> 00:16.000
            <v Roger Bingham>We're actually at the Lucern Hotel, just down the street

            00:16.000 --> 00:18.000
            <v Neil deGrasse Tyson>Didn't we talk about enough in that conversation?
            """;
        var read = WebVtt.Read(Encoding.UTF8.GetBytes(file));
        Assert.Equal(["Roger Bingham", "Neil deGrasse Tyson"], read.Turns.Select(t => t.Speaker));
        Assert.Equal("We are in New York City We're actually at the Lucern Hotel, just down the street", read.Turns[0].Words.Of(read.Text));
        Assert.Equal((11_000, 16_000), (read.Turns[0].BeginMs, read.Turns[0].EndMs));
        Assert.Empty(read.Remarks);
    }

    [Theory]
    [InlineData("WEBVTT\n\n00:01.000 --> 00:02.000\na")]
    [InlineData("\uFEFFWEBVTT - a title\r\n\r\n00:01.000 --> 00:02.000\r\na")]
    [InlineData("WEBVTT\theader\nKind: captions\n\n00:01.000 --> 00:02.000\na")]
    [InlineData("WEBVTT\n00:01.000 --> 00:02.000\na")]
    public void The_header_in_its_permitted_forms(string file) => Assert.Equal(["a"], Words(file));

    [Theory]
    [InlineData("WEBVTTX\n\n00:01.000 --> 00:02.000\na")]
    [InlineData("webvtt\n\n00:01.000 --> 00:02.000\na")]
    [InlineData("1\n00:00:01,000 --> 00:00:02,000\na")]
    public void Without_the_signature_it_is_no_webvtt(string file) =>
        Assert.Contains("begins with the line WEBVTT", Assert.Throws<UnreadableException>(() => Cues(file)).Message);

    [Theory]
    [InlineData("00:01.000 --> 00:02.000", 1_000, 2_000)]
    [InlineData("01:02:03.004 --> 01:02:05.006 align:start position:10%", 3_723_004, 3_725_006)]
    [InlineData("00:01.000-->00:02.000", 1_000, 2_000)]
    [InlineData("  00:01.000 \t--> 00:02.000", 1_000, 2_000)]
    [InlineData("123:00:00.000 --> 123:00:01.000", 442_800_000, 442_801_000)]
    public void Times_in_their_permitted_forms(string timing, int begin, int end)
    {
        var cue = Assert.Single(Cues($"WEBVTT\n\n{timing}\na").Cues);
        Assert.Equal((begin, end), (cue.BeginMs, cue.EndMs));
    }

    [Fact]
    public void What_is_written_is_read_again()
    {
        Cue[] cues =
        [
            new(0, 1500, [("Una & Co <1>", "Is 3 < 4 --> so?")]),
            new(1500, 3_723_004, [(null, "\u201cAye.\u201d"), ("Wren", "NOTE: one\n\nline &amp; no more")]),
        ];
        var (read, dropped) = WebVtt.Cues(WebVtt.Written(cues));
        Assert.Empty(dropped);
        Assert.Equal(cues.Select(c => (c.BeginMs, c.EndMs)), read.Select(c => (c.BeginMs, c.EndMs)));
        Assert.Equal(
            [("Una & Co <1>", "Is 3 < 4 --> so?"), (null, "\u201cAye.\u201d"), ("Wren", "NOTE: one line &amp; no more")],
            read.SelectMany(c => c.Parts).Select(p => (p.Voice, p.Words.Trim()))
        );
    }

    [Theory]
    [InlineData("00:01,000 --> 00:02,000")]
    [InlineData("0:01.000 --> 0:02.000")]
    [InlineData("00:61.000 --> 00:62.000")]
    [InlineData("00:01.00 --> 00:02.000")]
    [InlineData("00:01.0000 --> 00:02.000")]
    [InlineData("00:01.000 -> 00:02.000 -->")]
    [InlineData("soon --> later")]
    public void A_broken_time_drops_its_cue_and_no_other(string timing)
    {
        var (cues, dropped) = Cues($"WEBVTT\n\n{timing}\nlost\n\n00:05.000 --> 00:06.000\nkept");
        Assert.Equal("kept", Assert.Single(cues).Parts[0].Words);
        Assert.Equal([3], dropped);
    }

    [Fact]
    public void What_was_dropped_is_said()
    {
        var read = WebVtt.Read("WEBVTT\n\nx --> y\nlost\n\n00:05.000 --> 00:06.000\nkept\n\n00:99.000 --> 00:99.500\nlost too"u8.ToArray());
        Assert.Equal("2 captions were left out: lines 3, 9 of the file are not times that can be read.", Assert.Single(read.Remarks));
    }

    [Fact]
    public void Identifiers_notes_and_styles_are_no_words() =>
        Assert.Equal(
            ["one", "two"],
            Words(
                "WEBVTT\n\nNOTE a remark\nover two lines\n\nSTYLE\n::cue { color: red }\n\nintro\n00:01.000 --> "
                    + "00:02.000\none\n\n2\n00:03.000 --> 00:04.000\ntwo"
            )
        );

    [Fact]
    public void A_time_line_begins_a_new_cue_even_without_a_blank_line() =>
        Assert.Equal(["one", "two"], Words("WEBVTT\n\n00:01.000 --> 00:02.000\none\n00:03.000 --> 00:04.000\ntwo"));

    [Fact]
    public void Marks_of_style_and_entities_become_plain_words() =>
        Assert.Equal(
            ["Tom & \"Ida\" <b> ok"],
            Words("WEBVTT\n\n00:01.000 --> 00:02.000\n<i>Tom</i> &amp; <c.loud>&quot;Ida&quot;</c> &lt;b&gt; <00:01.500>ok")
        );

    [Fact]
    public void A_voice_ends_at_its_end_tag_or_the_next_voice()
    {
        var parts = Cues("WEBVTT\n\n00:01.000 --> 00:02.000\n<v.first.loud Ida>One</v> two <v Wren>three").Cues[0].Parts;
        Assert.Equal([("Ida", "One"), (null, " two "), ("Wren", "three")], parts);
    }

    [Fact]
    public void Without_voices_a_name_and_colon_is_the_speaker()
    {
        var read = WebVtt.Read(
            "WEBVTT\n\n00:01.000 --> 00:02.000\nIda: How often?\n\n00:02.000 --> 00:03.000\nSorrel: Ninety."u8.ToArray()
        );
        Assert.Equal([("Ida", "How often?"), ("Sorrel", "Ninety.")], read.Turns.Select(t => (t.Speaker!, t.Words.Of(read.Text))));
    }

    [Theory]
    [InlineData("02.100", "so it goes on", "We waited and so it goes on")]
    [InlineData("04.000", "after a pause", "We waited and|after a pause")]
    [InlineData("02.100", "- Another speaks.", "We waited and|- Another speaks.")]
    public void Captions_without_any_name_are_joined_into_paragraphs(string begin, string next, string paragraphs)
    {
        var read = WebVtt.Read(
            Encoding.UTF8.GetBytes($"WEBVTT\n\n00:01.000 --> 00:02.000\nWe waited\nand\n\n00:{begin} --> 00:05.000\n{next}")
        );
        Assert.Equal(paragraphs.Split('|'), read.Turns.Select(t => t.Words.Of(read.Text)));
    }

    [Fact]
    public void Behind_a_sentence_a_shorter_pause_ends_a_paragraph()
    {
        var read = WebVtt.Read("WEBVTT\n\n00:01.000 --> 00:02.000\nIt rained.\n\n00:02.900 --> 00:03.000\nThen"u8.ToArray());
        Assert.Equal([(1_000, 2_000), (2_900, 3_000)], read.Turns.Select(t => (t.BeginMs!.Value, t.EndMs!.Value)));
    }

    [Fact]
    public void An_end_before_the_beginning_keeps_the_words()
    {
        var read = WebVtt.Read("WEBVTT\n\n00:05.000 --> 00:02.000\nkept"u8.ToArray());
        Assert.Equal((5_000, (int?)null), (read.Turns[0].BeginMs!.Value, read.Turns[0].EndMs));
    }

    [Theory]
    [InlineData("WEBVTT")]
    [InlineData("WEBVTT\n\nx --> y\nlost")]
    [InlineData("WEBVTT\n\n00:01.000 --> 00:02.000\n\n")]
    public void Nothing_readable_is_refused(string file) =>
        Assert.Throws<UnreadableException>(() => WebVtt.Read(Encoding.UTF8.GetBytes(file)));

    /// <summary>WebVTT, section 6.4: a time inside a caption says when what follows it begins.</summary>
    [Fact]
    public void Words_have_the_times_that_stand_inside_a_caption()
    {
        const string file =
            "WEBVTT\n\n00:01.000 --> 00:04.000\n<v Wren>Over <00:01.500>there, <00:02.250>behind <c.loud>the</c> <00:03.000>sh<00:03.400>ed.\n\n"
            // A time before the last one, one outside and one that is none count for nothing.
            + "00:05.000 --> 00:06.000\n<v Wren>I <00:05.500>see <00:05.200>it <00:09.000>too <00:5.900>now.";
        var read = WebVtt.Read(Encoding.UTF8.GetBytes(file));
        Assert.Equal("Over there, behind the shed. I see it too now.", read.Text);
        Assert.Equal(
            [
                ("Over", 1000, 1500),
                ("there,", 1500, 2250),
                ("behind the", 2250, 3000),
                ("shed.", 3000, 4000),
                ("I", 5000, 5500),
                ("see it too now.", 5500, 6000),
            ],
            read.Shape!.Times!.Select(t => (t.Words.Of(read.Text), t.BeginMs, t.EndMs))
        );
        Assert.Equal((1000, 6000), (read.Turns.Single().BeginMs!.Value, read.Turns.Single().EndMs!.Value));
    }
}
