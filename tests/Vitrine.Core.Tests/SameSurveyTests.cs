using Vitrine.Core.Gather.Surveys;

namespace Vitrine.Core.Tests;

// Pairs of tables as they come from tools of the trade, judged by hand; common practice, no source.
public class SameSurveyTests
{
    [Theory]
    [InlineData("who|How easy?|Why?", "Why?|who|How easy?", "", "")]
    [InlineData("who|Q1. How easy?|Why?", "Who|1) how easy|WHY", "", "")]
    [InlineData("who|How easy?|Why?|home", "who|How easy?|Why?|age", "age", "home")]
    [InlineData("who|why", "who|why|how often|when|with whom", "how often|when|with whom", "")]
    [InlineData("who|Où?", "who|Ou", "", "")]
    public void Known_by_its_questions(string before, string now, string added, string dropped)
    {
        var change = SameSurvey.Between(before.Split('|'), now.Split('|'));
        Assert.NotNull(change);
        Assert.Equal((added, dropped), (string.Join('|', change.Added), string.Join('|', change.Dropped)));
    }

    [Theory]
    [InlineData("who|How easy?|Why?", "who|Which boat?|When?|Where from?")]
    [InlineData("code|a|b|c", "code|d|e|f")]
    [InlineData("a", "b")]
    public void Another_survey(string before, string now) => Assert.Null(SameSurvey.Between(before.Split('|'), now.Split('|')));

    [Fact]
    public void A_question_that_is_a_number_alone_stays_one() => Assert.Equal("2026", SameSurvey.Question("2026."));
}
