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

    [Fact]
    public void Comments_are_left_out_and_counted()
    {
        var read = Read(
            Talk,
            main =>
                main.AddNewPart<WordprocessingCommentsPart>().Comments = new Comments(
                    $"<w:comments {W}><w:comment w:id=\"0\" w:author=\"Una\">{Paragraph("Ask again")}</w:comment></w:comments>"
                )
        );
        Assert.DoesNotContain("Ask again", read.Text);
        Assert.Equal(["One comment in it was left out."], read.Remarks);
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
