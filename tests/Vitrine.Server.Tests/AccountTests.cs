using System.Net.Http.Json;
using System.Text.Json.Nodes;

namespace Vitrine.Server.Tests;

/// <summary>Coming in by invitation, one's own password, ending sign-ins, and requests that another site made.</summary>
public sealed class AccountTests : IDisposable
{
    private const string Password = "ten letters and more";

    private readonly TestServer server = new();

    public void Dispose() => server.Dispose();

    [Fact]
    public async Task Who_holds_an_invitation_makes_their_own_account_once()
    {
        await server.SetUp();
        var study = await server.Study("Invited to");
        await server.Study("Not invited to");
        var token = (
            await server.Post(
                "invitations",
                new
                {
                    name = "Tom",
                    email = "tom@vitrine.example",
                    role = "researcher",
                    studyIds = new[] { study },
                }
            )
        )["token"]!.GetValue<string>();
        Assert.Single((await server.Get("invitations")).AsArray());

        using var tom = server.Stranger();
        Assert.Equal("Una Kerr", (await tom.GetFromJsonAsync<JsonNode>($"/api/join/{token}"))!["invitedBy"]!.GetValue<string>());
        Assert.Contains(
            "at least 10",
            (
                await TestServer.SentenceOf(await tom.PostAsJsonAsync($"/api/join/{token}", new { name = "Tom", password = "short" }))
            ).Sentence
        );
        Assert.True(
            (await tom.PostAsJsonAsync($"/api/join/{token}", new { name = "Tom Varley", password = Password })).IsSuccessStatusCode
        );
        Assert.Equal(["Invited to"], (await tom.GetFromJsonAsync<JsonArray>("/api/studies"))!.Select(s => s!["title"]!.GetValue<string>()));
        Assert.Empty((await server.Get("invitations")).AsArray());
        Assert.Equal(404, (await TestServer.SentenceOf(await tom.GetAsync($"/api/join/{token}"))).Status);
    }

    [Fact]
    public async Task A_revoked_or_made_up_invitation_opens_nothing()
    {
        await server.SetUp();
        var token = (
            await server.Post(
                "invitations",
                new
                {
                    name = "Tom",
                    email = "tom@vitrine.example",
                    role = "researcher",
                    studyIds = Array.Empty<long>(),
                }
            )
        )["token"]!.GetValue<string>();
        var id = (await server.Get("invitations"))[0]!["id"]!;
        await server.Http.DeleteAsync($"/api/invitations/{id}");
        using var stranger = server.Stranger();
        Assert.Contains(
            "Ask the person who sent it",
            (await TestServer.SentenceOf(await stranger.GetAsync($"/api/join/{token}"))).Sentence
        );
        Assert.Equal(404, (int)(await stranger.GetAsync("/api/join/made-up")).StatusCode);
    }

    [Fact]
    public async Task A_new_password_ends_every_other_sign_in()
    {
        await server.SetUp();
        using var tom = await server.Person("Tom", "researcher");
        using var elsewhere = server.Stranger();
        await elsewhere.PostAsJsonAsync("/api/sign-in", new { email = "tom@vitrine.example", password = Password });
        Assert.Contains(
            "not your current",
            (
                await TestServer.SentenceOf(
                    await tom.PutAsJsonAsync("/api/me/password", new { current = "no", password = "another long one" })
                )
            ).Sentence
        );
        Assert.True(
            (await tom.PutAsJsonAsync("/api/me/password", new { current = Password, password = "another long one" })).IsSuccessStatusCode
        );
        Assert.Equal(200, (int)(await tom.GetAsync("/api/studies")).StatusCode);
        Assert.Equal(401, (int)(await elsewhere.GetAsync("/api/studies")).StatusCode);
        Assert.False(
            (
                await elsewhere.PostAsJsonAsync("/api/sign-in", new { email = "tom@vitrine.example", password = Password })
            ).IsSuccessStatusCode
        );
        Assert.True(
            (
                await elsewhere.PostAsJsonAsync("/api/sign-in", new { email = "tom@vitrine.example", password = "another long one" })
            ).IsSuccessStatusCode
        );
    }

