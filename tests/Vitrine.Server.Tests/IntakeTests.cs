using System.Net.Http.Headers;
using System.Net.Http.Json;
using System.Text;
using System.Text.Json.Nodes;

namespace Vitrine.Server.Tests;

/// <summary>Feedback arrives by all ways, is routed by watches, and is kept or dismissed.</summary>
public sealed class IntakeTests : IAsyncLifetime, IDisposable
{
    private readonly TestServer server = new();
    private long study;

    public async Task InitializeAsync()
    {
        await server.SetUp();
        study = await server.Study();
    }

    public Task DisposeAsync() => Task.CompletedTask;

    public void Dispose() => server.Dispose();

    private static object Rule(
        string[] words,
        bool allWords = false,
        string sender = "",
        double? ratingFrom = null,
        double? ratingTo = null,
        long? channelId = null
    ) =>
        new
        {
            words,
            allWords,
            sender,
            ratingFrom,
            ratingTo,
            channelId,
        };

    private Task<JsonNode> Watch(string name, object rule, bool alsoPast = false, long? of = null) =>
        server.Post(
            $"studies/{of ?? study}/watches",
            new
            {
                name,
                rule,
                alsoPast,
            }
        );

    private async Task<JsonArray> Items() => (await server.Get("intake?view=all&page=0"))["feedback"]!.AsArray();

    private async Task<HttpResponseMessage> Send(string token, object body)
    {
        using var http = server.Host.CreateClient();
        http.DefaultRequestHeaders.Authorization = new AuthenticationHeaderValue("Bearer", token);
        return await http.PostAsJsonAsync("/api/intake/items", body);
    }

    private async Task<JsonNode> File(string name, string content) =>
        JsonNode.Parse(
            await (
                await server.Http.PostAsync($"/api/intake/files?name={name}", new ByteArrayContent(Encoding.UTF8.GetBytes(content)))
            ).Content.ReadAsStringAsync()
        )!;

    [Fact]
    public async Task Other_programs_send_with_a_token_and_each_piece_is_here_once()
    {
        var token = (string)(await server.Post("intake/channels", new { name = "App reviews" }))["token"]!;
        await Watch("Cancellations", Rule(["cancel"]));
        for (var i = 0; i < 2; i++)
            Assert.Equal(
                i == 0 ? 1 : 0,
                (int)
                    JsonNode.Parse(
                        await (
                            await Send(
                                token,
                                new
                                {
                                    text = "It was cancelled again.",
                                    id = "r1",
                                    sender = "Wren",
                                    rating = 2,
                                }
                            )
                        ).Content.ReadAsStringAsync()
                    )!["added"]!
            );
        await Send(token, new { text = "It was cancelled again." });
        await Send(token, new { text = "It was cancelled again." });
        Assert.Equal(2, (await Items()).Count);
        Assert.Equal(404, (int)(await Send("wrong", new { text = "x" })).StatusCode);
        Assert.Equal(400, (int)(await Send(token, new { text = " " })).StatusCode);
        Assert.Equal(400, (int)(await Send(token, new { text = new string('x', 100_001) })).StatusCode);
        var channel = (await server.Get("intake/channels")).AsArray().Single()!;
        await server.Post($"intake/channels/{channel["id"]}/end", new { });
        Assert.Equal(404, (int)(await Send(token, new { text = "after" })).StatusCode);
        Assert.Equal(2, (int)(await server.Get("intake/channels"))[0]!["items"]!);
    }

