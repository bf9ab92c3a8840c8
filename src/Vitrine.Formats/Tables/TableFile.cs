using System.Globalization;
using CsvHelper;
using CsvHelper.Configuration;
using MiniExcelLibs;
using MiniExcelLibs.OpenXml;
using Vitrine.Formats.Documents;

namespace Vitrine.Formats.Tables;

/// <summary>
/// A table as it stands in a file: one name per column, all different, and rows of as many cells. Numbers have a decimal point, dates are
/// year-month-day.
/// </summary>
/// <param name="Columns">The names of the columns.</param>
/// <param name="Rows">The rows that hold anything.</param>
/// <param name="Remarks">Sentences about what was left out or guessed.</param>
/// <param name="HeaderRows">How many rows at the top were read as names of columns.</param>
public sealed record Table(IReadOnlyList<string> Columns, IReadOnlyList<string[]> Rows, IReadOnlyList<string> Remarks, int HeaderRows);

/// <summary>
/// Reads .csv (RFC 4180, and with semicolons, tabs or bars instead of commas, in any encoding that <see cref="TextFile"/> reads) with
/// CsvHelper, and the first sheet of .xlsx with MiniExcel.
/// </summary>
public static class TableFile
{
    /// <summary>The most rows that are read.</summary>
    public const int MostRows = 100_000;

    /// <summary>The most columns that are read.</summary>
    public const int MostColumns = 300;

    /// <summary>The most cells of one table.</summary>
    public const int MostCells = 3_000_000;

    /// <summary>The longest cell, in characters.</summary>
    public const int LongestCell = 100_000;

    /// <summary>The largest .csv file, in bytes.</summary>
    public const int MostTextBytes = 60_000_000;
    private const int MostHeaderRows = 3;

    // The separators that are in use; the first wins when all fit equally well.
    private static readonly char[] Separators = [',', ';', '\t', '|'];

    /// <summary>Reads a file by its ending.</summary>
    /// <param name="fileName">Ends in .csv or .xlsx.</param>
    /// <param name="file">A stream that can seek, at its beginning.</param>
    /// <param name="headerRows">How many rows name the columns; null to tell from the table.</param>
    /// <exception cref="UnreadableException">Empty, damaged, too large, or without rows under its names.</exception>
    public static Table Read(string fileName, Stream file, int? headerRows = null)
    {
        if (file.Length == 0)
            throw new UnreadableException("The file is empty. Check that it was saved, and add it again.");
        return ReadBounds.Run(fileName, () => ReadFile(fileName, file, headerRows));
    }

    private static Table ReadFile(string fileName, Stream file, int? headerRows)
    {
        return Path.GetExtension(fileName).Equals(".xlsx", StringComparison.OrdinalIgnoreCase)
            ? Of(Sheet(file), headerRows, [])
            : ReadText(Decoded(file, out var remark), headerRows, remark is null ? [] : [remark]);
    }

    /// <summary>Reads cells that were pasted, from a spreadsheet or a .csv file.</summary>
    /// <exception cref="UnreadableException">Too large, or without rows under its names.</exception>
    public static Table ReadText(string text, int? headerRows = null, IReadOnlyList<string>? remarks = null) =>
        Of(Cells(text), headerRows, remarks ?? []);

    /// <summary>The cells of separated text, row by row; rows may differ in length.</summary>
    /// <param name="text">The text.</param>
    /// <param name="separator">What stands between two cells; null to tell from the text.</param>
    /// <exception cref="UnreadableException">More rows or columns than anyone means.</exception>
    public static IReadOnlyList<string[]> Cells(string text, char? separator = null)
    {
        var plain = text.TrimStart('\uFEFF');
        using var reader = new CsvReader(
            new StringReader(plain),
            new CsvConfiguration(CultureInfo.InvariantCulture)
            {
                Delimiter = (separator ?? SeparatorOf(plain)).ToString(),
                HasHeaderRecord = false,
                BadDataFound = null,
                MissingFieldFound = null,
                IgnoreBlankLines = true,
                MaxFieldSize = LongestCell,
            }
        );
        var (rows, cells) = (new List<string[]>(), 0);
        try
        {
            while (reader.Read())
            {
                Refuse(rows.Count, reader.Parser.Count, cells += reader.Parser.Count);
                rows.Add(reader.Parser.Record!);
            }
        }
        catch (MaxFieldSizeException)
        {
            throw new UnreadableException(
                $"A cell of this table is longer than {LongestCell:N0} characters. Quotes that are opened and never closed make "
                    + $"one of many; mend them, and add it again."
            );
        }
        return rows;
    }

