using System.Runtime.CompilerServices;
using Markdig;
using Markdig.Extensions.Tables;
using Markdig.Syntax;
using Markdig.Syntax.Inlines;
using Vitrine.Core.Text;

namespace Vitrine.Formats.Documents;

/// <summary>
/// Reads .md with Markdig (CommonMark 0.31, with pipe tables): headings, paragraphs, lists, tables, bold and italics; the signs themselves
/// are left out.
/// </summary>
public static class MarkdownFile
{
    private static readonly MarkdownPipeline Pipeline = new MarkdownPipelineBuilder().UsePipeTables().UseYamlFrontMatter().Build();

    /// <exception cref="UnreadableException">Not text, or without words.</exception>
    public static ReadSource Read(byte[] bytes, Func<string, bool>? isKnown = null)
    {
        var (text, remark) = TextFile.Decode(bytes);
        var built = new ShapedText();
        Blocks(built, Parsed(text), 0);
        return ReadSource.Of(built, isKnown, remark is null ? [] : [remark]);
    }

    private static MarkdownDocument Parsed(string text)
    {
        try
        {
            return Markdown.Parse(text, Pipeline);
        }
        // The parser's own bound on depth.
        catch (ArgumentException)
        {
            throw new UnreadableException(
                "The parts of this text are nested deeper than any document’s. Paste it as plain text, or save it anew, and add it again."
            );
        }
    }

    private static void Blocks(ShapedText built, ContainerBlock parent, int list)
    {
        RuntimeHelpers.EnsureSufficientExecutionStack();
        var number = parent is ListBlock { IsOrdered: true } ordered && int.TryParse(ordered.OrderedStart, out var start) ? start : 1;
        foreach (var block in parent)
        {
            switch (block)
            {
                case HeadingBlock heading:
                    Words(built, heading, BlockKind.Heading, heading.Level);
                    break;
                case ParagraphBlock paragraph:
                    Words(built, paragraph, BlockKind.Paragraph);
                    break;
                case ListBlock inner:
                    Blocks(built, inner, list + 1);
                    break;
                case ListItemBlock item:
                    Item(built, item, list, parent is ListBlock { IsOrdered: true } ? $"{number++}." : "•");
                    break;
                case Table table:
                    Rows(built, table);
                    break;
                case HtmlBlock or Markdig.Extensions.Yaml.YamlFrontMatterBlock or LinkReferenceDefinitionGroup:
                    break;
                case CodeBlock code:
                    built.Begin(BlockKind.Paragraph);
                    built.Add(code.Lines.ToString());
                    built.End();
                    break;
                case ContainerBlock container:
                    Blocks(built, container, list);
                    break;
            }
        }
    }

    private static void Item(ShapedText built, ListItemBlock item, int list, string marker)
    {
        foreach (var block in item)
        {
            if (block is ParagraphBlock paragraph)
                Words(built, paragraph, BlockKind.ListItem, list, marker);
            else if (block is ListBlock inner)
                Blocks(built, inner, list + 1);
            else if (block is LeafBlock leaf)
                Words(built, leaf, BlockKind.ListItem, list, marker);
            else if (block is ContainerBlock container)
                Blocks(built, container, list);
        }
    }

    private static void Rows(ShapedText built, Table table)
    {
        foreach (var row in table.OfType<TableRow>())
        {
            built.Begin(BlockKind.TableRow);
            foreach (var cell in row.OfType<TableCell>())
            {
                built.NextCell();
                foreach (var block in cell.OfType<LeafBlock>())
                    Inlines(built, block.Inline, row.IsHeader, false);
            }
        }
        built.End();
    }

    private static void Words(ShapedText built, LeafBlock block, BlockKind kind, int level = 0, string? marker = null)
    {
        built.Begin(kind, level, marker);
        Inlines(built, block.Inline, false, false);
        built.End();
    }

    private static void Inlines(ShapedText built, ContainerInline? parent, bool bold, bool italic)
    {
        RuntimeHelpers.EnsureSufficientExecutionStack();
        foreach (var inline in parent ?? Enumerable.Empty<Inline>())
        {
            switch (inline)
            {
                case LiteralInline literal:
                    built.Add(literal.Content.ToString(), bold, italic);
                    break;
                case CodeInline code:
                    built.Add(code.Content, bold, italic);
                    break;
                case LineBreakInline line:
                    // A line end in the file keeps its line, so that notes written line by line stay lines.
                    built.Add("\n");
                    break;
                case HtmlEntityInline entity:
                    built.Add(entity.Transcoded.ToString(), bold, italic);
                    break;
                case AutolinkInline link:
                    built.Add(link.Url, bold, italic);
                    break;
                case EmphasisInline emphasis:
                    Inlines(built, emphasis, bold || emphasis.DelimiterCount >= 2, italic || emphasis.DelimiterCount is 1 or 3);
                    break;
                case LinkInline { IsImage: true }:
                    break;
                case ContainerInline container:
                    Inlines(built, container, bold, italic);
                    break;
            }
        }
    }
}
