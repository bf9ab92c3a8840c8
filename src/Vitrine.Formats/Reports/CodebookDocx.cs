using System.Xml;
using DocumentFormat.OpenXml;
using DocumentFormat.OpenXml.Packaging;
using DocumentFormat.OpenXml.Wordprocessing;
using Vitrine.Core.Sort.TagSet;

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
            body.Append(Heading(tag));
            if (tag.Above.Count >= Levels)
                body.Append(Line(null, WrittenNames.Path(tag.Above), Under));
            if (tag.Definition.Length > 0)
                body.Append(Line(null, tag.Definition));
            if (tag.IsNot.Length > 0)
                body.Append(Line(null, tag.IsNot, Not));
            if (tag.Aliases.Count > 0)
                body.Append(Line(null, WrittenNames.List(tag.Aliases), Also));
            if (tag.Scale.Length > 0)
                body.Append(Line(null, tag.Scale, Measure));
            if (tag.Bundles.Count > 0)
                body.Append(Line(null, WrittenNames.List(tag.Bundles), Bundles));
            body.Append(Line("Count", Codebook.Counted(tag)));
            foreach (var example in tag.Examples)
                body.Append(Line("Quote", example));
        }
        main.Document = new Document(body);
        main.Document.Save();
    }

    /// <summary>Levels of headings that a document has.</summary>
    private const int Levels = 6;

    // What begins the lines of a tag; set in italics, so that words of a definition are none of them.
    private const string Under = "Under: ";

    /// <summary>As it was written before.</summary>
    private const string StandsUnder = "Stands under: ";
    private const string Not = "Not: ";
    private const string Also = "Also called: ";
    private const string Measure = "Scale: ";
    private const string Bundles = "In bundles: ";

    /// <summary>The lines of a codebook that <see cref="Write"/> has written, whatever was changed in it since.</summary>
    /// <exception cref="UnreadableException">It is no document, or has no headings.</exception>
    public static IReadOnlyList<CodebookLine> Read(Stream file)
    {
        var lines = new List<CodebookLine>();
        try
        {
            using var document = WordprocessingDocument.Open(file, false);
            foreach (var paragraph in document.MainDocumentPart?.Document?.Body?.Elements<Paragraph>() ?? [])
                Take(paragraph);
        }
        catch (Exception broken) when (broken is FileFormatException or OpenXmlPackageException or XmlException or InvalidDataException)
        {
            throw new UnreadableException("This is no Word document, or it is broken. Save it anew, and add it again.");
        }
        if (lines.Count == 0)
            throw new UnreadableException(
                "This document has no headings. A codebook has one for each tag; add a file that Vitrine has written."
            );
        return lines;

        void Take(Paragraph paragraph)
        {
            var style = paragraph.ParagraphProperties?.ParagraphStyleId?.Val?.Value ?? "";
            var runs = paragraph.Elements<Run>().ToList();
            var words = string.Concat(runs.Where(r => !IsItalic(r)).Select(WordsOf)).Trim();
            if (style.StartsWith("Heading", StringComparison.Ordinal) && int.TryParse(style[7..], out var level))
            {
                var above = new List<string>();
                var last = lines.Count == 0 ? null : lines[^1];
                if (last is not null)
                    above = [.. last.Above.Append(last.Name).Take(level - 1)];
                Guid? key = Guid.TryParseExact(paragraph.Elements<BookmarkStart>().FirstOrDefault()?.Name?.Value?[1..], "N", out var known)
                    ? known
                    : null;
                var colour = runs.Select(r => r.RunProperties?.Color?.Val?.Value).OfType<string>().FirstOrDefault();
                var settled = !runs.Any(r => IsItalic(r) && WordsOf(r).Trim() == "(draft)");
                lines.Add(new CodebookLine(words, above, "", "", [], settled, key, null, colour is null ? null : $"#{colour}", []));
            }
            else if (lines.Count > 0 && style is not ("Quote" or "Count"))
            {
                var tag = lines[^1];
                lines[^1] = string.Concat(runs.Where(IsItalic).Select(WordsOf)) switch
                {
                    Under or StandsUnder => tag with { Above = WrittenNames.ReadPath(words) },
                    Not => tag with { IsNot = words },
                    Also => tag with { Aliases = WrittenNames.ReadList(words) },
                    Measure => tag with { Scale = ScaleWords.Read(words) },
                    Bundles => tag with { Bundles = WrittenNames.ReadList(words) },
                    _ => tag with { Definition = $"{tag.Definition}\n{words}".Trim() },
                };
            }
        }
    }

    private static bool IsItalic(Run run) => run.RunProperties?.Italic is not null;

    private static string WordsOf(Run run) =>
        string.Concat(
            run.ChildElements.Select(part =>
                part switch
                {
                    Text text => text.Text,
                    Break => "\n",
                    TabChar => "\t",
                    _ => "",
                }
            )
        );

    // The tag is known again by a bookmark, which holds its id and which no reader sees.
    private static Paragraph Heading(CodebookTag tag)
    {
        var heading = Line($"Heading{Math.Min(Levels, tag.Above.Count + 1)}", tag.Name);
        if (tag.Colour is { } colour && heading.GetFirstChild<Run>() is { } named)
            named.PrependChild(new RunProperties(new Color { Val = colour[1..] }));
        if (!tag.Settled)
            heading.Append(new Run(new RunProperties(new Italic()), Said(" (draft)")));
        var id = $"{Math.Abs(tag.Key.GetHashCode())}";
        heading.Append(new BookmarkStart { Id = id, Name = $"t{tag.Key:N}" }, new BookmarkEnd { Id = id });
        return heading;
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

    private static Text Said(string words) => new(XmlText.Of(words)) { Space = SpaceProcessingModeValues.Preserve };

    private static Styles Looks()
    {
        var styles = new Styles();
        styles.Append(Style("Title", "Title", 40, bold: true, outline: null));
        for (var level = 1; level <= Levels; level++)
            styles.Append(Style($"Heading{level}", $"heading {level}", 34 - (3 * level), bold: true, outline: level - 1));
        styles.Append(Style("Quote", "Quote", 22, bold: false, outline: null));
        styles.Append(Style("Count", "Count", 22, bold: false, outline: null));
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
