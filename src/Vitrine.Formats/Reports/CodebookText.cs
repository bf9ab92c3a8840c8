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
            if (tag.Bundles.Count > 0)
                Say($"*In bundles:* {Plain(string.Join(", ", tag.Bundles))}");
            Say(Codebook.Counted(tag));
            foreach (var example in tag.Examples)
                Say($"> {Plain(example).ReplaceLineEndings("\n> ")}");
        }
        return text.ToString();
    }

    /// <summary>
    /// The codebook of REFI-QDA 1.0 (.qdc): nested codes with name, GUID, colour and description, and sets for bundles. What else a tag
    /// says of itself goes into the description, each on a line of its own, for the format has no place for it.
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
            xml.WriteAttributeString("name", XmlText.Of(tag.Name));
            xml.WriteAttributeString("isCodable", tag.IsCodable ? "true" : "false");
            if (tag.Colour is { } colour)
                xml.WriteAttributeString("color", colour);
            if (CodebookDescription.Of(tag) is { Length: > 0 } described)
                xml.WriteElementString("Description", Exchange, XmlText.Of(described));
            else if (tag.HasEmptyDescription)
                xml.WriteElementString("Description", Exchange, "");
            (depth, any) = (tag.Above.Count, true);
        }
        for (; any && depth >= 0; depth--)
            xml.WriteEndElement();
        xml.WriteEndElement();
        WriteSets(book, xml);
        xml.WriteEndDocument();
    }

    private static void WriteSets(Codebook book, XmlWriter xml)
    {
        if (book.Bundles.Count == 0)
            return;
        xml.WriteStartElement("Sets", Exchange);
        foreach (var bundle in book.Bundles)
        {
            xml.WriteStartElement("Set", Exchange);
            xml.WriteAttributeString("guid", bundle.Key.ToString());
            xml.WriteAttributeString("name", XmlText.Of(bundle.Name));
            if (bundle.Definition.Length > 0)
                xml.WriteElementString("Description", Exchange, XmlText.Of(bundle.Definition));
            foreach (var tag in book.Tags.Where(t => t.Bundles.Contains(bundle.Name)))
            {
                xml.WriteStartElement("MemberCode", Exchange);
                xml.WriteAttributeString("guid", tag.Key.ToString());
                xml.WriteEndElement();
            }
            xml.WriteEndElement();
        }
        xml.WriteEndElement();
    }

    private static string Plain(string text)
    {
        var plain = new StringBuilder(text.Length);
        foreach (var c in text)
            plain.Append("\\`*_{}[]<>#|".Contains(c) ? $"\\{c}" : c.ToString());
        return plain.ToString();
    }
}