    [Fact]
    public async Task A_watch_routes_by_stems_and_says_what_it_met()
    {
        await Watch("Cancellations", Rule(["cancel", "told in time"]));
        await Watch("Low ratings", Rule([], ratingTo: 2));
        var other = await server.Study("Other");
        await Watch("Tickets", Rule(["ticket"]), of: other);
        Assert.Equal(8, (int)(await server.Post("intake/simulated/next?count=8", new { }))["added"]!);
        var routed = (await Items())
            .SelectMany(i =>
                i!["routings"]!
                    .AsArray()
                    .Select(r =>
                        (Title: (string)i["title"]!, Watch: (string)r!["watchName"]!, Met: (string)r["met"]!, Study: (long)r["studyId"]!)
                    )
            )
            .ToList();
        Assert.Contains(("Told in the car park", "Cancellations, Low ratings", "“cancelled”; rated 1", study), routed);
        Assert.Contains(("", "Cancellations", "“cancelling”", study), routed);
        Assert.Contains(("The named ticket", "Tickets", "“ticket”", other), routed);
        Assert.DoesNotContain(routed, r => r.Title == "Good views");
    }

    [Fact]
    public async Task A_watch_is_tried_on_what_has_arrived_and_may_take_it_along()
    {
        await server.Post("intake/simulated/next?count=8", new { });
        Assert.Equal(2, (await server.Post("intake/try", Rule(["cancel"]))).AsArray().Count);
        Assert.All(await Items(), i => Assert.Empty(i!["routings"]!.AsArray()));
        await Watch("Cancellations", Rule(["cancel"]), alsoPast: true);
        Assert.Equal(2, (await Items()).Count(i => i!["routings"]!.AsArray().Count == 1));
        await server.Post("undo", new { studyId = study, actionId = (long?)null });
        Assert.All(await Items(), i => Assert.Empty(i!["routings"]!.AsArray()));
        Assert.Empty((await server.Get("intake/watches")).AsArray());
        Assert.Equal(
            400,
            (
                await server.Refused(
                    $"studies/{study}/watches",
                    new
                    {
                        name = "All",
                        rule = Rule([" "]),
                        alsoPast = false,
                    }
                )
            ).Status
        );
        Assert.Equal(
            400,
            (
                await server.Refused(
                    $"studies/{study}/watches",
                    new
                    {
                        name = "Odd",
                        rule = Rule([], ratingFrom: 4, ratingTo: 2),
                        alsoPast = false,
                    }
                )
            ).Status
        );
    }

    [Fact]
    public async Task What_is_kept_becomes_a_source_what_is_dismissed_does_not_and_both_can_be_undone()
    {
        await server.Post("intake/simulated/next?count=3", new { });
        var items = await Items();
        foreach (var item in items)
            await server.Post($"studies/{study}/feedback/{item!["id"]}", new { });
        var routings = (await Items()).Select(i => (long)i!["routings"]![0]!["id"]!).ToArray();
        await server.Post($"studies/{study}/routings", new { routingIds = routings[..2], state = "kept" });
        await server.Post($"studies/{study}/routings", new { routingIds = routings[2..], state = "dismissed" });
        var source = (await server.SourcesOf(study));
        Assert.Equal(["feedback", "feedback"], source.Select(s => (string)s!["kind"]!));
        Assert.Equal("2026-11-05", (string)source[0]!["heldOn"]!);
        Assert.Equal(
            409,
            (await server.Refused($"studies/{study}/routings", new { routingIds = routings[..1], state = "dismissed" })).Status
        );
        await server.Post("undo", new { studyId = study, actionId = (long?)null });
        await server.Post("undo", new { studyId = study, actionId = (long?)null });
        Assert.Empty((await server.SourcesOf(study)));
        Assert.All(await Items(), i => Assert.Equal("waiting", (string)i!["routings"]![0]!["state"]!));
        await server.Post("redo", new { studyId = study });
        var kept = (await server.SourcesOf(study));
        await server.Http.DeleteAsync($"/api/sources/{kept[0]!["id"]}");
        Assert.Equal(["dismissed", "kept", "waiting"], (await Items()).Select(i => (string)i!["routings"]![0]!["state"]!).Order());
    }

