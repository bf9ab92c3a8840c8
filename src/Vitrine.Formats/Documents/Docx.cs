using System.Runtime.CompilerServices;
using DocumentFormat.OpenXml;
using DocumentFormat.OpenXml.Packaging;
using DocumentFormat.OpenXml.Wordprocessing;
using Vitrine.Core.Text;

namespace Vitrine.Formats.Documents;

/// <summary>
/// Reads .docx (ISO/IEC 29500, Office Open XML) with DocumentFormat.OpenXml: headings, paragraphs, lists, tables, bold and italics; text
/// that was deleted with changes tracked is left out,
/// text that was inserted is kept; notes stand at the end, comments beside their words. Pictures, headers and footers are left out.
/// </summary>
public sealed class Docx
{
    /// <summary>The most characters in one part of the file.</summary>
    private const long MostCharacters = 100_000_000;

    private readonly MainDocumentPart main;
    private readonly ShapedText built = new();
    private readonly Dictionary<(int List, int Level), int> counted = [];
    private readonly Dictionary<string, (int? Outline, NumberingProperties? Numbering)> known = [];
    private Dictionary<string, Style>? styles;
    private readonly List<TextBoxContent> boxes = [];
    private readonly Dictionary<string, (int From, int To)> commented = [];
    private int pictures;
    private bool hidden;
    private int adrift;

    /// <summary>The mark of the paragraph before was deleted: what follows goes on with it.</summary>
    private bool joined;

    private Docx(MainDocumentPart main) => this.main = main;

    /// <exception cref="UnreadableException">No whole .docx, made to swell up, with macros, or without words.</exception>
    public static ReadSource Read(Stream file, Func<string, bool>? isKnown = null)
    {
        Zipped.Check(file, ".docx");
        try
        {
            using var document = WordprocessingDocument.Open(file, false, new OpenSettings { MaxCharactersInPart = MostCharacters });
            if (document.MainDocumentPart is not { Document.Body: { } body } main)
                throw Zipped.Damaged(".docx");
            var reader = new Docx(main);
            reader.Blocks(body);
            reader.Notes();
            var comments = reader.Comments();
            return ReadSource.Of(reader.built, isKnown, reader.LeftOut(), comments: comments);
        }
        catch (Exception problem)
            when (problem
                    is OpenXmlPackageException
                        or FileFormatException
                        or InvalidDataException
                        or System.Xml.XmlException
                        or FormatException
                        or ArgumentException
                        or InvalidOperationException
            )
        {
            throw Zipped.Damaged(".docx");
        }
    }

    private void Blocks(OpenXmlElement parent)
    {
        RuntimeHelpers.EnsureSufficientExecutionStack();
        foreach (var element in parent.ChildElements)
        {
            switch (element)
            {
                case Paragraph paragraph:
                    if (!joined)
                        Begin(paragraph);
                    Words(paragraph, false, false);
                    joined = paragraph.ParagraphProperties?.ParagraphMarkRunProperties?.Elements<Deleted>().Any() == true;
                    if (!joined)
                        built.End();
                    break;
                case Table table:
                    Rows(table);
                    break;
                case SdtBlock or SdtContentBlock or CustomXmlBlock or InsertedRun:
                    Blocks(element);
                    break;
                case CommentRangeStart or CommentRangeEnd:
                    Commented(element);
                    break;
            }
        }
    }

    /// <summary>Where the words of a comment begin, end, or where it is called.</summary>
    private void Commented(OpenXmlElement element)
    {
        switch (element)
        {
            case CommentRangeStart { Id.Value: { } id }:
                commented[id] = (built.Place(), -1);
                break;
            case CommentRangeEnd { Id.Value: { } id } when commented.TryGetValue(id, out var open) && open.To < 0:
                commented[id] = open with { To = built.Place() };
                break;
            case CommentReference { Id.Value: { } id } when !commented.ContainsKey(id):
                var here = built.Place();
                commented[id] = (here, here);
                break;
        }
    }

