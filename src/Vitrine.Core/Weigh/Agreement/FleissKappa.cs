namespace Vitrine.Core.Weigh.Agreement;

/// <summary>
/// Agreement of a fixed number of people on each unit, who need not be the same: Fleiss ("Measuring nominal scale agreement among many
/// raters", Psychological Bulletin 76, 1971).
/// </summary>
public static class FleissKappa
{
    /// <param name="units">Of each unit, how many have given each value; all units have the same number of values, two or more.</param>
    /// <returns>Kappa; null where it is undefined: there is no unit, or all have given the same value everywhere.</returns>
    public static double? Of(IReadOnlyList<IReadOnlyList<int>> units) => OfKinds([.. units.Select(u => (u, 1))]);

    /// <summary>The same of units that come in kinds.</summary>
    /// <param name="kinds">How many have given each value to a unit of the kind, and how many such units there are.</param>
    public static double? OfKinds(IReadOnlyList<(IReadOnlyList<int> Values, int Units)> kinds)
    {
        var units = kinds.Sum(k => (double)k.Units);
        if (units == 0)
            return null;
        var people = kinds[0].Values.Sum();
        if (people < 2 || kinds.Any(k => k.Values.Sum() != people))
            throw new ArgumentException("Every unit needs the same number of values, two or more.", nameof(kinds));
        var agreed = kinds.Sum(k => k.Units * (k.Values.Sum(n => (double)n * n) - people) / (people * (people - 1.0))) / units;
        var given = Enumerable.Range(0, kinds[0].Values.Count).Select(v => kinds.Sum(k => (double)k.Units * k.Values[v])).ToList();
        if (given.Exists(g => g == units * people))
            return null;
        var byChance = given.Sum(g => g / (units * people) * (g / (units * people)));
        return (agreed - byChance) / (1 - byChance);
    }
}