    [Fact]
    public async Task The_latest_step_is_undone_wherever_it_was_made_and_it_is_said_where()
    {
        await server.Post("intake/simulated/next?count=1", new { });
        await server.Post($"studies/{study}/feedback/{(await Items())[0]!["id"]}", new { });
        var routing = (long)(await Items())[0]!["routings"]![0]!["id"]!;
        await server.Post($"studies/{study}/routings", new { routingIds = new[] { routing }, state = "dismissed" });
        var other = await server.Study("Another study");
        var tag = new
        {
            name = "queue",
            parentId = (long?)null,
            colour = (int?)null,
            definition = "",
            settled = false,
            scale = (object?)null,
        };
        await server.Post("tags", tag);
        async Task<string> Reverse(string which, long? from) =>
            (string)
                (
                    await server.Post(
                        which,
                        new
                        {
                            studyId = from,
                            actionId = (long?)null,
                            anywhere = true,
                        }
                    )
                )["label"]!;
        Assert.EndsWith("“queue”, outside studies", await Reverse("undo", study));
        Assert.EndsWith("“Another study”", await Reverse("undo", null));
        Assert.EndsWith("in “Boarding”", await Reverse("undo", null));
        Assert.Equal("waiting", (string)(await Items())[0]!["routings"]![0]!["state"]!);
        Assert.DoesNotContain(" in “", await Reverse("redo", study));
        Assert.Equal("dismissed", (string)(await Items())[0]!["routings"]![0]!["state"]!);

        // The history of the study tells both, by one person, and none of another source.
        var history = (await server.Get($"studies/{study}/history?page=0")).AsArray();
        Assert.Contains(history, e => ((string)e!["label"]!).StartsWith("Redid: ", StringComparison.Ordinal));
        Assert.Equal(history.Count, (await server.Get($"studies/{study}/history?page=0&by=1")).AsArray().Count);
        Assert.Empty((await server.Get($"studies/{study}/history?page=0&until=2020-01-01T00:00:00Z")).AsArray());
        Assert.Empty((await server.Get($"studies/{study}/history?page=1")).AsArray());
    }

    [Fact]
    public async Task Kept_feedback_carries_its_channel_rating_and_sender()
    {
        var token = (string)(await server.Post("intake/channels", new { name = "App reviews" }))["token"]!;
        await Watch("Late", Rule(["late"]));
        foreach (var (id, sender) in new[] { ("a", "Fern Ash"), ("b", "fern ash"), ("c", ""), ("d", "Moss") })
            await Send(
                token,
                new
                {
                    text = $"It was late, {id}.",
                    id,
                    sender,
                    rating = 2,
                }
            );
        foreach (var item in (await Items()).Reverse().ToList())
            await server.Post(
                $"studies/{study}/routings",
                new
                {
                    routingIds = new[] { (long)item!["routings"]![0]!["id"]! },
                    state = "kept",
                    senderTakesPart = !((string)item["text"]!).Contains(", d"),
                }
            );
        var sources = (await server.SourcesOf(study));
        Assert.All(sources, s => Assert.Equal(("App reviews", 2.0), ((string)s!["channel"]!, (double)s["rating"]!)));
        // One person sent two; one piece has no sender; of one the sender was not wanted.
        var people = (await server.PeopleOf(study));
        var fern = Assert.Single(people, p => (string?)p!["realName"] == "Fern Ash")!;
        Assert.Equal("Sender " + (string)fern["code"]!, (string)fern["pseudonym"]!);
        Assert.DoesNotContain(people, p => (string?)p!["realName"] == "Moss");
        Assert.Equal(
            [1, 1, 0, 0],
            sources.OrderBy(s => (string)s!["title"]!, StringComparer.Ordinal).Select(s => s!["peopleIds"]!.AsArray().Count)
        );
        await server.Post("undo", new { studyId = study, actionId = (long?)null });
        Assert.Equal(3, (await server.SourcesOf(study)).Count);
    }

