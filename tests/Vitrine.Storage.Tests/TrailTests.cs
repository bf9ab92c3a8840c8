using System.Text.Json;
using Dapper;
using Vitrine.Core.Evidence;
using Vitrine.Core.Gather;
using Vitrine.Core.Tagging;
using Vitrine.Storage.Access;
using Vitrine.Storage.Counting;
using Vitrine.Storage.Gather;
using Vitrine.Storage.Show;
using Vitrine.Storage.Trail;

namespace Vitrine.Storage.Tests;

public sealed class TrailTests : IDisposable
{
    private static readonly string[] Untrailed = ["account", "invitation", "action", "change", "reading", "SchemaVersions", "sqlite_sequence"];

    private readonly TestWorkspace w = new();

    public void Dispose() => w.Dispose();

    /// <summary>The proof that no code path writes research data around the trail: every table can be told from the trail alone.</summary>
    [Fact]
    public void Replaying_the_trail_gives_every_table_as_it_is()
    {
        DoEverything();
        using var connection = w.Workspace.Open();
        var tables = connection.Query<string>("SELECT name FROM sqlite_master WHERE type = 'table' AND name NOT LIKE 'source_search%' AND name NOT LIKE 'searchable%'").Except(Untrailed).ToList();
        var replayed = new Dictionary<(string, long), string?>();
        foreach (var (table, id, after) in connection.Query<(string, long, string?)>("SELECT table_name, row_id, after FROM change ORDER BY id")) replayed[(table, id)] = after;
        Assert.True(tables.Count > 15);
        foreach (var table in tables)
        {
            var rows = connection.Query($"SELECT * FROM {table} ORDER BY id").Select(r => JsonSerializer.Serialize((IDictionary<string, object?>)r));
            var told = replayed.Where(r => r.Key.Item1 == table && r.Value is not null).OrderBy(r => r.Key.Item2).Select(r => r.Value!);
            Assert.Equal(told, rows);
        }
    }

    [Fact]
    public void Every_change_names_who_when_and_what()
    {
        DoEverything();
        using var connection = w.Workspace.Open();
        Assert.Equal(0, connection.ExecuteScalar<int>("SELECT count(*) FROM change c LEFT JOIN action a ON a.id = c.action_id WHERE a.account_id IS NULL OR a.label = '' OR a.at NOT LIKE '____-__-__T__:__:__.___Z'"));
        Assert.Equal(0, connection.ExecuteScalar<int>("SELECT count(*) FROM change WHERE before IS NULL AND after IS NULL"));
    }

    [Fact]
    public void The_trail_of_an_observation_tells_its_life()
    {
        var made = w.Mark(w.Ida, "standing on the quay", "learnt on the quay");
        var id = made.Id!.Value;
        w.Observations.SetSentiment(w.Tom, id, Sentiment.Negative);
        w.Observations.SetStar(w.Tom, id, true);
        w.Undo.Back(w.Tom, w.Study);
        Assert.Equal(
            ["Tom Varley: Undid: Starred an observation", "Tom Varley: Starred an observation", "Tom Varley: Set the sentiment negative", "Ida Moss: Marked “standing on the quay”"],
            w.Trail.Of(Thing.Observation, id, null).Select(e => $"{e.Who}: {e.Label}"));
    }

    [Fact]
    public void A_write_that_fails_half_way_leaves_nothing()
    {
        using var connection = w.Workspace.Open();
        var before = connection.ExecuteScalar<long>("SELECT count(*) FROM change");
        Assert.Throws<InvalidOperationException>(() => w.Workspace.Write(w.Ida, w.Study, "Will fail", writing =>
        {
            writing.Insert("theme", new { studyId = w.Study, title = "Half", position = 1 });
            throw new InvalidOperationException();
        }));
        Assert.Equal(before, connection.ExecuteScalar<long>("SELECT count(*) FROM change"));
        Assert.Empty(w.Themes.In(w.Study));
    }

