using System.Text.Json.Nodes;

namespace Vitrine.Server.Tests;

/// <summary>A transcript turns out wrong: its text is corrected, and what was marked in it stays on its words.</summary>
public sealed class CorrectionTests : IAsyncLifetime, IDisposable
{
    private const string Talk =
        "Una: How did you hear?\n\nWren: I herd it on the quay at noon. Nobody tolled us befor.\n\nUna: And then?\n\nWren: We "
        + "waited in the rain.";

    private readonly TestServer server = new();
    private long study;
    private long source;

    public async Task InitializeAsync()
    {
        await server.SetUp();
        study = await server.Study();
        await server.Person(study, "P02", "Wren");
        source = await server.Paste(study, "Wren", Talk);
    }

    public Task DisposeAsync() => Task.CompletedTask;

    public void Dispose() => server.Dispose();

    private async Task<JsonNode> Source() => await server.Get($"sources/{source}");

    private async Task<JsonNode> Correct(string text) =>
        await server.Put($"sources/{source}/text", new { text, basedOn = (string)(await Source())["textHash"]! });

    private async Task<IReadOnlyList<string>> Words()
    {
        var text = (string)(await Source())["text"]!;
        return
        [
            .. (await server.Get($"sources/{source}/observations"))
                .AsArray()
                .Select(o => text[(int)o!["anchor"]!["start"]!..(int)o["anchor"]!["end"]!]),
        ];
    }

    private async Task<JsonArray> ToLookAt() => (await server.Get($"studies/{study}/to-look-at")).AsArray();

    [Fact]
    public async Task Observations_follow_their_words_and_undo_restores_both()
    {
        await server.Mark(source, Talk, "I herd it", "hears late");
        await server.Mark(source, Talk, "on the quay", "quay");
        var gone = await server.Mark(source, Talk, "Nobody tolled us befor.", "not told");
        await server.Mark(source, Talk, "We waited in the rain", "waits");
        var text =
            "Una: How did you come to hear?\n\nWren: I heard it on the quay at noon.\n\nUna: And then?\n\nUna: What did you "
            + "do?\n\nWren: We waited in the rain.";

        var preview = await server.Post($"sources/{source}/correction-preview", new { text, basedOn = "" });
        Assert.Equal(
            (2, "changed gone"),
            ((int)preview["same"]!, string.Join(' ', preview["others"]!.AsArray().Select(o => (string)o!["fate"]!)))
        );
        Assert.Equal(Talk, (string)(await Source())["text"]!);

        var step = await Correct(text);
        Assert.Equal("Corrected the text of “Wren”", (string)step["label"]!);
        Assert.Equal(["I heard it", "on the quay", "noon", "We waited in the rain"], await Words());
        var now = await Source();
        Assert.Equal(5, now["turns"]!.AsArray().Count);
        Assert.True((bool)now["corrected"]!);
        Assert.Equal(Talk, (string)(await server.Get($"sources/{source}/first-text"))["text"]!);

        var looks = await ToLookAt();
        Assert.Equal(
            [("I herd it", "I heard it", false), ("Nobody tolled us befor.", "noon", true)],
            looks.Select(l => ((string)l!["oldWords"]!, (string)l["newWords"]!, (bool)l["gone"]!))
        );
        var quotes = (await server.Get($"studies/{study}/evidence/quotes?page=0"))["quotes"]!.AsArray().Select(q => (string)q!["words"]!);
        Assert.Contains("Nobody tolled us befor.", quotes);
        Assert.Single((await server.Get("search?typed=tolled&kind=observation")).AsArray());
        Assert.Single((await server.Get("search?typed=%22I+heard+it%22&kind=observation")).AsArray());

        await server.Post("undo", new { studyId = study, actionId = (long?)null });
        Assert.Equal(Talk, (string)(await Source())["text"]!);
        Assert.Equal(["I herd it", "on the quay", "Nobody tolled us befor.", "We waited in the rain"], await Words());
        Assert.Empty(await ToLookAt());
        Assert.Single((await server.Get("search?typed=%22I+herd+it%22&kind=observation")).AsArray());

        await server.Post("redo", new { studyId = study });
        await server.Post(
            $"studies/{study}/to-look-at/settle",
            new { observationIds = (await ToLookAt()).Select(l => (long)l!["observationId"]!) }
        );
        Assert.Equal(gone, (long)Assert.Single(await ToLookAt())!["observationId"]!);
        await server.Put(
            $"observations/{gone}/anchor",
            new
            {
                anchor = new
                {
                    kind = "text",
                    start = text.IndexOf("noon", StringComparison.Ordinal),
                    end = text.IndexOf("noon", StringComparison.Ordinal) + 4,
                },
            }
        );
        Assert.Empty(await ToLookAt());
    }

