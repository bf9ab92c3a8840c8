using System.Globalization;
using System.Net;
using System.Net.Http.Headers;
using System.Runtime.InteropServices;
using System.Security.Cryptography;
using System.Text;
using System.Text.Json.Nodes;

namespace Vitrine.Server.Tests;

/// <summary>
/// Sounds and films are made by ffmpeg with known lengths and silences; lengths are held against ffprobe, pauses against ffmpeg's
/// silencedetect.
/// </summary>
public sealed class RecordingTests(SharedServer shared) : Recorded(shared), IClassFixture<SharedServer>
{
    private async Task<byte[]> Peaks(long source, int perSecond) =>
        await server.Http.GetByteArrayAsync(
            new Uri($"/api/sources/{source}/peaks?perSecond={perSecond}&from=0&to=60000", UriKind.Relative)
        );

    [Fact]
    public async Task A_sound_has_its_length_its_peaks_in_three_resolutions_and_its_pauses()
    {
        var (source, facts) = await Ready("talk.wav", await Make("talk.wav"));
        Assert.Equal(
            ("ready", 4000, true, false),
            ((string)facts["state"]!, (int)facts["lengthMs"]!, (bool)facts["sounds"]!, (bool)facts["films"]!)
        );
        var fine = await Peaks(source, 100);
        Assert.Equal(400, fine.Length);
        Assert.All(fine[110..240], p => Assert.InRange(p, 0, 1));
        Assert.All(fine[260..390], p => Assert.InRange(p, 50, 150));
        Assert.Equal((40, 4), ((await Peaks(source, 10)).Length, (await Peaks(source, 1)).Length));
        var pause = (await server.Get($"sources/{source}/pauses")).AsArray().Single()!;
        var theirs = Run(
            "ffmpeg",
            [
                .. "-hide_banner -i".Split(' '),
                Path.Combine(made.FullName, "talk.wav"),
                .. "-af silencedetect=noise=-40dB:d=0.3 -f null -".Split(' '),
            ]
        );
        double Theirs(string what) =>
            double.Parse(theirs.Split(what + ": ")[1].Split([' ', '\n', '|'])[0], CultureInfo.InvariantCulture) * 1000;
        Assert.InRange((int)pause["beginMs"]! - Theirs("silence_start"), -20, 20);
        Assert.InRange((int)pause["endMs"]! - Theirs("silence_end"), -20, 20);
    }

    [Theory]
    [InlineData("film.mov", "-c:v libx264 -vf scale=320:180 -pix_fmt yuv420p -c:a aac", "video/mp4")]
    [InlineData("old.avi", "-c:v mpeg4 -c:a libmp3lame", "video/mp4")]
    [InlineData("no-length.webm", "-c:v libvpx -deadline realtime -c:a libopus -live 1", "video/webm")]
    [InlineData("plays.mp4", "-c:v libx264 -vf scale=320:180 -pix_fmt yuv420p -c:a aac", "video/mp4")]
    [InlineData("silent.mp4", "-c:v libx264 -vf scale=320:180 -pix_fmt yuv420p -an", "video/mp4")]
    public async Task A_film_plays_as_it_is_or_as_a_copy(string name, string how, string type)
    {
        var (source, facts) = await Ready(name, await Film(name, how.Split(' ')));
        Assert.True((string)facts["state"]! == "ready", (string)facts["said"]!);
        // Within a frame.
        Assert.InRange((int)facts["lengthMs"]!, 3900, 4110);
        Assert.Equal((name != "silent.mp4", true), ((bool)facts["sounds"]!, (bool)facts["films"]!));
        using var request = new HttpRequestMessage(HttpMethod.Get, $"/api/sources/{source}/media")
        {
            Headers = { Range = new RangeHeaderValue(0, 99) },
        };
        using var answer = await server.Http.SendAsync(request);
        Assert.Equal((HttpStatusCode.PartialContent, type), (answer.StatusCode, answer.Content.Headers.ContentType!.MediaType));
        var copy = Path.Combine(made.FullName, "copy");
        await File.WriteAllBytesAsync(copy, await server.Http.GetByteArrayAsync(new Uri($"/api/sources/{source}/media", UriKind.Relative)));
        Assert.InRange(Length(copy) - (int)facts["lengthMs"]!, -20, 20);
    }

