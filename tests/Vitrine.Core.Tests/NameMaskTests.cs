using Vitrine.Core.Gather.Privacy;
using Vitrine.Core.Text;

namespace Vitrine.Core.Tests;

public class NameMaskTests
{
    private static readonly NamedPerson[] People =
    [
        new("Marnie Quillfeather", "Sorrel"),
        new("Rose O'Dell", "Wren"),
        new("J. $1", "Tansy"),
    ];

    [Theory]
    [InlineData("Marnie Quillfeather said so.", "Sorrel said so.")]
    [InlineData("MARNIE QUILLFEATHER", "Sorrel")]
    [InlineData("I told Marnie, Mrs Quillfeather that is", "I told Sorrel, Mrs Sorrel that is")]
    [InlineData("Marnie's box", "Sorrel's box")]
    [InlineData("Rose came, and a rose grew", "Wren came, and a rose grew")]
    [InlineData("O'Dell and Marnies", "Wren and Marnies")]
    public void Real_names_give_way_to_pseudonyms(string text, string masked) => Assert.Equal(masked, Applied(text, People));

    [Fact]
    public void A_name_is_text_not_a_pattern() => Assert.Equal("Tansy paid", Applied("J. $1 paid", People));

    [Fact]
    public void Nobody_named_changes_nothing() => Assert.Equal("as it is", Applied("as it is", [new("  ", "Alder")]));

    private static string Applied(string text, IEnumerable<NamedPerson> people) =>
        Redaction.Of(text, new TextRange(0, text.Length), Redaction.Merged(NameMask.Find(text, people)));
}
