using System.Text;
using System.Text.Json;
using DocumentFormat.OpenXml;
using DocumentFormat.OpenXml.Packaging;
using DocumentFormat.OpenXml.Spreadsheet;
using Vitrine.Formats.Tables;
using Table = Vitrine.Formats.Tables.Table;

namespace Vitrine.Formats.Tests;

public class TableFileTests
{
    private static readonly string Spectrum = Path.Combine(AppContext.BaseDirectory, "references", "csv-spectrum");

    private static Table Read(string text, string name = "a.csv", int? headerRows = null) =>
        TableFile.Read(name, new MemoryStream(Encoding.UTF8.GetBytes(text)), headerRows);

    public static TheoryData<string> SpectrumCases =>
        [.. Directory.GetFiles(Path.Combine(Spectrum, "csvs")).Select(Path.GetFileNameWithoutExtension).Order().OfType<string>()];

    [Theory]
    [MemberData(nameof(SpectrumCases))]
    // The cases of csv-spectrum 2.0.0, see tests/references/csv-spectrum.
    public void Every_case_of_csv_spectrum_is_read_as_it_says(string name)
    {
        var cells = TableFile.Cells(File.ReadAllText(Path.Combine(Spectrum, "csvs", name + ".csv")));
        var expected = JsonSerializer.Deserialize<List<Dictionary<string, string>>>(
            File.ReadAllText(Path.Combine(Spectrum, "json", name + ".json"))
        )!;
        var read = cells.Skip(1).Select(row => cells[0].Zip(row).ToDictionary(c => c.First, c => c.Second.Replace("\r\n", "\n"))).ToList();
        Assert.Equal(expected.Select(e => e.ToDictionary(c => c.Key, c => c.Value.Replace("\r\n", "\n"))), read);
    }

    [Theory]
    // RFC 4180, section 2, rules 1, 2, 5, 6 and 7 with its own examples.
    [InlineData("aaa,bbb,ccc\r\nzzz,yyy,xxx\r\n", "aaa|bbb|ccc/zzz|yyy|xxx")]
    [InlineData("aaa,bbb,ccc\r\nzzz,yyy,xxx", "aaa|bbb|ccc/zzz|yyy|xxx")]
    [InlineData("\"aaa\",\"bbb\",\"ccc\"\r\nzzz,yyy,xxx", "aaa|bbb|ccc/zzz|yyy|xxx")]
    [InlineData("\"aaa\",\"b\r\nbb\",\"ccc\"\r\nzzz,yyy,xxx", "aaa|b\nbb|ccc/zzz|yyy|xxx")]
    [InlineData("\"aaa\",\"b\"\"bb\",\"ccc\"", "aaa|b\"bb|ccc")]
    public void Csv_is_read_by_its_rfc(string csv, string cells) =>
        Assert.Equal(cells, string.Join('/', TableFile.Cells(csv).Select(r => string.Join('|', r).Replace("\r\n", "\n"))));

    [Theory]
    [InlineData("who;how long;why\nP1;2,5;\"late; again\"\nP2;3;no", ';')]
    [InlineData("who\twhy\nP1\tlate, again, and again\nP2\tno", '\t')]
    [InlineData("who|why\nP1|a,b\nP2|c", '|')]
    [InlineData("one column\nwith, commas\nin, it, twice", ',')]
    public void The_separator_is_told_from_the_first_rows(string text, char separator) =>
        Assert.Equal(separator, TableFile.SeparatorOf(text));

    [Fact]
    public void Names_are_made_different_and_empty_rows_and_columns_left_out()
    {
        var table = Read("who,why,why,,\nP1,late,again,,\n,,,,\nP2,\"two\r\nlines\",,,x\n");
        Assert.Equal(["who", "why", "why (2)", "Column 5"], table.Columns);
        Assert.Equal(["P2", "two\nlines", "", "x"], table.Rows[1]);
        Assert.Equal(2, table.Remarks.Count);
    }

    [Theory]
    [InlineData("who,boarding,,when\n,app,kiosk,\nP1,4,2,May\n", "who|boarding: app|boarding: kiosk|when")]
    [InlineData("who,why,why\nP1,late,again\nP2,no,yes\n", "who|why|why (2)")]
    [InlineData("who,,why\nP1,late,again\nP2,no,yes\n", "who|Column 2|why")]
    public void A_name_over_several_columns_is_told_from_a_missing_one(string csv, string names) =>
        Assert.Equal(names, string.Join('|', Read(csv).Columns));

