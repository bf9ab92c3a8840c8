using System.Text;
using System.Text.Json.Nodes;

namespace Vitrine.Server.Tests;

/// <summary>The main job over the API: from a pasted interview to a published insight.</summary>
public sealed class StoryTests : IDisposable
{
    private const string Interview =
        "Interviewer: How did you hear?\n\nMarnie: I was on the quay, Marnie, I said, that's it. Rose told me.\n\nInterviewer: "
        + "And the app?\n\nMarnie: It said on time \U0001F6A2.\n\nInterviewer: And then?\n\nMarnie: Home.";

    private readonly TestServer server = new();

    public void Dispose() => server.Dispose();

    [Fact]
    public async Task From_a_pasted_interview_to_a_published_insight()
    {
        await server.SetUp();
        var study = await server.Study();
        var sorrel = await server.Person(study, "P03", "Sorrel", "Marnie Quillfeather");
        await server.Person(study, "P02", "Wren", "Rose Hollow");
        var source = await server.Paste(study, "P03", Interview);

        var speakers = (await server.Get($"sources/{source}"))["line"]!["speakers"]!.AsArray();
        Assert.Equal(sorrel, (long)speakers.Single(s => (string)s!["label"]! == "Marnie")!["participantId"]!);

        await server.Put($"sources/{source}/reading", new { furthest = 20 });
        var quay = await server.Mark(
            source,
            Interview,
            "I was on the quay, Marnie, I said, that's it. Rose told me.",
            "learnt on the quay"
        );
        await server.Mark(source, Interview, "It said on time \U0001F6A2.", "screen says otherwise", "Learnt on the Quay");

        var tags = (await server.TagUses(study));
        var learnt = tags.Single(t => (string)t!["tag"]!["name"]! == "learnt on the quay")!;
        Assert.Equal((2, 1, 1, 1), Figures(learnt["breadth"]!));

        var overlap = Assert.Single((await server.Get($"studies/{study}/overlaps?kind=sameObservation")).AsArray())!;
        Assert.Equal(1, (int)overlap["pairs"]!);
        var evidence = await server.Get(
            $"studies/{study}/evidence/quotes?page=0&tagId={learnt["tag"]!["id"]}&{TestServer.Cell(new { participantIds = new[] { sorrel } })}"
        );
        Assert.Equal(
            ["I was on the quay, Marnie, I said, that's it. Rose told me.", "It said on time \U0001F6A2."],
            evidence["quotes"]!.AsArray().Select(q => (string)q!["words"]!)
        );

        var insight = (long)
            (
                await server.Post(
                    $"studies/{study}/insights",
                    new
                    {
                        headline = "Marnie hears too late",
                        story = TestServer.Rich("As Marnie Quillfeather puts it."),
                        observationIds = new[] { quay },
                    }
                )
            )["id"]!;
        var page = await server.Get($"insights/{insight}");
        Assert.Equal("singleVoice", (string)page["facts"]!["level"]!);

        var exhibit = (long)(await server.Post("exhibits", new { question = "What did Marnie say?", summary = "" }))["id"]!;
        await server.Put($"exhibits/{exhibit}/insights", new { insightIds = new[] { insight } });
        var link = await server.Post($"exhibits/{exhibit}/links", new { });
        var token = (string)link["token"]!;

        using var reader = server.Stranger();
        // Whoever was asked and has not answered is not published; the exhibit says so.
        Assert.Empty(JsonNode.Parse(await reader.GetStringAsync($"/api/read/{token}"))!["insights"]![0]!["quotes"]!.AsArray());
        var leftOut = Assert.Single((await server.Get($"exhibits/{exhibit}"))["leftOut"]!.AsArray())!;
        Assert.Equal(("Sorrel", "asked", 1), ((string)leftOut["pseudonym"]!, (string)leftOut["consent"]!, (int)leftOut["quotes"]!));
        await server.Put($"studies/{study}/participants/consent", new { participantIds = new[] { sorrel }, consent = "given" });
        Assert.Empty((await server.Get($"exhibits/{exhibit}"))["leftOut"]!.AsArray());
        var published = await reader.GetStringAsync($"/api/read/{token}");
        Assert.Contains("Sorrel hears too late", published);
        var key = (string)JsonNode.Parse(published)!["insights"]![0]!["quotes"]![0]!["key"]!;
        var context = await reader.GetStringAsync($"/api/read/{token}/context/{key}");
        foreach (var real in new[] { "Marnie", "Quillfeather", "Rose", "Hollow", "una@", "P03" })
        {
            Assert.DoesNotContain(real, published);
            Assert.DoesNotContain(real, context);
        }
        var turns = JsonNode.Parse(context)!["turns"]!.AsArray();
        Assert.Equal(["Researcher", "Sorrel", "Researcher", "Sorrel"], turns.Select(t => (string)t!["who"]!));
        var quoted = turns[1]!;
        Assert.Equal(
            "I was on the quay, Sorrel, I said, that's it. Wren told me.",
            ((string)quoted["words"]!)[(int)quoted["quoteStart"]!..(int)quoted["quoteEnd"]!]
        );

        foreach (var consent in new[] { "limited", "withdrawn" })
        {
            await server.Put($"studies/{study}/participants/consent", new { participantIds = new[] { sorrel }, consent });
            var kept = await reader.GetStringAsync($"/api/read/{token}");
            Assert.DoesNotContain("on the quay", kept);
            Assert.Equal(404, (int)(await reader.GetAsync($"/api/read/{token}/context/{key}")).StatusCode);
        }
        await server.Put($"studies/{study}/participants/consent", new { participantIds = new[] { sorrel }, consent = "given" });
        Assert.Contains("on the quay", await reader.GetStringAsync($"/api/read/{token}"));

        await server.Put($"insights/{insight}/evidence/{page["evidence"]![0]!["id"]}", new { stance = "context" });
        Assert.DoesNotContain(key, await reader.GetStringAsync($"/api/read/{token}"));
        Assert.Equal(404, (int)(await reader.GetAsync($"/api/read/{token}/context/{key}")).StatusCode);

        await server.Put($"insights/{insight}/headline", new { text = "They hear too late", was = (string)page["insight"]!["headline"]! });
        Assert.Contains("They hear too late", await reader.GetStringAsync($"/api/read/{token}"));

        await server.Http.DeleteAsync($"/api/exhibits/{exhibit}/links/{link["step"]!["id"]}");
        Assert.Equal(404, (await TestServer.SentenceOf(await reader.GetAsync($"/api/read/{token}"))).Status);
    }

