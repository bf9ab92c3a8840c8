using System.Text;
using System.Text.Json.Nodes;
using Vitrine.Storage.Backups;

namespace Vitrine.Server.Tests;

/// <summary>
/// Someone is erased of whom something stands in what others share: a recording, notes and a picture of two, the table of a survey, words
/// that were copied before their transcript was corrected, a name in every form. A tone of 300 Hz stands for her voice, one of 600 Hz for
/// the other's.
/// </summary>
public sealed class ErasureTests() : Recorded(new SharedServer())
{
    private const double Hers = 300;
    private const double Others = 600;
    private const string Captions =
        "WEBVTT\n\n00:00.000 --> 00:01.900\n<v Célestine>I keep the zephyrine lantern by the back door at night.\n\n"
        + "00:02.000 --> 00:04.000\n<v Rose>The purple boat was late again that day.";
    private const string Notes = "Both wait at the hut.\n\nShe sleeps under the zephyrine blanket in the bow.\n\nRose watches the bell.";

    private long celestine;
    private long rose;
    private long recording;
    private long talk;
    private long notes;
    private long picture;
    private byte[] sound = [];

    public override async Task InitializeAsync()
    {
        // A server of its own each: whatever stands in one workspace may be what another test looks for.
        await server.SetUp();
        await base.InitializeAsync();
        celestine = await server.Person(study, "P01", "Wren", "Célestine Quillfeather");
        rose = await server.Person(study, "P02", "Sorrel", "Rose Hollow");
        await Consent(rose, "given");
        var path = Path.Combine(made.FullName, "talk.wav");
        const string tones = "aevalsrc='if(lt(t,2),0.4*sin(2*PI*300*t),0.4*sin(2*PI*600*t))':s=16000:d=4";
        Run("ffmpeg", [.. "-v error -y -f lavfi -i".Split(' '), tones, path]);
        (recording, _) = await Ready("celestine.wav", sound = await File.ReadAllBytesAsync(path));
        talk = (await server.Upload(study, "talk.vtt", Encoding.UTF8.GetBytes(Captions))).SourceId!.Value;
        foreach (var (label, person) in new[] { ("Célestine", celestine), ("Rose", rose) })
        {
            var speaker = (await server.Get($"sources/{talk}"))["line"]!["speakers"]!.AsArray().Single(s => (string)s!["label"]! == label)![
                "id"
            ];
            await server.Put($"sources/{talk}/speakers/{speaker}", new { participantId = person, isTeam = false });
        }
        Run("ffmpeg", [.. "-v error -y -f lavfi -i color=white:size=80x40 -frames:v 1".Split(' '), Path.Combine(made.FullName, "two.png")]);
        picture = (await server.Upload(study, "two.png", await File.ReadAllBytesAsync(Path.Combine(made.FullName, "two.png"))))
            .SourceId!
            .Value;
        notes = await server.Paste(study, "Notes of two", Notes);
        await server.Post(
            $"studies/{study}/sessions",
            new
            {
                text = new
                {
                    title = "Together",
                    kind = "interview",
                    heldOn = (string?)null,
                    minutes = (int?)null,
                    moderator = "",
                    participantIds = new[] { celestine, rose },
                },
                sourceIds = new[] { recording, talk, notes, picture },
            }
        );
    }

    public override Task DisposeAsync()
    {
        server.Dispose();
        return Task.CompletedTask;
    }

    private Task Consent(long person, string consent) =>
        server.Put($"studies/{study}/participants/consent", new { participantIds = new[] { person }, consent });

    private Task<JsonNode> Touched() => server.Get($"studies/{study}/participants/{celestine}/touched");

    private async Task<(long Insight, string Token)> Publish(string story, params long[] marks)
    {
        var insight = await server.Post(
            $"studies/{study}/insights",
            new
            {
                headline = "They wait",
                story = TestServer.Rich(story),
                observationIds = marks,
            }
        );
        var exhibit = (long)(await server.Post("exhibits", new { question = "Who waits?", summary = "" }))["id"]!;
        await server.Put($"exhibits/{exhibit}/insights", new { insightIds = new[] { (long)insight["id"]! } });
        return ((long)insight["id"]!, (string)(await server.Post($"exhibits/{exhibit}/links", new { }))["token"]!);
    }

