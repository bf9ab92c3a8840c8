using System.Xml.Linq;
using Vitrine.Formats.Documents;
using Vitrine.Formats.Reports;
using Vitrine.Formats.Tables;

namespace Vitrine.Formats.Tests;

public sealed class CodebookTests
{
    private static readonly Guid[] Guids = [.. Enumerable.Range(1, 4).Select(i => new Guid(i, 0, 0, new byte[8]))];

    private static CodebookTag Tag(int guid, string name, string[] above, string definition = "", params string[] examples) =>
        new(
            Guids[guid],
            above,
            name,
            definition,
            guid == 1 ? "Heard at home." : "",
            guid == 1 ? ["in vain", "stood there"] : [],
            guid == 2 ? "1 to 5" : "",
            guid == 0 ? "#b4532a" : null,
            guid != 3,
            4,
            2,
            1,
            9,
            examples
        );

    private static readonly Codebook Book = new(
        "Boarding",
        new DateOnly(2026, 11, 26),
        [
            Tag(0, "hearing", [], "How word reaches someone."),
            Tag(1, "learnt on the quay", ["hearing"], "=After they had come, \"down\"\nto the quay.", "I was there\nalready."),
            Tag(2, "effort", ["hearing", "learnt on the quay"]),
            Tag(3, "a draft & <more>", []),
        ]
    );

    private static MemoryStream Written(Action<Codebook, Stream> write)
    {
        var file = new MemoryStream();
        write(Book, file);
        return new MemoryStream(file.ToArray());
    }

    [Theory]
    [InlineData("book.csv")]
    [InlineData("book.xlsx")]
    public void As_a_table_it_is_read_back_cell_by_cell(string name)
    {
        var file = Written(name.EndsWith("csv", StringComparison.Ordinal) ? CodebookTables.WriteCsv : CodebookTables.WriteXlsx);
        var table = TableFile.Read(name, file);
        Assert.Equal(["Tag", "Stands under", "Definition", "What it is not"], table.Columns.Take(4));
        Assert.Equal(4, table.Rows.Count);
        Assert.Equal("learnt on the quay", table.Rows[1][0]);
        Assert.Equal("hearing / learnt on the quay", table.Rows[2][1]);
        Assert.EndsWith(
            "=After they had come, \"down\"\nto the quay.",
            table.Rows[1][2].ReplaceLineEndings("\n"),
            StringComparison.Ordinal
        );
        Assert.Equal(["in vain; stood there", "settled", "4", "2", "1", "9"], new[] { 4, 6, 7, 8, 9, 10 }.Select(c => table.Rows[1][c]));
        Assert.Equal("draft", table.Rows[3][6]);
        Assert.Equal(Guids[3].ToString(), table.Rows[3][12]);
    }

    [Fact]
    public void No_cell_of_the_comma_separated_table_begins_like_a_formula()
    {
        var text = System.Text.Encoding.UTF8.GetString(Written(CodebookTables.WriteCsv).ToArray());
        Assert.Contains("\"'=After", text, StringComparison.Ordinal);
    }

    [Fact]
    public void As_a_word_document_it_has_a_heading_for_each_tag_at_its_depth()
    {
        var read = Docx.Read(Written(CodebookDocx.Write));
        Assert.Contains("learnt on the quay", read.Text, StringComparison.Ordinal);
        Assert.Contains("Not: Heard at home.", read.Text, StringComparison.Ordinal);
        Assert.Contains("Also called: in vain, stood there", read.Text, StringComparison.Ordinal);
        Assert.Contains("4 observations in 2 sources, 1 of 9 people", read.Text, StringComparison.Ordinal);
        Assert.Contains("a draft & <more> (draft)", read.Text, StringComparison.Ordinal);
    }

    [Fact]
    public void As_markdown_nothing_of_a_name_is_taken_for_a_sign()
    {
        var text = CodebookText.Markdown(Book).ReplaceLineEndings("\n");
        Assert.Contains("## hearing\n", text, StringComparison.Ordinal);
        Assert.Contains("#### effort\n", text, StringComparison.Ordinal);
        Assert.Contains("## a draft & \\<more\\> (draft)", text, StringComparison.Ordinal);
        Assert.Contains("> I was there\n> already.", text, StringComparison.Ordinal);
    }

