namespace Vitrine.Core.Sort.TagSet;

/// <summary>Why something is no scale.</summary>
public enum ScaleProblem
{
    /// <summary>The highest value is not above the lowest.</summary>
    Ends,

    /// <summary>The step is 0 or less, or wider than the scale.</summary>
    Step,

    /// <summary>It has more than <see cref="Scale.MostValues"/> values.</summary>
    TooFine,
}

/// <summary>A tag's own measure.</summary>
/// <param name="Least">The lowest value.</param>
/// <param name="Most">The highest value, above <paramref name="Least"/>.</param>
/// <param name="Step">From one value to the next, counted from <paramref name="Least"/>; above 0.</param>
/// <param name="Unit">What is counted, such as "minutes"; may be empty.</param>
/// <param name="LowLabel">What the low end is called; may be empty.</param>
/// <param name="HighLabel">What the high end is called; may be empty.</param>
public sealed record Scale(double Least, double Most, double Step, string Unit, string LowLabel, string HighLabel)
{
    /// <summary>Values that one scale can have, at most.</summary>
    public const int MostValues = 1_001;

    private const double Close = 1e-6;

    // Scales in use (common practice, no source).
    private static readonly (double Least, double Most)[] Usual = [(1, 5), (1, 7), (0, 10), (0, 100)];

    /// <summary>Why this is no scale; null when it is one.</summary>
    public ScaleProblem? Problem() =>
        !double.IsFinite(Least) || !double.IsFinite(Most) || Least >= Most ? ScaleProblem.Ends
        : !double.IsFinite(Step) || Step <= 0 || Step > Most - Least ? ScaleProblem.Step
        : (Most - Least) / Step > MostValues - 1 + Close ? ScaleProblem.TooFine
        : null;

    /// <summary>Whether a value is one of the scale's.</summary>
    public bool Fits(double value)
    {
        var steps = (value - Least) / Step;
        return value >= Least - Close && value <= Most + Close && Math.Abs(steps - Math.Round(steps)) < Close;
    }

    /// <summary>
    /// Where a value lies on another scale: as far between its ends as between the ends of this one, at the nearest step; halfway between
    /// two steps it is the higher one.
    /// </summary>
    /// <example>On a scale from 0 to 10, 5 is 3 on one from 1 to 5, and 10 is 5.</example>
    public double On(Scale other, double value)
    {
        var along = (value - Least) / (Most - Least) * (other.Most - other.Least);
        var steps = Math.Floor((along / other.Step) + 0.5 + Close);
        // The last step of a scale may fall short of its end.
        var last = Math.Floor(((other.Most - other.Least) / other.Step) + Close);
        return Math.Round(other.Least + (Math.Clamp(steps, 0, last) * other.Step), 9);
    }

    /// <summary>
    /// The scale with its ends moved out until it holds all values: in whole steps, or in tenths or hundredths of one where values stand
    /// between them, so that every value it had is one still. Null when that would be more than <see cref="MostValues"/>.
    /// </summary>
    /// <example>From 1 to 5 in steps of 1 with the values 0 and 7.5 it goes from 0 to 7.5 in steps of 0.1.</example>
    public Scale? Widened(IReadOnlyCollection<double> values)
    {
        var all = values.Append(Least).Append(Most).ToList();
        foreach (var step in new[] { Step, Step / 10, Step / 100 })
        {
            if (all.Exists(v => Math.Abs((v - Least) / step - Math.Round((v - Least) / step)) >= Close))
                continue;
            var wider = this with { Least = Math.Round(all.Min(), 9), Most = Math.Round(all.Max(), 9), Step = step };
            return wider.Problem() is null ? wider : null;
        }
        return null;
    }

    /// <summary>
    /// The narrowest usual scale that holds all values, in whole steps; else one from the least to the most of them, in steps as fine as
    /// they are. 1 to 5 for none.
    /// </summary>
    public static Scale Around(IReadOnlyCollection<double> values)
    {
        var whole = values.All(v => v == Math.Floor(v));
        foreach (var (least, most) in Usual)
        {
            if (whole && values.All(v => v >= least && v <= most))
                return new Scale(least, most, 1, "", "", "");
        }
        var step =
            whole ? 1
            : values.All(v => Math.Abs(v * 10 - Math.Round(v * 10)) < Close) ? 0.1
            : 0.01;
        var (low, high) = (Math.Floor(values.Min()), Math.Ceiling(values.Max()));
        return new Scale(low, high > low ? high : low + 1, Math.Max(step, (high - low) / (MostValues - 1)), "", "", "");
    }
}
