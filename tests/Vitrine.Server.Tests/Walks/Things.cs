using System.Text;
using System.Text.Json.Nodes;
using Vitrine.Core.Text;

namespace Vitrine.Server.Tests.Walks;

/// <summary>A study with one of everything in it, made over HTTP by one person.</summary>
public static class Things
{
    private static readonly Dictionary<string, string> BySegment = new()
    {
        ["studies"] = "studyId",
        ["participants"] = "participantId",
        ["attributes"] = "attributeId",
        ["sources"] = "sourceId",
        ["observations"] = "observationId",
        ["margin-notes"] = "marginNoteId",
        ["folders"] = "folderId",
        ["sessions"] = "sessionId",
        ["watches"] = "watchId",
        ["live-notes"] = "notesId",
        ["attachments"] = "attachmentId",
        ["tags"] = "tagId",
        ["suggestions"] = "suggestionId",
        ["suggested-groups"] = "suggestedGroupId",
        ["themes"] = "themeId",
        ["insights"] = "insightId",
        ["exhibits"] = "exhibitId",
    };

    /// <summary>What belongs to the workspace and not to a study.</summary>
    public static readonly string[] OfTheWorkspace = ["accountId", "channelId", "feedbackId", "invitationId"];

    /// <summary>What the id behind a segment of a path is called.</summary>
    public static string NameAfter(string segment) => BySegment[segment];

    /// <summary>What an id in a query or a body is the id of; null for what is no id.</summary>
    public static string? NameOf(Operation operation, string field) =>
        field switch
        {
            "parentId" => operation.Path.StartsWith("/api/tags", StringComparison.Ordinal) ? "tagId" : "themeId",
            "beforeId" when operation.Path.StartsWith("/api/themes", StringComparison.Ordinal) => "themeId",
            "beforeId" or "afterId" => "sourceId",
            "otherTagId" or "beforeTagId" or "newForTagId" => "tagId",
            "likeId" => "observationId",
            "authorIds" => "accountId",
            "ids" => "maskId",
            "id" when operation.Path.EndsWith("/not-asked", StringComparison.Ordinal) => "tagId",
            _ when field.EndsWith("Ids", StringComparison.Ordinal) => field[..^1],
            _ when field.EndsWith("Id", StringComparison.Ordinal) => field,
            _ => null,
        };

