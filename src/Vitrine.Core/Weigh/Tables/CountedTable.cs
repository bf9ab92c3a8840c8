using Vitrine.Core.Counting;

namespace Vitrine.Core.Weigh.Tables;

/// <summary>What stands in the columns of a table.</summary>
public enum TableColumns
{
    /// <summary>Each source a column.</summary>
    Sources,

    /// <summary>Each participant a column.</summary>
    Participants,
}

/// <summary>What a row or a column stands for, and how it is called.</summary>
public sealed record TableHead(ThingKind Kind, long Id, string Name);

/// <summary>A row over all columns: how broad it is with all that is under it, and its own count without.</summary>
public sealed record TableRow(TableHead Head, Breadth Breadth, Triple Own);

/// <summary>A cell with something in it.</summary>
/// <param name="Row">Its place among the rows, from 0.</param>
/// <param name="Column">Its place among the columns, from 0.</param>
/// <param name="Triple">Never empty: a cell without observations is left out.</param>
public sealed record TableCell(int Row, int Column, Triple Triple);

/// <summary>
/// A table of counts: the one shape that pages, charts, spreadsheets, documents and pins share.
/// </summary>
/// <param name="Counts">What is counted, in words.</param>
/// <param name="Rows">Row by row.</param>
/// <param name="Columns">Column by column.</param>
/// <param name="Cells">The cells with something in them, row by row, in each by column.</param>
/// <param name="InScope">How many people count as asked.</param>
/// <param name="NotReviewed">How many of the counted observations a search has found and nobody has looked at.</param>
public sealed record CountedTable(
    string Counts,
    IReadOnlyList<TableRow> Rows,
    IReadOnlyList<TableHead> Columns,
    IReadOnlyList<TableCell> Cells,
    int InScope,
    int NotReviewed
)
{
    /// <summary>
    /// Tags by sources or participants. A tag counts with all tags under it. Observations of nobody are in no participant's column.
    /// </summary>
    /// <param name="marks">The study.</param>
    /// <param name="by">What stands in the columns.</param>
    /// <param name="rows">The tags in the order of <paramref name="marks"/>.</param>
    /// <param name="columns">Sources or participants in the order of <paramref name="marks"/>.</param>
    /// <param name="inScope">How many people count as asked.</param>
    /// <example>
    /// Wren says “late” twice in her interview, Brack once in his. By sources: one row, two columns, cells (0, 0) with two observations
    /// and (0, 1) with one.
    /// </example>
    public static CountedTable OfTags(
        StudyMarks marks,
        TableColumns by,
        IReadOnlyList<TableRow> rows,
        IReadOnlyList<TableHead> columns,
        int inScope
    )
    {
        var counted = CrossTab.Of(marks, by == TableColumns.Participants, rollUp: true).Cells;
        var cells =
            from row in Enumerable.Range(0, rows.Count)
            from column in Enumerable.Range(0, columns.Count)
            where counted[row][column].Observations > 0
            select new TableCell(row, column, counted[row][column]);
        return new CountedTable(
            $"Observations of each tag, with all tags under it, by {(by == TableColumns.Participants ? "participant" : "source")}. "
                + "Each observation, source and person counts once.",
            rows,
            columns,
            [.. cells],
            inScope,
            marks.CountNotReviewed(Enumerable.Range(0, marks.Count))
        );
    }
}
