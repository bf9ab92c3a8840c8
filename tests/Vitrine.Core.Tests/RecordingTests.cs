using FsCheck.Xunit;
using Vitrine.Core.Mark.Recordings;
using Vitrine.Core.Text;

namespace Vitrine.Core.Tests;

/// <summary>Peaks and pauses are held against sounds whose values are computed here directly, from their formulas.</summary>
public class RecordingTests
{
    private const int Rate = 8000;

    private static Peaks PeaksOf(short[] samples, int piece = int.MaxValue)
    {
        var meter = new PeakMeter(Rate, 100);
        for (var i = 0; i < samples.Length; i += Math.Min(piece, samples.Length))
            meter.Add(samples.AsSpan(i, Math.Min(Math.Min(piece, samples.Length), samples.Length - i)));
        return meter.Done();
    }

    [Fact]
    public void A_tone_has_its_amplitude_in_every_peak_and_a_click_in_its_own()
    {
        // 400 Hz has a crest in each 10 ms: a quarter of full scale is 64 of 255.
        var tone = Enumerable.Range(0, Rate).Select(i => (short)(8192 * Math.Sin(2 * Math.PI * 400 * i / Rate))).ToArray();
        Assert.All(PeaksOf(tone).Values, v => Assert.Equal(64, v));
        var click = new short[Rate];
        click[4321] = short.MinValue;
        var peaks = PeaksOf(click);
        Assert.Equal([54], Enumerable.Range(0, 100).Where(i => peaks.Values[i] > 0));
        Assert.Equal(255, peaks.Values[54]);
    }

    [Property]
    public void Peaks_are_the_largest_of_each_stretch_however_the_samples_come(short[] samples, byte piece)
    {
        var direct = samples
            .Chunk(80)
            .Select(c => (byte)Math.Min(255, Math.Round(c.Max(s => Math.Abs((double)s)) * 255 / 32768, MidpointRounding.AwayFromZero)))
            .ToList();
        // Quiet ones are drawn larger.
        if (samples.All(s => Math.Abs((int)s) < 2048))
            return;
        Assert.Equal(direct, PeaksOf(samples, piece + 1).Values);
    }

    [Property]
    public void Coarser_peaks_hide_no_sound(byte[] values)
    {
        var coarse = new Peaks(100, values).Coarser(10);
        Assert.Equal((values.Length + 9) / 10, coarse.Values.Length);
        for (var i = 0; i < values.Length; i++)
            Assert.True(coarse.Values[i / 10] >= values[i]);
    }

    [Fact]
    public void Pauses_are_where_the_silences_were_placed()
    {
        // Speech-like noise with silences of a faint hum: 0.2 s (too short), 0.5 s and 1 s.
        (double From, double To)[] silences = [(0.4, 0.6), (1, 1.5), (2, 3)];
        var random = new Random(3);
        var sound = Enumerable
            .Range(0, 4 * Rate)
            .Select(i =>
                (short)((silences.Any(s => s.From * Rate <= i && i < s.To * Rate) ? 60 : 12_000) * ((2 * random.NextDouble()) - 1))
            )
            .ToArray();
        Assert.Equal([new TimeRange(1000, 1500), new TimeRange(2000, 3000)], Pauses.In(PeaksOf(sound)));
        Assert.Equal([new TimeRange(0, 2000)], Pauses.In(new Peaks(100, new byte[200])));
        Assert.Empty(Pauses.In(new Peaks(100, [])));
    }

    [Theory]
    [InlineData(-20, -40)]
    [InlineData(-45, -65)]
    [InlineData(-45, -56)]
    [InlineData(-12, -26)]
    public void A_quiet_recording_has_a_wave_and_pauses_measured_from_its_own_floor(int speechDb, int floorDb)
    {
        static double Of(int db) => 32768 * Math.Pow(10, db / 20.0);
        var random = new Random(5);
        var sound = Enumerable
            .Range(0, 10 * Rate)
            .Select(i => (short)Math.Round((i % (2 * Rate) < Rate ? Of(speechDb) : Of(floorDb)) * ((2 * random.NextDouble()) - 1)))
            .ToArray();
        var peaks = PeaksOf(sound);
        Assert.InRange(peaks.Values.Max(), 16, 255);
        Assert.Equal([1000, 3000, 5000, 7000, 9000], Pauses.In(peaks).Select(p => p.BeginMs));
        // Speech without a pause has none.
        Assert.Empty(Pauses.In(PeaksOf([.. sound.Where((_, i) => i % (2 * Rate) < Rate)])));
    }

