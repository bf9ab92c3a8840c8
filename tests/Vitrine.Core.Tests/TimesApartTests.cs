using Vitrine.Core.Gather.Surveys;

namespace Vitrine.Core.Tests;

// What a careful person reads, written by hand; the forms are those of ISO 8601 and common practice.
public class TimesApartTests
{
    [Theory]
    [InlineData("2026-03-14T10:03:05Z|2026-03-04", "2026-03-14|2026-03-04", "10:03:05Z|")]
    [InlineData("14/03/2026 10:03 AM +02:00|n/a", "14/03/2026|n/a", "10:03 AM +02:00|")]
    [InlineData("Mar 3rd, 2026, 2:05 p.m.|March 4, 2026 14:05 CET", "Mar 3rd, 2026|March 4, 2026", "2:05 p.m.|14:05 CET")]
    [InlineData("3.4.2026 9:00|14.4.2026 09:30:15.250", "3.4.2026|14.4.2026", "9:00|09:30:15.250")]
    public void A_day_and_its_time_stand_in_two_columns(string cells, string days, string times)
    {
        var rows = cells.Split('|').Select(c => new[] { "x", c, "y" }).ToList();
        var (names, parted, which) = TimesApart.Of(["a", "Sent", "b"], rows);
        Assert.Equal(["a", "Sent", "Sent, time", "b"], names);
        Assert.Equal(["Sent"], which);
        Assert.Equal(days.Split('|'), parted.Select(r => r[1]));
        Assert.Equal(times.Split('|'), parted.Select(r => r[2]));
    }

    [Theory]
    [InlineData("We met at 14:05|2026-03-04 10:00")]
    [InlineData("14:05|15:10")]
    [InlineData("2026-03-04|2026-03-05")]
    [InlineData("3/4/2026 10:00|5/6/2026 11:00")] // nobody can tell the day from the month: asked, not parted
    [InlineData("|")]
    public void What_is_no_column_of_days_with_times_is_left_as_it_is(string cells)
    {
        string[][] rows = [.. cells.Split('|').Select(c => new[] { c })];
        var (names, same, parted) = TimesApart.Of(["a"], rows);
        Assert.Equal((1, true, 0), (names.Count, ReferenceEquals(rows, same), parted.Count));
    }
}
