using System.Xml;

namespace Vitrine.Formats.Reports;

/// <summary>Text that XML can hold (XML 1.0, section 2.2).</summary>
internal static class XmlText
{
    /// <summary>A text without control characters; what is beyond the first plane, such as a ship's sign, stays.</summary>
    public static string Of(string text) =>
        string.Concat(text.EnumerateRunes().Where(r => r.Value > char.MaxValue || XmlConvert.IsXmlChar((char)r.Value)));
}
