using AngleSharp.Dom;
using AngleSharp.Html.Parser;
using Vitrine.Core.Text;

namespace Vitrine.Formats.Documents;

/// <summary>
/// Reads .html with AngleSharp (which follows the WHATWG HTML parsing rules): headings, paragraphs, lists, tables, bold and italics.
/// Nothing in it is run or fetched; scripts, styles, forms and pictures are left out.
/// </summary>
public sealed class Html
{
    private const int Deepest = 400;

    /// <summary>
    /// Tags that are opened and not closed, beyond which no tree is built: far above <see cref="Deepest"/>, since many pages leave some
    /// open.
    /// </summary>
    private const int DeepestTags = 5_000;

    private const string TooDeep =
        "The parts of this page are nested deeper than any document’s. Copy its text in the browser and paste it.";

    private static readonly HashSet<string> LeftOut =
    [
        "SCRIPT",
        "STYLE",
        "NOSCRIPT",
        "TEMPLATE",
        "HEAD",
        "SVG",
        "MATH",
        "IFRAME",
        "OBJECT",
        "EMBED",
        "BUTTON",
        "SELECT",
        "TEXTAREA",
        "NAV",
    ];
    private static readonly HashSet<string> Inline =
    [
        "A",
        "ABBR",
        "B",
        "BDI",
        "BDO",
        "CITE",
        "CODE",
        "DATA",
        "DEL",
        "DFN",
        "EM",
        "FONT",
        "I",
        "INS",
        "KBD",
        "LABEL",
        "MARK",
        "Q",
        "S",
        "SAMP",
        "SMALL",
        "SPAN",
        "STRONG",
        "SUB",
        "SUP",
        "TIME",
        "TT",
        "U",
        "VAR",
        "WBR",
        "RUBY",
        "RT",
    ];

    // Elements that have no end, or whose end may be left out (HTML Living Standard, 13.1.2).
    private static readonly HashSet<string> ClosedByOthers = new(StringComparer.OrdinalIgnoreCase)
    {
        "area",
        "base",
        "br",
        "col",
        "embed",
        "hr",
        "img",
        "input",
        "link",
        "meta",
        "source",
        "track",
        "wbr",
        "param",
        "p",
        "li",
        "dt",
        "dd",
        "tr",
        "td",
        "th",
        "thead",
        "tbody",
        "tfoot",
        "option",
        "optgroup",
        "colgroup",
        "html",
        "head",
        "body",
        "rt",
        "rp",
    };

    private readonly ShapedText built = new();
    private int scripts;
    private bool space;
    private bool any;

    /// <exception cref="UnreadableException">Not text, or without words.</exception>
    public static ReadSource Read(byte[] bytes, Func<string, bool>? isKnown = null)
    {
        var (text, remark) = TextFile.Decode(bytes);
        if (DepthOf(text) > DeepestTags)
            throw new UnreadableException(TooDeep);
        var document = new HtmlParser().ParseDocument(text);
        var reader = new Html();
        if (document.Body is { } body)
            reader.Inside(body, false, false, 0, 0);
        List<string> remarks = [];
        if (remark is not null)
            remarks.Add(remark);
        if (reader.scripts > 0)
            remarks.Add("Programs (scripts) in it were left out.");
        return ReadSource.Of(reader.built, isKnown, remarks);
    }

    /// <summary>How many tags stand open at most, of those that must be closed.</summary>
    private static int DepthOf(string text)
    {
        var (depth, deepest) = (0, 0);
        for (var at = text.IndexOf('<'); at >= 0 && at + 1 < text.Length; at = text.IndexOf('<', at + 1))
        {
            var closes = text[at + 1] == '/';
            var start = closes ? at + 2 : at + 1;
            var end = start;
            while (end < text.Length && char.IsAsciiLetterOrDigit(text[end]))
                end++;
            if (end == start || ClosedByOthers.Contains(text[start..Math.Min(end, start + 12)]))
                continue;
            depth = closes ? Math.Max(0, depth - 1) : depth + 1;
            deepest = Math.Max(deepest, depth);
        }
        return deepest;
    }

    private void Inside(INode parent, bool bold, bool italic, int depth, int list)
    {
        if (depth > Deepest)
            throw new UnreadableException(TooDeep);
        var number = 0;
        foreach (var node in parent.ChildNodes)
        {
            if (node is IText text)
                Words(text.Data, bold, italic);
            else if (node is IElement element)
                Element(element, bold, italic, depth, list, ref number);
        }
    }

    private void Element(IElement element, bool bold, bool italic, int depth, int list, ref int number)
    {
        var name = element.TagName.ToUpperInvariant();
        if (LeftOut.Contains(name))
        {
            if (name == "SCRIPT")
                scripts++;
            return;
        }
        switch (name)
        {
            case "BR":
                built.Add("\n");
                space = true;
                break;
            case "H1" or "H2" or "H3" or "H4" or "H5" or "H6":
                Block(() => built.Begin(BlockKind.Heading, name[1] - '0'), element, false, false, depth, list);
                break;
            case "UL" or "OL":
                End();
                Inside(element, bold, italic, depth + 1, list + 1);
                break;
            case "LI":
                number++;
                var marker = element.ParentElement?.TagName == "OL" ? $"{number}." : "•";
                Block(() => built.Begin(BlockKind.ListItem, Math.Max(1, list), marker), element, bold, italic, depth, list);
                break;
            case "TR":
                End();
                built.Begin(BlockKind.TableRow);
                foreach (var cell in element.Children.Where(c => c.TagName is "TD" or "TH"))
                {
                    built.NextCell();
                    space = true;
                    Flat(cell, bold || cell.TagName == "TH", italic, depth + 1);
                }
                End();
                break;
            case "PRE":
                End();
                built.Begin(BlockKind.Paragraph);
                built.Add(element.TextContent);
                End();
                break;
            default:
                var (b, i) = (bold || name is "B" or "STRONG", italic || name is "I" or "EM");
                if (Inline.Contains(name))
                    Inside(element, b, i, depth + 1, list);
                else
                    Block(End, element, b, i, depth, list);
                break;
        }
    }

    /// <summary>What stands in a cell, as one run of words.</summary>
    private void Flat(INode parent, bool bold, bool italic, int depth)
    {
        if (depth > Deepest)
            return;
        foreach (var node in parent.ChildNodes)
        {
            if (node is IText text)
                Words(text.Data, bold, italic);
            if (node is not IElement element || LeftOut.Contains(element.TagName))
                continue;
            if (!Inline.Contains(element.TagName))
                Words(" ", bold, italic);
            Flat(element, bold || element.TagName is "B" or "STRONG", italic || element.TagName is "I" or "EM", depth + 1);
        }
    }

    private void Block(Action begin, IElement element, bool bold, bool italic, int depth, int list)
    {
        End();
        begin();
        Inside(element, bold, italic, depth + 1, list);
        End();
    }

    private void End()
    {
        built.End();
        space = true;
        any = false;
    }

    /// <summary>White space of any length is one space, and none at the edges of a block.</summary>
    private void Words(string raw, bool bold, bool italic)
    {
        var words = new System.Text.StringBuilder(raw.Length);
        foreach (var c in raw)
        {
            var white = c is ' ' or '\t' or '\n' or '\r' or '\f';
            if (!white || !space)
                words.Append(white ? ' ' : c);
            space = white;
        }
        if (words.Length == 0 || (!any && string.IsNullOrWhiteSpace(words.ToString())))
            return;
        any = true;
        built.Add(words.ToString(), bold, italic);
    }
}
