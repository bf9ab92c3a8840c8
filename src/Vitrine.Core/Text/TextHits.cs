namespace Vitrine.Core.Text;

/// <summary>Where words stand in a text: word after word as typed, without case and accents; or by their stems.</summary>
public static class TextHits
{
    /// <summary>The places at which what was typed stands, in order, without overlap.</summary>
    /// <param name="text">The text.</param>
    /// <param name="typed">Words in the order they stand; what stands between words does not matter.</param>
    /// <param name="byStem">Whether words with the same stem count as the word: "cancel" finds "cancelled".</param>
    /// <example>In "It was cancelled." typed "cancel" is found by stem and not as it stands; "was cancel" likewise.</example>
    public static IReadOnlyList<TextRange> Of(string text, string typed, bool byStem)
    {
        string Form(string word) => byStem ? EnglishStem.Of(FoldedText.Of(word).Replace('’', '\'')) : FoldedText.Of(word);
        var wanted = Words.In(typed, 0, typed.Length).Select(w => Form(w.Of(typed))).ToList();
        if (wanted.Count == 0)
            return Signs(text, typed.Trim());
        // The last word that is typed as it stands may be its beginning only.
        bool Fits(string form, int n) =>
            !byStem && n == wanted.Count - 1 ? form.StartsWith(wanted[n], StringComparison.Ordinal) : form == wanted[n];
        var found = new List<TextRange>();
        var words = Words.In(text, 0, text.Length).ToList();
        var forms = new Dictionary<string, string>(StringComparer.Ordinal);
        string FormAt(int i)
        {
            var word = words[i].Of(text);
            return forms.TryGetValue(word, out var known) ? known : forms[word] = Form(word);
        }
        for (var i = 0; i + wanted.Count <= words.Count; i++)
        {
            var n = 0;
            while (n < wanted.Count && Fits(FormAt(i + n), n))
                n++;
            if (n < wanted.Count)
                continue;
            found.Add(words[i].Cover(words[i + n - 1]));
            i += n - 1;
        }
        return found;
    }

    /// <summary>What holds no word is looked for sign by sign: "[…]", "😀".</summary>
    private static List<TextRange> Signs(string text, string typed)
    {
        var found = new List<TextRange>();
        if (typed.Length == 0)
            return found;
        for (
            var at = text.IndexOf(typed, StringComparison.Ordinal);
            at >= 0;
            at = text.IndexOf(typed, at + typed.Length, StringComparison.Ordinal)
        )
            found.Add(new TextRange(at, at + typed.Length));
        return found;
    }
}