    [Fact]
    public async Task Signing_out_everywhere_closing_and_another_role_count_at_once()
    {
        await server.SetUp();
        using var tom = await server.Person("Tom", "researcher");
        await tom.PostAsJsonAsync("/api/me/sign-out-everywhere", new { });
        Assert.Equal(401, (int)(await tom.GetAsync("/api/studies")).StatusCode);
        await tom.PostAsJsonAsync("/api/sign-in", new { email = "tom@vitrine.example", password = Password });
        Assert.Equal(200, (int)(await tom.GetAsync("/api/studies")).StatusCode);
        await server.Put("accounts/2", new { role = "reader", closed = true });
        Assert.Equal(401, (int)(await tom.GetAsync("/api/studies")).StatusCode);
        Assert.Equal(
            400,
            (int)(await tom.PostAsJsonAsync("/api/sign-in", new { email = "tom@vitrine.example", password = Password })).StatusCode
        );
        Assert.Contains(
            "needs a steward",
            (await server.Refused("accounts/1", new { role = "reader", closed = false }, HttpMethod.Put)).Sentence
        );
    }

    [Fact]
    public async Task A_write_that_another_site_made_is_refused()
    {
        await server.SetUp();
        using var forged = server.Forged();
        var (status, sentence) = await TestServer.SentenceOf(
            await forged.PostAsJsonAsync(
                "/api/studies",
                new
                {
                    title = "Forged",
                    purpose = "",
                    method = "",
                    researchQuestions = Array.Empty<string>(),
                }
            )
        );
        Assert.Equal(400, status);
        Assert.Contains("Reload", sentence);
        Assert.Equal(200, (int)(await forged.GetAsync("/api/studies")).StatusCode);
        Assert.Empty((await server.Get("studies")).AsArray());
    }

    [Fact]
    public async Task A_note_taker_takes_away_only_what_is_their_own()
    {
        await server.SetUp();
        using var nell = await server.Person("Nell", "noteTaker");
        var study = await server.Study();
        await server.Put($"studies/{study}/members", new { accountIds = new[] { 1, 2 } });
        var source = await server.Paste(study, "Talk", "Ida: How?\n\nWren: I waited.");
        var unas = await server.Mark(source, "Ida: How?\n\nWren: I waited.", "I waited", "waiting");
        var made = await nell.PostAsJsonAsync(
            $"/api/sources/{source}/observations",
            new
            {
                anchor = new
                {
                    kind = "text",
                    start = 5,
                    end = 8,
                },
                tagIds = Array.Empty<long>(),
                newTags = new[] { "asks" },
            }
        );
        var nells = (long)(await made.Content.ReadFromJsonAsync<JsonNode>())!["id"]!;
        var (status, sentence) = await TestServer.SentenceOf(
            await nell.PostAsJsonAsync($"/api/studies/{study}/observations/remove", new { observationIds = new[] { unas } })
        );
        Assert.Equal(403, status);
        Assert.Contains("Someone else made this", sentence);
        Assert.Equal(403, (int)(await nell.DeleteAsync($"/api/sources/{source}")).StatusCode);
        Assert.True(
            (
                await nell.PostAsJsonAsync($"/api/studies/{study}/observations/remove", new { observationIds = new[] { nells } })
            ).IsSuccessStatusCode
        );
        Assert.Single((await server.Get($"sources/{source}/observations")).AsArray());
    }

    [Fact]
    public async Task A_request_sent_twice_is_done_once_and_answered_twice()
    {
        await server.SetUp();
        var study = await server.Study();
        var source = await server.Paste(study, "Talk", "Wren: I waited.");
        async Task<string> Send(string key)
        {
            using var request = new HttpRequestMessage(HttpMethod.Post, $"/api/sources/{source}/observations")
            {
                Content = JsonContent.Create(
                    new
                    {
                        anchor = new
                        {
                            kind = "text",
                            start = 6,
                            end = 8,
                        },
                        tagIds = Array.Empty<long>(),
                        newTags = new[] { "waiting" },
                    }
                ),
            };
            request.Headers.Add("Idempotency-Key", key);
            using var answer = await server.Http.SendAsync(request);
            return await answer.EnsureSuccessStatusCode().Content.ReadAsStringAsync();
        }

        var key = Guid.NewGuid().ToString();
        var first = await Send(key);
        await server.Post("undo", new { studyId = study });
        Assert.Equal(first, await Send(key));
        Assert.Empty((await server.Get($"sources/{source}/observations")).AsArray());
        Assert.NotEqual(first, await Send(Guid.NewGuid().ToString()));
        Assert.Single((await server.Get($"sources/{source}/observations")).AsArray());
    }
}
