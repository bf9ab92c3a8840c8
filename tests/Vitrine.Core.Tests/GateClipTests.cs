using FsCheck.Xunit;
using Vitrine.Core.Gather.Privacy;
using Vitrine.Core.Gather.Sources;
using Vitrine.Core.Mark.Observations;
using Vitrine.Core.Mark.Recordings;
using Vitrine.Core.Show.Publication;
using Vitrine.Core.Text;

namespace Vitrine.Core.Tests;

/// <summary>What of recordings and pictures leaves, and what is bleeped in it.</summary>
public sealed class GateClipTests
{
    private const long Recording = 4;
    private const long Transcript = 7;
    private const long Wren = 2;
    private const long Sorrel = 3;

    private static readonly string[] Said = ["Where do you wait?", "At the quay, with Marnie.", "In the rain?"];
    private static readonly string Text = string.Join("\n\n", Said);

    /// <summary>Three turns of two seconds each, 10 s later on the recording than on the transcript's clock.</summary>
    private static GateTranscript Written(ParticipantId? speaker, bool labelled = true, IReadOnlyList<Mask>? masks = null, int? end = 6000)
    {
        var turns = new List<GateTurn>();
        var known = new List<SpokenTurn>();
        var at = 0;
        for (var i = 0; i < Said.Length; i++)
        {
            var words = new TextRange(at, at + Said[i].Length);
            int? begins = i == 2 && end is null ? null : 2000 * i;
            turns.Add(new GateTurn(words, i == 1 ? speaker : null, i != 1, labelled, begins + 10_000, begins + 12_000));
            known.Add(new SpokenTurn(words, begins, begins + 2000));
            at += Said[i].Length + 2;
        }
        return new GateTranscript(
            new GateSource(Transcript, SourceKind.Interview, Text, turns, [Wren], masks ?? [], []),
            InStep.Of(Text, known),
            10_000
        );
    }

    private static Gate GateOf(Consent consent, IReadOnlyList<GateTranscript> transcripts, bool sounds = true, string? named = null) =>
        new(
            [new(Wren, "Wren", named, consent), new(Sorrel, "Sorrel", null, Consent.Limited)],
            [.. transcripts.Select(t => t.Source)],
            [new(new GateSource(Recording, SourceKind.Interview, "", [], [Wren], [], []), sounds, transcripts)]
        );

    private static GatePassage Clip(int begin, int end) => new(Recording, new TimeAnchor(begin, end));

    private static GatePassage Words(string words) =>
        new(
            Transcript,
            new TextAnchor(
                new TextRange(Text.IndexOf(words, StringComparison.Ordinal), Text.IndexOf(words, StringComparison.Ordinal) + words.Length)
            )
        );

    [Theory]
    [InlineData(Consent.Given, true)]
    [InlineData(Consent.Asked, false)]
    [InlineData(Consent.Limited, false)]
    [InlineData(Consent.Withdrawn, false)]
    public void Words_and_voice_leave_of_someone_who_has_said_yes(Consent consent, bool leave)
    {
        var gate = GateOf(consent, [Written(Wren)]);
        Assert.Equal((leave, leave), (gate.Shows(Clip(12_000, 14_000)), gate.Clip(Words("At the quay")) is not null));
        Assert.Equal(leave, gate.Shows(Words("At the quay")));
        Assert.Equal(leave ? [] : [(ParticipantId)Wren], gate.KeptOf(Words("At the quay")));
        Assert.Equal(leave ? [] : [(ParticipantId)Wren], gate.KeptOf(Clip(12_000, 14_000)));
    }

    [Fact]
    public void A_clip_is_quoted_by_what_is_said_in_it_and_words_are_heard_where_they_are_said()
    {
        var gate = GateOf(Consent.Given, [Written(Wren)]);
        Assert.Equal(("At the quay, with Marnie.", "Wren"), (gate.Words(Clip(12_000, 14_000)), gate.Who(Clip(12_000, 14_000))));
        Assert.Equal(["Researcher", "Wren", "Researcher"], gate.Around(Clip(12_000, 14_000), 1).Select(t => t.Who));
        var clip = gate.Clip(Words("In the rain"))!;
        Assert.Equal((Recording, new TimeRange(14_000, 16_000)), ((long)clip.RecordingId.Value, clip.Time));
        Assert.Empty(clip.Bleeped);
        // The words around what is heard: the team's turn has no voice that asks for more.
        Assert.Equal("Researcher", gate.Who(Clip(14_000, 15_000)));
    }

