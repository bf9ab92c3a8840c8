using System.Net.Http.Json;
using System.Text.Json.Nodes;

namespace Vitrine.Server.Tests;

/// <summary>Several people take notes while a session runs.</summary>
public sealed class LiveNotesTests : IAsyncLifetime, IDisposable
{
    private readonly TestServer server = new();
    private long study;
    private long session;
    private long notes;

    public async Task InitializeAsync()
    {
        await server.SetUp();
        study = await server.Study();
        var wren = await server.Person(study, "P02", "Wren");
        session = (long)
            (
                await server.Post(
                    $"studies/{study}/sessions",
                    new
                    {
                        text = new
                        {
                            title = "On the quay",
                            kind = "visit",
                            heldOn = "2026-11-07",
                            minutes = (int?)null,
                            moderator = "",
                            participantIds = new[] { wren },
                        },
                        sourceIds = Array.Empty<long>(),
                    }
                )
            )["id"]!;
        notes = (long)(await server.Post($"studies/{study}/live-notes/of/{session}", new { }))["id"]!;
    }

    public Task DisposeAsync() => Task.CompletedTask;

    public void Dispose() => server.Dispose();

    private async Task<JsonNode> Notes() => (await server.Get($"studies/{study}/live-notes/of/{session}"))["notes"]!;

    private async Task<long> Line(string typed, int beginMs) =>
        (long)
            (
                await server.Post(
                    $"studies/{study}/live-notes/{notes}/lines",
                    new
                    {
                        typed,
                        beginMs,
                        endMs = beginMs + 2_000,
                    }
                )
            )["id"]!;

    private async Task<JsonNode> End() => await server.Post($"studies/{study}/live-notes/{notes}/end", new { });

    [Fact]
    public async Task Lines_of_several_people_become_a_source_whose_tagged_lines_are_observations_of_their_writers()
    {
        Assert.Equal(notes, (long)(await server.Post($"studies/{study}/live-notes/of/{session}", new { }))["id"]!);
        await server.Post(
            "tags",
            new
            {
                name = "“return” misread",
                parentId = (long?)null,
                colour = 1,
                definition = "",
                settled = true,
            }
        );
        using var nell = await server.Person("Nell", "noteTaker");
        await server.Put($"studies/{study}/members", new { accountIds = new[] { 1, 2 } });
        await Line("#queue the queue turns round", 9_000);
        (
            await nell.PostAsJsonAsync(
                $"/api/studies/{study}/live-notes/{notes}/lines",
                new
                {
                    typed = "Wren: it asks me return !",
                    beginMs = 4_000,
                    endMs = 6_000,
                }
            )
        ).EnsureSuccessStatusCode();
        (
            await nell.PostAsJsonAsync(
                $"/api/studies/{study}/live-notes/{notes}/lines",
                new
                {
                    typed = "so does the next #return-misread",
                    beginMs = 12_000,
                    endMs = 13_000,
                }
            )
        ).EnsureSuccessStatusCode();
        Assert.Equal(["Nell", "Una Kerr", "Nell"], (await Notes())["lines"]!.AsArray().Select(l => (string)l!["by"]!));

        var source = (long)(await End())["id"]!;
        var made = await server.Get($"sources/{source}");
        var text = (string)made["text"]!;
        Assert.Equal("Wren: it asks me return\n\nthe queue turns round\n\nso does the next", text);
        Assert.Equal([4_000, 9_000, 12_000], made["turns"]!.AsArray().Select(t => (int)t!["beginMs"]!));
        Assert.Equal(
            ("Notes of On the quay", "fieldNotes", "2026-11-07", session),
            (
                (string)made["line"]!["title"]!,
                (string)made["line"]!["kind"]!,
                (string)made["line"]!["heldOn"]!,
                (long)made["line"]!["sessionId"]!
            )
        );
        var observations = (await server.Get($"sources/{source}/observations")).AsArray();
        Assert.Equal(
            [("it asks me return", "Nell", true), ("the queue turns round", "Una Kerr", false), ("so does the next", "Nell", false)],
            observations.Select(o =>
                (text[(int)o!["anchor"]!["start"]!..(int)o["anchor"]!["end"]!], (string)o["createdBy"]!, (bool)o["starred"]!)
            )
        );
        var tags = (await server.TagUses(study)).ToDictionary(
            t => (string)t!["tag"]!["name"]!,
            t => (int)t!["breadth"]!["triple"]!["observations"]!
        );
        Assert.Equal((1, 1), (tags["“return” misread"], tags["queue"]));
        Assert.Equal(
            (409, true),
            (await server.Refused($"studies/{study}/live-notes/{notes}/end", new { })) is var again
                ? (again.Status, again.Sentence.Contains("already"))
                : default
        );

        await server.Post("undo", new { studyId = study, actionId = (long?)null });
        Assert.Null((string?)(await Notes())["endedAt"]);
        Assert.Equal(3, (await Notes())["lines"]!.AsArray().Count);
    }

