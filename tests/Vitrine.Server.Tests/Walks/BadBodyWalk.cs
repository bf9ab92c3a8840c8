using System.Net.Http.Headers;
using System.Text;
using System.Text.Json.Nodes;

namespace Vitrine.Server.Tests.Walks;

/// <summary>
/// Every operation of the OpenAPI document with bodies that do not fit: a property missing, null, of another type, huge, with NUL or half a
/// surrogate; the body absent, cut, an array, no text; and addresses that do not fit.
/// Every answer is a yes, or a sentence that names what is wrong; never a 500, never an empty refusal.
/// </summary>
public sealed class BadBodyWalk : IAsyncLifetime
{
    private readonly TestServer server = new();
    private int turn;
    private Dictionary<string, JsonNode?> mine = [];

    public async Task InitializeAsync()
    {
        await server.SetUp();
        mine = await Things.Make(server, server.Http, "thornapple");
        Things.AddQueries(mine);
        (mine["token"], mine["evidenceKey"]) = ("a-token", "a-key");
    }

    public Task DisposeAsync()
    {
        server.Dispose();
        return Task.CompletedTask;
    }

    [Fact]
    public async Task Nothing_that_does_not_fit_is_answered_by_a_500_or_without_a_sentence()
    {
        // Those that end the sign-in or make limits bite come last; taking away comes after asking.
        var operations = (await ApiDocument.Operations(server.Http))
            .Where(o => o.Path is not ("/api/me/sign-out-everywhere" or "/api/sign-out"))
            .OrderBy(o => o.Method == "DELETE" || o.Path.EndsWith("/erase") || o.Path.StartsWith("/api/accounts/"))
            .ToList();
        var wrong = new List<string>();
        var asked = 0;
        foreach (var operation in operations)
        {
            foreach (var (what, field, request) in Bad(operation))
            {
                using var sent = request;
                using var answer = await server.Http.SendAsync(sent);
                asked++;
                if (answer.IsSuccessStatusCode)
                    continue;
                var said = await answer.Content.ReadAsStringAsync();
                var problem = answer.Content.Headers.ContentType?.MediaType == "application/problem+json" ? JsonNode.Parse(said) : null;
                var names = field is null || (int)answer.StatusCode != 400 || (string?)problem?["field"] is not null;
                if ((int)answer.StatusCode >= 500 || (string?)problem?["detail"] is not { Length: > 10 } || !names)
                    wrong.Add($"{operation} {what}: {(int)answer.StatusCode} {said[..Math.Min(said.Length, 200)]}");
            }
        }
        Assert.True(asked > 1000, $"{asked} asked");
        Assert.True(wrong.Count == 0, $"{wrong.Count} of {asked}\n{string.Join('\n', wrong.Take(60))}");
    }

