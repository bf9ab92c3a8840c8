using System.Net;
using System.Net.Http.Headers;
using System.Security.Cryptography;
using System.Text;
using Microsoft.Data.Sqlite;
using Vitrine.Storage.Trail;

namespace Vitrine.Server.Tests;

public sealed class ImportTests(SharedServer shared) : IClassFixture<SharedServer>, IAsyncLifetime
{
    private readonly TestServer server = shared.Server;
    private long study;

    public async Task InitializeAsync()
    {
        study = await server.Study();
    }

    public Task DisposeAsync() => Task.CompletedTask;

    [Fact]
    public async Task A_file_that_was_broken_off_goes_on_where_it_stopped()
    {
        var bytes = Encoding.UTF8.GetBytes("Sorrel: I waited on the quay.\n\nIda: How long?\n\nSorrel: All day.\n\nIda: And then?");
        var begun = await server.Announce(study, "P03.txt", bytes.Length);
        Assert.Equal(20, (long)(await server.Send(study, begun, 0, bytes[..20]))["received"]!);
        // The page is loaded anew and the same file chosen again.
        var again = await server.Announce(study, "P03.txt", bytes.Length);
        Assert.Equal(((string)begun["key"]!, 20L), ((string)again["key"]!, (long)again["received"]!));
        // A piece that does not fit changes nothing and says how far one is.
        Assert.Equal(20, (long)(await server.Send(study, again, 10, bytes[10..]))["received"]!);
        await server.Send(study, again, 20, bytes[20..]);
        var (state, said, id) = await server.Ended(study, again);
        Assert.Equal(("done", "4 turns by 2 speakers."), (state, said));
        Assert.Equal(bytes, await server.Http.GetByteArrayAsync($"/api/sources/{id}/original"));
    }

    [Fact]
    public async Task A_name_that_was_not_understood_is_asked_about_and_the_answer_is_a_step()
    {
        const string talk = "Ida: How was it?\nSorrel: Late.\nCaptain Reed: I tell everybody.\nIda: And then?\nSorrel: Home.";
        var (_, said, id) = await server.Upload(study, "talk.txt", Encoding.UTF8.GetBytes(talk));
        Assert.Equal("5 turns by 3 speakers. 1 name to look at.", said);
        var look = await server.Get($"sources/{id}/look");
        Assert.Equal(("nameAndColon", "doubtful"), ((string)look["style"]!, (string)look["sureness"]!));
        Assert.Equal(("Captain Reed", true, false), Label(look));
        Assert.Equal("I tell everybody.", (string)look["labels"]![0]!["words"]!);

        var step = await server.Put($"sources/{id}/labels", new { label = "Captain Reed", kind = "noSpeaker" });
        look = await server.Get($"sources/{id}/look");
        Assert.Equal(("Captain Reed", false, true), Label(look));
        Assert.Equal("Captain Reed: I tell everybody.", (string)look["labels"]![0]!["words"]!);
        Assert.Equal(4, (await server.Get($"sources/{id}"))["turns"]!.AsArray().Count);

        await server.Put($"sources/{id}/labels", new { label = "captain reed", kind = "team" });
        var source = await server.Get($"sources/{id}");
        Assert.Equal(5, source["turns"]!.AsArray().Count);
        Assert.True((bool)source["line"]!["speakers"]!.AsArray().Single(s => (string)s!["label"]! == "Captain Reed")!["isTeam"]!);
        Assert.Single((await server.Get($"sources/{id}/look"))["labels"]!.AsArray());

        var (status, sentence) = await server.Refused(
            $"sources/{id}/labels",
            new { label = "Nobody here", kind = "speaker" },
            HttpMethod.Put
        );
        Assert.Equal((400, "This name does not stand in the text any more. Open the source again."), (status, sentence));
        Assert.Equal("Said that “Captain Reed” is no speaker", (string)step["label"]!);

        static (string, bool, bool) Label(System.Text.Json.Nodes.JsonNode look)
        {
            var label = look["labels"]!.AsArray().Single()!;
            return ((string)label["label"]!, (bool)label["speaks"]!, (bool)label["settled"]!);
        }
    }

    [Fact]
    public async Task The_same_file_is_recognised_and_added_again_only_when_asked()
    {
        var first = await server.Upload(study, "talk.txt", "Some words."u8.ToArray());
        var second = await server.Announce(study, "other name.txt", 11);
        await server.Send(study, second, 0, "Some words."u8.ToArray());
        Assert.Equal(("same", "The same file is already here as “talk”.", first.SourceId), await server.Ended(study, second));
        await server.Post($"studies/{study}/imports/{second["key"]}/anyway", new { });
        Assert.Equal("done", (await server.Ended(study, second)).State);
        Assert.Equal(2, (await server.SourcesOf(study)).Count);
        Assert.Single(
            Directory.GetFiles(Path.Combine(server.Folder, "media"), "*", SearchOption.AllDirectories),
            f => File.ReadAllText(f) == "Some words."
        );
    }

