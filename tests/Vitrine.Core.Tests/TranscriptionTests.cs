using Vitrine.Core.Gather.Corrections;
using Vitrine.Core.Gather.Privacy;
using Vitrine.Core.Mark.Recordings;
using Vitrine.Core.Mark.Transcription;
using Vitrine.Core.Text;

namespace Vitrine.Core.Tests;

public class TranscriptionTests
{
    [Fact]
    public void Phrases_stand_between_pauses_and_a_long_pause_hands_the_word_over()
    {
        TimeRange[] pauses = [new(0, 400), new(2000, 2500), new(4000, 5000), new(5100, 6000), new(8000, 9000)];
        Assert.Equal(
            [new(0, new(400, 2000)), new(0, new(2500, 4000)), new(1, new(6000, 8000)), new(0, new(9000, 9600))],
            SpokenPhrases.In(pauses, 9600, 2)
        );
        Assert.All(SpokenPhrases.In(pauses, 9600, 1), p => Assert.Equal(0, p.Speaker));
        Assert.Equal([new SpokenPhrase(0, new(0, 700))], SpokenPhrases.In([], 700, 3));
        Assert.Empty(SpokenPhrases.In([new(0, 700)], 700, 3));
    }

    [Fact]
    public void What_was_heard_is_a_text_with_turns_and_the_times_of_its_words()
    {
        var heard = WrittenDown.Of([
            new(0, [new("[simulated]", 0, 0), .. WrittenDown.Spread(["Where", "to?"], new(0, 600), i => i == 1)]),
            new(1, []),
            new(1, [new("Tarra.", 1000, 1500)]),
        ]);
        Assert.Equal("[simulated] Where to?\n\nTarra.", heard.Text);
        Assert.Equal([new(new(0, 21), "Speaker 1", 0, 600), new(new(23, 29), "Speaker 2", 1000, 1500)], heard.Turns);
        Assert.Equal(
            [new(new(12, 17), 0, 300), new(new(18, 21), 300, 600, Unsure: true), new(new(23, 29), 1000, 1500)],
            heard.Shape.Times!
        );
        var step = InStep.Of(heard.Text, [.. heard.Turns.Select(t => new SpokenTurn(t.Words, t.BeginMs, t.EndMs))], heard.Shape.Times);
        Assert.Equal(new TimeRange(1000, 1500), step.TimeOf(new TextRange(23, 24)));
        // A mark that was not said has no time.
        Assert.False(step.IsWhole);
    }

    [Fact]
    public void A_corrected_word_is_not_doubted_any_more_and_keeps_its_time()
    {
        var heard = WrittenDown.Of([new(0, WrittenDown.Spread(["to", "Tarrow", "and", "Skelder"], new(0, 2000), i => i % 2 == 1))]);
        var moved = Reanchor.Between(heard.Text, "to Tarra and Skelder");
        var shape = CorrectedText.ShapeOf(moved, heard.Shape)!;
        Assert.Equal([false, false, false, true], shape.Times!.Select(t => t.Unsure));
        Assert.Equal(heard.Shape.Times!.Select(t => t.BeginMs), shape.Times!.Select(t => t.BeginMs));
    }

    [Theory]
    [InlineData(0, 0, 10_000, 10_000, null, null, true)]
    [InlineData(9_999, 0, 1, 1, 5, 6, true)]
    [InlineData(9_999, 0, 2, 1, null, null, false)]
    [InlineData(-1, 0, 2, 1, null, null, false)]
    [InlineData(0, 0, 0, 1, null, null, false)]
    [InlineData(0, 0, 1, int.MaxValue, null, null, false)]
    [InlineData(0, 0, 1, 1, 6, 6, false)]
    [InlineData(0, 0, 1, 1, -1, 6, false)]
    [InlineData(0, 0, 1, 1, null, 0, false)]
    public void A_cover_lies_inside_the_picture_and_lasts(int x, int y, int width, int height, int? begin, int? end, bool sound) =>
        Assert.Equal(sound, new Cover(CoverLook.Solid, x, y, width, height, begin, end).IsSound);
}

/// <summary>Transcripts without times along their recordings.</summary>
public class LaidTests
{
    private static (string Text, List<SpokenTurn> Turns) Talk(params string[] said)
    {
        var text = string.Join("\n\n", said);
        var at = 0;
        var turns = new List<SpokenTurn>();
        foreach (var one in said)
        {
            turns.Add(new SpokenTurn(new TextRange(at, at + one.Length), null, null));
            at += one.Length + 2;
        }
        return (text, turns);
    }

    [Fact]
    public void Speech_is_spread_over_turns_by_their_syllables_and_pauses_are_left_out()
    {
        // Two, four and two syllables in 1-3, 4-8 and 8.5-10.5 s: two seconds of speech for every two of them.
        var (text, turns) = Talk("Tarra", "a ferry goes", "today");
        TimeRange[] pauses = [new(0, 1000), new(3000, 4000), new(8000, 8500), new(10_500, 12_000)];
        Assert.Equal(
            [(1000, 3000), (4000, 8000), (8500, 10_500)],
            Laid.Along(text, turns, pauses, 12_000).Turns.Select(t => (t.BeginMs!.Value, t.EndMs!.Value))
        );
        // The last is heard at 9 s, and at once the one before has all that is up to it.
        var pinned = Laid.Along(text, [turns[0], turns[1], turns[2] with { BeginMs = 9000 }], pauses, 12_000).Turns;
        Assert.Equal((9000, 10_500), (pinned[2].BeginMs, pinned[2].EndMs));
        Assert.Equal(9000, pinned[1].EndMs);
    }

    [FsCheck.Xunit.Property]
    public void Turns_follow_each_other_within_the_recording_whatever_is_pinned(byte[] lengths, byte[] paused, byte pin, ushort at)
    {
        var (text, turns) = Talk([.. lengths.Select(n => string.Join(' ', Enumerable.Repeat("water", 1 + (n % 9))))]);
        if (turns.Count == 0)
            return;
        var length = 100_000;
        var pauses = new List<TimeRange>();
        for (var (i, t) = (0, 0); i < paused.Length && t + 800 < length; i++)
        {
            pauses.Add(new TimeRange(t, t + 300));
            t += 300 + (paused[i] * 40) + 1;
        }
        turns[pin % turns.Count] = turns[pin % turns.Count] with { BeginMs = at };
        var (laid, words) = Laid.Along(text, turns, pauses, length);
        Assert.All(words, w => Assert.True(w.EndMs > w.BeginMs));
        Assert.All(laid, t => Assert.True(t.EndMs > t.BeginMs));
        Assert.Equal(at, laid[pin % turns.Count].BeginMs);
        for (var i = 1; i < laid.Count; i++)
            Assert.True(laid[i].BeginMs >= laid[i - 1].BeginMs, $"{laid[i - 1]} {laid[i]}");
    }
}
