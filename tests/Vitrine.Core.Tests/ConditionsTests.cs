using Vitrine.Core.Counting;
using Vitrine.Core.Gather.Sources;
using Vitrine.Core.Mark.Observations;

namespace Vitrine.Core.Tests;

public sealed class ConditionsTests
{
    private static readonly Conditions Many = new()
    {
        ParticipantIds = [3],
        Values = [new HasValue(1, "Quay")],
        SourceKinds = [SourceKind.FieldNotes],
        HeldFrom = new DateOnly(2026, 3, 1),
        Sentiments = [Sentiment.Negative],
        Starred = true,
    };

    [Fact]
    public void Json_says_what_is_asked_for_and_nothing_else()
    {
        Assert.Equal("{}", new Conditions().ToJson());
        Assert.Equal(
            """
            {"participantIds":[3],"values":[{"attributeId":1,"value":"Quay"}],"sourceKinds":["fieldNotes"],"heldFrom":"2026-03-01","sentiments":["negative"],"starred":true}
            """,
            Many.ToJson()
        );
        Assert.True(Conditions.TryParse(Many.ToJson(), null, out var read));
        Assert.Equal(Many.ToJson(), read.ToJson());
        Assert.Equal((true, true, true), (read.OfPeople, read.OfSources, read.OfMarks));
        Assert.False(new Conditions().Any);
    }

    [Theory]
    [InlineData(null)]
    [InlineData("")]
    [InlineData("null")]
    [InlineData("[]")]
    [InlineData("{")]
    [InlineData("{\"tagIds\":null}")]
    [InlineData("{\"tagIds\":[null]}")]
    [InlineData("{\"tagIds\":[\"1\"]}")]
    [InlineData("{\"values\":[null]}")]
    [InlineData("{\"values\":[{\"attributeId\":1}]}")]
    [InlineData("{\"ranges\":[null]}")]
    [InlineData("{\"ranges\":[{\"attributeId\":1}]}")]
    [InlineData("{\"ranges\":[{\"attributeId\":1,\"min\":\"old\"}]}")]
    [InlineData("{\"ranges\":[{\"attributeId\":1,\"min\":\"3\",\"max\":\"2026-03-01\"}]}")]
    [InlineData("{\"sentiments\":[3]}")]
    [InlineData("{\"heldFrom\":\"yesterday\"}")]
    [InlineData("{\"colour\":1}")]
    public void What_is_no_condition_is_not_read(string? json) => Assert.False(Conditions.TryParse(json, null, out _));

    [Fact]
    public void All_conditions_hold_together_and_of_each_list_any()
    {
        Assert.True(Many.Fits(9, SourceKind.FieldNotes, null, new DateOnly(2026, 3, 1)));
        Assert.False(Many.Fits(9, SourceKind.FieldNotes, null, new DateOnly(2026, 2, 28)));
        Assert.False(Many.Fits(9, SourceKind.FieldNotes, null, null));
        Assert.False(Many.Fits(9, SourceKind.Diary, null, new DateOnly(2026, 3, 2)));
        Assert.True(
            new Conditions { SessionIds = [4, 5], HeldTo = new DateOnly(2026, 3, 1) }.Fits(1, SourceKind.Diary, 5, new DateOnly(2026, 3, 1))
        );
        Assert.False(new Conditions { SessionIds = [4, 5] }.Fits(1, SourceKind.Diary, null, null));

        var quayOrHill = new Conditions { Values = [new HasValue(1, "Quay"), new HasValue(1, "Hill"), new HasValue(2, "old")] };
        Assert.True(quayOrHill.Fits(7, a => a == 1 ? "Hill" : "old"));
        Assert.False(quayOrHill.Fits(7, a => a == 1 ? "Hill" : null));

        Assert.True(Fits(new Conditions { TagIds = [2, 9] }));
        Assert.False(Fits(new Conditions { Untagged = true }));
        Assert.False(Fits(new Conditions { AuthorIds = [8] }));
        Assert.True(Fits(new Conditions { Sentiments = [Sentiment.Mixed, Sentiment.Positive], Unsure = true }));
        Assert.False(Fits(new Conditions { Starred = true }));
        Assert.False(Fits(new Conditions { Reviewed = true }));

        static bool Fits(Conditions where) => where.Fits([2, 3], 1, Sentiment.Mixed, starred: false, unsure: true, found: true);
    }

    [Theory]
    [InlineData("30", "45", "30", true)]
    [InlineData("30", "45", "45.5", false)]
    [InlineData("9", null, "10", true)]
    [InlineData(null, "-1E3", "-2000", true)]
    [InlineData("2026-02-28", "2026-03-01", "2026-03-01", true)]
    [InlineData("2026-02-28", null, "2026-02-27", false)]
    [InlineData("2026", null, "2026-02-27", false)]
    [InlineData("1", null, "many", false)]
    [InlineData("1", null, null, false)]
    public void A_range_holds_numbers_and_days_of_its_own_type(string? min, string? max, string? value, bool fits)
    {
        var where = new Conditions { Ranges = [new ValueRange(1, min, max)] };
        Assert.True(where.OfPeople);
        Assert.Equal(fits, where.Fits(7, _ => value));
        Assert.True(Conditions.TryParse(where.ToJson(), null, out var read));
        Assert.Equal(where.Ranges, read.Ranges);
    }
}