    private void Rows(Table table)
    {
        foreach (var row in table.Descendants<TableRow>().Where(r => r.Ancestors<Table>().First() == table))
        {
            built.Begin(BlockKind.TableRow);
            foreach (var cell in row.Descendants<TableCell>().Where(c => c.Ancestors<TableRow>().First() == row))
            {
                built.NextCell();
                foreach (var paragraph in cell.Descendants<Paragraph>())
                {
                    Words(paragraph, false, false);
                    built.Add("\n");
                }
                built.Span((cell.TableCellProperties?.GridSpan?.Val?.Value ?? 1) - 1);
            }
        }
        built.End();
    }

    private void Begin(Paragraph paragraph)
    {
        var style = StyleOf(paragraph.ParagraphProperties?.ParagraphStyleId?.Val?.Value);
        var outline = paragraph.ParagraphProperties?.OutlineLevel?.Val?.Value ?? style.Outline;
        var numbering = paragraph.ParagraphProperties?.NumberingProperties ?? style.Numbering;
        if (outline is { } level and < 9)
        {
            built.Begin(BlockKind.Heading, level + 1);
        }
        else if (numbering?.NumberingId?.Val?.Value is { } list and not 0)
        {
            var depth = numbering.NumberingLevelReference?.Val?.Value ?? 0;
            built.Begin(BlockKind.ListItem, depth + 1, Marker(list, depth));
        }
        else
        {
            built.Begin(BlockKind.Paragraph);
        }
    }

    private string Marker(int list, int depth)
    {
        var numbers = main.NumberingDefinitionsPart?.Numbering;
        var abstractId = numbers?.Elements<NumberingInstance>().FirstOrDefault(n => n.NumberID?.Value == list)?.AbstractNumId?.Val?.Value;
        var level = numbers
            ?.Elements<AbstractNum>()
            .FirstOrDefault(a => a.AbstractNumberId?.Value == abstractId)
            ?.Elements<Level>()
            .FirstOrDefault(l => l.LevelIndex?.Value == depth);
        if (
            level?.NumberingFormat?.Val?.Value is not { } format
            || format == NumberFormatValues.Bullet
            || format == NumberFormatValues.None
        )
            return "•";
        foreach (var deeper in counted.Keys.Where(k => k.List == list && k.Level > depth).ToList())
            counted.Remove(deeper);
        var number = counted[(list, depth)] = counted.TryGetValue((list, depth), out var before)
            ? before + 1
            : level.StartNumberingValue?.Val?.Value ?? 1;
        return $"{number}.";
    }

    private (int? Outline, NumberingProperties? Numbering) StyleOf(string? id)
    {
        if (id is null)
            return (null, null);
        if (!known.TryGetValue(id, out var found))
            known[id] = found = FoundStyle(id);
        return found;
    }

    private (int? Outline, NumberingProperties? Numbering) FoundStyle(string? id)
    {
        styles ??=
            main.StyleDefinitionsPart?.Styles?.Elements<Style>()
                .Where(s => s.StyleId?.Value is not null)
                .DistinctBy(s => s.StyleId!.Value)
                .ToDictionary(s => s.StyleId!.Value!)
            ?? [];
        var seen = new HashSet<string>();
        while (id is not null && seen.Add(id))
        {
            var style = styles.GetValueOrDefault(id);
            var properties = style?.StyleParagraphProperties;
            if (properties?.OutlineLevel?.Val?.Value is { } outline)
                return (outline, null);
            // The names of the standard headings are the same in every language version of the file.
            if (
                style?.StyleName?.Val?.Value?.ToLowerInvariant() is { } name
                && name.StartsWith("heading ", StringComparison.Ordinal)
                && int.TryParse(name[8..], out var level)
            )
                return (level - 1, null);
            if (style?.StyleName?.Val?.Value?.ToLowerInvariant() == "title")
                return (0, null);
            if (properties?.NumberingProperties is { } numbering)
                return (null, numbering);
            id = style?.BasedOn?.Val?.Value;
        }
        return (null, null);
    }

