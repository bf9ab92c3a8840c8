namespace Vitrine.Core.Weigh.Agreement;

/// <summary>
/// Agreement of any number of people, who need not all have read every unit: Krippendorff's alpha for nominal data ("Computing
/// Krippendorff's Alpha-Reliability", 2011), with a 95 % interval by resampling units (the percentile bootstrap, Efron 1979).
/// </summary>
/// <param name="Alpha">At most 1; null where it is undefined.</param>
/// <param name="Low">The lower end of the interval; null where there is none.</param>
/// <param name="High">The upper end.</param>
public sealed record KrippendorffsAlpha(double? Alpha, double? Low, double? High)
{
    /// <summary>How often units are drawn anew.</summary>
    public const int Draws = 1_000;

    /// <param name="units">The values that each unit was given; null for who has not read it. Units with fewer than two values do not
    /// count.</param>
    /// <param name="draws">How often units are drawn anew for the interval; 0 for none. The same units give the same interval.</param>
    public static KrippendorffsAlpha Of(IReadOnlyList<IReadOnlyList<int?>> units, int draws = Draws)
    {
        var paired = units.Select(u => u.OfType<int>().ToList()).Where(u => u.Count > 1).ToList();
        var values = paired.SelectMany(u => u).Distinct().Order().ToList();
        // What each unit adds: how many values of each kind, and how much disagreement.
        var counts = paired.ConvertAll(u => values.ConvertAll(v => u.Count(x => x == v)));
        var disagreement = counts.ConvertAll(c => (double)((c.Sum() * c.Sum()) - c.Sum(n => n * n)) / (c.Sum() - 1));
        var all = Enumerable.Range(0, paired.Count).ToList();
        var alpha = AlphaOf(all);
        if (alpha is null || draws == 0)
            return new KrippendorffsAlpha(alpha, null, null);
        var state = (ulong)paired.Count;
        var drawn = new List<double>();
        var some = new int[paired.Count];
        for (var d = 0; d < draws; d++)
        {
            for (var i = 0; i < some.Length; i++)
                some[i] = Drawn();
            // Units that hold one value alone, drawn by themselves, leave nothing to disagree on.
            drawn.Add(AlphaOf(some) ?? 1);
        }
        drawn.Sort();
        return new KrippendorffsAlpha(alpha, drawn[(int)(draws * 0.025)], drawn[Math.Min(draws - 1, (int)(draws * 0.975))]);

        // SplitMix64 (Steele, Lea and Flood, "Fast splittable pseudorandom number generators", 2014): the same draws every time.
        int Drawn()
        {
            var z = state += 0x9E3779B97F4A7C15;
            z = (z ^ (z >> 30)) * 0xBF58476D1CE4E5B9;
            z = (z ^ (z >> 27)) * 0x94D049BB133111EB;
            return (int)((z ^ (z >> 31)) % (ulong)paired.Count);
        }

        double? AlphaOf(IReadOnlyList<int> of)
        {
            var totals = new long[values.Count];
            double observed = 0;
            foreach (var u in of)
            {
                observed += disagreement[u];
                for (var v = 0; v < totals.Length; v++)
                    totals[v] += counts[u][v];
            }
            var n = totals.Sum();
            var expected = (double)((n * n) - totals.Sum(t => t * t));
            return expected == 0 ? null : 1 - ((n - 1) * observed / expected);
        }
    }
}
