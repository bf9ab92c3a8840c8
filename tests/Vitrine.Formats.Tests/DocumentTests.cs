using System.IO.Compression;
using System.Text;
using System.Text.RegularExpressions;
using Vitrine.Core.Text;

namespace Vitrine.Formats.Tests;

/// <summary>
/// The same report in six formats. Its words are held against what pandoc 2.17.1.1 (.docx .html .md) and poppler's pdftotext 22.12.0 (.pdf)
/// read in the same files;
/// see tests/references/documents/make.sh.
/// The .odt and .rtf are held against the words of the .md that pandoc wrote them from, because this pandoc drops a table's first row of
/// the one and characters of the other when it reads them.
/// </summary>
public partial class DocumentTests
{
    private static readonly string Folder = Path.Combine(AppContext.BaseDirectory, "references", "documents");

    private static ReadSource Report(string ending) =>
        Read(File.ReadAllBytes(Path.Combine(Folder, "quay-report" + ending)), "quay-report" + ending);

    private static ReadSource Read(byte[] bytes, string name) => SourceFile.Read(name, new MemoryStream(bytes));

    private static List<string> WordsOf(string text) => [.. Word().Matches(text.Normalize()).Select(m => m.Value)];

    [Theory]
    [InlineData(".docx", ".docx.words")]
    [InlineData(".odt", ".md.words")]
    [InlineData(".html", ".html.words")]
    [InlineData(".md", ".md.words")]
    [InlineData(".rtf", ".md.words")]
    public void A_document_has_the_words_that_pandoc_reads_in_it_in_the_same_order(string ending, string reference) =>
        Assert.Equal(
            WordsOf(File.ReadAllText(Path.Combine(Folder, "quay-report" + reference))),
            WordsOf(WithoutMarkers(Report(ending).Text))
        );

    [Fact]
    public void A_pdf_has_the_words_that_pdftotext_reads_in_it()
    {
        var read = Report(".pdf");
        var (ours, theirs) = (WordsOf(read.Text), WordsOf(File.ReadAllText(Path.Combine(Folder, "quay-report.pdf.words"))));
        // The printed digits of the numbered list are words here; the table's cells may come by row or by column.
        Assert.Equal(theirs.Order(StringComparer.Ordinal), ours.Order(StringComparer.Ordinal));
        Assert.InRange(InOrder(ours, theirs) / (double)theirs.Count, 0.95, 1);
        Assert.Equal([1, 2, 3], read.Shape!.Pages.Select(p => p.Number));
        Assert.Equal(3, read.Shape.PageAt(read.Text.IndexOf("How would you", StringComparison.Ordinal)));
        Assert.Equal(1, read.Shape.PageAt(0));
    }

    [Theory]
    [InlineData(".docx")]
    [InlineData(".odt")]
    [InlineData(".html")]
    [InlineData(".md")]
    public void A_document_keeps_its_shape_beside_its_words(string ending)
    {
        var read = Report(ending);
        var shape = read.Shape!;
        List<string> Of(BlockKind kind) =>
            [.. shape.Blocks.Where(b => b.Kind == kind).Select(b => $"{b.Level} {b.Marker} {b.Words.Of(read.Text)}")];
        Assert.Equal(
            ["1  Waiting on the quay", "2  What we went to see", "3  What was said", "2  What to ask next"],
            Of(BlockKind.Heading)
        );
        var items = Of(BlockKind.ListItem);
        Assert.Equal(8, items.Count);
        Assert.Equal("1 • the board at the head of the quay, which is read last", items[0]);
        Assert.StartsWith("2 • Sorrel calls this", items[3], StringComparison.Ordinal);
        Assert.Equal(["1 1. Arrive before seven.", "1 2. Stand where the ramp begins.", "1 3. Count who turns back."], items[5..]);
        var rows = shape
            .Blocks.Where(b => b.Kind == BlockKind.TableRow)
            .Select(b => b.Cells!.Select(c => $"{c.Column} {c.Words.Of(read.Text)}"))
            .ToList();
        Assert.Equal(4, rows.Count);
        Assert.Equal(["0 Tarra", "1 two hours", "2 nobody"], rows[2]);
        Assert.Contains(shape.Emphases, e => e.Bold && !e.Italic && e.Words.Of(read.Text) == "every quote");
        Assert.Contains(shape.Emphases, e => e.Italic && !e.Bold && e.Words.Of(read.Text) == "Carrick Ness");
        Assert.Contains(shape.Emphases, e => e.Bold && e.Italic && e.Words.Of(read.Text) == "same");
        Assert.Equal(shape.Blocks.Select(b => b.Words), read.Turns.Select(t => t.Words));
    }

    [Fact]
    public void An_rtf_keeps_headings_tables_bold_and_italics()
    {
        var read = Report(".rtf");
        Assert.Contains(read.Shape!.Emphases, e => e.Bold && e.Words.Of(read.Text) == "every quote");
        Assert.Contains(read.Shape.Emphases, e => e.Italic && e.Words.Of(read.Text) == "Carrick Ness");
        Assert.Equal(4, read.Shape.Blocks.Count(b => b.Kind == BlockKind.TableRow));
        Assert.Contains("Großmutter’s hand-knitted gloves and one 🐑 on the ramp", read.Text, StringComparison.Ordinal);
    }

