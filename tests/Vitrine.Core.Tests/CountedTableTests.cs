using FsCheck.Xunit;
using Vitrine.Core.Counting;
using Vitrine.Core.Weigh.Tables;
using static Vitrine.Core.Tests.MarksFor;

namespace Vitrine.Core.Tests;

/// <summary>The one shape of tables: what a cell that is left out means, and that no observation is lost on the way.</summary>
public sealed class CountedTableTests
{
    private static TableHead Head(ThingKind kind, int place) => new(kind, place + 1, $"{kind} {place}");

    private static CountedTable Table(StudyMarks marks, TableColumns by)
    {
        var byTag = Tally.ByTag(marks, rollUp: true);
        var scope = new bool[marks.PersonCount];
        var rows = byTag.Select((of, place) => new TableRow(Head(ThingKind.Tag, place), Breadth.Of(marks, of, scope), Tally.Of(marks, of)));
        var (kind, columns) =
            by == TableColumns.Sources ? (ThingKind.Source, marks.SourceCount) : (ThingKind.Participant, marks.PersonCount);
        return CountedTable.OfTags(marks, by, [.. rows], [.. Enumerable.Range(0, columns).Select(c => Head(kind, c))], 0);
    }

    /// <summary>Worked by hand: Wren says “late” twice in her interview, Brack once in his.</summary>
    [Fact]
    public void Two_in_one_source_and_one_in_another()
    {
        var marks = Study([-1], 3, 2, new(0, 0, 0, 4, 0), new(0, 0, 5, 9, 0), new(1, 1, 0, 4, 0));
        Assert.Equal(
            [(0, 0, 2), (0, 1, 1)],
            Table(marks, TableColumns.Sources).Cells.Select(c => (c.Row, c.Column, c.Triple.Observations))
        );
    }

    [Property]
    public void Cells_that_hold_something_are_those_of_the_whole_table(int seed, bool byPerson)
    {
        var marks = MarksFor.Random(seed);
        var whole = CrossTab.Of(marks, byPerson, rollUp: true).Cells;
        var table = Table(marks, byPerson ? TableColumns.Participants : TableColumns.Sources);
        Assert.All(table.Cells, c => Assert.Equal(whole[c.Row][c.Column], c.Triple));
        Assert.Equal(whole.SelectMany(r => r).Count(c => c.Observations > 0), table.Cells.Count);
    }
}
