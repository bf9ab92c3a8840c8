using System.Globalization;
using System.IO.Compression;
using System.Net;
using System.Text;
using System.Text.Json.Nodes;
using System.Text.RegularExpressions;
using Vitrine.Core.RichTexts;
using Vitrine.Server.Media;
using Vitrine.Server.Sort.TagSet;
using Vitrine.Storage.Backups;

namespace Vitrine.Server.Tests.Walks;

/// <summary>
/// Somebody who wants to know what the people who were studied keep inside: what is secret, wherever it was put, after whatever changed, by
/// every way out. The ways are taken from the API document: all that a link gives, and every answer that is no JSON, but for those that are
/// named here as the team's own; so that one that is added cannot be forgotten. Files are opened, and all of it is searched by letters
/// alone, so that no form hides a word.
/// </summary>
public sealed partial class AdversaryWalk() : Recorded(new SharedServer())
{
    /// <summary>What the team gets as it came in.</summary>
    private static readonly string[] OfTheTeam =
    [
        "/api/sources/{id}/original",
        "/api/sources/{id}/media",
        "/api/sources/{id}/peaks",
        "/api/sources/{id}/poster",
        "/api/studies/{studyId}/attachments/{id}/original",
        "/api/openapi.json",
    ];

    /// <summary>The formats of ways that have several; a way with formats that is not here fails.</summary>
    private static readonly Dictionary<string, string[]> Formats = new()
    {
        ["/api/observations/{id}/cutout"] = Enum.GetNames<CutoutFormat>(),
        ["/api/studies/{studyId}/codebook"] = Enum.GetNames<CodebookFormat>(),
    };

    // Letters that stand in no word by chance.
    private const string Real = "Gwendolyne Quillfeather";
    private const string Kept = "saffron kettles under the seventh bench at night";
    private const string Earlier = "vermilion ladders behind the ninth door by day";
    private const string Masked = "Brasslatch Hollow";
    private const string Later = "Thornapple Quay";
    private const string Unmatched = "the marmalade bell rings twice before every tide";

    private static readonly string Text =
        $"Una: Who keeps them?\n\nAlder: I am {Real}, and I wait at {Masked} and at {Later} each morning.\n\n"
        + $"Kay: I keep the {Kept}, and the {Earlier}.\n\nStranger: I say {Unmatched}.\n\nAlder: The purple boat was late again, says Hesperine.";

    private long gwen;
    private long kay;
    private long talk;
    private long recording;
    private long written;
    private long picture;
    private long insight;
    private long exhibit;
    private string token = "";
    private Dictionary<string, JsonNode?> known = [];
    private List<long> marks = [];
    private IReadOnlyList<Operation> ways = [];

