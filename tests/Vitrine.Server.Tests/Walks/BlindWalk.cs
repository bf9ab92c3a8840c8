using System.Net;
using System.Text.Json.Nodes;
using System.Text.RegularExpressions;

namespace Vitrine.Server.Tests.Walks;

/// <summary>
/// Two people tag a source blind. All that the OpenAPI document offers for reading is asked by one of them before and after the other has
/// marked there: no answer may differ in a sign. Then every operation is asked with an id of a hidden mark, which must not be there.
/// </summary>
public sealed partial class BlindWalk : IAsyncLifetime
{
    private const string Secret = "quillfeather";

    private readonly TestServer server = new();
    private HttpClient tom = null!;
    private Dictionary<string, JsonNode?> mine = [];
    private IReadOnlyList<Operation> operations = [];
    private string token = "";

    public async Task InitializeAsync()
    {
        await server.SetUp();
        tom = await server.Person("Tom", "steward");
        mine = await Things.Make(server, tom, "thornapple");
        Things.AddQueries(mine);
        mine["otherTagId"] = JsonNode
            .Parse(await tom.GetStringAsync($"/api/studies/{mine["studyId"]}/tags"))!
            .AsArray()
            .Single(t => ((string)t!["name"]!).StartsWith("found", StringComparison.Ordinal))!["id"]!.DeepClone();
        token = (string)(await Made(tom, $"exhibits/{mine["exhibitId"]}/links", new { }))["token"]!;
        operations =
        [
            .. (await ApiDocument.Operations(server.Http)).Where(o =>
                !o.Path.Contains("{token}") && !o.Path.StartsWith("/api/invitations") && !o.Path.StartsWith("/api/accounts")
            ),
        ];
    }

    public Task DisposeAsync()
    {
        tom.Dispose();
        server.Dispose();
        return Task.CompletedTask;
    }

    [Fact]
    public async Task Who_tags_blind_is_told_nothing_of_what_the_other_marks()
    {
        await server.Put($"sources/{mine["sourceId"]}/blind", new { accountIds = new[] { 1, 2 } });
        var before = await ToldToTom();
        var hidden = await UnaMarks();
        var after = await ToldToTom();
        Assert.Equal(before.Keys, after.Keys);
        var told = before.Keys.Where(k => before[k] != after[k]).Select(k => $"{k}\n  {before[k]}\n  {after[k]}");
        Assert.True(!told.Any(), string.Join('\n', told));

        // What is hidden is not there for any operation, whatever else it is asked with.
        var asked = new HashSet<string>();
        var wrong = new List<string>();
        foreach (var operation in operations)
        {
            foreach (var (id, address, body) in Asking(operation, hidden))
            {
                using var answer = await tom.SendAsync(operation.Request(address, body));
                if (answer.StatusCode != HttpStatusCode.NotFound)
                    wrong.Add(
                        $"{operation.Method} {address} {body?.ToJsonString()}: {(int)answer.StatusCode} {await answer.Content.ReadAsStringAsync()}"
                    );
                asked.Add(id);
            }
        }
        Assert.True(wrong.Count == 0, string.Join('\n', wrong));
        Assert.Equal(hidden.Keys.Order(), asked.Order());

        // A correction moves the marks of both; only one's own are to be looked at.
        var source = await server.Get($"sources/{mine["sourceId"]}");
        var text = ((string)source["text"]!).Replace("waited", "sat", StringComparison.Ordinal);
        await server.Put($"sources/{mine["sourceId"]}/text", new { text, basedOn = (string)source["textHash"]! });
        var looks = await Read(tom, $"/api/studies/{mine["studyId"]}/to-look-at");
        Assert.DoesNotContain(Secret, looks);
        Assert.NotEqual("[]", looks);
        Assert.DoesNotContain($"\"observationId\":{hidden["observationId"]}", looks);

        // Opened, all of it is there; and readers see it from now on.
        Assert.DoesNotContain("in the dark", await Read(server.Stranger(), $"/api/read/{token}"));
        await server.Post($"sources/{mine["sourceId"]}/blind/open", new { });
        Assert.Contains(Secret, await Read(tom, $"/api/sources/{mine["sourceId"]}/observations"));
        Assert.Contains($"\"observationId\":{hidden["observationId"]}", await Read(tom, $"/api/insights/{mine["insightId"]}"));
    }

