namespace Vitrine.Core.Weigh.Agreement;

/// <summary>Two people over the same units: what each has marked.</summary>
/// <param name="Both">Units that both have marked.</param>
/// <param name="OnlyFirst">Units that only the first has marked.</param>
/// <param name="OnlySecond">Units that only the second has marked.</param>
/// <param name="Neither">Units that neither has marked.</param>
public readonly record struct FourFold(int Both, int OnlyFirst, int OnlySecond, int Neither)
{
    /// <summary>All units.</summary>
    public int Units => Both + OnlyFirst + OnlySecond + Neither;

    /// <summary>Counts units.</summary>
    /// <param name="first">Whether the first has marked each unit.</param>
    /// <param name="second">Whether the second has.</param>
    public static FourFold Of(IReadOnlyList<bool> first, IReadOnlyList<bool> second)
    {
        var (both, one, other, neither) = (0, 0, 0, 0);
        for (var u = 0; u < first.Count; u++)
        {
            if (first[u] && second[u])
                both++;
            else if (first[u])
                one++;
            else if (second[u])
                other++;
            else
                neither++;
        }
        return new FourFold(both, one, other, neither);
    }

    /// <summary>Two tables over different units.</summary>
    public static FourFold operator +(FourFold a, FourFold b) => Add(a, b);

    /// <summary>Two tables over different units.</summary>
    public static FourFold Add(FourFold a, FourFold b) =>
        new(a.Both + b.Both, a.OnlyFirst + b.OnlyFirst, a.OnlySecond + b.OnlySecond, a.Neither + b.Neither);
}

/// <summary>
/// Agreement of two people beyond chance: Cohen's kappa ("A coefficient of agreement for nominal scales", Educational and Psychological
/// Measurement 20, 1960), with its standard error (Fleiss, Cohen and Everitt, Psychological Bulletin 72, 1969, equation 13), and what
/// tells why it can be low when a tag is rare (Byrt, Bishop and Carlin, "Bias, prevalence and kappa", Journal of Clinical Epidemiology 46,
/// 1993).
/// </summary>
/// <param name="Percent">The share of units on which they agree, 0 to 1; null for no unit.</param>
/// <param name="Kappa">-1 to 1; null where it is undefined.</param>
/// <param name="StandardError">Of kappa; null where that is undefined.</param>
/// <param name="Prevalence">The share that both marked less that which neither did, -1 to 1: far from 0, kappa is low by itself.</param>
/// <param name="Bias">How much more often the first marks than the second, -1 to 1.</param>
/// <param name="Adjusted">Kappa as it would be without prevalence and bias: twice the share of agreement less 1.</param>
/// <param name="Undefined">Why kappa is undefined; null where it is not.</param>
public sealed record CohensKappa(
    double? Percent,
    double? Kappa,
    double? StandardError,
    double? Prevalence,
    double? Bias,
    double? Adjusted,
    WhyUndefined? Undefined
)
{
    /// <summary>The figures of a table.</summary>
    public static CohensKappa Of(FourFold table)
    {
        double n = table.Units;
        if (n == 0)
            return new CohensKappa(null, null, null, null, null, null, WhyUndefined.NoUnits);
        var (a, b, c, d) = (table.Both / n, table.OnlyFirst / n, table.OnlySecond / n, table.Neither / n);
        var agreed = a + d;
        var (first, second) = (a + b, a + c);
        var byChance = (first * second) + ((1 - first) * (1 - second));
        var (prevalence, bias, adjusted) = (a - d, b - c, (2 * agreed) - 1);
        // Exact in whole numbers, where a sum of shares is not.
        if (table.Both + table.OnlyFirst + table.OnlySecond == 0 || table.Neither + table.OnlyFirst + table.OnlySecond == 0)
            return new CohensKappa(
                agreed,
                null,
                null,
                prevalence,
                bias,
                adjusted,
                table.Both == 0 ? WhyUndefined.NobodyMarked : WhyUndefined.AllMarked
            );
        var kappa = (agreed - byChance) / (1 - byChance);
        double Diagonal(double share, double rows, double columns) => share * Math.Pow(1 - byChance - ((rows + columns) * (1 - agreed)), 2);
        // For what is off the diagonal: the share of the column's category among the first, and of the row's among the second.
        var off = Math.Pow(1 - agreed, 2) * ((b * Math.Pow(second + (1 - first), 2)) + (c * Math.Pow(1 - second + first, 2)));
        var variance =
            (
                Diagonal(a, first, second)
                + Diagonal(d, 1 - first, 1 - second)
                + off
                - Math.Pow((agreed * byChance) - (2 * byChance) + agreed, 2)
            ) / (n * Math.Pow(1 - byChance, 4));
        return new CohensKappa(agreed, kappa, Math.Sqrt(Math.Max(0, variance)), prevalence, bias, adjusted, null);
    }
}

/// <summary>Why a coefficient of agreement is undefined: there is nothing to disagree on.</summary>
[System.Text.Json.Serialization.JsonConverter(typeof(System.Text.Json.Serialization.JsonStringEnumConverter<WhyUndefined>))]
public enum WhyUndefined
{
    /// <summary>There are no units that both have read.</summary>
    NoUnits,

    /// <summary>Nobody has marked any unit.</summary>
    NobodyMarked,

    /// <summary>All have marked every unit.</summary>
    AllMarked,
}
