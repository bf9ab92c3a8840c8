namespace Vitrine.Core.Counting;

/// <summary>A table of triples: one row per tag, one column per source or per person.</summary>
/// <param name="Rows">The row's observations over all columns.</param>
/// <param name="Cells">Cells[row][column].</param>
public sealed record CrossTab(Triple[] Rows, Triple[][] Cells)
{
    /// <summary>
    /// Tags against sources, or against people when <paramref name="byPerson"/>; unattributed observations are in no person's column.
    /// </summary>
    public static CrossTab Of(StudyMarks marks, bool byPerson, bool rollUp)
    {
        var columns = byPerson ? marks.PersonCount : marks.SourceCount;
        var byTag = Tally.ByTag(marks, rollUp);
        var rows = new Triple[byTag.Length];
        var cells = new Triple[byTag.Length][];
        var counter = new TripleCounter(marks);
        var starts = new int[columns + 1];
        for (var tag = 0; tag < byTag.Length; tag++)
        {
            var observations = byTag[tag];
            rows[tag] = counter.Of(observations);
            cells[tag] = new Triple[columns];
            var sorted = Sorted(marks, byPerson, observations, starts);
            for (var column = 0; column < columns; column++)
            {
                if (starts[column + 1] > starts[column])
                    cells[tag][column] = counter.Of(sorted.AsSpan(starts[column]..starts[column + 1]));
            }
        }
        return new CrossTab(rows, cells);
    }

    /// <summary>
    /// The observations that have a column, brought into the order of columns by counting; column c holds [starts[c], starts[c+1]).
    /// </summary>
    private static int[] Sorted(StudyMarks marks, bool byPerson, int[] observations, int[] starts)
    {
        Array.Clear(starts);
        foreach (var o in observations)
        {
            if (ColumnOf(o) is { } column)
                starts[column + 1]++;
        }
        for (var c = 1; c < starts.Length; c++)
            starts[c] += starts[c - 1];
        var sorted = new int[starts[^1]];
        var next = (int[])starts.Clone();
        foreach (var o in observations)
        {
            if (ColumnOf(o) is { } column)
                sorted[next[column]++] = o;
        }
        return sorted;

        int? ColumnOf(int o) => byPerson ? marks.PersonOf[o] : marks.SourceOf[o];
    }
}