    [Theory]
    // The examples of code pages and Unicode follow the RTF Specification 1.9.1, "Unicode RTF" and "Character set" (from memory).
    [InlineData(@"{\rtf1\ansi\ansicpg1252 caf\'e9 {\b bold} \u8364?5}", "café bold €5")]
    [InlineData(@"{\rtf1\ansi\ansicpg1251 \'ef\'f0\'e8\'e2\'e5\'f2}", "привет")]
    [InlineData(@"{\rtf1\ansi\uc2 Lab\u915\'47\'48Value}", "LabΓValue")]
    [InlineData(@"{\rtf1{\*\unknown not shown}{\fonttbl{\f0 Times;}}one\par two\line three}", "one\n\ntwo\nthree")]
    [InlineData(@"{\rtf1 kept {\deleted gone }{\v hidden }\{brace\}}", "kept {brace}")]
    public void Rtf_is_read_by_its_specification(string rtf, string text) =>
        Assert.Equal(text, Read(Encoding.ASCII.GetBytes(rtf), "a.rtf").Text);

    /// <summary>Styles as word processors of several languages write them (RTF Specification 1.9.1, "Style Sheet").</summary>
    [Theory]
    [InlineData(@"{\s1\b\fs32 heading 1;}{\s2\b heading 2;}")]
    [InlineData(@"{\s1\sbasedon0\snext0 \'dcberschrift 1;}{\s2 \'dcberschrift 2;}")]
    [InlineData(@"{\s1\outlinelevel0 Main part;}{\s2\outlinelevel1 Lesser part;}")]
    [InlineData(@"{\s1\snext0{\*\soutlvl}Heading 1,Part;}{\s2 T\u237?tulo 2;}")]
    public void Headings_of_an_rtf_are_known_by_their_style(string styles)
    {
        var rtf =
            @"{\rtf1\ansi\ansicpg1252{\stylesheet{\s0 Normal;}"
            + styles
            + @"}{\pard\plain\s1 Quay\par}{\pard\plain Words.\par}{\pard\s2 Ramp\par}\pard\s0 End.}";
        var read = Read(Encoding.ASCII.GetBytes(rtf), "a.rtf");
        Assert.Equal("Quay\n\nWords.\n\nRamp\n\nEnd.", read.Text);
        Assert.Equal(
            [(BlockKind.Heading, 1), (BlockKind.Paragraph, 0), (BlockKind.Heading, 2), (BlockKind.Paragraph, 0)],
            read.Shape!.Blocks.Select(b => (b.Kind, b.Level))
        );
    }

    [Fact]
    public void A_transcript_in_a_document_has_its_turns()
    {
        var read = Read(
            Encoding.UTF8.GetBytes(
                "<p><b>Ida:</b> How was it?</p><p><b>Sorrel:</b> Late, <i>again</i>.</p><p>Very late.</p><p><b>Ida:</b> "
                    + "Why?</p><p><b>Sorrel:</b> Wind.</p>"
            ),
            "talk.html"
        );
        Assert.Equal(
            [("Ida", "How was it?"), ("Sorrel", "Late, again.\n\nVery late."), ("Ida", "Why?"), ("Sorrel", "Wind.")],
            read.Turns.Select(t => (t.Speaker, t.Words.Of(read.Text)))
        );
    }

    [Fact]
    public void Scripts_in_a_page_are_left_out_and_said()
    {
        var read = Read("<h1>Quay</h1><script>alert('no')</script><p onclick=\"alert(1)\">Words &amp; more</p>"u8.ToArray(), "page.html");
        Assert.Equal("Quay\n\nWords & more", read.Text);
        Assert.Equal(["Programs (scripts) in it were left out."], read.Remarks);
    }

    [Theory]
    [InlineData("a.docx", "not a zip at all", "not a whole .docx")]
    [InlineData("a.odt", "not a zip at all", "not a whole .odt")]
    [InlineData("a.pdf", "not a pdf at all", "not a whole .pdf")]
    [InlineData("a.rtf", "not an rtf at all", "not an .rtf file")]
    [InlineData("a.html", "<p> </p>", "no words")]
    [InlineData("a.srt", "no captions", "readable time line")]
    [InlineData("a.exe", "MZ", "cannot be read")]
    [InlineData("a.docx", "", "empty")]
    public void A_file_that_cannot_be_read_says_why(string name, string content, string why) =>
        Assert.Contains(
            why,
            Assert.Throws<UnreadableException>(() => Read(Encoding.UTF8.GetBytes(content), name)).Message,
            StringComparison.Ordinal
        );

