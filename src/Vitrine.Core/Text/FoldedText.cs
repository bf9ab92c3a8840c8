using System.Globalization;
using System.Text;

namespace Vitrine.Core.Text;

/// <summary>Text as it is compared when case and accents do not matter.</summary>
/// <example>"Café" and "cafe" are both "cafe".</example>
public static class FoldedText
{
    /// <summary>
    /// The text in small letters without marks above or below them (canonical decomposition, UAX #15) and without signs that nobody sees
    /// (<see cref="HiddenSigns"/>). Positions are not kept.
    /// </summary>
    public static string Of(string text) =>
        string.Concat(
                HiddenSigns
                    .Without(text)
                    .Normalize(NormalizationForm.FormD)
                    .Where(c => CharUnicodeInfo.GetUnicodeCategory(c) != UnicodeCategory.NonSpacingMark)
            )
            .ToLowerInvariant();
}
