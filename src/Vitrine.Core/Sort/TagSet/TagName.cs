using System.Globalization;
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

    /// <summary>Reads a typed name. Returns null, and a sentence that says what to do, when it cannot be a name.</summary>
    public static TagName? Read(string typed, out string? problem)
    {
        var shown = Clean(typed);
        problem = shown.Length switch
        {
            0 => "A tag needs a name. Type a word or two for what you noticed.",
            > Longest => $"This tag name has {shown.Length.ToString(CultureInfo.InvariantCulture)} characters; {Longest} is the most. Keep "
                + $"the name short and put the rest in the tag's definition.",
            _ => null,
        };
        return problem is null ? new TagName(shown) : null;
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