    public override async Task InitializeAsync()
    {
        await server.SetUp();
        await base.InitializeAsync();
        gwen = await server.Person(study, "P01", "Alder", Real);
        kay = await server.Person(study, "P02", "Willow", "Kaspian Mooncalf");
        await Consent(gwen, "given");
        await Consent(kay, "limited");
        // Every form of the name, the masked word and what is kept, in everything that the team writes.
        var all = string.Join("; ", Forms(Real).Concat(Forms(Masked)).Concat([Kept, Earlier, $"“{Kept.ToUpperInvariant()}”", Unmatched]));
        await server.Put(
            $"studies/{study}",
            new
            {
                version = 1,
                text = new
                {
                    title = $"About {Forms(Real).First()}",
                    purpose = all,
                    method = all,
                    researchQuestions = new[] { Real },
                },
            }
        );
        talk = await server.Paste(study, $"Talk with {Real}", Text);
        await Match(talk, ("Alder", gwen), ("Kay", kay));
        await Mask(talk, Text, Masked);
        var cues =
            $"WEBVTT\n\n00:00.000 --> 00:01.900\n<v Alder>I am {Real} of {Masked}.\n\n"
            + $"00:02.000 --> 00:04.000\n<v Kay>I keep the {Kept}.";
        var path = Path.Combine(made.FullName, "talk.mp4");
        Run(
            "ffmpeg",
            [
                .. "-v error -y -f lavfi -i testsrc=size=160x90:rate=5:duration=4 -f lavfi -i".Split(' '),
                "aevalsrc='if(lt(t,2),0.4*sin(2*PI*300*t),0.4*sin(2*PI*600*t))':s=16000:d=4",
                .. "-c:v libx264 -pix_fmt yuv420p -c:a aac -metadata".Split(' '),
                $"title={Real}",
                path,
            ]
        );
        (recording, _) = await Ready("gwendolyne quillfeather.mp4", await File.ReadAllBytesAsync(path));
        written = (await server.Upload(study, "cues.vtt", Encoding.UTF8.GetBytes(cues))).SourceId!.Value;
        await Match(written, ("Alder", gwen), ("Kay", kay));
        await Mask(written, (string)(await server.Get($"sources/{written}"))["text"]!, Masked);
        await server.SessionOf(study, recording, written);
        var red = Path.Combine(made.FullName, "red.png");
        Run(
            "ffmpeg",
            [
                .. "-v error -y -f lavfi -i color=blue:size=80x80,drawbox=x=0:y=50:w=30:h=30:color=red:t=fill -frames:v 1 -metadata".Split(
                    ' '
                ),
                $"title={Real}",
                red,
            ]
        );
        picture = (await server.Upload(study, $"{Real}.png", await File.ReadAllBytesAsync(red))).SourceId!.Value;
        await server.Put(
            $"sources/{picture}",
            new
            {
                title = "A picture",
                kind = "document",
                heldOn = (string?)null,
                sessionId = (long?)null,
                participantIds = new[] { gwen },
            }
        );
        marks =
        [
            await server.Mark(
                talk,
                Text,
                Text[Text.IndexOf("I am", StringComparison.Ordinal)..Text.IndexOf("\n\nKay", StringComparison.Ordinal)],
                "waits"
            ),
            await server.Mark(
                talk,
                Text,
                Text[Text.IndexOf("each morning", StringComparison.Ordinal)..Text.IndexOf("\n\nAlder: The", StringComparison.Ordinal)],
                "waits"
            ),
            await server.Mark(talk, Text, "The purple boat was late again, says Hesperine.", "late"),
            await Clip(100, 1800),
            await Clip(1000, 3000),
            await Clip(2100, 3900),
            await Part(),
        ];
        foreach (var mark in marks)
            await server.Put($"observations/{mark}/note", new { was = "", text = all });
        foreach (var tag in (await server.Get($"studies/{study}/tags")).AsArray())
        {
            await server.Put(
                $"tags/{tag!["id"]}",
                new
                {
                    version = (long)tag["version"]!,
                    text = new
                    {
                        name = $"{tag["name"]} {Real}",
                        parentId = (long?)null,
                        colour = (int?)null,
                        definition = all,
                        settled = true,
                        scale = (object?)null,
                        isNot = all,
                        aliases = new[] { $"{tag["name"]} of {Masked}" },
                    },
                }
            );
            await server.Put(
                $"observations/{((string)tag["name"]! == "late" ? marks[2] : marks[0])}/tags/{tag["id"]}/example",
                new { example = true }
            );
        }
        insight = (long)
            (
                await server.Post(
                    $"studies/{study}/insights",
                    new
                    {
                        headline = $"{Forms(Real).Last()} waits at {Masked}",
                        story = Story(all, marks),
                        observationIds = marks,
                    }
                )
            )["id"]!;
        exhibit = (long)
            (await server.Post("exhibits", new { question = $"Why does {Forms(Real).ElementAt(5)} wait at {Masked}?", summary = all }))[
                "id"
            ]!;
        await server.Put($"exhibits/{exhibit}/insights", new { insightIds = new[] { insight } });
        token = (string)(await server.Post($"exhibits/{exhibit}/links", new { }))["token"]!;
        known = new Dictionary<string, JsonNode?>
        {
            ["studyId"] = study,
            ["insightId"] = insight,
            ["token"] = token,
            ["format"] = "csv",
        };
        ways = await Ways();
    }

    public override Task DisposeAsync()
    {
        server.Dispose();
        return Task.CompletedTask;
    }

    /// <summary>One round for the tests; as many as are asked for, in orders by chance and in all formats, for the bench.</summary>
    public static TheoryData<int> Rounds =>
        [.. Enumerable.Range(0, int.TryParse(Environment.GetEnvironmentVariable("VITRINE_ADVERSARY"), out var rounds) ? rounds : 1)];