    [Theory]
    [InlineData("utf-16", "Größe")]
    [InlineData("utf-16BE", "Größe")]
    [InlineData("windows-1252", "Größe")]
    public void A_table_is_read_in_any_encoding(string encoding, string name)
    {
        Encoding.RegisterProvider(CodePagesEncodingProvider.Instance);
        var known = Encoding.GetEncoding(encoding);
        byte[] bytes =
        [
            .. known.GetPreamble(),
            .. known.GetBytes($"wer;{name}\nP1;groß\nP2;größer\nP3;am größten, natürlich für größere Fähren"),
        ];
        Assert.Equal(name, TableFile.Read("a.csv", new MemoryStream(bytes)).Columns[1]);
    }

    [Theory]
    [InlineData("", "empty")]
    [InlineData("\n\n", "nothing in this table")]
    [InlineData("who,why", "one row alone")]
    public void A_table_without_rows_says_so(string text, string why) =>
        Assert.Contains(why, Assert.Throws<UnreadableException>(() => Read(text)).Message, StringComparison.Ordinal);

    [Fact]
    public void A_table_that_is_too_wide_is_refused() =>
        Assert.Contains(
            "columns",
            Assert.Throws<UnreadableException>(() => Read(string.Join(',', Enumerable.Range(0, 400)) + "\n1")).Message,
            StringComparison.Ordinal
        );

    [Fact]
    public void A_workbook_has_its_dates_numbers_merged_names_and_yes_and_no()
    {
        var table = TableFile.Read(
            "a.xlsx",
            Workbook(
                merged: "B1:C1",
                [Text("who"), Text("boarding"), Text(""), Text("when"), Text("again")],
                [Text(""), Text("app"), Text("kiosk"), Text(""), Text("")],
                [Text("P1"), Number("4"), Number("2.5"), Date("46054"), Yes(true)],
                [Text("P2"), Number("1"), Text(""), Date("46055.5"), Yes(false)]
            )
        );
        Assert.Equal(["who", "boarding: app", "boarding: kiosk", "when", "again"], table.Columns);
        // Day 46054 of the 1900 date system (ISO/IEC 29500-1, 18.17.4) is 1 February 2026.
        Assert.Equal(["P1", "4", "2.5", "2026-02-01", "yes"], table.Rows[0]);
        Assert.Equal(["P2", "1", "", "2026-02-02 12:00", "no"], table.Rows[1]);
    }

    [Fact]
    public void A_workbook_that_is_none_says_so() =>
        Assert.Contains(
            "not a whole .xlsx",
            Assert.Throws<UnreadableException>(() => Read("no zip", "a.xlsx")).Message,
            StringComparison.Ordinal
        );

    private static Cell Text(string text) => new() { DataType = CellValues.InlineString, InlineString = new InlineString(new Text(text)) };

    private static Cell Number(string number) => new() { CellValue = new CellValue(number) };

    private static Cell Date(string days) => new() { CellValue = new CellValue(days), StyleIndex = 1 };

    private static Cell Yes(bool yes) => new() { CellValue = new CellValue(yes ? "1" : "0"), DataType = CellValues.Boolean };

    private static MemoryStream Workbook(string merged, params Cell[][] rows)
    {
        var stream = new MemoryStream();
        using (var document = SpreadsheetDocument.Create(stream, SpreadsheetDocumentType.Workbook))
        {
            var book = document.AddWorkbookPart();
            var styles = book.AddNewPart<WorkbookStylesPart>();
            styles.Stylesheet = new Stylesheet(
                new Fonts(new Font()),
                new Fills(new Fill()),
                new Borders(new Border()),
                new CellStyleFormats(new CellFormat()),
                new CellFormats(new CellFormat(), new CellFormat { NumberFormatId = 14, ApplyNumberFormat = true })
            );
            var sheet = book.AddNewPart<WorksheetPart>();
            for (uint r = 0; r < rows.Length; r++)
            {
                for (var c = 0; c < rows[r].Length; c++)
                    rows[r][c].CellReference = $"{(char)('A' + c)}{r + 1}";
            }
            sheet.Worksheet = new Worksheet(
                new SheetData(rows.Select((cells, r) => new Row(cells) { RowIndex = (uint)r + 1 })),
                new MergeCells(new MergeCell { Reference = merged })
            );
            book.Workbook = new Workbook(
                new Sheets(
                    new Sheet
                    {
                        Id = book.GetIdOfPart(sheet),
                        SheetId = 1,
                        Name = "Answers",
                    }
                )
            );
        }
        stream.Position = 0;
        return stream;
    }
}
