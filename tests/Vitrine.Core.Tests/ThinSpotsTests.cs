using Vitrine.Core.Gather.Sources;
using Vitrine.Core.Sort.Themes;
using Vitrine.Core.Weigh.Evidence;

namespace Vitrine.Core.Tests;

public class ThinSpotsTests
{
    private static EvidenceFacts Facts(string supporting, int against = 0) =>
        EvidenceFacts.Of([
            .. supporting.Select(who => new EvidencePiece(
                Stance.Supports,
                who - 'a' + 1,
                who,
                // Capital letters speak in another kind of source.
                char.IsUpper(who)
                    ? SourceKind.Survey
                    : SourceKind.Interview,
                1
            )),
            .. Enumerable.Range(0, against).Select(i => new EvidencePiece(Stance.Contradicts, 100 + i, 9, SourceKind.Interview, 1)),
        ]);

    [Theory]
    [InlineData("", 0, 0, "NobodySupports")]
    [InlineData("a", 0, 0, "OnePerson NothingAgainst")]
    [InlineData("ab", 0, 2, "OneKind GroupsNotHeard NothingAgainst")]
    [InlineData("abC", 1, 0, "")]
    [InlineData("aaabC", 1, 0, "MostlyOnePerson")]
    [InlineData("aabC", 1, 0, "")]
    public void It_is_said_where_a_theme_is_thin(string supporting, int against, int groups, string spots) =>
        Assert.Equal(spots, string.Join(" ", ThinSpots.Of(new("They hear late", "…", Facts(supporting, against), groups, 0, 0))));

    [Theory]
    [InlineData(1, 1, false)]
    [InlineData(2, 2, true)]
    [InlineData(6, 2, true)]
    [InlineData(7, 2, false)]
    [InlineData(2, 6, true)]
    public void Obstacles_with_remedies_are_mixed_from_a_quarter_on(int negative, int positive, bool mixed) =>
        Assert.Equal(mixed, ThinSpots.Of(new("c", "d", Facts("abC", 1), 0, negative, positive)).Contains(ThinSpot.MixesGoodAndBad));

    [Fact]
    public void Without_a_claim_or_a_description_it_says_too_little()
    {
        Assert.Equal([ThinSpot.NoClaim, ThinSpot.NoDescription], ThinSpots.Of(new("", "", Facts("abC", 1), 0, 0, 0)));
        Assert.True(ThinSpots.SaysTooLittle("They hear late", ""));
        Assert.True(ThinSpots.SaysTooLittle("", "What it means."));
        Assert.False(ThinSpots.SaysTooLittle("They hear late", "What it means."));
    }
}
