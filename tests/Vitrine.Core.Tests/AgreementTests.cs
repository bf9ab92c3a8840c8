using System.Globalization;
using Vitrine.Core.Weigh.Agreement;

namespace Vitrine.Core.Tests;

public sealed class AgreementTests
{
    // Krippendorff, "Computing Krippendorff's Alpha-Reliability" (2011): section A (two observers, binary), alpha = 0.095; section C (four
    // observers, five values, some missing), alpha = 0.743. From memory.
    [Theory]
    [InlineData(0.095, "0100000010", "1110010000")]
    [InlineData(0.743, "123321412...", "1233224125.3", ".3332342251.", "12332441251.")]
    public void Alpha_is_that_of_the_published_examples(double alpha, params string[] observers)
    {
        var rows = observers.Select(o => o.Replace(" ", "", StringComparison.Ordinal)).ToList();
        var units = Enumerable
            .Range(0, rows[0].Length)
            .Select(u => (IReadOnlyList<int?>)[.. rows.Select(r => char.IsDigit(r[u]) ? r[u] - '0' : (int?)null)])
            .ToList();
        var found = KrippendorffsAlpha.Of(units);
        Assert.Equal(alpha, found.Alpha!.Value, 3);
        Assert.InRange(found.Alpha.Value, found.Low!.Value, found.High!.Value);
        Assert.Equal(found, KrippendorffsAlpha.Of(units));
    }

    // The worked example that is given with Fleiss' kappa in most texts: ten subjects, fourteen raters, five categories; 0.210. From memory.
    [Fact]
    public void Fleiss_kappa_is_that_of_the_worked_example()
    {
        int[][] table =
        [
            [0, 0, 0, 0, 14],
            [0, 2, 6, 4, 2],
            [0, 0, 3, 5, 6],
            [0, 3, 9, 2, 0],
            [2, 2, 8, 1, 1],
            [7, 7, 0, 0, 0],
            [3, 2, 6, 3, 0],
            [2, 5, 3, 2, 2],
            [6, 5, 2, 1, 0],
            [0, 2, 2, 3, 7],
        ];
        Assert.Equal(0.210, FleissKappa.Of(table)!.Value, 3);
        Assert.Null(FleissKappa.Of([]));
        Assert.Null(FleissKappa.Of([(int[])[3, 0], (int[])[3, 0]]));
        Assert.Throws<ArgumentException>(() => FleissKappa.Of([(int[])[3, 0], (int[])[2, 0]]));
    }

    // Made by tests/references/agreement/agreement.py with statsmodels.
    [Fact]
    public void Kappas_are_those_of_statsmodels()
    {
        foreach (var cells in Rows("pairs.csv"))
        {
            var counts = cells[..4].Select(c => int.Parse(c, CultureInfo.InvariantCulture)).ToArray();
            var found = CohensKappa.Of(new FourFold(counts[0], counts[1], counts[2], counts[3]));
            Assert.Equal(Number(cells[4]), found.Kappa!.Value, 9);
            Assert.Equal(Number(cells[5]), found.StandardError!.Value, 9);
        }
        foreach (var cells in Rows("many.csv"))
        {
            var people = cells[0].Split(';');
            var units = Enumerable
                .Range(0, people[0].Length)
                .Select(u => (IReadOnlyList<int>)[.. "012".Select(v => people.Count(p => p[u] == v))]);
            Assert.Equal(Number(cells[1]), FleissKappa.Of([.. units])!.Value, 9);
        }

        static double Number(string cell) => double.Parse(cell, CultureInfo.InvariantCulture);
        static IEnumerable<string[]> Rows(string file) =>
            File.ReadLines(Path.Combine(AppContext.BaseDirectory, "references", "agreement", file)).Skip(1).Select(l => l.Split(','));
    }

    // The interval of 20,000 draws unit by unit, by Python's random module: 0.520 to 0.889.
    [Fact]
    public void Units_that_come_in_kinds_give_the_same_figures_as_one_by_one()
    {
        IReadOnlyList<(IReadOnlyList<int>, int)> kinds = [([2, 0], 180), ([0, 2], 12), ([1, 1], 8)];
        var one = kinds.SelectMany(k => Enumerable.Repeat(k.Item1, k.Item2)).ToList();
        Assert.Equal(FleissKappa.Of(one)!.Value, FleissKappa.OfKinds(kinds)!.Value, 12);
        var found = KrippendorffsAlpha.OfKinds(kinds);
        IReadOnlyList<IReadOnlyList<int?>> units = [.. one.Select(u => (IReadOnlyList<int?>)[u[0] > 0 ? 0 : 1, u[1] > 0 ? 1 : 0])];
        Assert.Equal(found, KrippendorffsAlpha.Of(units));
        Assert.Equal(0.729, found.Alpha!.Value, 3);
        Assert.InRange(found.Low!.Value, 0.49, 0.55);
        Assert.InRange(found.High!.Value, 0.87, 0.91);
    }

    [Fact]
    public void A_unit_is_settled_as_one_had_it_as_both_or_as_neither()
    {
        TagOn a = new(1, 10),
            shared = new(1, 11),
            theirs = new(2, 11),
            b = new(2, 12);
        (TagOn, bool)[] Of(Outcome outcome) => [.. Settlement.Of([a, shared], [theirs, b], outcome)];
        Assert.Equal([(a, false), (b, true)], Of(Outcome.First));
        Assert.Equal([(a, true), (b, false)], Of(Outcome.Second));
        Assert.Equal([(a, false), (b, false)], Of(Outcome.Both));
        Assert.Equal([(a, true), (b, true)], Of(Outcome.Neither));
        Assert.Equal([(a, false), (b, false)], Of(Outcome.Talk));
    }

    [Fact]
    public void What_nobody_or_everybody_has_marked_is_undefined_and_says_why()
    {
        Assert.Equal(WhyUndefined.NoUnits, CohensKappa.Of(default).Undefined);
        Assert.Equal((1.0, null, WhyUndefined.NobodyMarked), Told(new FourFold(0, 0, 0, 9)));
        Assert.Equal((1.0, null, WhyUndefined.AllMarked), Told(new FourFold(9, 0, 0, 0)));
        // One marks all and the other none: they agree on nothing, as chance would have it.
        Assert.Equal((0.0, 0.0, null), Told(new FourFold(0, 9, 0, 0)));
        Assert.Null(KrippendorffsAlpha.Of([(int?[])[1, 1], (int?[])[1, 1]]).Alpha);
        Assert.Null(KrippendorffsAlpha.Of([(int?[])[1, null]]).Alpha);

        static (double?, double?, WhyUndefined?) Told(FourFold table) =>
            CohensKappa.Of(table) is var k ? (k.Percent, k.Kappa, k.Undefined) : default;
    }

    [Fact]
    public void A_rare_tag_has_a_low_kappa_for_all_that_they_agree()
    {
        var found = CohensKappa.Of(new FourFold(1, 2, 2, 195));
        Assert.InRange(found.Percent!.Value, 0.97, 0.99);
        Assert.InRange(found.Kappa!.Value, 0.3, 0.35);
        Assert.InRange(found.Prevalence!.Value, -0.98, -0.96);
        Assert.InRange(found.Adjusted!.Value, 0.95, 0.97);
    }

    [Fact]
    public void Units_are_counted_four_ways()
    {
        Assert.Equal(new FourFold(1, 1, 1, 2), FourFold.Of([true, true, false, false, false], [true, false, true, false, false]));
        Assert.Equal(new FourFold(2, 2, 2, 4), new FourFold(1, 1, 1, 2) + new FourFold(1, 1, 1, 2));
    }
}
