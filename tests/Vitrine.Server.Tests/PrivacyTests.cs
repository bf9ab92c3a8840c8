using System.IO.Compression;
using System.Text;
using System.Text.Json.Nodes;
using Vitrine.Storage.Backups;

namespace Vitrine.Server.Tests;

/// <summary>What readers are shown under each state of consent, masks, and a withdrawal until nothing is left.</summary>
public sealed class PrivacyTests : IAsyncLifetime, IDisposable
{
    // Words that only one person has said, and that stand nowhere else.
    private const string OnlyTheirs = "zephyrine";
    private const string Group =
        "Una: Who comes?\n\nMarnie: Nobody tells you zephyrine things here, nobody.\n\nRose: The purple boat was late again. "
        + "Marnie Quillfeather said so.\n\nUna: And then?";
    private const string Alone = "Una: Why?\n\nMarnie: I keep the zephyrine timetable on the fridge, ring 01632 960123.\n\nUna: I see.";

    private readonly TestServer server = new();
    private long study;
    private long sorrel;
    private long wren;
    private long group;
    private long insight;
    private string token = "";

    public async Task InitializeAsync()
    {
        await server.SetUp();
        study = await server.Study();
        sorrel = await server.Person(study, "P03", "Sorrel", "Marnie Quillfeather");
        wren = await server.Person(study, "P02", "Wren", "Rose Hollow");
        foreach (var person in new[] { sorrel, wren })
            await Consent(person, "given");
        var (_, _, source) = await server.Upload(study, "marnie group.txt", Encoding.UTF8.GetBytes(Group));
        group = source!.Value;
        var alone = await server.Paste(study, "Marnie alone", Alone);
        foreach (var read in new[] { group, alone })
            await server.Put($"sources/{read}/reading", new { furthest = 30 });
        long[] marks =
        [
            await server.Mark(group, Group, "Nobody tells you zephyrine things here", "told late"),
            await server.Mark(group, Group, "The purple boat was late again.", "told late"),
            await server.Mark(alone, Alone, "I keep the zephyrine timetable on the fridge, ring 01632 960123", "timetable"),
        ];
        await server.Post(
            $"studies/{study}/themes",
            new
            {
                title = "Late",
                description = "They hear late",
                observationIds = marks,
                tagIds = Array.Empty<long>(),
            }
        );
        insight = (long)
            (
                await server.Post(
                    $"studies/{study}/insights",
                    new
                    {
                        headline = "They hear late",
                        story = TestServer.Rich(
                            "“I keep the zephyrine timetable on the fridge, ring 01632 960123”, says Marnie Quillfeather."
                        ),
                        observationIds = marks,
                    }
                )
            )["id"]!;
        var exhibit = (long)(await server.Post("exhibits", new { question = "When do they hear?", summary = "" }))["id"]!;
        await server.Put($"exhibits/{exhibit}/insights", new { insightIds = new[] { insight } });
        token = (string)(await server.Post($"exhibits/{exhibit}/links", new { }))["token"]!;
    }

    public Task DisposeAsync() => Task.CompletedTask;

    public void Dispose() => server.Dispose();

    private async Task<JsonNode> Published() => (await server.Get($"read/{token}"))["insights"]![0]!;

    private Task Consent(long person, string consent) =>
        server.Put($"studies/{study}/participants/consent", new { participantIds = new[] { person }, consent });

    [Theory]
    [InlineData("asked", 1, 2, 2)]
    [InlineData("given", 3, 2, 2)]
    [InlineData("limited", 1, 2, 2)]
    [InlineData("withdrawn", 1, 1, 1)]
    public async Task Consent_decides_what_readers_see(string consent, int quotes, int cells, int people)
    {
        await Consent(sorrel, consent);
        var page = await Published();
        Assert.Equal((quotes, cells, people), (page["quotes"]!.AsArray().Count, page["people"]!.AsArray().Count, (int)page["outOf"]!));
        // In no quote, and in no story into which a researcher has copied one.
        Assert.Equal(consent == "given", page["quotes"]!.ToJsonString().Contains(OnlyTheirs));
        Assert.Equal(consent == "given", TestServer.Plain(page["story"]).Contains(OnlyTheirs));
        var context = await server.Get($"read/{token}/context/{page["quotes"]!.AsArray().Last(q => (string)q!["who"]! == "Wren")!["key"]}");
        Assert.Equal(consent == "given", context.ToJsonString().Contains(OnlyTheirs));
    }