    [Fact]
    public async Task A_bad_file_leaves_nothing_and_stops_no_other()
    {
        Assert.Equal("refused", (await server.Upload(study, "broken.docx", "no zip"u8.ToArray())).State);
        Assert.Equal("done", (await server.Upload(study, "good.txt", "Some words."u8.ToArray())).State);
        Assert.Empty(Directory.GetFiles(Path.Combine(server.Folder, "arriving")));
        await server.Post($"studies/{study}/imports/put-away", new { });
        Assert.Empty((await server.Get($"studies/{study}/imports")).AsArray());
    }

    [Fact]
    public async Task Comments_of_a_document_become_margin_notes_under_their_writers_names_and_go_with_it()
    {
        var file = await File.ReadAllBytesAsync(Path.Combine(AppContext.BaseDirectory, "references", "documents", "commented.docx"));
        var (state, said, id) = await server.Upload(study, "commented.docx", file);
        Assert.Equal(("done", "2 paragraphs. 2 names to look at. 2 comments are margin notes now."), (state, said));
        var text = (string)(await server.Get($"sources/{id}"))["text"]!;
        var notes = (await server.Get($"sources/{id}/margin-notes")).AsArray();
        Assert.Equal(
            [("first crossing", "Tom Okafor: Ask her for the day."), ("Everybody stood", "Una Lind: Was this at the ramp?")],
            notes.Select(n => (text[(int)n!["anchor"]!["start"]!..(int)n["anchor"]!["end"]!], (string)n["words"]!))
        );
        await server.Post("undo", new { studyId = study });
        Assert.Empty(await server.SourcesOf(study));
    }

    [Fact]
    public async Task A_file_that_is_still_coming_in_can_be_taken_back()
    {
        var import = await server.Announce(study, "long.wav", 1_000_000);
        await server.Send(study, import, 0, new byte[1000]);
        (await server.Http.DeleteAsync($"/api/studies/{study}/imports/{import["key"]}")).EnsureSuccessStatusCode();
        Assert.Equal("cancelled", (await server.Ended(study, import)).State);
        Assert.Empty(Directory.GetFiles(Path.Combine(server.Folder, "arriving")));
    }

    [Fact]
    public async Task A_recording_is_kept_as_it_is_and_served_in_ranges()
    {
        var sound = RandomNumberGenerator.GetBytes(300_000);
        var (state, _, id) = await server.Upload(study, "P05.mp3", sound);
        Assert.Equal("done", state);
        using var request = new HttpRequestMessage(HttpMethod.Get, $"/api/sources/{id}/media")
        {
            Headers = { Range = new RangeHeaderValue(1000, 1999) },
        };
        using var answer = await server.Http.SendAsync(request);
        Assert.Equal(HttpStatusCode.PartialContent, answer.StatusCode);
        Assert.Equal(
            ("audio/mpeg", (string?)null),
            (answer.Content.Headers.ContentType!.MediaType, answer.Content.Headers.ContentDisposition?.DispositionType)
        );
        Assert.Equal(sound[1000..2000], await answer.Content.ReadAsByteArrayAsync());
        Assert.Equal("audio/mpeg", (string)(await server.Get($"sources/{id}"))["line"]!["mediaType"]!);
    }

    [Fact]
    public async Task Ten_who_send_one_file_at_once_make_one_whole_file_and_no_failure()
    {
        var bytes = Enumerable.Range(0, 300_000).Select(i => (byte)('a' + (i % 26))).ToArray();
        var import = await server.Announce(study, "talk.txt", bytes.Length);
        var answers = await Task.WhenAll(
            Enumerable
                .Range(0, 10)
                .Select(_ =>
                    server.Http.PutAsync($"/api/studies/{study}/imports/{import["key"]}/bytes?from=0", new ByteArrayContent(bytes))
                )
        );
        Assert.All(answers, a => Assert.Equal(HttpStatusCode.OK, a.StatusCode));
        var (state, said, id) = await server.Ended(study, import);
        Assert.True(state == "done", said);
        Assert.Equal(bytes, await server.Http.GetByteArrayAsync($"/api/sources/{id}/original"));
    }

    [Theory]
    [InlineData(40, 200, 400)] // longer than what is left
    [InlineData(-1, 60, 400)]
    [InlineData(101, 1, 400)]
    [InlineData(60, 40, 200)] // a gap: it is told how much is there
    public async Task A_piece_that_does_not_fit_is_not_taken_by_a_part_of_it(long from, int length, int status)
    {
        var import = await server.Announce(study, "talk.txt", 100);
        await server.Send(study, import, 0, [.. Enumerable.Repeat((byte)'a', 40)]);
        // With and without its length told beforehand.
        foreach (
            HttpContent content in new HttpContent[] { new ByteArrayContent(new byte[length]), new StreamContent(new NoLength(length)) }
        )
        {
            using var answer = await server.Http.PutAsync($"/api/studies/{study}/imports/{import["key"]}/bytes?from={from}", content);
            Assert.Equal(status, (int)answer.StatusCode);
        }
        var now = (await server.Get($"studies/{study}/imports")).AsArray().Single(i => (string)i!["key"]! == (string)import["key"]!)!;
        Assert.Equal((40, "sending"), ((int)now["received"]!, (string)now["state"]!));
    }

