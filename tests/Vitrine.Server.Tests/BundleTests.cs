using System.Net;
using System.Net.Http.Json;
using System.Text.Json.Nodes;

namespace Vitrine.Server.Tests;

/// <summary>Bundles over the wire: wherever a tag's id is asked for, and nowhere where a tag is given to something.</summary>
public sealed class BundleTests : IAsyncLifetime
{
    private const string Talk = "Wren: They cancelled it. A neighbour rang me. I waited on the quay.\n\nSorrel: My sister rang before.";

    private readonly TestServer server = new();
    private long study;
    private long source;
    private Dictionary<string, long> tags = [];
    private long bundle;

    public async Task InitializeAsync()
    {
        await server.SetUp();
        study = await server.Study("Bundles");
        source = await server.Paste(study, "Talk", Talk);
        await server.Mark(source, Talk, "A neighbour rang me.", "rung up", "told");
        await server.Mark(source, Talk, "My sister rang before.", "rung up");
        await server.Mark(source, Talk, "I waited on the quay.", "waits");
        await server.Mark(source, Talk, "They cancelled it.", "told / by a notice");
        await Known();
        bundle = await Made("By people", "rung up", "told");
        await Known();
    }

    public Task DisposeAsync()
    {
        server.Dispose();
        return Task.CompletedTask;
    }

    private async Task Known() =>
        tags = (await server.Get($"studies/{study}/tags")).AsArray().ToDictionary(t => (string)t!["name"]!, t => (long)t!["id"]!);

    private async Task<long> Made(string name, params string[] names) =>
        (long)(await server.Post($"studies/{study}/tags/bundles", new { name, tagIds = names.Select(n => tags[n]) }))["id"]!;

    private async Task<JsonNode> Counted(long tag) =>
        (await server.Get($"studies/{study}/tag-counts")).AsArray().Single(c => (long)c!["tagId"]! == tag)!;

    /// <summary>Common practice, no source: a cell that says four opens exactly four passages, by a list as by a tag.</summary>
    [Fact]
    public async Task Every_number_of_a_bundle_opens_just_what_it_counts()
    {
        // "told" with the tag under it, and "rung up"; the one with both counts once.
        Assert.Equal(3, (int)(await Counted(bundle))["breadth"]!["triple"]!["observations"]!);
        Assert.Equal(3, (await server.Get($"studies/{study}/evidence?tagId={bundle}"))["observationIds"]!.AsArray().Count);
        var page = await server.Get($"studies/{study}/tags/{bundle}/page");
        Assert.Equal(3, (int)page["breadth"]!["triple"]!["observations"]!);
        // Its own tags stand not beside it.
        Assert.Empty(page["beside"]!.AsArray());
        var table = await server.Get($"studies/{study}/table?columns=sources");
        var row = table["rows"]!.AsArray().Select(r => (long)r!["head"]!["id"]!).ToList().IndexOf(bundle);
        var cells = table["cells"]!
            .AsArray()
            .Where(c => (int)c!["row"]! == row)
            .ToDictionary(c => (int)c!["column"]!, c => (int)c!["triple"]!["observations"]!);
        Assert.NotEmpty(cells);
        for (var column = 0; column < table["columns"]!.AsArray().Count; column++)
        {
            var cell = TestServer.Cell(new { sourceIds = new[] { (long)table["columns"]![column]!["id"]! } });
            var opened = await server.Get($"studies/{study}/evidence?tagId={bundle}&{cell}");
            Assert.Equal(cells.GetValueOrDefault(column), opened["observationIds"]!.AsArray().Count);
        }
        var where = Uri.EscapeDataString($$"""{"tagIds":[{{bundle}}]}""");
        var under = (await server.Get($"studies/{study}/tag-counts?where={where}")).AsArray();
        Assert.Equal(0, (int)under.Single(c => (long)c!["tagId"]! == tags["waits"])!["breadth"]!["triple"]!["observations"]!);
        var overlaps = (await server.Get($"studies/{study}/overlaps?kind=sameObservation")).AsArray();
        Assert.DoesNotContain(overlaps, o => (long)o!["tagId"]! == bundle || (long)o["otherTagId"]! == bundle);
        Assert.Equal("By people", (string)(await server.Get("search?typed=by%20people&kind=tag")).AsArray().Single()!["name"]!);
    }

