using System.IO.Compression;
using System.Text;
using System.Text.Json.Nodes;

namespace Vitrine.Server.Tests;

/// <summary>
/// Files that are made to harm: each is answered in words and in time, costs itself alone, and the next honest file comes in at once.
/// </summary>
public sealed class HostileFileTests(PatientServer shared) : IClassFixture<PatientServer>, IAsyncLifetime
{
    private readonly TestServer server = shared.Server;
    private long study;

    public async Task InitializeAsync()
    {
        study = await server.Study();
    }

    public Task DisposeAsync() => Task.CompletedTask;

    public static TheoryData<string, string> Files =>
        new()
        {
            { "spans.odt", "deep" },
            { "lists.odt", "deep" },
            { "cells.odt", "" },
            { "nested tables.docx", "deep" },
            { "styles.docx", "" },
            { "lists.md", "deep" },
            { "brackets.md", "" },
            { "paragraphs.txt", "one source can hold 100,000" },
            { "lines.txt", "one source can hold 1,000,000" },
            { "speakers.txt", "different names seem to speak" },
            { "arabic.vtt", "time line" },
            { "lies.docx", "far more than it should" },
            { "nested.html", "deep" },
            { "nested.rtf", "" },
            { "line.csv", "longer than 100,000 characters" },
            { "wide.csv", "300 is the most" },
            { "merged.xlsx", "" },
        };

    [Theory]
    [MemberData(nameof(Files))]
    public async Task A_hostile_file_is_answered_in_words_and_harms_nothing_else(string name, string why)
    {
        var (state, said, _) = await server.Upload(study, name, Made(name));
        Assert.Contains(state, new[] { "done", "refused", "table" });
        Assert.Contains(why, said);
        Assert.DoesNotContain("went wrong", said);
        Assert.Equal(
            "done",
            (await server.Upload(study, "honest.md", Encoding.UTF8.GetBytes("# A talk\n\nShe waited on the quay."))).State
        );
    }

    [Fact]
    public async Task A_file_that_takes_too_long_is_left()
    {
        using var hasty = new TestServer("serve", ("reading-seconds", "0"));
        await hasty.SetUp();
        var (state, said, _) = await hasty.Upload(await hasty.Study(), "a.md", Encoding.UTF8.GetBytes("# A talk"));
        Assert.Equal("refused", state);
        Assert.Contains("takes too long", said);
    }

    [Fact]
    public async Task A_feed_and_a_correction_that_are_made_to_harm_are_answered_as_well()
    {
        var source = await server.Paste(study, "A", "She waited.");
        foreach (
            var (path, bytes) in new[]
            {
                ($"sources/{source}/correction-file?name=a.odt", Made("spans.odt")),
                ("intake/files?name=a.xml", Encoding.UTF8.GetBytes("<rss>" + string.Concat(Enumerable.Repeat("<a>", 200_000)))),
                ("intake/files?name=a.eml", [0, 255, 0, 255]),
            }
        )
        {
            using var answer = await server.Http.PostAsync("/api/" + path, new ByteArrayContent(bytes));
            Assert.Equal(400, (int)answer.StatusCode);
            Assert.NotEmpty((string)JsonNode.Parse(await answer.Content.ReadAsStringAsync())!["detail"]!);
        }
    }

