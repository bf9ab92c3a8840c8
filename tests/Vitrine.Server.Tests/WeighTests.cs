using System.Text.Json.Nodes;

namespace Vitrine.Server.Tests;

/// <summary>What the rooms Sort, Weigh and Show say about one small study whose figures can be counted by hand.</summary>
public sealed class WeighTests : IAsyncLifetime
{
    private const string First =
        "Interviewer: How?\n\nSorrel: On the quay. Nobody tells you. The lamp is out.\n\nInterviewer: And?\n\nSorrel: Home again.";
    private const string Second =
        "Interviewer: How?\n\nWren: In the shelter, on the quay. The app said on time.\n\nInterviewer: And?\n\nWren: I had good "
        + "notice once.";
    private const string Notes = "The screen says on time. Everyone looks at the lamp.";

    private readonly TestServer server = new();
    private long study,
        sorrel,
        wren,
        teal,
        first,
        second,
        notes,
        family,
        quay,
        lamp;

    public async Task InitializeAsync()
    {
        await server.SetUp();
        study = await server.Study();
        sorrel = await server.Person(study, "P1", "Sorrel");
        wren = await server.Person(study, "P2", "Wren");
        teal = await server.Person(study, "P3", "Teal");
        first = await server.Paste(study, "First", First);
        second = await server.Paste(study, "Second", Second);
        notes = await server.Paste(study, "Notes", Notes);
        await server.Put(
            $"sources/{notes}",
            new
            {
                title = "Notes",
                kind = "fieldNotes",
                heldOn = "2026-11-07",
                participantIds = Array.Empty<long>(),
            }
        );
        await server.Put(
            $"sources/{second}",
            new
            {
                title = "Second",
                kind = "interview",
                heldOn = "2026-11-01",
                participantIds = Array.Empty<long>(),
            }
        );
        foreach (var source in new[] { first, second, notes })
            await server.Put($"sources/{source}/reading", new { furthest = 5 });
        family = await Tag("hearing", null);
        quay = await Tag("on the quay", family);
        lamp = await Tag("reads the signs", family);
        await server.Mark(first, First, "On the quay.", "on the quay");
        await server.Mark(first, First, "Nobody tells you.", "on the quay");
        await server.Mark(first, First, "On the quay. Nobody tells you. The lamp is out.", "reads the signs");
        await server.Mark(second, Second, "In the shelter, on the quay.", "on the quay", "reads the signs");
        await server.Mark(notes, Notes, "Everyone looks at the lamp.", "reads the signs");
        await server.Mark(second, Second, "I had good notice once.");
    }

    public Task DisposeAsync()
    {
        server.Dispose();
        return Task.CompletedTask;
    }

    [Theory]
    [InlineData("sources")]
    [InlineData("Participants")]
    public async Task Every_cell_counts_what_it_opens(string columns)
    {
        var table = await server.Get($"studies/{study}/table?columns={columns}");
        // Three tags, three sources, three people: an empty table counts nothing.
        Assert.Equal((3, 3), (table["rows"]!.AsArray().Count, table["columns"]!.AsArray().Count));
        Assert.Equal(
            columns == "sources" ? ["First", "Second", "Notes"] : ["Sorrel", "Wren", "Teal"],
            table["columns"]!.AsArray().Select(c => (string)c!["name"]!)
        );
        var cells = table["cells"]!
            .AsArray()
            .ToDictionary(c => ((int)c!["row"]!, (int)c["column"]!), c => (int)c!["triple"]!["observations"]!);
        Assert.Contains(cells.Values, n => n > 1);
        for (var row = 0; row < 3; row++)
        {
            for (var column = 0; column < 3; column++)
            {
                var cell = new Dictionary<string, long[]>
                {
                    [columns == "sources" ? "sourceIds" : "participantIds"] = [(long)table["columns"]![column]!["id"]!],
                };
                var opened = await Evidence($"tagId={table["rows"]![row]!["head"]!["id"]}&{TestServer.Cell(cell)}");
                Assert.Equal(cells.GetValueOrDefault((row, column)), opened.Count);
            }
        }
    }

