using System.Net.Http.Json;
using System.Text.Json.Nodes;

namespace Vitrine.Server.Tests;

public sealed class AccessTests : IDisposable
{
    // What may be asked without signing in: who am I, the ways in and out, and what a secret token opens.
    private static readonly string[] Open = ["/api/me", "/api/set-up", "/api/sign-in", "/api/sign-out", "/api/demo/sign-in", "/api/join/{token}", "/api/read/{token}", "/api/read/{token}/context/{evidenceKey}", "/api/intake/items"];

    private readonly TestServer server = new();

    public void Dispose() => server.Dispose();

    [Fact]
    public async Task Every_operation_asks_for_a_sign_in()
    {
        await server.SetUp();
        using var stranger = server.Stranger();
        foreach (var (path, method) in await Operations()) Assert.True(await Status(stranger, path, method) == 401, $"{method} {path}");
    }

    [Fact]
    public async Task A_reader_may_use_no_operation_of_the_team()
    {
        await server.SetUp();
        using var reader = await server.Person("Rowe", "reader");
        string[] ownAccount = ["/api/me/password", "/api/me/sign-out-everywhere"];
        foreach (var (path, method) in (await Operations()).Where(o => !ownAccount.Contains(o.Path))) Assert.True(await Status(reader, path, method) == 403, $"{method} {path}");
    }

    [Fact]
    public async Task A_note_taker_cannot_publish()
    {
        await server.SetUp();
        var exhibit = (long)(await server.Post("exhibits", new { question = "What?", summary = "" }))["id"]!;
        using var nell = await server.Person("Nell", "noteTaker");
        Assert.True((await nell.GetAsync($"/api/exhibits/{exhibit}")).IsSuccessStatusCode);
        Assert.Equal(403, (await TestServer.SentenceOf(await nell.PostAsJsonAsync($"/api/exhibits/{exhibit}/links", new { }))).Status);
    }

    [Fact]
    public async Task The_demos_door_does_not_exist_in_serve()
    {
        await server.SetUp();
        using var stranger = server.Stranger();
        Assert.Equal(404, (int)(await stranger.PostAsJsonAsync("/api/demo/sign-in", new { accountId = 1 })).StatusCode);
        Assert.Empty((await stranger.GetFromJsonAsync<JsonObject>("/api/me"))!["demoAccounts"]!.AsArray());
    }

    [Fact]
    public async Task The_live_line_asks_for_a_sign_in()
    {
        await server.SetUp();
        using var stranger = server.Stranger();
        Assert.Equal(401, (int)(await stranger.PostAsync("/api/live/negotiate?negotiateVersion=1", null)).StatusCode);
        Assert.True((await server.Http.PostAsync("/api/live/negotiate?negotiateVersion=1", null)).IsSuccessStatusCode);
    }

    [Fact]
    public async Task There_is_one_first_steward()
    {
        await server.SetUp();
        using var stranger = server.Stranger();
        var again = await stranger.PostAsJsonAsync("/api/set-up", new { name = "Else", email = "else@vitrine.example", password = "ten letters and more", role = "steward" });
        Assert.Equal(409, (int)again.StatusCode);
    }

    [Fact]
    public async Task A_wrong_password_and_an_unknown_address_sound_the_same()
    {
        await server.SetUp();
        var wrong = await server.Refused("sign-in", new { email = "una@vitrine.example", password = "not this one" });
        Assert.Equal(wrong, await server.Refused("sign-in", new { email = "nobody@vitrine.example", password = "not this one" }));
        Assert.Contains("at least 10", (await server.Refused("accounts", new { name = "x", email = "x@vitrine.example", password = "short", role = "reader" })).Sentence);
    }

    [Fact]
    public async Task Guessing_passwords_is_slowed_down()
    {
        await server.SetUp();
        var answers = new List<int>();
        for (var i = 0; i < 25; i++) answers.Add((await server.Refused("sign-in", new { email = "una@vitrine.example", password = $"guess {i}" })).Status);
        Assert.Equal(400, answers[0]);
        Assert.Equal(429, answers[^1]);
    }

    [Fact]
    public async Task Every_answer_forbids_scripts_from_elsewhere_and_frames()
    {
        var answer = await server.Http.GetAsync("/api/me");
        var policy = Assert.Single(answer.Headers.GetValues("Content-Security-Policy"));
        Assert.Contains("script-src 'self';", policy);
        Assert.Contains("style-src 'self';", policy);
        Assert.DoesNotContain("unsafe", policy);
        Assert.Contains("frame-ancestors 'none'", policy);
        Assert.True(answer.Headers.CacheControl!.NoStore);
        Assert.Equal("ok", await server.Http.GetStringAsync("/healthz"));
    }

    private async Task<IReadOnlyList<(string Path, string Method)>> Operations()
    {
        var document = JsonNode.Parse(await server.Http.GetStringAsync("/api/openapi.json"))!;
        var all = document["paths"]!.AsObject().SelectMany(p => p.Value!.AsObject().Select(o => (p.Key, o.Key))).Where(o => !Open.Contains(o.Item1)).ToList();
        Assert.True(all.Count > 40);
        return all;
    }

    private static async Task<int> Status(HttpClient http, string path, string method)
    {
        using var request = new HttpRequestMessage(HttpMethod.Parse(method), System.Text.RegularExpressions.Regex.Replace(path, @"\{[^}]+\}", "1"));
        if (method is "post" or "put") request.Content = JsonContent.Create(new { });
        return (int)(await http.SendAsync(request)).StatusCode;
    }
}
