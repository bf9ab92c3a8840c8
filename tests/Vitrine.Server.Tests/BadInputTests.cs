using System.Net.Http.Json;
using System.Text;
using System.Text.Json.Nodes;

namespace Vitrine.Server.Tests;

public sealed class BadInputTests(SharedServer shared) : IClassFixture<SharedServer>, IAsyncLifetime
{
    private readonly TestServer server = shared.Server;
    private long study;

    public async Task InitializeAsync()
    {
        study = await server.Study();
    }

    public Task DisposeAsync() => Task.CompletedTask;

    private object Pasted(string text, string title = "P01") =>
        new
        {
            title,
            kind = "interview",
            heldOn = (string?)null,
            text,
            participantIds = Array.Empty<long>(),
        };

    [Theory]
    [InlineData("")]
    [InlineData("  \n\t ")]
    public async Task An_empty_paste(string text) =>
        Assert.Equal(
            (400, "There are no words in it. Paste or choose a text with something to read."),
            await server.Refused($"studies/{study}/sources/paste", Pasted(text))
        );

    [Fact]
    public async Task A_text_of_20_megabytes_pasted_or_as_a_file()
    {
        var text = string.Concat(Enumerable.Repeat("twenty million letters ", 20_000_000 / 23));
        Assert.Contains("20 MB; one source can hold 5 MB", (await server.Refused($"studies/{study}/sources/paste", Pasted(text))).Sentence);
        Assert.Contains("Split it", (await server.Upload(study, "long.txt", Encoding.ASCII.GetBytes(text))).Said);
        Assert.Empty((await server.SourcesOf(study)));
    }

    [Fact]
    public async Task An_unknown_kind_of_file_and_an_empty_one()
    {
        Assert.Contains("Choose .txt, .md, .docx", (await server.Upload(study, "talk.xyz", [1, 2, 3])).Said);
        Assert.Contains("empty", (await server.Upload(study, "notes.txt", [])).Said);
    }

    [Fact]
    public async Task The_same_text_again_is_recognised()
    {
        await server.Paste(study, "P03 Sorrel", "Some words.\r\n");
        Assert.Equal(
            (409, "The same text is already here as “P03 Sorrel”. It was not added again."),
            await server.Refused($"studies/{study}/sources/paste", Pasted("Some words."))
        );
    }

    [Fact]
    public async Task A_title_with_markup_is_just_a_title()
    {
        const string title = "<script>alert(1)</script> & “more”";
        var id = await server.Study(title);
        Assert.Equal(title, (string)(await server.Get($"studies/{id}"))["line"]!["title"]!);
    }

    [Fact]
    public async Task A_study_without_a_title() =>
        Assert.Equal(
            (400, "A study needs a title. Type what it is about."),
            await server.Refused(
                "studies",
                new
                {
                    title = "  ",
                    purpose = "",
                    method = "",
                    researchQuestions = Array.Empty<string>(),
                }
            )
        );

    [Fact]
    public async Task A_tag_name_of_300_characters_or_of_spaces_marks_nothing()
    {
        var source = await server.Paste(study, "P03", "Some words to mark.");
        object With(string name) =>
            new
            {
                anchor = new
                {
                    kind = "text",
                    start = 0,
                    end = 4,
                },
                tagIds = Array.Empty<long>(),
                newTags = new[] { name },
                key = (Guid?)null,
            };
        Assert.Contains(
            "300 characters; 80 is the most",
            (await server.Refused($"sources/{source}/observations", With(new string('x', 300)))).Sentence
        );
        Assert.Contains("A tag needs a name", (await server.Refused($"sources/{source}/observations", With("   "))).Sentence);
        Assert.Empty((await server.Get($"sources/{source}/observations")).AsArray());
    }

    [Fact]
    public async Task A_selection_outside_the_text_or_of_nothing()
    {
        var source = await server.Paste(study, "P03", "Some words to mark.");
        Assert.Equal(
            400,
            (
                await server.Refused(
                    $"sources/{source}/observations",
                    new
                    {
                        anchor = new
                        {
                            kind = "text",
                            start = 400,
                            end = 900,
                        },
                        tagIds = Array.Empty<long>(),
                        newTags = Array.Empty<string>(),
                        key = (Guid?)null,
                    }
                )
            ).Status
        );
    }

    [Fact]
    public async Task A_participant_code_that_is_taken()
    {
        await server.Person(study, "P03", "Sorrel");
        Assert.Equal(
            (400, "p03 is Sorrel already. Give this person another code."),
            await server.Refused(
                $"studies/{study}/participants",
                new
                {
                    code = "p03",
                    pseudonym = "Wren",
                    realName = (string?)null,
                }
            )
        );
    }

