using System.Text;
using System.Text.Json.Nodes;
using Vitrine.Core.Gather.Privacy;
using Vitrine.Core.Text;

namespace Vitrine.Core.RichTexts;

/// <summary>
/// One walk over a text that writes its plain projection down and replaces stretches of it, so that positions mean the same in both.
/// </summary>
/// <param name="masks">Stretches of the projection and what stands in their place; in text order, not overlapping.</param>
internal sealed class RichTextWalk(IReadOnlyList<Mask> masks)
{
    private readonly StringBuilder plain = new();
    private readonly HashSet<Mask> said = [];
    private string between = "";

    /// <summary>Walks once.</summary>
    public (string Plain, RichText Text) Over(RichText text)
    {
        var blocks = Blocks(text.Blocks, "\n\n");
        return (plain.ToString(), new RichText(blocks));
    }

    private List<RichBlock> Blocks(IReadOnlyList<RichBlock> blocks, string apart)
    {
        var walked = new List<RichBlock>();
        foreach (var block in blocks)
        {
            Apart(apart);
            walked.Add(
                block switch
                {
                    Paragraph p => p with { Content = Inlines(p.Content) },
                    Heading h => h with { Content = Inlines(h.Content) },
                    TextList l => l with { Items = [.. l.Items.Select(Item)] },
                    Embedded e => e with { Caption = Leaf(e.Caption) },
                    UnknownBlock u => new UnknownBlock(Unknown(u.Json)),
                    _ => block,
                }
            );
        }
        Apart(apart);
        return walked;
    }

    private IReadOnlyList<RichBlock> Item(IReadOnlyList<RichBlock> blocks) => Blocks(blocks, "\n");

    private List<Inline> Inlines(IReadOnlyList<Inline> content)
    {
        var walked = new List<Inline>();
        foreach (var inline in content)
        {
            switch (inline)
            {
                case TextRun run when Leaf(run.Text) is { Length: > 0 } words:
                    walked.Add(run with { Text = words });
                    break;
                case Mention mention:
                    var title = Leaf(mention.Title);
                    if (title == mention.Title)
                        walked.Add(mention);
                    else if (title.Length > 0)
                        walked.Add(new TextRun(title));
                    break;
                case LineBreak:
                    Apart("\n");
                    walked.Add(inline);
                    break;
                case UnknownInline unknown:
                    walked.Add(new UnknownInline(Unknown(unknown.Json)));
                    break;
            }
        }
        return walked;
    }

    /// <summary>What has no words of its own parts what has; the widest gap counts, and none stands at the beginning or the end.</summary>
    private void Apart(string by)
    {
        if (by.Length > between.Length)
            between = by;
    }

    private string Leaf(string text)
    {
        if (text.Length == 0)
            return "";
        if (plain.Length > 0)
            plain.Append(between);
        between = "";
        var range = new TextRange(plain.Length, plain.Length + text.Length);
        plain.Append(text);
        var shown = new StringBuilder();
        var at = range.Start;
        foreach (var mask in masks.Where(m => m.Range.Touches(range)))
        {
            if (mask.Range.Start > at)
                shown.Append(text, at - range.Start, mask.Range.Start - at);
            // It may begin in a part before; it is said once.
            if (said.Add(mask))
                shown.Append(mask.Replacement);
            at = Math.Max(at, Math.Min(mask.Range.End, range.End));
        }
        return shown.Append(text, at - range.Start, range.End - at).ToString();
    }

    /// <summary>All strings of what is not known but its type.</summary>
    private string Unknown(string json)
    {
        var node = JsonNode.Parse(json)!;
        Strings(node);
        return node.ToJsonString(RichTextJson.Options);

        JsonNode? Strings(JsonNode? at)
        {
            switch (at)
            {
                case JsonObject fields:
                    foreach (var name in fields.Select(f => f.Key).Where(n => n != "type").ToList())
                        Put(fields[name], now => fields[name] = now);
                    break;
                case JsonArray list:
                    for (var i = 0; i < list.Count; i++)
                    {
                        var place = i;
                        Put(list[place], now => list[place] = now);
                    }
                    break;
            }
            return at;
        }

        void Put(JsonNode? value, Action<JsonNode> put)
        {
            if (value is JsonValue leaf && leaf.TryGetValue<string>(out var words))
            {
                Apart("\n");
                if (Leaf(words) is var now && now != words)
                    put(JsonValue.Create(now));
            }
            else
                Strings(value);
        }
    }
}
