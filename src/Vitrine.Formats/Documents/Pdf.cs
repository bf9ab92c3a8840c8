using System.Globalization;
using UglyToad.PdfPig;
using UglyToad.PdfPig.Content;
using UglyToad.PdfPig.Exceptions;
using Vitrine.Core.Text;

namespace Vitrine.Formats.Documents;

/// <summary>
/// Reads .pdf (ISO 32000) with PdfPig: words as they stand, lines by their baselines, paragraphs by the space between lines,
/// columns in order, page by page. Running heads, feet and page numbers are left out. Lines of a paragraph are joined, and where they
/// began is kept, so that turns are read from lines. Pictures are left out; nothing in it is run.
/// </summary>
public static class Pdf
{
    private const int MostPages = 2_000;

    /// <exception cref="UnreadableException">Damaged, locked by a password, longer than any report, or without words.</exception>
    public static ReadSource Read(byte[] bytes, Func<string, bool>? isKnown = null)
    {
        try
        {
            using var document = PdfDocument.Open(bytes, new ParsingOptions { UseLenientParsing = true, SkipMissingFonts = true });
            if (document.NumberOfPages > MostPages)
                throw new UnreadableException(
                    $"This file has {document.NumberOfPages} pages; {MostPages} is the most. Split it and add the parts."
                );
            var pages = document.GetPages().Select(p => new PrintedPage(p.Number, p.Height, PrintedLine.Of(WordsOf(p)))).ToList();
            List<int> silent = [.. pages.Where(p => p.Lines.Count == 0).Select(p => p.Number)];
            var leftOut = RunningHeads.TakeFrom(pages);
            var words = new LineEnds(pages);
            var built = new ShapedText();
            IReadOnlyList<double>? rows = null;
            foreach (var page in pages)
            {
                built.Page(page.Number);
                (var blocks, rows) = PageLayout.Of(page, rows);
                foreach (var block in blocks)
                    Write(built, block, words);
            }
            List<string> remarks = [];
            if (silent.Count > 0 && silent.Count < pages.Count)
                remarks.Add($"{Numbered("Page", silent)} {(silent.Count == 1 ? "holds" : "hold")} no words, perhaps only pictures.");
            if (leftOut.Count > 0)
                remarks.Add(
                    $"What stands at the head or foot of every page was left out: {string.Join(", ", leftOut.Select(l => $"“{l}”"))}."
                );
            return ReadSource.Of(
                built,
                isKnown,
                remarks,
                "The pages of this file are pictures: there are no letters in it to read. Run it through text recognition, or "
                    + "add it as an attachment."
            );
        }
        catch (PdfDocumentEncryptedException)
        {
            throw new UnreadableException("This file is locked by a password. Open it, save a copy without the password, and add that.");
        }
        catch (Exception problem) when (problem is not UnreadableException and not OutOfMemoryException)
        {
            throw new UnreadableException(
                "This is not a whole .pdf file: it is damaged or of another kind. Open it, save or print it as a new PDF, and add that."
            );
        }
    }

    private static string Numbered(string word, List<int> numbers) =>
        string.Create(
            CultureInfo.InvariantCulture,
            $"{word}{(numbers.Count == 1 ? "" : "s")} {string.Join(", ", numbers.Take(8))}{(numbers.Count > 8 ? ", …" : "")}"
        );

    private static IEnumerable<PrintedWord> WordsOf(Page page) =>
        page.GetWords().Where(w => !string.IsNullOrWhiteSpace(w.Text)).Select(PrintedWord.Of);

    private static void Write(ShapedText built, PrintedBlock block, LineEnds ends)
    {
        built.Begin(block.Kind, block.Level, block.Marker);
        if (block.Cells is not { } cells)
        {
            Write(built, block.Lines, ends, block.Kind == BlockKind.Heading);
        }
        else
        {
            foreach (var cell in cells)
            {
                built.NextCell();
                Write(built, cell, ends, false);
            }
        }
        built.End();
    }

    private static void Write(ShapedText built, IReadOnlyList<PrintedLine> lines, LineEnds ends, bool isHeading)
    {
        for (var i = 0; i < lines.Count; i++)
        {
            if (i > 0)
                NextLine(built, ends.Between(lines[i - 1], lines[i]));
            for (var w = 0; w < lines[i].Words.Count; w++)
            {
                if (w > 0)
                    built.Add(" ");
                var word = lines[i].Words[w];
                built.Add(word.Text, !isHeading && word.Bold, word.Italic);
            }
        }
    }

    private static void NextLine(ShapedText built, LineEnd end)
    {
        if (end == LineEnd.Joined)
            built.Unhyphen();
        built.Line(joined: end != LineEnd.Space);
    }
}
