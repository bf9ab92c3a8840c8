namespace Vitrine.Core.Text;

/// <summary>
/// The stem of an English word, by the Snowball algorithm "English" (Porter2, M. F. Porter 2001; version 2.2 of the published rules). What
/// has one stem is taken for one word: cancel, cancels, cancelled and cancelling have the stem "cancel". It knows endings, no meaning:
/// "news" keeps its own stem by a list, "universe" and "university" share one.
/// </summary>
public static class EnglishStem
{
    private static readonly Dictionary<string, string> Irregular = new(StringComparer.Ordinal)
    {
        ["skis"] = "ski",
        ["skies"] = "sky",
        ["dying"] = "die",
        ["lying"] = "lie",
        ["tying"] = "tie",
        ["idly"] = "idl",
        ["gently"] = "gentl",
        ["ugly"] = "ugli",
        ["early"] = "earli",
        ["only"] = "onli",
        ["singly"] = "singl",
    };

    private static readonly HashSet<string> Kept = ["sky", "news", "howe", "atlas", "cosmos", "bias", "andes"];
    private static readonly HashSet<string> KeptAfterPlural =
    [
        "inning",
        "outing",
        "canning",
        "herring",
        "earring",
        "proceed",
        "exceed",
        "succeed",
    ];

    private static readonly (string Ending, string By)[] Step2 =
    [
        ("ization", "ize"),
        ("ational", "ate"),
        ("ousness", "ous"),
        ("iveness", "ive"),
        ("fulness", "ful"),
        ("tional", "tion"),
        ("lessli", "less"),
        ("biliti", "ble"),
        ("entli", "ent"),
        ("ation", "ate"),
        ("alism", "al"),
        ("aliti", "al"),
        ("fulli", "ful"),
        ("ousli", "ous"),
        ("iviti", "ive"),
        ("enci", "ence"),
        ("anci", "ance"),
        ("abli", "able"),
        ("izer", "ize"),
        ("ator", "ate"),
        ("alli", "al"),
        ("bli", "ble"),
        ("ogi", "og"),
        ("li", ""),
    ];

    private static readonly (string Ending, string By)[] Step3 =
    [
        ("ational", "ate"),
        ("tional", "tion"),
        ("alize", "al"),
        ("icate", "ic"),
        ("iciti", "ic"),
        ("ative", ""),
        ("ical", "ic"),
        ("ness", ""),
        ("ful", ""),
    ];

    private static readonly string[] Step4 =
    [
        "ement",
        "ance",
        "ence",
        "able",
        "ible",
        "ment",
        "ant",
        "ent",
        "ism",
        "ate",
        "iti",
        "ous",
        "ive",
        "ize",
        "ion",
        "al",
        "er",
        "ic",
    ];

    /// <summary>The stem of a word in small letters; other signs are left as they stand.</summary>
    public static string Of(string word)
    {
        if (word.Length < 3)
            return word;
        if (Irregular.TryGetValue(word, out var known))
            return known;
        if (Kept.Contains(word))
            return word;
        // Y where y is a consonant: it is no vowel in what follows.
        var w = word.StartsWith('\'') ? word[1..] : word;
        if (w.StartsWith('y'))
            w = "Y" + w[1..];
        for (var i = 1; i < w.Length; i++)
        {
            if (w[i] == 'y' && IsVowel(w[i - 1]))
                w = w[..i] + "Y" + w[(i + 1)..];
        }
        var r1 = StartOfR1(w);
        var r2 = RegionAfter(w, r1);
        w = Plural(w);
        if (KeptAfterPlural.Contains(w))
            return w;
        w = PastAndIng(w, r1);
        if (w.Length > 2 && w[^1] is 'y' or 'Y' && !IsVowel(w[^2]))
            w = w[..^1] + "i";
        w = DoStep2(w, r1);
        w = DoStep3(w, r1, r2);
        w = DoStep4(w, r2);
        w = DoStep5(w, r1, r2);
        return w.Replace('Y', 'y');
    }

    private static bool IsVowel(char c) => c is 'a' or 'e' or 'i' or 'o' or 'u' or 'y';

    private static int StartOfR1(string w)
    {
        foreach (var beginning in (ReadOnlySpan<string>)["gener", "commun", "arsen"])
        {
            if (w.StartsWith(beginning, StringComparison.Ordinal))
                return beginning.Length;
        }
        return RegionAfter(w, 0);
    }