    [Fact]
    public async Task A_sound_that_is_called_something_else_is_played_all_the_same()
    {
        var (source, facts) = await Ready("in truth a wave.mp3", await Make("truth.wav"));
        Assert.Equal("ready", (string)facts["state"]!);
        using var answer = await server.Http.GetAsync(new Uri($"/api/sources/{source}/media", UriKind.Relative));
        Assert.Equal("audio/wav", answer.Content.Headers.ContentType!.MediaType);
    }

    [Fact]
    public async Task A_file_that_is_no_recording_is_kept_with_a_sentence_and_can_be_tried_again()
    {
        var half = (await Film("half.mp4", "-c:v", "libx264", "-c:a", "aac"))[..4000];
        foreach (
            var (name, bytes) in new[]
            {
                ("words.mp3", "no sound at all"u8.ToArray()),
                ("half.mp4", half),
                ("list.mp4", "#EXTM3U\nfile:///etc/hostname"u8.ToArray()),
            }
        )
        {
            var (source, facts) = await Ready(name, bytes);
            Assert.Equal("unready", (string)facts["state"]!);
            Assert.StartsWith("This recording cannot be played", (string)facts["said"]!, StringComparison.Ordinal);
            Assert.Equal("waiting", (string)(await server.Post($"sources/{source}/recording/ready", new { }))["state"]!);
            Assert.Equal(bytes, await server.Http.GetByteArrayAsync(new Uri($"/api/sources/{source}/original", UriKind.Relative)));
        }
    }

    [Fact]
    public async Task A_clip_is_an_observation_within_the_recording_and_a_still_knows_its_film_and_moment()
    {
        var (source, _) = await Ready(
            "kiosk.mp4",
            await Film("kiosk.mp4", "-c:v", "libx264", "-pix_fmt", "yuv420p", "-vf", "scale=320:180", "-c:a", "aac")
        );
        object Clip(int begin, int end) =>
            new
            {
                anchor = new
                {
                    kind = "time",
                    beginMs = begin,
                    endMs = end,
                },
                tagIds = Array.Empty<long>(),
                newTags = new[] { "hesitates" },
            };
        await server.Post($"sources/{source}/observations", Clip(1500, 999_999));
        var clip = (await server.Get($"sources/{source}/observations")).AsArray().Single()!["anchor"]!;
        Assert.Equal(("time", 1500), ((string)clip["kind"]!, (int)clip["beginMs"]!));
        Assert.InRange((int)clip["endMs"]!, 3900, 4110);
        Assert.Equal(400, (await server.Refused($"sources/{source}/observations", Clip(9000, 9500))).Status);

        var observation = (long)(await server.Get($"sources/{source}/observations"))[0]!["id"]!;
        var split = await server.Post($"observations/{observation}/split", new { at = 2500 });
        Assert.Equal("Split an observation before 0:02 to 0:04", (string)split["label"]!);
        var (status, sentence) = await server.Refused($"observations/{observation}/split", new { at = 3000 });
        Assert.Equal((400, "Go to a moment inside the clip, and split it there."), (status, sentence));
        await server.Post($"studies/{study}/observations/join", new { observationIds = new[] { (long)split["id"]!, observation } });
        var joined = (await server.Get($"sources/{source}/observations")).AsArray().Single()!;
        Assert.Equal(
            (1500, (int)clip["endMs"]!, 1),
            ((int)joined["anchor"]!["beginMs"]!, (int)joined["anchor"]!["endMs"]!, joined["tagIds"]!.AsArray().Count)
        );

        // What is cut out holds that stretch alone: its length, and its frames by their counted seconds.
        var cut = Path.Combine(made.FullName, "cut.mp4");
        await File.WriteAllBytesAsync(
            cut,
            await server.Http.GetByteArrayAsync(new Uri($"/api/observations/{observation}/cutout", UriKind.Relative))
        );
        Assert.InRange(Length(cut) - ((int)clip["endMs"]! - 1500), -110, 110);

        var step = await server.Post($"sources/{source}/stills", new { atMs = 2040 });
        Assert.Equal("Kept the still “kiosk at 0:02.0”", (string)step["label"]!);
        var still = (await server.Get($"sources/{step["id"]}"))["line"]!;
        Assert.Equal((source, 2040, "image/png"), ((long)still["stillOfId"]!, (int)still["stillAtMs"]!, (string)still["mediaType"]!));
        var png = await server.Http.GetByteArrayAsync(new Uri($"/api/sources/{step["id"]}/media", UriKind.Relative));
        Assert.Equal("PNG"u8.ToArray(), png[1..4]);
        // The frame that stands at that moment is the one of two seconds, and no other.
        var other = Path.Combine(made.FullName, "other.png");
        Run(
            "ffmpeg",
            [
                .. "-v error -y -ss 1.95 -i".Split(' '),
                Path.Combine(made.FullName, "kiosk.mp4"),
                .. "-frames:v 1 -update 1".Split(' '),
                other,
            ]
        );
        Assert.Equal(await File.ReadAllBytesAsync(other), png);
        Assert.Equal(400, (await server.Refused($"sources/{source}/stills", new { atMs = 60_000 })).Status);
        Assert.Equal(400, (await server.Refused($"sources/{step["id"]}/stills", new { atMs = 0 })).Status);

        var region = await server.Post(
            $"sources/{step["id"]}/observations",
            new
            {
                anchor = new
                {
                    kind = "region",
                    x = 2500,
                    y = 5000,
                    width = 5000,
                    height = 2500,
                },
                tagIds = Array.Empty<long>(),
                newTags = Array.Empty<string>(),
            }
        );
        var part = await server.Http.GetByteArrayAsync(new Uri($"/api/observations/{region["id"]}/cutout", UriKind.Relative));
        // The size stands in the head of a PNG (ISO/IEC 15948, 11.2.2).
        Assert.Equal((160, 45), (part[18] * 256 + part[19], part[22] * 256 + part[23]));

        await server.Post("undo", new { studyId = study });
        await server.Post("undo", new { studyId = study });
        Assert.Single(await server.SourcesOf(study));
    }

