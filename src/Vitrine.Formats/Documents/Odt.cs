using System.IO.Compression;
using System.Runtime.CompilerServices;
using System.Xml;
using System.Xml.Linq;
using Vitrine.Core.Text;

namespace Vitrine.Formats.Documents;

/// <summary>
/// Reads .odt (OASIS OpenDocument 1.3, part 3) strictly: content.xml by the framework's XML reader with document types forbidden. Headings,
/// paragraphs, lists, tables,
/// bold and italics; notes stand at the end, comments beside their words; deleted text of tracked changes and pictures are left out.
/// Written here
/// because no well-kept package reads it.
/// </summary>
public sealed class Odt
{
    private const long MostCharacters = 100_000_000;
    private const int MostRepeats = 1_000;

    private static readonly XNamespace Text = "urn:oasis:names:tc:opendocument:xmlns:text:1.0";
    private static readonly XNamespace Table = "urn:oasis:names:tc:opendocument:xmlns:table:1.0";
    private static readonly XNamespace Style = "urn:oasis:names:tc:opendocument:xmlns:style:1.0";
    private static readonly XNamespace Look = "urn:oasis:names:tc:opendocument:xmlns:xsl-fo-compatible:1.0";
    private static readonly XNamespace Office = "urn:oasis:names:tc:opendocument:xmlns:office:1.0";
    private static readonly XNamespace Core = "http://purl.org/dc/elements/1.1/";
    private static readonly XNamespace Draw = "urn:oasis:names:tc:opendocument:xmlns:drawing:1.0";

    private readonly ShapedText built = new();
    private readonly Dictionary<string, (bool Bold, bool Italic)> styles = [];
    private readonly HashSet<string> numbered = [];
    private readonly List<XElement> notes = [];
    private readonly List<(int From, int To, string Text, string Author, string? Name)> comments = [];
    private int pictures;

    /// <exception cref="UnreadableException">No whole .odt, made to swell up, with macros, or without words.</exception>
    public static ReadSource Read(Stream file, Func<string, bool>? isKnown = null)
    {
        Zipped.Check(file, ".odt");
        try
        {
            using var zip = new ZipArchive(file, ZipArchiveMode.Read, leaveOpen: true);
            var reader = new Odt();
            var content = Part(zip, "content.xml") ?? throw Zipped.Damaged(".odt");
            if (Part(zip, "styles.xml") is { } shared)
                reader.Styles(shared);
            reader.Styles(content);
            var body = content.Root?.Element(Office + "body")?.Element(Office + "text") ?? throw Zipped.Damaged(".odt");
            reader.Blocks(body);
            reader.Notes();
            return ReadSource.Of(
                reader.built,
                isKnown,
                ReadSource.LeftOut(reader.pictures),
                comments: reader.comments.Select(c => (c.From, c.To, c.Text, c.Author))
            );
        }
        catch (Exception problem) when (problem is XmlException or InvalidDataException)
        {
            throw Zipped.Damaged(".odt");
        }
    }

    private static XDocument? Part(ZipArchive zip, string name)
    {
        if (zip.GetEntry(name) is not { } entry)
            return null;
        using var stream = entry.Open();
        using var xml = XmlReader.Create(
            stream,
            new XmlReaderSettings
            {
                DtdProcessing = DtdProcessing.Prohibit,
                XmlResolver = null,
                MaxCharactersInDocument = MostCharacters,
            }
        );
        return XDocument.Load(xml, LoadOptions.PreserveWhitespace);
    }

    private void Styles(XDocument part)
    {
        foreach (var style in part.Descendants(Style + "style"))
        {
            if (style.Attribute(Style + "name")?.Value is not { } name || style.Element(Style + "text-properties") is not { } look)
                continue;
            var bold = look.Attribute(Look + "font-weight")?.Value is "bold" or "600" or "700" or "800" or "900";
            styles[name] = (bold, look.Attribute(Look + "font-style")?.Value is "italic" or "oblique");
        }
        foreach (var list in part.Descendants(Text + "list-style"))
        {
            if (list.Elements().FirstOrDefault()?.Name == Text + "list-level-style-number")
                numbered.Add(list.Attribute(Style + "name")?.Value ?? "");
        }
    }

    private void Blocks(XElement parent)
    {
        RuntimeHelpers.EnsureSufficientExecutionStack();
        foreach (var element in parent.Elements())
        {
            if (element.Name == Text + "h")
                Block(
                    element,
                    BlockKind.Heading,
                    int.TryParse(element.Attribute(Text + "outline-level")?.Value, out var level) ? level : 1
                );
            else if (element.Name == Text + "p")
                Block(element, BlockKind.Paragraph);
            else if (element.Name == Text + "list")
                Items(element, 1, element.Attribute(Text + "style-name")?.Value);
            else if (element.Name == Table + "table")
                Rows(element);
            else if (element.Name == Text + "tracked-changes" || element.Name == Office + "forms")
                continue;
            else if (element.Name.Namespace == Text || element.Name.Namespace == Office)
                Blocks(element);
        }
    }

