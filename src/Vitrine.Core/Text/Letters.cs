using System.Globalization;
using System.Text;

namespace Vitrine.Core.Text;

/// <summary>
/// The letters and digits of a text, each in the form in which it is compared, with where it stands: by compatibility (UAX #15, NFKD), in
/// small letters, without marks above or below and without signs that nobody sees. Spaces, line ends, hyphens, apostrophes and all other
/// signs only part words.
/// </summary>
/// <example>"CÉLES\u00ADTINE’s" and "célestine s" have the same letters; the second word of both begins at the s.</example>
public sealed class Letters
{
    private readonly List<int> starts = [];
    private readonly List<int> ends = [];
    private readonly List<bool> begins = [];

    private Letters(string text)
    {
        var all = new StringBuilder(text.Length);
        var parted = true;
        for (var at = 0; at < text.Length; )
        {
            var length = char.IsSurrogatePair(text, at) ? 2 : 1;
            var sign = text.AsSpan(at, length);
            var before = all.Length;
            if (sign[0] < 128)
            {
                if (char.IsAsciiLetterOrDigit(sign[0]))
                    all.Append(char.ToLowerInvariant(sign[0]));
            }
            else if (IsMark(text, at) || HiddenSigns.Has(text[at]))
            {
                // It belongs to the letter before, and parts nothing.
                if (ends.Count > 0 && !parted && IsMark(text, at))
                    ends[^1] = at + length;
                at += length;
                continue;
            }
            else
                Fold(text.Substring(at, length), all);
            for (var i = before; i < all.Length; i++)
            {
                starts.Add(at);
                ends.Add(at + length);
                begins.Add(parted && i == before);
            }
            parted = all.Length == before;
            at += length;
        }
        All = all.ToString();
    }

    /// <summary>The letters, as they are compared.</summary>
    public string All { get; }

    /// <summary>Reads a text.</summary>
    public static Letters Of(string text) => new(text);

    /// <summary>Whether a word begins at a letter, or the text ends there.</summary>
    public bool BeginsAt(int letter) => letter >= begins.Count || begins[letter];

    /// <summary>Where some letters stand in the text, with the marks on them.</summary>
    public TextRange Place(int first, int count) => new(starts[first], ends[first + count - 1]);

    private static bool IsMark(string text, int at) =>
        CharUnicodeInfo.GetUnicodeCategory(text, at)
            is UnicodeCategory.NonSpacingMark
                or UnicodeCategory.EnclosingMark
                or UnicodeCategory.SpacingCombiningMark;

    private static void Fold(string sign, StringBuilder all)
    {
        // A half of a letter of two units is nothing that could be normalized.
        if (sign.Length == 1 && char.IsSurrogate(sign[0]))
            return;
        foreach (var rune in sign.Normalize(NormalizationForm.FormKD).EnumerateRunes())
        {
            if (rune.Value is 'ß' or 'ẞ')
                all.Append("ss");
            else if (Rune.IsLetterOrDigit(rune))
                all.Append(Rune.ToLowerInvariant(rune));
        }
    }
}