    [Fact]
    public async Task A_family_counts_all_below_it_once_and_its_own_apart()
    {
        var row = (await server.Get($"studies/{study}/table?columns=sources"))["rows"]!
            .AsArray()
            .Single(r => (long)r!["head"]!["id"]! == family)!;
        Assert.Equal((5, 3, 2, 1), Triple(row["breadth"]!["triple"]!));
        Assert.Equal((0, 0, 0, 0), Triple(row["own"]!));
        // Two of the two in scope: Teal has no source.
        Assert.Equal(2, (int)row["breadth"]!["outOf"]!);
        Assert.Equal([3, 1, 0], row["breadth"]!["strip"]!.AsArray().Select(n => (int)n!));
    }

    [Fact]
    public async Task The_page_of_a_tag_tells_who_speaks_under_it_and_every_figure_opens_its_words()
    {
        var home = (long)(await server.Post($"studies/{study}/attributes", new { name = "home", kind = "choice" }))["id"]!;
        await server.Put(
            $"studies/{study}/participants/cells",
            new
            {
                cells = new[] { (sorrel, "Skelda"), (wren, "Tarra"), (teal, "Skelda") }.Select(c => new
                {
                    participantId = c.Item1,
                    column = "attribute",
                    attributeId = home,
                    value = c.Item2,
                }),
            }
        );
        var page = await server.Get($"studies/{study}/tags/{family}/page");
        Assert.Equal((5, 3, 2, 1), Triple(page["breadth"]!["triple"]!));
        Assert.Equal(
            [("interview", 4), ("fieldNotes", 1)],
            page["kinds"]!.AsArray().Select(k => ((string)k!["kind"]!, (int)k["triple"]!["observations"]!))
        );
        // Teal, of Skelda, has no source: nobody could ask.
        Assert.Equal(
            [("Skelda", 1, 1), ("Tarra", 1, 1)],
            page["groups"]!.AsArray().Select(g => ((string)g!["value"]!, (int)g["triple"]!["people"]!, (int)g["outOf"]!))
        );
        foreach (var source in page["sources"]!.AsArray())
            Assert.Equal(
                (int)source!["triple"]!["observations"]!,
                (await Evidence($"tagId={family}&{TestServer.Cell(new { sourceIds = new[] { (long)source["sourceId"]! } })}")).Count
            );
        Assert.Equal(4, (await Evidence($"tagId={family}&{TestServer.Cell(new { sourceKinds = new[] { "interview" } })}")).Count);
        Assert.Equal(
            3,
            (
                await Evidence($"tagId={family}&{TestServer.Cell(new { values = new[] { new { attributeId = home, value = "Skelda" } } })}")
            ).Count
        );
        Assert.Equal(
            [(lamp, 1)],
            (await server.Get($"studies/{study}/tags/{quay}/page"))["beside"]!.AsArray().Select(b => ((long)b!["tagId"]!, (int)b["both"]!))
        );

        var told = await server.Get($"studies/{study}/tags/{family}/telling-quotes");
        Assert.Equal(5, (int)told["looked"]!);
        var first = told["telling"]![0]!;
        Assert.Equal("On the quay. Nobody tells you. The lamp is out.", (string)first["quote"]!["words"]!);
        Assert.Equal(["quay", "Nobody", "tells"], first["ties"]!.AsArray().Select(t => (string)t!).OrderByDescending(t => t == "quay"));
    }

    [Fact]
    public async Task Overlaps_count_pairs_and_open_them()
    {
        JsonNode Pair(JsonNode cells) => cells.AsArray().Single(c => (long)c!["tagId"]! == quay && (long)c["otherTagId"]! == lamp)!;
        Assert.Equal(1, (int)Pair(await server.Get($"studies/{study}/overlaps?kind=sameObservation"))["pairs"]!);
        Assert.Single(await Evidence($"tagId={quay}&otherTagId={lamp}&overlap=sameObservation"));
        // In the first interview both stretches on the quay lie inside the one about the lamp; in the second it is one observation with
        // both.
        Assert.Equal(3, (int)Pair(await server.Get($"studies/{study}/overlaps?kind=touching"))["pairs"]!);
        Assert.Equal(4, (await Evidence($"tagId={quay}&otherTagId={lamp}&overlap=touching")).Count);
    }

