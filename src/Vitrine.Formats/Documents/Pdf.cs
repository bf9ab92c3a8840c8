using System.Text;
using UglyToad.PdfPig;
using UglyToad.PdfPig.Content;
using UglyToad.PdfPig.DocumentLayoutAnalysis.PageSegmenter;
using UglyToad.PdfPig.DocumentLayoutAnalysis.ReadingOrderDetector;
using UglyToad.PdfPig.DocumentLayoutAnalysis.WordExtractor;
using UglyToad.PdfPig.Exceptions;
using Vitrine.Core.Text;

namespace Vitrine.Formats.Documents;

/// <summary>
/// Reads .pdf (ISO 32000) with PdfPig: words by nearest neighbours, paragraphs by Docstrum (O'Gorman 1993), in reading order, page by page. Lines of a paragraph are joined;
/// a paragraph in much larger letters than the rest is a heading. Pictures are left out; nothing in it is run.
/// </summary>
public static class Pdf
{
    private const int MostPages = 2_000;

    /// <summary>A block this much larger than the page's usual letters, and this short, is a heading.</summary>
    private const double HeadingSize = 1.25;

    private const int LongestHeading = 120;

    /// <exception cref="UnreadableException">Damaged, locked by a password, longer than any report, or without words.</exception>
    public static ReadSource Read(byte[] bytes, Func<string, bool>? isKnown = null)
    {
        try
        {
            using var document = PdfDocument.Open(bytes, new ParsingOptions { UseLenientParsing = true, SkipMissingFonts = true });
            if (document.NumberOfPages > MostPages) throw new UnreadableException($"This file has {document.NumberOfPages} pages; {MostPages} is the most. Split it and add the parts.");
            var built = new ShapedText();
            List<int> silent = [];
            foreach (var page in document.GetPages())
            {
                built.Page(page.Number);
                if (!Blocks(built, page)) silent.Add(page.Number);
            }
            var remarks = silent.Count == 0 || silent.Count == document.NumberOfPages ? [] : new List<string> { $"{(silent.Count == 1 ? "Page" : "Pages")} {string.Join(", ", silent.Take(8))}{(silent.Count > 8 ? ", …" : "")} {(silent.Count == 1 ? "holds" : "hold")} no words, perhaps only pictures." };
            return ReadSource.Of(built, isKnown, remarks, "The pages of this file are pictures: there are no letters in it to read. Run it through text recognition, or add it as an attachment.");
        }
        catch (PdfDocumentEncryptedException)
        {
            throw new UnreadableException("This file is locked by a password. Open it, save a copy without the password, and add that.");
        }
        catch (Exception problem) when (problem is not UnreadableException and not OutOfMemoryException)
        {
            throw new UnreadableException("This is not a whole .pdf file: it is damaged or of another kind. Open it, save or print it as a new PDF, and add that.");
        }
    }

    private static bool Blocks(ShapedText built, Page page)
    {
        var words = NearestNeighbourWordExtractor.Instance.GetWords(page.Letters).Where(w => !string.IsNullOrWhiteSpace(w.Text)).ToList();
        if (words.Count == 0) return false;
        var usual = Size(words);
        var blocks = DocstrumBoundingBoxes.Instance.GetBlocks(words);
        foreach (var block in UnsupervisedReadingOrderDetector.Instance.Get(blocks).OrderBy(b => b.ReadingOrder))
        {
            var inside = block.TextLines.SelectMany(l => l.Words).ToList();
            var size = Size(inside);
            var heading = size > usual * HeadingSize && block.Text.Length <= LongestHeading;
            built.Begin(heading ? BlockKind.Heading : BlockKind.Paragraph, heading ? size > usual * HeadingSize * HeadingSize ? 1 : 2 : 0);
            for (var i = 0; i < block.TextLines.Count; i++)
            {
                var line = block.TextLines[i];
                foreach (var word in line.Words)
                {
                    built.Add(word.Text.Replace("\u00AD", ""), !heading && IsBold(word), IsItalic(word));
                    if (!ReferenceEquals(word, line.Words[^1])) built.Add(" ");
                }
                if (i < block.TextLines.Count - 1) built.Add(" ");
            }
            built.End();
        }
        return true;
    }

    private static double Size(List<Word> words)
    {
        var sizes = words.SelectMany(w => w.Letters).Select(l => l.PointSize).Order().ToList();
        return sizes[sizes.Count / 2];
    }

    private static bool IsBold(Word word) => word.Letters[0].FontDetails is { } font && (font.IsBold || Named(word, "Bold"));

    private static bool IsItalic(Word word) => word.Letters[0].FontDetails is { } font && (font.IsItalic || Named(word, "Italic") || Named(word, "Oblique"));

    private static bool Named(Word word, string style) => word.FontName?.Contains(style, StringComparison.OrdinalIgnoreCase) == true;
}