    [Fact]
    public void A_text_that_someone_else_has_changed_is_not_written_over()
    {
        var id = w.Insights.Make(w.Ida, w.Study, "Headline", "", []).Id!.Value;
        w.Insights.Rewrite(w.Tom, id, InsightText.Story, "", "Tom's story");
        var refusal = Assert.Throws<Refusal>(() => w.Insights.Rewrite(w.Ida, id, InsightText.Story, "", "Ida's story"));
        Assert.Equal((RefusalKind.Conflict, "Tom's story"), (refusal.Kind, refusal.Theirs));
        w.Insights.Rewrite(w.Ida, id, InsightText.Story, "", "Tom's story");
        w.Insights.Rewrite(w.Ida, id, InsightText.Headline, "Headline", "Another headline is no quarrel");
        Assert.Contains("Tom Varley", refusal.Message);
        Assert.Equal("Tom's story", w.Insights.Get(id).Story);
    }

    private void DoEverything()
    {
        var home = w.Participants.AddAttribute(w.Ida, w.Study, "home", AttributeKind.Choice).Id!.Value;
        w.Participants.SetValues(w.Ida, w.Study, [new NewValue(w.Sorrel, home, "Skelda")]);
        w.Participants.SetValues(w.Ida, w.Study, [new NewValue(w.Sorrel, home, "Tarra")]);
        w.Participants.Change(w.Ida, w.Study, w.Wren, "P02", "Wren", "Someone Real");
        var speaker = w.Sources.Get(w.Source, 0).Line.Speakers[1];
        w.Sources.MatchSpeaker(w.Ida, w.Source, speaker.Id, w.Wren, false);
        w.Sources.MatchSpeaker(w.Ida, w.Source, speaker.Id, w.Sorrel, false);
        w.Sources.Change(w.Ida, w.Source, "P03", Core.Gather.SourceKind.Diary, "2026-10-01", null, [w.Wren]);
        var gone = w.AddSource("Gone", "Some words to go.");
        w.Sources.Remove(w.Ida, gone);
        var one = w.Mark(w.Ida, "standing", "one", "two").Id!.Value;
        var two = w.Mark(w.Tom, "Nobody", "two").Id!.Value;
        w.Observations.Untag(w.Ida, one, w.Observations.In(w.Source).Single(o => o.Id == one).TagIds[0]);
        var family = w.Tags.Add(w.Ida, null, TestWorkspace.Named("family"), null, 3, "A family.", true).Id!.Value;
        var tag = w.Tags.For(w.Study).First(t => t.Name == "two");
        w.Tags.Change(w.Ida, tag.Id, tag.Version, TestWorkspace.Named("deux"), family, null, "Two.", true);
        w.NotAsked.Set(w.Ida, w.Study, AskedThing.Tag, tag.Id, [w.Wren]);
        var theme = w.Themes.Make(w.Ida, w.Study, "Theme", "", null, [one], [tag.Id]).Id!.Value;
        var sub = w.Themes.Make(w.Ida, w.Study, "Sub", "", theme, [], []).Id!.Value;
        w.Themes.Lay(w.Ida, sub, [two], []);
        w.Themes.TakeOut(w.Ida, theme, [one], []);
        w.Themes.Remove(w.Ida, theme);
        var insight = w.Insights.Make(w.Ida, w.Study, "Insight", "", [one]).Id!.Value;
        w.Insights.Attach(w.Ida, insight, [two], Stance.Contradicts);
        w.Insights.SetStance(w.Ida, insight, w.Insights.EvidenceOf([insight])[insight].First().Id, Stance.Context);
        var exhibit = w.Exhibits.Make(w.Ida, "What?", "").Id!.Value;
        w.Exhibits.Arrange(w.Ida, exhibit, [insight]);
        var (link, _) = w.Exhibits.MakeLink(w.Ida, exhibit);
        w.Exhibits.RevokeLink(w.Ida, exhibit, link.Id!.Value);
        w.Undo.Back(w.Ida, w.Study);
        w.Undo.Again(w.Ida, w.Study);
        w.Observations.Remove(w.Tom, w.Study, [two]);
        w.Tags.Remove(w.Ida, family);
        w.Undo.Back(w.Ida, null);
    }
}
