namespace Vitrine.Core.Mark.Recordings;

/// <summary>
/// The loudness of a recording as it is drawn: of each stretch of equal length the largest sample, whatever its sign, as 0 (silence) to 255
/// (full scale), rounded.
/// </summary>
/// <param name="PerSecond">How many values a second has.</param>
/// <param name="Values">The values, in order; the last one may stand for a shorter stretch.</param>
public sealed record Peaks(int PerSecond, byte[] Values)
{
    /// <summary>The same in fewer values: of each <paramref name="of"/> the largest.</summary>
    /// <param name="of">1 or more, and a divisor of <see cref="PerSecond"/>.</param>
    public Peaks Coarser(int of)
    {
        ArgumentOutOfRangeException.ThrowIfNotEqual(PerSecond % of, 0);
        var values = new byte[(Values.Length + of - 1) / of];
        for (var i = 0; i < Values.Length; i++)
            values[i / of] = Math.Max(values[i / of], Values[i]);
        return new Peaks(PerSecond / of, values);
    }
}

/// <summary>Takes the samples of a recording as they are decoded, and keeps only its peaks.</summary>
/// <param name="samplesPerSecond">Samples of one channel in a second.</param>
/// <param name="perSecond">Peaks in a second; a divisor of the samples.</param>
public sealed class PeakMeter(int samplesPerSecond, int perSecond)
{
    private readonly int each = samplesPerSecond / perSecond;
    private readonly List<ushort> values = [];
    private int inStretch;
    private int largest;

    /// <summary>How many samples were taken.</summary>
    public long Samples { get; private set; }

    /// <summary>Takes the next samples: signed, 16 bits.</summary>
    public void Add(ReadOnlySpan<short> samples)
    {
        Samples += samples.Length;
        foreach (var sample in samples)
        {
            // The most negative sample has no positive fellow in 16 bits.
            largest = Math.Max(largest, Math.Abs((int)sample));
            if (++inStretch == each)
                Keep();
        }
    }

    /// <summary>The peaks of all that was taken.</summary>
    public Peaks Done()
    {
        if (inStretch > 0)
            Keep();
        var loudest = values.Count == 0 ? 0 : values.Max();
        var times = 1;
        if (loudest is > 0 and < FullScale / 16)
        {
            while (loudest * times < FullScale / 4)
                times *= 2;
        }
        return new Peaks(perSecond, [.. values.Select(v => (byte)Math.Min(255, ((v * times * 255) + (FullScale / 2)) / FullScale))]);
    }

    private const int FullScale = 32768;

    private void Keep()
    {
        values.Add((ushort)largest);
        (inStretch, largest) = (0, 0);
    }
}
