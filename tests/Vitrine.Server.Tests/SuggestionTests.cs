using System.Net;
using System.Text.Json.Nodes;

namespace Vitrine.Server.Tests;

/// <summary>Suggestions over HTTP, in a study whose groups can be seen by eye: two tags on waiting, two on tickets, one on a seat.</summary>
public sealed class SuggestionTests : IAsyncLifetime
{
    private const string Text =
        "Sorrel: I waited at the quay in the cold. We wait at the quay every winter. The boat was late and we waited.\n\n"
        + "Interviewer: And the fare?\n\n"
        + "Sorrel: The ticket has my name. A ticket with a name cannot be shared. We share every ticket at home.\n\n"
        + "Interviewer: Anything else?\n\n"
        + "Sorrel: Green cushions.";

    private readonly TestServer server = new();
    private long study;
    private readonly Dictionary<string, long> tags = [];
    private readonly List<long> marks = [];

    public async Task InitializeAsync()
    {
        await server.SetUp();
        study = await server.Study();
        await server.Person(study, "P1", "Sorrel");
        var source = await server.Paste(study, "Talk", Text);
        foreach (
            var (words, tag) in (IEnumerable<(string, string)>)
                [
                    ("I waited at the quay in the cold.", "waiting"),
                    ("We wait at the quay every winter.", "cold quay"),
                    ("The boat was late and we waited.", "waiting"),
                    ("The ticket has my name.", "named ticket"),
                    ("A ticket with a name cannot be shared.", "sharing"),
                    ("We share every ticket at home.", "named ticket"),
                    ("Green cushions.", "seats"),
                ]
        )
            marks.Add(await server.Mark(source, Text, words, tag));
        foreach (var tag in (await server.Get($"studies/{study}/tags")).AsArray())
            tags[(string)tag!["name"]!] = (long)tag["id"]!;
    }

    public Task DisposeAsync()
    {
        server.Dispose();
        return Task.CompletedTask;
    }

    private async Task<JsonNode> Ask(string kind, object? given = null, HttpStatusCode status = HttpStatusCode.OK)
    {
        var body = JsonNode.Parse("""{"tagIds":[],"observationIds":[],"themeIds":[]}""")!.AsObject();
        body["kind"] = kind;
        foreach (var (name, value) in System.Text.Json.JsonSerializer.SerializeToNode(given ?? new { })!.AsObject().ToList())
            body[name] = value?.DeepClone();
        using var answer = await server.Http.PostAsync($"/api/studies/{study}/suggestions", Walks.Things.Json(body));
        var said = JsonNode.Parse(await answer.Content.ReadAsStringAsync())!;
        Assert.True(answer.StatusCode == status, $"{said}");
        return status == HttpStatusCode.OK ? await Shown((long)said["id"]!) : said;
    }

    private Task<JsonNode> Shown(long id) => server.Get($"suggestions/{id}");

    private static JsonNode Item(JsonNode shown, string of, long id) =>
        shown["items"]!.AsArray().Single(i => i![of] is { } found && (long)found == id)!;

    private async Task<JsonNode> Answer(JsonNode shown, string answer, params JsonNode[] items)
    {
        var id = (long)shown["head"]!["id"]!;
        await server.Post(
            $"suggestions/{id}/answers",
            new { answer, items = items.Select(i => new { suggestedItemId = (long)i["id"]!, suggestedGroupId = (long?)i["groupId"] }) }
        );
        return await Shown(id);
    }

    [Fact]
    public async Task Tags_that_stand_together_become_a_theme_with_its_words_and_what_was_refused_is_not_suggested_again()
    {
        var asked = new { tagIds = tags.Values, groups = 2 };
        var shown = await Ask("themes", asked);
        var (waiting, cold, named) = (
            Item(shown, "tagId", tags["waiting"]),
            Item(shown, "tagId", tags["cold quay"]),
            Item(shown, "tagId", tags["named ticket"])
        );
        Assert.Equal((long)waiting["groupId"]!, (long)cold["groupId"]!);
        Assert.NotEqual((long)waiting["groupId"]!, (long)named["groupId"]!);
        // What it shares, as it is said, and where it touches.
        Assert.Contains("waited", waiting["why"]!["words"]!.AsArray().Select(w => (string)w!));
        Assert.Equal((2, 2), ((int)waiting["why"]!["touching"]!, (int)waiting["why"]!["observations"]!));
        var group = shown["groups"]!.AsArray().Single(g => (long)g!["id"]! == (long)waiting["groupId"]!)!;
        Assert.Contains("quay", group["words"]!.AsArray().Select(w => (string)w!));
        Assert.Equal(3, (int)group["observations"]!);
        var told = await server.Get($"suggestions/{shown["head"]!["id"]}/told?suggestedGroupId={group["id"]}");
        Assert.Equal(3, (int)told["looked"]!);

        await server.Put($"suggested-groups/{group["id"]}/title", new { was = "", text = "People wait in the cold" });
        shown = await Answer(shown, "accepted", waiting, cold);
        var theme = (await server.Get($"studies/{study}/sorting"))["themes"]!.AsArray().Single()!["theme"]!;
        Assert.Equal("People wait in the cold", (string)theme["title"]!);
        Assert.Equal(2, theme["tagIds"]!.AsArray().Count);

        shown = await Answer(shown, "refused", named);
        var again = await Ask("themes", asked);
        Assert.Equal("refused", (string)Item(again, "tagId", tags["named ticket"])["pile"]!);
        Assert.Null(Item(again, "tagId", tags["named ticket"])["groupId"]);
        Assert.Equal(3, (int)shown["head"]!["answered"]!);
    }