    /// <param name="secret">A word that stands in all that the study holds.</param>
    public static async Task<Dictionary<string, JsonNode?>> Make(TestServer server, HttpClient http, string secret)
    {
        var ids = new Dictionary<string, JsonNode?>();
        var text = $"Una: Hello {secret}?\n\nPseudo{secret}: I waited, {secret}.";
        var study = ids["studyId"] = await Made(
            "studies",
            new
            {
                title = $"About {secret}",
                purpose = "",
                method = "",
                researchQuestions = new[] { secret },
            }
        );
        var at = $"studies/{study}";
        ids["researchQuestionId"] = (await Get($"{at}/research-questions"))[0]!["id"]!.DeepClone();
        ids["participantId"] = await Made(
            $"{at}/participants",
            new
            {
                code = "P01",
                pseudonym = $"Pseudo{secret}",
                realName = secret,
            }
        );
        ids["attributeId"] = await Made($"{at}/attributes", new { name = secret, kind = "text" });
        await Put(
            $"{at}/participants/cells",
            new
            {
                cells = new[]
                {
                    new
                    {
                        participantId = ids["participantId"],
                        column = "attribute",
                        attributeId = ids["attributeId"],
                        value = secret,
                    },
                },
            }
        );
        ids["sourceId"] = (
            await Post(
                $"{at}/sources/paste",
                new
                {
                    title = $"Talk with {secret}",
                    kind = "interview",
                    text,
                    participantIds = Array.Empty<long>(),
                }
            )
        )["step"]!["id"]!.DeepClone();
        ids["speakerId"] = (await Get($"sources/{ids["sourceId"]}"))["line"]!["speakers"]![0]!["id"]!.DeepClone();
        var words = $"I waited, {secret}";
        var start = text.IndexOf(words, StringComparison.Ordinal);
        var marked = await Post(
            $"sources/{ids["sourceId"]}/observations",
            new
            {
                anchor = new
                {
                    kind = "text",
                    start,
                    end = start + words.Length,
                },
                tagIds = Array.Empty<long>(),
                newTags = new[] { $"tag {secret}" },
            }
        );
        (ids["observationId"], ids["actionId"]) = (marked["id"]!.DeepClone(), marked["actionId"]!.DeepClone());
        ids["tagId"] = (await Get($"{at}/tags")).AsArray().Single(t => ((string)t!["name"]!).Contains(secret, StringComparison.Ordinal))![
            "id"
        ]!.DeepClone();
        ids["marginNoteId"] = await Made(
            $"sources/{ids["sourceId"]}/margin-notes",
            new
            {
                anchor = new
                {
                    kind = "text",
                    start,
                    end = start + words.Length,
                },
                words = secret,
                unsure = true,
            }
        );
        await Made(
            $"{at}/passages/tags",
            new
            {
                passages = new[]
                {
                    new
                    {
                        sourceId = ids["sourceId"],
                        start,
                        end = start + words.Length,
                        basedOn = ContentHash.Of(text),
                    },
                },
                tagIds = Array.Empty<long>(),
                newTags = new[] { $"found {secret}" },
                reviewed = false,
                search = new
                {
                    typed = secret,
                    unit = "sentence",
                    team = false,
                },
            }
        );
        ids["tagSearchId"] = (await Get($"{at}/searches"))[0]!["id"]!.DeepClone();
        ids["savedFilterId"] = await Made($"{at}/filters", new { name = secret, conditions = new { unsure = true } });
        ids["folderId"] = await Made($"{at}/folders", new { name = secret });
        ids["sessionId"] = await Made(
            $"{at}/sessions",
            new
            {
                text = new
                {
                    title = secret,
                    kind = "interview",
                    moderator = secret,
                    participantIds = new[] { ids["participantId"] },
                },
                sourceIds = new[] { ids["sourceId"] },
            }
        );
        ids["watchId"] = await Made(
            $"{at}/watches",
            new
            {
                name = secret,
                rule = new
                {
                    words = new[] { secret },
                    allWords = false,
                    sender = "",
                },
                alsoPast = false,
            }
        );
        ids["notesId"] = await Made($"{at}/live-notes/of/{ids["sessionId"]}", new { });
        ids["lineId"] = await Made(
            $"{at}/live-notes/{ids["notesId"]}/lines",
            new
            {
                typed = secret,
                beginMs = 1,
                endMs = 2,
            }
        );
        ids["themeId"] = await Made(
            $"{at}/themes",
            new
            {
                title = secret,
                description = "",
                observationIds = new[] { ids["observationId"] },
                tagIds = Array.Empty<long>(),
            }
        );
        ids["suggestionId"] = await Made(
            $"{at}/suggestions",
            new
            {
                kind = "placing",
                tagIds = Array.Empty<long>(),
                observationIds = new[] { ids["observationId"] },
                themeIds = Array.Empty<long>(),
            }
        );
        var suggested = await Get($"suggestions/{ids["suggestionId"]}");
        ids["suggestedGroupId"] = suggested["groups"]![0]!["id"]!.DeepClone();
        ids["suggestedItemId"] = suggested["items"]![0]!["id"]!.DeepClone();
        ids["insightId"] = await Made(
            $"{at}/insights",
            new
            {
                headline = secret,
                story = TestServer.Rich(""),
                observationIds = new[] { ids["observationId"] },
            }
        );
        ids["evidenceId"] = (await Get($"insights/{ids["insightId"]}"))["evidence"]![0]!["id"]!.DeepClone();
        ids["exhibitId"] = await Made("exhibits", new { question = secret, summary = "" });
        await Put($"exhibits/{ids["exhibitId"]}/insights", new { insightIds = new[] { ids["insightId"] } });
        await Post($"exhibits/{ids["exhibitId"]}/links", new { });
        ids["linkId"] = (await Get($"exhibits/{ids["exhibitId"]}"))["links"]![0]!["id"]!.DeepClone();
        await Post(
            $"{at}/masks",
            new
            {
                masks = new[]
                {
                    new
                    {
                        sourceId = ids["sourceId"],
                        start = 0,
                        end = 3,
                        kind = "word",
                        replacement = secret,
                    },
                },
            }
        );
        ids["maskId"] = (await Get($"{at}/masks"))[0]!["id"]!.DeepClone();
        await Post("intake/simulated/next?count=1", new { });
        ids["feedbackId"] = (await Get("intake?view=all&page=0"))["feedback"]![0]!["id"]!.DeepClone();
        await Post($"{at}/feedback/{ids["feedbackId"]}", new { });
        ids["routingId"] = (await Get("intake?view=all&page=0"))["feedback"]![0]!["routings"]!
            .AsArray()
            .Single(r => (long)r!["studyId"]! == (long)study!)!["id"]!.DeepClone();
        ids["attachmentId"] = await server.Attach((long)study!, $"{secret}.pdf", "kept as it is", http);
        ids["key"] = (await Post($"{at}/imports/pasted-table", new { name = secret, text = $"who,{secret}\nA,b\n" }))["key"]!.DeepClone();
        (ids["accountId"], ids["channelId"], ids["invitationId"], ids["of"]) = (1, 1, 1, ids["sourceId"]!.DeepClone());
        return ids;

        async Task<JsonNode> Get(string path) => await TestServer.Answer(await http.GetAsync("/api/" + path), path);
        async Task<JsonNode> Post(string path, object body) =>
            await TestServer.Answer(await http.PostAsync("/api/" + path, Json(body)), path);
        async Task Put(string path, object body) => await TestServer.Answer(await http.PutAsync("/api/" + path, Json(body)), path);
        async Task<JsonNode?> Made(string path, object body) => (await Post(path, body))["id"]!.DeepClone();
    }

    public static StringContent Json(object body) =>
        new(System.Text.Json.JsonSerializer.Serialize(body), Encoding.UTF8, "application/json");

    /// <summary>What a query asks for besides ids.</summary>
    public static void AddQueries(Dictionary<string, JsonNode?> known)
    {
        known["page"] = 0;
        known["first"] = known["second"] = 1;
        known["perSecond"] = 10;
        known["to"] = 10;
        known["byStem"] = true;
        known["number"] = 1;
        known["view"] = "all";
        known["format"] = "csv";
        known["stance"] = "supports";
        known["day"] = "2026-11-01";
        (
            known["typed"],
            known["columns"],
            known["kind"],
            known["name"],
            known["count"],
            known["from"],
            known["thing"],
            known["headerRows"],
            known["overlap"]
        ) = ("words", "sources", "touching", "words.eml", 1, 0, "source", 1, "touching");
    }
}