    private IEnumerable<(string What, string? Field, HttpRequestMessage Request)> Bad(Operation operation)
    {
        var (address, good) = (operation.Address(mine), operation.Sample(mine));
        foreach (var (part, _) in operation.Parts)
        foreach (var odd in new[] { "0", "999999", "99999999999999999999999", "x", "-1" })
            yield return ($"{part} = {odd}", null, operation.Request(operation.Address(mine, (part, odd)), good?.DeepClone()));
        foreach (var (name, required) in operation.Query)
        {
            foreach (var odd in new[] { "", "x", "99999999999999999999999", "\0", "-1", new string('w', 5000) })
                yield return (
                    $"{name} = {odd[..Math.Min(odd.Length, 8)]}",
                    null,
                    operation.Request(operation.Address(mine, (name, odd)), good?.DeepClone())
                );
            if (required)
                yield return ($"{name} left out", null, operation.Request(address.Split('?')[0], good?.DeepClone()));
        }
        if (good is null)
        {
            if (operation.Method is "POST" or "PUT")
                yield return ("bytes that are nothing", null, Raw(operation, address, [0xff, 0x00, 0xd8]));
            yield break;
        }
        yield return ("no body", null, new HttpRequestMessage(HttpMethod.Parse(operation.Method), address));
        var whole = good.ToJsonString();
        foreach (
            var (what, text) in new[]
            {
                ("empty", ""),
                ("cut", whole[..(whole.Length / 2)]),
                ("an array", "[]"),
                ("null", "null"),
                ("a text", "\"words\""),
                ("a number", "7"),
                ("deep", new string('[', 2000)),
                ("an empty object", "{}"),
            }
        )
            yield return (what, null, Raw(operation, address, Encoding.UTF8.GetBytes(text)));
        yield return (
            "no UTF-8",
            null,
            Raw(operation, address, [.. Encoding.UTF8.GetBytes("{\"text\":\""), 0xc3, 0x28, .. Encoding.UTF8.GetBytes("\"}")])
        );
        foreach (var path in Properties(good).ToList())
        {
            foreach (var (what, value) in Sampled(Values(At(good, path)).ToList()))
            {
                var body = good.DeepClone();
                var holder = path[..^1].Aggregate(body, Step);
                if (what == "left out")
                    ((JsonObject)holder).Remove(path[^1]);
                else
                    holder[path[^1]] = value?.DeepClone();
                var text = body.ToJsonString().Replace("HALF", "\\ud800");
                yield return ($"{string.Join('.', path)} {what}", path[^1], Raw(operation, address, Encoding.UTF8.GetBytes(text)));
            }
        }
    }

    /// <summary>Of the values some, others for each property in turn; all of them when VITRINE_WALK_ALL is set.</summary>
    private IEnumerable<(string What, JsonNode? Value)> Sampled(List<(string What, JsonNode? Value)> values) =>
        Environment.GetEnvironmentVariable("VITRINE_WALK_ALL") is not null
            ? values
            : [.. values.Take(3), .. Enumerable.Range(0, 3).Select(_ => values[3 + (turn++ % (values.Count - 3))])];

    private static IEnumerable<(string What, JsonNode? Value)> Values(JsonNode? now)
    {
        yield return ("left out", null);
        yield return ("null", null);
        yield return ("a list of null", new JsonArray((JsonNode?)null));
        yield return ("an object", new JsonObject { ["a"] = 1 });
        yield return ("a list of lists", new JsonArray(new JsonArray()));
        yield return ("yes", true);
        yield return ("a fraction", -1.5);
        yield return ("a huge number", JsonNode.Parse("1e300"));
        yield return ("below nought", -2147483648);
        yield return ("a text", "words");
        yield return ("no text", "");
        yield return ("NUL", "wo\0rds");
        yield return ("half a surrogate", "woHALFrds");
        yield return ("a long text", new string('w', 150_000));
        if (now is JsonArray { Count: > 0 } list)
            yield return ("a long list", new JsonArray([.. Enumerable.Repeat(0, 20_000).Select(_ => list[0]?.DeepClone())]));
        if (now is JsonArray)
            yield return ("an empty list", new JsonArray());
    }

    private static IEnumerable<string[]> Properties(JsonNode at, params string[] path) =>
        at switch
        {
            JsonObject fields => fields.SelectMany(f =>
                new[] { (string[])[.. path, f.Key] }.Concat(f.Value is null ? [] : Properties(f.Value, [.. path, f.Key]))
            ),
            JsonArray { Count: > 0 } list when list[0] is JsonObject first => Properties(first, [.. path, "0"]),
            _ => [],
        };

    private static JsonNode? At(JsonNode at, string[] path) =>
        path.Aggregate((JsonNode?)at, (node, step) => node is null ? null : Step(node, step));

    private static JsonNode Step(JsonNode at, string step) => at is JsonArray list ? list[int.Parse(step)]! : at[step]!;

    private static HttpRequestMessage Raw(Operation operation, string address, byte[] body)
    {
        var content = new ByteArrayContent(body);
        content.Headers.ContentType = new MediaTypeHeaderValue("application/json");
        return new HttpRequestMessage(HttpMethod.Parse(operation.Method), address) { Content = content };
    }
}
