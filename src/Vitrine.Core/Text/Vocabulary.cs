namespace Vitrine.Core.Text;

/// <summary>
/// The different words of many texts, each by a number: as they are compared (small letters, without accents), and by their stems.
/// It only grows; one thread at a time adds to it.
/// </summary>
public sealed class Vocabulary
{
    private readonly Dictionary<string, int> asWritten = new(StringComparer.Ordinal);
    private readonly Dictionary<string, int> formNumbers = new(StringComparer.Ordinal);
    private readonly Dictionary<string, int> stemNumbers = new(StringComparer.Ordinal);
    private readonly List<string> forms = [];
    private readonly List<string> stems = [];
    private readonly List<int> stemOf = [];

    /// <summary>How many forms there are; each is a number below it.</summary>
    public int Forms => forms.Count;

    /// <summary>How many stems there are.</summary>
    public int Stems => stems.Count;

    /// <summary>The number of a word's form; it is taken in when it was not there.</summary>
    public int FormOf(ReadOnlySpan<char> word)
    {
        var lookup = asWritten.GetAlternateLookup<ReadOnlySpan<char>>();
        if (lookup.TryGetValue(word, out var known))
            return known;
        var form = Folded(word.ToString());
        if (!formNumbers.TryGetValue(form, out var number))
        {
            formNumbers[form] = number = forms.Count;
            forms.Add(form);
            var stem = EnglishStem.Of(form);
            if (!stemNumbers.TryGetValue(stem, out var stemNumber))
            {
                stemNumbers[stem] = stemNumber = stems.Count;
                stems.Add(stem);
            }
            stemOf.Add(stemNumber);
        }
        lookup[word] = number;
        return number;
    }

    /// <summary>A form by its number.</summary>
    public string Form(int form) => forms[form];

    /// <summary>The number of a form's stem.</summary>
    public int StemOf(int form) => stemOf[form];

    /// <summary>The number of a stem; null when no text has it.</summary>
    public int? StemNumber(string stem) => stemNumbers.TryGetValue(stem, out var number) ? number : null;

    /// <summary>A word as it is compared.</summary>
    public static string Folded(string word) => FoldedText.Of(word).Replace('’', '\'');
}