    [Fact]
    public async Task Things_are_placed_by_what_themes_say_and_hold_and_it_learns_with_each_answer()
    {
        await server.Post(
            $"studies/{study}/themes",
            new
            {
                title = "Tickets",
                description = "A name on a ticket.",
                observationIds = Array.Empty<long>(),
                tagIds = Array.Empty<long>(),
            }
        );
        await server.Post(
            $"studies/{study}/themes",
            new
            {
                title = "Boats are late",
                description = "",
                observationIds = Array.Empty<long>(),
                tagIds = Array.Empty<long>(),
            }
        );
        var shown = await Ask("placing", new { observationIds = marks });
        string Pile(int mark) => (string)Item(shown, "observationId", marks[mark])["pile"]!;
        Assert.Equal(("fits", "fits", "alone", "alone"), (Pile(3), Pile(2), Pile(0), Pile(6)));
        // What lies in a theme now speaks for what is like it: the quay was not named before.
        shown = await Answer(shown, "accepted", Item(shown, "observationId", marks[2]));
        var near = Item(shown, "observationId", marks[1]);
        Assert.Equal((long)Item(shown, "observationId", marks[2])["groupId"]!, (long)near["groupId"]!);
        shown = await Answer(shown, "refused", near);
        var again = await Ask("placing", new { observationIds = new[] { marks[1] } });
        Assert.True(
            Item(again, "observationId", marks[1])["groupId"] is not { } other
                || (string)again["groups"]!.AsArray().Single(g => (long)g!["id"]! == (long)other)!["title"]! == "Tickets"
        );
        // A theme that goes takes its place with it; what was accepted there is open again.
        var late = (await server.Get($"studies/{study}/sorting"))["themes"]!
            .AsArray()
            .Single(t => (string)t!["theme"]!["title"]! == "Boats are late")!["theme"]!["id"];
        await server.Http.DeleteAsync($"/api/themes/{late}");
        shown = await Shown((long)shown["head"]!["id"]!);
        Assert.Single(shown["groups"]!.AsArray());
        Assert.Equal("open", (string)Item(shown, "observationId", marks[2])["answer"]!);
    }

    [Fact]
    public async Task A_long_theme_is_broken_into_parts_that_stand_under_it()
    {
        await server.Post(
            $"studies/{study}/themes",
            new
            {
                title = "All",
                description = "",
                observationIds = marks,
                tagIds = Array.Empty<long>(),
            }
        );
        var all = (long)(await server.Get($"studies/{study}/sorting"))["themes"]![0]!["theme"]!["id"]!;
        var shown = await Ask("parts", new { themeId = all, groups = 2 });
        Assert.Equal(marks.Count, shown["items"]!.AsArray().Count);
        var first = shown["items"]!.AsArray().First(i => (string)i!["pile"]! == "fits")!;
        await Answer(shown, "accepted", first);
        var themes = (await server.Get($"studies/{study}/sorting"))["themes"]!.AsArray();
        Assert.Equal(all, (long)themes.Single(t => (long)t!["theme"]!["id"]! != all)!["theme"]!["parentId"]!);
    }

    [Fact]
    public async Task What_cannot_be_suggested_says_why()
    {
        async Task<string> Said(string kind, object given) => (string)(await Ask(kind, given, HttpStatusCode.BadRequest))["detail"]!;
        Assert.StartsWith("Choose at least three tags", await Said("themes", new { tagIds = new[] { tags["waiting"] } }));
        Assert.StartsWith("Choose at least three tags", await Said("themes", new { }));
        Assert.StartsWith("Choose at least one", await Said("placing", new { }));
        Assert.StartsWith("Make a theme first", await Said("placing", new { observationIds = marks }));
        Assert.StartsWith("It holds too few", await Said("parts", new { observationIds = marks.Take(5) }));
        Assert.StartsWith("Ask for 2 to 20", await Said("themes", new { tagIds = tags.Values, groups = 1 }));
    }

    [Fact]
    public async Task A_theme_is_split_by_hand_and_what_is_placed_says_where_the_rest_is_near()
    {
        var theme = await server.Post(
            $"studies/{study}/themes",
            new
            {
                title = "All",
                description = "",
                observationIds = marks,
                tagIds = Array.Empty<long>(),
            }
        );
        var shown = await Ask("parts", new { themeId = (long)theme["id"]!, groups = 0 });
        Assert.Empty(shown["groups"]!.AsArray());
        Assert.All(
            shown["items"]!.AsArray(),
            i => Assert.True((string)i!["pile"]! == "fits" && i["groupId"] is null && i["nextId"] is null)
        );
        var id = (long)shown["head"]!["id"]!;
        var group = (long)(await server.Post($"suggestions/{id}/groups", new { }))["id"]!;
        await server.Post(
            $"suggestions/{id}/answers",
            new
            {
                items = new[]
                {
                    new { suggestedItemId = (long)Item(shown, "observationId", marks[0])["id"]!, suggestedGroupId = group },
                    new { suggestedItemId = (long)Item(shown, "observationId", marks[2])["id"]!, suggestedGroupId = group },
                },
                answer = "accepted",
            }
        );
        shown = await Shown(id);
        // Waiting again: near what lies there. The cushions are near nothing.
        Assert.Equal(group, (long)Item(shown, "observationId", marks[1])["nextId"]!);
        var part = (await server.Get($"studies/{study}/sorting"))["themes"]!.AsArray().Single(t => (string)t!["theme"]!["title"]! == "");
        Assert.Equal(((long)theme["id"]!, 2), ((long)part!["theme"]!["parentId"]!, (int)part["theme"]!["laid"]!));
    }
}