    private void Words(OpenXmlElement parent, bool bold, bool italic)
    {
        RuntimeHelpers.EnsureSufficientExecutionStack();
        foreach (var element in parent.ChildElements)
        {
            switch (element)
            {
                case DeletedRun
                or MoveFromRun
                or ParagraphProperties
                or RunProperties
                or FieldCode
                or DeletedText
                or DocumentFormat.OpenXml.AlternateContentFallback:
                    break;
                case Run { RunProperties: { } properties } when Is(properties.Vanish):
                    hidden = true;
                    break;
                case Run run:
                    Words(run, Is(run.RunProperties?.Bold), Is(run.RunProperties?.Italic));
                    break;
                case Text text:
                    built.Add(text.Text, bold, italic);
                    break;
                case TabChar:
                    built.Add("\t");
                    break;
                case Break or CarriageReturn:
                    built.Add("\n");
                    break;
                case CommentRangeStart or CommentRangeEnd or CommentReference:
                    Commented(element);
                    break;
                case NoBreakHyphen:
                    built.Add("\u2011", bold, italic);
                    break;
                case Drawing or DocumentFormat.OpenXml.Vml.Shape or Picture:
                    if (element.Descendants<TextBoxContent>().Any())
                        boxes.AddRange(
                            element.Descendants<TextBoxContent>().Where(b => b.Ancestors<TextBoxContent>().FirstOrDefault() is null)
                        );
                    else
                        pictures++;
                    break;
                default:
                    Words(element, bold, italic);
                    break;
            }
        }
    }

    /// <summary>Notes and text boxes, at the end: they are nobody's words.</summary>
    private void Notes()
    {
        built.End();
        var footnotes =
            main.FootnotesPart?.Footnotes?.Elements<Footnote>()
                .Where(n => n.Type is null || n.Type.Value == FootnoteEndnoteValues.Normal)
                .Cast<OpenXmlElement>()
            ?? [];
        var endnotes =
            main.EndnotesPart?.Endnotes?.Elements<Endnote>()
                .Where(n => n.Type is null || n.Type.Value == FootnoteEndnoteValues.Normal)
                .Cast<OpenXmlElement>()
            ?? [];
        foreach (var paragraph in boxes.Concat(footnotes).Concat(endnotes).SelectMany(n => n.Descendants<Paragraph>()).ToList())
        {
            built.Begin(BlockKind.Aside);
            Words(paragraph, false, false);
            built.End();
        }
    }

    private List<(int From, int To, string Text, string Author)> Comments()
    {
        var comments = new List<(int From, int To, string Text, string Author)>();
        var end = built.Place();
        foreach (var comment in main.WordprocessingCommentsPart?.Comments?.Elements<Comment>() ?? [])
        {
            var said = string.Join(
                '\n',
                comment
                    .Descendants<Paragraph>()
                    .Select(p => string.Concat(p.Descendants<Text>().Select(t => t.Text)))
                    .Where(w => w.Length > 0)
            );
            if (string.IsNullOrWhiteSpace(said))
                continue;
            if (comment.Id?.Value is { } id && commented.TryGetValue(id, out var at))
                comments.Add((at.From, at.To < 0 ? end : at.To, said, comment.Author?.Value?.Trim() ?? ""));
            else
                adrift++;
        }
        return comments;
    }

    private IEnumerable<string> LeftOut() =>
        [
            .. ReadSource.LeftOut(pictures),
            .. ReadSource.CommentsLeftOut(adrift, "nothing was read where it stands"),
            .. hidden ? (string[])["Hidden text in it was left out."] : [],
        ];

    private static bool Is(OnOffType? property) => property is not null && (property.Val is null || property.Val.Value);
}
