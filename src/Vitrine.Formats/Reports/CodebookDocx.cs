using DocumentFormat.OpenXml;
using DocumentFormat.OpenXml.Packaging;
using DocumentFormat.OpenXml.Wordprocessing;

namespace Vitrine.Formats.Reports;

/// <summary>A codebook as a Word document: a heading for each tag, under it what it is, what it is not, its counts and examples.</summary>
public static class CodebookDocx
{
    /// <summary>Writes the document.</summary>
    public static void Write(Codebook book, Stream to)
    {
        using var document = WordprocessingDocument.Create(to, WordprocessingDocumentType.Document);
        var main = document.AddMainDocumentPart();
        main.AddNewPart<StyleDefinitionsPart>().Styles = Looks();
        var body = new Body();
        body.Append(Line("Title", book.Title), Line(null, $"Codebook, {book.Day:yyyy-MM-dd}; {book.Tags.Count} tags"));
        foreach (var tag in book.Tags)
        {
            body.Append(Line($"Heading{Math.Min(6, tag.Above.Count + 1)}", tag.Settled ? tag.Name : $"{tag.Name} (draft)"));
            if (tag.Definition.Length > 0)
                body.Append(Line(null, tag.Definition));
            if (tag.IsNot.Length > 0)
                body.Append(Line(null, tag.IsNot, "Not: "));
            if (tag.Aliases.Count > 0)
                body.Append(Line(null, string.Join(", ", tag.Aliases), "Also called: "));
            if (tag.Scale.Length > 0)
                body.Append(Line(null, tag.Scale, "Scale: "));
            body.Append(Line(null, Codebook.Counted(tag)));
            foreach (var example in tag.Examples)
                body.Append(Line("Quote", example));
        }
        main.Document = new Document(body);
        main.Document.Save();
    }

    private static Paragraph Line(string? style, string words, string before = "")
    {
        var paragraph = new Paragraph();
        if (style is not null)
            paragraph.Append(new ParagraphProperties(new ParagraphStyleId { Val = style }));
        if (before.Length > 0)
            paragraph.Append(new Run(new RunProperties(new Italic()), Said(before)));
        var lines = words.Split('\n');
        for (var i = 0; i < lines.Length; i++)
            paragraph.Append(i == 0 ? new Run(Said(lines[i])) : new Run(new Break(), Said(lines[i])));
        return paragraph;
    }

    private static Text Said(string words) =>
        new(string.Concat(words.Where(System.Xml.XmlConvert.IsXmlChar))) { Space = SpaceProcessingModeValues.Preserve };

    private static Styles Looks()
    {
        var styles = new Styles();
        styles.Append(Style("Title", "Title", 40, bold: true, outline: null));
        for (var level = 1; level <= 6; level++)
            styles.Append(Style($"Heading{level}", $"heading {level}", 34 - (3 * level), bold: true, outline: level - 1));
        styles.Append(Style("Quote", "Quote", 22, bold: false, outline: null));
        return styles;
    }

    private static Style Style(string id, string name, int halfPoints, bool bold, int? outline)
    {
        var paragraph = new StyleParagraphProperties(new SpacingBetweenLines { Before = bold ? "200" : "60", After = "60" });
        if (id == "Quote")
            paragraph.Append(new Indentation { Left = "480" });
        if (outline is { } level)
            paragraph.Append(new OutlineLevel { Val = level });
        var run = new StyleRunProperties();
        if (bold)
            run.Append(new Bold());
        if (id == "Quote")
            run.Append(new Italic());
        run.Append(new FontSize { Val = $"{halfPoints}" });
        return new Style(new StyleName { Val = name }, paragraph, run) { Type = StyleValues.Paragraph, StyleId = id };
    }
}
