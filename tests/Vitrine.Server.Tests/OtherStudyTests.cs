using System.Net.Http.Json;
using System.Text.Json.Nodes;
using System.Text.RegularExpressions;
using Microsoft.AspNetCore.Http.Connections;
using Microsoft.AspNetCore.SignalR.Client;

namespace Vitrine.Server.Tests;

/// <summary>What a researcher of another study meets at each operation, each list, the search and the live line: nothing, as if it were not there.</summary>
public sealed partial class OtherStudyTests : IAsyncLifetime
{
    // Stands in everything that the other study holds.
    private const string Secret = "quillfeather";

    private readonly TestServer server = new();
    private readonly Dictionary<string, long> theirs = [];
    private HttpClient tom = null!;
    private long toms;

    public async Task InitializeAsync()
    {
        await server.SetUp();
        tom = await server.Person("Tom", "researcher");
        toms = (long)(await (await tom.PostAsJsonAsync("/api/studies", new { title = "Toms", purpose = "", method = "", researchQuestions = Array.Empty<string>() })).Content.ReadFromJsonAsync<JsonNode>())!["id"]!;
        var text = $"Una: Hello {Secret}?\n\nWren: I waited, {Secret}.";
        var study = theirs["studies"] = await server.Study($"About {Secret}");
        theirs["participants"] = await server.Person(study, "P01", "Wren", Secret);
        theirs["attributes"] = (long)(await server.Post($"studies/{study}/attributes", new { name = Secret, kind = "text" }))["id"]!;
        theirs["sources"] = await server.Paste(study, $"Talk with {Secret}", text);
        theirs["speakers"] = (long)(await server.Get($"sources/{theirs["sources"]}"))["line"]!["speakers"]![0]!["id"]!;
        theirs["observations"] = await server.Mark(theirs["sources"], text, $"I waited, {Secret}", $"tag {Secret}");
        theirs["folders"] = (long)(await server.Post($"studies/{study}/folders", new { name = Secret }))["id"]!;
        theirs["sessions"] = (long)(await server.Post($"studies/{study}/sessions", new { text = new { title = Secret, kind = "interview", heldOn = (string?)null, minutes = (int?)null, moderator = Secret, participantIds = new[] { theirs["participants"] } }, sourceIds = new[] { theirs["sources"] } }))["id"]!;
        theirs["watches"] = (long)(await server.Post($"studies/{study}/watches", new { name = Secret, rule = new { words = new[] { Secret }, allWords = false, sender = "", ratingFrom = (double?)null, ratingTo = (double?)null, channelId = (long?)null }, alsoPast = false }))["id"]!;
        theirs["feedback"] = 1;
        theirs["of"] = theirs["sessions"];
        theirs["notes"] = (long)(await server.Post($"studies/{study}/live-notes/of/{theirs["sessions"]}", new { }))["id"]!;
        theirs["lines"] = (long)(await server.Post($"studies/{study}/live-notes/{theirs["notes"]}/lines", new { typed = Secret, beginMs = 1, endMs = 2 }))["id"]!;
        theirs["attachments"] = await server.Attach(study, $"{Secret}.pdf", "kept as it is");
        theirs["tags"] = (long)(await server.Get($"studies/{study}/tags")).AsArray().Single()!["tag"]!["id"]!;
        theirs["themes"] = (long)(await server.Post($"studies/{study}/themes", new { title = Secret, description = "", observationIds = new[] { theirs["observations"] }, tagIds = Array.Empty<long>() }))["id"]!;
        theirs["insights"] = (long)(await server.Post($"studies/{study}/insights", new { headline = Secret, story = "", observationIds = new[] { theirs["observations"] } }))["id"]!;
        theirs["evidence"] = (long)(await server.Get($"insights/{theirs["insights"]}"))["evidence"]![0]!["id"]!;
        theirs["exhibits"] = (long)(await server.Post("exhibits", new { question = Secret, summary = "" }))["id"]!;
        await server.Put($"exhibits/{theirs["exhibits"]}/insights", new { insightIds = new[] { theirs["insights"] } });
        await server.Post($"exhibits/{theirs["exhibits"]}/links", new { });
        theirs["links"] = (long)(await server.Get($"exhibits/{theirs["exhibits"]}"))["links"]![0]!["id"]!;
    }

    public Task DisposeAsync()
    {
        tom.Dispose();
        server.Dispose();
        return Task.CompletedTask;
    }

    [Fact]
    public async Task Every_operation_on_something_of_another_study_says_that_it_is_not_there()
    {
        var document = JsonNode.Parse(await server.Http.GetStringAsync("/api/openapi.json"))!;
        var walked = 0;
        foreach (var (path, methods) in document["paths"]!.AsObject().Where(p => p.Key.Contains('{') && !p.Key.Contains("{token}") && !p.Key.StartsWith("/api/accounts") && !p.Key.StartsWith("/api/invitations") && !p.Key.StartsWith("/api/intake/")))
        {
            var address = path.Replace("{thing}/{id}", $"insight/{theirs["insights"]}");
            address = Segment().Replace(address.Replace("{key}", "a-key"), m => $"{m.Groups[1].Value}/{theirs[m.Groups[1].Value]}");
            Assert.DoesNotContain('{', address);
            foreach (var (method, _) in methods!.AsObject())
            {
                using var request = new HttpRequestMessage(HttpMethod.Parse(method), address);
                if (method is "post" or "put") request.Content = JsonContent.Create(new { });
                using var answer = await tom.SendAsync(request);
                Assert.True((int)answer.StatusCode == 404, $"{method} {address}: {(int)answer.StatusCode}");
                Assert.DoesNotContain(Secret, await answer.Content.ReadAsStringAsync());
                walked++;
            }
        }
        Assert.True(walked > 40);
    }

