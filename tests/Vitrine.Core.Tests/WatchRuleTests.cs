using Vitrine.Core.Gather.Intake;

namespace Vitrine.Core.Tests;

public class WatchRuleTests
{
    private static readonly Dictionary<string, string> Found = new() { ["cancel"] = "cancelled", ["told"] = "told" };

    private static MetRule? Meets(WatchRule rule, double? rating = 2, string sender = "J. from Tarra") =>
        rule.Meets(new Arrived(4, sender, rating), Found);

    [Fact]
    public void One_word_is_enough_unless_all_are_asked_for()
    {
        var rule = new WatchRule(["cancel", "ticket"], false, "", null, null, null);
        Assert.Equal(["cancelled"], Meets(rule)!.Words);
        Assert.Null(Meets(rule with { AllWords = true }));
        Assert.Equal(["cancelled", "told"], Meets(rule with { Words = ["cancel", "told"], AllWords = true })!.Words);
    }

    [Theory]
    [InlineData("tarra", null, null, null, "J. from Tarra ")]
    [InlineData("skelda", null, null, null, null)]
    [InlineData("", null, 2.0, null, " 2")]
    [InlineData("", 3.0, null, null, null)]
    [InlineData("", null, 1.0, null, null)]
    [InlineData("", null, null, 4L, " ")]
    [InlineData("", null, null, 5L, null)]
    public void Every_condition_that_is_given_must_hold(string sender, double? from, double? to, long? channel, string? said) =>
        Assert.Equal(said, Meets(new WatchRule([], false, sender, from, to, channel)) is { } met ? $"{met.Sender} {met.Rating}" : null);

    [Fact]
    public void What_has_no_rating_meets_no_rating() => Assert.Null(Meets(new WatchRule([], false, "", null, 5, null), rating: null));

    [Fact]
    public void A_rule_that_asks_nothing_is_empty() => Assert.True(new WatchRule([], true, "", null, null, null).IsEmpty);
}
