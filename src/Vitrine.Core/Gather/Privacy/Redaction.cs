using System.Text;
using Vitrine.Core.Text;

namespace Vitrine.Core.Gather.Privacy;

/// <summary>A stretch of a source that readers are not shown, and what they are shown instead.</summary>
public sealed record Mask(TextRange Range, string Replacement);

/// <summary>Text as it leaves the team: what is masked is replaced and cannot be had back from it.</summary>
public static class Redaction
{
    /// <summary>
    /// A stretch of a text with every mask that reaches into it put in place of its words; a mask that reaches over an edge stands whole.
    /// </summary>
    /// <param name="text">A canonical text.</param>
    /// <param name="stretch">Which part of it.</param>
    /// <param name="masks">In text order, not overlapping.</param>
    public static string Of(string text, TextRange stretch, IEnumerable<Mask> masks)
    {
        var shown = new StringBuilder();
        var at = stretch.Start;
        foreach (var mask in masks.Where(m => m.Range.Touches(stretch)))
        {
            if (mask.Range.Start > at)
                shown.Append(text, at, mask.Range.Start - at);
            shown.Append(mask.Replacement);
            at = Math.Max(at, mask.Range.End);
        }
        if (at < stretch.End)
            shown.Append(text, at, stretch.End - at);
        return shown.ToString();
    }

    /// <summary>
    /// Masks in text order, none over another: where several overlap, one covers all that they cover, and shows what the first of them
    /// shows.
    /// </summary>
    /// <param name="masks">Those that count first come first.</param>
    public static IReadOnlyList<Mask> Merged(IEnumerable<Mask> masks)
    {
        var merged = new List<Mask>();
        foreach (var mask in masks)
        {
            var over = merged.Where(m => m.Range.Touches(mask.Range)).ToList();
            merged.RemoveAll(over.Contains);
            merged.Add(
                over.Count == 0
                    ? mask
                    : new Mask(
                        new TextRange(over.Append(mask).Min(m => m.Range.Start), over.Append(mask).Max(m => m.Range.End)),
                        over[0].Replacement
                    )
            );
        }
        return [.. merged.OrderBy(m => m.Range.Start)];
    }
}
