using System.Text.Encodings.Web;
using System.Text.Json;
using System.Text.Json.Nodes;
using System.Text.Json.Serialization;

namespace Vitrine.Core.RichTexts;

/// <summary>
/// A text as JSON: <c>{"version":1,"blocks":[…]}</c>.
/// </summary>
/// <remarks>
/// Blocks are told apart by <c>type</c>: <c>paragraph</c> and <c>heading</c> (<c>level</c> 1 to 3) with <c>content</c>;
/// <c>bulletList</c> and <c>orderedList</c> with <c>items</c>, each a list of blocks; <c>quote</c>, <c>clip</c>, <c>picture</c>,
/// <c>figure</c> and <c>attachment</c> with <c>thing</c>, <c>id</c> and <c>caption</c>; <c>rule</c>. Parts of a line: <c>text</c> with
/// <c>text</c>, <c>strong</c>, <c>emphasis</c>, <c>link</c>; <c>mention</c> with <c>thing</c>, <c>id</c>, <c>title</c>; <c>break</c>. Any
/// other object that has a type is kept as it is. An empty text is an empty string where it is stored.
/// </remarks>
public static class RichTextJson
{
    /// <summary>How deep lists may stand in each other.</summary>
    public const int Deepest = 6;

    /// <summary>How many blocks and parts of lines a text may have.</summary>
    public const int MostParts = 20_000;

    /// <summary>Letters stand as themselves: where JSON is stored inside JSON, escapes would grow.</summary>
    internal static readonly JsonSerializerOptions Options = new() { Encoder = JavaScriptEncoder.UnsafeRelaxedJsonEscaping };

    private const string Opening = "{\"version\":";

    /// <summary>A text as it is stored: JSON, or an empty string.</summary>
    public static string Stored(RichText text) => text.IsEmpty ? "" : Write(text).ToJsonString(Options);

    /// <summary>
    /// A text as it was stored. What is no such JSON was written when texts had no form, and is read as paragraphs.
    /// </summary>
    public static RichText FromStored(string stored)
    {
        if (!stored.StartsWith(Opening, StringComparison.Ordinal))
            return RichText.FromPlain(stored);
        try
        {
            return Read(JsonNode.Parse(stored));
        }
        catch (JsonException)
        {
            return RichText.FromPlain(stored);
        }
    }

    /// <summary>The JSON of a text.</summary>
    public static JsonObject Write(RichText text) => new() { ["version"] = 1, ["blocks"] = Blocks(text.Blocks) };

    /// <summary>The text of some JSON.</summary>
    /// <exception cref="JsonException">It is none, is nested too deep, or has too many parts.</exception>
    public static RichText Read(JsonNode? json)
    {
        try
        {
            var parts = MostParts;
            var text =
                json is JsonObject whole && whole["version"] is JsonValue version && version.TryGetValue<int>(out var number) && number == 1
                    ? new RichText(Blocks(whole["blocks"], 0, ref parts))
                    : throw new JsonException("A text is an object with version 1 and a list of blocks.");
            // What is not known is looked at once as well: what cannot be read in it is found now, and not when somebody reads it.
            _ = text.Plain;
            return text;
        }
        // Half a surrogate, a property twice: found when a value is looked at.
        catch (Exception odd) when (odd is InvalidOperationException or ArgumentException or FormatException)
        {
            throw new JsonException("The text has a value that cannot be read.", odd);
        }
    }

    private static JsonArray Blocks(IEnumerable<RichBlock> blocks) => new([.. blocks.Select(Of)]);

    private static JsonNode Of(RichBlock block) =>
        block switch
        {
            Paragraph p => new JsonObject { ["type"] = "paragraph", ["content"] = Content(p.Content) },
            Heading h => new JsonObject
            {
                ["type"] = "heading",
                ["level"] = h.Level,
                ["content"] = Content(h.Content),
            },
            TextList l => new JsonObject
            {
                ["type"] = l.Ordered ? "orderedList" : "bulletList",
                ["items"] = new JsonArray([.. l.Items.Select(JsonNode (i) => Blocks(i))]),
            },
            Embedded e => new JsonObject
            {
                ["type"] = Name(e.As),
                ["thing"] = Name(e.Thing.Kind),
                ["id"] = e.Thing.Id,
                ["caption"] = e.Caption,
            },
            Rule => new JsonObject { ["type"] = "rule" },
            UnknownBlock u => JsonNode.Parse(u.Json)!,
            _ => throw new ArgumentException($"A {block.GetType().Name} has no form.", nameof(block)),
        };

    private static JsonArray Content(IEnumerable<Inline> content) => new([.. content.Select(Of)]);

    private static JsonNode Of(Inline inline)
    {
        switch (inline)
        {
            case TextRun run:
                var text = new JsonObject { ["type"] = "text", ["text"] = run.Text };
                if (run.Strong)
                    text["strong"] = true;
                if (run.Emphasis)
                    text["emphasis"] = true;
                if (run.Link is { } link)
                    text["link"] = link;
                return text;
            case Mention m:
                return new JsonObject
                {
                    ["type"] = "mention",
                    ["thing"] = Name(m.Thing.Kind),
                    ["id"] = m.Thing.Id,
                    ["title"] = m.Title,
                };
            case LineBreak:
                return new JsonObject { ["type"] = "break" };
            case UnknownInline u:
                return JsonNode.Parse(u.Json)!;
            default:
                throw new ArgumentException($"A {inline.GetType().Name} has no form.", nameof(inline));
        }
    }

