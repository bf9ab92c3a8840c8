using System.Text.Json.Nodes;

namespace Vitrine.Server.Tests;

/// <summary>Other names of tags, colours that are given where a tag is named, and examples, over the wire.</summary>
public sealed class TagNamesTests : IAsyncLifetime
{
    private const string Talk = "Wren: They cancelled it. A neighbour rang me.\n\nWren: My sister rang before.";

    private readonly TestServer server = new();
    private long study;
    private long source;

    public async Task InitializeAsync()
    {
        await server.SetUp();
        study = await server.Study("Names");
        source = await server.Paste(study, "Talk", Talk);
    }

    public Task DisposeAsync()
    {
        server.Dispose();
        return Task.CompletedTask;
    }

    private static object Text(string name, params string[] aliases) =>
        new
        {
            name,
            parentId = (long?)null,
            colour = (int?)null,
            definition = "What it is.",
            settled = true,
            scale = (object?)null,
            isNot = "",
            aliases,
        };

    [Fact]
    public async Task A_mark_by_another_name_carries_the_tag_and_search_finds_it_by_that_name()
    {
        var tag = (long)(await server.Post("tags", Text("told by neighbours", "Hearsay", "hearsay ", "word of mouth")))["id"]!;
        await server.Mark(source, Talk, "A neighbour rang me.", "HEARSAY");
        var used = Assert.Single(await server.TagUses(study));
        Assert.Equal(tag, (long)used["tag"]!["id"]!);
        Assert.Equal(["Hearsay", "word of mouth"], used["tag"]!["aliases"]!.AsArray().Select(a => (string)a!));
        var hits = (await server.Get("search?typed=hearsay&kind=tag")).AsArray();
        Assert.Equal("told by neighbours", (string)Assert.Single(hits)!["name"]!);
    }

    [Fact]
    public async Task A_name_is_that_of_one_tag_and_what_is_in_the_way_is_said()
    {
        var tag = (long)(await server.Post("tags", Text("queue", "line")))["id"]!;
        Assert.Equal("There is a tag “queue” that is also called “LINE” already.", (await server.Refused("tags", Text("LINE"))).Sentence);
        Assert.Equal(
            "There is a tag “queue” already. Merge the two, or leave it out.",
            (await server.Refused("tags", Text("waiting", "Queue"))).Sentence
        );
        Assert.Equal(
            "“Waiting” is the name of this tag itself. Leave it out of the other names.",
            (await server.Refused("tags", Text("waiting", "Waiting"))).Sentence
        );
        Assert.Equal(400, (await server.Refused("tags", Text("waiting", new string('x', 81)))).Status);
        Assert.Equal(400, (await server.Refused("tags", Text("waiting", " "))).Status);
        // Left out, they stay; given as none, they go.
        await server.Put(
            $"tags/{tag}",
            new
            {
                text = new
                {
                    name = "queue",
                    parentId = (long?)null,
                    colour = 1,
                    definition = "",
                    settled = false,
                    scale = (object?)null,
                },
                version = 1,
            }
        );
        Assert.Equal(["line"], (await Tag(tag))["aliases"]!.AsArray().Select(a => (string)a!));
        await server.Put($"tags/{tag}", new { text = Text("queue"), version = 2 });
        Assert.Empty((await Tag(tag))["aliases"]!.AsArray());
    }

    private async Task<JsonNode> Tag(long id) => (await server.Get("tags")).AsArray().Single(t => (long)t!["id"]! == id)!;

    [Fact]
    public async Task A_colour_is_given_where_a_tag_is_named()
    {
        await server.Mark(source, Talk, "They cancelled it.", "hearing / called off ●3 = It will not go", "late ●13");
        var tags = (await server.Get($"studies/{study}/tags")).AsArray().ToDictionary(t => (string)t!["name"]!, t => t!);
        Assert.Equal(2, (int)tags["called off"]["colour"]!);
        Assert.Equal(("It will not go", true), ((string)tags["called off"]["definition"]!, (bool)tags["called off"]["settled"]!));
        Assert.Null(tags["hearing"]["colour"]);
        // There are twelve colours: what names no colour is a name.
        Assert.Null(tags["late ●13"]["colour"]);
    }

    [Fact]
    public async Task An_example_is_picked_and_taken_back_and_is_one_only_of_a_tag_that_the_observation_carries()
    {
        var marked = await server.Mark(source, Talk, "A neighbour rang me.", "told");
        await server.Mark(source, Talk, "My sister rang before.", "told", "other");
        var tags = (await server.Get($"studies/{study}/tags")).AsArray().ToDictionary(t => (string)t!["name"]!, t => (long)t!["id"]!);
        await server.Put($"observations/{marked}/tags/{tags["told"]}/example", new { example = true });
        Assert.Equal(["A neighbour rang me."], await Examples(tags["told"]));
        Assert.Empty(await Examples(tags["other"]));
        Assert.Equal(
            404,
            (await server.Refused($"observations/{marked}/tags/{tags["other"]}/example", new { example = true }, HttpMethod.Put)).Status
        );
        await server.Post(
            "undo",
            new
            {
                studyId = study,
                actionId = (long?)null,
                anywhere = true,
            }
        );
        Assert.Empty(await Examples(tags["told"]));
    }

    private async Task<IEnumerable<string>> Examples(long tag) =>
        (await server.Get($"studies/{study}/tags/{tag}/telling-quotes"))["examples"]!.AsArray().Select(q => (string)q!["words"]!);