    [Fact]
    public void Both_clocks_lead_over_that_of_the_session()
    {
        // Written down 2 s late, filmed by a camera that was switched on at 5 s.
        var shift = SessionClock.Shift(2000, 5000);
        Assert.Equal(new TimeRange(7000, 8000), SessionClock.InRecording(new TimeRange(10_000, 11_000), shift));
        Assert.Equal(new TimeRange(0, 500), SessionClock.InRecording(new TimeRange(2500, 3500), shift));
        Assert.Null(SessionClock.InRecording(new TimeRange(1000, 3000), shift));
    }

    // Counted by hand, as these words are divided in print.
    [Theory]
    [InlineData("a", 1)]
    [InlineData("ferry", 2)]
    [InlineData("ticket", 2)]
    [InlineData("late", 1)]
    [InlineData("table", 2)]
    [InlineData("people", 2)]
    [InlineData("mainland", 2)]
    [InlineData("discussion", 3)]
    [InlineData("Zoë", 1)]
    [InlineData("48", 2)]
    [InlineData("hmm", 1)]
    [InlineData("切符", 1)]
    public void Syllables_are_about_those_that_are_spoken(string word, int syllables) => Assert.Equal(syllables, Syllables.In(word));

    private const string Talk = "So, where to? Tarra.";
    private static readonly SpokenTurn[] Turns = [new(new TextRange(0, 13), 1000, 2500), new(new TextRange(14, 20), 3000, null)];

    [Fact]
    public void The_time_of_a_turn_is_spread_over_its_syllables()
    {
        var step = InStep.Of(Talk, Turns, lengthMs: 60_000);
        // "So", "where", "to": a syllable each, so half a second each; "Tarra" has no end and gets two slow syllables.
        Assert.Equal(
            [(0, 1000, 1500), (4, 1500, 2000), (10, 2000, 2500), (14, 3000, 3800)],
            step.SpokenWords.Select(w => (w.Words.Start, w.Time.BeginMs, w.Time.EndMs))
        );
        Assert.Equal(new TimeRange(1500, 2500), step.TimeOf(new TextRange(5, 11)));
        Assert.Equal(new TextRange(4, 12), step.WordsIn(new TimeRange(1600, 2400)));
        Assert.Null(step.WordsIn(new TimeRange(2500, 3000)));
        Assert.Null(step.TimeOf(new TextRange(12, 13)));
        Assert.Equal(3200, InStep.Of(Talk, Turns, lengthMs: 3200).SpokenWords[^1].Time.EndMs);
        Assert.Empty(InStep.Of("Nobody says when.", [new SpokenTurn(new TextRange(0, 17), null, null)]).SpokenWords);
    }

    [Fact]
    public void What_is_known_finer_than_turns_is_kept()
    {
        TimedWords[] captions = [new(new TextRange(0, 3), 1000, 1100), new(new TextRange(4, 13), 1700, 2500)];
        Assert.Equal(
            [(0, 1000, 1100), (4, 1700, 2100), (10, 2100, 2500), (14, 3000, 3800)],
            InStep.Of(Talk, Turns, captions, 60_000).SpokenWords.Select(w => (w.Words.Start, w.Time.BeginMs, w.Time.EndMs))
        );
    }

    [Property]
    public void Words_and_their_time_lead_to_each_other(int word)
    {
        var step = InStep.Of(Talk, Turns, lengthMs: 60_000);
        var one = step.SpokenWords[Math.Abs(word % step.SpokenWords.Count)];
        Assert.Equal(one.Words, step.WordsIn(step.TimeOf(one.Words)!.Value));
    }

    [Fact]
    public void Scenes_change_where_the_picture_does_far_more_than_usual_in_this_film()
    {
        // A screen on which nearly nothing moves, at five frames a second; its pages change at 20 s and, over two frames, at 60 s.
        var screen = Enumerable.Range(0, 500).Select(i => (AtMs: i * 200, Score: i is 100 or 300 or 301 ? 0.01 : 0.0001)).ToList();
        Assert.Equal([20_000, 60_000], SceneChanges.In(screen));
        // A hand-held camera: what is much on a screen is nothing here.
        var camera = Enumerable
            .Range(0, 500)
            .Select(i =>
                (
                    AtMs: i * 40,
                    Score: i == 200 ? 0.5
                    : i % 2 == 0 ? 0.05
                    : 0.02
                )
            )
            .ToList();
        Assert.Equal([8000], SceneChanges.In(camera));
        Assert.Empty(SceneChanges.In([.. camera.Where(c => c.Score < 0.5)]));
        Assert.Empty(SceneChanges.In([]));
    }
}
