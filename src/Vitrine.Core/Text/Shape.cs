using System.Text.Json.Serialization;

namespace Vitrine.Core.Text;

/// <summary>What a block of a document is.</summary>
public enum BlockKind
{
    /// <summary>Plain words.</summary>
    Paragraph,

    /// <summary>A heading, with its level.</summary>
    Heading,

    /// <summary>An item of a list, with its depth.</summary>
    ListItem,

    /// <summary>A row of a table, with its cells.</summary>
    TableRow,

    /// <summary>A footnote or a text box: it stands beside the text, and nobody says it.</summary>
    Aside,
}

/// <summary>One block of a document, as a stretch of its canonical text.</summary>
/// <param name="Words">The stretch.</param>
/// <param name="Kind">What it is.</param>
/// <param name="Level">A heading's level from 1, a list item's depth from 1; 0 for others.</param>
/// <param name="Marker">What stands before a list item, such as "•" or "3."; it is not part of the text.</param>
/// <param name="Cells">The cells of a table row that hold words, with their column from 0.</param>
public sealed record Block(TextRange Words, BlockKind Kind, int Level = 0, string? Marker = null, IReadOnlyList<Cell>? Cells = null);

/// <summary>A cell of a table row.</summary>
public readonly record struct Cell(TextRange Words, int Column);

/// <summary>Words that stand out.</summary>
public sealed record Emphasis(TextRange Words, bool Bold, bool Italic);

/// <summary>Where a page begins.</summary>
/// <param name="Number">From 1.</param>
/// <param name="Start">The position of its first words.</param>
public readonly record struct PageStart(int Number, int Start);

/// <summary>
/// Words with the time in which they are spoken, in milliseconds by the transcript's own clock: a caption of a turn, or one word.
/// </summary>
/// <param name="Words">The words.</param>
/// <param name="BeginMs">When they begin.</param>
/// <param name="EndMs">When they have ended.</param>
/// <param name="Unsure">Whether whoever wrote them down doubts them, so that a person should look.</param>
public readonly record struct TimedWords(TextRange Words, int BeginMs, int EndMs, bool Unsure = false)
{
    /// <summary>When they are spoken; null where a file says that they end before they begin.</summary>
    [JsonIgnore]
    public TimeRange? Time => TimeRange.Between(BeginMs, EndMs);
}

/// <summary>
/// The shape of a document beside its words. All positions are those of the canonical text, so that marks never depend on it.
/// </summary>
/// <param name="Blocks">Paragraphs, headings, items and rows, in order.</param>
/// <param name="Emphases">Words that stand out.</param>
/// <param name="Pages">Where pages begin.</param>
/// <param name="Lines">Where printed lines begin inside paragraphs, so that turns can be read from them; null where nothing is known of
/// lines.</param>
/// <param name="Times">When words are spoken, finer than turns, in order; null where nothing is known of it.</param>
public sealed record Shape(
    IReadOnlyList<Block> Blocks,
    IReadOnlyList<Emphasis> Emphases,
    IReadOnlyList<PageStart> Pages,
    IReadOnlyList<int>? Lines = null,
    IReadOnlyList<TimedWords>? Times = null
)
{
    /// <summary>The page on which a position lies; null where the document has no pages.</summary>
    public int? PageAt(int position) => Pages.LastOrDefault(p => p.Start <= position) is { Number: > 0 } page ? page.Number : null;
}
