using System.Globalization;
using System.Net;
using System.Text;
using System.Text.Json.Nodes;

namespace Vitrine.Server.Tests;

/// <summary>
/// What leaves of a film is compared with the film: a tone of 300 Hz stands for a voice, in the second and third second somebody says a
/// name.
/// </summary>
public sealed class PublishedClipTests(SharedServer shared) : Recorded(shared), IClassFixture<SharedServer>
{
    private const double Voice = 300;
    private const double Bleep = 1000;
    private static byte[]? film300;
    private long film;
    private long talk;
    private long wren;
    private string text = "";
    private string token = "";
    private string hash = "";

    public override async Task InitializeAsync()
    {
        await base.InitializeAsync();
        // The same for all of them: it is encoded once, and made ready once.
        var bytes = film300 ??= await Film(
            "film.mp4",
            "-map",
            "1:v",
            "-map",
            "2:a",
            "-c:v",
            "libx264",
            "-pix_fmt",
            "yuv420p",
            "-vf",
            "scale=320:180",
            "-c:a",
            "aac"
        );
        hash = Convert.ToHexStringLower(System.Security.Cryptography.SHA256.HashData(bytes));
        (film, _) = await Ready("film.mp4", bytes);
        var captions =
            "WEBVTT\n\n00:00.000 --> 00:01.000\n<v Una>Who was it?\n\n00:01.000 --> 00:02.000\n<v Wren>It was Marnie.\n\n"
            + "00:02.000 --> 00:04.000\n<v Wren>She waved at us.";
        talk = (await server.Upload(study, "talk.vtt", Encoding.UTF8.GetBytes(captions))).SourceId!.Value;
        var source = await server.Get($"sources/{talk}");
        text = (string)source["text"]!;
        wren = await server.Person(study, "P01", "Wren");
        var speakers = source["line"]!["speakers"]!.AsArray();
        long Speaker(string label) => (long)speakers.Single(s => (string)s!["label"]! == label)!["id"]!;
        await server.Put($"sources/{talk}/speakers/{Speaker("Wren")}", new { participantId = wren, isTeam = false });
        await server.Put($"sources/{talk}/speakers/{Speaker("Una")}", new { participantId = (long?)null, isTeam = true });
        await server.Post(
            $"studies/{study}/sessions",
            new
            {
                text = new
                {
                    title = "One",
                    kind = "interview",
                    heldOn = (string?)null,
                    minutes = (int?)null,
                    moderator = "",
                    participantIds = new[] { wren },
                },
                sourceIds = new[] { film, talk },
            }
        );
        await Consent("given");
    }

    private new Task<byte[]> Film(string name, params string[] how) =>
        Make(name, [.. "-f lavfi -i testsrc=size=321x180:rate=10:duration=4 -f lavfi -i sine=frequency=300:duration=4".Split(' '), .. how]);

    private Task Consent(string consent) =>
        server.Put($"studies/{study}/participants/consent", new { participantIds = new[] { wren }, consent });

