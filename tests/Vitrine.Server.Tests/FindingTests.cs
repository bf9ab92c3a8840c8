using System.Net;
using System.Text.Json.Nodes;
using Vitrine.Core.Text;

namespace Vitrine.Server.Tests;

/// <summary>Passages over the wire: found, tagged, looked at; more of them; and how far two people agree.</summary>
public sealed class FindingTests(SharedServer shared) : IClassFixture<SharedServer>, IAsyncLifetime
{
    private const string Talk =
        "Una: Was it cancelled?\n\nWren: They cancelled it. A neighbour rang me.\n\nWren: The cancelling is not the trouble. My sister rang before.";

    private readonly TestServer server = shared.Server;
    private long study;
    private long source;

    public async Task InitializeAsync()
    {
        study = await server.Study("Passages");
        source = await server.Paste(study, "Talk", Talk);
    }

    public Task DisposeAsync() => Task.CompletedTask;

    private async Task<JsonNode> Find(string query) => await server.Get($"studies/{study}/passages?{query}");

    private static string Where(string json) => Uri.EscapeDataString(json);

    private static IEnumerable<string> WordsOf(JsonNode found) => found["passages"]!.AsArray().Select(p => (string)p!["words"]!);

    private async Task<JsonNode> Tag(string typed, bool reviewed = false, string tag = "called off", bool whole = true) =>
        await server.Post(
            $"studies/{study}/passages/tags",
            new
            {
                passages = (await server.Get($"studies/{study}/passages/places?typed={Uri.EscapeDataString(typed)}")).DeepClone(),
                tagIds = Array.Empty<long>(),
                newTags = new[] { tag },
                reviewed,
                search = new
                {
                    typed,
                    unit = "sentence",
                    team = false,
                    whole,
                },
            }
        );

    [Fact]
    public async Task The_gist_of_a_source_is_of_what_participants_say_and_leads_to_each_place()
    {
        Assert.Empty((await server.Get($"sources/{source}/gist")).AsArray());
        var said = string.Join(' ', Enumerable.Range(0, 12).Select(i => $"The boat waits at the quay for number {i} today."));
        var text = $"Una: {said}\n\nWren: {said}";
        var talk = await server.Paste(study, "Long talk", text);
        await server.Put($"sources/{talk}/labels", new { label = "Una", kind = "team" });
        var gist = (await server.Get($"sources/{talk}/gist")).AsArray();
        Assert.Equal(3, gist.Count);
        Assert.All(
            gist,
            g =>
            {
                var (start, end) = ((int)g!["start"]!, (int)g["end"]!);
                Assert.Equal(text[start..end], (string)g["words"]!);
                Assert.True(start > text.IndexOf("Wren", StringComparison.Ordinal));
                Assert.NotNull(g["speakerId"]);
            }
        );
    }