    [Theory]
    [InlineData("mp4", "video/mp4", "film 1000-2000.mp4")]
    [InlineData("webm", "video/webm", "film 1000-2000.webm")]
    [InlineData("mp3", "audio/mpeg", "film 1000-2000.mp3")]
    [InlineData("wav", "audio/wav", "film 1000-2000.wav")]
    public async Task Words_are_heard_in_the_recording_of_their_session_and_saved_with_captions(string format, string type, string name)
    {
        var (recording, _) = await Ready(
            "film.mp4",
            await Film("film.mp4", "-c:v", "libx264", "-pix_fmt", "yuv420p", "-vf", "scale=320:180", "-c:a", "aac")
        );
        var captions = "WEBVTT\n\n00:00.500 --> 00:01.500\n<v Una>Where is it?\n\n00:01.500 --> 00:02.500\n<v Wren>Over there.";
        var talk = (await server.Upload(study, "talk.vtt", Encoding.UTF8.GetBytes(captions))).SourceId!.Value;
        var text = (string)(await server.Get($"sources/{talk}"))["text"]!;
        var mark = await server.Mark(talk, text, "Over there.", "place");
        Assert.Equal(404, (int)(await server.Http.GetAsync(new Uri($"/api/observations/{mark}/cutout", UriKind.Relative))).StatusCode);
        await server.SessionOf(study, recording, talk);
        // The words are said half a second earlier than the captions say.
        await server.Put($"sources/{talk}/offset", new { offsetMs = -500 });

        using var answer = await server.Http.GetAsync(new Uri($"/api/observations/{mark}/cutout?format={format}", UriKind.Relative));
        Assert.Equal(
            (type, name),
            (answer.Content.Headers.ContentType!.MediaType, answer.Content.Headers.ContentDisposition!.FileNameStar)
        );
        var saved = Path.Combine(made.FullName, "saved." + format);
        await File.WriteAllBytesAsync(saved, await answer.Content.ReadAsByteArrayAsync());
        Assert.InRange(Length(saved), 890, 1110);
        Assert.Equal(
            "WEBVTT\n\n00:00:00.000 --> 00:00:01.000\n<v Wren>Over there.\n",
            await server.Http.GetStringAsync(new Uri($"/api/observations/{mark}/captions", UriKind.Relative))
        );
        var quote = (await server.Get($"studies/{study}/evidence/quotes?{TestServer.Cell(new { sourceIds = new[] { talk } })}&page=0"))[
            "quotes"
        ]!
            .AsArray()
            .Single()!;
        Assert.Equal("video/mp4", (string)quote["mediaType"]!);
        using var far = await server.Http.GetAsync(new Uri($"/api/observations/{mark}/cutout?handleMs=5000", UriKind.Relative));
        Assert.Equal(HttpStatusCode.BadRequest, far.StatusCode);
    }