    private async Task<long> Clip(int beginMs, int endMs) =>
        (long)
            (
                await server.Post(
                    $"sources/{film}/observations",
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

    private async Task Publish(params long[] marks)
    {
        var insight = await server.Post(
            $"studies/{study}/insights",
            new
            {
                headline = "They wave",
                story = TestServer.Rich(""),
                observationIds = marks,
            }
        );
        var exhibit = (long)(await server.Post("exhibits", new { question = "Who?", summary = "" }))["id"]!;
        await server.Put($"exhibits/{exhibit}/insights", new { insightIds = new[] { (long)insight["id"]! } });
        token = (string)(await server.Post($"exhibits/{exhibit}/links", new { }))["token"]!;
    }

    private async Task<JsonArray> Quotes() => (await server.Get($"read/{token}"))["insights"]![0]!["quotes"]!.AsArray();

    private Uri Address(JsonNode quote) => new($"/api/read/{token}/cutout/{quote["key"]}", UriKind.Relative);

    /// <summary>A reader's clip, as a file.</summary>
    private async Task<string> Seen(JsonNode quote, string name = "seen.mp4")
    {
        using var reader = server.Stranger();
        using var answer = await reader.GetAsync(Address(quote));
        Assert.Equal((HttpStatusCode.OK, "video/mp4"), (answer.StatusCode, answer.Content.Headers.ContentType!.MediaType));
        Assert.True(answer.Headers.CacheControl!.NoStore);
        Assert.DoesNotContain(hash, answer.ToString());
        var path = Path.Combine(made.FullName, name);
        await File.WriteAllBytesAsync(path, await answer.Content.ReadAsByteArrayAsync());
        return path;
    }

    [Fact]
    public async Task A_reader_has_that_stretch_and_nothing_else_of_the_film()
    {
        await Publish(await Clip(2000, 3500), await server.Mark(talk, text, "Who was it?"));
        var quotes = await Quotes();
        Assert.Equal(["film", "film"], quotes.Select(q => (string)q!["cutout"]!));
        var clip = quotes.Single(q => ((string)q!["words"]!).StartsWith("She waved", StringComparison.Ordinal))!;
        Assert.Equal("Wren", (string)clip["who"]!);
        var path = await Seen(clip);
        Assert.InRange(Length(path), 1400, 1610);
        Assert.True(Strength(path, Voice, 0.2, 1) > 0.05);
        using var reader = server.Stranger();
        foreach (var range in new[] { $"bytes={new FileInfo(path).Length}-", "bytes=99999999-" })
        {
            using var beyond = new HttpRequestMessage(HttpMethod.Get, Address(clip));
            beyond.Headers.TryAddWithoutValidation("Range", range);
            Assert.Equal(HttpStatusCode.RequestedRangeNotSatisfiable, (await reader.SendAsync(beyond)).StatusCode);
        }
        foreach (
            var other in new[] { $"sources/{film}/media", $"sources/{film}/original", $"sources/{film}/peaks?perSecond=1&from=0&to=4" }
        )
            Assert.Equal(HttpStatusCode.Unauthorized, (await reader.GetAsync(new Uri($"/api/{other}", UriKind.Relative))).StatusCode);
        foreach (var other in new[] { "read/x/cutout/" + clip["key"], $"read/{token}/cutout/{hash}", $"read/{token}/cutout/1" })
            Assert.Equal(HttpStatusCode.NotFound, (await reader.GetAsync(new Uri($"/api/{other}", UriKind.Relative))).StatusCode);
    }

    [Fact]
    public async Task A_part_of_a_picture_leaves_and_the_page_of_a_document_stays_inside()
    {
        async Task<long> Part(long source) =>
            (long)
                (
                    await server.Post(
                        $"sources/{source}/observations",
                        new
                        {
                            anchor = new { kind = "region", outline = "1000,1000 6000,1000 1000,6000" },
                            tagIds = Array.Empty<long>(),
                            newTags = Array.Empty<string>(),
                        }
                    )
                )["id"]!;
        var still = (long)(await server.Post($"sources/{film}/stills", new { atMs = 1000 }))["id"]!;
        var pdf = await File.ReadAllBytesAsync(Path.Combine(DemoTests.DemoFolderPath(), "boarding", "named-ticket.pdf"));
        var document = (await server.Upload(study, "named-ticket.pdf", pdf)).SourceId!.Value;
        var page = (long)(await server.Post($"sources/{document}/pages/1/picture", new { }))["id"]!;
        await Publish(await Part(still), await Part(page));
        var quote = Assert.Single(await Quotes())!;
        Assert.Equal(("picture", "Wren"), ((string)quote["cutout"]!, (string)quote["who"]!));
        using var reader = server.Stranger();
        using var shown = await reader.GetAsync(Address(quote));
        Assert.Equal((HttpStatusCode.OK, "image/png"), (shown.StatusCode, shown.Content.Headers.ContentType!.MediaType));
    }

    [Fact]
    public async Task Consent_that_is_taken_back_takes_the_clip_back()
    {
        await Publish(await Clip(2000, 3500));
        var clip = (await Quotes())[0]!;
        await Seen(clip);
        await Consent("asked");
        Assert.Empty(await Quotes());
        using var reader = server.Stranger();
        Assert.Equal(HttpStatusCode.NotFound, (await reader.GetAsync(Address(clip))).StatusCode);
    }

    [Fact]
    public async Task A_masked_word_is_bleeped_and_the_rest_is_heard()
    {
        var at = text.IndexOf("Marnie", StringComparison.Ordinal);
        await server.Post(
            $"studies/{study}/masks",
            new
            {
                masks = new[]
                {
                    new
                    {
                        sourceId = talk,
                        start = at,
                        end = at + 6,
                        kind = "name",
                        replacement = "[name]",
                    },
                },
            }
        );
        var mark = await Clip(500, 3500);
        await Publish(mark);
        // What is written for readers is masked as what they read, and named as they know them.
        Uri Captions(bool asReaders) => new($"/api/observations/{mark}/captions?asReaders={asReaders}", UriKind.Relative);
        var written = await server.Http.GetStringAsync(Captions(true));
        Assert.DoesNotContain("Marnie", written);
        Assert.Contains("<v Researcher>was it?", written);
        Assert.Contains("<v Wren>It was [name].", written);
        Assert.Contains("It was Marnie.", await server.Http.GetStringAsync(Captions(false)));
        var clip = (await Quotes())[0]!;
        Assert.DoesNotContain("Marnie", clip.ToJsonString());
        var path = await Seen(clip);
        // The clip begins half a second into the film; the name is said within the second second.
        Assert.True(Strength(path, Voice, 0.05, 0.4) > 0.05);
        Assert.True(Strength(path, Voice, 0.55, 0.9) < 0.002);
        Assert.True(Strength(path, Bleep, 0.55, 0.9) > 0.02);
        Assert.True(Strength(path, Bleep, 1.6, 1) < 0.002);
        Assert.True(Strength(path, Voice, 1.6, 1) > 0.05);
    }

    [Fact]
    public async Task A_voice_is_lowered_and_a_part_of_the_picture_covered()
    {
        await server.Put(
            $"sources/{film}/protection",
            new
            {
                voiceChanged = true,
                covers = new[]
                {
                    new
                    {
                        look = "solid",
                        x = 0,
                        y = 0,
                        width = 5000,
                        height = 5000,
                        beginMs = (int?)2000,
                        endMs = (int?)3000,
                    },
                },
            }
        );
        var (covered, open) = (await Clip(2000, 3000), await Clip(3000, 4000));
        await Publish(covered, open);
        var quotes = await Quotes();
        var (first, second) = (await Seen(quotes[0]!, "first.mp4"), await Seen(quotes[1]!, "second.mp4"));
        Assert.True(Strength(first, Voice, 0.1, 0.8) < 0.01);
        Assert.True(Strength(first, Voice * 0.8, 0.1, 0.8) > 0.05);
        // 0x2b3a3f, as far as the encoder keeps a colour.
        Assert.All(Pixel(first, 80, 45).Zip([0x2b, 0x3a, 0x3f]), p => Assert.InRange(p.First, p.Second - 10, p.Second + 10));
        Assert.Equal(Pixel(second, 250, 45).Length, Pixel(first, 250, 45).Length);
        Assert.Contains(Pixel(second, 80, 45).Zip(Pixel(first, 80, 45)), p => Math.Abs(p.First - p.Second) > 30);
        // The team sees its own film as it is, and saves it as readers get it.
        var own = Path.Combine(made.FullName, "own.mp4");
        await File.WriteAllBytesAsync(
            own,
            await server.Http.GetByteArrayAsync(new Uri($"/api/observations/{covered}/cutout", UriKind.Relative))
        );
        Assert.True(Strength(own, Voice, 0.1, 0.8) > 0.05);
        var saved = Path.Combine(made.FullName, "saved.wav");
        await File.WriteAllBytesAsync(
            saved,
            await server.Http.GetByteArrayAsync(new Uri($"/api/observations/{covered}/cutout?format=wav&asReaders=true", UriKind.Relative))
        );
        Assert.True(Strength(saved, Voice, 0.1, 0.8) < 0.01);
        await Consent("limited");
        var kept = new Uri($"/api/observations/{covered}/cutout?format=wav&asReaders=true", UriKind.Relative);
        Assert.Equal(HttpStatusCode.Forbidden, (await server.Http.GetAsync(kept)).StatusCode);
    }

    [Fact]
    public async Task Clips_in_a_row_are_one_film_with_cards_and_captions_are_written_in_where_asked()
    {
        var (first, second) = (await Clip(0, 1000), await Clip(2000, 3500));
        await Publish(first, second, await server.Mark(talk, text, "Who was it?"));
        var insight = (long)(await server.Get("insights"))[0]!["insight"]!["id"]!;
        var path = Path.Combine(made.FullName, "row.mp4");
        var film = new Uri($"/api/insights/{insight}/film", UriKind.Relative);
        await File.WriteAllBytesAsync(path, await server.Http.GetByteArrayAsync(film));
        // Three cards of 2.5 s, and 1 s, 1.5 s and 1 s of film.
        Assert.InRange(Length(path), 10_800, 11_300);
        Assert.True(Strength(path, Voice, 0.5, 1.5) < 0.002);
        Assert.True(Strength(path, Voice, 2.7, 0.6) > 0.05);
        await Consent("limited");
        Assert.Equal(HttpStatusCode.NotFound, (await server.Http.GetAsync(film)).StatusCode);

        var (bare, burnt) = (Path.Combine(made.FullName, "bare.mp4"), Path.Combine(made.FullName, "burnt.mp4"));
        foreach (var (to, captioned) in new[] { (bare, false), (burnt, true) })
        {
            var clip = new Uri($"/api/observations/{second}/cutout?format=mp4&captioned={captioned}", UriKind.Relative);
            await File.WriteAllBytesAsync(to, await server.Http.GetByteArrayAsync(clip));
        }
        // White letters with a dark edge stand where the picture was.
        var psnr = Run(
            "ffmpeg",
            "-i",
            bare,
            "-i",
            burnt,
            "-lavfi",
            "[0:v]crop=iw:ih/4:0:3*ih/4[a];[1:v]crop=iw:ih/4:0:3*ih/4[b];[a][b]psnr",
            "-f",
            "null",
            "-"
        );
        Assert.True(
            double.Parse(
                System.Text.RegularExpressions.Regex.Match(psnr, @"average:([\d.]+)").Groups[1].Value,
                CultureInfo.InvariantCulture
            ) < 35
        );
    }

    [Fact]
    public async Task A_cover_that_does_not_fit_is_refused()
    {
        object Cover(int width, int? endMs) =>
            new
            {
                look = "blur",
                x = 9000,
                y = 0,
                width,
                height = 100,
                beginMs = (int?)null,
                endMs,
            };
        async Task<int> Status(long source, params object[] covers) =>
            (await server.Refused($"sources/{source}/protection", new { voiceChanged = false, covers }, HttpMethod.Put)).Status;
        Assert.Equal(400, await Status(film, Cover(1001, null)));
        Assert.Equal(400, await Status(film, Cover(1000, 0)));
        Assert.Equal(400, await Status(film, [.. Enumerable.Repeat(Cover(1000, 5), 51)]));
        Assert.Equal(400, await Status(talk, Cover(1000, 5)));
    }
}