    private sealed class NoLength(int length) : MemoryStream(new byte[length])
    {
        public override bool CanSeek => false;
    }

    [Fact]
    public async Task A_size_that_cannot_be_is_refused_with_a_sentence()
    {
        var (status, sentence) = await server.Refused(
            $"studies/{study}/imports",
            new
            {
                name = "talk.txt",
                bytes = -5,
                modified = "",
                kind = "interview",
                folderId = (long?)null,
                attachment = false,
                batch = (string?)null,
            }
        );
        Assert.Equal((400, "A file has 0 bytes or more. Choose it again."), (status, sentence));
    }

    [Fact]
    public async Task A_page_of_html_is_never_shown_as_one()
    {
        var (_, _, id) = await server.Upload(study, "page.html", "<p>Words</p><script>alert(1)</script>"u8.ToArray());
        using var answer = await server.Http.GetAsync($"/api/sources/{id}/media");
        Assert.Equal("attachment", answer.Content.Headers.ContentDisposition!.DispositionType);
    }

    [Fact]
    public async Task What_someone_else_sends_is_theirs_alone()
    {
        var import = await server.Announce(study, "talk.txt", 100);
        var tom = await server.Person("Tom", "steward");
        Assert.Equal(
            HttpStatusCode.NotFound,
            (
                await tom.PutAsync($"/api/studies/{study}/imports/{import["key"]}/bytes?from=0", new ByteArrayContent(new byte[100]))
            ).StatusCode
        );
        Assert.Equal("[]", await tom.GetStringAsync($"/api/studies/{study}/imports"));
    }

    [Fact]
    public async Task A_source_that_is_taken_away_comes_back_with_its_file_and_its_shape()
    {
        var (_, _, id) = await server.Upload(study, "notes.md", "# Quay\n\nIt was **late**."u8.ToArray());
        (await server.Http.DeleteAsync($"/api/sources/{id}")).EnsureSuccessStatusCode();
        await server.Post("undo", new { studyId = study, actionId = (long?)null });
        Assert.Equal("# Quay\n\nIt was **late**.", await server.Http.GetStringAsync($"/api/sources/{id}/original"));
        var emphasis = (await server.Get($"sources/{id}"))["shape"]!["emphases"]![0]!;
        Assert.Equal((true, 13, 17), ((bool)emphasis["bold"]!, (int)emphasis["words"]!["start"]!, (int)emphasis["words"]!["end"]!));
    }

    [Fact]
    public async Task A_job_that_was_killed_before_it_said_so_is_done_and_makes_nothing_twice()
    {
        var first = await server.Announce(study, "talk.txt", 11);
        await server.Send(study, first, 0, "Some words."u8.ToArray());
        var done = await server.Ended(study, first);
        using (var database = new SqliteConnection($"Data Source={Path.Combine(server.Folder, Workspace.DatabaseName)}"))
        {
            database.Open();
            using var command = database.CreateCommand();
            command.CommandText = "UPDATE job SET state = 'waiting', source_id = NULL";
            command.ExecuteNonQuery();
        }
        await server.Upload(study, "other.txt", "Other words."u8.ToArray());
        Assert.Equal(("done", done.SourceId), ((await server.Ended(study, first)).State, (await server.Ended(study, first)).SourceId));
        Assert.Equal(2, (await server.SourcesOf(study)).Count);
    }

    [Fact]
    public async Task Turns_can_be_read_another_way_and_marks_and_matches_stay()
    {
        await server.Person(study, "P03", "Sorrel");
        var text = "Sorrel: I waited.\n\nIda: How long?\n\nSorrel: All day.\n\nIda: And then?";
        var source = await server.Paste(study, "Talk", text);
        await server.Mark(source, text, "All day", "waiting");
        async Task<(int Turns, int People)> Now()
        {
            var tag = (await server.TagUses(study)).Single()!["breadth"]!["triple"]!;
            return ((await server.Get($"sources/{source}"))["turns"]!.AsArray().Count, (int)tag["people"]!);
        }
        var readings = (await server.Get($"sources/{source}/turn-readings")).AsArray();
        Assert.Equal(("nameAndColon", 2), ((string)readings.Single(r => (bool)r!["now"]!)!["style"]!, (int)readings[0]!["speakers"]!));
        Assert.Equal((4, 1), await Now());
        await server.Put($"sources/{source}/turns", new { style = "noTurns" });
        Assert.Equal((4, 0), await Now());
        await server.Put($"sources/{source}/turns", new { style = "nameAndColon" });
        Assert.Equal((4, 1), await Now());
    }
}
