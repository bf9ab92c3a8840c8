using DocumentFormat.OpenXml;
using DocumentFormat.OpenXml.Packaging;
using DocumentFormat.OpenXml.Wordprocessing;
using Vitrine.Core.Text;

namespace Vitrine.Formats.Tests;

/// <summary>What ISO/IEC 29500-1 says of hidden text (17.3.2.41), deleted paragraph marks (17.13.5.15), comments and notes.</summary>
public class DocxTests
{
    private const string W = "xmlns:w=\"http://schemas.openxmlformats.org/wordprocessingml/2006/main\"";

    private static ReadSource Read(string body, Action<MainDocumentPart>? more = null)
    {
        using var file = new MemoryStream();
        using (var document = WordprocessingDocument.Create(file, WordprocessingDocumentType.Document))
        {
            var main = document.AddMainDocumentPart();
            main.Document = new Document($"<w:document {W}><w:body>{body}</w:body></w:document>");
            more?.Invoke(main);
        }
        file.Position = 0;
        return SourceFile.Read("talk.docx", file);
    }

    private static string Paragraph(string words, string properties = "") => $"<w:p>{properties}<w:r><w:t>{words}</w:t></w:r></w:p>";

    private static IEnumerable<(string? Who, string Words)> Turns(ReadSource read) =>
        read.Turns.Select(t => (t.Speaker, t.Words.Of(read.Text)));

    private static readonly string Talk =
        Paragraph("Ida: How was it?") + Paragraph("Wren: Late.") + Paragraph("Ida: Why?") + Paragraph("Wren: Wind.");

    [Fact]
    public void Hidden_text_is_left_out_and_said()
    {
        var read = Read(Talk + "<w:p><w:r><w:rPr><w:vanish/></w:rPr><w:t>Ida: off the record</w:t></w:r></w:p>");
        Assert.DoesNotContain("record", read.Text);
        Assert.Equal(["Hidden text in it was left out."], read.Remarks);
    }

    [Fact]
    public void A_paragraph_whose_mark_was_deleted_goes_on()
    {
        const string deleted = "<w:pPr><w:rPr><w:del w:id=\"1\" w:author=\"Una\"/></w:rPr></w:pPr>";
        var read = Read(
            Paragraph("Ida: Hello.")
                + Paragraph("Wren: It was ", deleted)
                + Paragraph("late.")
                + Paragraph("Ida: So.")
                + Paragraph("Wren: Yes.")
        );
        Assert.Equal([("Ida", "Hello."), ("Wren", "It was late."), ("Ida", "So."), ("Wren", "Yes.")], Turns(read));
    }

    private static string Comment(int id, string words, string author = "Una") =>
        $"<w:comment w:id=\"{id}\" w:author=\"{author}\">{words}</w:comment>";

    private static ReadSource WithComments(string body, string comments) =>
        Read(
            body,
            main => main.AddNewPart<WordprocessingCommentsPart>().Comments = new Comments($"<w:comments {W}>{comments}</w:comments>")
        );

    private static (string Words, string Text, string Author)[] Beside(ReadSource read) =>
        [.. read.Comments!.Select(c => (c.Words.Of(read.Text), c.Text, c.Author))];

    // Written by pandoc 2.17.1.1; see tests/references/documents/commented.md.
    [Fact]
    public void Comments_that_another_program_wrote_stand_beside_their_words()
    {
        using var file = File.OpenRead(Path.Combine(AppContext.BaseDirectory, "references", "documents", "commented.docx"));
        Assert.Equal(
            [("first crossing", "Ask her for the day.", "Tom Okafor"), ("Everybody stood", "Was this at the ramp?", "Una Lind")],
            Beside(SourceFile.Read("commented.docx", file))
        );
    }

