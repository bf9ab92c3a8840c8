using System.Net.Http.Json;
using System.Text.Json.Nodes;
using Microsoft.AspNetCore.SignalR.Client;
using Vitrine.Server.Tests.Walks;

namespace Vitrine.Server.Tests;

/// <summary>
/// What a researcher of another study meets in each list, the search and the live line: nothing, as if it were not there.
/// </summary>
public sealed class OtherStudyTests : IAsyncLifetime
{
    // Stands in everything that the other study holds.
    private const string Secret = "quillfeather";

    private readonly TestServer server = new();
    private Dictionary<string, JsonNode?> theirs = [];
    private HttpClient tom = null!;
    private long toms;

    public async Task InitializeAsync()
    {
        await server.SetUp();
        tom = await server.Person("Tom", "researcher");
        toms = (long)
            (
                await (
                    await tom.PostAsJsonAsync(
                        "/api/studies",
                        new
                        {
                            title = "Toms",
                            purpose = "",
                            method = "",
                            researchQuestions = Array.Empty<string>(),
                        }
                    )
                ).Content.ReadFromJsonAsync<JsonNode>()
            )!["id"]!;
        theirs = await Things.Make(server, server.Http, Secret);
    }

    public Task DisposeAsync()
    {
        tom.Dispose();
        server.Dispose();
        return Task.CompletedTask;
    }

    [Fact]
    public async Task Lists_and_search_show_nothing_of_another_study()
    {
        var document = JsonNode.Parse(await server.Http.GetStringAsync("/api/openapi.json"))!;
        var lists = document["paths"]!
            .AsObject()
            .Where(p => !p.Key.Contains('{') && p.Value!["get"] is not null)
            .Select(p => p.Key)
            .ToList();
        Assert.Contains("/api/search", lists);
        foreach (var list in lists)
        {
            var answer = await (await tom.GetAsync($"{list}?typed={Secret}")).Content.ReadAsStringAsync();
            Assert.False(answer.Contains(Secret, StringComparison.OrdinalIgnoreCase), list);
        }
        Assert.Equal(
            9,
            (await server.Get($"search?typed={Secret}")).AsArray().Select(h => h!["kind"]!.GetValue<string>()).Distinct().Count()
        );
        Assert.Equal(404, (int)(await tom.GetAsync($"/api/steps?studyId={theirs["studyId"]}")).StatusCode);
    }

    [Fact]
    public async Task Who_is_added_to_a_team_sees_the_study_and_who_is_taken_out_does_not()
    {
        var me = await tom.GetFromJsonAsync<JsonNode>("/api/me");
        var id = (long)me!["account"]!["id"]!;
        var added = await server.Put($"studies/{theirs["studyId"]}/members", new { accountIds = new[] { 1, id } });
        Assert.Contains(Secret, await tom.GetStringAsync($"/api/studies/{theirs["studyId"]}"));
        Assert.Contains(Secret, await tom.GetStringAsync($"/api/search?typed={Secret}"));
        await server.Post("undo", new { studyId = (long?)null, actionId = (long)added["actionId"]! });
        Assert.Equal(404, (int)(await tom.GetAsync($"/api/studies/{theirs["studyId"]}")).StatusCode);
    }

    [Fact]
    public async Task The_live_line_tells_nothing_of_another_study()
    {
        var heard = new List<long?>();
        var present = 0;
        var mine = new TaskCompletionSource();
        await using var line = server.Line(tom);
        line.On<JsonNode, long?>(
            "changed",
            (changed, _) =>
            {
                var study = (long?)changed["studyId"];
                heard.Add(study);
                if (study == toms)
                    mine.TrySetResult();
            }
        );
        line.On<JsonNode>("present", _ => present++);
        await line.StartAsync();
        await line.InvokeAsync("Open", (long)theirs["studyId"]!);
        await server.Post(
            $"studies/{theirs["studyId"]}/insights",
            new
            {
                headline = "Another",
                story = TestServer.Rich(""),
                observationIds = Array.Empty<long>(),
            }
        );
        await Sent(
            HttpMethod.Post,
            $"studies/{toms}/insights",
            new
            {
                headline = "Mine",
                story = TestServer.Rich(""),
                observationIds = Array.Empty<long>(),
            }
        );
        await mine.Task.WaitAsync(TimeSpan.FromSeconds(20));
        Assert.Equal([toms], heard);
        Assert.Equal(0, present);
    }

    [Fact]
    public async Task Who_is_taken_out_of_a_team_is_cut_off_its_live_line_at_once()
    {
        var id = (long)(await tom.GetFromJsonAsync<JsonNode>("/api/me"))!["account"]!["id"]!;
        await server.Put($"studies/{theirs["studyId"]}/members", new { accountIds = new[] { 1, id } });
        var present = new TaskCompletionSource();
        var closed = new TaskCompletionSource();
        await using var line = server.Line(tom);
        line.On<JsonNode>("present", _ => present.TrySetResult());
        line.Closed += _ => Task.Run(closed.TrySetResult);
        await line.StartAsync();
        await line.InvokeAsync("Open", (long)theirs["studyId"]!);
        await present.Task.WaitAsync(TimeSpan.FromSeconds(20));
        await server.Put($"studies/{theirs["studyId"]}/members", new { accountIds = new[] { 1 } });
        await closed.Task.WaitAsync(TimeSpan.FromSeconds(20));
    }

    private async Task<int> Sent(HttpMethod method, string path, object? body)
    {
        using var request = new HttpRequestMessage(method, "/api/" + path) { Content = body is null ? null : JsonContent.Create(body) };
        using var answer = await tom.SendAsync(request);
        return (int)answer.StatusCode;
    }
}
