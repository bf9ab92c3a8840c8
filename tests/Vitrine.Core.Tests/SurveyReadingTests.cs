using Vitrine.Core.Gather.Participants;
using Vitrine.Core.Gather.Surveys;

namespace Vitrine.Core.Tests;

public class SurveyReadingTests
{
    private static readonly string[] Names =
    [
        "Timestamp",
        "Respondent",
        "home",
        "crossings",
        "step-free",
        "How easy was boarding? (1-5)",
        "What would you change?",
        "empty",
    ];

    private static readonly string[][] Rows =
    [
        ["2026-05-01 09:30", "S01", "Tarra", "12", "no", "2", "The board at the head of the quay.", ""],
        ["2026-05-01 10:00", "S02", "Skelda", "80", "yes", "4", "Tell us earlier, even if it is a maybe.", ""],
        ["2026-05-02 11:15", "S03", "Tarra", "3", "no", "5", "", ""],
        ["2026-05-02 12:00", "S04", "Inner Holm", "n/a", "no", "1", "Nothing, it is fine as it is.", ""],
    ];

    [Fact]
    public void Columns_are_guessed_from_their_names_and_values()
    {
        var guess = SurveyReading.Guess(Names, Rows);
        Assert.Equal(
            [
                (ColumnRole.Attribute, AttributeKind.Date),
                (ColumnRole.Who, AttributeKind.Text),
                (ColumnRole.Attribute, AttributeKind.Choice),
                (ColumnRole.Attribute, AttributeKind.Number),
                (ColumnRole.Attribute, AttributeKind.YesNo),
                (ColumnRole.Rating, AttributeKind.Number),
                (ColumnRole.OpenAnswer, AttributeKind.Text),
                (ColumnRole.Ignore, AttributeKind.Text),
            ],
            guess.Select(c => (c.Role, c.Kind))
        );
    }

    [Fact]
    public void Rows_have_facts_that_fit_answers_in_order_and_one_key_whenever_they_come()
    {
        var columns = SurveyReading
            .Guess(Names, Rows)
            .Select(c => c.Name == "crossings" ? c with { Kind = AttributeKind.Number } : c)
            .ToList();
        string[][] cells = [.. Rows.Select(r => r.Select(v => v == "n/a" ? "lots" : v).ToArray())];
        var (rows, misfits) = SurveyReading.Rows(columns, cells);
        Assert.Equal([new Misfit(3, 3, "lots")], misfits);
        Assert.Equal([(0, "2026-05-01"), (2, "Tarra"), (3, "12"), (4, "no"), (5, "2")], rows[0].Facts);
        Assert.Equal((6, "The board at the head of the quay."), Assert.Single(rows[0].Answers));
        Assert.Equal(["s01", "s02", "s03", "s04"], rows.Select(r => r.Key));
        var (grown, _) = SurveyReading.Rows(
            columns,
            [cells[0], .. cells[1..], ["2026-05-03 08:00", "S05", "Tarra", "1", "no", "3", "x", ""]]
        );
        Assert.Equal(rows.Select(r => (r.Key, r.ContentHash)), grown.Take(4).Select(r => (r.Key, r.ContentHash)));
    }

    [Fact]
    public void Without_a_column_for_who_a_row_is_known_by_its_cells_and_equal_rows_stay_two()
    {
        var columns = new[] { new SurveyColumn("a", ColumnRole.OpenAnswer, AttributeKind.Text) };
        var (rows, _) = SurveyReading.Rows(
            columns,
            [
                ["late"],
                ["late"],
                ["fine"],
            ]
        );
        Assert.Equal(3, rows.Select(r => r.Key).Distinct().Count());
        Assert.Equal(rows[0].Key + " #2", rows[1].Key);
    }

    [Fact]
    public void A_column_of_different_sentences_is_an_open_answer_however_short_they_are()
    {
        string[][] cells =
        [
            ["Too slow.", "bus"],
            ["It was cold!", "lift"],
            ["Fine.", "bus"],
            ["Never again.", "car"],
            ["No shelter.", "walk"],
        ];
        Assert.Equal(
            [ColumnRole.OpenAnswer, ColumnRole.Attribute],
            SurveyReading.Guess(["after all", "came by"], cells).Select(c => c.Role)
        );
    }

    [Theory]
    [InlineData("S12", true)]
    [InlineData("107", true)]
    [InlineData("Marnie Quillfeather", false)]
    [InlineData("m.quill@vitrine.example", false)]
    public void A_code_can_be_shown_and_a_name_cannot(string who, bool code) => Assert.Equal(code, SurveyReading.IsCode(who));

    [Theory]
    [InlineData(AttributeKind.Number, "2,5", "2.5")]
    [InlineData(AttributeKind.Number, "1,234.5", null)]
    [InlineData(AttributeKind.Number, "twelve", null)]
    [InlineData(AttributeKind.Date, "14.3.2026", "2026-03-14")]
    [InlineData(AttributeKind.Date, "14 March 2026", "2026-03-14")]
    [InlineData(AttributeKind.Date, "3/4/2026", null)]
    [InlineData(AttributeKind.YesNo, "Y", "yes")]
    [InlineData(AttributeKind.YesNo, "maybe", null)]
    [InlineData(AttributeKind.Choice, " Tarra ", "Tarra")]
    public void A_value_is_kept_in_one_way_of_writing(AttributeKind kind, string raw, string? kept) =>
        Assert.Equal(kept, AttributeValue.Fit(kind, raw));
}