    [Theory]
    [MemberData(nameof(Rounds))]
    public async Task Nothing_of_what_is_secret_leaves_by_any_way_after_any_change(int round)
    {
        string[] always = [Real, "Gwendolyne", "Quillfeather", Masked, Kept, Earlier, Unmatched];
        // What may leave does, or the walk would find nothing where nothing is.
        var first = await Look("as it is", always, formats: true);
        foreach (var leaves in new[] { Later, "purple boat was late", "Hesperine", "Alder" })
            Assert.Contains(Letters(leaves), Letters(first));
        Assert.Contains("png_pipe", first);

        var changes = Changes(always);
        if (round > 0)
            new Random(round).Shuffle(changes);
        foreach (var (state, change, gone, back) in changes)
        {
            await change();
            await Look(state, gone(), formats: round > 0);
            if (back is not null)
                await back();
        }

        // Says no, and is erased: nothing is on the disk, nor in a backup that is made now.
        await Consent(kay, "withdrawn");
        await Look("withdrawn", [.. always, "Willow"]);
        await server.Post(
            $"studies/{study}/participants/{kay}/erase",
            new
            {
                code = "P02",
                shared = (await server.Get($"studies/{study}/participants/{kay}/touched"))["sources"]!
                    .AsArray()
                    .Where(s => s!["choices"]!.AsArray().Count > 0)
                    .Select(s => new
                    {
                        sourceId = (long)s!["id"]!,
                        what = (string)s["choices"]![0]! is "silence" ? "silence" : "nothingOfTheirs",
                        basedOn = (string?)null,
                    }),
            }
        );
        while ((string)(await server.Get($"sources/{recording}/recording"))["state"]! != "ready")
            await Task.Delay(20);
        await Look("erased", always);
        OnDisk(Kept, Earlier, "Mooncalf");
        Assert.Empty(WorkspaceCheck.Of(server.Folder).Problems);

        await Consent(gwen, "limited");
        await Look("all want theirs kept", [.. always, Later, "purple boat"]);

        // The link is taken back.
        var link = (await server.Get($"exhibits/{exhibit}"))["links"]![0]!["id"];
        await server.Http.DeleteAsync($"/api/exhibits/{exhibit}/links/{link}");
        using var reader = server.Stranger();
        foreach (var way in ways.Where(w => w.Path.Contains("{token}")))
            Assert.Equal(
                HttpStatusCode.NotFound,
                (await reader.GetAsync(way.Path.Replace("{token}", token).Replace("{evidenceKey}", "1"))).StatusCode
            );
    }

    /// <summary>What changes afterwards, what must be gone then, and how it is taken back.</summary>
    private (string State, Func<Task> Change, Func<IReadOnlyList<string>> Gone, Func<Task>? Back)[] Changes(string[] always)
    {
        string[] masked = [];
        IReadOnlyList<string> Gone(params string[] more) => [.. always, .. masked, .. more];
        Task Undone() => server.Post("undo", new { studyId = study, actionId = (long?)null });
        return
        [
            (
                "masked, what left before",
                async () =>
                {
                    await Mask(talk, (string)(await server.Get($"sources/{talk}"))["text"]!, Later);
                    masked = [Later];
                },
                () => Gone(),
                null
            ),
            ("another speaker", () => Match(talk, ("Alder", kay)), () => Gone("purple boat was late"), Undone),
            (
                "another name, which nobody had looked for",
                () =>
                    server.Put(
                        $"studies/{study}/participants/{gwen}",
                        new
                        {
                            code = "P01",
                            pseudonym = "Alder",
                            realName = "Hesperine Dray",
                        }
                    ),
                () => [.. Gone("Hesperine").Except([Real, "Gwendolyne", "Quillfeather"])],
                Undone
            ),
            (
                "tagged blind",
                async () =>
                {
                    (await server.Person("Tom", "steward")).Dispose();
                    await server.Put($"sources/{talk}/blind", new { accountIds = new[] { 1, 2 } });
                },
                () => Gone("purple boat was late"),
                () => server.Post($"sources/{talk}/blind/open", new { })
            ),
            (
                "corrected, what was copied before",
                async () =>
                {
                    var source = await server.Get($"sources/{talk}");
                    var text = ((string)source["text"]!).Replace($", and the {Earlier}", "", StringComparison.Ordinal);
                    await server.Put($"sources/{talk}/text", new { text, basedOn = (string)source["textHash"]! });
                },
                () => Gone(),
                null
            ),
        ];
    }

    /// <summary>All ways out, from the API document.</summary>
    private async Task<IReadOnlyList<Operation>> Ways()
    {
        var document = JsonNode.Parse(await server.Http.GetStringAsync("/api/openapi.json"))!;
        var noJson = document["paths"]!
            .AsObject()
            .Where(p =>
                p.Value!["get"] is { } get && get["responses"]!.AsObject().All(r => r.Value!["content"]?["application/json"] is null)
            )
            .Select(p => p.Key)
            .ToHashSet();
        var found = (await ApiDocument.Operations(server.Http))
            .Where(o => o.Method == "GET" && !OfTheTeam.Contains(o.Path))
            .Where(o =>
                o.Path.StartsWith("/api/read/", StringComparison.Ordinal)
                || noJson.Contains(o.Path)
                || o.Query.Any(q => q.Name == "asReaders")
            )
            .ToList();
        Assert.All(found.Where(o => o.Query.Any(q => q.Name == "format")), o => Assert.Contains(o.Path, Formats.Keys));
        Assert.True(found.Count >= 7, string.Join(' ', found));
        return found;
    }