    [Fact]
    public async Task The_sorting_table_knows_what_is_unsorted_and_what_arrives_by_tag()
    {
        var theme = (long)
            (
                await server.Post(
                    $"studies/{study}/themes",
                    new
                    {
                        title = "Too late",
                        description = "d",
                        parentId = (long?)null,
                        observationIds = Array.Empty<long>(),
                        tagIds = new[] { quay },
                    }
                )
            )["id"]!;
        var table = await server.Get($"studies/{study}/sorting");
        Assert.Equal(
            ["On the quay. Nobody tells you. The lamp is out.", "I had good notice once.", "Everyone looks at the lamp."],
            (await server.Get($"studies/{study}/unsorted?page=0"))["quotes"]!.AsArray().Select(q => (string)q!["words"]!)
        );
        Assert.Equal(3, (int)table["unsorted"]!);
        var found = await server.Get($"studies/{study}/unsorted?page=0&words=THE%20l%C3%A1mp");
        Assert.Equal(2, (int)found["total"]!);
        Assert.Equal("Everyone looks at the lamp.", (string)found["quotes"]![1]!["words"]!);
        Assert.Empty((await server.Get($"studies/{study}/unsorted?page=1"))["quotes"]!.AsArray());
        var view = Assert.Single(table["themes"]!.AsArray())!;
        Assert.Equal(3, (int)view["arrivedByTag"]![quay.ToString(System.Globalization.CultureInfo.InvariantCulture)]!);
        Assert.Equal("echoed", (string)view["facts"]!["level"]!);
        Assert.Equal(3, (await Evidence($"themeId={theme}")).Count);

        await server.Mark(notes, Notes, "The screen says on time.", "on the quay");
        Assert.Equal(4, (await Evidence($"themeId={theme}")).Count);
    }

    [Fact]
    public async Task A_theme_becomes_an_insight_with_each_stance_once_it_says_what_it_means()
    {
        var mark = await server.Mark(notes, Notes, "The lamp is out.", "lamp");
        var against = await server.Mark(notes, Notes, "The screen says on time.", "lamp");
        var lamp = (long)(await server.TagUses(study)).Single(t => (string)t["tag"]!["name"]! == "lamp")["tag"]!["id"]!;
        var theme = (long)
            (
                await server.Post(
                    $"studies/{study}/themes",
                    new
                    {
                        title = "",
                        description = "",
                        observationIds = Array.Empty<long>(),
                        tagIds = new[] { lamp },
                    }
                )
            )["id"]!;
        await server.Put($"themes/{theme}/stance", new { observationIds = new[] { against }, stance = "contradicts" });
        var page = await server.Get($"themes/{theme}");
        Assert.Equal(["noClaim", "noDescription"], page["view"]!["thinSpots"]!.AsArray().Select(s => (string)s!).Take(2));
        var pieces = await server.Get($"themes/{theme}/pieces?stance=contradicts&page=0");
        Assert.Equal((against, true), ((long)pieces["quotes"]![0]!["quote"]!["observationId"]!, (bool)pieces["quotes"]![0]!["laid"]!));
        Assert.StartsWith("This theme claims nothing yet.", (await server.Refused($"themes/{theme}/insight", new { })).Sentence);
        await server.Put($"themes/{theme}/title", new { was = "", text = "The lamp misleads" });
        Assert.StartsWith("This theme has no description yet.", (await server.Refused($"themes/{theme}/insight", new { })).Sentence);
        await server.Put($"themes/{theme}/description", new { was = "", text = "Nobody mends it." });
        var insight = (long)(await server.Post($"themes/{theme}/insight", new { }))["id"]!;
        var made = await server.Get($"insights/{insight}");
        Assert.Equal("The lamp misleads", (string)made["insight"]!["headline"]!);
        Assert.Equal(
            [(mark, "supports"), (against, "contradicts")],
            made["evidence"]!.AsArray().Select(e => ((long)e!["quote"]!["observationId"]!, (string)e["stance"]!)).Order()
        );
        // The drawer counts in its breadth what speaks for it.
        Assert.Equal(1, (int)(await server.Get($"studies/{study}/evidence?themeId={theme}"))["breadth"]!["triple"]!["observations"]!);
    }