    /// <summary>Turns on the recording's clock, each with its words and who speaks; null for a name that is matched to nobody.</summary>
    private static Gate Heard(
        IReadOnlyList<(string Words, long? Person, int? Begin, int? End)> said,
        Consent sorrel = Consent.Given,
        IReadOnlyList<TimedWords>? times = null,
        string? named = null
    )
    {
        var text = string.Join("\n\n", said.Select(s => s.Words));
        var at = 0;
        var turns = new List<GateTurn>();
        foreach (var (words, person, begin, end) in said)
        {
            turns.Add(new GateTurn(new TextRange(at, at + words.Length), person is { } p ? p : null, false, true, begin, end));
            at += words.Length + 2;
        }
        var source = new GateSource(Transcript, SourceKind.Interview, text, turns, [Wren, Sorrel], [], []);
        var inStep = InStep.Of(text, [.. turns.Select(t => new SpokenTurn(t.Words, t.AtMs, t.EndMs))], times);
        return new Gate(
            [new(Wren, "Wren", named, Consent.Given), new(Sorrel, "Sorrel", null, sorrel)],
            [source],
            [
                new(
                    new GateSource(Recording, SourceKind.Interview, "", [], [Wren, Sorrel], [], []),
                    true,
                    [new GateTranscript(source, inStep, 0)]
                ),
            ]
        );
    }

    [Theory]
    [InlineData(0, 5_000, 5_000, 9_000)] // up to the pause
    [InlineData(4_000, 12_000, 5_000, 9_000)] // over it
    [InlineData(8_000, 12_000, 8_000, 9_000)] // from inside it
    public void Sound_that_no_turn_covers_is_silent(int begin, int end, int silentFrom, int silentTo)
    {
        var clip = Heard([("I wait.", Wren, 0, 5_000), ("And then I go.", Wren, 9_000, 12_000)]).Clip(Clip(begin, end))!;
        Assert.Equal(begin < silentFrom && end <= silentFrom ? [] : [new TimeRange(silentFrom, silentTo)], clip.Silenced);
    }

    [Fact]
    public void A_stretch_of_which_nobody_knows_whose_it_is_stays_inside_and_is_nobodys()
    {
        var gate = Heard([("I wait.", Wren, 0, 5_000), ("And then I go.", Wren, 9_000, 12_000)]);
        Assert.Equal((false, null), (gate.Shows(Clip(6_000, 8_000)), gate.PersonOf(Clip(6_000, 8_000))));
    }

    [Theory]
    [InlineData(2_000, 20_000, null, true)] // late in a slow turn, whose end is not told
    [InlineData(2_000, 20_000, 4_000, false)] // after it, as its end tells
    [InlineData(25_000, 30_000, null, false)] // another has begun
    public void A_voice_of_nobody_known_may_be_heard_until_another_begins(int begins, int heardAt, int? end, bool inside)
    {
        var gate = Heard([("Yes.", null, begins == 25_000 ? 2_000 : begins, end), ("I wait here for an hour.", Wren, 24_000, 40_000)]);
        Assert.Equal(inside || heardAt < 24_000, !gate.Shows(Clip(heardAt, heardAt + 1_000)));
        Assert.Equal(inside, !gate.Shows(Clip(heardAt, 30_500)));
    }

    [Fact]
    public void After_the_last_timed_word_of_a_turn_without_an_end_nothing_is_certain()
    {
        var text = "I wait here.";
        var times = new[] { new TimedWords(new TextRange(0, text.Length), 1_000, 3_000) };
        var clip = Heard([(text, Wren, 1_000, null)], times: times).Clip(Clip(0, 60_000))!;
        Assert.Equal([new TimeRange(0, 1_000), new TimeRange(3_000, 60_000)], clip.Silenced);
        Assert.Null(Heard([(text, Wren, 1_000, null)]).Clip(Clip(1_000, 2_000)));
    }

    [Fact]
    public void A_turn_without_letters_is_somebodys()
    {
        Assert.True(Heard([("…", Wren, 0, 2_000), ("I wait.", Wren, 2_000, 4_000)]).Shows(Clip(0, 3_000)));
        Assert.False(Heard([("…", null, 0, 2_000), ("I wait.", Wren, 2_000, 4_000)]).Shows(Clip(0, 3_000)));
        // Where it is not told when, it may be from the beginning of the one before to that of the next.
        var gate = Heard([
            ("I wait.", Wren, 0, 2_000),
            ("…", null, null, null),
            ("I go.", Wren, 5_000, 6_000),
            ("Far.", Wren, 6_000, 7_000),
        ]);
        Assert.Equal(
            (false, false, true),
            (gate.Shows(Clip(1_000, 2_000)), gate.Shows(Clip(4_000, 6_000)), gate.Shows(Clip(6_000, 7_000)))
        );
    }

