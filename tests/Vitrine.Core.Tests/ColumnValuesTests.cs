using Vitrine.Core.Gather.Participants;
using Vitrine.Core.Gather.Surveys;

namespace Vitrine.Core.Tests;

// What a careful person reads in the cells of a column, written by hand; common practice, no source.
public class ColumnValuesTests
{
    [Theory]
    [InlineData("12|7|1,234|1,234.5", "12|7|1234|1234.5")]
    [InlineData("1.234,5|1.234|0,5|-3", "1234.5|1234|0.5|-3")]
    [InlineData("1,5|2,75|1,234", "1.5|2.75|1.234")]
    [InlineData("1.5|2.75|1.234", "1.5|2.75|1.234")]
    [InlineData("1 234|12 345,5", "1234|12345.5")]
    [InlineData("1’234|12’345.50", "1234|12345.5")]
    [InlineData("1,234,567|1,234", "1234567|1234")]
    [InlineData("3.50|4", "3.5|4")]
    [InlineData("€ 12|€3,50", "12|3.5")]
    [InlineData("12%|7 %", "12|7")]
    [InlineData("0|0.125|10", "0|0.125|10")]
    [InlineData("4|n/a|–|5", "4|||5")]
    public void Numbers_are_read_as_their_column_is_written(string cells, string numbers)
    {
        var column = ColumnValues.Of(cells.Split('|'));
        Assert.Null(column.NumberDoubt);
        Assert.Equal(numbers.Split('|'), cells.Split('|').Select(c => column.Fit(AttributeKind.Number, c)));
    }

    [Theory]
    [InlineData("007|12", ValueDoubt.LeadingNoughts)]
    [InlineData("12345678901234567890|7", ValueDoubt.LongNumbers)]
    [InlineData("1,5|1.5", ValueDoubt.MixedSeparators)]
    [InlineData("1,234.5|1.234,5", ValueDoubt.MixedSeparators)]
    [InlineData("1,234|2,500", ValueDoubt.UnclearSeparators)]
    [InlineData("12%|7", ValueDoubt.MixedUnits)]
    [InlineData("€5|$5", ValueDoubt.MixedUnits)]
    public void What_cannot_be_told_stays_text(string cells, ValueDoubt doubt)
    {
        var rows = cells.Split('|').Select(c => new[] { c }).ToList();
        Assert.Equal(doubt, ColumnValues.Of(cells.Split('|')).NumberDoubt);
        var guessed = SurveyReading.Guess(["fare"], rows);
        Assert.NotEqual(AttributeKind.Number, guessed[0].Kind);
        Assert.Equal([(0, doubt)], SurveyReading.Doubts([guessed[0] with { Role = ColumnRole.Attribute }], rows));
    }

    [Theory]
    [InlineData("3/4/2026|14/4/2026", "2026-04-03|2026-04-14")]
    [InlineData("3/4/2026|3/14/2026", "2026-03-04|2026-03-14")]
    [InlineData("3-4-26|31-12-69", "2026-04-03|1969-12-31")]
    [InlineData("3.4.2026|4.5.26", "2026-04-03|2026-05-04")]
    [InlineData("2026-03-14T10:03:05Z|2026/3/4 09:00", "2026-03-14|2026-03-04")]
    [InlineData("14 March 2026|1st May 2026|2-Jun-26", "2026-03-14|2026-05-01|2026-06-02")]
    [InlineData("Sat, 14 Mar 2026|March 3, 2026|Mar 3rd, 2026 2:05 PM", "2026-03-14|2026-03-03|2026-03-03")]
    [InlineData("14/03/2026 10:03 AM +02:00|n/a", "2026-03-14|")]
    [InlineData("31/2/2026|1/2/2026", "|2026-02-01")]
    public void Dates_are_read_as_their_column_is_written(string cells, string days)
    {
        var column = ColumnValues.Of(cells.Split('|'));
        Assert.Null(column.DateDoubt);
        Assert.Equal(days.Split('|'), cells.Split('|').Select(c => column.Fit(AttributeKind.Date, c) ?? ""));
    }

    public static IEnumerable<object[]> Reference() =>
        File.ReadLines(Path.Combine(AppContext.BaseDirectory, "references", "dates.csv"))
            .Where(line => !line.StartsWith('#'))
            .Select(line => (object[])line.Split(';'));

    [Theory]
    [MemberData(nameof(Reference))]
    public void Dates_are_those_of_the_table_written_by_hand(string cells, string days)
    {
        var column = ColumnValues.Of(cells.Split('|'));
        Assert.Equal(days == "?", column.DateDoubt is not null);
        if (days != "?")
            Assert.Equal(days.Split('|'), cells.Split('|').Select(c => column.Fit(AttributeKind.Date, c) ?? ""));
    }

    [Theory]
    [InlineData("3/4/2026|5/6/2026", ValueDoubt.UnclearDates)]
    [InlineData("14/3/2026|3/14/2026", ValueDoubt.MixedDates)]
    public void The_order_of_day_and_month_is_asked_where_nothing_tells(string cells, ValueDoubt doubt) =>
        Assert.Equal(doubt, ColumnValues.Of(cells.Split('|')).DateDoubt);

    [Fact]
    public void Nothing_is_changed_without_being_told()
    {
        SurveyColumn[] columns =
        [
            new("fare", ColumnRole.Attribute, AttributeKind.Number),
            new("on", ColumnRole.Attribute, AttributeKind.Date),
            new("note", ColumnRole.Attribute, AttributeKind.Text),
        ];
        string[][] rows =
        [
            ["1,50", "14/3/2026", "007"],
            ["2", "n/a", "n/a"],
            ["1,50", "2026-03-01", "x"],
        ];
        Assert.Equal(
            [new ChangedCell(0, "1,50", "1.5"), new ChangedCell(1, "14/3/2026", "2026-03-14"), new ChangedCell(1, "n/a", "")],
            SurveyReading.Changes(columns, rows)
        );
        var (read, misfits) = SurveyReading.Rows(columns, rows);
        Assert.Empty(misfits);
        Assert.Equal([(0, "2"), (2, "n/a")], read[1].Facts);
    }
}
