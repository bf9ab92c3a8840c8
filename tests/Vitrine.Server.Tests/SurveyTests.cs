using System.Text;
using System.Text.Json.Nodes;

namespace Vitrine.Server.Tests;

public sealed class SurveyTests(SharedServer shared) : IClassFixture<SharedServer>, IAsyncLifetime
{
    private const string Table =
        "id;home;How easy was boarding?;What would you change?\nS1;Tarra;2;The board at the head of the quay.\nP03;Skelda;5;Tell "
        + "us earlier, even a maybe.\nS3;Tarra;4;\n";

    private readonly TestServer server = shared.Server;
    private long study;

    public async Task InitializeAsync()
    {
        study = await server.Study();
        await server.Person(study, "P03", "Sorrel");
    }

    public Task DisposeAsync() => Task.CompletedTask;

    private async Task<(JsonNode Import, JsonNode Given)> Bring(string table, string name = "quay survey.csv")
    {
        var bytes = Encoding.UTF8.GetBytes(table);
        var import = await server.Announce(study, name, bytes.Length);
        await server.Send(study, import, 0, bytes);
        Assert.Equal("table", (await server.Ended(study, import)).State);
        var read = await server.Get($"studies/{study}/imports/{import["key"]}/table");
        return (
            import,
            new JsonObject
            {
                ["name"] = "Quay survey",
                ["headerRows"] = (int)read["headerRows"]!,
                ["columns"] = read["columns"]!.DeepClone(),
            }
        );
    }

    private async Task<string> Take(JsonNode import, JsonNode given)
    {
        await server.Post($"studies/{study}/imports/{import["key"]}/survey", given);
        var (state, said, _) = await server.Ended(study, import);
        Assert.Equal("done", state);
        return said;
    }

    [Fact]
    public async Task Rows_become_participants_with_attributes_and_sources_that_count_as_theirs()
    {
        var (import, given) = await Bring(Table);
        var preview = await server.Post($"studies/{study}/imports/{import["key"]}/survey-preview", given);
        Assert.Equal(
            (2, 1, 2),
            ((int)preview["result"]!["newPeople"]!, (int)preview["result"]!["knownPeople"]!, (int)preview["result"]!["sources"]!)
        );
        // In the form of a survey all who answered have agreed or not; who was here before keeps what is noted of them.
        given["agreedBy"] = "form";
        Assert.Equal("2 new participants; 1 row of participants who were here; 2 sources with open answers.", await Take(import, given));

        var people = await server.Get($"studies/{study}/participants?page=0");
        Assert.Equal(["P03", "S1", "S3"], people["people"]!.AsArray().Select(p => (string)p!["code"]!));
        Assert.Equal(["asked", "given", "given"], people["people"]!.AsArray().Select(p => (string)p!["consent"]!));
        var rating = (string)
            people["attributes"]!.AsArray().Single(a => (string)a!["name"]! == "How easy was boarding?")!["id"]!.ToJsonString();
        Assert.Equal(["5", "2", "4"], people["people"]!.AsArray().Select(p => (string)p!["values"]![rating]!));
        var source = (await server.SourcesOf(study)).Single(s => (string)s!["title"]! == "P03, Quay survey")!;
        Assert.Equal("survey", (string)source["kind"]!);
        var text = (string)(await server.Get($"sources/{source["id"]}"))["text"]!;
        Assert.Equal("What would you change?\n\nTell us earlier, even a maybe.", text);
        await server.Put($"sources/{source["id"]}/reading", new { furthest = 10 });
        await server.Mark((long)source["id"]!, text, "Tell us earlier", "earlier");
        var tag = (await server.TagUses(study)).Single(t => (string)t!["tag"]!["name"]! == "earlier")!;
        Assert.Equal(1, (int)tag["breadth"]!["triple"]!["people"]!);
        Assert.Empty(Directory.GetFiles(Path.Combine(server.Folder, "arriving"), $"{import["key"]}*"));
    }

