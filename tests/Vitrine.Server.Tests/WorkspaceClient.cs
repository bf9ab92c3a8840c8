using System.Net.Http.Json;
using System.Text.Json;
using System.Text.Json.Nodes;
using Vitrine.Core.RichTexts;

namespace Vitrine.Server.Tests;

/// <summary>What tests say to a server over HTTP, and what they ask it.</summary>
public abstract class WorkspaceClient
{
    /// <summary>A browser that keeps its cookie.</summary>
    public abstract HttpClient Http { get; }

    public async Task<JsonNode> SetUp() =>
        await Post(
            "set-up",
            new
            {
                name = "Una Kerr",
                email = "una@vitrine.example",
                password = "ten letters and more",
                role = "steward",
            }
        );

    /// <summary>The cell of a table, as an address asks for what stands behind it.</summary>
    public static string Cell(object conditions) => "cell=" + Uri.EscapeDataString(JsonSerializer.Serialize(conditions));

    /// <summary>The first page of a study's sources.</summary>
    public async Task<JsonArray> SourcesOf(object study) => (await Get($"studies/{study}/sources?page=0"))["sources"]!.AsArray();

    /// <summary>The first page of a study's participants.</summary>
    public async Task<JsonArray> PeopleOf(object study) => (await Get($"studies/{study}/participants?page=0"))["people"]!.AsArray();

    /// <summary>The tags of a study with their counts.</summary>
    public async Task<IReadOnlyList<JsonNode>> TagUses(long study)
    {
        var counts = (await Get($"studies/{study}/tag-counts")).AsArray().ToDictionary(c => (long)c!["tagId"]!);
        return
        [
            .. (await Get($"studies/{study}/tags"))
                .AsArray()
                .Select(t =>
                    (JsonNode)
                        new JsonObject
                        {
                            ["tag"] = t!.DeepClone(),
                            ["breadth"] = counts[(long)t["id"]!]!["breadth"]!.DeepClone(),
                            ["own"] = counts[(long)t["id"]!]!["own"]!.DeepClone(),
                        }
                ),
        ];
    }

    /// <summary>A text in blocks with these paragraphs.</summary>
    public static JsonObject Rich(string text) => RichTextJson.Write(RichText.FromPlain(text));

    /// <summary>The words of a text in blocks, or of a story as readers have it.</summary>
    public static string Plain(JsonNode? text) =>
        text is JsonArray parts
            ? string.Join("\n\n", parts.Select(p => p!["text"]).OfType<JsonNode>().Select(Plain))
            : RichTextJson.Read(text!.DeepClone()).Plain;

    public async Task<JsonNode> Get(string path) => await Answer(await Http.GetAsync("/api/" + path), path);

    public async Task<JsonNode> Post(string path, object body) => await Answer(await Http.PostAsJsonAsync("/api/" + path, body), path);

    public async Task<JsonNode> Put(string path, object body) => await Answer(await Http.PutAsJsonAsync("/api/" + path, body), path);

    /// <summary>The sentence with which something is refused.</summary>
    public async Task<(int Status, string Sentence)> Refused(string path, object body, HttpMethod? method = null)
    {
        using var request = new HttpRequestMessage(method ?? HttpMethod.Post, "/api/" + path) { Content = JsonContent.Create(body) };
        return await SentenceOf(await Http.SendAsync(request));
    }

    public static async Task<(int Status, string Sentence)> SentenceOf(HttpResponseMessage answer)
    {
        Assert.False(answer.IsSuccessStatusCode, await answer.Content.ReadAsStringAsync());
        Assert.Equal("application/problem+json", answer.Content.Headers.ContentType?.MediaType);
        var problem = JsonNode.Parse(await answer.Content.ReadAsStringAsync())!;
        Assert.DoesNotContain("   at ", problem.ToJsonString());
        return ((int)answer.StatusCode, problem["detail"]!.GetValue<string>());
    }

    /// <summary>Announces a file that will come in.</summary>
    public Task<JsonNode> Announce(long studyId, string name, long bytes, bool attachment = false) =>
        Announce(Http, studyId, name, bytes, attachment);

    private static async Task<JsonNode> Announce(HttpClient http, long studyId, string name, long bytes, bool attachment) =>
        await Answer(
            await http.PostAsJsonAsync(
                $"/api/studies/{studyId}/imports",
                new
                {
                    name,
                    bytes,
                    modified = "",
                    kind = "interview",
                    folderId = (long?)null,
                    attachment,
                }
            ),
            "imports"
        );

