using System.Text;
using UglyToad.PdfPig.Content;
using Vitrine.Core.Text;

namespace Vitrine.Formats.Documents;

/// <summary>A page as it is printed: its lines from the top.</summary>
internal sealed record PrintedPage(int Number, double Height, List<PrintedLine> Lines);

/// <summary>What belongs together on a page.</summary>
/// <param name="Kind">What it is.</param>
/// <param name="Lines">Its lines, when it is no row of a table.</param>
/// <param name="Level">A heading's level, an item's depth.</param>
/// <param name="Marker">What stands before a list item.</param>
/// <param name="Cells">The lines of each cell of a row.</param>
internal sealed record PrintedBlock(
    BlockKind Kind,
    IReadOnlyList<PrintedLine> Lines,
    int Level = 0,
    string? Marker = null,
    IReadOnlyList<IReadOnlyList<PrintedLine>>? Cells = null
);

/// <summary>A word as it is printed; lengths are points.</summary>
/// <param name="Text">Its letters: ligatures as their letters (NFKC, for those alone), soft hyphens only at its end.</param>
/// <param name="Left">Where it begins.</param>
/// <param name="Right">Where it ends.</param>
/// <param name="Baseline">On which height it stands.</param>
/// <param name="Size">The size of its letters.</param>
/// <param name="Bold">Whether they are bold.</param>
/// <param name="Italic">Whether they are italic.</param>
internal readonly record struct PrintedWord(string Text, double Left, double Right, double Baseline, double Size, bool Bold, bool Italic)
{
    /// <summary>What is kept of a word; the rest of the page is let go.</summary>
    public static PrintedWord Of(Word word)
    {
        var letters = word.Letters;
        return new PrintedWord(
            TextOf(word.Text),
            word.BoundingBox.Left,
            word.BoundingBox.Right,
            letters[0].StartBaseLine.Y,
            letters[letters.Count / 2].PointSize,
            letters[0].FontDetails is { } bold && (bold.IsBold || Named(word, "Bold")),
            letters[0].FontDetails is { } italic && (italic.IsItalic || Named(word, "Italic") || Named(word, "Oblique"))
        );
    }

    private static string TextOf(string text)
    {
        if (text.Any(c => c is >= '\uFB00' and <= '\uFB06'))
        {
            text = string.Concat(
                text.Select(c => c is >= '\uFB00' and <= '\uFB06' ? c.ToString().Normalize(NormalizationForm.FormKC) : c.ToString())
            );
        }
        return text.Length > 1 ? text[..^1].Replace("\u00AD", "") + text[^1] : text;
    }

    private static bool Named(Word word, string style) => word.FontName?.Contains(style, StringComparison.OrdinalIgnoreCase) == true;
}

/// <summary>Words that stand on one baseline, from left to right. Lengths are points, upwards from the page's foot.</summary>
internal sealed record PrintedLine(IReadOnlyList<PrintedWord> Words)
{
    public double Left => Words[0].Left;

    public double Right => Words[^1].Right;

    public double Baseline => Words[0].Baseline;

    public double Size { get; } = SizeOf(Words);

    public string Text => string.Join(' ', Words.Select(w => w.Text));

    /// <summary>The lines of a page, from the top.</summary>
    public static List<PrintedLine> Of(IEnumerable<PrintedWord> words)
    {
        var lines = new List<List<PrintedWord>>();
        foreach (var word in words.OrderByDescending(w => w.Baseline))
        {
            // A word that stands higher or lower by less than half its size is on the same line: small print, raised numbers.
            var line = lines.Count > 0 && lines[^1][0].Baseline - word.Baseline < word.Size * 0.4 ? lines[^1] : null;
            if (line is null)
                lines.Add([word]);
            else
                line.Add(word);
        }
        return [.. lines.Select(l => new PrintedLine(Whole([.. l.OrderBy(w => w.Left)])))];
    }

    /// <summary>Words that touch are one: it was printed in parts, bold or with a soft hyphen in it.</summary>
    private static List<PrintedWord> Whole(List<PrintedWord> parts)
    {
        var words = new List<PrintedWord>();
        foreach (var part in parts)
        {
            var space = words.Count == 0 ? double.MaxValue : part.Left - words[^1].Right;
            if (Math.Abs(space) < part.Size * Touching)
                words[^1] = words[^1] with { Text = words[^1].Text.TrimEnd('\u00AD') + part.Text, Right = part.Right };
            else
                words.Add(part);
        }
        return words;
    }

    /// <summary>Less space than this part of a letter's size stands inside words.</summary>
    private const double Touching = 0.08;

    /// <summary>The line in pieces, cut where the space between two words is much wider than a space.</summary>
    public IReadOnlyList<PrintedLine> Pieces()
    {
        var pieces = new List<List<PrintedWord>>();
        foreach (var word in Words)
        {
            if (pieces.Count > 0 && word.Left - pieces[^1][^1].Right < Math.Max(8, Size))
                pieces[^1].Add(word);
            else
                pieces.Add([word]);
        }
        return pieces.Count == 1 ? [this] : [.. pieces.Select(p => new PrintedLine(p))];
    }

    private static double SizeOf(IReadOnlyList<PrintedWord> words)
    {
        var sizes = words.Select(w => w.Size).Order().ToList();
        return sizes[sizes.Count / 2];
    }
}
