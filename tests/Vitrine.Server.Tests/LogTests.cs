using System.Text.Json.Nodes;

namespace Vitrine.Server.Tests;

public sealed class LogTests
{
    [Fact]
    public async Task The_log_tells_what_was_asked_and_how_it_ended_and_nothing_that_anyone_said_or_is_called()
    {
        using var server = new TestServer();
        await server.SetUp();
        var study = await server.Study("Quillfeather study");
        await server.Person(study, "P01", "Quillfeather", "Marnie Quillfeather");
        var text = "Una: How, quillfeather?\n\nQuillfeather: I waited for the quillfeather.";
        var source = await server.Paste(study, "Quillfeather talk", text);
        await server.Mark(source, text, "I waited", "quillfeather tag");
        await server.Get("search?typed=quillfeather");
        await server.Refused("sign-in", new { email = "quillfeather@vitrine.example", password = "quillfeather" });
        await server.Refused(
            $"sources/{source}/observations",
            new
            {
                anchor = new
                {
                    kind = "text",
                    start = 5,
                    end = 5,
                },
                tagIds = Array.Empty<long>(),
                newTags = new[] { "quillfeather" },
            }
        );
        Assert.Equal(404, (int)(await server.Http.GetAsync("/api/read/quillfeather-token")).StatusCode);
        Assert.Equal(404, (int)(await server.Http.GetAsync("/api/quillfeather")).StatusCode);

        // A line is written once its answer has gone out; the last one tells that all are there.
        var lines = await Wait.For(
            "the line of an address that is not there",
            () => Task.FromResult(ReadLines(Directory.GetFiles(Path.Combine(server.Folder, "logs")).Single())),
            all => all.Any(l => l.Contains("(none)", StringComparison.Ordinal))
        );

        Assert.DoesNotContain(
            lines,
            l =>
                l.Contains("quillfeather", StringComparison.OrdinalIgnoreCase)
                || l.Contains("Una", StringComparison.Ordinal)
                || l.Contains("vitrine.example", StringComparison.Ordinal)
        );
        var asked = lines.Select(l => JsonNode.Parse(l)!).Select(l => $"{l["Method"]} {l["Route"]} {l["Status"]} {l["Account"]}").ToList();
        Assert.Contains("POST /api/sources/{id:long}/observations 200 1", asked);
        Assert.Contains("GET /api/read/{token}/ 404 1", asked);
        Assert.Contains("POST /api/sign-in 400 1", asked);
    }

    private static List<string> ReadLines(string path)
    {
        using var stream = new FileStream(path, FileMode.Open, FileAccess.Read, FileShare.ReadWrite);
        return new StreamReader(stream).ReadToEnd().Split('\n', StringSplitOptions.RemoveEmptyEntries).ToList();
    }
}