    [Fact]
    public async Task A_clip_is_of_who_speaks_in_it_by_the_transcript_in_step_and_covers_seconds()
    {
        var (recording, _) = await Ready("talk.wav", await Make("talk.wav"));
        var captions = "WEBVTT\n\n00:00.500 --> 00:01.500\n<v Wren>Where is it?\n\n00:01.500 --> 00:02.500\n<v Brack>Over there.";
        var talk = (await server.Upload(study, "talk.vtt", Encoding.UTF8.GetBytes(captions))).SourceId!.Value;
        long[] people = [await server.Person(study, "P01", "Wren"), await server.Person(study, "P02", "Brack")];
        var speakers = (await server.Get($"sources/{talk}"))["line"]!["speakers"]!.AsArray();
        foreach (var (speaker, person) in speakers.Zip(people))
            await server.Put($"sources/{talk}/speakers/{speaker!["id"]}", new { participantId = person, isTeam = false });
        await server.Put($"sources/{talk}/in-step-with", new { sourceId = recording });
        // The transcript runs half a second late.
        await server.Put($"sources/{talk}/offset", new { offsetMs = -500 });
        foreach (var (beginMs, endMs) in new[] { (1100, 1600), (1400, 1900), (3000, 3500) })
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
                    newTags = new[] { "place" },
                }
            );
        var tag = (long)(await server.TagUses(study)).Single()["tag"]!["id"]!;
        var page = await server.Get($"studies/{study}/tags/{tag}/page");
        Assert.Equal([0, 2], page["breadth"]!["strip"]!.AsArray().Select(n => (int)n!));
        Assert.Equal(1, (int)page["breadth"]!["triple"]!["unattributed"]!);
        var time = await server.Get($"studies/{study}/tags/{tag}/time");
        Assert.Equal((1300, 1300), ((int)time["ms"]!, (int)time["sources"]![0]!["ms"]!));
        // Words that are spoken from 1 to 2 s carry it too: what a clip covers of them counts once.
        var said = (string)(await server.Get($"sources/{talk}"))["text"]!;
        var at = said.IndexOf("Over", StringComparison.Ordinal);
        await server.Post(
            $"sources/{talk}/observations",
            new
            {
                anchor = new
                {
                    kind = "text",
                    start = at,
                    end = at + "Over there.".Length,
                },
                tagIds = new[] { tag },
                newTags = Array.Empty<string>(),
            }
        );
        time = await server.Get($"studies/{study}/tags/{tag}/time");
        Assert.Equal((1500, 0), ((int)time["ms"]!, (int)time["estimatedMs"]!));
        Assert.Equal([1300, 1000], time["sources"]!.AsArray().Select(s => (int)s!["ms"]!));
    }

    private async Task<byte[]> Fetched(string path) => await server.Http.GetByteArrayAsync(new Uri("/api/" + path, UriKind.Relative));

    private async Task<long> MarkTime(long source, int beginMs, int endMs, string tag) =>
        (long)
            (
                await server.Post(
                    $"sources/{source}/observations",
                    new
                    {
                        anchor = new
                        {
                            kind = "time",
                            beginMs,
                            endMs,
                        },
                        tagIds = Array.Empty<long>(),
                        newTags = new[] { tag },
                    }
                )
            )["id"]!;

    [Fact]
    public async Task A_second_camera_is_heard_by_its_own_clock_and_its_seconds_are_those_of_the_session()
    {
        // The second camera was switched on a second and a half later.
        var (first, _) = await Ready("first.wav", await Make("first.wav"));
        var (second, _) = await Ready("second.wav", await Make("second.wav", "-ss", "1.5"));
        var captions = "WEBVTT\n\n00:00.000 --> 00:01.000\n<v Wren>Where is it?\n\n00:02.500 --> 00:04.000\n<v Brack>Over there.";
        var talk = (await server.Upload(study, "talk.vtt", Encoding.UTF8.GetBytes(captions))).SourceId!.Value;
        await server.SessionOf(study, first, second, talk);
        await server.Put($"sources/{second}/offset", new { offsetMs = 1500 });
        var clip = await MarkTime(second, 1000, 2000, "place");
        await MarkTime(first, 2500, 3500, "place");
        var tag = (long)(await server.TagUses(study)).Single()["tag"]!["id"]!;
        Assert.Equal(1000, (int)(await server.Get($"studies/{study}/tags/{tag}/time"))["ms"]!);

        // What is said in it, wherever it is quoted, found and sorted.
        var quotes = (await server.Get($"studies/{study}/evidence/quotes?tagId={tag}&page=0"))["quotes"]!.AsArray();
        Assert.All(quotes, q => Assert.Equal("Over", ((string)q!["words"]!).Split(' ')[0]));
        var found = await server.Get($"studies/{study}/observations/quotes?typed=over&page=0");
        Assert.Equal(2, (int)found["total"]!);
        var unsorted = await server.Get($"studies/{study}/unsorted?page=0&words=over");
        Assert.Equal(2, (int)unsorted["total"]!);
        Assert.StartsWith(
            "WEBVTT\n\n00:00:00.000 --> 00:00:01.000\n<v Brack>Over",
            Encoding.UTF8.GetString(await Fetched($"observations/{clip}/captions")),
            StringComparison.Ordinal
        );

        // Attached to the second, words are cut out of it where they are said in it.
        await server.Put($"sources/{talk}/in-step-with", new { sourceId = second });
        var text = (string)(await server.Get($"sources/{talk}"))["text"]!;
        var mark = await server.Mark(talk, text, "Over there.", "words");
        var cut = Path.Combine(made.FullName, "cut.wav");
        await File.WriteAllBytesAsync(cut, await Fetched($"observations/{mark}/cutout?format=wav"));
        Assert.InRange(Length(cut), 1450, 1550);
        var heard = Run("ffmpeg", [.. "-hide_banner -i".Split(' '), cut, .. "-af volumedetect -f null -".Split(' ')]);
        Assert.DoesNotContain("max_volume: -91", heard);
        var quote = (await server.Get($"studies/{study}/evidence/quotes?{TestServer.Cell(new { sourceIds = new[] { talk } })}&page=0"))[
            "quotes"
        ]!
            .AsArray()
            .Single()!;
        Assert.Equal("audio/wav", (string)quote["mediaType"]!);
    }

    [Fact]
    public async Task Sound_that_begins_late_in_its_file_is_drawn_and_cut_where_it_is_heard()
    {
        var late = await Late("late.mkv");
        var (source, facts) = await Ready("late.mkv", late);
        Assert.InRange((int)facts["lengthMs"]!, 6800, 7100);
        var fine = await Peaks(source, 100);
        Assert.All(fine[..290], p => Assert.Equal(0, p));
        Assert.All(fine[310..390], p => Assert.InRange(p, 50, 150));
        var pauses = (await server.Get($"sources/{source}/pauses")).AsArray();
        Assert.InRange((int)pauses[0]!["endMs"]!, 2950, 3050);
        var clip = await MarkTime(source, 2000, 4000, "late");
        foreach (var format in new[] { "wav", "mp4" })
        {
            var cut = Path.Combine(made.FullName, "late." + format);
            await File.WriteAllBytesAsync(cut, await Fetched($"observations/{clip}/cutout?format={format}"));
            Assert.InRange(Length(cut), 1950, 2150);
            var silent = Run(
                "ffmpeg",
                [.. "-hide_banner -i".Split(' '), cut, .. "-af silencedetect=noise=-40dB:d=0.3 -f null -".Split(' ')]
            );
            Assert.InRange(double.Parse(silent.Split("silence_end: ")[1].Split(' ')[0], CultureInfo.InvariantCulture), 0.9, 1.1);
        }
    }

    /// <summary>A film of seven seconds whose sound begins at the third.</summary>
    private async Task<byte[]> Late(string name)
    {
        var path = Path.Combine(made.FullName, name);
        Run(
            "ffmpeg",
            [
                .. "-v error -y -f lavfi -i testsrc=size=320x180:rate=10:duration=7 -itsoffset 3 -f lavfi -i".Split(' '),
                Speech,
                .. "-map 0:v -map 1:a -c:v libx264 -pix_fmt yuv420p -c:a libopus".Split(' '),
                path,
            ]
        );
        return await File.ReadAllBytesAsync(path);
    }

    private const string Colours = "black white black white";
    private static readonly string[] Lasting = ["1", "3", "0.2", "0.8"];

    [Fact]
    public async Task A_still_a_cut_and_a_part_show_what_stands_on_the_screen_whenever_frames_come()
    {
        // Black, white from 1 s, black from 4 s, white from 4.2 s to 5 s: five frames at their own times.
        var (raw, path) = (Path.Combine(made.FullName, "raw.mkv"), Path.Combine(made.FullName, "seldom.mkv"));
        Run(
            "ffmpeg",
            [
                .. "-v error -y -f lavfi -i".Split(' '),
                string.Join(
                    ';',
                    Colours.Split(' ').Select((c, n) => $"color={c}:s=320x180:r=10[o{n}];[o{n}]trim=duration={Lasting[n]}[c{n}]")
                ) + ";[c0][c1][c2][c3]concat=n=4",
                .. "-vf mpdecimate=max=0 -fps_mode vfr -c:v libx264 -pix_fmt yuv420p".Split(' '),
                raw,
            ]
        );
        File.Copy(raw, path);
        var (film, facts) = await Ready("seldom.mkv", await File.ReadAllBytesAsync(path));
        async Task<bool> White(byte[] picture)
        {
            var file = Path.Combine(made.FullName, "one.png");
            await File.WriteAllBytesAsync(file, picture);
            var said = Run("ffmpeg", [.. "-hide_banner -i".Split(' '), file, .. "-vf signalstats,metadata=print -f null -".Split(' ')]);
            return double.Parse(said.Split("YAVG=")[1].Split('\n')[0], CultureInfo.InvariantCulture) > 128;
        }
        async Task<byte[]> Still(int atMs) =>
            await Fetched($"sources/{(long)(await server.Post($"sources/{film}/stills", new { atMs }))["id"]!}/media");
        Assert.False(await White(await Still(900)));
        Assert.True(await White(await Still(2500)));
        Assert.True(await White(await Still(3900)));
        Assert.False(await White(await Still(4100)));
        // The last frame, and the end itself.
        var end = (int)facts["lengthMs"]!;
        await White(await Still(end - 1));
        await White(await Still(end));

        // A stretch in which no frame begins is seen all the same, and begins with what stood there.
        var clip = await MarkTime(film, 2000, 3500, "white");
        var cut = Path.Combine(made.FullName, "cut.mp4");
        await File.WriteAllBytesAsync(cut, await Fetched($"observations/{clip}/cutout"));
        Assert.InRange(Length(cut), 1400, 1600);
        var first = Path.Combine(made.FullName, "first.png");
        Run("ffmpeg", [.. "-v error -y -i".Split(' '), cut, .. "-frames:v 1 -update 1".Split(' '), first]);
        Assert.True(await White(await File.ReadAllBytesAsync(first)));

        var region = await server.Post(
            $"sources/{film}/observations",
            new
            {
                anchor = new
                {
                    kind = "region",
                    x = 0,
                    y = 0,
                    width = 5000,
                    height = 5000,
                    atMs = 2500,
                },
                tagIds = Array.Empty<long>(),
                newTags = Array.Empty<string>(),
            }
        );
        Assert.True(await White(await Fetched($"observations/{region["id"]}/cutout")));
    }

    [Fact]
    public async Task A_turned_film_tells_the_size_in_which_it_is_seen()
    {
        var (path, turned) = (Path.Combine(made.FullName, "flat.mp4"), Path.Combine(made.FullName, "turned.mp4"));
        Run(
            "ffmpeg",
            [.. "-v error -y -f lavfi -i testsrc=size=320x180:rate=10:duration=1 -c:v libx264 -pix_fmt yuv420p".Split(' '), path]
        );
        Run("ffmpeg", [.. "-v error -y -i".Split(' '), path, .. "-metadata:s:v rotate=90 -c copy".Split(' '), turned]);
        var (_, facts) = await Ready("turned.mp4", await File.ReadAllBytesAsync(turned));
        Assert.Equal((180, 320), ((int)facts["width"]!, (int)facts["height"]!));
    }

    [Fact]
    public async Task Lengths_are_measured_and_a_recording_that_broke_off_says_so()
    {
        await Measured("half.mp3", "-c:a libmp3lame -b:a 64k", 0.5);
        await Measured("off.webm", "-c:a libopus -b:a 64k", 0.5);
        await Measured("no-index.mp3", "-c:a libmp3lame -q:a 4 -write_xing 0", 1);
    }

    private async Task Measured(string name, string how, double part)
    {
        var path = Path.Combine(made.FullName, name);
        Run(
            "ffmpeg",
            [.. "-v error -y -f lavfi -i".Split(' '), "aevalsrc='0.4*(random(0)*2-1)*gt(sin(t/3),0)':s=16000:d=40", .. how.Split(' '), path]
        );
        var bytes = await File.ReadAllBytesAsync(path);
        var (source, facts) = await Ready(name, bytes[..(int)(bytes.Length * part)]);
        Assert.True((string)facts["state"]! == "ready", (string)facts["said"]!);
        Assert.Equal(part < 1, (int?)facts["saysMs"] is > 39_000 and < 41_000);
        var measured = (int)facts["lengthMs"]!;
        Assert.InRange(measured, part < 1 ? 10_000 : 39_900, part < 1 ? 30_000 : 40_200);
        // What the browser plays is as long.
        var copy = Path.Combine(made.FullName, "copy");
        await File.WriteAllBytesAsync(copy, await Fetched($"sources/{source}/media"));
        Assert.InRange(Length(copy) - measured, -100, 100);
    }

    private static readonly (string Name, string How, string Type)[] OfPhones =
    [
        ("scene.webp", "-f lavfi -i testsrc=size=64x48:duration=1:rate=1 -frames:v 1", "image/webp"),
        ("scene.gif", "-f lavfi -i testsrc=size=64x48:duration=1:rate=5", "image/gif"),
        ("phone.3gp", "-f lavfi -i testsrc=size=176x144:duration=1:rate=10 -f lavfi -i sine=d=1 -c:v h263 -c:a aac -ac 1", "video/mp4"),
        ("old.wma", "-f lavfi -i sine=d=1 -c:a wmav2", "audio/mp4"),
        ("player.m4v", "-f lavfi -i testsrc=size=64x48:duration=1:rate=10 -c:v libx264 -pix_fmt yuv420p", "video/mp4"),
        ("studio.aiff", "-f lavfi -i sine=d=1", "audio/mp4"),
        (
            "camera.mts",
            "-f lavfi -i testsrc=size=64x48:duration=1:rate=10 -f lavfi -i sine=d=1 -c:v libx264 -pix_fmt yuv420p -f mpegts",
            "video/mp4"
        ),
    ];

    [Fact]
    public async Task Files_of_phones_and_cameras_come_in_whatever_they_are_called()
    {
        foreach (var (name, how, type) in OfPhones)
            await ComesIn(name, how, type);
    }

    private async Task ComesIn(string name, string how, string type)
    {
        var path = Path.Combine(made.FullName, name);
        Run("ffmpeg", [.. "-v error -y".Split(' '), .. how.Split(' '), path]);
        var bytes = await File.ReadAllBytesAsync(path);
        foreach (var called in new[] { name, "it is called " + name + ".txt" })
        {
            var sent = called == name ? bytes : [.. bytes, 0];
            var (state, said, id) = await server.Upload(study, called, sent);
            Assert.True(state == "done", said);
            if (!type.StartsWith("image/", StringComparison.Ordinal))
                await Made(id!.Value);
            using var answer = await server.Http.GetAsync(new Uri($"/api/sources/{id}/media", UriKind.Relative));
            Assert.Equal(type, answer.Content.Headers.ContentType!.MediaType);
        }
    }

    private async Task Made(long source)
    {
        JsonNode facts;
        while ((string)(facts = await server.Get($"sources/{source}/recording"))["state"]! is not ("ready" or "unready"))
            await Task.Delay(20);
        Assert.True((string)facts["state"]! == "ready", (string)facts["said"]!);
    }

    [Fact]
    public async Task A_film_has_a_frame_to_know_it_by_and_its_changes_of_scene()
    {
        var path = Path.Combine(made.FullName, "scenes.mp4");
        Run(
            "ffmpeg",
            [
                .. "-v error -y -f lavfi -i color=black:s=160x90:r=10:d=1.5 -f lavfi -i testsrc=s=160x90:r=10:d=2 -f lavfi -i color=white:s=160x90:r=10:d=1".Split(
                    ' '
                ),
                "-filter_complex",
                "[0:v][1:v][2:v]concat=n=3:v=1",
                .. "-c:v libx264 -pix_fmt yuv420p".Split(' '),
                path,
            ]
        );
        var (film, _) = await Ready("scenes.mp4", await File.ReadAllBytesAsync(path));
        JsonArray scenes;
        while ((scenes = (await server.Get($"sources/{film}/scenes")).AsArray()).Count == 0)
            await Task.Delay(20);
        Assert.Equal([1500, 3500], scenes.Select(s => (int)s!));
        using var poster = await server.Http.GetAsync(new Uri($"/api/sources/{film}/poster", UriKind.Relative));
        Assert.Equal("image/png", poster.Content.Headers.ContentType!.MediaType);
    }

    [Fact]
    public async Task A_page_of_a_pdf_is_kept_as_a_picture_that_knows_its_document()
    {
        var pdf = await File.ReadAllBytesAsync(Path.Combine(DemoTests.DemoFolderPath(), "boarding", "named-ticket.pdf"));
        var source = (await server.Upload(study, "named-ticket.pdf", pdf)).SourceId!.Value;
        var picture = (long)(await server.Post($"sources/{source}/pages/1/picture", new { }))["id"]!;
        var line = (await server.Get($"sources/{picture}"))["line"]!;
        Assert.Equal((source, 1), ((long)line["stillOfId"]!, (int)line["stillPage"]!));
        using var shown = await server.Http.GetAsync(new Uri($"/api/sources/{picture}/media", UriKind.Relative));
        Assert.Equal("image/png", shown.Content.Headers.ContentType!.MediaType);
        Assert.Equal(400, (await server.Refused($"sources/{source}/pages/99/picture", new { })).Status);
        var pasted = await server.Paste(study, "Notes", "No pages.");
        Assert.Equal(400, (await server.Refused($"sources/{pasted}/pages/1/picture", new { })).Status);
    }

    [Fact]
    public async Task What_was_made_of_a_file_goes_with_it()
    {
        var bytes = await Make("talk.wav");
        var (source, _) = await Ready("talk.wav", bytes);
        var folder = Path.Combine(server.Folder, "made");
        Assert.True(Directory.Exists(Path.Combine(folder, Convert.ToHexStringLower(SHA256.HashData(bytes)))));
        // As after a restore, which brings none of it.
        Directory.Delete(folder, recursive: true);
        Assert.Equal("unready", (string)(await server.Get($"sources/{source}/recording"))["state"]!);
        await server.Post($"sources/{source}/recording/ready", new { });
        while ((string)(await server.Get($"sources/{source}/recording"))["state"]! != "ready")
            await Task.Delay(20);
        Assert.Equal(400, (await Peaks(source, 100)).Length);
    }
}

/// <summary>What a pipe hands on.</summary>
public sealed class SampleTests
{
    [Theory]
    [InlineData(1)]
    [InlineData(3)]
    [InlineData(1 << 16)]
    public async Task Samples_are_whole_however_a_pipe_hands_them_on(int atOnce)
    {
        var bytes = Enumerable.Range(0, (1 << 17) + 7).Select(i => (byte)(i * 31)).ToArray();
        var taken = new List<short>();
        await Vitrine.Server.Media.Ffmpeg.InSamples(
            new PieceStream(bytes, atOnce),
            samples => taken.AddRange(samples.ToArray()),
            CancellationToken.None
        );
        Assert.Equal(MemoryMarshal.Cast<byte, short>(bytes.AsSpan(0, bytes.Length - 1)).ToArray(), taken);
    }

    /// <summary>Gives so many bytes a time, or as many as there is room for.</summary>
    private sealed class PieceStream(byte[] bytes, int atOnce) : MemoryStream(bytes)
    {
        public override ValueTask<int> ReadAsync(Memory<byte> buffer, CancellationToken cancellationToken = default) =>
            base.ReadAsync(buffer[..Math.Min(buffer.Length, atOnce)], cancellationToken);
    }
}
