using System.Net;
using System.Net.Http.Json;
using System.Text;

namespace Vitrine.Server.Tests;

/// <summary>Names of transcripts that nobody was matched to become participants in one step.</summary>
public sealed class NamesTests : IAsyncLifetime
{
    private readonly TestServer server = new("serve");
    private long study;

    public async Task InitializeAsync()
    {
        await server.SetUp();
        study = await server.Study();
    }

    public Task DisposeAsync()
    {
        server.Dispose();
        return Task.CompletedTask;
    }

    private static object Person(string label, string code, string pseudonym) =>
        new
        {
            label,
            code,
            pseudonym,
        };

    [Fact]
    public async Task Two_people_who_are_added_at_once_get_a_code_each()
    {
        async Task<string> Added(string pseudonym) =>
            ((string)(await server.Post($"studies/{study}/participants", new { code = "", pseudonym }))["label"]!).Split(' ')[2];
        await server.Post($"studies/{study}/participants", new { code = "p03", pseudonym = "Ash" });
        Assert.Equal(["P02", "P04"], (await Task.WhenAll(Added("Wren"), Added("Fern"))).Order());
    }

    [Fact]
    public async Task Sixteen_interviews_are_one_step_and_one_undo()
    {
        for (var i = 0; i < 16; i++)
            await server.Upload(
                study,
                $"talk {i}.txt",
                Encoding.UTF8.GetBytes(
                    $"Una: Where {i}?\n\nMarnie{(char)('a' + i)}: There.\n\nUna: And then?\n\nMarnie{(char)('a' + i)}: Home."
                )
            );
        var people = Enumerable.Range(0, 16).Select(i => Person($"marnie{(char)('a' + i)}", $"P{i + 1:00}", $"Plant {i}")).ToList();
        var step = await server.Post(
            $"studies/{study}/speakers/participants",
            new
            {
                people,
                pseudonyms = "Plant 1, Plant 2",
                agreedBy = "signature",
            }
        );
        Assert.Equal("Made participants of 16 names", (string)step["label"]!);
        Assert.Equal("Plant 1, Plant 2", (string)(await server.Get($"studies/{study}"))["pseudonyms"]!);
        var made = (await server.Get($"studies/{study}/participants?page=0"))["people"]!.AsArray();
        Assert.Equal(16, made.Count);
        Assert.Equal(
            ("P01", "Plant 0", "marniea"),
            ((string)made[0]!["code"]!, (string)made[0]!["pseudonym"]!, (string)made[0]!["realName"]!)
        );
        Assert.All(
            (await server.SourcesOf(study)).SelectMany(s => s!["speakers"]!.AsArray()).Where(s => ((string)s!["label"]!).StartsWith('M')),
            s => Assert.NotNull(s!["participantId"])
        );
        // They were asked once, and it is noted of all.
        Assert.All(made, p => Assert.Equal(("given", "signature"), ((string)p!["consent"]!, (string)p["agreedBy"]!)));
        // Another answer was not said so.
        var cell = new
        {
            participantId = (long)made[0]!["id"]!,
            column = "consent",
            value = "limited",
        };
        await server.Put($"studies/{study}/participants/cells", new { cells = new[] { cell } });
        Assert.Null((await server.PeopleOf(study))[0]!["agreedBy"]);
        await server.Post("undo", new { studyId = study });
        // Matched by now; and a code that is taken refuses the whole.
        Assert.Equal(400, (await server.Refused($"studies/{study}/speakers/participants", new { people = people.Take(1) })).Status);
        await server.Post("undo", new { studyId = study });
        people[15] = Person("Marniep", "p01", "Twice");
        Assert.Equal(400, (await server.Refused($"studies/{study}/speakers/participants", new { people })).Status);
        Assert.Empty((await server.Get($"studies/{study}/participants?page=0"))["people"]!.AsArray());
        using var stranger = await server.Person("Tom", "researcher");
        using var answer = await stranger.PostAsJsonAsync($"/api/studies/{study}/speakers/participants", new { people });
        Assert.Equal(HttpStatusCode.NotFound, answer.StatusCode);
    }
}
