using System.Text;
using System.Text.Json.Nodes;

namespace Vitrine.Server.Tests.Walks;

/// <summary>One thing that can be asked of the server, as its OpenAPI document describes it.</summary>
/// <param name="Method">In capitals.</param>
/// <param name="Path">With its parts in braces.</param>
/// <param name="Query">Names of what goes into the query, and whether each must be there.</param>
/// <param name="Body">The schema of its body, with no reference left in it; null without one.</param>
public sealed record Operation(string Method, string Path, IReadOnlyList<(string Name, bool Required)> Query, JsonNode? Body)
{
    public override string ToString() => $"{Method} {Path}";

    /// <summary>The parts of the path, each with what it is the id of.</summary>
    public IEnumerable<(string Part, string Name)> Parts =>
        Path.Split('/')
            .Select((segment, i) => (segment, i))
            .Where(s => s.segment.StartsWith('{'))
            .Select(s =>
                (s.segment.Trim('{', '}'), s.segment is "{id}" ? Things.NameAfter(Path.Split('/')[s.i - 1]) : s.segment.Trim('{', '}'))
            );

    /// <summary>
    /// The address with its parts filled in; what is given in <paramref name="instead"/> takes the place of a part of that name.
    /// </summary>
    public string Address(IReadOnlyDictionary<string, JsonNode?> known, (string Part, JsonNode? Value)? instead = null)
    {
        var address = Path;
        foreach (var (part, name) in Parts)
            address = address.Replace(
                "{" + part + "}",
                Uri.EscapeDataString((instead is { } i && i.Part == part ? i.Value : known[name])!.ToString())
            );
        var query = Query
            .Where(q => q.Required || q.Name == instead?.Part)
            .Select(q => $"{q.Name}={Uri.EscapeDataString((instead is { } i && i.Part == q.Name ? i.Value : known[q.Name])!.ToString())}");
        return address + (query.Any() ? "?" + string.Join('&', query) : "");
    }

    /// <summary>A body that fits: ids of the known things by their names, the least of everything else.</summary>
    public JsonNode? Sample(IReadOnlyDictionary<string, JsonNode?> known) => Body is null ? null : SampleOf("", Body, known);

    /// <summary>
    /// The body that fits, once for each id of a study's thing that it holds, with one of <paramref name="others"/> in the place of that.
    /// </summary>
    public IEnumerable<(string Id, JsonNode Body)> SamplesWith(
        IReadOnlyDictionary<string, JsonNode?> known,
        IReadOnlyDictionary<string, JsonNode?> others
    )
    {
        if (Sample(known) is not { } sample)
            yield break;
        foreach (var path in Slots(sample).ToList())
        {
            var body = sample.DeepClone();
            var (holder, field) = (path[..^1].Aggregate(body, (at, step) => int.TryParse(step, out var i) ? at[i]! : at[step]!), path[^1]);
            var id = Things.NameOf(this, int.TryParse(field, out _) ? path[^2] : field)!;
            if (!others.TryGetValue(id, out var other))
                continue;
            if (holder is JsonArray list)
                list[0] = other!.DeepClone();
            else
                holder[field] = other!.DeepClone();
            yield return (id, body);
        }
    }

    private IEnumerable<string[]> Slots(JsonNode at, params string[] path) =>
        at switch
        {
            JsonObject fields => fields.Where(f => f.Value is not null).SelectMany(f => Slots(f.Value!, [.. path, f.Key])),
            JsonArray list => list.SelectMany((e, i) => Slots(e!, [.. path, $"{i}"])),
            _ => Things.NameOf(this, int.TryParse(path[^1], out _) ? path[^2] : path[^1]) is { } id && !Things.OfTheWorkspace.Contains(id)
                ? [path]
                : [],
        };

    private JsonNode? SampleOf(string name, JsonNode schema, IReadOnlyDictionary<string, JsonNode?> known)
    {
        if (schema["enum"] is JsonArray choices)
            return choices[0]!.DeepClone();
        if (schema["oneOf"] is JsonArray either)
            return SampleOf(name, either.First(e => (e!["type"] as JsonValue)?.GetValue<string>() is not "null")!, known);
        if (schema["properties"] is JsonObject properties)
            return new JsonObject(properties.Select(p => KeyValuePair.Create(p.Key, SampleOf(p.Key, p.Value!, known))));
        var id = Things.NameOf(this, name);
        if (schema["items"] is { } items)
            return id is not null ? new JsonArray(known[id]?.DeepClone()) : new JsonArray(SampleOf(name, items, known));
        if (id is not null)
            return known[id]?.DeepClone();
        if (known.TryGetValue(name, out var told))
            return told?.DeepClone();
        return TypesOf(schema).First(t => t != "null") switch
        {
            "string" when TypesOf(schema).Contains("null") => null,
            "string" => "words",
            "boolean" => false,
            "object" => new JsonObject(),
            _ => 1,
        };
    }

    public static IReadOnlyList<string> TypesOf(JsonNode schema) =>
        schema["type"] switch
        {
            JsonArray many => [.. many.Select(t => t!.GetValue<string>())],
            JsonValue one => [one.GetValue<string>()],
            _ => ["object"],
        };

    public HttpRequestMessage Request(string address, JsonNode? body) =>
        new(HttpMethod.Parse(Method), address)
        {
            Content =
                Method == "GET" || Method == "DELETE"
                    ? null
                    : new StringContent(body?.ToJsonString() ?? "{}", Encoding.UTF8, "application/json"),
        };
}

/// <summary>The server's OpenAPI document.</summary>
public static class ApiDocument
{
    public static async Task<IReadOnlyList<Operation>> Operations(HttpClient http)
    {
        var document = JsonNode.Parse(await http.GetStringAsync("/api/openapi.json"))!;
        return
        [
            .. document["paths"]!
                .AsObject()
                .SelectMany(p =>
                    p.Value!.AsObject()
                        .Select(o => new Operation(
                            o.Key.ToUpperInvariant(),
                            p.Key,
                            [
                                .. (o.Value!["parameters"] as JsonArray ?? [])
                                    .Where(q => (string)q!["in"]! == "query")
                                    .Select(q => ((string)q!["name"]!, q["required"]?.GetValue<bool>() == true)),
                            ],
                            o.Value["requestBody"]?["content"]?["application/json"]?["schema"] is { } schema
                                ? Whole(schema, document)
                                : null
                        ))
                ),
        ];
    }

    private static JsonNode Whole(JsonNode schema, JsonNode document)
    {
        if ((string?)schema["$ref"] is { } reference)
            return Whole(reference.Split('/')[1..].Aggregate(document, (at, step) => at[step]!), document);
        var whole = schema.DeepClone();
        if (whole["properties"] is JsonObject properties)
        {
            foreach (var name in properties.Select(p => p.Key).ToList())
                properties[name] = Whole(schema["properties"]![name]!, document);
        }
        if (whole["items"] is not null)
            whole["items"] = Whole(schema["items"]!, document);
        if (whole["oneOf"] is JsonArray either)
            for (var i = 0; i < either.Count; i++)
                either[i] = Whole(schema["oneOf"]![i]!, document);
        return whole;
    }
}