    private static byte[] Made(string name) =>
        name switch
        {
            "spans.odt" => Odt("<text:p>" + Times("<text:span>", 100_000) + "deep" + Times("</text:span>", 100_000) + "</text:p>"),
            "lists.odt" => Odt(
                Times("<text:list><text:list-item>", 50_000) + "<text:p>deep</text:p>" + Times("</text:list-item></text:list>", 50_000)
            ),
            "cells.odt" => Odt(
                "<table:table>"
                    + Times(
                        "<table:table-row><table:table-cell table:number-columns-repeated=\"1000\"><text:p>"
                            + new string('w', 200)
                            + "</text:p></table:table-cell></table:table-row>",
                        2_000
                    )
                    + "</table:table>"
            ),
            "nested tables.docx" => Docx(Times("<w:tbl><w:tr><w:tc>", 20_000) + "<w:p/>" + Times("</w:tc></w:tr></w:tbl>", 20_000)),
            "styles.docx" => Docx(
                Times("<w:p><w:pPr><w:pStyle w:val=\"S19999\"/></w:pPr><w:r><w:t>words</w:t></w:r></w:p>", 2_000),
                string.Concat(
                    Enumerable
                        .Range(0, 20_000)
                        .Select(i => $"<w:style w:type=\"paragraph\" w:styleId=\"S{i}\"><w:basedOn w:val=\"S{i - 1}\"/></w:style>")
                )
            ),
            "lists.md" => Encoding.UTF8.GetBytes(Times("- ", 10_000) + "deep"),
            "brackets.md" => Encoding.UTF8.GetBytes(Times("[", 50_000) + "words" + Times("](", 50_000)),
            "paragraphs.txt" => Encoding.UTF8.GetBytes(Times("a\n\n", 200_000)),
            "lines.txt" => Encoding.UTF8.GetBytes(Times("a\n\n", 1_600_000)),
            "speakers.txt" => Encoding.UTF8.GetBytes(
                string.Concat(Enumerable.Range(0, 30_000).Select(i => $"Name{i}: yes\n\nName{i}: no\n\n"))
            ),
            "arabic.vtt" => Encoding.UTF8.GetBytes("WEBVTT\n\n٠٠:٠١.٠٠٠ --> ٠٠:٠٤.٠٠٠\nwords\n"),
            "lies.docx" => Lying(Docx("<w:p/>")),
            "nested.html" => Encoding.UTF8.GetBytes("<body>" + Times("<div>", 100_000) + "deep"),
            "nested.rtf" => Encoding.UTF8.GetBytes("{\\rtf1 " + Times("{", 500_000) + "deep" + Times("}", 500_000) + "}"),
            "line.csv" => Encoding.UTF8.GetBytes("who,why\n\"" + Times("never closed ", 4_000_000)),
            "wide.csv" => Encoding.UTF8.GetBytes(Times("a,", 500_000) + "\n"),
            _ => Xlsx(
                "<sheetData><row r=\"1\"><c r=\"A1\" t=\"inlineStr\"><is><t>all</t></is></c></row></sheetData><mergeCells "
                    + "count=\"1\"><mergeCell ref=\"A1:XFD1048576\"/></mergeCells>"
            ),
        };

    private static string Times(string words, int times) => new StringBuilder(words.Length * times).Insert(0, words, times).ToString();

    private static byte[] Odt(string body) =>
        Zip(
            (
                "content.xml",
                "<office:document-content xmlns:office=\"urn:oasis:names:tc:opendocument:xmlns:office:1.0\" "
                    + "xmlns:text=\"urn:oasis:names:tc:opendocument:xmlns:text:1.0\" "
                    + "xmlns:table=\"urn:oasis:names:tc:opendocument:xmlns:table:1.0\"><office:body><office:text>"
                    + body
                    + "</office:text></office:body></office:document-content>"
            )
        );

