using Dapper;
using Vitrine.Core.Gather.Participants;
using Vitrine.Core.Gather.Surveys;
using Vitrine.Storage.Backups;
using Vitrine.Storage.Gather.Surveys;
using Vitrine.Storage.Trail;

namespace Vitrine.Storage.Tests;

/// <summary>A survey is taken in in parts, between which others write; it is one step all the same.</summary>
public sealed class SurveyStoreTests : IDisposable
{
    private static readonly SurveyColumn[] Columns =
    [
        new("who", ColumnRole.Who, AttributeKind.Text),
        new("why", ColumnRole.OpenAnswer, AttributeKind.Text),
        new("home", ColumnRole.Attribute, AttributeKind.Choice),
    ];
    private static readonly IReadOnlyList<SurveyRow> Rows = SurveyReading
        .Rows(
            Columns,
            [.. Enumerable.Range(1, 800).Select(i => new[] { $"S{i}", $"It was late for {i}.", i % 2 == 0 ? "Tarra" : "Skelda" })]
        )
        .Rows;

    private readonly TestWorkspace w = new();
    private readonly SurveyStore surveys;

    public SurveyStoreTests() => surveys = new SurveyStore(w.Workspace);

    public void Dispose() => w.Dispose();

    private (int People, int Sources, int Rows) There()
    {
        using var connection = w.Workspace.Open();
        return connection.QuerySingle<(int, int, int)>(
            "SELECT (SELECT count(*) FROM participant), (SELECT count(*) FROM source), (SELECT count(*) FROM survey_row)"
        );
    }

    [Fact]
    public async Task Others_write_while_it_comes_in_and_one_undo_takes_all_of_it_away()
    {
        var before = There();
        var written = 0;
        // Told after each part, still inside it: the other's write waits for its end and no longer.
        var others = new List<Task>();
        var (step, result) = surveys.Add(
            w.Ida,
            w.Study,
            "Quay",
            Columns,
            Rows,
            new Now(done =>
            {
                written++;
                var code = $"T{written}";
                others.Add(Task.Run(() => w.Participants.Add(w.Tom, w.Study, code, "Someone", null)));
                Assert.Null(
                    w.Trail.Recent(w.Ida.AccountId, w.Study).FirstOrDefault(s => s.Label.StartsWith("Took in", StringComparison.Ordinal))
                );
            })
        );
        await Task.WhenAll(others);
        Assert.Equal(4, written);
        Assert.Equal(new SurveyResult(800, 800, 0, 800, 0, 0, 0), result);
        Assert.Equal((before.People + 800 + written, before.Sources + 800, 800), There());
        w.Undo.Back(w.Ida, w.Study, step.ActionId);
        Assert.Equal((before.People + written, before.Sources, 0), There());
        w.Undo.Again(w.Ida, w.Study, step.ActionId);
        Assert.Equal((before.People + 800 + written, before.Sources + 800, 800), There());
        Assert.Empty(WorkspaceCheck.Of(w.Workspace.Folder).Problems);
    }

    [Fact]
    public void A_diary_becomes_dated_sources_of_one_person_with_what_is_of_the_row_on_the_row()
    {
        string[] names = ["participant", "day", "home", "how easy (1-5)", "with", "what happened"];
        string[][] cells =
        [
            ["Fern", "2026-05-03", "Tarra", "2", "alone", "The boat was late and nobody told us."],
            ["Fern", "2026-05-04", "Tarra", "4", "with Moss", "This time it came, and in time."],
            ["Moss", "2026-05-03", "Skelda", "1", "alone", "It was cancelled while I stood there."],
            ["Moss", "2026-05-05", "Skelda", "3", "alone", "They rang before, which was a first."],
        ];
        var columns = SurveyReading.Guess(names, cells);
        Assert.Equal(
            [ColumnRole.Who, ColumnRole.When, ColumnRole.Attribute, ColumnRole.ScaleValue, ColumnRole.OpenAnswer, ColumnRole.OpenAnswer],
            columns.Select(c => c.Role)
        );
        var rows = SurveyReading.Rows(columns, cells).Rows;
        var expected = new SurveyResult(2, 2, 0, 4, 0, 0, 4);
        Assert.Equal(expected, surveys.Preview(w.Study, columns, rows));
        Assert.Equal(expected, surveys.Add(w.Ida, w.Study, "Diary", columns, rows, new Now(_ => { })).Result);
        Assert.Equal(
            ["2026-05-03 Fern", "2026-05-04 Fern", "2026-05-03 Moss", "2026-05-05 Moss"],
            w.Sources.In(w.Study, 0)
                .Where(s => s.Id != w.Source)
                .Select(s => $"{s.HeldOn:yyyy-MM-dd} {w.Participants.In(w.Study).People.Single(p => s.PeopleIds.Contains(p.Id)).RealName}")
        );
        // Sent again with a row more, in another order, only that one comes in.
        string[] more = ["Moss", "2026-05-06", "Skelda", "5", "alone", "Nothing to tell, for once."];
        var grown = SurveyReading.Rows(columns, [more, .. cells.Reverse()]).Rows;
        Assert.Equal(new SurveyResult(2, 0, 1, 1, 4, 0, 1), surveys.Add(w.Ida, w.Study, "Diary", columns, grown, new Now(_ => { })).Result);
    }

    [Fact]
    public void What_a_killed_server_left_is_gone_on_with_under_the_same_key()
    {
        var before = There();
        var actor = w.Ida with { RequestKey = Guid.NewGuid() };
        var (part, _) = surveys.Add(actor, w.Study, "Quay", Columns, [.. Rows.Take(300)], new Now(_ => { }));
        using (var connection = w.Workspace.Open())
            connection.Execute("UPDATE action SET unfinished = 1 WHERE id = @ActionId", new { part.ActionId });
        Assert.Null(w.Workspace.DoneBefore(actor));
        Assert.Throws<Refusal>(() => w.Undo.Back(w.Ida, w.Study, part.ActionId));

        var (step, result) = surveys.Add(actor, w.Study, "Quay", Columns, Rows, new Now(_ => { }));
        Assert.Equal((part.ActionId, new SurveyResult(800, 800, 0, 800, 0, 0, 0)), (step.ActionId, result));
        Assert.Equal((before.People + 800, before.Sources + 800, 800), There());
        Assert.Equal(step.ActionId, surveys.Add(actor, w.Study, "Quay", Columns, Rows, new Now(_ => { })).Step.ActionId);
        w.Undo.Back(w.Ida, w.Study);
        Assert.Equal(before, There());
    }

    [Fact]
    public void A_part_that_fails_takes_the_others_back()
    {
        var before = There();
        Assert.Throws<InvalidOperationException>(() =>
            surveys.Add(
                w.Ida,
                w.Study,
                "Quay",
                Columns,
                Rows,
                new Now(done =>
                {
                    if (done > 0.5)
                        throw new InvalidOperationException();
                })
            )
        );
        Assert.Equal(before, There());
    }

    private sealed class Now(Action<double> told) : IProgress<double>
    {
        public void Report(double value) => told(value);
    }
}