    [Theory]
    [InlineData("given", "A neighbour rang me. (Wren)")]
    [InlineData("limited", null)]
    [InlineData("withdrawn", null)]
    public async Task A_codebook_is_handed_out_with_what_may_leave(string consent, string? example)
    {
        var tag = (long)(await server.Post("tags", Text("told by neighbours", "hearsay")))["id"]!;
        var wren = (long)
            (
                await server.Post(
                    $"studies/{study}/participants",
                    new
                    {
                        code = "P01",
                        pseudonym = "Wren",
                        realName = "Marnie Quill",
                    }
                )
            )["id"]!;
        var interview = await server.Paste(study, "Again", Talk + " She did.");
        await server.Put($"studies/{study}/participants/consent", new { participantIds = new[] { wren }, consent });
        var observation = await server.Mark(interview, Talk, "A neighbour rang me.", "told by neighbours");
        await server.Put($"observations/{observation}/tags/{tag}/example", new { example = true });

        var text = await File("md");
        Assert.Contains("## told by neighbours", text, StringComparison.Ordinal);
        Assert.Contains("*Also called:* hearsay", text, StringComparison.Ordinal);
        Assert.Equal(example is not null, text.Contains("A neighbour rang me. (Wren)", StringComparison.Ordinal));
        Assert.DoesNotContain("A neighbour", await File("md&quotes=false"), StringComparison.Ordinal);
        Assert.Contains(consent == "withdrawn" ? "0 observations" : "1 observation in 1 source", text, StringComparison.Ordinal);
        foreach (var format in new[] { "docx", "xlsx", "csv", "qdc" })
            Assert.NotEmpty(await File(format));
        using var refused = await server.Http.GetAsync(new Uri($"/api/studies/{study}/codebook?format=papyrus", UriKind.Relative));
        Assert.Equal(System.Net.HttpStatusCode.BadRequest, refused.StatusCode);

        async Task<string> File(string format)
        {
            using var answer = await server.Http.GetAsync(new Uri($"/api/studies/{study}/codebook?format={format}", UriKind.Relative));
            Assert.Equal(System.Net.HttpStatusCode.OK, answer.StatusCode);
            return await answer.Content.ReadAsStringAsync();
        }
    }

    [Theory]
    [InlineData("csv")]
    [InlineData("xlsx")]
    [InlineData("qdc")]
    [InlineData("docx")]
    public async Task A_codebook_that_was_handed_out_comes_in_with_nothing_new(string format)
    {
        var family = (long)(await server.Post("tags", Text("hearing of changes", "word")))["id"]!;
        await server.Post($"studies/{study}/tags", new { name = "hearing of changes / told late = After the boat." });
        var book = await server.Http.GetByteArrayAsync(new Uri($"/api/studies/{study}/codebook?format={format}", UriKind.Relative));
        var lines = await Read($"Codebook.{format}", book);
        Assert.All(await Plan(lines), p => Assert.Equal("same", (string)p!["fate"]!));
        Assert.Equal(400, (await server.Refused($"studies/{study}/codebook", new { lines })).Status);

        // It changed meanwhile in another program: what was added is added, what is there is known.
        var more = await Read("pasted.txt", System.Text.Encoding.UTF8.GetBytes("word\tHow news comes.\ntold late / in the taxi\n"));
        Assert.Equal(["changed alias", "added "], (await Plan(more)).Select(p => $"{p!["fate"]} {p["match"]}"));
        await server.Post($"studies/{study}/codebook", new { lines = more });
        var tags = (await server.Get($"studies/{study}/tags")).AsArray();
        Assert.Equal("How news comes.", (string)tags.Single(t => (long)t!["id"]! == family)!["definition"]!);
        Assert.Single(tags, t => (string)t!["name"]! == "in the taxi");

        async Task<JsonNode> Read(string name, byte[] bytes)
        {
            using var body = new ByteArrayContent(bytes);
            body.Headers.ContentType = new("application/octet-stream");
            using var answer = await server.Http.PostAsync(
                new Uri($"/api/studies/{study}/codebook/file?name={name}", UriKind.Relative),
                body
            );
            Assert.Equal(System.Net.HttpStatusCode.OK, answer.StatusCode);
            return JsonNode.Parse(await answer.Content.ReadAsStringAsync())!;
        }

        async Task<JsonArray> Plan(JsonNode given) =>
            (await server.Post($"studies/{study}/codebook/plan", new { lines = given.DeepClone() })).AsArray();
    }

    [Theory]
    [InlineData("book.qdc", "no xml", "This is no codebook in the open exchange format, or it is broken.")]
    [InlineData("book.xlsx", "no zip", "")]
    [InlineData("book.docx", "no zip", "This is no Word document, or it is broken.")]
    [InlineData("book.csv", "", "The file is empty.")]
    [InlineData("pasted.txt", "\n\t\n", "There is no line with a name in it.")]
    [InlineData("pasted.txt", "\0\uFFFD\u202E\t<script>", null)]
    public async Task A_file_that_is_no_codebook_is_refused_in_a_sentence(string name, string text, string? sentence)
    {
        using var body = new ByteArrayContent(System.Text.Encoding.UTF8.GetBytes(text));
        body.Headers.ContentType = new("application/octet-stream");
        using var answer = await server.Http.PostAsync(new Uri($"/api/studies/{study}/codebook/file?name={name}", UriKind.Relative), body);
        Assert.Equal(sentence is null ? System.Net.HttpStatusCode.OK : System.Net.HttpStatusCode.BadRequest, answer.StatusCode);
        if (sentence is not null)
            Assert.Contains(sentence, (await TestServer.SentenceOf(answer)).Sentence, StringComparison.Ordinal);
    }
}