    private void Items(XElement list, int depth, string? style)
    {
        RuntimeHelpers.EnsureSufficientExecutionStack();
        var number = 0;
        foreach (var item in list.Elements())
        {
            number++;
            foreach (var element in item.Elements())
            {
                if (element.Name == Text + "list")
                    Items(element, depth + 1, element.Attribute(Text + "style-name")?.Value ?? style);
                else if (element.Name == Text + "p" || element.Name == Text + "h")
                    Block(element, BlockKind.ListItem, depth, style is not null && numbered.Contains(style) ? $"{number}." : "•");
            }
        }
    }

    private void Rows(XElement table)
    {
        foreach (var row in table.Descendants(Table + "table-row").Where(r => r.Ancestors(Table + "table").First() == table))
        {
            built.Begin(BlockKind.TableRow);
            foreach (var cell in row.Elements().Where(c => c.Name == Table + "table-cell" || c.Name == Table + "covered-table-cell"))
            {
                var repeats = int.TryParse(cell.Attribute(Table + "number-columns-repeated")?.Value, out var n)
                    ? Math.Clamp(n, 1, MostRepeats)
                    : 1;
                for (var i = 0; i < repeats; i++)
                {
                    if (built.Length > ReadBounds.MostText)
                        throw ReadSource.TooLong(built.Length);
                    built.NextCell();
                    foreach (var paragraph in cell.Descendants(Text + "p"))
                    {
                        Words(paragraph, false, false);
                        built.Add("\n");
                    }
                }
            }
        }
        built.End();
    }

    private void Block(XElement element, BlockKind kind, int level = 0, string? marker = null)
    {
        built.Begin(kind, level, marker);
        var (bold, italic) = kind == BlockKind.Heading ? (false, false) : LookOf(element);
        Words(element, bold, italic);
        built.End();
    }

    private (bool Bold, bool Italic) LookOf(XElement element) =>
        element.Attribute(Text + "style-name")?.Value is { } name && styles.TryGetValue(name, out var look) ? look : (false, false);

    private void Words(XElement parent, bool bold, bool italic)
    {
        RuntimeHelpers.EnsureSufficientExecutionStack();
        foreach (var node in parent.Nodes())
        {
            if (node is XText text)
                built.Add(text.Value.ReplaceLineEndings(" "), bold, italic);
            if (node is not XElement element)
                continue;
            if (element.Name == Text + "s")
                built.Add(
                    new string(
                        ' ',
                        int.TryParse(element.Attribute(Text + "c")?.Value, out var spaces) ? Math.Clamp(spaces, 1, MostRepeats) : 1
                    )
                );
            else if (element.Name == Text + "tab")
                built.Add("\t");
            else if (element.Name == Text + "line-break")
                built.Add("\n");
            else if (element.Name == Text + "note")
                notes.Add(element);
            else if (element.Name == Office + "annotation")
                Commented(element);
            else if (element.Name == Office + "annotation-end")
                CommentEnds(element.Attribute(Office + "name")?.Value);
            else if (element.Name == Text + "tracked-changes")
                continue;
            else if (element.Name == Draw + "frame" && !element.Descendants(Text + "p").Any())
                pictures++;
            else
                Inside(element, bold, italic);
        }
    }

    private void Inside(XElement element, bool bold, bool italic)
    {
        var look = LookOf(element);
        Words(element, bold || look.Bold, italic || look.Italic);
        if (element.Name == Text + "p")
            built.Add("\n");
    }

    /// <summary>A comment begins: beside what follows up to its end, or beside its paragraph where it has none.</summary>
    private void Commented(XElement comment)
    {
        var words = string.Join('\n', comment.Descendants(Text + "p").Select(p => p.Value).Where(w => w.Length > 0));
        var here = built.Place();
        if (!string.IsNullOrWhiteSpace(words))
            comments.Add(
                (here, here, words, comment.Element(Core + "creator")?.Value.Trim() ?? "", comment.Attribute(Office + "name")?.Value)
            );
    }

    private void CommentEnds(string? name)
    {
        if (name is not null && comments.FindIndex(c => c.Name == name) is >= 0 and var i)
            comments[i] = comments[i] with { To = built.Place() };
    }

    /// <summary>Notes stand at the end, each in paragraphs of its own: they are nobody's words.</summary>
    private void Notes()
    {
        built.End();
        // A note can hold another one; it comes after it.
        for (var i = 0; i < notes.Count; i++)
        {
            foreach (var paragraph in notes[i].Element(Text + "note-body")?.Elements(Text + "p") ?? [])
                Block(paragraph, BlockKind.Aside);
        }
    }
}
