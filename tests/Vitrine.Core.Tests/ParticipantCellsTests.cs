using Vitrine.Core.Gather.Participants;
using static Vitrine.Core.Gather.Participants.ParticipantColumn;

namespace Vitrine.Core.Tests;

public sealed class ParticipantCellsTests
{
    private static readonly Dictionary<ParticipantId, CodedParticipant> People = new()
    {
        [1] = new("P01", "Sorrel"),
        [2] = new("P02", "Wren"),
        [3] = new("P03", "Teal"),
    };

    private static readonly Dictionary<AttributeId, AttributeForm> Attributes = new() { [7] = new("visits", AttributeKind.Number) };

    private static ParticipantCell Cell(long person, ParticipantColumn column, string value) =>
        new(person, column, column == ParticipantColumn.Attribute ? 7 : null, value);

    private static (string Taken, string Refused) Of(params ParticipantCell[] cells)
    {
        var (taken, refused) = ParticipantCells.Of(cells, People, Attributes);
        return (
            string.Join(' ', taken.OrderBy(c => c.ParticipantId).Select(c => $"{c.ParticipantId}={c.Value}")),
            string.Join(
                '|',
                refused
                    .OrderBy(r => r.ParticipantId)
                    .Select(r => $"{r.ParticipantId}: {r.Problem} {r.Holder ?? r.Attribute?.Name ?? r.Value}")
            )
        );
    }

    [Fact]
    public void What_fits_is_taken_and_each_cell_that_does_not_is_refused_alone() =>
        Assert.Equal(
            ("1=2.5 3=", "2: WrongType visits"),
            Of(
                Cell(1, ParticipantColumn.Attribute, " 2,5 "),
                Cell(2, ParticipantColumn.Attribute, "often"),
                Cell(3, ParticipantColumn.Attribute, "")
            )
        );

    [Fact]
    public void Codes_may_change_places_within_a_block() =>
        Assert.Equal(("1=P02 2=P01", ""), Of(Cell(1, Code, "P02"), Cell(2, Code, "P01")));

    [Theory]
    [InlineData("p01", "2: CodeTaken Sorrel")]
    [InlineData("", "2: NoCode ")]
    [InlineData("P00000000000000000001", "2: TooLong P00000000000000000001")]
    public void A_code_that_cannot_be_given(string code, string problem) => Assert.Equal(("", problem), Of(Cell(2, Code, code)));

    /// <summary>Teal keeps P03 because the code they were given is too long; so Wren cannot have it.</summary>
    [Fact]
    public void A_refused_code_stays_with_its_holder()
    {
        var (taken, refused) = Of(Cell(3, Code, new string('x', 30)), Cell(2, Code, "P03"), Cell(1, Code, "P02"));
        Assert.Equal("", taken);
        Assert.Contains("2: CodeTaken Teal", refused, StringComparison.Ordinal);
        Assert.Contains("1: CodeTaken Wren", refused, StringComparison.Ordinal);
    }

    [Fact]
    public void Who_is_given_the_code_that_they_have_keeps_it() =>
        Assert.Equal(("2=P02", "1: CodeTaken Wren"), Of(Cell(2, Code, "P02"), Cell(1, Code, "P02")));

    /// <summary>Codes that differ in case alone may be there from before; a refused one is not looked at again and again.</summary>
    [Fact]
    public void Codes_that_clash_already()
    {
        var people = new Dictionary<ParticipantId, CodedParticipant> { [1] = new("P01", "Sorrel"), [2] = new("p01", "Wren") };
        var (taken, refused) = ParticipantCells.Of([Cell(1, Code, "p01"), Cell(2, Code, "P01")], people, Attributes);
        Assert.Equal(2, taken.Count + refused.Count);
    }

    /// <summary>Of two who are given one code the last keeps it; ten thousand are looked through once, not each beside each.</summary>
    [Fact]
    public void One_code_for_many_is_the_last_ones()
    {
        var many = Enumerable.Range(1, 10_000).ToDictionary(i => (ParticipantId)i, i => new CodedParticipant($"P{i}", $"Person {i}"));
        var (taken, refused) = ParticipantCells.Of([.. many.Keys.Select(id => Cell(id.Value, Code, "X1"))], many, Attributes);
        Assert.Equal(10_000, Assert.Single(taken).ParticipantId);
        Assert.Equal(9_999, refused.Count);
    }

    [Theory]
    [InlineData("Limited", "2=limited", "")]
    [InlineData("perhaps", "", "2: NoConsent perhaps")]
    [InlineData("7", "", "2: NoConsent 7")]
    public void Consent_is_one_of_its_words(string value, string taken, string refused) =>
        Assert.Equal((taken, refused), Of(Cell(2, ParticipantColumn.Consent, value)));

    [Fact]
    public void Of_several_values_for_one_cell_the_last_counts()
    {
        Assert.Equal(("2=3", ""), Of(Cell(2, ParticipantColumn.Attribute, "often"), Cell(2, ParticipantColumn.Attribute, "3")));
        Assert.Equal("", Of(Cell(2, ParticipantColumn.Attribute, "3"), Cell(2, ParticipantColumn.Attribute, "often")).Taken);
    }

    [Fact]
    public void An_attribute_that_is_gone() =>
        Assert.Equal(
            CellProblem.NoAttribute,
            Assert
                .Single(ParticipantCells.Of([new ParticipantCell(1, ParticipantColumn.Attribute, 8, "x")], People, Attributes).Refused)
                .Problem
        );
}
