using FsCheck.Xunit;
using Vitrine.Core.Text;

namespace Vitrine.Core.Tests;

/// <summary>Ranges of time: never empty, never before 0, and moved between clocks without a millisecond lost or won.</summary>
public sealed class TimeRangeTests
{
    [Fact]
    public void What_is_empty_or_before_0_is_no_range()
    {
        Assert.Throws<ArgumentOutOfRangeException>(() => new TimeRange(5, 5));
        Assert.Throws<ArgumentOutOfRangeException>(() => new TimeRange(-1, 5));
        Assert.Null(TimeRange.Between(9, 9));
        Assert.Null(TimeRange.Between(-9, 0));
        Assert.Equal(new TimeRange(0, 4), TimeRange.Between(-9, 4));
        Assert.Equal(new TimeRange(3, TimeRange.Open), TimeRange.Between(3, long.MaxValue));
    }

    [Fact]
    public void An_open_end_stays_open_on_every_clock()
    {
        var open = new TimeRange(1_000, TimeRange.Open);
        Assert.Equal(new TimeRange(0, TimeRange.Open), open.Shift(-5_000));
        Assert.Equal(new TimeRange(6_000, TimeRange.Open), open.Shift(5_000));
        Assert.Null(new TimeRange(0, 400).Shift(-400));
    }

    [Property]
    public void Two_ranges_share_what_both_hold(ushort a, ushort b, ushort c, ushort d)
    {
        var (one, other) = (new TimeRange(a, a + b + 1), new TimeRange(c, c + d + 1));
        var shared = Enumerable.Range(one.BeginMs, one.LengthMs).Count(ms => other.BeginMs <= ms && ms < other.EndMs);
        Assert.Equal(shared, one.Clip(other)?.LengthMs ?? 0);
        Assert.Equal(shared > 0, one.Touches(other));
        Assert.Equal(Math.Max(one.EndMs, other.EndMs) - Math.Min(one.BeginMs, other.BeginMs), one.Cover(other).LengthMs);
    }

    [Property]
    public void There_and_back_it_is_what_was_left_of_it(ushort begin, ushort length, short by)
    {
        var range = new TimeRange(begin, begin + length + 1);
        var back = range.Shift(by)?.Shift(-by);
        Assert.Equal(TimeRange.Between(Math.Max(begin, -by), range.EndMs), back);
    }
}