    [Fact]
    public async Task A_second_correction_keeps_the_words_that_were_marked_and_finds_them_again()
    {
        await server.Mark(source, Talk, "I herd it", "hears late");
        await Correct(Talk.Replace("I herd it", "I hurt it"));
        await Correct(Talk.Replace("I herd it", "I heard it"));
        Assert.Equal("I herd it", (string)Assert.Single(await ToLookAt())!["oldWords"]!);
        await Correct(Talk);
        Assert.Empty(await ToLookAt());
        Assert.Equal(["I herd it"], await Words());
    }

    [Fact]
    public async Task Words_are_corrected_in_place_and_two_people_do_not_overwrite_each_other()
    {
        var seen = (string)(await Source())["textHash"]!;
        var at = Talk.IndexOf("herd", StringComparison.Ordinal);
        await server.Put(
            $"sources/{source}/words",
            new
            {
                start = at,
                end = at + 4,
                words = "heard",
                basedOn = seen,
            }
        );
        Assert.Contains("I heard it", (string)(await Source())["text"]!);
        var (status, sentence) = await server.Refused(
            $"sources/{source}/words",
            new
            {
                start = at,
                end = at + 4,
                words = "hurt",
                basedOn = seen,
            },
            HttpMethod.Put
        );
        Assert.Equal(409, status);
        Assert.Contains("What you wrote is still here", sentence);
        Assert.Equal(
            409,
            (await server.Refused($"sources/{source}/text", new { text = "All new words.", basedOn = seen }, HttpMethod.Put)).Status
        );
        Assert.Equal(400, (await server.Refused($"sources/{source}/text", new { text = " \n", basedOn = seen }, HttpMethod.Put)).Status);
    }

    [Fact]
    public async Task A_document_keeps_its_headings_and_takes_up_new_paragraphs()
    {
        var (_, _, document) = await server.Upload(
            study,
            "notice.md",
            "# Delays\n\nWe put it on the bord.\n\n- at the head\n- at the hut"u8.ToArray()
        );
        source = document!.Value;
        var text = (string)(await Source())["text"]!;
        await Correct(text.Replace("bord.", "board.\n\nAnd in the app."));
        var now = await Source();
        var corrected = (string)now["text"]!;
        var blocks = now["shape"]!["blocks"]!
            .AsArray()
            .Select(b => ((string)b!["kind"]!, corrected[(int)b["words"]!["start"]!..(int)b["words"]!["end"]!]))
            .ToList();
        Assert.Equal(
            [
                ("heading", "Delays"),
                ("paragraph", "We put it on the board."),
                ("paragraph", "And in the app."),
                ("listItem", "at the head"),
                ("listItem", "at the hut"),
            ],
            blocks
        );
        Assert.Equal(
            corrected.Where(c => !char.IsWhiteSpace(c)),
            now["turns"]!.AsArray().SelectMany(t => corrected[(int)t!["start"]!..(int)t["end"]!]).Where(c => !char.IsWhiteSpace(c))
        );
    }
}