    /// <summary>Goes every way, opens what it is given, and looks for what is secret by letters alone.</summary>
    /// <returns>All that was told.</returns>
    private async Task<string> Look(string state, IReadOnlyList<string> secrets, bool formats = false)
    {
        var told = new StringBuilder();
        var leaks = new List<string>();
        using var reader = server.Stranger();
        foreach (var way in ways)
        {
            foreach (var address in await Addresses(way, formats))
            {
                using var answer = await (way.Path.Contains("{token}") ? reader : server.Http).GetAsync(address);
                var bytes = await answer.Content.ReadAsByteArrayAsync();
                var said =
                    $"{answer.Headers} {Uri.UnescapeDataString(answer.Content.Headers.ToString())} {Opened(bytes, answer.Content.Headers.ContentType?.MediaType)}";
                // What stands between two parts of a line parts no name.
                var letters = Letters(said) + Letters(BetweenParts().Replace(said, ""));
                leaks.AddRange(
                    secrets.Where(s => letters.Contains(Letters(s), StringComparison.Ordinal)).Select(s => $"{state}: {s} by {address}")
                );
                told.AppendLine(said);
            }
        }
        Assert.True(leaks.Count == 0, string.Join('\n', leaks));
        return told.ToString();
    }

    private async Task<IReadOnlyList<string>> Addresses(Operation way, bool formats)
    {
        var read = way.Path.Contains("{token}");
        IEnumerable<string> bases =
            way.Path.Contains("{evidenceKey}") ? (await Keys()).Select(k => way.Path.Replace("{token}", token).Replace("{evidenceKey}", k))
            : way.Path.StartsWith("/api/observations/", StringComparison.Ordinal) ? marks.Select(m => way.Path.Replace("{id}", $"{m}"))
            : [way.Address(known, null).Split('?')[0]];
        return
        [
            .. bases.SelectMany(b =>
            {
                var query = way.Query.Select(q => q.Name).Intersect(["asReaders", "captioned"]).Select(q => $"{q}=true").ToList();
                var several = Formats.TryGetValue(way.Path, out var f)
                    ? (formats || way.Query.Any(q => q.Name == "format" && q.Required) ? f : f.Take(1))
                    : [];
                return several.Any() && !read
                    ? several.Select(format => $"{b}?{string.Join('&', query.Append($"format={format.ToLowerInvariant()}"))}")
                    : [query.Count == 0 ? b : $"{b}?{string.Join('&', query)}"];
            }),
        ];
    }

    private async Task<IEnumerable<string>> Keys()
    {
        // Also of what is not shown: an adversary may know a key from before.
        using var reader = server.Stranger();
        var page = JsonNode.Parse(await reader.GetStringAsync($"/api/read/{token}"))!;
        return page["insights"]!
            .AsArray()
            .SelectMany(i => i!["quotes"]!.AsArray())
            .Select(q => (string)q!["key"]!)
            .Concat((await server.Get($"insights/{insight}"))["evidence"]!.AsArray().Select(e => (string)e!["key"]!))
            .Distinct();
    }

    /// <summary>What is in a file: the text of each part of a zip, what a recording says of itself, and whose voice is heard in
    /// it.</summary>
    private string Opened(byte[] bytes, string? type)
    {
        if (bytes.AsSpan().StartsWith("PK"u8))
        {
            using var zip = new ZipArchive(new MemoryStream(bytes));
            return string.Join(
                ' ',
                zip.Entries.Select(e =>
                {
                    using var part = new StreamReader(e.Open());
                    return $"{e.FullName} {WebUtility.HtmlDecode(Tags().Replace(part.ReadToEnd(), ""))}";
                })
            );
        }
        if (type?.StartsWith("image/", StringComparison.Ordinal) == true)
        {
            // What nobody may see is red, and stands outside of the outline.
            var (picture, raw) = (Path.Combine(made.FullName, "seen"), Path.Combine(made.FullName, "seen.raw"));
            File.WriteAllBytes(picture, bytes);
            Run("ffmpeg", [.. "-v error -y -i".Split(' '), picture, .. "-frames:v 1 -f rawvideo -pix_fmt rgb24".Split(' '), raw]);
            Assert.DoesNotContain(File.ReadAllBytes(raw).Chunk(3), p => p is [> 180, < 80, < 80]);
            return Run("ffprobe", "-v", "error", "-show_format", "-show_streams", picture);
        }
        if (type?.Split('/')[0] is not ("audio" or "video"))
            return WebUtility.HtmlDecode(Encoding.UTF8.GetString(bytes));
        var path = Path.Combine(made.FullName, "clip");
        File.WriteAllBytes(path, bytes);
        // The voice of who keeps theirs is a tone of 600 Hz.
        Assert.InRange(Strength(path, 600, 0, Length(path) / 1000), 0, 0.01);
        return Run("ffprobe", "-v", "error", "-show_format", "-show_streams", path);
    }

