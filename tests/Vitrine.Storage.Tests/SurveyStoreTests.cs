using Dapper;
using Vitrine.Core.Gather.Participants;
using Vitrine.Core.Gather.Surveys;
using Vitrine.Core.Sort.TagSet;
using Vitrine.Storage.Backups;
using Vitrine.Storage.Gather.Surveys;
using Vitrine.Storage.Tags;
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

    public SurveyStoreTests() => surveys = new SurveyStore(w.Workspace, w.Corrections);

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
                    w.Trail.Recent(w.Ida.AccountId, w.Study).FirstOrDefault(s => s.Label.StartsWith("Imported", StringComparison.Ordinal))
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
        Assert.Equal(expected, surveys.Preview(w.Study, columns, rows).Result);
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

    private static readonly SurveyColumn[] First =
    [
        new("who", ColumnRole.Who, AttributeKind.Text),
        new("Q1. How easy?", ColumnRole.Rating, AttributeKind.Number),
        new("Why?", ColumnRole.OpenAnswer, AttributeKind.Text),
        new("home", ColumnRole.Attribute, AttributeKind.Choice),
    ];

    // In another order, one renamed in part, one dropped, one added; S1 says something else, S3 is new.
    private static readonly SurveyColumn[] Second =
    [
        new("Why", ColumnRole.OpenAnswer, AttributeKind.Text),
        new("who", ColumnRole.Who, AttributeKind.Text),
        new("How easy", ColumnRole.Rating, AttributeKind.Number),
        new("age", ColumnRole.Attribute, AttributeKind.Number),
    ];

    private IReadOnlyList<SurveyRow> SecondRows()
    {
        string[][] first =
        [
            ["S1", "2", "It was late.", "Tarra"],
            ["S2", "4", "It came.", "Skelda"],
        ];
        surveys.Add(w.Ida, w.Study, "Quay", First, SurveyReading.Rows(First, first).Rows, new Now(_ => { }));
        string[][] second =
        [
            ["It came in time.", "S1", "5", ""],
            ["It came.", "S2", "4", ""],
            ["Never again.", "S3", "1", "41"],
        ];
        return SurveyReading.Rows(Second, second).Rows;
    }

    private (string Said, string Easy) Of(string code)
    {
        using var connection = w.Workspace.Open();
        return connection.QuerySingle<(string, string)>(
            """
            SELECT (SELECT group_concat(t.text || coalesce(' ' || s.held_on, ''), ' / ') FROM source s
                JOIN source_text t ON t.source_id = s.id JOIN source_participant x ON x.source_id = s.id WHERE x.participant_id = p.id),
              (SELECT v.value FROM attribute_value v JOIN attribute a ON a.id = v.attribute_id
                WHERE v.participant_id = p.id AND a.name = 'Q1. How easy?')
            FROM participant p WHERE p.code = @code
            """,
            new { code }
        );
    }

    [Theory]
    [InlineData(SurveyAgain.Leave, "Why?\n\nIt was late.", "2", 3)]
    [InlineData(SurveyAgain.NewAnswers, "Why?\n\nIt was late. / Why\n\nIt came in time.\n\nHow easy\n\n5 2026-11-25", "2", 4)]
    [InlineData(SurveyAgain.Replace, "Why\n\nIt came in time.", "5", 3)]
    public void The_same_survey_again_is_known_by_people_and_questions(SurveyAgain again, string said, string easy, int sources)
    {
        var rows = SecondRows();
        var before = There();
        var (result, known) = surveys.Preview(w.Study, Second, rows);
        Assert.Equal(new SurveyResult(3, 1, 0, 1, 2, 1, 0), result);
        Assert.NotNull(known);
        Assert.Equal(("Quay", "age", "home"), (known.Name, string.Join(',', known.Added), string.Join(',', known.Dropped)));
        Assert.Equal(
            [new AnswerDifference("S1", "How easy", "2", "5"), new AnswerDifference("S1", "Why", "It was late.", "It came in time.")],
            known.First
        );

        var (step, _) = surveys.Add(
            w.Ida,
            w.Study,
            "Quay",
            Second,
            rows,
            new Now(_ => { }),
            null,
            new SurveyChoice(again, new DateOnly(2026, 11, 25))
        );
        Assert.Equal((said, easy), Of("S1"));
        Assert.Equal(("Why?\n\nIt came.", "4"), Of("S2"));
        Assert.Equal(("Why\n\nNever again.", "1"), Of("S3"));
        Assert.Equal((before.People + 1, before.Sources + sources - 2), (There().People, There().Sources));
        // Once more, only what was left differs.
        Assert.Equal(again == SurveyAgain.Leave ? 1 : 0, surveys.Preview(w.Study, Second, rows).Result.Changed);

        w.Undo.Back(w.Ida, w.Study, step.ActionId);
        Assert.Equal((before, ("Why?\n\nIt was late.", "2")), (There(), Of("S1")));
        w.Undo.Again(w.Ida, w.Study, step.ActionId);
        Assert.Equal((said, easy), Of("S1"));
        Assert.Empty(WorkspaceCheck.Of(w.Workspace.Folder).Problems);
    }

    [Fact]
    public void Rows_that_name_nobody_are_known_in_any_order_of_columns_and_take_what_is_asked_anew()
    {
        SurveyColumn[] columns =
        [
            new("home", ColumnRole.Attribute, AttributeKind.Text),
            new("Why?", ColumnRole.OpenAnswer, AttributeKind.Text),
        ];
        string[][] cells =
        [
            ["Tarra", "It was late."],
            ["Tarra", "It was late."],
            ["Skelda", "It came."],
        ];
        surveys.Add(w.Ida, w.Study, "Quay", columns, SurveyReading.Rows(columns, cells).Rows, new Now(_ => { }));
        var before = There();
        SurveyColumn[] later =
        [
            new("age", ColumnRole.Attribute, AttributeKind.Number),
            new("Q2. Why?", ColumnRole.OpenAnswer, AttributeKind.Text),
            new("And now?", ColumnRole.OpenAnswer, AttributeKind.Text),
            new("home", ColumnRole.Attribute, AttributeKind.Text),
        ];
        string[][] now =
        [
            ["", "It came.", "The bus.", "Skelda"],
            ["41", "It was late.", "", "Tarra"],
            ["7", "New to it.", "", "Skelda"],
            ["42", "It was late.", "A lift.", "Tarra"],
        ];
        // What the columns were said to be holds for the table that comes again.
        var guessed = surveys.AsSaidBefore(w.Study, [.. later.Select(c => c with { Role = ColumnRole.Ignore })]);
        Assert.Equal([ColumnRole.Ignore, ColumnRole.OpenAnswer, ColumnRole.Ignore, ColumnRole.Attribute], guessed.Select(c => c.Role));
        var rows = SurveyReading.Rows(later, now).Rows;
        Assert.Equal(new SurveyResult(4, 1, 0, 1, 3, 0, 0, 3), surveys.Preview(w.Study, later, rows).Result);
        var step = surveys.Add(w.Ida, w.Study, "Quay", later, rows, new Now(_ => { })).Step;
        Assert.Equal((before.People + 1, before.Sources + 1), (There().People, There().Sources));
        using (var connection = w.Workspace.Open())
        {
            Assert.Equal(
                ["It came.|The bus.|", "It was late.|A lift.|42", "It was late.||41", "New to it.||7"],
                connection
                    .Query<(string Text, string? Age)>(
                        """
                        SELECT t.text, (SELECT v.value FROM attribute_value v JOIN attribute a ON a.id = v.attribute_id
                          WHERE a.name = 'age' AND v.participant_id = x.participant_id)
                        FROM source s JOIN source_text t ON t.source_id = s.id JOIN source_participant x ON x.source_id = s.id
                        WHERE s.kind = 'survey'
                        """
                    )
                    .Select(t => (Said: t.Text.Split("\n\n"), t.Age))
                    .Select(t => $"{t.Said[1]}|{t.Said.ElementAtOrDefault(3)}|{t.Age}")
                    .Order(StringComparer.Ordinal)
            );
            Assert.Equal(
                0,
                connection.ExecuteScalar<int>(
                    """
                    SELECT count(*) FROM turn t JOIN source s ON s.id = t.source_id JOIN speaker p ON p.id = t.speaker_id
                    WHERE s.kind = 'survey' AND p.participant_id IS NULL AND NOT p.is_team
                    """
                )
            );
        }
        // Once more, in the first order: all are known, and nothing is new.
        Assert.Equal(new SurveyResult(4, 0, 0, 0, 4, 0, 0), surveys.Preview(w.Study, later, SurveyReading.Rows(later, now).Rows).Result);
        Assert.Equal(3, surveys.Preview(w.Study, columns, SurveyReading.Rows(columns, cells).Rows).Result.Before);
        w.Undo.Back(w.Ida, w.Study, step.ActionId);
        Assert.Equal(before, There());
        Assert.Empty(WorkspaceCheck.Of(w.Workspace.Folder).Problems);
    }

    [Fact]
    public void What_is_asked_anew_is_put_behind_what_was_said_and_touches_nothing_that_differs()
    {
        SecondRows();
        SurveyColumn[] third =
        [
            .. First,
            new("ease", ColumnRole.ScaleValue, AttributeKind.Number),
            new("Else?", ColumnRole.OpenAnswer, AttributeKind.Text),
        ];
        string[][] cells =
        [
            ["S1", "5", "It came in time.", "Skelda", "4", "More boats."],
            ["S2", "4", "It came.", "Skelda", "", ""],
        ];
        var rows = SurveyReading.Rows(third, cells).Rows;
        var (result, known) = surveys.Preview(w.Study, third, rows);
        Assert.Equal((1, 1), (result.Changed, result.Grown));
        Assert.DoesNotContain(known!.First, d => d.Question is "ease" or "Else?");
        surveys.Add(w.Ida, w.Study, "Quay", third, rows, new Now(_ => { }));
        Assert.Equal(("Why?\n\nIt was late.\n\nease\n\n4\n\nElse?\n\nMore boats.", "2"), Of("S1"));
        using var connection = w.Workspace.Open();
        var (start, end, text) = connection.QuerySingle<(int, int, string)>(
            """
            SELECT o.start, o."end", t.text FROM observation_tag x JOIN observation o ON o.id = x.observation_id
            JOIN source_text t ON t.source_id = o.source_id WHERE x.value = 4
            """
        );
        Assert.Equal("4", text[start..end]);
        Assert.Equal(0, connection.ExecuteScalar<int>("SELECT count(*) FROM source_original"));
        // What was left is told again.
        Assert.Equal((1, 0), (surveys.Preview(w.Study, third, rows).Result.Changed, surveys.Preview(w.Study, third, rows).Result.Grown));
    }

    [Theory]
    [InlineData(false, 1, 5, "4")]
    [InlineData(true, 0, 7, "0 4 7")]
    public void A_scale_that_does_not_hold_all_values_is_widened_when_the_researcher_says_so(
        bool widen,
        double least,
        double most,
        string held
    )
    {
        w.Tags.Add(w.Ida, w.Study, new TagValues(TestWorkspace.Named("ease"), null, 1, "", true, new Scale(1, 5, 1, "", "hard", "easy")));
        SurveyColumn[] columns = [new("who", ColumnRole.Who, AttributeKind.Text), new("ease", ColumnRole.ScaleValue, AttributeKind.Number)];
        string[][] cells =
        [
            ["S1", "4"],
            ["S2", "7"],
            ["S3", "0"],
        ];
        var rows = SurveyReading.Rows(columns, cells).Rows;
        var outgrown = Assert.Single(surveys.Outgrown(w.Study, columns, rows));
        Assert.Equal((2, 0.0, 7.0), (outgrown.Values, outgrown.Widened!.Least, outgrown.Widened.Most));
        var (step, _) = surveys.Add(w.Ida, w.Study, "Quay", columns, rows, new Now(_ => { }), null, new SurveyChoice(WidenScales: widen));
        var scale = w.Tags.For(w.Study).Single(t => t.Name == "ease").Scale!;
        Assert.Equal((least, most, "hard"), (scale.Least, scale.Most, scale.LowLabel));
        using (var connection = w.Workspace.Open())
            Assert.Equal(
                held,
                string.Join(' ', connection.Query<double>("SELECT value FROM observation_tag WHERE value IS NOT NULL ORDER BY value"))
            );
        w.Undo.Back(w.Ida, w.Study, step.ActionId);
        Assert.Equal(5, w.Tags.For(w.Study).Single(t => t.Name == "ease").Scale!.Most);
    }

    [Fact]
    public void What_is_noted_of_somebody_stays_and_what_is_not_taken_is_told()
    {
        string[][] first =
        [
            ["S1", "2", "It was late.", "Tarra"],
        ];
        surveys.Add(w.Ida, w.Study, "Quay", First, SurveyReading.Rows(First, first).Rows, new Now(_ => { }));
        SurveyColumn[] columns = [new("code", ColumnRole.Who, AttributeKind.Text), new("Home?", ColumnRole.Attribute, AttributeKind.Text)];
        string[][] cells =
        [
            ["S1", "Skelda"],
            ["S9", "Tarra"],
            ["S9", "Inner Holm"],
            ["S8", "Tarra"],
        ];
        var rows = SurveyReading.Rows(columns, cells).Rows;
        Assert.Equal(
            [new AnswerDifference("S1", "Home?", "Tarra", "Skelda"), new AnswerDifference("S9", "Home?", "Tarra", "Inner Holm")],
            surveys.UnheardOf(w.Study, columns, rows).First
        );
        surveys.Add(w.Ida, w.Study, "Homes", columns, rows, new Now(_ => { }));
        using var connection = w.Workspace.Open();
        Assert.Equal(
            "S1 Tarra, S8 Tarra, S9 Tarra",
            string.Join(
                ", ",
                connection.Query<string>(
                    """
                    SELECT p.code || ' ' || v.value FROM attribute_value v JOIN participant p ON p.id = v.participant_id
                    JOIN attribute a ON a.id = v.attribute_id WHERE a.name = 'home' ORDER BY p.code
                    """
                )
            )
        );
    }

    [Fact]
    public void Who_was_removed_since_is_not_brought_back_by_new_answers()
    {
        var rows = SecondRows();
        w.Participants.Remove(w.Ida, w.Study, w.Participants.In(w.Study).People.Single(p => p.Code == "S1").Id);
        Assert.Equal(0, surveys.Preview(w.Study, Second, rows).Result.Changed);
        surveys.Add(w.Ida, w.Study, "Quay", Second, rows, new Now(_ => { }), null, new SurveyChoice(SurveyAgain.NewAnswers));
        Assert.DoesNotContain(w.Participants.In(w.Study).People, p => p.Code == "S1");
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