    /// <summary>Attaches a file.</summary>
    /// <returns>The attachment.</returns>
    public async Task<long> Attach(long studyId, string name, string content, HttpClient? by = null)
    {
        var (state, said, _) = await Upload(studyId, name, System.Text.Encoding.UTF8.GetBytes(content), attachment: true, by);
        Assert.True(state == "done", said);
        return (long)(await Get($"studies/{studyId}/attachments")).AsArray()[^1]!["id"]!;
    }

    /// <summary>Sends the next piece of it.</summary>
    public async Task<JsonNode> Send(long studyId, JsonNode import, long from, byte[] bytes, HttpClient? by = null) =>
        await Answer(
            await (by ?? Http).PutAsync($"/api/studies/{studyId}/imports/{import["key"]}/bytes?from={from}", new ByteArrayContent(bytes)),
            "bytes"
        );

    /// <summary>Sends a whole file and waits for what becomes of it.</summary>
    public async Task<(string State, string Said, long? SourceId)> Upload(
        long studyId,
        string name,
        byte[] bytes,
        bool attachment = false,
        HttpClient? by = null
    )
    {
        var import = await Announce(by ?? Http, studyId, name, bytes.Length, attachment);
        if ((string)import["state"]! == "sending")
            await Send(studyId, import, 0, bytes, by);
        return await Ended(studyId, import, by);
    }

    /// <summary>Waits until a file that has come in is worked on no more.</summary>
    public async Task<(string State, string Said, long? SourceId)> Ended(long studyId, JsonNode import, HttpClient? by = null)
    {
        var now = await Wait.For(
            $"{import["name"]} to be read",
            async () =>
                (await Answer(await (by ?? Http).GetAsync($"/api/studies/{studyId}/imports"), "imports"))
                    .AsArray()
                    .Single(i => (string)i!["key"]! == (string)import["key"]!)!,
            i => (string)i["state"]! is not ("waiting" or "working")
        );
        return ((string)now["state"]!, (string)now["said"]!, (long?)now["sourceId"]);
    }

    public async Task<long> Study(string title = "Boarding") =>
        (long)
            (
                await Post(
                    "studies",
                    new
                    {
                        title,
                        purpose = "",
                        method = "",
                        researchQuestions = Array.Empty<string>(),
                    }
                )
            )["id"]!;

    public async Task<long> Person(long study, string code, string pseudonym, string? realName = null) =>
        (long)
            (
                await Post(
                    $"studies/{study}/participants",
                    new
                    {
                        code,
                        pseudonym,
                        realName,
                    }
                )
            )["id"]!;

    public async Task<long> Paste(long study, string title, string text) =>
        (long)
            (
                await Post(
                    $"studies/{study}/sources/paste",
                    new
                    {
                        title,
                        kind = "interview",
                        heldOn = (string?)null,
                        text,
                        participantIds = Array.Empty<long>(),
                    }
                )
            )["step"]!["id"]!;

    public async Task<long> Mark(long source, string text, string words, params string[] tags)
    {
        var start = text.IndexOf(words, StringComparison.Ordinal);
        return (long)
            (
                await Post(
                    $"sources/{source}/observations",
                    new
                    {
                        anchor = new
                        {
                            kind = "text",
                            start,
                            end = start + words.Length,
                        },
                        tagIds = Array.Empty<long>(),
                        newTags = tags,
                    }
                )
            )["id"]!;
    }

    /// <summary>Writes a margin note on words of a source.</summary>
    public Task<JsonNode> Remark(long source, string text, string on, string words)
    {
        var start = text.IndexOf(on, StringComparison.Ordinal);
        return Post(
            $"sources/{source}/margin-notes",
            new
            {
                anchor = new
                {
                    kind = "text",
                    start,
                    end = start + on.Length,
                },
                words,
                unsure = false,
            }
        );
    }

    public static async Task<JsonNode> Answer(HttpResponseMessage answer, string path)
    {
        var body = await answer.Content.ReadAsStringAsync();
        Assert.True(answer.IsSuccessStatusCode, $"{path}: {(int)answer.StatusCode} {body}");
        return body.Length > 0 ? JsonNode.Parse(body)! : JsonValue.Create(JsonValueKind.Null.ToString());
    }

    /// <summary>Puts sources into a session of their own.</summary>
    public async Task<long> SessionOf(long study, params long[] sourceIds) =>
        (long)
            (
                await Post(
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
                            participantIds = Array.Empty<long>(),
                        },
                        sourceIds,
                    }
                )
            )["id"]!;
}