    [Fact]
    public async Task A_participant_of_a_survey_can_be_removed_and_the_grown_table_does_not_bring_them_back()
    {
        var (import, given) = await Bring(Table);
        await Take(import, given);
        var person = (await server.PeopleOf(study)).Single(p => (string)p!["code"]! == "S1")!["id"];
        await TestServer.Answer(await server.Http.DeleteAsync($"/api/studies/{study}/participants/{person}"), "remove");
        var (again, same) = await Bring(Table + "S4;Skelda;1;Nothing.\n");
        Assert.Contains("3 rows here already", await Take(again, same));
        Assert.Equal(["P03", "S3", "S4"], (await server.PeopleOf(study)).Select(p => (string)p!["code"]!));
    }

    [Fact]
    public async Task A_table_that_has_grown_adds_only_its_new_rows_and_says_so()
    {
        var (first, given) = await Bring(Table);
        await Take(first, given);
        var (grown, again) = await Bring(
            Table.Replace("S1;Tarra;2", "S1;Tarra;3") + "S4;Tarra;1;Nothing at all to change.\n",
            "quay survey 2.csv"
        );
        Assert.Equal(
            "1 new participant; 1 source with open answers; 3 rows here already, of which 1 differ now and were left as they were.",
            await Take(grown, again)
        );
        Assert.Equal(3, (await server.SourcesOf(study)).Count);
    }

    [Fact]
    public async Task Ratings_become_values_on_a_tags_scale_when_that_is_chosen()
    {
        var (import, given) = await Bring(Table);
        given["columns"]![2]!["role"] = "scaleValue";
        Assert.Equal(
            "2 new participants; 1 row of participants who were here; 3 sources with open answers; 3 values on scales.",
            await Take(import, given)
        );
        var tag = (await server.TagUses(study)).Single()!;
        Assert.Equal(
            ("How easy was boarding?", 1, 5),
            ((string)tag["tag"]!["name"]!, (int)tag["tag"]!["scale"]!["least"]!, (int)tag["tag"]!["scale"]!["most"]!)
        );
        var source = (await server.SourcesOf(study)).Single(s => (string)s!["title"]! == "P03, Quay survey")!;
        var observation = (await server.Get($"sources/{source["id"]}/observations")).AsArray().Single()!;
        Assert.Equal(5, (int)observation["values"]![tag["tag"]!["id"]!.ToString()]!);
        var text = (string)(await server.Get($"sources/{source["id"]}"))["text"]!;
        Assert.Equal("How easy was boarding?\n\n5\n\nWhat would you change?\n\nTell us earlier, even a maybe.", text);
        Assert.Equal("5", text[(int)observation["anchor"]!["start"]!..(int)observation["anchor"]!["end"]!]);

        // A tag without a scale is not given one behind the team's back.
        await server.Post(
            "tags",
            new
            {
                name = "home",
                parentId = (long?)null,
                colour = (int?)null,
                definition = "",
                settled = false,
            }
        );
        var (other, again) = await Bring("id;home\nS9;4\n", "other.csv");
        again["columns"]![1]!["role"] = "scaleValue";
        await server.Post($"studies/{study}/imports/{other["key"]}/survey", again);
        var (state, said, _) = await server.Ended(study, other);
        Assert.Equal("refused", state);
        Assert.Contains("Give it one in the tag set first", said);
    }

    [Fact]
    public async Task What_cells_become_is_told_before_they_come_in()
    {
        const string table = "who;on;card;fare;note\nS1;14/3/2026;007;1,50;fine\nS2;3/4/2026;012;2,25;n/a\nS3;3/4/2026;013;n/a;late\n";
        var (import, given) = await Bring(table, "fares.csv");
        var read = await server.Get($"studies/{study}/imports/{import["key"]}/table");
        var doubt = Assert.Single(read["doubts"]!.AsArray())!;
        Assert.Equal((2, "leadingNoughts"), ((int)doubt["column"]!, (string)doubt["doubt"]!));
        var preview = await server.Post($"studies/{study}/imports/{import["key"]}/survey-preview", given);
        Assert.Equal(
            ["14/3/2026=2026-03-14", "3/4/2026=2026-04-03", "1,50=1.5", "2,25=2.25", "n/a="],
            preview["changes"]!.AsArray().SelectMany(c => c!["first"]!.AsArray()).Select(c => $"{c!["cell"]}={c["becomes"]}")
        );
        await Take(import, given);
        var people = (await server.PeopleOf(study));
        Assert.Equal(
            [
                ["2026-03-14", "007", "1.5", "fine"],
                ["2026-04-03", "012", "2.25", "n/a"],
                ["2026-04-03", "013", "late"],
            ],
            people
                .Where(p => (string)p!["code"]! is "S1" or "S2" or "S3")
                .Select(p => p!["values"]!.AsObject().Select(v => (string)v.Value!))
        );
    }

