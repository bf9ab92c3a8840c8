namespace Vitrine.Core.Text;

/// <summary>In which form the words of some texts are said most: "waiting" for "wait", where more people say that.</summary>
public sealed class MostSaid
{
    private readonly Dictionary<string, Dictionary<string, int>> forms = [];

    /// <summary>Takes the words of a text in.</summary>
    public void Add(string text)
    {
        foreach (var range in Words.In(text, 0, text.Length))
        {
            var word = FoldedText.Of(range.Of(text));
            if (StopWords.Has(word))
                continue;
            var stem = EnglishStem.Of(word);
            if (!forms.TryGetValue(stem, out var of))
                forms[stem] = of = [];
            var said = range.Of(text);
            of[said] = of.GetValueOrDefault(said) + 1;
        }
    }

    /// <summary>
    /// The form of a stem that is said most, of several the first by its letters, with a capital where it has one more often than not; the
    /// stem itself where it was never said.
    /// </summary>
    public string FormOf(string stem)
    {
        if (!forms.TryGetValue(stem, out var of))
            return stem;
        var most = of.GroupBy(f => f.Key.ToLowerInvariant())
            .OrderByDescending(form => form.Sum(f => f.Value))
            .ThenBy(form => form.Key, StringComparer.Ordinal)
            .First();
        return most.FirstOrDefault(f => 2 * f.Value > most.Sum(same => same.Value)).Key ?? most.Key;
    }
}