    /// <summary>The forms in which a name is written.</summary>
    private static IEnumerable<string> Forms(string name)
    {
        yield return name;
        yield return name.ToUpperInvariant();
        yield return name.ToLowerInvariant().Replace(' ', '.') + "@mail.example";
        yield return name.Replace(" ", "");
        yield return name.Replace(" ", "\n");
        yield return name.Replace(" ", "\u00A0") + "’s";
        yield return name.Insert(3, "\u00AD").Insert(6, "\u200B");
        yield return name.Replace("e", "é").Normalize(NormalizationForm.FormD);
    }

    /// <summary>A text in blocks of which no name stands in one part.</summary>
    private static JsonNode Story(string text, IEnumerable<long> quoted) =>
        RichTextJson.Write(
            new RichText([
                new Paragraph([.. text.Chunk(5).Select((part, i) => new TextRun(new string(part), Strong: i % 2 == 0))]),
                new TextList(
                    false,
                    [
                        [new Paragraph([new TextRun(text, Link: $"https://vitrine.example/{Uri.EscapeDataString(Real)}")])],
                    ]
                ),
                .. quoted.Select(id => new Embedded(EmbeddedAs.Quote, new ThingRef(ThingKind.Observation, id), text)),
            ])
        );

    /// <summary>A text by its letters alone: no case, accent, sign or space hides a word.</summary>
    private static string Letters(string text) =>
        string.Concat(
            text.Normalize(NormalizationForm.FormKD)
                .Where(c => char.IsLetterOrDigit(c) && CharUnicodeInfo.GetUnicodeCategory(c) != UnicodeCategory.NonSpacingMark)
                .Select(char.ToLowerInvariant)
        );

    private Task Consent(long person, string consent) =>
        server.Put($"studies/{study}/participants/consent", new { participantIds = new[] { person }, consent });

    private async Task Match(long source, params (string Label, long Person)[] who)
    {
        var speakers = (await server.Get($"sources/{source}"))["line"]!["speakers"]!.AsArray();
        foreach (var (label, person) in who)
        {
            var id = speakers.Single(s => (string)s!["label"]! == label)!["id"];
            await server.Put($"sources/{source}/speakers/{id}", new { participantId = person, isTeam = false });
        }
    }

    private Task Mask(long source, string text, string words)
    {
        var start = text.IndexOf(words, StringComparison.Ordinal);
        return server.Post(
            $"studies/{study}/masks",
            new
            {
                masks = new[]
                {
                    new
                    {
                        sourceId = source,
                        start,
                        end = start + words.Length,
                        kind = "word",
                        replacement = "[a place]",
                    },
                },
            }
        );
    }

    /// <summary>The upper right half of the picture, within an outline.</summary>
    private async Task<long> Part() =>
        (long)
            (
                await server.Post(
                    $"sources/{picture}/observations",
                    new
                    {
                        anchor = new { kind = "region", outline = "0,0 10000,0 10000,10000" },
                        tagIds = Array.Empty<long>(),
                        newTags = Array.Empty<string>(),
                    }
                )
            )["id"]!;

    private async Task<long> Clip(int beginMs, int endMs) =>
        (long)
            (
                await server.Post(
                    $"sources/{recording}/observations",
                    new
                    {
                        anchor = new
                        {
                            kind = "time",
                            beginMs,
                            endMs,
                        },
                        tagIds = Array.Empty<long>(),
                        newTags = Array.Empty<string>(),
                    }
                )
            )["id"]!;

    [GeneratedRegex("<[^>]*>")]
    private static partial Regex Tags();

    [GeneratedRegex(
        """
            "(,"(strong|emphasis)":true|,"link":"[^"]*")*\},\{"type":"text","text":"
            """
    )]
    private static partial Regex BetweenParts();
}
