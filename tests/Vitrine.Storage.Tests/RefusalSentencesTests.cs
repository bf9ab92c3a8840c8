using Vitrine.Core.Gather.Intake;
using Vitrine.Core.Gather.Participants;
using Vitrine.Storage.Trail;

namespace Vitrine.Storage.Tests;

public class RefusalSentencesTests
{
    public static TheoryData<RefusedCell, string> Cells =>
        new()
        {
            {
                new(2, ParticipantColumn.Attribute, 7, "often", CellProblem.WrongType, new AttributeForm("visits", AttributeKind.Number)),
                "“visits” is a number. Type digits, such as 12 or 3.5; “often” does not fit."
            },
            {
                new(2, ParticipantColumn.Code, null, "p01", CellProblem.CodeTaken, null, "Sorrel"),
                "p01 is Sorrel already. Give this person another code."
            },
            {
                new(2, ParticipantColumn.Code, null, new string('x', 21), CellProblem.TooLong),
                "This has 21 characters; 20 is the most. Shorten it and try again."
            },
            {
                new(2, ParticipantColumn.Consent, null, "perhaps", CellProblem.NoConsent),
                "Consent is one of asked, given, limited, withdrawn."
            },
        };

    [Theory]
    [MemberData(nameof(Cells))]
    public void A_cell_that_is_refused_says_what_to_write(RefusedCell cell, string sentence) =>
        Assert.Equal(sentence, RefusalSentences.Of(cell));

    [Fact]
    public void What_a_watch_met_is_told_in_one_line()
    {
        Assert.Equal(
            "“cancelled”, “told”; from J. of Tarra; rated 2.5",
            RefusalSentences.Of(new MetRule(["cancelled", "told"], "J. of Tarra", 2.5))
        );
        Assert.Equal("its channel", RefusalSentences.Of(new MetRule([], null, null)));
    }

    [Fact]
    public void A_tag_name_that_cannot_be_one_says_what_to_do()
    {
        Assert.Contains("Type a word", RefusalSentences.OfTagName(0), StringComparison.Ordinal);
        Assert.Contains("300 characters; 80 is the most", RefusalSentences.OfTagName(300), StringComparison.Ordinal);
    }
}
