namespace Vitrine.Core.Counting;

/// <summary>A table of triples: one row per tag, one column per source or per person.</summary>
/// <param name="Rows">The row's observations over all columns.</param>
/// <param name="Cells">Cells[row][column].</param>
public sealed record CrossTab(Triple[] Rows, Triple[][] Cells)
{
    /// <summary>Tags against sources, or against people when <paramref name="byPerson"/>; unattributed observations are in no person's column.</summary>
    public static CrossTab Of(StudyMarks marks, bool byPerson, bool rollUp)
    {
        var columns = byPerson ? marks.PersonCount : marks.SourceCount;
        var columnOf = byPerson ? marks.PersonOf : marks.SourceOf;
        var byTag = Tally.ByTag(marks, rollUp);
        var rows = new Triple[byTag.Length];
        var cells = new Triple[byTag.Length][];
        for (var tag = 0; tag < byTag.Length; tag++)
        {
            rows[tag] = Tally.Of(marks, byTag[tag]);
            cells[tag] = new Triple[columns];
            foreach (var column in byTag[tag].Where(o => columnOf[o] >= 0).GroupBy(o => columnOf[o]))
            {
                cells[tag][column.Key] = Tally.Of(marks, column);
            }
        }
        return new CrossTab(rows, cells);
    }
}
