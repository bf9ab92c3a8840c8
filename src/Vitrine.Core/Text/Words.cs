using System.Globalization;
using System.Text;

namespace Vitrine.Core.Text;

/// <summary>
/// The words of a text: runs of letters, digits and the marks on them, joined over an apostrophe, a point or the like that stands between
/// two letters or two digits, as Unicode Standard Annex 29 joins them (WB5 to WB13). Signs of scripts that write without spaces
/// (ideographs, hiragana) are a word each. White space and punctuation belong to no word.
/// </summary>
/// <example>"Can't pay 1,000.50!" has three: "Can't", "pay" and "1,000.50".</example>
public static class Words
{
    private enum Sort
    {
        None,
        Letter,
        Digit,
        Katakana,
        Connector,
        Alone,
        BetweenLetters,
        BetweenDigits,
        BetweenBoth,
        Unseen,
    }

    /// <summary>The words of a stretch of a text, in order.</summary>
    /// <param name="text">The whole text.</param>
    /// <param name="from">Where to begin, in UTF-16 units.</param>
    /// <param name="to">Where to end.</param>
    public static IEnumerable<TextRange> In(string text, int from, int to)
    {
        for (var at = from; at < to; )
        {
            var (sort, size) = At(text, at, to);
            if (sort is not (Sort.Letter or Sort.Digit or Sort.Katakana or Sort.Alone or Sort.Connector))
            {
                at += size;
                continue;
            }
            var end = WithMarks(text, at + size, to);
            var holds = sort != Sort.Connector;
            while (sort != Sort.Alone && Next(text, end, to, sort) is var (next, sortThere) && next > end)
            {
                (end, sort) = (next, sortThere);
                holds |= sort != Sort.Connector;
            }
            if (holds)
                yield return new TextRange(at, end);
            at = end;
        }
    }

    /// <summary>The end of what goes on with the word, and what it ends with; the place itself where the word ends.</summary>
    private static (int End, Sort Sort) Next(string text, int at, int to, Sort before)
    {
        if (at >= to)
            return (at, before);
        var (sort, size) = At(text, at, to);
        if (Joins(before, sort))
            return (WithMarks(text, at + size, to), sort);
        var bridge = WithMarks(text, at + size, to);
        if (bridge >= to)
            return (at, before);
        var (beyond, beyondSize) = At(text, bridge, to);
        var bridged = (before, sort, beyond) switch
        {
            (Sort.Letter, Sort.BetweenLetters or Sort.BetweenBoth, Sort.Letter) => true,
            (Sort.Digit, Sort.BetweenDigits or Sort.BetweenBoth, Sort.Digit) => true,
            _ => false,
        };
        return bridged ? (WithMarks(text, bridge + beyondSize, to), beyond) : (at, before);
    }

    private static bool Joins(Sort before, Sort next) =>
        (before, next) switch
        {
            (Sort.Letter or Sort.Digit, Sort.Letter or Sort.Digit) => true,
            (Sort.Katakana, Sort.Katakana) => true,
            (Sort.Letter or Sort.Digit or Sort.Katakana or Sort.Connector, Sort.Connector) => true,
            (Sort.Connector, Sort.Letter or Sort.Digit or Sort.Katakana) => true,
            _ => false,
        };

    /// <summary>Behind marks and signs of direction that belong to what stands before them.</summary>
    private static int WithMarks(string text, int at, int to)
    {
        while (at < to && At(text, at, to) is (Sort.Unseen, var size))
            at += size;
        return at;
    }

    private static (Sort Sort, int Size) At(string text, int at, int to)
    {
        if (Rune.DecodeFromUtf16(text.AsSpan(at, to - at), out var rune, out var size) != System.Buffers.OperationStatus.Done)
            return (Sort.None, 1);
        var sort = rune.Value switch
        {
            // What the annex takes otherwise than its category says: Hebrew geresh, letters of phonetics, Armenian and circled letters; the
            // Arabic decimal sign; marks over kana and tones of skin; the point between katakana.
            0x5F3
            or >= 0x2C2
            and <= 0x2C5
            or >= 0x2D2
            and <= 0x2D7
            or 0x2DE
            or 0x2DF
            or >= 0x2E5
            and <= 0x2EB
            or 0x2ED
            or >= 0x2EF
            and <= 0x2FF
            or >= 0x55A
            and <= 0x55C
            or 0x55E
            or 0x58A
            or >= 0x24B6
            and <= 0x24E9
            or >= 0xA708
            and <= 0xA716
            or 0xA720
            or 0xA721
            or 0xA789
            or 0xA78A
            or 0xAB5B => Sort.Letter,
            0x66B => Sort.Digit,
            0x3099 or 0x309A or 0xFF9E or 0xFF9F or >= 0x1F3FB and <= 0x1F3FF => Sort.Unseen,
            0x30FB => Sort.None,
            '\'' or '.' or 0x2018 or 0x2019 or 0x2024 or 0xFE52 or 0xFF07 or 0xFF0E => Sort.BetweenBoth,
            ':' or 0xB7 or 0x387 or 0x55F or 0x5F4 or 0x2027 or 0xFE13 or 0xFE55 or 0xFF1A => Sort.BetweenLetters,
            ','
            or ';'
            or 0x37E
            or 0x589
            or 0x60C
            or 0x60D
            or 0x66C
            or 0x7F8
            or 0x2044
            or 0xFE10
            or 0xFE14
            or 0xFE50
            or 0xFE54
            or 0xFF0C
            or 0xFF1B => Sort.BetweenDigits,
            >= 0x30A0 and <= 0x30FF or >= 0x3031 and <= 0x3035 or 0x309B or 0x309C or >= 0x31F0 and <= 0x31FF or >= 0xFF66 and <= 0xFF9D =>
                Sort.Katakana,
            >= 0x3041 and <= 0x309F or >= 0x3400 and <= 0x9FFF or >= 0xF900 and <= 0xFAFF or >= 0x20000 and <= 0x3FFFF => Sort.Alone,
            _ => LetterOf(rune),
        };
        return (sort, size);
    }

    private static Sort LetterOf(Rune rune) =>
        Rune.GetUnicodeCategory(rune) switch
        {
            UnicodeCategory.UppercaseLetter
            or UnicodeCategory.LowercaseLetter
            or UnicodeCategory.TitlecaseLetter
            or UnicodeCategory.ModifierLetter
            or UnicodeCategory.OtherLetter
            or UnicodeCategory.LetterNumber => Sort.Letter,
            UnicodeCategory.DecimalDigitNumber => Sort.Digit,
            UnicodeCategory.ConnectorPunctuation => Sort.Connector,
            UnicodeCategory.NonSpacingMark
            or UnicodeCategory.SpacingCombiningMark
            or UnicodeCategory.EnclosingMark
            or UnicodeCategory.Format => Sort.Unseen,
            _ => Sort.None,
        };
}
