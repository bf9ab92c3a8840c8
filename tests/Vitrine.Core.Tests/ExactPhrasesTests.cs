using Vitrine.Core.Text;

namespace Vitrine.Core.Tests;

public sealed class ExactPhrasesTests
{
    [Theory]
    [InlineData("\"the cancelled boat\"", true)]
    [InlineData("\"cancel\"", false)] // another form of the stem
    [InlineData("\"cancelled boats\"", false)]
    [InlineData("\"THE  Cancelled\"", true)]
    [InlineData("\"café late\"", true)] // accents and what stands between words
    [InlineData("\"cafe\" \"boat\"", true)]
    [InlineData("\"cafe\" \"ship\"", false)]
    [InlineData("\"ate\"", false)] // no part of a word
    [InlineData("\"boat (or", true)] // not closed: still being typed
    [InlineData("cancel", true)] // loose words are for the stems
    [InlineData("\" . \"", true)]
    [InlineData("\"c.* \"", false)] // no pattern
    public void A_phrase_in_quotes_is_meant_as_it_stands(string typed, bool held) =>
        Assert.Equal(held, ExactPhrases.In(typed).AreIn("They told us of the cancelled boat at the Café: late."));

    [Fact]
    public void Places_of_other_forms_are_not_meant_unless_loose_words_stand_beside()
    {
        const string text = "cancel, cancelled";
        TextRange[] found = [new(0, 6), new(8, 17)];
        Assert.Equal([found[0]], ExactPhrases.In("\"cancel\"").Meant(text, found));
        Assert.Equal(found, ExactPhrases.In("\"cancel\" boat").Meant(text, found));
        Assert.Equal(found, ExactPhrases.In("cancel").Meant(text, found));
    }
}
