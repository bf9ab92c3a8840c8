using System.Text;

namespace Vitrine.Core.Sort.TagSet;

/// <summary>A tag's name, cleaned, and the key by which two spellings are the same tag.</summary>
public sealed record TagName
{
    /// <summary>The most characters (UTF-16 code units) a name may have.</summary>
    public const int Longest = 80;

    /// <summary>The name as it is shown: NFC, trimmed, single spaces.</summary>
    public string Shown { get; }

    /// <summary>What is compared: "Learnt on the Quay " and "learnt on the quay" are one tag.</summary>
    public string Key { get; }

    private TagName(string shown)
    {
        Shown = shown;
        Key = shown.ToUpperInvariant().ToLowerInvariant();
    }

    /// <summary>Reads a typed name. Returns null when it cannot be one: there is nothing left of it, or it is too long.</summary>
    /// <param name="typed">What was typed.</param>
    /// <param name="length">How many characters it has, cleaned.</param>
    public static TagName? Read(string typed, out int length)
    {
        var shown = Clean(typed);
        length = shown.Length;
        return length is > 0 and <= Longest ? new TagName(shown) : null;
    }

    /// <summary>
    /// A name made of something that may be longer, such as a survey's question: its first words. Empty, it is "unnamed".
    /// </summary>
    public static TagName Shortened(string text)
    {
        var shown = Clean(text);
        if (shown.Length > Longest)
        {
            var cut = shown.LastIndexOf(' ', Longest);
            shown = shown[
                ..(
                    cut > 0 ? cut
                    : char.IsHighSurrogate(shown[Longest - 1]) ? Longest - 1
                    : Longest
                )
            ];
        }
        return new TagName(shown.Length > 0 ? shown : "unnamed");
    }

    private static string Clean(string typed)
    {
        var words = typed.Normalize(NormalizationForm.FormC).Split((char[]?)null, StringSplitOptions.RemoveEmptyEntries);
        return string.Join(' ', words.Select(w => string.Concat(w.Where(c => !char.IsControl(c))))).Trim();
    }
}
