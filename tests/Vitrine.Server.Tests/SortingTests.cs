using System.Text.Json.Nodes;
using Microsoft.AspNetCore.SignalR.Client;

namespace Vitrine.Server.Tests;

/// <summary>The sorting table over HTTP: what is unsorted in groups, what is new, what is moved, who has what in hand.</summary>
public sealed class SortingTests : IAsyncLifetime
{
    private const string First = "Interviewer: How?\n\nSorrel: On the quay. Nobody tells you. The lamp is out.";
    private const string Second = "Interviewer: How?\n\nWren: In the shelter. The app said on time.";

    private readonly TestServer server = new();
    private long study,
        quay,
        nobody,
        lamp,
        app;

    public async Task InitializeAsync()
    {
        await server.SetUp();
        study = await server.Study();
        await server.Person(study, "P1", "Sorrel");
        await server.Person(study, "P2", "Wren");
        var (first, second) = (await server.Paste(study, "First", First), await server.Paste(study, "Second", Second));
        app = await server.Mark(second, Second, "The app said on time.", "screens");
        quay = await server.Mark(first, First, "On the quay.", "places");
        nobody = await server.Mark(first, First, "Nobody tells you.");
        lamp = await server.Mark(first, First, "The lamp is out.", "screens", "places");
        await server.Put($"observations/{nobody}/sentiment", new { sentiment = "negative" });
    }

    public Task DisposeAsync()
    {
        server.Dispose();
        return Task.CompletedTask;
    }

    private async Task<long> Theme(string title, params long[] observationIds) =>
        (long)
            (
                await server.Post(
                    $"studies/{study}/themes",
                    new
                    {
                        title,
                        description = "",
                        observationIds,
                        tagIds = Array.Empty<long>(),
                    }
                )
            )["id"]!;

    private async Task<long[]> Ids(string query = "") =>
        [.. (await server.Get($"studies/{study}/unsorted/ids?{query}")).AsArray().Select(i => (long)i!)];

    [Theory]
    [InlineData("person", "3 1")]
    [InlineData("source", "3 1")]
    [InlineData("tag", "2 1 1")]
    [InlineData("sentiment", "1 3")]
    [InlineData("nothing", "")]
    public async Task What_is_unsorted_stands_in_groups_whose_sizes_are_told(string by, string sizes)
    {
        var page = await server.Get($"studies/{study}/unsorted?page=0&groupBy={by}");
        Assert.Equal(sizes, string.Join(' ', page["groups"]!.AsArray().Select(g => (int)g!["observations"]!)));
        // The pages and the ids come in the same order, and nothing is left out of either.
        var ids = await Ids($"groupBy={by}");
        Assert.Equal(page["quotes"]!.AsArray().Select(q => (long)q!["observationId"]!), ids);
        Assert.Equal([app, quay, nobody, lamp], ids.Order());
        if (by == "sentiment")
            Assert.Equal((nobody, "negative"), (ids[0], (string)page["groups"]![0]!["sentiment"]!));
        if (by == "nothing")
            Assert.Equal([lamp, nobody, quay, app], ids);
    }

    [Fact]
    public async Task Words_and_what_was_left_out_narrow_the_ids_too()
    {
        Assert.Equal([lamp], await Ids("words=LAMP"));
        await server.Put($"studies/{study}/left-out", new { observationIds = new[] { quay }, leftOut = true });
        Assert.Equal([quay], await Ids("leftOut=true"));
        Assert.Equal(400, (await server.Refused($"studies/{study}/unsorted/ids?groupBy=weather", new { }, HttpMethod.Get)).Status);
    }

    [Fact]
    public async Task More_than_goes_in_one_step_is_refused_in_words_that_say_so()
    {
        var many = Enumerable.Repeat(quay, 10_001).ToArray();
        var (status, sentence) = await server.Refused(
            $"studies/{study}/left-out",
            new { observationIds = many, leftOut = true },
            HttpMethod.Put
        );
        Assert.Equal((400, "These are 10,001; 10,000 go in one step. Choose fewer, such as what a filter shows."), (status, sentence));
        Assert.Empty(await Ids("leftOut=true"));
    }

    [Fact]
    public async Task What_came_since_ones_last_look_is_counted_and_marked_for_oneself_alone()
    {
        var theme = await Theme("Told too late", quay);
        var screens = (long)(await server.TagUses(study)).Single(t => (string)t["tag"]!["name"]! == "screens")["tag"]!["id"]!;
        await server.Post($"themes/{theme}/put", new { observationIds = Array.Empty<long>(), tagIds = new[] { screens } });
        // Who has never looked is told nothing of what is new.
        Assert.Null((await Table())["lookedAt"]);
        Assert.Equal(0, New(await Table()));
        await server.Put($"studies/{study}/sorting/looked", new { });
        var tom = await server.Person("Tom", "researcher");
        await server.Put($"studies/{study}/members", new { accountIds = new[] { 1, (long)(await Of(tom, "me"))["account"]!["id"]! } });
        await server.Post($"themes/{theme}/put", new { observationIds = new[] { nobody }, tagIds = Array.Empty<long>() });
        // One's own hand brings nothing new; what a tag brings is, whoever gave it.
        Assert.Equal(0, New(await Table()));
        var second = (long)(await server.SourcesOf(study)).Single(s => (string)s!["title"]! == "Second")!["id"]!;
        var shelter = await server.Mark(second, Second, "In the shelter.", "screens");
        var table = await Table();
        Assert.Equal((1, 0), (New(table), (int)table["newUnsorted"]!));
        var pieces = (await server.Get($"themes/{theme}/pieces?page=0"))["quotes"]!.AsArray();
        Assert.Equal([shelter], pieces.Where(p => (bool)p!["isNew"]!).Select(p => (long)p!["quote"]!["observationId"]!));
        Assert.Equal(0, New(await Of(tom, $"studies/{study}/sorting")));
        await server.Put($"studies/{study}/sorting/looked", new { });
        Assert.Equal(0, New(await Table()));
    }