    [Fact]
    public async Task A_line_that_comes_after_the_end_goes_to_its_place_and_moves_no_mark()
    {
        await Line("#lamp The lamp goes out.", 1_000);
        await Line("Nobody moves. !", 20_000);
        var source = (long)(await End())["id"]!;
        await Line("Three leave. #queue", 9_000);
        var text = (string)(await server.Get($"sources/{source}"))["text"]!;
        Assert.Equal("The lamp goes out.\n\nThree leave.\n\nNobody moves.", text);
        Assert.Equal(
            ["The lamp goes out.", "Three leave.", "Nobody moves."],
            (await server.Get($"sources/{source}/observations"))
                .AsArray()
                .Select(o => text[(int)o!["anchor"]!["start"]!..(int)o["anchor"]!["end"]!])
        );
        Assert.Equal([1_000, 9_000, 20_000], (await server.Get($"sources/{source}"))["turns"]!.AsArray().Select(t => (int)t!["beginMs"]!));
        Assert.False((bool)(await server.Get($"sources/{source}"))["corrected"]!);
    }

    [Fact]
    public async Task A_line_sent_twice_is_there_once_and_one_without_words_is_refused()
    {
        var key = Guid.NewGuid().ToString();
        for (var i = 0; i < 2; i++)
        {
            using var request = new HttpRequestMessage(HttpMethod.Post, $"/api/studies/{study}/live-notes/{notes}/lines")
            {
                Content = JsonContent.Create(
                    new
                    {
                        typed = "The lamp goes out.",
                        beginMs = 1,
                        endMs = 2,
                    }
                ),
            };
            request.Headers.Add("Idempotency-Key", key);
            (await server.Http.SendAsync(request)).EnsureSuccessStatusCode();
        }
        Assert.Equal(key, (string)Assert.Single((await Notes())["lines"]!.AsArray())!["key"]!);
        Assert.Equal(
            400,
            (
                await server.Refused(
                    $"studies/{study}/live-notes/{notes}/lines",
                    new
                    {
                        typed = "#queue !",
                        beginMs = 1,
                        endMs = 2,
                    }
                )
            ).Status
        );
        Assert.Equal(
            400,
            (
                await server.Refused(
                    $"studies/{study}/live-notes/{notes}/lines",
                    new
                    {
                        typed = "early",
                        beginMs = -1,
                        endMs = 2,
                    }
                )
            ).Status
        );
        Assert.Equal(
            400,
            (
                await server.Refused(
                    $"studies/{study}/live-notes/{notes}/lines",
                    new
                    {
                        typed = new string('x', 4_001),
                        beginMs = 1,
                        endMs = 2,
                    }
                )
            ).Status
        );
    }

    [Fact]
    public async Task Lines_are_mended_while_they_run_and_times_are_lined_up_afterwards()
    {
        var line = await Line("The lump goes out. #lamp", 5_000);
        await server.Put(
            $"studies/{study}/live-notes/lines/{line}/text",
            new { text = "The lamp goes out. #queue", was = "The lump goes out." }
        );
        var tags = (await Notes())["lines"]![0]!["tagIds"]!.AsArray();
        Assert.Equal(2, tags.Count);
        await TestServer.Answer(await server.Http.DeleteAsync($"/api/studies/{study}/live-notes/lines/{line}/tags/{tags[0]}"), "untag");
        Assert.Single((await Notes())["lines"]![0]!["tagIds"]!.AsArray());
        await server.Post("undo", new { studyId = study, actionId = (long?)null });
        Assert.Equal(2, (await Notes())["lines"]![0]!["tagIds"]!.AsArray().Count);
        Assert.Equal(
            409,
            (
                await server.Refused(
                    $"studies/{study}/live-notes/lines/{line}/text",
                    new { text = "Other", was = "The lump goes out." },
                    HttpMethod.Put
                )
            ).Status
        );
        var source = (long)(await End())["id"]!;
        await server.Put($"sources/{source}/offset", new { offsetMs = -2_000 });
        Assert.Equal(3_000, (int)(await server.Get($"studies/{study}/evidence/quotes?page=0"))["quotes"]![0]!["atMs"]!);
        Assert.Equal(
            409,
            (
                await server.Refused(
                    $"studies/{study}/live-notes/lines/{line}/text",
                    new { text = "Other", was = "The lamp goes out." },
                    HttpMethod.Put
                )
            ).Status
        );
        await server.Http.DeleteAsync($"/api/sources/{source}");
        Assert.Null((long?)(await Notes())["sourceId"]);
        await server.Post("undo", new { studyId = study, actionId = (long?)null });
        Assert.Equal(source, (long)(await Notes())["sourceId"]!);
    }
}
