using System.Globalization;
using System.Text.RegularExpressions;
using CsvHelper;
using MiniExcelLibs;

namespace Vitrine.Formats.Reports;

/// <summary>A codebook as a table, a row for each tag.</summary>
public static partial class CodebookTables
{
    /// <summary>Comma-separated values (RFC 4180), UTF-8 with a mark at its beginning, so that spreadsheets read it right.</summary>
    public static void WriteCsv(Codebook book, Stream to)
    {
        using var text = new StreamWriter(to, new System.Text.UTF8Encoding(true), leaveOpen: true);
        using var csv = new CsvWriter(text, CultureInfo.InvariantCulture, leaveOpen: true);
        foreach (var head in Codebook.Heads)
            csv.WriteField(head);
        csv.NextRecord();
        foreach (var tag in book.Tags)
        {
            foreach (var cell in Codebook.Row(tag))
                csv.WriteField(Harmless(cell));
            csv.NextRecord();
        }
    }

    /// <summary>A workbook with one sheet.</summary>
    public static void WriteXlsx(Codebook book, Stream to) =>
        to.SaveAs(
            book.Tags.Select(tag => Codebook.Heads.Zip(Codebook.Row(tag).Select(Harmless)).ToDictionary(c => c.First, c => c.Second)),
            sheetName: "Codebook"
        );

    // A cell that begins like a formula is run as one by spreadsheets (OWASP, "CSV Injection").
    private static object Harmless(object cell) => cell is string text && Formula().IsMatch(text) ? "'" + text : cell;

    /// <summary>A cell as it was before it was made harmless.</summary>
    internal static string Harmed(string cell) => cell.StartsWith('\'') && Formula().IsMatch(cell) ? cell[1..] : cell;

    [GeneratedRegex(@"^'*[=+\-@\t\r]")]
    private static partial Regex Formula();
}