    [Fact]
    public async Task A_survey_is_one_step_to_undo()
    {
        var (import, given) = await Bring(Table);
        await Take(import, given);
        var kept = Assert.Single((await server.Get($"studies/{study}/attachments")).AsArray())!;
        Assert.Equal(("Quay survey", "quay survey.csv"), ((string)kept["title"]!, (string)kept["fileName"]!));
        Assert.Equal(Table, await server.Http.GetStringAsync($"/api/studies/{study}/attachments/{kept["id"]}/original"));
        await server.Post("undo", new { studyId = study, actionId = (long?)null });
        Assert.Empty((await server.SourcesOf(study)));
        Assert.Empty((await server.Get($"studies/{study}/attachments")).AsArray());
        Assert.Single((await server.PeopleOf(study)));
    }

    [Fact]
    public async Task Forty_pasted_lines_with_two_tags_are_forty_notes_with_two_tags_each()
    {
        // Common practice, no source.
        var text = string.Join('\n', Enumerable.Range(1, 40).Select(i => $"Note {i}: nobody told us."));
        await server.Post(
            $"studies/{study}/sources/notes",
            new
            {
                text,
                @break = "line",
                kind = "fieldNotes",
                heldOn = "2026-05-01",
                folder = "Quay",
                participantIds = Array.Empty<long>(),
                tagIds = Array.Empty<long>(),
                newTags = new[] { "late", "not told" },
            }
        );
        var sources = (await server.SourcesOf(study));
        Assert.Equal(
            (40, 1, "Note 40: nobody told us."),
            (sources.Count, sources.Select(s => (long)s!["folderId"]!).Distinct().Count(), (string)sources[39]!["title"]!)
        );
        Assert.All((await server.TagUses(study)), t => Assert.Equal(40, (int)t!["breadth"]!["triple"]!["observations"]!));
        await server.Post("undo", new { studyId = study, actionId = (long?)null });
        Assert.Empty((await server.SourcesOf(study)));
        Assert.Empty((await server.Get($"studies/{study}/folders")).AsArray());
    }

    [Fact]
    public async Task Pasted_cells_and_other_columns_than_the_tables_are_told_apart()
    {
        var key = (string)
            (
                await server.Post(
                    $"studies/{study}/imports/pasted-table",
                    new { name = "Pasted", text = "who\twhy\nS9\tIt was late and nobody told us." }
                )
            )["key"]!;
        var table = await server.Get($"studies/{study}/imports/{key}/table");
        Assert.Equal(["who", "openAnswer"], table["columns"]!.AsArray().Select(c => (string)c!["role"]!));
        var wrong = new
        {
            name = "x",
            headerRows = 1,
            columns = new[]
            {
                new
                {
                    name = "other",
                    role = "openAnswer",
                    kind = "text",
                },
            },
        };
        Assert.Equal(409, (await server.Refused($"studies/{study}/imports/{key}/survey", wrong)).Status);
        var nothing = new
        {
            name = "x",
            headerRows = 1,
            columns = new[]
            {
                new
                {
                    name = "who",
                    role = "who",
                    kind = "text",
                },
                new
                {
                    name = "why",
                    role = "ignore",
                    kind = "text",
                },
            },
        };
        Assert.Contains("Every column is ignored", (await server.Refused($"studies/{study}/imports/{key}/survey", nothing)).Sentence);
    }
}
