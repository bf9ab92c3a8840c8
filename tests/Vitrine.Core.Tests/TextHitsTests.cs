using Vitrine.Core.Text;

namespace Vitrine.Core.Tests;

public sealed class TextHitsTests
{
    private const string Text =
        "It was cancelled. They cancel boats, and Café boats are off. CANCELLATION? “Was cancelled, I said.” 😀 [off]";

    [Theory]
    [InlineData("cancel", true, "cancelled|cancel|CANCELLATION|cancelled")]
    [InlineData("cancel", false, "cancelled|cancel|CANCELLATION|cancelled")]
    [InlineData("cancel boats", false, "cancel boats")]
    [InlineData("cancelling boat", true, "cancel boats")]
    [InlineData("was cancelled", false, "was cancelled|Was cancelled")]
    [InlineData("cafe bo", false, "Café boats")]
    [InlineData("boat", true, "boats|boats")]
    [InlineData("ancel", false, "")]
    [InlineData("😀 [", false, "😀 [")]
    [InlineData("  ", true, "")]
    public void What_is_typed_is_found_word_by_word(string typed, bool byStem, string found) =>
        Assert.Equal(found, string.Join('|', TextHits.Of(Text, typed, byStem).Select(h => h.Of(Text))));
}