    [Fact]
    public async Task An_insight_says_who_is_missing_and_how_old_it_is()
    {
        var home = (long)(await server.Post($"studies/{study}/attributes", new { name = "home", kind = "choice" }))["id"]!;
        await server.Put(
            $"studies/{study}/participants/cells",
            new
            {
                cells = new[]
                {
                    new
                    {
                        participantId = sorrel,
                        column = "attribute",
                        attributeId = home,
                        value = "Skelda",
                    },
                },
            }
        );
        await server.Put(
            $"studies/{study}/participants/cells",
            new
            {
                cells = new[]
                {
                    new
                    {
                        participantId = wren,
                        column = "attribute",
                        attributeId = home,
                        value = "Tarra",
                    },
                },
            }
        );
        await server.Put(
            $"studies/{study}/participants/cells",
            new
            {
                cells = new[]
                {
                    new
                    {
                        participantId = teal,
                        column = "attribute",
                        attributeId = home,
                        value = "mainland",
                    },
                },
            }
        );
        var of = (await Evidence($"tagId={quay}&{TestServer.Cell(new { participantIds = new[] { sorrel } })}"))
            .Select(q => (long)q!["observationId"]!)
            .ToList();
        var insight = (long)
            (
                await server.Post(
                    $"studies/{study}/insights",
                    new
                    {
                        headline = "They hear on the quay",
                        story = TestServer.Rich(""),
                        observationIds = of,
                    }
                )
            )["id"]!;
        var page = await server.Get($"insights/{insight}");
        Assert.Equal("Tarra", (string)Assert.Single(page["silentGroups"]!.AsArray())!["value"]!);
        Assert.Null(page["newestEvidence"]);

        var wrens = (long)
            (await Evidence($"tagId={quay}&{TestServer.Cell(new { participantIds = new[] { wren } })}"))[0]!["observationId"]!;
        await server.Post($"insights/{insight}/evidence", new { observationIds = new[] { wrens }, stance = "contradicts" });
        page = await server.Get($"insights/{insight}");
        Assert.Equal("contested", (string)page["facts"]!["level"]!);
        Assert.Empty(page["silentGroups"]!.AsArray());
        Assert.Equal([0, 1, 0], page["breadth"]!["against"]!.AsArray().Select(n => (int)n!));

        await server.Put(
            $"studies/{study}/not-asked",
            new
            {
                thing = "insight",
                id = insight,
                participantIds = new[] { teal },
            }
        );
        Assert.Equal([teal], (await server.Get($"insights/{insight}"))["notAsked"]!.AsArray().Select(n => (long)n!));
    }

    [Fact]
    public async Task Tags_are_put_on_many_observations_in_one_step()
    {
        var all = await Evidence("");
        var step = await server.Post(
            $"studies/{study}/observations/tags",
            new
            {
                observationIds = all.Select(q => (long)q!["observationId"]!),
                tagIds = Array.Empty<long>(),
                newTags = new[] { "all of it" },
            }
        );
        Assert.Equal("Tagged 6 observations", (string)step["label"]!);
        Assert.All(await Evidence(""), q => Assert.NotEmpty(q!["tagIds"]!.AsArray()));
        await server.Post("undo", new { studyId = (long?)null, actionId = (long)step["actionId"]! });
        Assert.Single(await Evidence(""), q => q!["tagIds"]!.AsArray().Count == 0);
        Assert.Equal(
            "Choose at least one observation.",
            (
                await server.Refused(
                    $"studies/{study}/observations/tags",
                    new
                    {
                        observationIds = Array.Empty<long>(),
                        tagIds = Array.Empty<long>(),
                        newTags = Array.Empty<string>(),
                    }
                )
            ).Sentence
        );
    }

    private async Task<long> Tag(string name, long? parentId) =>
        (long)
            (
                await server.Post(
                    "tags",
                    new
                    {
                        name,
                        parentId,
                        colour = 1,
                        definition = "d",
                        settled = true,
                    }
                )
            )["id"]!;

    private async Task<JsonArray> Evidence(string query) =>
        (await server.Get($"studies/{study}/evidence/quotes?page=0&{query}"))["quotes"]!.AsArray();

    private static (int, int, int, int) Triple(JsonNode t) =>
        ((int)t["observations"]!, (int)t["sources"]!, (int)t["people"]!, (int)t["unattributed"]!);
}
