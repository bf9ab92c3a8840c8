using System.Collections.Frozen;

namespace Vitrine.Core.Text;

/// <summary>
/// English words that tell little of what is meant. The list is that of Snowball, as PostgreSQL ships it (english.stop, 127 words), and
/// the rests of shortened forms ("'ll", "'re", "'ve", "'d", "'m") with their words.
/// </summary>
public static class StopWords
{
    private static readonly FrozenSet<string> English = (
        "i me my myself we our ours ourselves you your yours yourself yourselves he him his himself she her hers herself it its itself "
        + "they them their theirs themselves what which who whom this that these those am is are was were be been being have has had "
        + "having do does did doing a an the and but if or because as until while of at by for with about against between into through "
        + "during before after above below to from up down in out on off over under again further then once here there when where why "
        + "how all any both each few more most other some such no nor not only own same so than too very s t can will just don should now"
    )
        .Split(' ')
        .ToFrozenSet();

    /// <summary>Whether a word, in lower case, tells little: it, or what stands before its apostrophe, is on the list.</summary>
    public static bool Has(string word)
    {
        var apostrophe = word.AsSpan().IndexOfAny('\'', '’');
        return English.Contains(word)
            || (apostrophe > 0 && English.Contains(word[..apostrophe]))
            || word.EndsWith("n't", StringComparison.Ordinal)
            || word.EndsWith("n’t", StringComparison.Ordinal);
    }
}
