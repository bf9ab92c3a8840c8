using System.Text.Encodings.Web;
using System.Text.Json;
using System.Text.Json.Nodes;

namespace Vitrine.Storage.Gather.Privacy;

/// <summary>Words in a column: as they stand, or, where it holds JSON, in its strings and names, where letters may be escaped.</summary>
internal static class JsonWords
{
    private static readonly JsonSerializerOptions AsWritten = new() { Encoder = JavaScriptEncoder.UnsafeRelaxedJsonEscaping };

    /// <summary>The column with all its words changed.</summary>
    public static string In(string words, Func<string, string> change)
    {
        if (Read(words) is not { } json)
            return change(words);
        var changed = false;
        var left = Changed(json);
        return changed ? left!.ToJsonString(AsWritten) : words;

        JsonNode? Changed(JsonNode? node) =>
            node switch
            {
                JsonObject fields => new JsonObject(fields.Select(f => KeyValuePair.Create(Leaf(f.Key), Changed(f.Value)))),
                JsonArray list => new JsonArray([.. list.Select(Changed)]),
                JsonValue value when value.TryGetValue<string>(out var text) => JsonValue.Create(Leaf(text)),
                _ => node?.DeepClone(),
            };

        string Leaf(string text)
        {
            var now = change(text);
            changed |= now != text;
            return now;
        }
    }

    private static JsonNode? Read(string words)
    {
        if (words.Length < 2 || words[0] is not ('{' or '['))
            return null;
        try
        {
            return JsonNode.Parse(words);
        }
        catch (JsonException)
        {
            return null;
        }
    }
}