    [Fact]
    public async Task An_attribute_value_that_does_not_fit_its_type()
    {
        var person = await server.Person(study, "P03", "Sorrel");
        async Task<string> Sentence(string kind, string value)
        {
            var attribute = (long)(await server.Post($"studies/{study}/attributes", new { name = kind, kind }))["id"]!;
            var answer = await server.Put(
                $"studies/{study}/participants/cells",
                new
                {
                    cells = new[]
                    {
                        new
                        {
                            participantId = person,
                            column = "attribute",
                            attributeId = attribute,
                            value,
                        },
                    },
                }
            );
            Assert.Null(answer["step"]!["actionId"]);
            return (string)answer["refused"]![0]!["sentence"]!;
        }
        Assert.Contains("“often” does not fit", await Sentence("number", "often"));
        Assert.Contains("2026-03-14", await Sentence("date", "in March"));
        Assert.Contains("yes or no", await Sentence("yesNo", "perhaps"));
    }

    [Fact]
    public async Task A_block_of_cells_is_one_step_and_what_does_not_fit_of_it_is_told()
    {
        var (sorrel, wren) = (await server.Person(study, "P03", "Sorrel"), await server.Person(study, "P02", "Wren"));
        var age = (long)(await server.Post($"studies/{study}/attributes", new { name = "age", kind = "number" }))["id"]!;
        object Block(string first, string second) =>
            new
            {
                cells = new[]
                {
                    new
                    {
                        participantId = sorrel,
                        column = "attribute",
                        attributeId = age,
                        value = first,
                    },
                    new
                    {
                        participantId = wren,
                        column = "attribute",
                        attributeId = age,
                        value = second,
                    },
                },
            };
        async Task<string> Ages() =>
            string.Join(
                ' ',
                (await server.PeopleOf(study)).Select(p =>
                    (string?)p!["values"]![age.ToString(System.Globalization.CultureInfo.InvariantCulture)] ?? "-"
                )
            );
        var answer = await server.Put($"studies/{study}/participants/cells", Block("41", "old"));
        Assert.Equal(wren, (long)Assert.Single(answer["refused"]!.AsArray())!["participantId"]!);
        Assert.Equal("41 -", await Ages());
        await server.Post("undo", new { studyId = study, actionId = (long?)null });
        await server.Put($"studies/{study}/participants/cells", Block("41", "2,5"));
        Assert.Equal("41 2.5", await Ages());
        await server.Post("undo", new { studyId = study, actionId = (long?)null });
        Assert.Equal("- -", await Ages());
    }

    [Fact]
    public async Task An_attribute_of_another_type_says_what_would_be_lost_before_it_is()
    {
        var (sorrel, wren) = (await server.Person(study, "P03", "Sorrel"), await server.Person(study, "P02", "Wren"));
        var age = (long)(await server.Post($"studies/{study}/attributes", new { name = "age", kind = "text" }))["id"]!;
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
                        attributeId = age,
                        value = "41",
                    },
                    new
                    {
                        participantId = wren,
                        column = "attribute",
                        attributeId = age,
                        value = "old",
                    },
                },
            }
        );
        Assert.Equal(
            (409, "One value is not a number. Type digits, such as 12 or 3.5. Say that they may be left out, or change them first."),
            await server.Refused(
                $"studies/{study}/attributes/{age}",
                new
                {
                    name = "age",
                    kind = "number",
                    leaveOut = false,
                },
                HttpMethod.Put
            )
        );
        await server.Put(
            $"studies/{study}/attributes/{age}",
            new
            {
                name = "years",
                kind = "number",
                leaveOut = true,
            }
        );
        Assert.Equal(["41", null], (await server.PeopleOf(study)).Select(p => (string?)p!["values"]!.AsObject().FirstOrDefault().Value));
        await server.Post("undo", new { studyId = study, actionId = (long?)null });
        Assert.Equal(["41", "old"], (await server.PeopleOf(study)).Select(p => (string?)p!["values"]!.AsObject().First().Value));
    }

    [Fact]
    public async Task Json_that_is_none_and_an_address_that_is_none()
    {
        var answer = await server.Http.PostAsync("/api/studies", new StringContent("{ no", Encoding.UTF8, "application/json"));
        Assert.Equal(400, (int)answer.StatusCode);
        Assert.Equal(404, (int)(await server.Http.GetAsync("/api/studies/999")).StatusCode);
        Assert.Contains(
            "is not one of",
            (await TestServer.SentenceOf(await server.Http.GetAsync($"/api/studies/{study}/overlaps?kind=odd"))).Sentence
        );
    }

    [Fact]
    public async Task Two_people_editing_one_insight_the_later_is_told()
    {
        var id = (long)
            (
                await server.Post(
                    $"studies/{study}/insights",
                    new
                    {
                        headline = "One",
                        story = TestServer.Rich(""),
                        observationIds = Array.Empty<long>(),
                    }
                )
            )["id"]!;
        await server.Put($"insights/{id}/headline", new { was = "One", text = "Two" });
        using var request = new HttpRequestMessage(HttpMethod.Put, $"/api/insights/{id}/headline")
        {
            Content = JsonContent.Create(new { was = "One", text = "Three" }),
        };
        using var answer = await server.Http.SendAsync(request);
        Assert.Equal(409, (int)answer.StatusCode);
        var problem = (await answer.Content.ReadFromJsonAsync<JsonNode>())!;
        Assert.Equal("Two", (string)problem["theirs"]!);
        Assert.Contains("Una Kerr changed it", (string)problem["detail"]!);
    }
}