    [Fact]
    public async Task A_quote_over_several_turns_leaves_without_the_turns_of_those_who_want_theirs_kept()
    {
        var across = await server.Mark(group, Group, "The purple boat was late again. Marnie Quillfeather said so.\n\nUna: And then?");
        var both = await server.Mark(
            group,
            Group,
            Group[Group.IndexOf("Who comes", StringComparison.Ordinal)..Group.IndexOf(" Marnie Q", StringComparison.Ordinal)]
        );
        await server.Post($"insights/{insight}/evidence", new { observationIds = new[] { across, both }, stance = "supports" });
        await Consent(sorrel, "limited");
        Assert.DoesNotContain(OnlyTheirs, (await Published())["quotes"]!.ToJsonString());
    }

    [Fact]
    public async Task Whose_words_it_cannot_tell_stays_with_the_team_and_its_page_says_so()
    {
        const string text = "Una: Who waits?\n\nStranger: I always wait here.\n\nStranger: Every day.\n\nUna: And?";
        var unmatched = await server.Paste(study, "Unmatched", text);
        var mark = await server.Mark(unmatched, text, "I always wait here.");
        await server.Post($"insights/{insight}/evidence", new { observationIds = new[] { mark }, stance = "supports" });
        var other = await server.Study("Other");
        await server.Person(other, "P01", "Lark", "Purple Timetable");
        await server.Put(
            $"insights/{insight}/story",
            new
            {
                was = (await server.Get($"insights/{insight}"))["insight"]!["story"]!.DeepClone(),
                text = TestServer.Rich("Purple Timetable and Rose Hollow wait."),
            }
        );
        var page = await Published();
        Assert.DoesNotContain("always wait", page.ToJsonString());
        // Another study's names are looked for nowhere: who sees one replaced has learnt it.
        Assert.Equal("Purple Timetable and Wren wait.", TestServer.Plain(page["story"]));
        var team = await server.Get("exhibits/1");
        var keys = team["insights"]![0]!["evidence"]!
            .AsArray()
            .ToDictionary(e => (long)e!["quote"]!["observationId"]!, e => (string)e!["key"]!);
        var shown = team["shownToReaders"]!.AsArray().Select(k => (string)k!).ToList();
        Assert.Equal((4, 3, false), (keys.Count, shown.Count, shown.Contains(keys[mark])));
        Assert.Equal(page["quotes"]!.AsArray().Select(q => (string)q!["key"]!).Order(), shown.Order());
        // A name that is matched is known from now on.
        var stranger = (await server.Get($"sources/{unmatched}"))["line"]!["speakers"]!
            .AsArray()
            .Single(s => (string)s!["label"]! == "Stranger")!["id"];
        await server.Put($"sources/{unmatched}/speakers/{stranger}", new { participantId = wren, isTeam = false });
        Assert.Contains("I always wait here.", (await Published())["quotes"]!.ToJsonString());
    }

    [Fact]
    public async Task Words_that_a_correction_took_away_stay_with_the_team_until_somebody_has_looked()
    {
        var source = await server.Get($"sources/{group}");
        await server.Put(
            $"sources/{group}/text",
            new { text = Group.Replace("The purple boat was late again. ", ""), basedOn = (string)source["textHash"]! }
        );
        Assert.DoesNotContain("purple boat", (await Published()).ToJsonString());
    }

