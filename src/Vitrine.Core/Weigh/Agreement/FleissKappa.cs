namespace Vitrine.Core.Weigh.Agreement;

/// <summary>
/// Agreement of a fixed number of people on each unit, who need not be the same: Fleiss ("Measuring nominal scale agreement among many
/// raters", Psychological Bulletin 76, 1971).
/// </summary>
public static class FleissKappa
{
    /// <param name="units">Of each unit, how many have given each value; all units have the same number of values, two or more.</param>
    /// <returns>Kappa; null where it is undefined: there is no unit, or all have given the same value everywhere.</returns>
    public static double? Of(IReadOnlyList<IReadOnlyList<int>> units)
    {
        if (units.Count == 0)
            return null;
        var people = units[0].Sum();
        if (people < 2 || units.Any(u => u.Sum() != people))
            throw new ArgumentException("Every unit needs the same number of values, two or more.", nameof(units));
        var agreed = units.Average(u => (u.Sum(n => (double)n * n) - people) / (people * (people - 1.0)));
        var shares = Enumerable
            .Range(0, units[0].Count)
            .Select(v => units.Sum(u => (double)u[v]) / (units.Count * (double)people))
            .ToList();
        if (shares.Exists(s => s == 1))
            return null;
        var byChance = shares.Sum(s => s * s);
        return (agreed - byChance) / (1 - byChance);
    }
}
