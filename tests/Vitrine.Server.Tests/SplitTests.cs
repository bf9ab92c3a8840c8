using System.Net;
using System.Net.Http.Json;
using System.Text.Json.Nodes;

namespace Vitrine.Server.Tests;

/// <summary>The split desk and proposals, over the wire: what is around a quote, hints, many at once, and who may do what.</summary>
public sealed class SplitTests : IAsyncLifetime
{
    private const string Talk =
        "Ida: And then?\n\nWren: I had paid the taxi. The taxi waited with its meter on. Nobody paid me back.\n\n"
        + "Ida: And the boat?\n\nWren: The boat had left. It leaves when it likes. I cancelled everything.";

    private readonly TestServer server = new();
    private readonly List<long> marks = [];
    private long study;
    private long source;
    private long wide;
    private string desk = "";

    public async Task InitializeAsync()
    {
        await server.SetUp();
        study = await server.Study("Splitting");
        source = await server.Paste(study, "Talk", Talk);
        string[] all =
        [
            "I had paid the taxi.",
            "The taxi waited",
            "Nobody paid me back.",
            "The boat had left.",
            "It leaves when it likes.",
        ];
        foreach (var words in all)
            marks.Add(await server.Mark(source, Talk, words, "wide"));
        wide = (long)(await server.TagUses(study)).Single()["tag"]!["id"]!;
        desk = $"studies/{study}/tags/{wide}/split";
        await server.Put($"{desk}/trays/1", new { tagId = (long?)null, name = "money" });
        await server.Put($"{desk}/trays/2", new { tagId = (long?)null, name = "left behind" });
    }

    public Task DisposeAsync()
    {
        server.Dispose();
        return Task.CompletedTask;
    }

    private Task<JsonNode> Decide(string outcome, int[] trays, params int[] which) =>
        server.Post(
            $"{desk}/decisions",
            new
            {
                observationIds = which.Select(i => marks[i]),
                outcome,
                trays,
            }
        );

    private async Task<JsonNode> Item(int which) =>
        Assert.Single((await server.Get($"{desk}/items?observationId={marks[which]}")).AsArray())!;

    private async Task<IEnumerable<int>> Holding(string query) =>
        (await server.Get($"{desk}/holding?{query}")).AsArray().Select(id => marks.IndexOf((long)id!));

    [Fact]
    public async Task A_quote_lies_on_the_desk_with_what_was_said_around_it()
    {
        var context = (await Item(1))["context"]!;
        Assert.Equal(("Wren", "I had paid the taxi. "), ((string)context["who"]!, ((string)context["lead"]!)[^21..]));
        Assert.Equal(" with its meter on. Nobody paid me back.", ((string)context["trail"]!).TrimEnd());
        Assert.Contains("And then?", (string)context["before"]!["words"]!, StringComparison.Ordinal);
        Assert.Contains("And the boat?", (string)context["after"]!["words"]!, StringComparison.Ordinal);
        Assert.Null((await Item(4))["context"]!["after"]);
        var missing = await TestServer.SentenceOf(await server.Http.GetAsync($"/api/{desk}/items?observationId=999999"));
        Assert.Equal(404, missing.Status);
    }

    [Fact]
    public async Task A_hint_comes_from_what_was_sent_and_names_the_word()
    {
        Assert.Null((await Item(1))["hint"]);
        await Decide("trays", [1], 0);
        await Decide("trays", [2], 3);
        var hint = (await Item(1))["hint"]!;
        Assert.Equal((1, "taxi"), ((int)hint["tray"]!, (string)Assert.Single(hint["because"]!.AsArray())!));
        await server.Http.DeleteAsync($"/api/{desk}/decisions/last");
        Assert.Null((await Item(1))["hint"]);
    }

    [Fact]
    public async Task Many_at_once_are_those_that_hold_a_word_in_any_form_and_are_not_decided()
    {
        Assert.Equal([0, 1], await Holding("words=taxis"));
        Assert.Equal([0], await Holding("words=TAXI%20paid"));
        Assert.Empty(await Holding("words=ferry"));
        Assert.Equal([0, 1, 2, 3, 4], await Holding("words="));
        await Decide("unsure", [], 0);
        Assert.Equal([1], await Holding("words=taxi"));
        var person = await server.Person(study, "P01", "Wren");
        Assert.Empty(await Holding($"participantId={person}"));
    }

    [Fact]
    public async Task Numbers_before_and_after_are_told_for_both_ends()
    {
        var shown = await Decide("trays", [1], 0, 1, 2);
        Assert.Equal((5, 2), ((int)shown["kept"]!["own"]!["before"]!, (int)shown["kept"]!["own"]!["after"]!));
        Assert.Equal((5, 5), ((int)shown["kept"]!["withUnder"]!["before"]!, (int)shown["kept"]!["withUnder"]!["after"]!));
        Assert.False((bool)shown["letGo"]!["goes"]!);
        Assert.True((bool)(await Decide("trays", [2], 3, 4))["letGo"]!["goes"]!);
        await server.Post($"{desk}/finish", new { keep = false });
        var tags = (await server.TagUses(study)).Select(t => (string)t["tag"]!["name"]!);
        Assert.Equal(["left behind", "money"], tags.Order(StringComparer.Ordinal));
        Assert.Equal(404, (await server.Refused(desk, new { several = true }, HttpMethod.Put)).Status);
    }

