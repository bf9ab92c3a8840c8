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
        var known = new List<Vitrine.Core.Mark.Recordings.SpokenTurn>();
        var at = 0;
        for (var i = 0; i < Said.Length; i++)
        {
            var words = new TextRange(at, at + Said[i].Length);
            int? begins = i == 2 && end is null ? null : 2000 * i;
            turns.Add(new GateTurn(words, i == 1 ? speaker : null, i != 1, labelled, begins + 10_000, begins + 12_000));
            known.Add(new Vitrine.Core.Mark.Recordings.SpokenTurn(words, begins, begins + 2000));
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
    [InlineData(Consent.Given, true, true)]
    [InlineData(Consent.Asked, false, true)]
    [InlineData(Consent.Limited, false, false)]
    [InlineData(Consent.Withdrawn, false, false)]
    public void A_voice_needs_more_consent_than_words(Consent consent, bool heard, bool read)
    {
        var gate = GateOf(consent, [Written(Wren)]);
        Assert.Equal((heard, heard), (gate.Shows(Clip(12_000, 14_000)), gate.Clip(Words("At the quay")) is not null));
        Assert.Equal(read, gate.Shows(Words("At the quay")));
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
        // Nobody speaks in it.
        Assert.Equal("", gate.Words(Clip(30_000, 31_000)));
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
        var bleeped = GateOf(Consent.Given, [written]).Clip(Clip(from, to))!.Bleeped;
        foreach (var word in written.InStep.SpokenWords.Where(w => w.Words.Start < mask.End && mask.Start < w.Words.End))
        {
            for (var ms = Math.Max(from, word.BeginMs + 10_000); ms < Math.Min(to, word.EndMs + 10_000); ms++)
                Assert.Contains(bleeped, b => b.BeginMs <= ms && ms < b.EndMs);
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