    [Fact]
    public async Task Lists_and_search_show_nothing_of_another_study()
    {
        var document = JsonNode.Parse(await server.Http.GetStringAsync("/api/openapi.json"))!;
        var lists = document["paths"]!.AsObject().Where(p => !p.Key.Contains('{') && p.Value!["get"] is not null).Select(p => p.Key).ToList();
        Assert.Contains("/api/search", lists);
        foreach (var list in lists)
        {
            var answer = await (await tom.GetAsync($"{list}?typed={Secret}")).Content.ReadAsStringAsync();
            Assert.False(answer.Contains(Secret, StringComparison.OrdinalIgnoreCase), list);
        }
        Assert.Equal(8, (await server.Get($"search?typed={Secret}")).AsArray().Select(h => h!["kind"]!.GetValue<string>()).Distinct().Count());
        Assert.Equal(404, (int)(await tom.GetAsync($"/api/steps?studyId={theirs["studies"]}")).StatusCode);
        Assert.Empty((await tom.GetFromJsonAsync<JsonArray>($"/api/insights?studyId={theirs["studies"]}"))!);
    }

    [Fact]
    public async Task Things_of_another_study_cannot_be_reached_through_ones_own()
    {
        var foreign = new[] { theirs["observations"] };
        Assert.Equal(404, await Sent(HttpMethod.Put, $"studies/{toms}/participants/{theirs["participants"]}", new { code = "P9", pseudonym = "x" }));
        Assert.Equal(404, await Sent(HttpMethod.Delete, $"studies/{toms}/participants/{theirs["participants"]}", null));
        Assert.Equal(404, await Sent(HttpMethod.Post, $"studies/{toms}/observations/tags", new { observationIds = foreign, tagIds = Array.Empty<long>(), newTags = new[] { "x" } }));
        Assert.Equal(404, await Sent(HttpMethod.Post, $"studies/{toms}/observations/remove", new { observationIds = foreign }));
        Assert.Equal(404, await Sent(HttpMethod.Post, $"studies/{toms}/themes", new { title = "x", description = "", observationIds = foreign, tagIds = Array.Empty<long>() }));
        Assert.Equal(404, await Sent(HttpMethod.Post, $"studies/{toms}/themes", new { title = "x", description = "", observationIds = Array.Empty<long>(), tagIds = new[] { theirs["tags"] } }));
        Assert.Equal(404, await Sent(HttpMethod.Put, $"studies/{toms}/not-asked", new { thing = "insight", id = theirs["insights"], participantIds = new[] { theirs["participants"] } }));
        Assert.Equal(404, await Sent(HttpMethod.Post, $"studies/{toms}/sources/paste", new { title = "x", kind = "interview", text = "words", participantIds = new[] { theirs["participants"] } }));
        Assert.Equal(404, await Sent(HttpMethod.Put, $"studies/{toms}/folders/{theirs["folders"]}", new { name = "mine now" }));
        Assert.Equal(404, await Sent(HttpMethod.Put, $"studies/{toms}/sources/folder", new { sourceIds = new[] { theirs["sources"] }, folderId = (long?)null }));
        Assert.Equal(404, await Sent(HttpMethod.Put, $"studies/{toms}/participants/consent", new { participantIds = new[] { theirs["participants"] }, consent = "given" }));
        Assert.Equal(404, await Sent(HttpMethod.Put, $"studies/{toms}/sources/session", new { sourceIds = new[] { theirs["sources"] }, sessionId = (long?)null }));
        Assert.Equal(404, await Sent(HttpMethod.Post, $"studies/{toms}/sessions", new { text = new { title = "x", kind = "visit", moderator = "", participantIds = Array.Empty<long>() }, sourceIds = new[] { theirs["sources"] } }));
        Assert.Equal(404, await Sent(HttpMethod.Post, $"studies/{toms}/sessions", new { text = new { title = "x", kind = "visit", moderator = "", participantIds = new[] { theirs["participants"] } }, sourceIds = Array.Empty<long>() }));
        Assert.Equal(404, await Sent(HttpMethod.Put, $"studies/{toms}/sessions/{theirs["sessions"]}", new { text = new { title = "mine now", kind = "visit", moderator = "", participantIds = Array.Empty<long>() }, version = 1 }));
        Assert.Equal(404, await Sent(HttpMethod.Delete, $"studies/{toms}/sessions/{theirs["sessions"]}", null));
        Assert.Equal(404, await Sent(HttpMethod.Put, $"studies/{toms}/attachments/{theirs["attachments"]}", new { title = "mine now", note = "", version = 1, tagIds = Array.Empty<long>(), newTags = Array.Empty<string>() }));
        Assert.Equal(404, await Sent(HttpMethod.Get, $"studies/{toms}/attachments/{theirs["attachments"]}/original", null));
        Assert.Equal(404, await Sent(HttpMethod.Put, $"studies/{toms}/participants/values", new { values = new[] { new { participantId = theirs["participants"], attributeId = theirs["attributes"], value = "x" } } }));
        Assert.Equal(404, await Sent(HttpMethod.Post, $"studies/{toms}/sources/notes", new { text = "words", @break = "line", kind = "interview", folder = "", participantIds = new[] { theirs["participants"] }, tagIds = Array.Empty<long>(), newTags = Array.Empty<string>() }));
        var exhibit = (long)(await (await tom.PostAsJsonAsync("/api/exhibits", new { question = "Mine?", summary = "" })).Content.ReadFromJsonAsync<JsonNode>())!["id"]!;
        Assert.Equal(404, await Sent(HttpMethod.Put, $"exhibits/{exhibit}/insights", new { insightIds = new[] { theirs["insights"] } }));
        Assert.Equal(404, await Sent(HttpMethod.Delete, $"exhibits/{exhibit}/links/{theirs["links"]}", null));
        Assert.Equal(404, await Sent(HttpMethod.Post, "tags", new { name = "under theirs", parentId = theirs["tags"], definition = "", settled = false }));
        Assert.Equal(404, await Sent(HttpMethod.Post, "undo", new { studyId = theirs["studies"] }));
    }

