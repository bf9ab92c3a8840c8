using System.Globalization;
using System.Text;

namespace Vitrine.Core.Mark.Recordings;

/// <summary>
/// About how many syllables a written word has: its groups of vowels, less a silent e at the end, at least one; a digit counts as one.
/// English by rule of thumb (common practice, no source); of other Latin scripts it counts the groups of vowels; of scripts without
/// vowels, a syllable for every two letters.
/// </summary>
public static class Syllables
{
    /// <param name="word">One word, in any case.</param>
    /// <returns>1 or more.</returns>
    public static int In(string word)
    {
        var plain = string.Concat(
                word.Normalize(NormalizationForm.FormD).Where(c => CharUnicodeInfo.GetUnicodeCategory(c) != UnicodeCategory.NonSpacingMark)
            )
            .ToLowerInvariant();
        var (groups, inGroup, latin) = (0, false, false);
        foreach (var c in plain)
        {
            var vowel = c is 'a' or 'e' or 'i' or 'o' or 'u' or 'y' or 'æ' or 'ø' or 'œ';
            latin |= c is >= 'a' and <= 'z' || vowel;
            if (char.IsDigit(c) || (vowel && !inGroup))
                groups++;
            inGroup = vowel;
        }
        if (!latin && groups == 0)
            return Math.Max(1, plain.Count(char.IsLetter) / 2);
        var silent = plain.Length > 2 && plain[^1] == 'e' && !"aeiouyl".Contains(plain[^2], StringComparison.Ordinal);
        return Math.Max(1, groups - (silent ? 1 : 0));
    }
}