    [Fact]
    public async Task The_trail_of_an_observation_is_read_and_its_step_undone()
    {
        await server.SetUp();
        var study = await server.Study();
        var source = await server.Paste(study, "P03", Interview);
        var id = await server.Mark(source, Interview, "Home.", "home");
        Assert.Equal("Marked “Home.”", (string)(await server.Get($"trail/observation/{id}"))[0]!["label"]!);
        await server.Post("undo", new { studyId = study, actionId = (long?)null });
        Assert.Empty((await server.Get($"sources/{source}/observations")).AsArray());
        await server.Post("redo", new { studyId = study, actionId = (long?)null });
        Assert.Single((await server.Get($"sources/{source}/observations")).AsArray());
    }

    [Fact]
    public async Task Files_come_in_one_by_one_and_a_bad_one_stops_no_other()
    {
        await server.SetUp();
        var study = await server.Study();
        Assert.Equal(
            "done",
            (
                await server.Upload(study, "P03 Sorrel.txt", [.. Encoding.Unicode.GetPreamble(), .. Encoding.Unicode.GetBytes(Interview)])
            ).State
        );
        Assert.Equal(
            ("refused", "This is not a text file, whatever its name says. Save it as plain text and add it again.", null),
            await server.Upload(study, "picture.txt", [0x89, 0x50, 0, 0, 1])
        );
        Assert.Equal(
            "done",
            (
                await server.Upload(
                    study,
                    "kiosk.vtt",
                    "WEBVTT\n\n00:01.000 --> 00:02.000\n<v Linnet>Oh.\n\nbroken --> time\nlost"u8.ToArray()
                )
            ).State
        );
        Assert.Equal(["P03 Sorrel", "kiosk"], (await server.SourcesOf(study)).Select(s => (string)s!["title"]!));
    }

    private static (int Observations, int Sources, int People, int OutOf) Figures(JsonNode breadth) =>
        (
            (int)breadth["triple"]!["observations"]!,
            (int)breadth["triple"]!["sources"]!,
            (int)breadth["triple"]!["people"]!,
            (int)breadth["outOf"]!
        );
}
