using System.Text.RegularExpressions;
using Vitrine.Core.Sort.TagSet;

namespace Vitrine.Core.Gather.LiveNotes;

/// <summary>
/// One line of live notes as it was typed, read: "#queue they all turn round !" is the words "they all turn round", tagged "queue" and
/// starred.
/// A tag is a # and a word after white space or at the beginning; hyphens stand for whatever is between the words of its name. A star is a
/// ! that stands alone, or before the first word.
/// </summary>
/// <param name="Words">What is left, on one line.</param>
/// <param name="Tags">The tags as they were typed, without the #, each once.</param>
/// <param name="Starred">Whether it was starred.</param>
public sealed partial record LiveLine(string Words, IReadOnlyList<string> Tags, bool Starred)
{
    /// <summary>Reads a line. A line of tags alone has no words.</summary>
    public static LiveLine Read(string typed)
    {
        var starred = false;
        var tags = new List<string>();
        var left = Tag()
            .Replace(
                Text.CanonicalText.From(typed).Replace('\n', ' '),
                match =>
                {
                    var tag = match.Groups["tag"].Value;
                    if (!tags.Any(t => SlugOf(t) == SlugOf(tag)))
                        tags.Add(tag);
                    return "";
                }
            );
        left = Star()
            .Replace(
                left,
                _ =>
                {
                    starred = true;
                    return " ";
                }
            );
        return new LiveLine(string.Join(' ', left.Split((char[]?)null, StringSplitOptions.RemoveEmptyEntries)), tags, starred);
    }

    /// <summary>
    /// How a tag's name is typed after a #: its words in small letters with hyphens between; "“return” misread" is "return-misread". Empty
    /// for a name without letters or digits.
    /// </summary>
    public static string SlugOf(string name) =>
        string.Join('-', Word().Matches(name.Normalize(System.Text.NormalizationForm.FormC)).Select(m => m.Value.ToLowerInvariant()));

    /// <summary>The name of a new tag that was typed after a #.</summary>
    public static TagName NameOf(string tag) => TagName.Shortened(tag.Replace('-', ' ').Replace('_', ' '));

    [GeneratedRegex(@"(?<=^|\s)#(?<tag>[\p{L}\p{N}][\p{L}\p{M}\p{N}_'’-]*)")]
    private static partial Regex Tag();

    [GeneratedRegex(@"^\s*!(?=\s|[\p{L}\p{N}])|(?<=^|\s)!(?=\s|$)")]
    private static partial Regex Star();

    [GeneratedRegex(@"[\p{L}\p{M}\p{N}]+")]
    private static partial Regex Word();
}