    [Fact]
    public async Task Who_is_added_to_a_team_sees_the_study_and_who_is_taken_out_does_not()
    {
        var me = await tom.GetFromJsonAsync<JsonNode>("/api/me");
        var id = (long)me!["account"]!["id"]!;
        var added = await server.Put($"studies/{theirs["studies"]}/members", new { accountIds = new[] { 1, id } });
        Assert.Contains(Secret, await tom.GetStringAsync($"/api/studies/{theirs["studies"]}"));
        Assert.Contains(Secret, await tom.GetStringAsync($"/api/search?typed={Secret}"));
        await server.Post("undo", new { studyId = (long?)null, actionId = (long)added["actionId"]! });
        Assert.Equal(404, (int)(await tom.GetAsync($"/api/studies/{theirs["studies"]}")).StatusCode);
    }

    [Fact]
    public async Task The_live_line_tells_nothing_of_another_study()
    {
        var heard = new List<long?>();
        var present = 0;
        var mine = new TaskCompletionSource();
        await using var line = TomsLine();
        line.On<long?, string[]>("changed", (study, _) =>
        {
            heard.Add(study);
            if (study == toms) mine.TrySetResult();
        });
        line.On<JsonNode>("present", _ => present++);
        await line.StartAsync();
        await line.InvokeAsync("Open", theirs["studies"]);
        await server.Post($"studies/{theirs["studies"]}/insights", new { headline = "Another", story = "", observationIds = Array.Empty<long>() });
        await Sent(HttpMethod.Post, $"studies/{toms}/insights", new { headline = "Mine", story = "", observationIds = Array.Empty<long>() });
        await mine.Task.WaitAsync(TimeSpan.FromSeconds(20));
        Assert.Equal([toms], heard);
        Assert.Equal(0, present);
    }

    [Fact]
    public async Task Who_is_taken_out_of_a_team_is_cut_off_its_live_line_at_once()
    {
        var id = (long)(await tom.GetFromJsonAsync<JsonNode>("/api/me"))!["account"]!["id"]!;
        await server.Put($"studies/{theirs["studies"]}/members", new { accountIds = new[] { 1, id } });
        var present = new TaskCompletionSource();
        var closed = new TaskCompletionSource();
        await using var line = TomsLine();
        line.On<JsonNode>("present", _ => present.TrySetResult());
        line.Closed += _ => Task.Run(closed.TrySetResult);
        await line.StartAsync();
        await line.InvokeAsync("Open", theirs["studies"]);
        await present.Task.WaitAsync(TimeSpan.FromSeconds(20));
        await server.Put($"studies/{theirs["studies"]}/members", new { accountIds = new[] { 1 } });
        await closed.Task.WaitAsync(TimeSpan.FromSeconds(20));
    }

    private HubConnection TomsLine() => new HubConnectionBuilder().WithUrl(new Uri(server.Host.BaseAddress, "/api/live"), o =>
    {
        o.HttpMessageHandlerFactory = _ => server.Host.CreateHandler();
        o.Transports = HttpTransportType.LongPolling;
        o.Headers["Cookie"] = server.CookieOf(tom);
    }).Build();

    private async Task<int> Sent(HttpMethod method, string path, object? body)
    {
        using var request = new HttpRequestMessage(method, "/api/" + path) { Content = body is null ? null : JsonContent.Create(body) };
        using var answer = await tom.SendAsync(request);
        return (int)answer.StatusCode;
    }

    [GeneratedRegex(@"([a-z]+)/\{[^}]+\}")]
    private static partial Regex Segment();
}
