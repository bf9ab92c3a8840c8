using System.Net.Http.Json;
using System.Text.Json.Nodes;

namespace Vitrine.Server.Tests;

public sealed class AccessTests : IDisposable
{
    // What may be asked without signing in: who am I, the ways in and out, and what a secret token opens.
    private static readonly string[] Open =
    [
        "/api/me",
        "/api/set-up",
        "/api/sign-in",
        "/api/sign-out",
        "/api/demo/sign-in",
        "/api/join/{token}",
        "/api/read/{token}",
        "/api/read/{token}/context/{evidenceKey}",
        "/api/read/{token}/cutout/{evidenceKey}",
        "/api/intake/items",
    ];

    private readonly TestServer server = new();

    public void Dispose() => server.Dispose();

    [Fact]
    public async Task Every_operation_asks_for_a_sign_in()
    {
        await server.SetUp();
        using var stranger = server.Stranger();
        foreach (var (path, method) in await Operations())
            Assert.True(await Status(stranger, path, method) == 401, $"{method} {path}");
    }

    [Fact]
    public async Task A_reader_may_use_no_operation_of_the_team()
    {
        await server.SetUp();
        using var reader = await server.Person("Rowe", "reader");
        string[] ownAccount = ["/api/me/password", "/api/me/sign-out-everywhere"];
        foreach (var (path, method) in (await Operations()).Where(o => !ownAccount.Contains(o.Path)))
            Assert.True(await Status(reader, path, method) == 403, $"{method} {path}");
    }

    [Fact]
    public async Task A_note_taker_cannot_publish()
    {
        await server.SetUp();
        using var nell = await server.Person("Nell", "noteTaker");
        var exhibit = (long)
            (await TestServer.Answer(await nell.PostAsJsonAsync("/api/exhibits", new { question = "What?", summary = "" }), "exhibits"))[
                "id"
            ]!;
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
        var again = await stranger.PostAsJsonAsync(
            "/api/set-up",
            new
            {
                name = "Else",
                email = "else@vitrine.example",
                password = "ten letters and more",
                role = "steward",
            }
        );
        Assert.Equal(409, (int)again.StatusCode);
    }

    [Fact]
    public async Task Of_ten_who_set_up_at_once_one_becomes_the_steward()
    {
        var answers = await Task.WhenAll(
            Enumerable
                .Range(0, 10)
                .Select(async i =>
                    (int)
                        (
                            await server
                                .Stranger()
                                .PostAsJsonAsync(
                                    "/api/set-up",
                                    new
                                    {
                                        name = $"N{i}",
                                        email = $"n{i}@vitrine.example",
                                        password = "ten letters and more",
                                        role = "steward",
                                    }
                                )
                        ).StatusCode
                )
        );
        Assert.Equal([200, .. Enumerable.Repeat(409, 9)], answers.Order());
    }

    [Fact]
    public async Task A_proxy_is_believed_only_where_the_settings_name_it()
    {
        foreach (var (named, secure, limited) in new[] { ("127.0.0.1", true, false), ("10.9.8.7", false, true) })
        {
            using var behind = new TestServer(settings: ("proxy", named));
            await behind.SetUp();
            var answers = new List<HttpResponseMessage>();
            for (var i = 0; i < 22; i++)
            {
                using var request = new HttpRequestMessage(HttpMethod.Post, "/api/sign-in")
                {
                    Content = JsonContent.Create(
                        new { email = "una@vitrine.example", password = i == 0 ? "ten letters and more" : "a guess" }
                    ),
                };
                request.Headers.Add("X-Forwarded-Proto", "https");
                request.Headers.Add("X-Forwarded-For", $"192.0.2.{i}");
                answers.Add(await behind.Http.SendAsync(request));
            }
            Assert.Equal(secure, answers[0].Headers.GetValues("Set-Cookie").Any(c => c.StartsWith("vitrine=") && c.Contains("secure")));
            Assert.Equal(limited, (int)answers[^1].StatusCode == 429);
        }
    }

    [Fact]
    public async Task Links_for_readers_are_slowed_down_when_they_are_tried_too_often()
    {
        var last = 0;
        for (var i = 0; i <= 300; i++)
            last = (int)(await server.Http.GetAsync("/api/read/a-guess")).StatusCode;
        Assert.Equal(429, last);
    }

