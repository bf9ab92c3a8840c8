using System.Text;
using System.Xml;

namespace Vitrine.Formats.Reports;

/// <summary>A codebook as Markdown, and in the open exchange format.</summary>
public static class CodebookText
{
    /// <summary>The namespace of the REFI-QDA codebook, version 1.0.</summary>
    public const string Exchange = "urn:QDA-XML:codebook:1.0";

    /// <summary>Markdown (CommonMark): a heading for each tag, one level deeper than the one that it stands under.</summary>
    public static string Markdown(Codebook book)
    {
        var text = new StringBuilder();
        void Say(string line) => text.Append(line).Append("\n\n");
        Say($"# {Plain(book.Title)}");
        foreach (var tag in book.Tags)
        {
            Say($"{new string('#', Math.Min(6, tag.Above.Count + 2))} {Plain(tag.Name)}{(tag.Settled ? "" : " (draft)")}");
            if (tag.Definition.Length > 0)
                Say(Plain(tag.Definition));
            if (tag.IsNot.Length > 0)
                Say($"*Not:* {Plain(tag.IsNot)}");
            if (tag.Aliases.Count > 0)
                Say($"*Also called:* {Plain(string.Join(", ", tag.Aliases))}");
            if (tag.Scale.Length > 0)
                Say($"*Scale:* {Plain(tag.Scale)}");
            Say(Codebook.Counted(tag));
            foreach (var example in tag.Examples)
                Say($"> {Plain(example).ReplaceLineEndings("\n> ")}");
        }
        return text.ToString();
    }

    /// <summary>
    /// The codebook of REFI-QDA 1.0 (.qdc): nested codes with name, GUID, colour and description. What a tag is not and its other names go
    /// into the description, each on a line of its own, for the format has no place for them.
    /// </summary>
    public static void WriteExchange(Codebook book, Stream to)
    {
        using var xml = XmlWriter.Create(
            to,
            new XmlWriterSettings
            {
                Indent = true,
                Encoding = new UTF8Encoding(false),
                CloseOutput = false,
            }
        );
        xml.WriteStartElement("CodeBook", Exchange);
        xml.WriteAttributeString("origin", "Vitrine");
        xml.WriteStartElement("Codes", Exchange);
        var depth = 0;
        var any = false;
        foreach (var tag in book.Tags)
        {
            for (; any && depth >= tag.Above.Count; depth--)
                xml.WriteEndElement();
            xml.WriteStartElement("Code", Exchange);
            xml.WriteAttributeString("guid", tag.Key.ToString());
            xml.WriteAttributeString("name", Clean(tag.Name));
            xml.WriteAttributeString("isCodable", "true");
            if (tag.Colour is { } colour)
                xml.WriteAttributeString("color", colour);
            if (Described(tag) is { Length: > 0 } described)
                xml.WriteElementString("Description", Exchange, Clean(described));
            (depth, any) = (tag.Above.Count, true);
        }
        xml.WriteEndDocument();
    }

    private static string Described(CodebookTag tag) =>
        string.Join(
            "\n",
            new[]
            {
                tag.Definition,
                tag.IsNot.Length > 0 ? CodebookReading.Not + tag.IsNot : "",
                tag.Aliases.Count > 0 ? CodebookReading.Also + string.Join(", ", tag.Aliases) : "",
            }.Where(line => line.Length > 0)
        );

    // XML holds no control characters.
    private static string Clean(string text) => string.Concat(text.Where(XmlConvert.IsXmlChar));

    private static string Plain(string text)
    {
        var plain = new StringBuilder(text.Length);
        foreach (var c in text)
            plain.Append("\\`*_{}[]<>#|".Contains(c) ? $"\\{c}" : c.ToString());
        return plain.ToString();
    }
}