    private async Task Cover() =>
        await server.Put(
            $"sources/{picture}/protection",
            new
            {
                voiceChanged = false,
                covers = new[]
                {
                    new
                    {
                        look = "solid",
                        x = 0,
                        y = 0,
                        width = 5000,
                        height = 10000,
                        beginMs = (int?)null,
                        endMs = (int?)null,
                    },
                },
            }
        );

    private object Decision(long source, string what, params (int Start, int End)[] ranges) =>
        new
        {
            sourceId = source,
            what,
            ranges = ranges.Select(r => new { start = r.Start, end = r.End }),
            basedOn = what == "takeOut" ? Vitrine.Core.Text.ContentHash.Of(Notes) : null,
        };

    [Fact]
    public async Task What_others_share_is_decided_first_and_nobody_who_remains_is_credited_with_it()
    {
        await Consent(celestine, "withdrawn");
        string Choices(JsonNode touched, long source) =>
            string.Join(' ', touched["sources"]!.AsArray().Single(s => (long)s!["id"]! == source)!["choices"]!.AsArray());
        var touched = await Touched();
        Assert.Equal("silence nothingOfTheirs remove", Choices(touched, recording));
        Assert.Equal("takeOut nothingOfTheirs remove", Choices(touched, notes));
        Assert.Equal("nothingOfTheirs remove", Choices(touched, picture));
        // Of the transcript every turn is known to be somebody's.
        Assert.Equal("", Choices(touched, talk));
        await Cover();
        Assert.Equal("cover nothingOfTheirs remove", Choices(await Touched(), picture));

        var clip = (long)
            (
                await server.Post(
                    $"sources/{recording}/observations",
                    new
                    {
                        anchor = new
                        {
                            kind = "time",
                            beginMs = 2200,
                            endMs = 3800,
                        },
                        tagIds = Array.Empty<long>(),
                        newTags = Array.Empty<string>(),
                    }
                )
            )["id"]!;
        var (first, second) = (Notes.IndexOf("She sleeps", StringComparison.Ordinal), Notes.IndexOf("\n\nRose", StringComparison.Ordinal));
        long[] marks =
        [
            clip,
            await server.Mark(notes, Notes, "under the zephyrine blanket"),
            await server.Mark(notes, Notes, "wait at the hut"),
        ];
        var (insight, token) = await Publish("", marks);
        // Until it is decided, nothing of it leaves; and nothing is erased.
        Assert.Empty((await server.Get($"read/{token}"))["insights"]![0]!["quotes"]!.AsArray());
        var refused = await server.Refused(
            $"studies/{study}/participants/{celestine}/erase",
            new { code = "P01", shared = new[] { Decision(recording, "silence"), Decision(picture, "cover") } }
        );
        Assert.Equal((400, true), (refused.Status, refused.Sentence.Contains("“Notes of two”")));
        Assert.Equal(
            409,
            (
                await server.Refused(
                    $"studies/{study}/participants/{celestine}/erase",
                    new
                    {
                        code = "P01",
                        shared = new object[]
                        {
                            Decision(recording, "silence"),
                            Decision(picture, "cover"),
                            new
                            {
                                sourceId = notes,
                                what = "takeOut",
                                basedOn = "another",
                            },
                        },
                    }
                )
            ).Status
        );
        Assert.Equal(
            400,
            (
                await server.Refused(
                    $"studies/{study}/participants/{celestine}/erase",
                    new { code = "P01", shared = new[] { Decision(notes, "takeOut", (5, 3)) } }
                )
            ).Status
        );
        Assert.Equal(2, (await server.PeopleOf(study)).Count);

        await server.Post(
            $"studies/{study}/participants/{celestine}/erase",
            new
            {
                code = "P01",
                shared = new[] { Decision(recording, "silence"), Decision(picture, "cover"), Decision(notes, "takeOut", (first, second)) },
            }
        );

        // Her voice is out of the file and of all that was made of it; the other's is there.
        while ((string)(await server.Get($"sources/{recording}/recording"))["state"]! != "ready")
            await Task.Delay(20);
        var path = Path.Combine(made.FullName, "after.wav");
        await File.WriteAllBytesAsync(path, await server.Http.GetByteArrayAsync($"/api/sources/{recording}/media"));
        Assert.InRange(Strength(path, Hers, 0, 1.9), 0, 0.001);
        Assert.InRange(Strength(path, Others, 2.1, 1.7), 0.2, 1);
        Assert.InRange(Length(path), 3_950, 4_050);
        Assert.Empty(Directory.GetFileSystemEntries(server.Folder, Hash(sound), SearchOption.AllDirectories));
        var shown = Path.Combine(made.FullName, "after.png");
        await File.WriteAllBytesAsync(shown, await server.Http.GetByteArrayAsync($"/api/sources/{picture}/media"));
        Assert.Equal([0x2b, 0x3a, 0x3f, 255, 255, 255], [.. Pixel(shown, 10, 20), .. Pixel(shown, 70, 20)]);
        // Her words are out of the notes, with what was marked there.
        Assert.Equal(
            "Both wait at the hut.\n\n(erased)\n\nRose watches the bell.",
            (string)(await server.Get($"sources/{notes}"))["text"]!
        );
        var evidence = (await server.Get($"insights/{insight}"))["evidence"]!.AsArray();
        Assert.Equal(
            [(clip, rose), (marks[2], 0L)],
            evidence.Select(e => ((long)e!["quote"]!["observationId"]!, (long?)e["quote"]!["participantId"] ?? 0))
        );
        // Whoever remains is heard; what nobody is known to have said stays inside.
        var quotes = (await server.Get($"read/{token}"))["insights"]![0]!["quotes"]!.AsArray();
        Assert.Equal("Sorrel", (string)Assert.Single(quotes)!["who"]!);
        Assert.Empty(WorkspaceCheck.Of(server.Folder).Problems);
    }