    // ISO/IEC 29500-1, 17.13.4: a comment's words stand between commentRangeStart and commentRangeEnd, which may lie in different
    // paragraphs; a comment without a range is called by commentReference alone.
    [Fact]
    public void Comments_stand_beside_the_words_they_were_written_on()
    {
        var read = WithComments(
            Talk
                + "<w:p><w:r><w:t xml:space=\"preserve\">Ida: And </w:t></w:r><w:commentRangeStart w:id=\"0\"/><w:r><w:t>then "
                + "e\u0301</w:t></w:r><w:r><w:t xml:space=\"preserve\">te </w:t></w:r><w:commentRangeEnd w:id=\"0\"/>"
                + "<w:r><w:commentReference w:id=\"0\"/></w:r><w:r><w:t>came?</w:t></w:r></w:p>"
                + "<w:commentRangeStart w:id=\"7\"/><w:p><w:r><w:t>Wren: Slowly.</w:t></w:r></w:p>"
                + "<w:p><w:r><w:t>Ida: Oh</w:t></w:r><w:commentRangeEnd w:id=\"7\"/><w:r><w:t>!</w:t></w:r>"
                + "<w:r><w:commentReference w:id=\"9\"/></w:r></w:p>",
            Comment(0, Paragraph("Ask again") + Paragraph("and listen"))
                + Comment(7, Paragraph("Two turns"), "")
                + Comment(9, Paragraph("On the whole of it"))
                + Comment(11, Paragraph("On nothing"))
                + Comment(12, Paragraph(""))
        );
        Assert.DoesNotContain("Ask again", read.Text);
        Assert.Equal(
            [
                ("then \u00e9te", "Ask again\nand listen", "Una"),
                ("Wren: Slowly.\n\nIda: Oh", "Two turns", ""),
                ("Ida: Oh!", "On the whole of it", "Una"),
            ],
            Beside(read)
        );
        Assert.Equal(["One comment in it was left out: nothing was read where it stands."], read.Remarks);
        Assert.Equal(7, read.Turns.Count);
    }

    [Fact]
    public void A_comment_on_deleted_or_hidden_words_stands_beside_their_paragraph()
    {
        var read = WithComments(
            "<w:p><w:r><w:t>Wren: It was late.</w:t></w:r><w:commentRangeStart w:id=\"0\"/><w:del w:id=\"1\" w:author=\"Una\"><w:r>"
                + "<w:delText>Very.</w:delText></w:r></w:del><w:commentRangeEnd w:id=\"0\"/><w:r><w:commentReference w:id=\"0\"/></w:r></w:p>"
                + Talk,
            Comment(0, Paragraph("Why?"))
        );
        Assert.Equal([("Wren: It was late.", "Why?", "Una")], Beside(read));
    }

    [Fact]
    public void Footnotes_stand_at_the_end_and_are_nobodys()
    {
        var read = Read(
            Talk,
            main =>
                main.AddNewPart<FootnotesPart>().Footnotes = new Footnotes(
                    $"<w:footnotes {W}><w:footnote w:id=\"2\">{Paragraph("The boat of ten.")}</w:footnote></w:footnotes>"
                )
        );
        Assert.Equal((null, "The boat of ten."), Turns(read).Last());
        Assert.Equal(("Wren", "Wind."), Turns(read).SkipLast(1).Last());
        Assert.Equal(BlockKind.Aside, read.Shape!.Blocks[^1].Kind);
    }

    [Fact]
    public void A_cell_that_reaches_over_columns_moves_those_behind_it()
    {
        static string Row(params string[] cells) => $"<w:tr>{string.Concat(cells)}</w:tr>";
        static string Cell(string words, string properties = "") => $"<w:tc>{properties}{Paragraph(words)}</w:tc>";
        var read = Read(
            $"<w:tbl>{Row(Cell("Start", "<w:tcPr><w:gridSpan w:val=\"2\"/></w:tcPr>"), Cell("They sat down."))}"
                + $"{Row(Cell("00:05"), Cell("Ida"), Cell("How was it?"))}{Row(Cell("00:09"), Cell("Wren"), Cell("It was late."))}"
                + $"{Row(Cell("00:12"), Cell("Ida"), Cell("Why was that?"))}{Row(Cell("00:15"), Cell("Wren"), Cell("Wind and rain."))}</w:tbl>"
        );
        Assert.Equal([0, 2], read.Shape!.Blocks[0].Cells!.Select(c => c.Column));
        Assert.Equal(
            [("Ida", "How was it?"), ("Wren", "It was late."), ("Ida", "Why was that?"), ("Wren", "Wind and rain.")],
            Turns(read).Where(t => t.Who is not null)
        );
    }
}
