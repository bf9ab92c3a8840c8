using System.Text;
using System.Text.RegularExpressions;
using Vitrine.Core.Text;

namespace Vitrine.Core.Privacy;

/// <summary>A stretch of a source that readers are not shown, and what they are shown instead.</summary>
public sealed record Mask(TextRange Range, string Replacement);

/// <summary>Text as it leaves the team: what is masked is replaced and cannot be had back from it.</summary>
public static class Masked
{
    /// <summary>A stretch of a text with every mask that reaches into it put in place of its words; a mask that reaches over an edge stands whole.</summary>
    /// <param name="masks">In text order, not overlapping.</param>
    public static string Of(string text, TextRange stretch, IEnumerable<Mask> masks)
    {
        var shown = new StringBuilder();
        var at = stretch.Start;
        foreach (var mask in masks.Where(m => m.Range.Touches(stretch)))
        {
            if (mask.Range.Start > at) shown.Append(text, at, mask.Range.Start - at);
            shown.Append(mask.Replacement);
            at = Math.Max(at, mask.Range.End);
        }
        if (at < stretch.End) shown.Append(text, at, stretch.End - at);
        return shown.ToString();
    }

    /// <summary>A text that stands in no source, such as a headline, without the words that are masked anywhere in its study; as whole words, in any case.</summary>
    public static string Anywhere(string text, IEnumerable<(string Words, string Replacement)> masked)
    {
        foreach (var (words, replacement) in masked.OrderByDescending(m => m.Words.Length)) text = Regex.Replace(text, NameMask.Whole(words), replacement.Replace("$", "$$"), RegexOptions.IgnoreCase | RegexOptions.CultureInvariant);
        return text;
    }
}
