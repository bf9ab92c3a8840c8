using System.Globalization;
using FsCheck;
using FsCheck.Xunit;
using Vitrine.Core.Statistics;

namespace Vitrine.Core.Tests;

public class AdjustedWaldTests
{
    public static TheoryData<int, int, double, double> ReferenceCases()
    {
        // Made by tests/references/adjusted-wald.py with statsmodels 0.13.5 (Debian), proportion_confint(method="agresti_coull").
        var cases = new TheoryData<int, int, double, double>();
        foreach (
            var line in File.ReadLines(Path.Combine(AppContext.BaseDirectory, "references", "adjusted-wald.csv"))
                .Where(l => char.IsDigit(l[0]))
        )
        {
            var cell = line.Split(',');
            cases.Add(
                int.Parse(cell[0], CultureInfo.InvariantCulture),
                int.Parse(cell[1], CultureInfo.InvariantCulture),
                double.Parse(cell[2], CultureInfo.InvariantCulture),
                double.Parse(cell[3], CultureInfo.InvariantCulture)
            );
        }
        return cases;
    }

    [Theory]
    [MemberData(nameof(ReferenceCases))]
    public void Agrees_with_a_reference_library(int x, int n, double low, double high)
    {
        var interval = AdjustedWald.Of(x, n)!.Value;
        Assert.Equal(low, interval.Low, 9);
        Assert.Equal(high, interval.High, 9);
        Assert.Equal(x / (double)n, interval.Share, 12);
    }

    // J. Sauro and J. R. Lewis, "Quantifying the User Experience", chapter 3: 7 of 10 users complete a task, the 95 % adjusted-Wald
    // interval
    // runs from 39 % to 90 %. The value is from memory.
    [Fact]
    public void Agrees_with_the_worked_example_of_seven_users_of_ten()
    {
        var interval = AdjustedWald.Of(7, 10)!.Value;
        Assert.Equal(0.39, interval.Low, 2);
        Assert.Equal(0.90, interval.High, 2);
    }

    [Fact]
    public void Nobody_asked_has_no_interval() => Assert.Null(AdjustedWald.Of(0, 0));

    [Theory]
    [InlineData(-1, 5)]
    [InlineData(6, 5)]
    public void More_than_were_asked_is_refused(int x, int n) => Assert.Throws<ArgumentOutOfRangeException>(() => AdjustedWald.Of(x, n));

    [Property]
    public bool The_share_lies_in_its_interval_and_mirrors(PositiveInt asked, NonNegativeInt said)
    {
        var (n, x) = (asked.Get, said.Get % (asked.Get + 1));
        var interval = AdjustedWald.Of(x, n)!.Value;
        var mirrored = AdjustedWald.Of(n - x, n)!.Value;
        return 0 <= interval.Low
            && interval.Low <= interval.Share
            && interval.Share <= interval.High
            && interval.High <= 1
            && Math.Abs(interval.Low - (1 - mirrored.High)) < 1e-9;
    }
}
