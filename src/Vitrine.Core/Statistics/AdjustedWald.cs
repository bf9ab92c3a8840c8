namespace Vitrine.Core.Statistics;

/// <summary>A share of people with its uncertainty; all three between 0 and 1.</summary>
public readonly record struct Interval(double Share, double Low, double High);

/// <summary>
/// The adjusted-Wald interval for a proportion: the Wald interval around (x + z²/2) / (n + z²).
/// Source: A. Agresti and B. A. Coull, "Approximate is better than 'exact' for interval estimation of binomial proportions",
/// The American Statistician 52(2), 1998, 119-126.
/// </summary>
public static class AdjustedWald
{
    /// <summary>Two-sided 95 % point of the standard normal distribution.</summary>
    private const double Z = 1.959963984540054;

    /// <summary>
    /// The 95 % interval of <paramref name="x"/> out of <paramref name="n"/>, cut at 0 and 1. Null when nobody was asked.
    /// </summary>
    /// <exception cref="ArgumentOutOfRangeException">x is negative or more than n.</exception>
    public static Interval? Of(int x, int n)
    {
        ArgumentOutOfRangeException.ThrowIfNegative(x);
        ArgumentOutOfRangeException.ThrowIfGreaterThan(x, n);
        if (n == 0)
            return null;
        var adjustedN = n + Z * Z;
        var middle = (x + Z * Z / 2) / adjustedN;
        var half = Z * Math.Sqrt(middle * (1 - middle) / adjustedN);
        return new Interval(x / (double)n, Math.Max(0, middle - half), Math.Min(1, middle + half));
    }
}