    private static byte[] Docx(string body, string styles = "")
    {
        const string Word = "xmlns:w=\"http://schemas.openxmlformats.org/wordprocessingml/2006/main\"";
        const string Types = "application/vnd.openxmlformats-officedocument.wordprocessingml";
        const string Relations = "http://schemas.openxmlformats.org/officeDocument/2006/relationships";
        return Zip(
            (
                "[Content_Types].xml",
                $"<Types xmlns=\"http://schemas.openxmlformats.org/package/2006/content-types\"><Default Extension=\"rels\" "
                    + $"ContentType=\"application/vnd.openxmlformats-package.relationships+xml\"/><Override "
                    + $"PartName=\"/word/document.xml\" ContentType=\"{Types}.document.main+xml\"/><Override "
                    + $"PartName=\"/word/styles.xml\" ContentType=\"{Types}.styles+xml\"/></Types>"
            ),
            (
                "_rels/.rels",
                $"<Relationships xmlns=\"http://schemas.openxmlformats.org/package/2006/relationships\"><Relationship Id=\"r1\" "
                    + $"Type=\"{Relations}/officeDocument\" Target=\"word/document.xml\"/></Relationships>"
            ),
            (
                "word/_rels/document.xml.rels",
                $"<Relationships xmlns=\"http://schemas.openxmlformats.org/package/2006/relationships\"><Relationship Id=\"r2\" "
                    + $"Type=\"{Relations}/styles\" Target=\"styles.xml\"/></Relationships>"
            ),
            ("word/styles.xml", $"<w:styles {Word}>{styles}</w:styles>"),
            ("word/document.xml", $"<w:document {Word}><w:body>{body}</w:body></w:document>")
        );
    }

    private static byte[] Xlsx(string sheet)
    {
        const string Sheets = "http://schemas.openxmlformats.org/spreadsheetml/2006/main";
        const string Types = "application/vnd.openxmlformats-officedocument.spreadsheetml";
        const string Relations = "http://schemas.openxmlformats.org/officeDocument/2006/relationships";
        return Zip(
            (
                "[Content_Types].xml",
                $"<Types xmlns=\"http://schemas.openxmlformats.org/package/2006/content-types\"><Default Extension=\"rels\" "
                    + $"ContentType=\"application/vnd.openxmlformats-package.relationships+xml\"/><Override "
                    + $"PartName=\"/xl/workbook.xml\" ContentType=\"{Types}.sheet.main+xml\"/><Override "
                    + $"PartName=\"/xl/worksheets/sheet1.xml\" ContentType=\"{Types}.worksheet+xml\"/></Types>"
            ),
            (
                "_rels/.rels",
                $"<Relationships xmlns=\"http://schemas.openxmlformats.org/package/2006/relationships\"><Relationship Id=\"r1\" "
                    + $"Type=\"{Relations}/officeDocument\" Target=\"xl/workbook.xml\"/></Relationships>"
            ),
            (
                "xl/workbook.xml",
                $"<workbook xmlns=\"{Sheets}\" xmlns:r=\"{Relations}\"><sheets><sheet name=\"one\" sheetId=\"1\" "
                    + $"r:id=\"r1\"/></sheets></workbook>"
            ),
            (
                "xl/_rels/workbook.xml.rels",
                $"<Relationships xmlns=\"http://schemas.openxmlformats.org/package/2006/relationships\"><Relationship Id=\"r1\" "
                    + $"Type=\"{Relations}/worksheet\" Target=\"worksheets/sheet1.xml\"/></Relationships>"
            ),
            ("xl/worksheets/sheet1.xml", $"<worksheet xmlns=\"{Sheets}\">{sheet}</worksheet>")
        );
    }

    private static byte[] Zip(params (string Name, string Content)[] parts)
    {
        using var stream = new MemoryStream();
        using (var zip = new ZipArchive(stream, ZipArchiveMode.Create, leaveOpen: true))
        {
            foreach (var (name, content) in parts)
            {
                using var part = zip.CreateEntry(name, content.Length > 100_000 ? CompressionLevel.NoCompression : CompressionLevel.Fastest)
                    .Open();
                part.Write(Encoding.UTF8.GetBytes(content));
            }
        }
        return stream.ToArray();
    }

    /// <summary>The same archive, whose directory says that every part unpacks to nearly 2^32 bytes.</summary>
    private static byte[] Lying(byte[] zip)
    {
        for (var i = 0; i + 46 < zip.Length; i++)
        {
            if (zip[i] == 'P' && zip[i + 1] == 'K' && zip[i + 2] == 1 && zip[i + 3] == 2)
                BitConverter.GetBytes(0xFFFFFFF0u).CopyTo(zip, i + 24);
        }
        return zip;
    }
}