    [Fact]
    public async Task What_is_found_is_masked_after_a_look_and_never_reaches_readers()
    {
        var found = (
            await server.Post($"studies/{study}/privacy/find", new { sourceIds = Array.Empty<long>(), words = new[] { "fridge" } })
        ).AsArray();
        Assert.Equal(
            ["name Marnie Quillfeather 1", "name Marnie 2", "name Rose 1", "phoneNumber 01632 960123 1", "word fridge 1"],
            found
                .Select(g => $"{g!["kind"]} {g["words"]} {g["places"]!.AsArray().Count}")
                .Order(StringComparer.Ordinal)
                .OrderBy(g => g.Split(' ')[0])
                .ThenByDescending(g => g.Length)
        );
        var masks = found
            .Where(g => (string)g!["kind"]! != "name")
            .SelectMany(g =>
                g!["places"]!
                    .AsArray()
                    .Select(p => new
                    {
                        sourceId = (long)p!["sourceId"]!,
                        start = (int)p["start"]!,
                        end = (int)p["end"]!,
                        kind = (string)g["kind"]!,
                        replacement = (string)g["replacement"]!,
                    })
            );
        await server.Post($"studies/{study}/masks", new { masks });
        var page = await Published();
        Assert.Contains(
            "I keep the zephyrine timetable on the [left out], ring [phone number]",
            page["quotes"]!.AsArray().Select(q => (string)q!["words"]!)
        );
        foreach (var masked in new[] { "960123", "fridge", "Marnie", "Quillfeather" })
            Assert.DoesNotContain(masked, (await server.Get($"read/{token}")).ToJsonString());
        // The team is shown what is masked, and told so.
        var told = (await server.Get($"insights/{insight}"))["evidence"]!
            .AsArray()
            .Select(e => e!["quote"]!)
            .Single(q => ((string)q["words"]!).Contains("fridge"));
        Assert.Equal(
            ["fridge [left out]", "01632 960123 [phone number]"],
            told["masks"]!.AsArray().Select(m => $"{((string)told["words"]!)[(int)m!["start"]!..(int)m["end"]!]} {m["replacement"]}")
        );
        Assert.Contains(
            "“I keep the zephyrine timetable on the [left out], ring [phone number]”, says Sorrel.",
            TestServer.Plain(page["story"])
        );
        // The team can take them off again, and the text under them is as it was.
        await server.Post(
            $"studies/{study}/masks/take-off",
            new { ids = (await server.Get($"studies/{study}/masks")).AsArray().Select(m => (long)m!["id"]!) }
        );
        Assert.Contains("fridge", (await Published())["quotes"]!.ToJsonString());
        await server.Post("undo", new { studyId = study, actionId = (long?)null });
        Assert.DoesNotContain("fridge", (await Published())["quotes"]!.ToJsonString());
        Assert.Equal(
            400,
            (
                await server.Refused(
                    $"studies/{study}/masks",
                    new
                    {
                        masks = new[]
                        {
                            new
                            {
                                sourceId = group,
                                start = 0,
                                end = 5,
                                kind = "word",
                                replacement = " ",
                            },
                        },
                    }
                )
            ).Status
        );
        Assert.Equal(
            409,
            (
                await server.Refused(
                    $"studies/{study}/masks",
                    new
                    {
                        masks = new[]
                        {
                            new
                            {
                                sourceId = group,
                                start = 0,
                                end = 99_999,
                                kind = "word",
                                replacement = "x",
                            },
                        },
                    }
                )
            ).Status
        );
    }