    /// <summary>All that Tom is told, by what he asks.</summary>
    private async Task<SortedDictionary<string, string>> ToldToTom()
    {
        var told = new SortedDictionary<string, string>(StringComparer.Ordinal);
        foreach (var operation in operations.Where(o => o.Method == "GET" && o.Path is not "/api/me" && !o.Path.EndsWith("openapi.json")))
        {
            var addresses = operation
                .Query.Where(q => !q.Required && mine.ContainsKey(Things.NameOf(operation, q.Name) ?? q.Name))
                .Select(q => operation.Address(mine, (q.Name, mine[Things.NameOf(operation, q.Name) ?? q.Name])))
                .Prepend(operation.Address(mine));
            foreach (var address in addresses.Distinct())
                told[address] = await Read(tom, address);
        }
        foreach (var thing in new[] { "tag", "source", "theme", "insight", "study" })
            told[$"trail of {thing}"] = await Read(tom, $"/api/trail/{thing}/{mine[$"{thing}Id"]}");
        told["search"] = await Read(tom, $"/api/search?typed={Secret}");
        told["link"] = await Read(server.Stranger(), $"/api/read/{token}");
        var source = JsonNode.Parse(await tom.GetStringAsync($"/api/sources/{mine["sourceId"]}"))!;
        using var preview = await tom.PostAsync(
            $"/api/sources/{mine["sourceId"]}/correction-preview",
            Things.Json(
                new
                {
                    text = ((string)source["text"]!).Replace("waited", "sat", StringComparison.Ordinal),
                    basedOn = (string)source["textHash"]!,
                }
            )
        );
        told["correction-preview"] = await preview.Content.ReadAsStringAsync();
        return told;
    }

    /// <summary>Una marks the same words and others, and puts it wherever a mark can be.</summary>
    private async Task<Dictionary<string, JsonNode?>> UnaMarks()
    {
        var hidden = new Dictionary<string, JsonNode?>();
        var una = server.Http;
        var text = (string)(await server.Get($"sources/{mine["sourceId"]}"))["text"]!;
        foreach (var words in new[] { "I waited", "waited, thornapple", "Hello" })
        {
            var start = text.IndexOf(words, StringComparison.Ordinal);
            var anchor = new
            {
                kind = "text",
                start,
                end = start + words.Length,
            };
            hidden["observationId"] = (
                await Made(
                    una,
                    $"sources/{mine["sourceId"]}/observations",
                    new
                    {
                        anchor,
                        tagIds = new[] { mine["tagId"], mine["otherTagId"] },
                        newTags = Array.Empty<string>(),
                    }
                )
            )["id"]!.DeepClone();
            var at = $"observations/{hidden["observationId"]}";
            await server.Put($"{at}/note", new { was = "", text = $"{Secret} in the dark" });
            await server.Put($"{at}/star", new { starred = true });
            await server.Put($"{at}/sentiment", new { sentiment = "negative" });
            await server.Put($"{at}/unsure", new { unsure = true });
            hidden["marginNoteId"] = (
                await Made(
                    una,
                    $"sources/{mine["sourceId"]}/margin-notes",
                    new
                    {
                        anchor,
                        words = Secret,
                        unsure = true,
                    }
                )
            )["id"]!.DeepClone();
            await server.Post(
                $"themes/{mine["themeId"]}/put",
                new { observationIds = new[] { hidden["observationId"] }, tagIds = Array.Empty<long>() }
            );
            await server.Post(
                $"insights/{mine["insightId"]}/evidence",
                new { observationIds = new[] { hidden["observationId"] }, stance = "supports" }
            );
        }
        hidden["evidenceId"] = (await server.Get($"insights/{mine["insightId"]}"))["evidence"]!
            .AsArray()
            .Single(e => (long)e!["quote"]!["observationId"]! == (long)hidden["observationId"]!)!["id"]!.DeepClone();
        return hidden;
    }

    /// <summary>The operation's good request, once for each id of a mark that it holds, with a hidden one in its place.</summary>
    private IEnumerable<(string Id, string Address, JsonNode? Body)> Asking(Operation operation, Dictionary<string, JsonNode?> hidden)
    {
        foreach (var (part, name) in operation.Parts.Where(p => hidden.ContainsKey(p.Name)))
            yield return (name, operation.Address(mine, (part, hidden[name])), operation.Sample(mine));
        foreach (var (field, _) in operation.Query)
        {
            if (Things.NameOf(operation, field) is { } id && hidden.TryGetValue(id, out var other))
                yield return (id, operation.Address(mine, (field, other)), operation.Sample(mine));
        }
        foreach (var (id, body) in operation.SamplesWith(mine, hidden))
            yield return (id, operation.Address(mine), body);
    }

    private static async Task<JsonNode> Made(HttpClient http, string path, object body) =>
        await TestServer.Answer(await http.PostAsync("/api/" + path, Things.Json(body)), path);

    /// <summary>An answer without the moment at which it is given, and when the study was worked on last.</summary>
    private static async Task<string> Read(HttpClient http, string address)
    {
        using var answer = await http.GetAsync(address);
        var body = await answer.Content.ReadAsByteArrayAsync();
        return $"{(int)answer.StatusCode} {Moments().Replace(System.Text.Encoding.UTF8.GetString(body), "")}";
    }

    [GeneratedRegex("\"(?:now|workedOnAt)\":\"[^\"]*\"")]
    private static partial Regex Moments();
}
