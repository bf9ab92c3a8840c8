using Vitrine.Core.Gather.Corrections;
using Vitrine.Core.Gather.Privacy;
using Vitrine.Core.Mark.Recordings;
using Vitrine.Core.Mark.Transcription;
using Vitrine.Core.Text;

namespace Vitrine.Core.Tests;

public class TranscriptionTests
{
    [Fact]
    public void Phrases_stand_between_pauses_and_after_a_long_pause_it_may_be_somebody_else()
    {
        TimeRange[] pauses = [new(0, 400), new(2000, 2500), new(4000, 5000), new(5100, 6000), new(8000, 9000)];
        Assert.Equal(
            [new(new(400, 2000), false), new(new(2500, 4000), false), new(new(6000, 8000), true), new(new(9000, 9600), true)],
            SpokenPhrases.In(pauses, 9600, 2)
        );
        Assert.All(SpokenPhrases.In(pauses, 9600, 1), p => Assert.False(p.MayHandOver));
        Assert.Equal([new SpokenPhrase(new(0, 700), false)], SpokenPhrases.In([], 700, 3));
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

    /// <summary>Two people talk: each speaks at a speed of their own that changes, rests at sentences, and waits before
    /// answering.</summary>
    private static (string Text, List<SpokenTurn> Turns, List<TimeRange> Pauses, List<int> Begins, int Length) Conversation(
        int seed,
        bool signs
    )
    {
        var random = new Random(seed);
        var (said, begins, pauses) = (new List<string>(), new List<int>(), new List<TimeRange>());
        var at = 500.0;
        pauses.Add(new TimeRange(0, 500));
        for (var turn = 0; turn < 40; turn++)
        {
            begins.Add((int)at);
            var msASyllable = (turn % 2 == 0 ? 210 : 240) * (0.85 + (0.3 * random.NextDouble()));
            var words = new List<string>();
            for (var (sentence, sentences) = (0, random.Next(1, turn % 2 == 0 ? 3 : 7)); sentence < sentences; sentence++)
            {
                if (sentence > 0 && random.Next(6) > 0)
                    Rest(random.Next(300, 700));
                for (var word = random.Next(4, 14); word > 0; word--)
                {
                    var syllables = random.Next(1, 4);
                    words.Add(string.Concat(Enumerable.Repeat("ta", syllables)) + (word == 1 && signs ? "." : ""));
                    at += syllables * msASyllable * (0.8 + (0.4 * random.NextDouble()));
                    // Some look for a word.
                    if (word > 1 && random.Next(60) == 0)
                        Rest(random.Next(300, 900));
                }
            }
            said.Add(string.Join(' ', words));
            Rest(random.Next(350, 1300));
        }
        var (text, turns) = Talk([.. said]);
        return (text, turns, pauses, begins, (int)at);

        void Rest(int ms)
        {
            pauses.Add(new TimeRange((int)at, (int)(at + ms)));
            at += ms;
        }
    }

    private static double MeanOff(IReadOnlyList<SpokenTurn> laid, List<int> begins) =>
        laid.Select((t, i) => Math.Abs(t.BeginMs!.Value - begins[i]) / 1000.0).Average();

    [Theory]
    [InlineData(true)]
    [InlineData(false)]
    public void Turns_begin_where_pauses_end_and_each_pin_makes_the_others_better(bool signs)
    {
        var off = new double[3];
        for (var seed = 0; seed < 20; seed++)
        {
            var (text, turns, pauses, begins, length) = Conversation(seed, signs);
            double Off(params int[] pinned) =>
                MeanOff(
                    Laid.Along(
                        text,
                        [.. turns.Select((t, i) => pinned.Contains(i) ? t with { BeginMs = begins[i] } : t)],
                        pauses,
                        length
                    ).Turns,
                    begins
                );
            off[0] += Off() / 20;
            off[1] += Off(20) / 20;
            off[2] += Off(10, 20, 30, 39) / 20;
            Assert.Equal(0, Off([.. Enumerable.Range(0, 40)]));
        }
        // Where a text has no signs at all, more has to be pinned.
        Assert.InRange(off[0], 0, signs ? 0.3 : 0.6);
        Assert.InRange(off[1], 0, signs ? 0.3 : off[0]);
        Assert.InRange(off[2], 0, signs ? 0.3 : off[1]);
    }
}