    [Fact]
    public async Task The_table_of_a_survey_goes_with_its_row_and_the_others_keep_what_they_answered()
    {
        var key = (
            await server.Post(
                $"studies/{study}/imports/pasted-table",
                new { name = "Ferry poll", text = "Name,Why\nP01,I like the zephyrine sails best of all of them\nP02,It is late\n" }
            )
        )["key"]!;
        await server.Post(
            $"studies/{study}/imports/{key}/survey",
            new
            {
                name = "Ferry poll",
                headerRows = 1,
                columns = new[]
                {
                    new
                    {
                        name = "Name",
                        role = "who",
                        kind = "text",
                    },
                    new
                    {
                        name = "Why",
                        role = "openAnswer",
                        kind = "text",
                    },
                },
            }
        );
        await server.Ended(study, new JsonObject { ["key"] = (string)key! });
        Assert.NotEmpty((await server.Get($"studies/{study}/attachments")).AsArray());
        await Consent(celestine, "withdrawn");
        Assert.Equal("Ferry poll", (string)(await Touched())["files"]!.AsArray().Single()!["title"]!);
        await Erase();
        Assert.Empty((await server.Get($"studies/{study}/attachments")).AsArray());
        Assert.Contains((await server.SourcesOf(study)), s => ((string)s!["title"]!).Contains("Ferry poll"));
        OnDisk("zephyrine sails", "Quillfeather");
    }