    private static List<RichBlock> Blocks(JsonNode? json, int depth, ref int parts)
    {
        if (depth > Deepest)
            throw new JsonException($"Lists stand in each other more than {Deepest} deep.");
        var blocks = new List<RichBlock>();
        foreach (var one in ListOf(json, "blocks"))
            blocks.Add(BlockOf(one, depth, ref parts));
        return blocks;
    }

    private static RichBlock BlockOf(JsonNode? json, int depth, ref int parts)
    {
        var (block, type) = Typed(json, ref parts);
        switch (type)
        {
            case "paragraph":
                return new Paragraph(ContentOf(block, ref parts));
            case "heading" when block["level"] is JsonValue given && given.TryGetValue<int>(out var level) && level is >= 1 and <= 3:
                return new Heading(level, ContentOf(block, ref parts));
            case "bulletList" or "orderedList":
                var items = new List<IReadOnlyList<RichBlock>>();
                foreach (var item in ListOf(block["items"], "items"))
                    items.Add(Blocks(item, depth + 1, ref parts));
                return new TextList(type == "orderedList", items);
            case "rule":
                return new Rule();
            default:
                return
                    Enum.TryParse<EmbeddedAs>(type, ignoreCase: true, out var shown) && Name(shown) == type && ThingOf(block) is { } thing
                    ? new Embedded(shown, thing, OneLine(TextOf(block, "caption") ?? ""))
                    : new UnknownBlock(block.ToJsonString(Options));
        }
    }

    private static List<Inline> ContentOf(JsonObject block, ref int parts)
    {
        var content = new List<Inline>();
        foreach (var one in block["content"] is null ? [] : ListOf(block["content"], "content"))
        {
            var (part, type) = Typed(one, ref parts);
            switch (type)
            {
                case "text":
                    Add(content, part);
                    break;
                case "mention" when ThingOf(part) is { } thing && TextOf(part, "title") is { } title:
                    content.Add(new Mention(thing, OneLine(title)));
                    break;
                case "break":
                    content.Add(new LineBreak());
                    break;
                default:
                    content.Add(new UnknownInline(part.ToJsonString(Options)));
                    break;
            }
        }
        return content;
    }

    /// <summary>Words join those of the same form before them; a new line in them is a line break.</summary>
    private static void Add(List<Inline> content, JsonObject part)
    {
        var form = new TextRun("", Yes(part, "strong"), Yes(part, "emphasis"), Safe(TextOf(part, "link")));
        var lines = (TextOf(part, "text") ?? "").Replace("\r\n", "\n").Split('\n', '\r');
        for (var i = 0; i < lines.Length; i++)
        {
            if (i > 0)
                content.Add(new LineBreak());
            if (lines[i].Length == 0)
                continue;
            if (content.LastOrDefault() is TextRun before && before with { Text = "" } == form)
                content[^1] = before with { Text = before.Text + lines[i] };
            else
                content.Add(form with { Text = lines[i] });
        }
    }

    private static (JsonObject Part, string Type) Typed(JsonNode? json, ref int parts)
    {
        if (--parts < 0)
            throw new JsonException($"The text has more than {MostParts} parts.");
        return json is JsonObject part && TextOf(part, "type") is { Length: > 0 } type
            ? (part, type)
            : throw new JsonException("Every block and every part of a line is an object with a type.");
    }

    private static JsonArray ListOf(JsonNode? json, string what) =>
        json as JsonArray ?? throw new JsonException($"The {what} of a text are a list.");

    private static ThingRef? ThingOf(JsonObject part) =>
        TextOf(part, "thing") is { } name
        && Enum.TryParse<ThingKind>(name, ignoreCase: true, out var kind)
        && Name(kind) == name
        && part["id"] is JsonValue given
        && given.TryGetValue<long>(out var id)
        && id > 0
            ? new ThingRef(kind, id)
            : null;

    private static string? TextOf(JsonObject part, string name) =>
        part[name] is JsonValue value && value.TryGetValue<string>(out var text) ? text.Replace("\0", "") : null;

    private static bool Yes(JsonObject part, string name) => part[name] is JsonValue value && value.TryGetValue<bool>(out var yes) && yes;

    private static string OneLine(string text) => text.ReplaceLineEndings(" ");

    /// <summary>An address that leads somewhere and does nothing; null for any other.</summary>
    private static string? Safe(string? link) =>
        Uri.TryCreate(link, UriKind.Absolute, out var uri) && uri.Scheme is "http" or "https" or "mailto" ? link : null;

    private static string Name(Enum choice) => JsonNamingPolicy.CamelCase.ConvertName(choice.ToString());
}

/// <summary>Reads and writes texts where they stand in records.</summary>
public sealed class RichTextConverter : JsonConverter<RichText>
{
    /// <inheritdoc/>
    public override RichText Read(ref Utf8JsonReader reader, Type typeToConvert, JsonSerializerOptions options) =>
        RichTextJson.Read(JsonNode.Parse(ref reader));

    /// <inheritdoc/>
    public override void Write(Utf8JsonWriter writer, RichText value, JsonSerializerOptions options) =>
        RichTextJson.Write(value).WriteTo(writer, RichTextJson.Options);
}