    [Fact]
    public async Task Passages_come_with_their_context_their_hits_and_how_many_people_they_are_of()
    {
        var found = await Find("typed=cancel%20");
        Assert.Equal(["They cancelled it.", "The cancelling is not the trouble."], WordsOf(found));
        Assert.Equal(2, (int)found["breadth"]!["triple"]!["observations"]!);
        Assert.True((bool)found["complete"]!);
        var first = found["passages"]![0]!;
        Assert.Equal(("", " A neighbour rang me."), ((string)first["before"]!, (string)first["after"]!));
        Assert.Equal(("cancelled", ContentHash.Of(Talk)), (Cut(first), (string)first["basedOn"]!));
        Assert.Equal(["They cancelled it. A neighbour rang me."], WordsOf(await Find("typed=cancelled%20neighbour&unit=turn")));
        Assert.Equal(3, WordsOf(await Find("typed=cancel&team=true")).Count());
        Assert.Equal(["The cancelling is not the trouble."], WordsOf(await Find("typed=cancel%20-they")));
        Assert.Empty(WordsOf(await Find($"typed=cancel&where={Where("{\"sourceKinds\":[\"survey\"]}")}")));
        var here = Where($"{{\"sourceIds\":[{source}],\"sourceKinds\":[\"interview\",\"diary\"]}}");
        Assert.Equal(2, WordsOf(await Find($"typed=cancel&where={here}")).Count());
        Assert.Empty(WordsOf(await Find("typed=cancel&page=1")));
        Assert.Empty(WordsOf(await Find("typed=")));
        Assert.Empty(WordsOf(await Find("typed=-cancel")));

        static string Cut(JsonNode passage) =>
            ((string)passage["words"]!)[(int)passage["hits"]![0]!["start"]!..(int)passage["hits"]![0]!["end"]!];
    }

    [Fact]
    public async Task What_is_found_stands_together_by_source_or_by_person()
    {
        foreach (var (code, name) in new[] { ("P1", "Wren"), ("P2", "Sorrel") })
            await server.Post(
                $"studies/{study}/participants",
                new
                {
                    code,
                    pseudonym = name,
                    realName = (string?)null,
                }
            );
        const string first = "Sorrel: The ferry is late.\n\nWren: That ferry is early.";
        var ferry = await server.Paste(study, "First", first);
        await server.Paste(study, "Second", "Sorrel: No ferry came.\n\nGuest: The ferry is a word of nobody.\n\nSorrel: So it is.");
        Assert.Equal(
            ["The ferry is late.", "That ferry is early.", "No ferry came.", "The ferry is a word of nobody."],
            WordsOf(await Find("typed=ferry"))
        );
        Assert.Equal(
            ["That ferry is early.", "The ferry is late.", "No ferry came.", "The ferry is a word of nobody."],
            WordsOf(await Find("typed=ferry&groupBy=person"))
        );
        await server.Mark(ferry, first, "is late");
        await server.Mark(ferry, first, "is early");
        var ids = (await server.Get($"studies/{study}/observations"))["observationIds"]!.AsArray().Select(i => (long)i!).ToArray();
        Assert.Equal(
            [ids[1], ids[0]],
            (await server.Get($"studies/{study}/observations?groupBy=person"))["observationIds"]!.AsArray().Select(i => (long)i!)
        );
        Assert.Equal(
            [ids[1], ids[0]],
            (await server.Get($"studies/{study}/observations/quotes?groupBy=person"))["quotes"]!
                .AsArray()
                .Select(q => (long)q!["observationId"]!)
        );
    }

    [Theory]
    [InlineData("typed=a&groupBy=mood", "“mood” is not one of source, person.")]
    [InlineData("typed=a&unit=page", "“page” is not one of sentence, paragraph, turn, turnWithQuestion.")]
    [InlineData("typed=a&where={\"sourceKinds\":[\"gossip\"]}", "The request could not be read.")]
    [InlineData("typed=a&where=wren", "The request could not be read.")]
    [InlineData("typed=a&page=-1", "Pages are counted from 0.")]
    public async Task What_cannot_be_asked_is_refused_in_a_sentence(string query, string sentence)
    {
        using var answer = await server.Http.GetAsync(new Uri($"/api/studies/{study}/passages?{query}", UriKind.Relative));
        Assert.Equal(HttpStatusCode.BadRequest, answer.StatusCode);
        Assert.Contains(sentence, (await TestServer.SentenceOf(answer)).Sentence, StringComparison.Ordinal);
    }

    [Fact]
    public async Task What_is_found_is_told_by_every_count_until_it_was_looked_at()
    {
        await Tag("cancel ");
        var tag = (long)(await server.TagUses(study)).Single()["tag"]!["id"]!;
        var page = await server.Get($"studies/{study}/tags/{tag}/page");
        Assert.Equal((2, 2), ((int)page["breadth"]!["triple"]!["observations"]!, (int)page["breadth"]!["notReviewed"]!));
        var found = (await server.Get($"studies/{study}/found?tagId={tag}"))["quotes"]!.AsArray();
        Assert.All(found, q => Assert.True((bool)q!["found"]!));
        var ids = found.Select(q => (long)q!["observationId"]!).ToArray();
        await server.Post($"studies/{study}/observations/accept", new { observationIds = ids[..1] });
        await server.Post($"studies/{study}/observations/drop", new { observationIds = ids[1..] });
        page = await server.Get($"studies/{study}/tags/{tag}/page");
        Assert.Equal((1, 0), ((int)page["breadth"]!["triple"]!["observations"]!, (int)page["breadth"]!["notReviewed"]!));
        Assert.Equal(0, (int)(await server.Get($"studies/{study}/found"))["total"]!);
        // The search stays; run again it finds nothing but what is new.
        var search = (await server.Get($"studies/{study}/searches"))[0]!;
        Assert.Equal(("cancel", tag), ((string)search["typed"]!, (long)search["tagId"]!));
        Assert.Empty(WordsOf(await Find($"typed=cancel&newForTagId={tag}")));
        await server.Paste(study, "Later", "Una: And now?\n\nWren: Cancelled again.\n\nUna: Oh.\n\nWren: Yes.");
        Assert.Equal(["Cancelled again."], WordsOf(await Find($"typed=cancel&newForTagId={tag}")));
        using var gone = await server.Http.DeleteAsync(new Uri($"/api/studies/{study}/searches/{search["id"]}", UriKind.Relative));
        Assert.Equal(HttpStatusCode.OK, gone.StatusCode);
        Assert.Empty((await server.Get($"studies/{study}/searches")).AsArray());
    }

    [Fact]
    public async Task A_kept_filter_is_asked_for_wherever_is_counted_and_each_number_opens_what_it_says()
    {
        await Tag("cancel ");
        await Tag("neighbour", reviewed: true, tag: "told");
        await server.Post($"studies/{study}/filters", new { name = "Looked at", conditions = new { reviewed = true } });
        var kept = (await server.Get($"studies/{study}/filters"))[0]!;
        Assert.Equal(("Looked at", true), ((string)kept["name"]!, (bool)kept["conditions"]!["reviewed"]!));
        var where = Where("{\"reviewed\":true}");
        var all = await server.Get($"studies/{study}/table?columns=sources");
        var table = await server.Get($"studies/{study}/table?columns=sources&where={where}");
        Assert.Equal((2, 0), ((int)all["notReviewed"]!, (int)table["notReviewed"]!));
        foreach (var row in table["rows"]!.AsArray())
        {
            var opened = await server.Get($"studies/{study}/evidence?tagId={row!["head"]!["id"]}&where={where}");
            Assert.Equal((int)row["breadth"]!["triple"]!["observations"]!, opened["observationIds"]!.AsArray().Count);
            var quotes = await server.Get($"studies/{study}/evidence/quotes?page=0&tagId={row["head"]!["id"]}&where={where}");
            Assert.Equal(opened["observationIds"]!.AsArray().Count, (int)quotes["total"]!);
        }
        Assert.Single((await server.Get($"studies/{study}/observations?where={where}"))["observationIds"]!.AsArray());
        Assert.Equal(2, (int)(await server.Get($"studies/{study}/observations/quotes?typed=cancel%20"))["total"]!);
        Assert.Equal(1, (int)(await server.Get($"studies/{study}/unsorted?page=0&where={where}"))["total"]!);
        using var gone = await server.Http.DeleteAsync(new Uri($"/api/studies/{study}/filters/{kept["id"]}", UriKind.Relative));
        Assert.Equal(HttpStatusCode.OK, gone.StatusCode);
    }

    [Fact]
    public async Task Writes_that_are_one_step_for_the_person_are_taken_back_together()
    {
        var theme = (long)
            (
                await server.Post(
                    $"studies/{study}/themes",
                    new
                    {
                        title = "They hear",
                        description = "",
                        observationIds = Array.Empty<long>(),
                        tagIds = Array.Empty<long>(),
                    }
                )
            )["id"]!;
        server.Http.DefaultRequestHeaders.Add("Step-Together", Guid.NewGuid().ToString());
        var made = await Tag("neighbour", reviewed: true, tag: "told");
        var observations = made["changed"]!["rows"]!["observation"]!.AsArray().Select(id => (long)id!).ToArray();
        await server.Post($"themes/{theme}/put", new { observationIds = observations, tagIds = Array.Empty<long>() });
        server.Http.DefaultRequestHeaders.Remove("Step-Together");
        Assert.Equal(0, (int)(await server.Get($"studies/{study}/unsorted?page=0"))["total"]!);
        await server.Post(
            "undo",
            new
            {
                studyId = study,
                actionId = (long?)null,
                anywhere = true,
            }
        );
        Assert.Empty((await server.Get($"studies/{study}/observations"))["observationIds"]!.AsArray());
    }

    [Fact]
    public async Task Nothing_is_tagged_without_a_tag_a_passage_or_a_place()
    {
        Assert.Equal("Choose the passages first.", await Refused([], ["x"]));
        var there = new
        {
            sourceId = source,
            start = 0,
            end = 4,
            basedOn = ContentHash.Of(Talk),
        };
        Assert.Equal("Name the tag that the passages get.", await Refused([there], []));
        Assert.Contains(
            "corrected in the meantime",
            await Refused(
                [
                    new
                    {
                        there.sourceId,
                        there.start,
                        there.end,
                        basedOn = "of another text",
                    },
                ],
                ["x"]
            ),
            StringComparison.Ordinal
        );
        Assert.Contains("more than 10,000", await Refused([.. Enumerable.Repeat<object>(there, 10_001)], ["x"]), StringComparison.Ordinal);
        Assert.Empty(await server.TagUses(study));

        async Task<string> Refused(object[] passages, string[] newTags)
        {
            var (_, sentence) = await server.Refused(
                $"studies/{study}/passages/tags",
                new
                {
                    passages,
                    tagIds = Array.Empty<long>(),
                    newTags,
                    reviewed = false,
                }
            );
            return sentence;
        }
    }

    [Fact]
    public async Task Whose_material_a_kept_search_has_gone_through_counts_as_asked_for_its_tag_and_what_comes_later_does_not()
    {
        async Task Person(string code)
        {
            var person = (long)(await server.Post($"studies/{study}/participants", new { code, pseudonym = $"Plant {code}" }))["id"]!;
            await server.Post(
                $"studies/{study}/sources/paste",
                new
                {
                    title = code,
                    kind = "diary",
                    text = code == "P1" ? "The boat was late." : $"Nothing to tell, {code}.",
                    participantIds = new[] { person },
                }
            );
        }
        foreach (var code in (string[])["P1", "P2", "P3"])
            await Person(code);
        await Tag("late", tag: "boats / late");
        await Tag("nothing", tag: "quiet", whole: false);
        async Task<string> OutOf(string query = "") =>
            string.Join(
                ", ",
                (await server.Get($"studies/{study}/tag-counts{query}"))
                    .AsArray()
                    .Select(c => $"{c!["breadth"]!["triple"]!["people"]} of {c["breadth"]!["outOf"]}")
            );
        // Nobody has read anything: a search of a part asks nobody, and the tag above is asked for with the one under it.
        Assert.Equal("1 of 3, 1 of 3, 2 of 2", await OutOf());
        await Person("P4");
        Assert.Equal("1 of 3, 1 of 3, 2 of 2", await OutOf());
        var first = (long)(await server.PeopleOf(study))[0]!["id"]!;
        Assert.Equal("1 of 1, 1 of 1, 0 of 0", await OutOf($"?where={Where($$"""{"participantIds":[{{first}}]}""")}"));
        await Tag("late", tag: "boats / late");
        Assert.Equal("1 of 4, 1 of 4, 2 of 2", await OutOf());
    }

    [Fact]
    public async Task More_is_offered_with_what_carried_it_and_a_no_is_remembered()
    {
        await Tag("neighbour", reviewed: true, tag: "told");
        var tag = (long)(await server.TagUses(study)).Single()["tag"]!["id"]!;
        var more = await server.Get($"studies/{study}/tags/{tag}/more");
        Assert.Equal(1, (int)more["given"]!);
        var offered = more["offered"]!.AsArray().Single(o => (string)o!["passage"]!["words"]! == "My sister rang before.")!["passage"]!;
        var hit = offered["hits"]![0]!;
        Assert.Equal("rang", ((string)offered["words"]!)[(int)hit["start"]!..(int)hit["end"]!]);
        await server.Post(
            $"studies/{study}/tags/{tag}/refused",
            new
            {
                passages = new[]
                {
                    new
                    {
                        sourceId = source,
                        start = (int)offered["start"]!,
                        end = (int)offered["end"]!,
                        basedOn = (string)offered["basedOn"]!,
                    },
                },
            }
        );
        more = await server.Get($"studies/{study}/tags/{tag}/more");
        Assert.DoesNotContain("My sister rang before.", more["offered"]!.AsArray().Select(o => (string)o!["passage"]!["words"]!));
        using var unknown = await server.Http.GetAsync(
            new Uri($"/api/studies/{study}/tags/{tag}/more?observationId=999", UriKind.Relative)
        );
        Assert.Equal(HttpStatusCode.NotFound, unknown.StatusCode);
    }

    [Fact]
    public async Task Two_people_are_compared_only_where_both_have_marked()
    {
        await Tag("cancel ", reviewed: true);
        var taggers = (await server.Get($"studies/{study}/agreement/taggers")).AsArray();
        var una = (long)taggers.Single()!["accountId"]!;
        var alone = await server.Get($"studies/{study}/agreement?first={una}&second={una + 1}");
        Assert.Equal((0, "noUnits"), ((int)alone["units"]!, (string)alone["all"]!["undefined"]!));
        using var self = await server.Http.GetAsync(new Uri($"/api/studies/{study}/agreement?first={una}&second={una}", UriKind.Relative));
        Assert.Equal((400, "With oneself one always agrees. Choose two people."), await TestServer.SentenceOf(self));
    }
}