    [Fact]
    public async Task What_looks_like_a_name_is_shown_to_the_team_and_can_be_let_stand_where_it_is_none()
    {
        await server.Put("exhibits/1/summary", new { was = "", text = "At Rose Street, Rose waits. At Rose Street she reads." });
        Assert.Equal("At Wren Street, Wren waits. At Wren Street she reads.", (string)(await server.Get($"read/{token}"))["summary"]!);
        async Task<JsonNode> Street() =>
            (await server.Get("exhibits/1"))["covered"]!.AsArray().Single(c => ((string)c!["words"]!["context"]!) == "at rose street")![
                "words"
            ]!;
        var street = await Street();
        Assert.Equal(("Rose", "Wren", false), ((string)street["words"]!, (string)street["replacement"]!, (bool)street["stands"]!));
        var given = new
        {
            context = (string)street["context"]!,
            words = "Rose",
            stands = true,
        };
        await server.Put($"studies/{study}/let-stand", given);
        Assert.True((bool)(await Street())["stands"]!);
        Assert.Equal("At Rose Street, Wren waits. At Rose Street she reads.", (string)(await server.Get($"read/{token}"))["summary"]!);
        await server.Post("undo", new { studyId = study, actionId = (long?)null });
        Assert.DoesNotContain("Rose", (string)(await server.Get($"read/{token}"))["summary"]!);
    }

    [Fact]
    public async Task Masks_follow_a_corrected_text()
    {
        var at = Group.IndexOf("purple", StringComparison.Ordinal);
        await server.Post(
            $"studies/{study}/masks",
            new
            {
                masks = new[]
                {
                    new
                    {
                        sourceId = group,
                        start = at,
                        end = at + 6,
                        kind = "word",
                        replacement = "[colour]",
                    },
                },
            }
        );
        var source = await server.Get($"sources/{group}");
        await server.Put(
            $"sources/{group}/text",
            new
            {
                text = Group.Replace("Who comes?", "Who is coming here?").Replace("purple", "dark purple"),
                basedOn = (string)source["textHash"]!,
            }
        );
        Assert.Contains((await Published())["quotes"]!.AsArray(), q => ((string)q!["words"]!).Contains("[colour] boat was late"));
        Assert.DoesNotContain("purple", (await Published())["quotes"]!.ToJsonString());

        // Also to another place, when the words are moved there.
        var now = await server.Get($"sources/{group}");
        await server.Put(
            $"sources/{group}/text",
            new
            {
                text = ((string)now["text"]!)
                    .Replace("The dark purple boat was late again. ", "")
                    .Replace("And then?", "And then?\n\nRose: The dark purple boat was late again."),
                basedOn = (string)now["textHash"]!,
            }
        );
        Assert.Contains((await Published())["quotes"]!.AsArray(), q => ((string)q!["words"]!).Contains("[colour] boat was late"));
    }