    /// <summary>
    /// The character that splits the first rows into the most columns, the same number in each; those inside quotes do not count.
    /// </summary>
    public static char SeparatorOf(string text)
    {
        var best = (Separator: Separators[0], Score: 0.0);
        foreach (var separator in Separators)
        {
            var counts = CountsPerRow(text, separator);
            if (counts.Count == 0 || counts[0] == 0)
                continue;
            var even = counts.Count(c => c == counts[0]) / (double)counts.Count;
            var score = even * even * (1 + Math.Log(counts[0]));
            if (score > best.Score)
                best = (separator, score);
        }
        return best.Separator;
    }

    private static List<int> CountsPerRow(string text, char separator)
    {
        const int FirstRows = 20;
        var counts = new List<int>();
        var (inQuotes, count, any) = (false, 0, false);
        foreach (var c in text)
        {
            if (c == '"')
                inQuotes = !inQuotes;
            if (c is '\n' && !inQuotes)
            {
                if (any)
                    counts.Add(count);
                if (counts.Count == FirstRows)
                    return counts;
                (count, any) = (0, false);
                continue;
            }
            if (c is not '\r')
                any = true;
            if (c == separator && !inQuotes)
                count++;
        }
        if (any)
            counts.Add(count);
        return counts;
    }

    private static string Decoded(Stream file, out string? remark)
    {
        if (file.Length > MostTextBytes)
            throw new UnreadableException(
                $"This table is {file.Length / 1_000_000:N0} MB; {MostTextBytes / 1_000_000} MB is the most. Keep the columns "
                    + $"that you need, or split it by rows, and add the parts one after the other."
            );
        var bytes = new byte[file.Length];
        file.ReadExactly(bytes);
        (var text, remark) = TextFile.Decode(bytes);
        return text;
    }

    private static List<string[]> Sheet(Stream file)
    {
        Zipped.Check(file, ".xlsx");
        try
        {
            var (rows, cells) = (new List<string[]>(), 0);
            foreach (
                IDictionary<string, object?> row in file.Query(
                    useHeaderRow: false,
                    excelType: ExcelType.XLSX,
                    configuration: new OpenXmlConfiguration { FillMergedCells = true, EnableSharedStringCache = false }
                )
            )
            {
                Refuse(rows.Count, row.Count, cells += row.Count);
                rows.Add([.. row.Values.Select(Words)]);
            }
            return rows;
        }
        catch (Exception problem) when (problem is not UnreadableException and not OutOfMemoryException)
        {
            throw Zipped.Damaged(".xlsx");
        }
    }

    private static void Refuse(int rows, int columns, int cells)
    {
        if (rows >= MostRows)
            throw new UnreadableException($"This table has more than {MostRows:N0} rows. Split it and add the parts one after the other.");
        if (columns > MostColumns)
            throw new UnreadableException(
                $"This table has {columns} columns; {MostColumns} is the most. Keep those that you need, and add it again."
            );
        if (cells > MostCells)
            throw new UnreadableException(
                $"This table has more than {MostCells:N0} cells. Keep the columns that you need, or split it by rows, and add the "
                    + $"parts one after the other."
            );
    }

    private static string Words(object? cell) =>
        cell switch
        {
            null => "",
            DateTime day when day.TimeOfDay == TimeSpan.Zero => day.ToString("yyyy-MM-dd", CultureInfo.InvariantCulture),
            DateTime moment => moment.ToString("yyyy-MM-dd HH:mm", CultureInfo.InvariantCulture),
            TimeSpan time => time.ToString("c", CultureInfo.InvariantCulture),
            bool yes => yes ? "yes" : "no",
            double number => number.ToString("R", CultureInfo.InvariantCulture),
            IFormattable other => other.ToString(null, CultureInfo.InvariantCulture),
            _ => cell.ToString() ?? "",
        };