    [Fact]
    public void Two_who_speak_at_once_need_the_consent_of_both_and_are_both_named()
    {
        (string, long?, int?, int?)[] said = [("I wait here for it.", Wren, 0, 6_000), ("So do I.", Sorrel, 4_000, 5_000)];
        Assert.Equal("Wren and Sorrel", Heard(said).Who(Clip(3_000, 5_000)));
        Assert.Equal("Wren", Heard(said).Who(Clip(0, 3_000)));
        Assert.False(Heard(said, Consent.Limited).Shows(Clip(3_000, 5_000)));
    }

    [Fact]
    public void What_is_heard_must_have_been_written_down_whole()
    {
        Assert.False(GateOf(Consent.Given, []).Shows(Clip(12_000, 14_000)));
        Assert.False(GateOf(Consent.Given, [Written(Wren, end: null)]).Shows(Clip(12_000, 14_000)));
        // Where nothing can be heard, nothing need be written down.
        Assert.True(GateOf(Consent.Given, [], sounds: false).Shows(Clip(12_000, 14_000)));
    }

    [Fact]
    public void A_voice_that_is_matched_to_nobody_keeps_its_stretch_inside_and_no_other()
    {
        var gate = GateOf(Consent.Given, [Written(null)]);
        Assert.False(gate.Shows(Clip(13_900, 15_000)));
        Assert.True(gate.Shows(Clip(14_000, 15_000)));
    }

    [Fact]
    public void Somebody_in_it_who_wants_theirs_kept_keeps_all_of_it_inside()
    {
        var written = Written(Wren);
        var gate = GateOf(Consent.Given, [written with { Source = written.Source with { PersonIds = [Wren, Sorrel] } }]);
        Assert.False(gate.Shows(Clip(14_000, 15_000)));
    }

    [Fact]
    public void Masked_words_and_names_are_bleeped_as_far_as_their_turn_reaches()
    {
        var (from, to) = (Text.IndexOf("Marnie", StringComparison.Ordinal), Text.IndexOf("Marnie", StringComparison.Ordinal) + 6);
        var masked = GateOf(Consent.Given, [Written(Wren, masks: [new Mask(new TextRange(from, to), "[name]")])]);
        Assert.Equal([new TimeRange(12_000, 14_000)], masked.Clip(Clip(11_000, 15_000))!.Bleeped);
        Assert.Empty(masked.Clip(Clip(10_000, 12_000))!.Bleeped);
        Assert.Equal(
            [new TimeRange(12_000, 14_000)],
            GateOf(Consent.Given, [Written(Wren)], named: "Marnie").Clip(Clip(13_000, 15_000))!.Bleeped
        );
    }

    [Property]
    public void No_masked_word_is_heard(ushort begin, ushort length, byte maskAt, byte maskLength)
    {
        var at = maskAt % Text.Length;
        var mask = new TextRange(at, Math.Min(Text.Length, at + 1 + (maskLength % 20)));
        var written = Written(Wren, masks: [new Mask(mask, "[…]")]);
        var (from, to) = (begin % 20_000, (begin % 20_000) + 1 + (length % 5000));
        // Where nobody speaks, nothing leaves.
        if (GateOf(Consent.Given, [written]).Clip(Clip(from, to)) is not { Bleeped: var bleeped, Silenced: var silenced })
            return;
        foreach (var word in written.InStep.SpokenWords.Where(w => w.Words.Start < mask.End && mask.Start < w.Words.End))
        {
            for (var ms = Math.Max(from, word.Time.BeginMs + 10_000); ms < Math.Min(to, word.Time.EndMs + 10_000); ms++)
                Assert.Contains(bleeped.Concat(silenced), b => b.BeginMs <= ms && ms < b.EndMs);
        }
    }

    [Fact]
    public void A_part_of_a_picture_leaves_when_everyone_in_it_allows_it()
    {
        GatePassage part = new(Recording, new RegionAnchor(0, 0, 100, 100, null));
        Assert.True(GateOf(Consent.Given, [], sounds: false).Shows(part));
        Assert.Equal("", GateOf(Consent.Given, [], sounds: false).Words(part));
        Assert.False(GateOf(Consent.Asked, [], sounds: false).Shows(part));
    }
}