    [Fact]
    public async Task Words_are_known_by_every_text_and_names_in_every_form_and_undo_brings_nothing_back()
    {
        // A story quotes the transcript as it was before it was corrected.
        const string copied = "I keep the zephyrine lantern by the back door";
        var mark = await server.Mark(talk, (string)(await server.Get($"sources/{talk}"))["text"]!, "purple boat was late again");
        var (insight, token) = await Publish($"“{copied}”, she says.", mark);
        var source = await server.Get($"sources/{talk}");
        await server.Put(
            $"sources/{talk}/text",
            new
            {
                text = ((string)source["text"]!).Replace("zephyrine lantern by the back", "lamp near the", StringComparison.Ordinal),
                basedOn = (string)source["textHash"]!,
            }
        );
        foreach (var consent in new[] { "limited", "withdrawn" })
        {
            await Consent(celestine, consent);
            Assert.DoesNotContain("zephyrine", (await server.Get($"read/{token}")).ToJsonString());
        }
        // In the notes of two a line of hers was taken out long ago.
        var both = await server.Paste(
            study,
            "Lines",
            "Célestine: I mend the zephyrine nets on Sundays when it blows.\n\nRose: It is late."
        );
        var hers = (await server.Get($"sources/{both}"))["line"]!["speakers"]!.AsArray().Single(s => (string)s!["label"]! == "Célestine")![
            "id"
        ];
        await server.Put($"sources/{both}/speakers/{hers}", new { participantId = celestine, isTeam = false });
        await server.Put(
            $"sources/{both}/text",
            new { text = "Rose: It is late.", basedOn = (string)(await server.Get($"sources/{both}"))["textHash"]! }
        );
        // Also words that no turn of hers holds any more, in a story that leaves.
        await server.Put(
            $"insights/{insight}/story",
            new
            {
                was = TestServer.Rich($"“{copied}”, she says."),
                text = TestServer.Rich("I mend the zephyrine nets on Sundays when it blows, she says."),
            }
        );
        Assert.DoesNotContain("zephyrine", (await server.Get($"read/{token}")).ToJsonString());
        // Her name in forms, one of them with an escaped letter in a rule.
        string[] forms =
        [
            "CÉLESTINE QUILLFEATHER",
            "Celestine\u00A0Quillfeather’s",
            "Ce\u0301lestine Quill\u00ADfeather",
            "célestine.quillfeather@mail.example",
        ];
        foreach (var form in forms)
            await server.Remark(talk, (string)(await server.Get($"sources/{talk}"))["text"]!, "purple boat", $"As {form} says.");
        await server.Post(
            $"studies/{study}/watches",
            new
            {
                name = "Hers",
                rule = new
                {
                    words = new[] { "Célestine Quillfeather" },
                    allWords = false,
                    sender = "",
                },
                alsoPast = false,
            }
        );
        await server.Put(
            $"studies/{study}/let-stand",
            new
            {
                context = "the quillfeather inn",
                words = "Quillfeather",
                stands = true,
            }
        );
        await server.Put($"insights/{insight}/headline", new { was = "They wait", text = "Célestine Quillfeather waits" });
        await Erase();
        OnDisk("zephyrine", "quillfeather", "lestine", "lamp near");
        Assert.Equal(
            ["As (erased) says.", "As (erased)’s says.", "As (erased) says.", "As (erased)@mail.example says."],
            (await server.Get($"sources/{talk}/margin-notes")).AsArray().Select(n => (string)n!["words"]!)
        );

        // Whatever of the steps before can still be undone brings nothing back.
        while (
            (
                await server.Http.PostAsync("/api/undo", Walks.Things.Json(new { studyId = study, actionId = (long?)null }))
            ).IsSuccessStatusCode
        )
            OnDisk("zephyrine", "quillfeather", "lestine", "lamp near");
        Assert.Empty(WorkspaceCheck.Of(server.Folder).Problems);

        // Somebody brings the words back: the check says so, by hashes that hold no word.
        await server.Paste(study, "From an old backup", "Somebody: I keep the zephyrine lantern by the back door at night.");
        Assert.Contains(
            WorkspaceCheck.Of(server.Folder).Problems,
            p => p.StartsWith("Words that were erased at", StringComparison.Ordinal)
        );
    }

    private async Task Erase()
    {
        await Consent(celestine, "withdrawn");
        await server.Post(
            $"studies/{study}/participants/{celestine}/erase",
            new { code = "P01", shared = new[] { Decision(recording, "remove"), Decision(picture, "remove"), Decision(notes, "remove") } }
        );
    }

    private static string Hash(byte[] bytes) => Convert.ToHexStringLower(System.Security.Cryptography.SHA256.HashData(bytes));
}