    [Fact]
    public async Task Leaving_it_changes_no_count_but_its_own()
    {
        var before = (await Counted(tags["rung up"])).ToJsonString();
        await server.Put($"tags/{bundle}/members", new { tagIds = new[] { tags["rung up"] }, held = false });
        Assert.Equal(before, (await Counted(tags["rung up"])).ToJsonString());
        Assert.Equal(2, (int)(await Counted(bundle))["breadth"]!["triple"]!["observations"]!);
        await server.Post(
            "undo",
            new
            {
                studyId = (long?)null,
                actionId = (long?)null,
                anywhere = true,
            }
        );
        Assert.Equal(3, (int)(await Counted(bundle))["breadth"]!["triple"]!["observations"]!);
    }

    [Fact]
    public async Task What_gives_a_tag_refuses_it_in_a_sentence()
    {
        var words = new
        {
            anchor = new
            {
                kind = "text",
                start = 6,
                end = 10,
            },
            tagIds = new[] { bundle },
            newTags = Array.Empty<string>(),
        };
        foreach (
            var (path, body, method) in new (string, object, HttpMethod)[]
            {
                ($"sources/{source}/observations", words, HttpMethod.Post),
                ($"studies/{study}/pens/1", new { tagId = bundle }, HttpMethod.Put),
                ($"studies/{study}/tags/{bundle}/split/trays/1", new { tagId = (long?)null, name = "narrow" }, HttpMethod.Put),
                (
                    $"tags/{bundle}/merge",
                    new
                    {
                        tagIds = new[] { tags["waits"] },
                        definition = "",
                        isNot = "",
                    },
                    HttpMethod.Post
                ),
                ($"tags/{tags["waits"]}/members", new { tagIds = new[] { tags["told"] }, held = true }, HttpMethod.Put),
                ($"studies/{study}/tags/bundles", new { name = "Told", tagIds = new[] { tags["waits"] } }, HttpMethod.Post),
                ($"studies/{study}/tags/bundles", new { name = " ", tagIds = new[] { tags["waits"] } }, HttpMethod.Post),
                ($"studies/{study}/tags/bundles", new { name = "Empty", tagIds = Array.Empty<long>() }, HttpMethod.Post),
            }
        )
        {
            var (status, sentence) = await server.Refused(path, body, method);
            Assert.True(status is 400 or 409, $"{path}: {status} {sentence}");
            Assert.NotEmpty(sentence);
        }
        Assert.Equal(4, (await server.Get($"sources/{source}/observations")).AsArray().Count);
    }

    [Fact]
    public async Task Whoever_does_not_see_its_study_meets_it_nowhere()
    {
        var tom = await server.Person("Tom", "researcher");
        var theirs = (await tom.GetFromJsonAsync<JsonNode>("/api/tags"))!.AsArray();
        Assert.DoesNotContain(theirs, t => (string)t!["name"]! == "By people");
        foreach (var path in new[] { $"tags/{bundle}/reach", $"tags/{bundle}/hangs", $"tags/{bundle}/across", $"trail/tag/{bundle}" })
        {
            using var answer = await tom.GetAsync(new Uri($"/api/{path}", UriKind.Relative));
            Assert.Equal(HttpStatusCode.NotFound, answer.StatusCode);
        }
        using var put = await tom.PutAsJsonAsync($"/api/tags/{bundle}/members", new { tagIds = new[] { tags["waits"] }, held = true });
        Assert.Equal(HttpStatusCode.NotFound, put.StatusCode);
    }
}
