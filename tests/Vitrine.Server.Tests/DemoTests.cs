using System.Text.Json.Nodes;
using Microsoft.Extensions.DependencyInjection;
using Vitrine.Server.Demo;
using Vitrine.Storage.Backups;
using Vitrine.Storage.Counting;
using Vitrine.Storage.Show.Publication;

namespace Vitrine.Server.Tests;

/// <summary>The demo loads through the public API and holds what a researcher is to find in it.</summary>
public sealed class DemoTests(DemoTests.LoadedDemo demo) : IClassFixture<DemoTests.LoadedDemo>
{
    private readonly TestServer server = demo.Server;

    /// <summary>The demo, loaded once; its tests only look.</summary>
    public sealed class LoadedDemo : IAsyncLifetime
    {
        public TestServer Server { get; } = new("demo");

        public Task InitializeAsync() => new DemoLoader(Server.Http, DemoFolderPath()).Load();

        public Task DisposeAsync()
        {
            Server.Dispose();
            return Task.CompletedTask;
        }
    }

    [Fact]
    public async Task The_demo_tells_what_careful_counting_finds()
    {
        var study = (await server.Get("studies")).AsArray().Single(s => (string)s!["title"]! == "Boarding without a car")!;
        Assert.True((int)study["observations"]! >= 90);
        var id = (long)study["id"]!;

        foreach (var source in (await server.SourcesOf(id)))
        {
            var words = ((string)(await server.Get($"sources/{source!["id"]}"))["text"]!)
                .Split(default(char[]), StringSplitOptions.RemoveEmptyEntries)
                .Length;
            // All but the excerpt that is heard, and its sound.
            if ((string)source["kind"]! == "interview" && !((string)source["title"]!).StartsWith("P01", StringComparison.Ordinal))
                Assert.True(words >= 1_200, $"{source["title"]} has {words} words");
            Assert.All(
                source["speakers"]!.AsArray(),
                s => Assert.True((bool)s!["isTeam"]! || s["participantId"] is not null, $"{source["title"]}: {s["label"]}")
            );
        }

        var insights = (await server.Get($"insights?studyId={id}")).AsArray();
        JsonNode Insight(string part) => insights.Single(i => ((string)i!["insight"]!["headline"]!).Contains(part))!;
        Assert.Equal("singleVoice", (string)Insight("seat covers")["facts"]!["level"]!);
        Assert.Equal("echoed", (string)Insight("Return")["facts"]!["level"]!);
        Assert.Equal("contested", (string)Insight("named ticket")["facts"]!["level"]!);
        Assert.Equal("corroborated", (string)Insight("already on the quay")["facts"]!["level"]!);
        Assert.Equal(4, (int)Insight("Return")["breadth"]!["outOf"]!);

        // The trap: by mentions the seat covers lead, by people they are last.
        var leaves = (await server.TagUses(id)).Where(t => t!["tag"]!["parentId"] is not null).ToList();
        var most = leaves.MaxBy(t => (int)t!["breadth"]!["triple"]!["observations"]!)!;
        Assert.Equal("seat covers", (string)most["tag"]!["name"]!);
        Assert.True(leaves.Count(t => (int)t!["breadth"]!["triple"]!["people"]! > (int)most["breadth"]!["triple"]!["people"]!) > 10);
        Assert.Contains(leaves, t => t!["tag"]!["definition"]!.GetValue<string>().Length > 20);

        Assert.True((await server.Get($"studies/{id}/sorting"))["themes"]!.AsArray().Count >= 4);
        Assert.Equal(3, (int)Assert.Single((await server.Get("exhibits")).AsArray())!["insights"]!);
    }

    [Fact]
    public async Task What_happens_while_and_after_sessions_is_in_it()
    {
        var id = (long)(await server.Get("studies")).AsArray().Single(s => (string)s!["title"]! == "Boarding without a car")!["id"]!;
        // Notes taken live, with their times; a corrected transcript with one observation to look at.
        var notebook = (await server.SourcesOf(id)).Single(s => (string)s!["title"]! == "Quay notebook")!;
        Assert.All((await server.Get($"sources/{notebook["id"]}"))["turns"]!.AsArray(), t => Assert.NotNull((int?)t!["beginMs"]));
        Assert.Equal(
            "They mean well and they say ready, and I say no, and they lift. I've been put down crooked.",
            (string)Assert.Single((await server.Get($"studies/{id}/to-look-at")).AsArray())!["oldWords"]!
        );
        // Eight pieces of feedback, two watches.
        Assert.Equal(
            (8, 2),
            ((int)(await server.Get("intake?view=all&page=0"))["total"]!, (await server.Get("intake/watches")).AsArray().Count)
        );
        // One limited, and one who withdrew before, with nothing of it left.
        Assert.Equal(
            ["limited"],
            (await server.PeopleOf(id)).Select(p => (string)p!["consent"]!).Where(c => c is "limited" or "withdrawn")
        );
        var database = System.Text.Encoding.Latin1.GetString(await ReadAsync(Path.Combine(server.Folder, "vitrine.db")));
        foreach (var word in new[] { "Orache", "Fallowmere", "heronry" })
            Assert.DoesNotContain(word, database);
        Assert.Empty(WorkspaceCheck.Of(server.Folder).Problems);
    }

    [Fact]
    public async Task Whose_words_leave_is_told_by_the_rule_by_which_they_are_counted()
    {
        var seen = 0;
        foreach (var study in (await server.Get("studies")).AsArray().Select(s => (StudyId)(long)s!["id"]!))
        {
            var index = server.Host.Services.GetRequiredService<StudyIndexStore>().Load(study);
            var (gate, passages) = server.Host.Services.GetRequiredService<PublicationStore>().GateFor(study);
            seen += passages.Count;
            for (var o = 0; o < index.Observations.Length; o++)
                Assert.Equal(index.PersonOf(o), gate.PersonOf(passages[index.Observations[o]]));
        }
        Assert.True(seen > 90);
    }

    private static async Task<byte[]> ReadAsync(string file)
    {
        await using var stream = new FileStream(file, FileMode.Open, FileAccess.Read, FileShare.ReadWrite);
        using var bytes = new MemoryStream();
        await stream.CopyToAsync(bytes);
        return bytes.ToArray();
    }

    internal static string DemoFolderPath()
    {
        var folder = AppContext.BaseDirectory;
        while (!File.Exists(Path.Combine(folder, "Vitrine.slnx")))
            folder = Path.GetDirectoryName(folder)!;
        return Path.Combine(folder, "demo");
    }

    [Fact]
    public async Task A_new_study_has_its_survey_and_nothing_marked()
    {
        var study = (await server.Get("studies")).AsArray().Single(s => (string)s!["title"]! == "Winter timetable")!;
        Assert.Equal((60, 0), ((int)study["participants"]!, (int)study["observations"]!));
        var people = await server.Get($"studies/{study["id"]}/participants?page=0");
        Assert.Equal(
            ["date", "choice", "number", "yesNo", "number", "number"],
            people["attributes"]!.AsArray().Select(a => (string)a!["kind"]!)
        );
        Assert.All(await server.SourcesOf(study["id"]!), s => Assert.Equal("survey", (string)s!["kind"]!));
    }
}
