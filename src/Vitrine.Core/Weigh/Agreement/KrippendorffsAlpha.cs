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
        var values = units.SelectMany(u => u.OfType<int>()).Distinct().Order().ToList();
        return OfKinds(
            [
                .. units
                    .Select(u => values.ConvertAll(v => u.Count(x => x == v)))
                    .GroupBy(counts => string.Join(',', counts))
                    .Select(kind => ((IReadOnlyList<int>)kind.First(), kind.Count())),
            ],
            draws
        );
    }

    /// <summary>The same of units that come in kinds.</summary>
    /// <param name="kinds">How many have given each value to a unit of the kind, and how many such units there are.</param>
    /// <param name="draws">How often units are drawn anew for the interval; 0 for none.</param>
    public static KrippendorffsAlpha OfKinds(IReadOnlyList<(IReadOnlyList<int> Values, int Units)> kinds, int draws = Draws)
    {
        var paired = kinds.Where(k => k.Units > 0 && k.Values.Sum() > 1).OrderBy(k => k.Units).ToList();
        // How much disagreement a unit of each kind adds.
        var disagreement = paired.ConvertAll(k =>
            (double)((k.Values.Sum() * k.Values.Sum()) - k.Values.Sum(n => n * n)) / (k.Values.Sum() - 1)
        );
        int[] there = [.. paired.Select(k => k.Units)];
        var alpha = AlphaOf(there);
        if (alpha is null || draws == 0)
            return new KrippendorffsAlpha(alpha, null, null);
        var drawn = new List<double>();
        var some = new int[there.Length];
        var chance = new Draw((ulong)there.Sum());
        for (var d = 0; d < draws; d++)
        {
            // As many units as there are, each of a kind by its share: the rarest kind first, then the next of those that are left.
            var (left, among) = (there.Sum(), there.Sum());
            for (var k = 0; k < some.Length; k++)
            {
                some[k] = k == some.Length - 1 ? left : chance.Binomial(left, there[k] / (double)among);
                left -= some[k];
                among -= there[k];
            }
            // Units that hold one value alone, drawn by themselves, leave nothing to disagree on.
            drawn.Add(AlphaOf(some) ?? 1);
        }
        drawn.Sort();
        return new KrippendorffsAlpha(alpha, drawn[(int)(draws * 0.025)], drawn[Math.Min(draws - 1, (int)(draws * 0.975))]);

        double? AlphaOf(int[] of)
        {
            var totals = new long[paired.Count == 0 ? 0 : paired[0].Values.Count];
            double observed = 0;
            for (var k = 0; k < of.Length; k++)
            {
                observed += of[k] * disagreement[k];
                for (var v = 0; v < totals.Length; v++)
                    totals[v] += (long)of[k] * paired[k].Values[v];
            }
            var n = totals.Sum();
            var expected = (double)((n * n) - totals.Sum(t => t * t));
            return expected == 0 ? null : 1 - ((n - 1) * observed / expected);
        }
    }

    /// <summary>
    /// Numbers by chance, the same ones every time: SplitMix64 (Steele, Lea and Flood, "Fast splittable pseudorandom number generators",
    /// 2014).
    /// </summary>
    private sealed class Draw(ulong state)
    {
        private double Next()
        {
            var z = state += 0x9E3779B97F4A7C15;
            z = (z ^ (z >> 30)) * 0xBF58476D1CE4E5B9;
            z = (z ^ (z >> 27)) * 0x94D049BB133111EB;
            return ((z ^ (z >> 31)) >> 11) * (1.0 / (1UL << 53));
        }

        /// <summary>
        /// How many of some trials succeed, by the waits between successes (Devroye, "Non-Uniform Random Variate Generation", 1986, chapter
        /// X.4, the first waiting time method): as many steps as there are successes.
        /// </summary>
        public int Binomial(int trials, double p)
        {
            if (p > 0.5)
                return trials - Binomial(trials, 1 - p);
            if (p <= 0 || trials == 0)
                return 0;
            var (successes, at, log) = (0, 0.0, Math.Log(1 - p));
            while (true)
            {
                at += Math.Floor(Math.Log(1 - Next()) / log) + 1;
                if (at > trials)
                    return successes;
                successes++;
            }
        }
    }
}
