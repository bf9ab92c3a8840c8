using System.Text;
using FsCheck.Xunit;
using Vitrine.Core.Text;

namespace Vitrine.Core.Tests;

public class CanonicalTextTests
{
    [Theory]
    [InlineData("a\r\nb\rc\nd", "a\nb\nc\nd")]
    [InlineData("\uFEFFhello", "hello")]
    [InlineData("a\0b", "ab")]
    [InlineData("line  \t\nnext ", "line\nnext")]
    [InlineData("a\u2028b\u2029c\u0085d", "a\nb\nc\nd")]
    public void Line_ends_marks_and_stray_space_are_made_one_way(string raw, string canonical) =>
        Assert.Equal(canonical, CanonicalText.From(raw));

    // Unicode Standard Annex 15, "Unicode Normalization Forms", Table 4 and Figure 3: decomposed letters are composed, singletons replaced.
    [Theory]
    [InlineData("cafe\u0301", "caf\u00E9")]
    [InlineData("\u212B", "\u00C5")]
    [InlineData("s\u0323\u0307", "\u1E69")]
    [InlineData("\u1112\u1161\u11AB", "\uD55C")]
    public void Text_is_brought_into_nfc(string raw, string canonical) => Assert.Equal(canonical, CanonicalText.From(raw));

    [Fact]
    public void Emoji_and_right_to_left_text_stay_whole()
    {
        const string text = "\U0001F6A2\U0001F469\u200D\U0001F9BD שלום مرحبا end";
        Assert.Equal(text, CanonicalText.From(text));
        var at = text.IndexOf("مرحبا", StringComparison.Ordinal);
        Assert.Equal("مرحبا", new TextRange(at, at + 5).Of(CanonicalText.From(text)));
    }

    [Fact]
    public void An_unpaired_surrogate_becomes_a_replacement_character() =>
        Assert.Equal("a\uFFFDb\uFFFD", CanonicalText.From("a\uD83Db\uDE00"));

    [Property]
    public bool Twice_is_once(string? raw)
    {
        var once = CanonicalText.From(raw ?? "");
        return CanonicalText.From(once) == once && once.IsNormalized(NormalizationForm.FormC) && !once.Contains('\r');
    }
}
