using System.Text.Json.Serialization;

namespace Vitrine.Core.Text;

/// <summary>
/// A half-open stretch <c>[BeginMs, EndMs)</c> of time, in milliseconds from the beginning of a recording or of a transcript's clock.
/// Never empty and never negative.
/// </summary>
public readonly record struct TimeRange
{
    /// <summary>The end of what lasts as long as the recording does.</summary>
    public const int Open = int.MaxValue;

    /// <summary>First millisecond of the stretch, 0 or more.</summary>
    public int BeginMs { get; }

    /// <summary>One past the last millisecond; always greater than <see cref="BeginMs"/>.</summary>
    public int EndMs { get; }

    /// <exception cref="ArgumentOutOfRangeException">It begins before 0, or does not end after it begins.</exception>
    [JsonConstructor]
    public TimeRange(int beginMs, int endMs)
    {
        ArgumentOutOfRangeException.ThrowIfNegative(beginMs);
        ArgumentOutOfRangeException.ThrowIfLessThanOrEqual(endMs, beginMs);
        BeginMs = beginMs;
        EndMs = endMs;
    }

    /// <summary>What of a stretch lies at 0 or later; null where nothing does, or where it is empty.</summary>
    public static TimeRange? Between(long beginMs, long endMs)
    {
        var begin = Math.Clamp(beginMs, 0, Open);
        var end = Math.Min(endMs, Open);
        return end > begin ? new TimeRange((int)begin, (int)end) : null;
    }

    /// <summary>How long it lasts, in milliseconds, 1 or more.</summary>
    public int LengthMs => EndMs - BeginMs;

    /// <summary>Whether the two share at least one millisecond.</summary>
    public bool Touches(TimeRange other) => BeginMs < other.EndMs && other.BeginMs < EndMs;

    /// <summary>The smallest stretch that holds both, with whatever lies between them.</summary>
    public TimeRange Cover(TimeRange other) => new(Math.Min(BeginMs, other.BeginMs), Math.Max(EndMs, other.EndMs));

    /// <summary>What both share; null where they share nothing.</summary>
    public TimeRange? Clip(TimeRange other) => Between(Math.Max(BeginMs, other.BeginMs), Math.Min(EndMs, other.EndMs));

    /// <summary>
    /// The same stretch on another clock, as far as it lies at 0 or later there; null where it is over before. An open end stays open.
    /// </summary>
    public TimeRange? Shift(int byMs) => Between((long)BeginMs + byMs, EndMs == Open ? Open : (long)EndMs + byMs);

    /// <summary>Its two ends.</summary>
    public void Deconstruct(out int beginMs, out int endMs) => (beginMs, endMs) = (BeginMs, EndMs);
}
