using System.Globalization;
using System.Text;
using System.Text.RegularExpressions;
using Vitrine.Core.Text;

namespace Vitrine.Core.Gather.Privacy;

/// <summary>A participant's real name and what to write in its place.</summary>
public sealed record NamedPerson(string RealName, string Pseudonym);

/// <summary>
/// Finds participants' real names, and words that are masked, in text that leaves the team, by their letters (<see cref="Letters"/>): in
/// any case, with or without accents, joiners and hidden signs, over any space and line end, run together, in an address, and with a
/// genitive s.
/// The whole name is looked for first, then each part of it of two letters or more. A part is a word of its own and begins with a capital
/// ("Rose" but not "rose"), but in an address; where words are not parted by spaces, it stands anywhere. A whole name of
/// <see cref="Rare"/> letters or more is found inside longer words as well: no other word holds it.
/// </summary>
public static partial class NameMask
{
    /// <summary>So many letters of a whole name of two parts stand in no word by chance (common practice, no source).</summary>
    public const int Rare = 8;

    /// <summary>Words with fewer letters are known only with the signs between them, as they are written.</summary>
    private const int FewLetters = 4;

    /// <summary>Where the given people's real names stand in a text; a longer form comes before the shorter ones in it.</summary>
    public static IEnumerable<Mask> Find(string text, IEnumerable<NamedPerson> people)
    {
        var named = people.Where(p => !string.IsNullOrWhiteSpace(p.RealName)).OrderByDescending(p => p.RealName.Length).ToList();
        if (named.Count == 0)
            return [];
        var letters = Letters.Of(text);
        return
        [
            .. named.SelectMany(p => Places(letters, text, p.RealName, inside: IsRare(p.RealName)).Select(r => new Mask(r, p.Pseudonym))),
            .. named.SelectMany(p =>
                Parts(p.RealName)
                    .SelectMany(part => Places(letters, text, part, inside: false).Where(r => IsName(text, r)))
                    .Select(r => new Mask(r, p.Pseudonym))
            ),
        ];
    }

    /// <summary>Where a name stands in a text that is to hold nothing of it: the whole of it, and the given parts.</summary>
    /// <param name="text">Where to look.</param>
    /// <param name="name">The whole name.</param>
    /// <param name="parts">Parts of it that are looked for too.</param>
    /// <param name="anyCase">Whether a part is known in small letters too, as in the name of a file.</param>
    public static IReadOnlyList<TextRange> Find(string text, string name, IReadOnlyCollection<string> parts, bool anyCase)
    {
        var letters = Letters.Of(text);
        var found = new List<TextRange>();
        foreach (
            var place in Places(letters, text, name, inside: IsRare(name))
                .Concat(parts.SelectMany(p => Places(letters, text, p, inside: false).Where(r => anyCase || IsName(text, r))))
        )
        {
            if (!found.Exists(f => f.Touches(place)))
                found.Add(place);
        }
        return [.. found.OrderBy(f => f.Start)];
    }

    /// <summary>Where words that are masked somewhere stand in another text, such as a headline; as whole words, in any form.</summary>
    public static IEnumerable<Mask> FindMasked(string text, IReadOnlyCollection<(string Words, string Replacement)> masked)
    {
        if (masked.Count == 0)
            return [];
        var letters = Letters.Of(text);
        return
        [
            .. masked
                .OrderByDescending(m => m.Words.Length)
                .SelectMany(m => Places(letters, text, m.Words, inside: false).Select(r => new Mask(r, m.Replacement))),
        ];
    }

    /// <summary>
    /// A place by the letters of its words, of the word before and of the word after: what is let stand there stands wherever it is so.
    /// </summary>
    public static string Context(string text, TextRange place)
    {
        var before = WordBefore().Match(text[..place.Start]).Value;
        var after = WordAfter().Match(text[place.End..]).Value;
        return string.Join(' ', new[] { before, place.Of(text), after }.Select(w => Letters.Of(w).All));
    }

    /// <summary>The parts of a name that are looked for on their own.</summary>
    public static IEnumerable<string> Parts(string name) =>
        name.Split([' ', '-', '\u00A0', '‐', '‑'], StringSplitOptions.RemoveEmptyEntries)
            .Where(p => p.Length > 1 && (char.IsUpper(p[0]) || IsUnspaced(p)));

    private static bool IsRare(string name) => Parts(name).Skip(1).Any() && Letters.Of(name).All.Length >= Rare;

    /// <summary>Whether a script is written without capitals, so that words may stand together: Han, kana, Thai, Arabic, Hebrew.</summary>
    private static bool IsUnspaced(string words) => words.Any(char.IsLetter) && words.All(c => !char.IsLetter(c) || IsOther(c));

    private static bool IsOther(char c) => CharUnicodeInfo.GetUnicodeCategory(c) == UnicodeCategory.OtherLetter;

    private static IEnumerable<TextRange> Places(Letters letters, string text, string words, bool inside)
    {
        var wanted = Letters.Of(words).All;
        if (wanted.Length == 0)
            yield break;
        inside |= IsUnspaced(words);
        var spaced = words.Trim().Any(char.IsWhiteSpace);
        for (var at = 0; (at = letters.All.IndexOf(wanted, at, StringComparison.Ordinal)) >= 0; at++)
        {
            var end = at + wanted.Length;
            if (!inside && !(letters.BeginsAt(at) && (letters.BeginsAt(end) || IsGenitive(letters, end))))
                continue;
            var place = letters.Place(at, wanted.Length);
            var found = place.Of(text);
            // One word is not put together of two, but where a line cuts it.
            if (!spaced && Parting().IsMatch(found))
                continue;
            if (wanted.Length >= FewLetters || found.Equals(words.Trim(), StringComparison.OrdinalIgnoreCase))
                yield return place;
        }
    }

    private static bool IsGenitive(Letters letters, int end) => letters.All[end] == 's' && letters.BeginsAt(end + 1);

    /// <summary>Whether a part of a name is written as one: with a capital, or in an address.</summary>
    private static bool IsName(string text, TextRange place)
    {
        var first = text.Substring(place.Start, char.IsSurrogatePair(text, place.Start) ? 2 : 1).Normalize(NormalizationForm.FormKD);
        return Rune.IsUpper(Rune.GetRuneAt(first, 0)) || IsOther(first[0]) || InAddress(text, place);
    }

    /// <summary>Whether a place stands in something with an @ in it, such as an e-mail address or a name on a network.</summary>
    private static bool InAddress(string text, TextRange place)
    {
        var start = place.Start;
        while (start > 0 && !char.IsWhiteSpace(text[start - 1]))
            start--;
        var end = place.End;
        while (end < text.Length && !char.IsWhiteSpace(text[end]))
            end++;
        return text.AsSpan(start, end - start).Contains('@');
    }

    [GeneratedRegex(@"[\p{L}\p{M}\p{N}]+(?=[^\p{L}\p{M}\p{N}]*$)", RegexOptions.RightToLeft)]
    private static partial Regex WordBefore();

    [GeneratedRegex(@"[\p{L}\p{M}\p{N}]+")]
    private static partial Regex WordAfter();

    [GeneratedRegex(@"(?<![-\u2010\u2011\u00AD])\s")]
    private static partial Regex Parting();
}