    private Task<JsonNode> Table() => server.Get($"studies/{study}/sorting");

    private static async Task<JsonNode> Of(HttpClient who, string path) => JsonNode.Parse(await who.GetStringAsync($"/api/{path}"))!;

    private static int New(JsonNode table) => table["themes"]!.AsArray().Sum(t => (int)t!["newSince"]!);

    [Fact]
    public async Task Pieces_are_moved_with_their_stance_in_one_step()
    {
        var (from, into) = (await Theme("From", quay, lamp), await Theme("Into", lamp));
        await server.Put($"themes/{from}/stance", new { observationIds = new[] { quay }, stance = "contradicts" });
        object Moved(long observationId) => new { themeId = from, observationId };
        var step = await server.Post(
            $"themes/{into}/put",
            new
            {
                observationIds = new[] { quay, lamp, app },
                tagIds = Array.Empty<long>(),
                from = new[] { Moved(quay), Moved(lamp) },
            }
        );
        async Task<string> Pieces(long theme) =>
            string.Join(
                ' ',
                (await server.Get($"themes/{theme}/pieces?page=0&beside=true"))["quotes"]!
                    .AsArray()
                    .Select(p => $"{p!["stance"]}:{p["quote"]!["observationId"]}")
                    .Order(StringComparer.Ordinal)
            );
        Assert.Equal("", await Pieces(from));
        Assert.Equal($"contradicts:{quay} supports:{app} supports:{lamp}", await Pieces(into));
        await server.Post("undo", new { studyId = study, actionId = (long)step["actionId"]! });
        Assert.Equal($"contradicts:{quay} supports:{lamp}", await Pieces(from));
        Assert.Equal($"supports:{lamp}", await Pieces(into));
    }

    [Fact]
    public async Task Who_was_not_heard_is_told_with_the_numbers_and_with_what_to_ask()
    {
        var home = (long)(await server.Post($"studies/{study}/attributes", new { name = "home", kind = "choice" }))["id"]!;
        var teal = await server.Person(study, "P3", "Teal");
        var (sorrel, wren) = (await Person("Sorrel"), await Person("Wren"));
        foreach (var (person, value) in new[] { (sorrel, "Tarra"), (wren, "Tarra"), (teal, "Holm") })
            await server.Put(
                $"studies/{study}/participants/cells",
                new
                {
                    cells = new[]
                    {
                        new
                        {
                            participantId = person,
                            column = "attribute",
                            attributeId = home,
                            value,
                        },
                    },
                }
            );
        var (one, both) = (await Theme("One voice", quay, nobody), await Theme("Both", app, lamp));
        var next = await server.Get($"studies/{study}/who-next");
        Assert.Equal((2, 3), ((int)next["heard"]!, (int)next["people"]!));
        var group = Assert.Single(next["groups"]!.AsArray())!;
        Assert.Equal(("Holm", 1, 0), ((string)group["values"]![0]!["value"]!, (int)group["people"]!, (int)group["heard"]!));
        Assert.Equal([teal], group["notHeardIds"]!.AsArray().Select(p => (long)p!));
        Assert.Equal([both, one], group["askAboutIds"]!.AsArray().Select(t => (long)t!));
        var voice = Assert.Single(next["oneVoices"]!.AsArray())!;
        Assert.Equal((one, sorrel, 2), ((long)voice["themeId"]!, (long)voice["participantId"]!, (int)voice["observations"]!));
        Assert.Equal([2, 0], next["sessions"]!.AsArray().Select(s => s!["newTagIds"]!.AsArray().Count));
        Assert.Null(next["lastRun"]);
        // Of one theme alone, the other is among the silent.
        var ofOne = await server.Get($"studies/{study}/who-next?themeId={one}");
        Assert.Equal((1, 2), ((int)ofOne["heard"]!, ofOne["groups"]!.AsArray().Count));
        Assert.Empty((await server.Get($"studies/{await server.Study("Empty")}/who-next"))["groups"]!.AsArray());
        Assert.Equal(404, (await server.Refused($"studies/{study}/who-next?themeId=999", new { }, HttpMethod.Get)).Status);

        async Task<long> Person(string pseudonym) =>
            (long)(await server.PeopleOf(study)).Single(p => (string)p!["pseudonym"]! == pseudonym)!["id"]!;
    }

    [Fact]
    public async Task Others_in_the_study_see_by_ids_what_one_has_in_hand()
    {
        var tom = await server.Person("Tom", "researcher");
        await server.Put($"studies/{study}/members", new { accountIds = new[] { 1, (long)(await Of(tom, "me"))["account"]!["id"]! } });
        await using var line = server.Line(tom);
        await using var ida = server.Line(server.Http);
        var heard = new TaskCompletionSource<long[]>();
        line.On<JsonNode>(
            "present",
            people =>
            {
                if (people.AsArray().SelectMany(p => p!["inHand"]!.AsArray()).Select(i => (long)i!).ToArray() is { Length: > 0 } held)
                    heard.TrySetResult(held);
            }
        );
        await line.StartAsync();
        await ida.StartAsync();
        await line.InvokeAsync("Open", study);
        // Without a study open, nobody is told.
        await ida.InvokeAsync("Hold", new[] { app });
        await ida.InvokeAsync("Open", study);
        await ida.InvokeAsync("Hold", new[] { quay, lamp });
        Assert.Equal([quay, lamp], await heard.Task.WaitAsync(TimeSpan.FromSeconds(20)));
    }
}