    [Fact]
    public async Task A_shared_tag_tells_how_far_it_reaches_and_only_the_steward_removes_it()
    {
        await server.SetUp();
        using var tom = await server.Person("Tom", "researcher");
        using var nell = await server.Person("Nell", "noteTaker");
        var text = new
        {
            name = "queue",
            definition = "Waiting in line",
            settled = true,
        };
        var tag = (long)(await server.Post("tags", text))["id"]!;
        await server.Mark(await server.Paste(await server.Study("Unas"), "A", "They waited long."), "They waited long.", "waited", "queue");
        var reach = (await tom.GetFromJsonAsync<JsonNode>($"/api/tags/{tag}/reach"))!;
        Assert.Equal("""{"studies":1,"observations":1,"seen":[]}""", reach.ToJsonString());
        Assert.Equal(["Unas"], (await server.Get($"tags/{tag}/reach"))["seen"]!.AsArray().Select(t => (string)t!));
        var refused = await TestServer.SentenceOf(await tom.DeleteAsync($"/api/tags/{tag}"));
        Assert.Equal((403, "Every study shares this tag. Ask the steward to remove it."), refused);
        Assert.Equal(403, (await TestServer.SentenceOf(await nell.PutAsJsonAsync($"/api/tags/{tag}", new { text, version = 1 }))).Status);
        await TestServer.Answer(
            await tom.PutAsJsonAsync($"/api/tags/{tag}", new { text = text with { name = "the queue" }, version = 1 }),
            "change"
        );
        await TestServer.Answer(await server.Http.DeleteAsync($"/api/tags/{tag}"), "remove");
    }

    [Fact]
    public async Task A_wrong_password_and_an_unknown_address_sound_the_same()
    {
        await server.SetUp();
        var wrong = await server.Refused("sign-in", new { email = "una@vitrine.example", password = "not this one" });
        Assert.Equal(wrong, await server.Refused("sign-in", new { email = "nobody@vitrine.example", password = "not this one" }));
        // And take the same time: with a hash that costs a lot, an unknown address does not answer at once.
        using var slow = new TestServer(settings: ("password-iterations", "400000"));
        await slow.SetUp();
        await slow.Refused("sign-in", new { email = "nobody@vitrine.example", password = "not this one" });
        var times = new List<double>();
        foreach (var email in new[] { "una@vitrine.example", "nobody@vitrine.example" })
        {
            var began = System.Diagnostics.Stopwatch.GetTimestamp();
            await slow.Refused("sign-in", new { email, password = "not this one" });
            times.Add(System.Diagnostics.Stopwatch.GetElapsedTime(began).TotalMilliseconds);
        }
        Assert.True(times[1] > times[0] / 4, $"{times[0]:0} ms known, {times[1]:0} ms unknown");
        Assert.Contains(
            "at least 10",
            (
                await server.Refused(
                    "accounts",
                    new
                    {
                        name = "x",
                        email = "x@vitrine.example",
                        password = "short",
                        role = "reader",
                    }
                )
            ).Sentence
        );
    }

    [Fact]
    public async Task Guessing_passwords_is_slowed_down()
    {
        await server.SetUp();
        var answers = new List<int>();
        for (var i = 0; i < 25; i++)
            answers.Add((await server.Refused("sign-in", new { email = "una@vitrine.example", password = $"guess {i}" })).Status);
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
        var all = document["paths"]!
            .AsObject()
            .SelectMany(p => p.Value!.AsObject().Select(o => (p.Key, o.Key)))
            .Where(o => !Open.Contains(o.Item1))
            .ToList();
        Assert.True(all.Count > 40);
        return all;
    }

    private static async Task<int> Status(HttpClient http, string path, string method)
    {
        using var request = new HttpRequestMessage(
            HttpMethod.Parse(method),
            System.Text.RegularExpressions.Regex.Replace(path, @"\{[^}]+\}", "1")
        );
        if (method is "post" or "put")
            request.Content = JsonContent.Create(new { });
        return (int)(await http.SendAsync(request)).StatusCode;
    }
}