    [Theory]
    [InlineData(".docx", "word/document.xml")]
    [InlineData(".odt", "content.xml")]
    public void A_file_made_to_swell_up_is_not_opened(string ending, string part)
    {
        using var bomb = new MemoryStream();
        using (var zip = new ZipArchive(bomb, ZipArchiveMode.Create, leaveOpen: true))
        {
            using var entry = zip.CreateEntry(part, CompressionLevel.SmallestSize).Open();
            var zeros = new byte[1 << 20];
            for (var i = 0; i < 64; i++)
                entry.Write(zeros);
        }
        Assert.Contains(
            "unpacks to far more",
            Assert.Throws<UnreadableException>(() => Read(bomb.ToArray(), "bomb" + ending)).Message,
            StringComparison.Ordinal
        );
    }

    [Theory]
    [InlineData(".docx", "word/vbaProject.bin")]
    [InlineData(".odt", "Basic/Standard/Module1.xml")]
    public void A_file_with_macros_is_not_opened(string ending, string part)
    {
        using var stream = new MemoryStream();
        stream.Write(File.ReadAllBytes(Path.Combine(Folder, "quay-report" + ending)));
        using (var zip = new ZipArchive(stream, ZipArchiveMode.Update, leaveOpen: true))
            zip.CreateEntry(part);
        Assert.Contains(
            "macros",
            Assert.Throws<UnreadableException>(() => Read(stream.ToArray(), "macros" + ending)).Message,
            StringComparison.Ordinal
        );
    }

    [Fact]
    public void Entities_in_a_document_are_not_followed()
    {
        using var stream = new MemoryStream();
        using (var zip = new ZipArchive(stream, ZipArchiveMode.Create, leaveOpen: true))
        {
            using var part = new StreamWriter(zip.CreateEntry("content.xml").Open());
            part.Write("<!DOCTYPE a [<!ENTITY b SYSTEM \"file:///etc/hostname\">]><a>&b;</a>");
        }
        Assert.Contains(
            "not a whole .odt",
            Assert.Throws<UnreadableException>(() => Read(stream.ToArray(), "entity.odt")).Message,
            StringComparison.Ordinal
        );
    }

    // OpenDocument 1.3, part 3, 14.1 and 14.2: an annotation with an annotation-end of its name is of the words between; else of its place.
    [Fact]
    public void Comments_of_an_odt_stand_beside_their_words()
    {
        using var stream = new MemoryStream();
        using (var zip = new ZipArchive(stream, ZipArchiveMode.Create, leaveOpen: true))
        {
            using var part = new StreamWriter(zip.CreateEntry("content.xml").Open());
            part.Write(
                """
                <o:document-content xmlns:o="urn:oasis:names:tc:opendocument:xmlns:office:1.0" xmlns:dc="http://purl.org/dc/elements/1.1/"
                  xmlns:t="urn:oasis:names:tc:opendocument:xmlns:text:1.0"><o:body><o:text><t:p>It was <o:annotation o:name="a"><dc:creator
                  >Una</dc:creator><t:p>By whose clock?</t:p></o:annotation>very late<o:annotation-end o:name="a"/>.</t:p><t:p>And<o:annotation
                  ><t:p>Cold too?</t:p></o:annotation> wet.</t:p></o:text></o:body></o:document-content>
                """
            );
        }
        var read = Read(stream.ToArray(), "notes.odt");
        Assert.Equal("It was very late.\n\nAnd wet.", read.Text);
        Assert.Equal(
            [("very late", "By whose clock?", "Una"), ("And wet.", "Cold too?", "")],
            read.Comments!.Select(c => (c.Words.Of(read.Text), c.Text, c.Author))
        );
    }

    [Fact]
    public void Comments_of_an_rtf_are_left_out_with_a_word() =>
        Assert.Equal(
            ["One comment in it was left out: save the file as .docx to have it in the margin."],
            Read(Encoding.ASCII.GetBytes(@"{\rtf1 It was late{\*\atnid U}{\*\annotation \pard By whose clock?}.}"), "notes.rtf").Remarks
        );

    [Theory]
    [InlineData("the quick brown fox", "the quick brown fox", 4)]
    [InlineData("the brown quick fox", "the quick brown fox", 3)]
    public void Words_in_order_are_counted(string ours, string theirs, int inOrder) =>
        Assert.Equal(inOrder, InOrder(WordsOf(ours), WordsOf(theirs)));

    /// <summary>The length of the longest common run of words, others left out.</summary>
    private static int InOrder(List<string> a, List<string> b)
    {
        var best = new int[a.Count + 1, b.Count + 1];
        for (var i = 1; i <= a.Count; i++)
        {
            for (var j = 1; j <= b.Count; j++)
                best[i, j] = a[i - 1] == b[j - 1] ? best[i - 1, j - 1] + 1 : Math.Max(best[i - 1, j], best[i, j - 1]);
        }
        return best[a.Count, b.Count];
    }

    /// <summary>The .rtf that pandoc writes has its list markers as text.</summary>
    private static string WithoutMarkers(string text) => Marker().Replace(text, "");

    [GeneratedRegex(@"^\d+\.\s", RegexOptions.Multiline)]
    private static partial Regex Marker();

    [GeneratedRegex(@"[\p{L}\p{M}\p{N}]+")]
    private static partial Regex Word();
}