    private static Table Of(IReadOnlyList<string[]> cells, int? headerRows, IReadOnlyList<string> remarks)
    {
        var said = new List<string>(remarks);
        var width = cells.Count == 0 ? 0 : cells.Max(r => r.Length);
        var rows = cells.Select(r => Filled(r, width)).Where(r => r.Any(c => c.Length > 0)).ToList();
        var empty = cells.Count - rows.Count;
        if (rows.Count == 0)
            throw new UnreadableException("There is nothing in this table. Check that it was saved, and add it again.");
        var heads = Math.Clamp(headerRows ?? HeaderRowsOf(rows), 1, Math.Max(1, Math.Min(MostHeaderRows, rows.Count - 1)));
        if (rows.Count <= heads)
            throw new UnreadableException(
                "This table has one row alone. The first row is read as the names of the columns; the answers stand below it."
            );
        // A column without a name and without answers is only the sheet's edge.
        var kept = Enumerable.Range(0, width).Where(c => rows.Any(r => r[c].Length > 0)).ToList();
        if (empty > 0)
            said.Add(empty == 1 ? "One empty row was left out." : $"{empty} empty rows were left out.");
        var columns = Names(rows, heads, kept, said);
        return new Table(columns, [.. rows.Skip(heads).Select(r => kept.Select(c => r[c]).ToArray())], said, heads);
    }

    private static string[] Filled(string[] row, int width)
    {
        var filled = new string[width];
        for (var i = 0; i < width; i++)
            filled[i] = i < row.Length ? row[i].ReplaceLineEndings("\n").Trim() : "";
        return filled;
    }

    /// <summary>
    /// Two rows name the columns when the upper has one name over several columns (a merged cell: the name repeated or followed by
    /// nothing), the lower tells those apart,
    /// and has nothing of its own in all other columns.
    /// </summary>
    private static int HeaderRowsOf(List<string[]> rows)
    {
        if (rows.Count < 3)
            return 1;
        var (upper, lower) = (rows[0], rows[1]);
        var groups = 0;
        for (var c = 0; c < upper.Length; c++)
        {
            var next = c + 1;
            while (next < upper.Length && Covered(upper, lower, next))
                next++;
            if (next == c + 1)
            {
                if (lower[c].Length > 0 && lower[c] != upper[c])
                    return 1;
                continue;
            }
            if (lower[c].Length == 0 || lower[c] == upper[c])
                return 1;
            groups++;
            c = next - 1;
        }
        return groups > 0 ? 2 : 1;
    }

    private static bool Covered(string[] upper, string[] lower, int column) =>
        (upper[column].Length == 0 || upper[column] == upper[column - 1]) && lower[column].Length > 0 && lower[column] != lower[column - 1];

    private static List<string> Names(List<string[]> rows, int heads, List<int> kept, List<string> said)
    {
        var names = new List<string>();
        var doubled = 0;
        for (var column = 1; heads > 1 && column < rows[0].Length; column++)
        {
            if (rows[0][column].Length == 0 && Covered(rows[0], rows[1], column))
                rows[0][column] = rows[0][column - 1];
        }
        foreach (var column in kept)
        {
            var parts = rows.Take(heads).Select(r => r[column]).Where(p => p.Length > 0).Distinct().ToList();
            var name = parts.Count > 0 ? string.Join(": ", parts).Replace('\n', ' ') : $"Column {column + 1}";
            var unique = name;
            for (var n = 2; names.Contains(unique, StringComparer.OrdinalIgnoreCase); n++)
                unique = $"{name} ({n})";
            if (unique != name)
                doubled++;
            names.Add(unique);
        }
        if (doubled > 0)
            said.Add(
                doubled == 1
                    ? "Two columns have the same name; the second was numbered."
                    : $"{doubled} columns have the name of an earlier one; they were numbered."
            );
        return names;
    }
}
