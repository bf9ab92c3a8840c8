using Microsoft.Data.Sqlite;
using SQLitePCL;
using Vitrine.Core.Access;
using Vitrine.Core.RichTexts;
using Vitrine.Core.Weigh.Evidence;
using Vitrine.Storage.Access;
using Vitrine.Storage.Counting;
using Vitrine.Storage.Gather.Privacy;
using Vitrine.Storage.Gather.Studies;
using Vitrine.Storage.Search;
using Vitrine.Storage.Show.Publication;
using Vitrine.Storage.Weigh.Evidence;

namespace Vitrine.Storage.Tests;

/// <summary>
/// The plans of the statements behind the main screens. What grows with the whole workspace (texts, turns, observations, their tags, the
/// trail) is reached along an index, never walked from end to end.
/// </summary>
public sealed class QueryPlanTests : IDisposable
{
    private static readonly string[] Large =
    [
        "observation",
        "observation_tag",
        "source_text",
        "turn",
        "change",
        "action",
        "attribute_value",
        "evidence",
        "theme_observation",
        "mask",
        "live_line",
        "survey_row",
    ];

    private readonly TestWorkspace w = new();

    public void Dispose() => w.Dispose();

    [Fact]
    public void No_main_query_walks_a_large_table()
    {
        var made = w.Mark(w.Ida, "standing on the quay", "learnt on the quay").Id!.Value;
        var insight = w.Insights.Make(w.Ida, w.Study, "Insight", RichText.Empty, [made]).Id!.Value;
        var exhibit = w.Exhibits.Make(w.Ida, "What?", "").Id!.Value;
        w.Exhibits.Arrange(w.Ida, exhibit, [insight]);
        var (tag, viewer) = (w.Tags.For(w.Study)[0].Id, new Viewer(w.Tom.AccountId, w.Tom.Role));
        var access = new StudyAccess(w.Workspace);
        var said = new List<string>();
        w.Workspace.OnOpen = c =>
            raw.sqlite3_trace(
                c.Handle,
                (_, sql) =>
                {
                    lock (said)
                        said.Add(sql);
                },
                null
            );
        new StudyStore(w.Workspace).Get(w.Study, w.Steward.AccountId);
        w.Sources.In(w.Study, w.Tom.AccountId);
        w.Sources.Get(w.Source, w.Tom.AccountId);
        w.Observations.In(w.Source, w.Steward.AccountId);
        w.Tags.For(w.Study);
        w.Reach.ReachOf(tag, w.All);
        var index = new StudyIndexStore(w.Workspace).Load(w.Study);
        new QuoteStore(w.Workspace, w.InStep).Of(index, [0]);
        w.Participants.In(w.Study);
        w.Sessions.In(w.Study);
        w.Themes.In(w.Study, w.Steward.AccountId);
        w.Insights.In([w.Study]);
        w.Insights.EvidenceOf([insight], w.Steward.AccountId);
        new PublicationStore(w.Workspace).Of(exhibit);
        new NotAskedStore(w.Workspace).In(w.Study, AskedThing.Tag);
        new MaskStore(w.Workspace).In(w.Study);
        w.Corrections.ToLookAtIn(w.Study, w.Steward.AccountId);
        new SearchStore(w.Workspace, access).Find(viewer, "quay", null, 6);
        access.OwnersOf(new Viewer(w.Steward.AccountId, Role.Steward), "evidence", [1]);
        w.Trail.Recent(w.Ida.AccountId, w.Study);
        w.Trail.Of("observation", made, w.Steward.AccountId, null);
        w.Tags.In(w.Steward.AccountId, null);
        new WithdrawalStore(w.Workspace, w.Access).Touches(w.Study, w.Sorrel, w.All);
        // Writes, and what they look up.
        w.Mark(w.Ida, "Nobody", "one");
        w.Undo.Back(w.Ida, w.Study);
        w.Insights.Attach(w.Ida, insight, [made], Stance.Context);
        w.Workspace.OnOpen = null;
        SqliteConnection.ClearAllPools();
        using var connection = w.Workspace.Open();
        var walked = said.Distinct().SelectMany(sql => Walks(connection, sql).Select(step => $"{step}: {sql}")).ToList();
        Assert.True(said.Count > 60, $"{said.Count} statements were heard");
        Assert.True(walked.Count == 0, string.Join("\n\n", walked));
    }

    private static IEnumerable<string> Walks(SqliteConnection connection, string sql)
    {
        if (
            !sql.TrimStart().StartsWith("SELECT", StringComparison.OrdinalIgnoreCase)
            && !sql.TrimStart().StartsWith("WITH", StringComparison.OrdinalIgnoreCase)
        )
            yield break;
        using var command = connection.CreateCommand();
        command.CommandText = "EXPLAIN QUERY PLAN " + sql;
        using var plan = command.ExecuteReader();
        while (plan.Read())
        {
            var words = plan.GetString(3).Split(' ');
            if (words[0] != "SCAN")
                continue;
            // The name that the table has in the statement; what it is called in full stands behind FROM or JOIN.
            var table = Large.FirstOrDefault(t =>
                words[1] == t
                || System.Text.RegularExpressions.Regex.IsMatch(
                    sql,
                    $@"\b(FROM|JOIN)\s+{t}\s+(AS\s+)?{System.Text.RegularExpressions.Regex.Escape(words[1])}\b"
                )
            );
            if (table is not null)
                yield return plan.GetString(3);
        }
    }
}