    [Fact]
    public async Task After_a_withdrawal_and_a_second_word_nothing_of_them_is_left_anywhere()
    {
        // Traces: a corrected text, an undone mark, a note, a title, an attribute, a second look.
        var source = await server.Get($"sources/{group}");
        await server.Put(
            $"sources/{group}/text",
            new
            {
                text = Group.Replace("zephyrine things here, nobody", "zephyrine things, zephyrine ones"),
                basedOn = (string)source["textHash"]!,
            }
        );
        await server.Mark(group, Group, "zephyrine things", "tag by Marnie Quillfeather");
        await server.Post("undo", new { studyId = study, actionId = (long?)null });
        var corrected = (string)(await server.Get($"sources/{group}"))["text"]!;
        await server.Remark(group, corrected, "zephyrine things", "She paints her things zephyrine.");
        await server.Remark(group, corrected, "zephyrine things", "An undone zephyrine remark.");
        await server.Post("undo", new { studyId = study, actionId = (long?)null });
        await server.Remark(group, corrected, "boat was late", "Which boat?");
        var attribute = (long)(await server.Post($"studies/{study}/attributes", new { name = "home", kind = "text" }))["id"]!;
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
                        attributeId = attribute,
                        value = "zephyrine house",
                    },
                },
            }
        );
        var other = await server.Study("Other");
        var stranger = await server.Paste(other, "Another Marnie", "Una: Who?\n\nLark: Marnie of the mill, not Marnie Quillfeather.");
        await server.Put($"exhibits/1/summary", new { text = "Marnie Quillfeather says more.", was = "" });

        var touched = await server.Get($"studies/{study}/participants/{sorrel}/touched");
        Assert.Equal(
            (2, 2, 1, 1, 1),
            (
                touched["sources"]!.AsArray().Count,
                (int)touched["observations"]!,
                touched["themes"]!.AsArray().Count,
                touched["insights"]!.AsArray().Count,
                touched["exhibits"]!.AsArray().Count
            )
        );
        Assert.Equal(
            (409, true),
            await server.Refused($"studies/{study}/participants/{sorrel}/erase", new { code = "P03" }) is var early
                ? (early.Status, early.Sentence.Contains("withdrawn"))
                : default
        );
        await Consent(sorrel, "withdrawn");
        Assert.Equal(400, (await server.Refused($"studies/{study}/participants/{sorrel}/erase", new { code = "P02" })).Status);
        await server.Post($"studies/{study}/participants/{sorrel}/erase", new { code = "p03" });

        // What others said stands where it stood.
        var left = (string)(await server.Get($"sources/{group}"))["text"]!;
        Assert.Equal("Una: Who comes?\n\n(erased)\n\nRose: The purple boat was late again. (erased) said so.\n\nUna: And then?", left);
        Assert.Equal(
            ["The purple boat was late again."],
            (await server.Get($"sources/{group}/observations"))
                .AsArray()
                .Select(o => left[(int)o!["anchor"]!["start"]!..(int)o["anchor"]!["end"]!])
        );
        Assert.Equal(
            ["Which boat?: boat was late"],
            (await server.Get($"sources/{group}/margin-notes"))
                .AsArray()
                .Select(n => $"{n!["words"]}: {left[(int)n["anchor"]!["start"]!..(int)n["anchor"]!["end"]!]}")
        );
        Assert.Equal(["Wren"], (await server.PeopleOf(study)).Select(p => (string)p!["pseudonym"]!));
        Assert.Equal("“(erased)”, says (erased).", TestServer.Plain((await server.Get($"insights/{insight}"))["insight"]!["story"]));
        // Someone else of the same first name, in another study, keeps it.
        Assert.Equal("Una: Who?\n\nLark: Marnie of the mill, not (erased).", (string)(await server.Get($"sources/{stranger}"))["text"]!);
        await server.Http.DeleteAsync($"/api/sources/{stranger}");
        Assert.Empty(WorkspaceCheck.Of(server.Folder).Problems);
        var backup = Path.Combine(server.Folder, "after.backup");
        Backup.Make(server.Folder, backup, DateTimeOffset.UtcNow);
        ZipFile.ExtractToDirectory(backup, Path.Combine(server.Folder, "after"));
        foreach (var word in new[] { OnlyTheirs, "Quillfeather", "960123" })
        {
            foreach (var file in Directory.GetFiles(server.Folder, "*", SearchOption.AllDirectories))
                Assert.False(Holds(file, word), $"{word} in {Path.GetRelativePath(server.Folder, file)}");
            Assert.DoesNotContain(word, (await server.Get($"read/{token}")).ToJsonString());
            Assert.Empty((await server.Get($"search?typed={word}")).AsArray());
        }
        // Steps of which something is gone are told no more; the others can still be undone.
        Assert.Single((await server.Get($"steps?studyId={study}")).AsArray(), s => s!.ToJsonString().Contains("Marked"));
        await server.Person(study, "P09", "Rowan");
        await server.Post("undo", new { studyId = study, actionId = (long?)null });
        Assert.Single((await server.PeopleOf(study)));
    }

    private static bool Holds(string file, string word)
    {
        using var stream = new FileStream(file, FileMode.Open, FileAccess.Read, FileShare.ReadWrite | FileShare.Delete);
        var bytes = new byte[stream.Length];
        stream.ReadExactly(bytes);
        return Encoding.Latin1.GetString(bytes).Contains(word, StringComparison.OrdinalIgnoreCase);
    }
}