    // The rules of the REFI-QDA codebook schema, version 1.0 (2019), from memory: CodeBook with an origin holds Codes, which holds nested Code
    // elements; each has a guid, a name, isCodable and perhaps a color as #RRGGBB; a Description comes before the codes in it.
    [Fact]
    public void In_the_open_exchange_format_codes_are_nested_by_the_rules_of_its_schema()
    {
        var root = XDocument.Load(Written(CodebookText.WriteExchange)).Root!;
        XNamespace qdc = "urn:QDA-XML:codebook:1.0";
        Assert.Equal((qdc + "CodeBook", "Vitrine"), (root.Name, root.Attribute("origin")!.Value));
        var codes = Assert.Single(root.Elements());
        Assert.Equal(qdc + "Codes", codes.Name);
        Assert.Equal(["hearing", "a draft & <more>"], codes.Elements(qdc + "Code").Select(c => c.Attribute("name")!.Value));
        foreach (var code in codes.Descendants(qdc + "Code"))
        {
            Assert.True(Guid.TryParse(code.Attribute("guid")!.Value, out _));
            Assert.Equal("true", code.Attribute("isCodable")!.Value);
            Assert.Matches("^#[0-9a-fA-F]{6}$", code.Attribute("color")?.Value ?? "#000000");
            Assert.All(code.Elements().Skip(1), e => Assert.Equal(qdc + "Code", e.Name));
        }
        var quay = codes.Element(qdc + "Code")!.Element(qdc + "Code")!;
        Assert.Equal("effort", quay.Element(qdc + "Code")!.Attribute("name")!.Value);
        Assert.EndsWith(
            "Not: Heard at home.\nAlso called: in vain, stood there",
            quay.Element(qdc + "Description")!.Value,
            StringComparison.Ordinal
        );
    }

    [Theory]
    [InlineData("book.csv")]
    [InlineData("book.xlsx")]
    [InlineData("book.qdc")]
    public void What_goes_out_comes_in_again(string name)
    {
        var file = Written(
            Path.GetExtension(name) switch
            {
                ".csv" => CodebookTables.WriteCsv,
                ".xlsx" => CodebookTables.WriteXlsx,
                _ => CodebookText.WriteExchange,
            }
        );
        var exchange = name.EndsWith("qdc", StringComparison.Ordinal);
        var read = exchange ? CodebookReading.Exchange(file) : CodebookReading.Table(Cells(TableFile.Read(name, file, 1)));
        Assert.Equal(
            Book.Tags.Select(Told),
            read.Select(l => $"{l.Key} {string.Join('/', l.Above)} {l.Name} {l.Definition} {l.IsNot} {string.Join('+', l.Aliases)}")
        );
        if (!exchange)
            Assert.Equal([true, true, true, false], read.Select(l => l.Settled));

        static string Told(CodebookTag t) =>
            $"{t.Key} {string.Join('/', t.Above)} {t.Name} {t.Definition} {t.IsNot} {string.Join('+', t.Aliases)}";
        static IReadOnlyList<string[]> Cells(Table table) =>
            [
                [.. table.Columns],
                .. table.Rows,
            ];
    }

    [Fact]
    public void Cells_without_a_head_are_names_and_what_they_are()
    {
        var lines = CodebookReading.Table(TableFile.Cells("late, again\nhearing / told\tBy a person.\n\n\tno name\n", '\t'));
        Assert.Equal(["late, again", "told", ""], lines.Select(l => l.Name));
        Assert.Equal(("hearing", "By a person."), (lines[1].Above.Single(), lines[1].Definition));
        var headed = CodebookReading
            .Table([
                ["Description", "Parent", "Code"],
                ["It is.", "a / b", "c / d"],
            ])
            .Single();
        Assert.Equal(("d", "a/b/c", "It is."), (headed.Name, string.Join('/', headed.Above), headed.Definition));
        Assert.Empty(CodebookReading.Table([]));
    }

    [Theory]
    [InlineData("")]
    [InlineData("<CodeBook>")]
    [InlineData("<Project/>")]
    [InlineData("<CodeBook><Sets/></CodeBook>")]
    [InlineData("<!DOCTYPE a [<!ENTITY b SYSTEM \"file:///etc/passwd\">]><CodeBook><Codes/></CodeBook>")]
    public void What_is_no_codebook_is_refused(string text) =>
        Assert.Throws<UnreadableException>(() => CodebookReading.Exchange(new MemoryStream(System.Text.Encoding.UTF8.GetBytes(text))));

    [Fact]
    public void Codes_of_another_program_come_in_as_deep_as_they_stand()
    {
        var deep =
            string.Concat(Enumerable.Range(0, 3000).Select(i => $"<Code name=\"c{i}\">"))
            + string.Concat(Enumerable.Repeat("</Code>", 3000));
        var read = CodebookReading.Exchange(
            new MemoryStream(
                System.Text.Encoding.UTF8.GetBytes($"<CodeBook xmlns=\"urn:QDA-XML:codebook:1.0\"><Codes>{deep}</Codes></CodeBook>")
            )
        );
        Assert.Equal((3000, 2999), (read.Count, read[^1].Above.Count));
    }
}