    /// <summary>The place behind the first consonant that follows a vowel, from a place on.</summary>
    private static int RegionAfter(string w, int from)
    {
        for (var i = from + 1; i < w.Length; i++)
        {
            if (!IsVowel(w[i]) && IsVowel(w[i - 1]))
                return i + 1;
        }
        return w.Length;
    }

    private static bool EndsIn(string w, string ending, int region) =>
        w.EndsWith(ending, StringComparison.Ordinal) && w.Length - ending.Length >= region;

    private static bool HasVowel(string w) => w.Any(IsVowel);

    private static bool EndsInShortSyllable(string w) =>
        w.Length == 2
            ? IsVowel(w[0]) && !IsVowel(w[1])
            : w.Length > 2 && !IsVowel(w[^3]) && IsVowel(w[^2]) && !IsVowel(w[^1]) && w[^1] is not ('w' or 'x' or 'Y');

    private static string Plural(string w)
    {
        foreach (var ending in (ReadOnlySpan<string>)["'s'", "'s", "'"])
        {
            if (w.EndsWith(ending, StringComparison.Ordinal))
            {
                w = w[..^ending.Length];
                break;
            }
        }
        if (w.EndsWith("sses", StringComparison.Ordinal))
            return w[..^2];
        if (w.EndsWith("ied", StringComparison.Ordinal) || w.EndsWith("ies", StringComparison.Ordinal))
            return w.Length > 4 ? w[..^2] : w[..^1];
        if (w.EndsWith("us", StringComparison.Ordinal) || w.EndsWith("ss", StringComparison.Ordinal) || !w.EndsWith('s'))
            return w;
        return w.Length > 2 && HasVowel(w[..^2]) ? w[..^1] : w;
    }

    private static string PastAndIng(string w, int r1)
    {
        foreach (var ending in (ReadOnlySpan<string>)["eedly", "eed"])
        {
            if (w.EndsWith(ending, StringComparison.Ordinal))
                return w.Length - ending.Length >= r1 ? w[..^ending.Length] + "ee" : w;
        }
        foreach (var ending in (ReadOnlySpan<string>)["ingly", "edly", "ing", "ed"])
        {
            if (!w.EndsWith(ending, StringComparison.Ordinal))
                continue;
            var left = w[..^ending.Length];
            if (!HasVowel(left))
                return w;
            if (
                left.EndsWith("at", StringComparison.Ordinal)
                || left.EndsWith("bl", StringComparison.Ordinal)
                || left.EndsWith("iz", StringComparison.Ordinal)
            )
                return left + "e";
            if (left.Length > 1 && left[^1] == left[^2] && left[^1] is 'b' or 'd' or 'f' or 'g' or 'm' or 'n' or 'p' or 'r' or 't')
                return left[..^1];
            return left.Length <= r1 && EndsInShortSyllable(left) ? left + "e" : left;
        }
        return w;
    }

    private static string DoStep2(string w, int r1)
    {
        foreach (var (ending, by) in Step2)
        {
            if (!w.EndsWith(ending, StringComparison.Ordinal))
                continue;
            var left = w[..^ending.Length];
            var fits =
                left.Length >= r1
                && (ending != "ogi" || left.EndsWith('l'))
                && (ending != "li" || (left.Length > 0 && left[^1] is 'c' or 'd' or 'e' or 'g' or 'h' or 'k' or 'm' or 'n' or 'r' or 't'));
            return fits ? left + by : w;
        }
        return w;
    }

    private static string DoStep3(string w, int r1, int r2)
    {
        foreach (var (ending, by) in Step3)
        {
            if (!w.EndsWith(ending, StringComparison.Ordinal))
                continue;
            return EndsIn(w, ending, ending == "ative" ? r2 : r1) ? w[..^ending.Length] + by : w;
        }
        return w;
    }

    private static string DoStep4(string w, int r2)
    {
        foreach (var ending in Step4)
        {
            if (!w.EndsWith(ending, StringComparison.Ordinal))
                continue;
            return EndsIn(w, ending, r2) && (ending != "ion" || w[..^3].EndsWith('s') || w[..^3].EndsWith('t')) ? w[..^ending.Length] : w;
        }
        return w;
    }

    private static string DoStep5(string w, int r1, int r2)
    {
        if (w.EndsWith('e'))
            return w.Length - 1 >= r2 || (w.Length - 1 >= r1 && !EndsInShortSyllable(w[..^1])) ? w[..^1] : w;
        return w.EndsWith("ll", StringComparison.Ordinal) && w.Length - 1 >= r2 ? w[..^1] : w;
    }
}
