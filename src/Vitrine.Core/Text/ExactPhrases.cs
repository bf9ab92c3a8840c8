using System.Text.RegularExpressions;

namespace Vitrine.Core.Text;

/// <summary>
/// The phrases that were typed in quotes. They are meant word by word as they stand: "cancel" in quotes is not cancelled. Case and accents
/// do not matter, nor what stands between words that is neither letter nor digit.
/// A quote that is not closed yet is still being typed and asks for nothing.
/// </summary>
public sealed partial class ExactPhrases
{
    private readonly IReadOnlyList<Regex> phrases;
    private readonly bool alone;

    private ExactPhrases(IReadOnlyList<Regex> phrases, bool alone) => (this.phrases, this.alone) = (phrases, alone);

    /// <summary>The phrases that are quoted in what was typed.</summary>
    public static ExactPhrases In(string typed)
    {
        var phrases = Quoted()
            .Matches(typed)
            .Select(m => NoWord().Split(FoldedText.Of(m.Groups[1].Value)).Where(w => w.Length > 0).ToList())
            .Where(words => words.Count > 0)
            .Select(words => new Regex(
                $@"(?<![\p{{L}}\p{{N}}]){string.Join(@"[^\p{L}\p{N}]+", words.Select(Regex.Escape))}(?![\p{{L}}\p{{N}}])",
                RegexOptions.CultureInvariant,
                TimeSpan.FromSeconds(2)
            ))
            .ToList();
        return new ExactPhrases(phrases, NoWord().Replace(Quoted().Replace(typed, ""), "").Length == 0);
    }

    /// <summary>Whether a text holds all of them; true when there are none.</summary>
    public bool AreIn(string text)
    {
        if (phrases.Count == 0)
            return true;
        var folded = FoldedText.Of(text);
        return phrases.All(p => p.IsMatch(folded));
    }

    /// <summary>
    /// Of the places that a search by stems has found, those that are meant; all of them when loose words were typed beside the phrases.
    /// </summary>
    public IReadOnlyList<TextRange> Meant(string text, IReadOnlyList<TextRange> found) =>
        phrases.Count == 0 || !alone
            ? found
            : [.. found.Where(place => FoldedText.Of(place.Of(text)) is var words && phrases.Any(p => p.IsMatch(words)))];

    [GeneratedRegex("\"([^\"]*)\"")]
    private static partial Regex Quoted();

    [GeneratedRegex(@"[^\p{L}\p{N}]+")]
    private static partial Regex NoWord();
}