    [Fact]
    public async Task Feedback_comes_in_pages_by_what_became_of_it_and_by_its_words()
    {
        var token = (string)(await server.Post("intake/channels", new { name = "App reviews" }))["token"]!;
        var other = await server.Study("Other");
        await Watch("Late boats", Rule(["late"]));
        await Watch("Late, here too", Rule(["late"]), of: other);
        for (var i = 0; i < 103; i++)
            await Send(
                token,
                new
                {
                    text = i < 3 ? $"Te\u0301le\u0301phone {i}" : $"Late boat {i}",
                    sender = "Wren",
                    at = new DateTimeOffset(2026, 11, 1, 0, 0, 0, TimeSpan.Zero).AddMinutes(i),
                }
            );
        async Task<(int Total, string First, int On)> Page(string query)
        {
            var page = await server.Get($"intake?{query}");
            var pieces = page["feedback"]!.AsArray();
            return ((int)page["total"]!, pieces.Count == 0 ? "" : (string)pieces[0]!["text"]!, pieces.Count);
        }
        Assert.Equal((103, "Late boat 102", 100), await Page("view=all&page=0"));
        Assert.Equal((103, "T\u00e9l\u00e9phone 2", 3), await Page("view=all&page=1"));
        Assert.Equal((3, "T\u00e9l\u00e9phone 2", 3), await Page("view=nowhere&page=0"));
        Assert.Equal((100, "", 0), await Page($"view=all&studyId={study}&page=1"));
        Assert.Equal((3, "T\u00e9l\u00e9phone 2", 3), await Page("view=all&words=wren TELE&page=0"));
        var first = (await Items())[0]!["routings"]!.AsArray().Single(r => (long)r!["studyId"]! == study)!;
        await server.Post($"studies/{study}/routings", new { routingIds = new[] { (long)first["id"]! }, state = "kept" });
        Assert.Equal((99, "Late boat 101", 99), await Page($"view=waiting&studyId={study}&page=0"));
        Assert.Equal((100, "Late boat 102", 100), await Page("view=waiting&page=0"));
        Assert.Equal((1, "Late boat 102", 1), await Page("view=kept&page=0"));
        Assert.Equal((0, "", 0), await Page($"view=kept&studyId={other}&page=0"));
        Assert.Equal(
            """{"waiting":100,"kept":1,"dismissed":0,"nowhere":3,"all":103}""",
            (await server.Get("intake?view=kept&page=0"))["counts"]!.ToJsonString()
        );
        foreach (var wrong in new[] { "view=lost&page=0", "view=all&page=-1" })
            Assert.Equal(400, (int)(await server.Http.GetAsync($"/api/intake?{wrong}")).StatusCode);
    }

    [Fact]
    public async Task Feed_and_mail_files_come_in_and_what_cannot_be_read_says_so()
    {
        const string feed =
            "<rss version=\"2.0\"><channel><title>t</title><link>http://a.example/</link><description>d</description>"
            + "<item><guid>1</guid><title>Late</title><description>Told &lt;b&gt;too&lt;/b&gt; late</description></item></channel></rss>";
        Assert.Equal(1, (int)(await File("reviews.xml", feed))["added"]!);
        Assert.Equal(1, (int)(await File("reviews.xml", feed))["known"]!);
        Assert.Equal(1, (int)(await File("letter.eml", "From: Wren <wren@quay.example>\r\nSubject: Boats\r\n\r\nNo boat."))["added"]!);
        Assert.Equal(["Boats", "Late"], (await Items()).Select(i => (string)i!["title"]!).Order());
        foreach (var (name, content) in new[] { ("x.xml", "words"), ("x.eml", ""), ("x.eml", "words"), ("x.png", "<rss/>") })
            Assert.NotNull((await File(name, content))["detail"]);
    }

    [Fact]
    public async Task A_script_in_a_name_stays_words()
    {
        var token = (string)(await server.Post("intake/channels", new { name = "<script>alert(1)</script>" }))["token"]!;
        await Send(token, new { text = "<script>alert(1)</script> cancelled", sender = "<b>Wren</b>" });
        Assert.Equal("<script>alert(1)</script> cancelled", (string)(await Items())[0]!["text"]!);
    }
}
