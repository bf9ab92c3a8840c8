using FsCheck.Xunit;
using Vitrine.Core.Sort.TagSet;

namespace Vitrine.Core.Tests;

public sealed class ScaleTests
{
    // 0-10, 1-5, 0-90 minutes, 0-7 days a week: scales in use (common practice, no source).
    [Theory]
    [InlineData(0, 10, 1, 10, true)]
    [InlineData(1, 5, 1, 0, false)]
    [InlineData(1, 5, 1, 2.5, false)]
    [InlineData(1, 5, 0.5, 2.5, true)]
    [InlineData(0, 90, 5, 45, true)]
    [InlineData(0, 90, 5, 44, false)]
    [InlineData(0, 7, 1, 8, false)]
    [InlineData(0, 1, 0.1, 0.3, true)] // 0.3 is no exact number of tenths in binary
    public void A_value_fits_when_it_is_one_of_the_steps(double least, double most, double step, double value, bool fits)
    {
        var scale = new Scale(least, most, step, "", "", "");
        Assert.Null(scale.Problem());
        Assert.Equal(fits, scale.Fits(value));
    }

    [Theory]
    [InlineData("1 to 5", 1, 5, 1, "")]
    [InlineData("0 – 10", 0, 10, 1, "")]
    [InlineData("0 to 90 in steps of 5 minutes", 0, 90, 5, "minutes")]
    [InlineData("0 to 7 days a week (least: never; most: daily)", 0, 7, 1, "days a week")]
    public void Words_of_a_scale_are_read(string words, double least, double most, double step, string unit)
    {
        var scale = ScaleWords.Read(words)!;
        Assert.Equal((least, most, step, unit), (scale.Least, scale.Most, scale.Step, scale.Unit));
    }

    // Straight lines between the ends, worked out by hand.
    [Theory]
    [InlineData(0, 1)]
    [InlineData(10, 5)]
    [InlineData(5, 3)]
    [InlineData(1, 1)] // 1.4
    [InlineData(2, 2)] // 1.8
    [InlineData(1.25, 2)] // 1.5, halfway: the higher
    public void A_value_is_laid_on_another_scale(double value, double on) =>
        Assert.Equal(on, new Scale(0, 10, 0.25, "", "", "").On(new Scale(1, 5, 1, "", "", ""), value));

    [Property]
    public bool What_is_laid_on_a_scale_fits_it_and_keeps_the_order(int seed)
    {
        var random = new Random(seed);
        Scale Any() => new(random.Next(-9, 9), random.Next(10, 20), random.Next(1, 8) / 4.0, "", "", "");
        var (from, to) = (Any(), Any());
        var values = Enumerable.Range(0, 9).Select(i => from.Least + (i * (from.Most - from.Least) / 8)).ToList();
        var laid = values.ConvertAll(v => from.On(to, v));
        return laid.TrueForAll(to.Fits) && laid.SequenceEqual(laid.Order());
    }

    private static readonly string[] Pieces = ["minutes", "(", ")", ";", "\\", "least: a", "most: b", " to ", "in steps of 2", "é", "5"];

    private static string Any(Random random) =>
        string.Join(' ', Enumerable.Range(0, random.Next(4)).Select(_ => Pieces[random.Next(Pieces.Length)].Trim()));

    [Property]
    public bool A_scale_in_words_is_read_back_as_it_was(int seed)
    {
        var random = new Random(seed);
        var least = random.Next(-20, 20) / 4.0;
        var step = random.Next(1, 9) / 4.0;
        var scale = new Scale(least, least + (step * random.Next(1, 40)), step, Any(random), Any(random), Any(random));
        return ScaleWords.Read(ScaleWords.Of(scale)) == scale;
    }

    [Theory]
    [InlineData("")]
    [InlineData("five")]
    [InlineData("5 to 1")]
    [InlineData("1 to 5 in steps of 9")]
    public void Words_that_are_no_scale_are_none(string words) => Assert.Null(ScaleWords.Read(words));

    [Theory]
    [InlineData(5, 5, 1, ScaleProblem.Ends)]
    [InlineData(5, 1, 1, ScaleProblem.Ends)]
    [InlineData(1, 5, 0, ScaleProblem.Step)]
    [InlineData(1, 5, -1, ScaleProblem.Step)]
    [InlineData(1, 5, 9, ScaleProblem.Step)]
    [InlineData(0, 1, 0.0001, ScaleProblem.TooFine)]
    [InlineData(double.NaN, 1, 1, ScaleProblem.Ends)]
    [InlineData(0, double.PositiveInfinity, 1, ScaleProblem.Ends)]
    public void What_is_no_scale_says_why(double least, double most, double step, ScaleProblem problem) =>
        Assert.Equal(problem, new Scale(least, most, step, "", "", "").Problem());

    [Theory]
    [InlineData("1 3 5", 1, 5, 1)]
    [InlineData("1 3 6", 1, 7, 1)]
    [InlineData("0 3", 0, 10, 1)]
    [InlineData("12 80", 0, 100, 1)]
    [InlineData("-3 120", -3, 120, 1)]
    [InlineData("1.5 3", 1, 3, 0.1)]
    [InlineData("1.25 3", 1, 3, 0.01)]
    [InlineData("", 1, 5, 1)]
    public void The_narrowest_usual_scale_is_taken_for_values(string values, double least, double most, double step)
    {
        var numbers = values
            .Split(' ', StringSplitOptions.RemoveEmptyEntries)
            .Select(v => double.Parse(v, System.Globalization.CultureInfo.InvariantCulture))
            .ToList();
        Assert.Equal(new Scale(least, most, step, "", "", ""), Scale.Around(numbers));
    }

    [Property]
    public bool A_scale_around_whole_values_is_a_scale_that_holds_them_when_it_is_not_too_long(int[] values)
    {
        var numbers = values.Select(v => (double)(v % 500)).ToList();
        var scale = Scale.Around(numbers);
        return scale.Problem() is null && numbers.All(scale.Fits);
    }

    [Theory]
    [InlineData("0|7", 0, 7, 1)]
    [InlineData("7.5", 1, 7.5, 0.1)]
    [InlineData("3", 1, 5, 1)]
    [InlineData("-2.25|3", -2.25, 5, 0.01)]
    public void A_scale_is_widened_so_that_it_keeps_every_value_it_had(string values, double least, double most, double step)
    {
        var given = values.Split('|').Select(v => double.Parse(v, System.Globalization.CultureInfo.InvariantCulture)).ToList();
        var wider = new Scale(1, 5, 1, "stars", "low", "high").Widened(given);
        Assert.Equal(new Scale(least, most, step, "stars", "low", "high"), wider);
        Assert.True(given.Concat([1, 2, 3, 4, 5]).All(wider!.Fits));
    }

    [Theory]
    [InlineData("5000")]
    [InlineData("1.0005")]
    public void A_scale_is_not_widened_past_what_a_person_can_use(string value) =>
        Assert.Null(new Scale(1, 5, 1, "", "", "").Widened([double.Parse(value, System.Globalization.CultureInfo.InvariantCulture)]));
}