    [Fact]
    public async Task What_is_not_understood_is_refused_with_a_sentence_and_nothing_is_decided()
    {
        var path = $"{desk}/decisions";
        Assert.Contains("at least one", (await server.Refused(path, Body([], "wide"))).Sentence, StringComparison.Ordinal);
        Assert.Contains("no such tray", (await server.Refused(path, Body([marks[0]], "trays", 9))).Sentence, StringComparison.Ordinal);
        Assert.Contains("one tray", (await server.Refused(path, Body([marks[0]], "trays", 1, 2))).Sentence, StringComparison.Ordinal);
        Assert.Equal(400, (await server.Refused(path, Body([marks[0]], "sideways"))).Status);
        Assert.InRange((await server.Refused(path, Body([999_999], "wide"))).Status, 400, 404);
        Assert.Equal(400, (await server.Refused($"{desk}/trays/0", Tray("x"), HttpMethod.Put)).Status);
        Assert.Equal(400, (await server.Refused($"{desk}/trays/3", Tray(""), HttpMethod.Put)).Status);
        Assert.Equal(400, (await server.Refused($"{desk}/trays/3", Tray(new string('x', 81)), HttpMethod.Put)).Status);
        Assert.Equal(400, (await server.Refused($"{desk}/finish", new { keep = true })).Status);
        Assert.Empty((await server.Get(desk))["decisions"]!.AsArray());

        static object Body(long[] observationIds, string outcome, params int[] trays) =>
            new
            {
                observationIds,
                outcome,
                trays,
            };
        static object Tray(string name) => new { tagId = (long?)null, name };
    }

    [Fact]
    public async Task Nobody_splits_or_proposes_in_a_study_that_they_do_not_see_and_a_note_taker_ends_no_split()
    {
        await Decide("trays", [1], 0);
        var stranger = await server.Person("Tom", "researcher");
        foreach (
            var path in new[]
            {
                desk,
                $"{desk}/items?observationId={marks[0]}",
                $"{desk}/holding?words=taxi",
                $"studies/{study}/tags/then?day=2020-01-01",
            }
        )
            Assert.Equal(HttpStatusCode.NotFound, (await stranger.GetAsync("/api/" + path)).StatusCode);
        var finish = new { keep = true };
        Assert.Equal(HttpStatusCode.NotFound, (await stranger.PostAsJsonAsync($"/api/{desk}/finish", finish)).StatusCode);
        await server.Post($"studies/{study}/tags/{wide}/proposal", new { words = "All may want it." });
        Assert.Empty((await stranger.GetFromJsonAsync<JsonArray>("/api/tag-proposals"))!);
        Assert.Single((await server.Get("tag-proposals")).AsArray());
        Assert.Empty((await stranger.GetFromJsonAsync<JsonObject>($"/api/tags/then?day={DateTime.UtcNow:yyyy-MM-dd}"))!["now"]!.AsArray());
        // No day is none, and a clock that is hours ahead has its own.
        foreach (var none in new[] { "", "?day=", "?day=2026-03-14&utcOffset=6000" })
            Assert.Equal(HttpStatusCode.BadRequest, (await server.Http.GetAsync($"/api/tags/then{none}")).StatusCode);
        var yesterday = $"{DateTime.UtcNow.AddDays(-2):yyyy-MM-dd}";
        Assert.Empty((await server.Get($"tags/then?day={yesterday}&utcOffset=840"))["tags"]!.AsArray());
    }

    [Fact]
    public async Task A_proposal_is_answered_by_the_steward_and_a_tag_is_counted_in_all_studies()
    {
        var proposal = $"studies/{study}/tags/{wide}/proposal";
        await server.Post(proposal, new { words = "" });
        Assert.Contains(
            "in a word why",
            (await server.Refused($"{proposal}/answer", Answer("declined"))).Sentence,
            StringComparison.Ordinal
        );
        Assert.Contains(
            "Choose the tag",
            (await server.Refused($"{proposal}/answer", Answer("merged"))).Sentence,
            StringComparison.Ordinal
        );
        await server.Post($"{proposal}/answer", Answer("accepted"));
        var other = await server.Study("Another");
        await server.Mark(await server.Paste(other, "Talk", Talk), Talk, "The boat had left.", "wide");
        var across = await server.Get($"tags/{wide}/across");
        var told = across["studies"]!.AsArray().ToDictionary(s => (string)s!["study"]!, s => (int)s!["triple"]!["observations"]!);
        Assert.Equal((5, 1, 0), (told["Splitting"], told["Another"], (int)across["otherStudies"]!));
        // The other study's observations are not gone through, and keep the tag.
        Assert.Equal(1, (int)(await server.Get(desk))["elsewhere"]!);
        Assert.False((bool)(await Decide("trays", [1], 0, 1, 2, 3, 4))["letGo"]!["goes"]!);

        static object Answer(string outcome) =>
            new
            {
                outcome,
                name = (string?)null,
                tagId = (long?)null,
                words = "",
            };
    }
}
