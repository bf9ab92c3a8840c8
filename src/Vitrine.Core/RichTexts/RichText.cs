using System.Text.Json.Serialization;
using Vitrine.Core.Gather.Privacy;

namespace Vitrine.Core.RichTexts;

/// <summary>A thing that a text refers to.</summary>
/// <param name="Kind">What it is.</param>
/// <param name="Id">Its number; 1 or more.</param>
public readonly record struct ThingRef(ThingKind Kind, long Id);

/// <summary>
/// A text in blocks: what a person writes about what was found, with the things it speaks of. It is a value: nothing in it changes.
/// </summary>
/// <remarks>
/// <see cref="Plain"/> is the one projection that search, the gate, erasure, conflicts and export read; positions in it are half-open, in
/// UTF-16 code units. It is never HTML. Read and written by <see cref="RichTextJson"/>.
/// </remarks>
/// <param name="Blocks">From top to bottom.</param>
[JsonConverter(typeof(RichTextConverter))]
public sealed record RichText(IReadOnlyList<RichBlock> Blocks)
{
    /// <summary>A text without a word.</summary>
    public static RichText Empty { get; } = new([]);

    /// <summary>Nothing is in it.</summary>
    public bool IsEmpty => Blocks.Count == 0;

    /// <summary>
    /// Its words in their order: blocks with an empty line between them, items of a list with a new line. Emphasis and links are not in
    /// it; captions, the titles of what it speaks of, and all words of what is not known to this version are.
    /// </summary>
    public string Plain => new RichTextWalk([]).Over(this).Plain;

    /// <summary>What it refers to, each once, in the order of the text.</summary>
    public IReadOnlyList<ThingRef> References => [.. RichTextParts.AllBlocks(this).SelectMany(RichTextParts.ReferencesOf).Distinct()];

    /// <summary>The addresses that its links lead to, each once.</summary>
    public IReadOnlyList<string> Links =>
        [
            .. RichTextParts
                .AllBlocks(this)
                .SelectMany(RichTextParts.InlinesOf)
                .OfType<TextRun>()
                .Select(t => t.Link)
                .OfType<string>()
                .Distinct(),
        ];

    /// <summary>Paragraphs of a text without form: an empty line ends one, a new line is a line break in it.</summary>
    public static RichText FromPlain(string text) =>
        new([
            .. text.Replace("\r\n", "\n")
                .Split("\n\n", StringSplitOptions.RemoveEmptyEntries)
                .Select(p => p.Trim('\n'))
                .Where(p => p.Length > 0)
                .Select(RichBlock (p) => new Paragraph([.. p.Split('\n').SelectMany((line, i) => Line(line, i))])),
        ]);

    /// <summary>
    /// The text with stretches of <see cref="Plain"/> replaced, over the bounds of runs and blocks; a title that is reached is no reference
    /// any more. What is left keeps its form.
    /// </summary>
    /// <param name="masks">In text order, not overlapping.</param>
    public RichText Replace(IReadOnlyList<Mask> masks) => masks.Count == 0 ? this : new RichTextWalk(masks).Over(this).Text;

    /// <summary>
    /// The text without what <paramref name="find"/> finds in it, in its words and in the addresses of its links: those links go, their
    /// words stay.
    /// </summary>
    /// <param name="find">What is to be replaced in a text; in text order, not overlapping.</param>
    public RichText Without(Func<string, IReadOnlyList<Mask>> find)
    {
        var bad = Links.Where(l => find(l).Count > 0 || find(Uri.UnescapeDataString(l)).Count > 0).ToHashSet();
        var cleaned = Replace(find(Plain));
        return bad.Count == 0
            ? cleaned
            : RichTextParts.EachInline(
                cleaned,
                i => i is TextRun { Link: { } link } run && bad.Contains(link) ? run with { Link = null } : i
            );
    }

    /// <summary>The text as it leaves: without what this version does not know, because nobody can tell what is in it.</summary>
    public RichText OnlyKnown() => RichTextParts.OnlyKnown(this);

    /// <summary>The words alone: what is spoken of stands there by its title, and nothing is put in.</summary>
    public RichText WithoutReferences() => RichTextParts.WithoutReferences(this);

    /// <summary>The text with another thing in the place of one that it refers to.</summary>
    public RichText Replace(ThingRef gone, ThingRef by) => RichTextParts.EachReference(this, r => r == gone ? by : r);

    private static IEnumerable<Inline> Line(string line, int number) =>
        [.. number > 0 ? (Inline[])[new LineBreak()] : [], .. line.Length > 0 ? (Inline[])[new TextRun(line)] : []];
}

/// <summary>A part of a text that stands by itself.</summary>
public abstract record RichBlock;

/// <summary>A paragraph.</summary>
public sealed record Paragraph(IReadOnlyList<Inline> Content) : RichBlock;

/// <summary>A heading.</summary>
/// <param name="Level">1 to 3; 1 is the highest.</param>
/// <param name="Content">Its words.</param>
public sealed record Heading(int Level, IReadOnlyList<Inline> Content) : RichBlock;

/// <summary>A list.</summary>
/// <param name="Ordered">Whether its items are numbered, from 1.</param>
/// <param name="Items">Each is one or more blocks.</param>
public sealed record TextList(bool Ordered, IReadOnlyList<IReadOnlyList<RichBlock>> Items) : RichBlock;

/// <summary>What of a thing is put into a text.</summary>
public enum EmbeddedAs
{
    /// <summary>The words of an observation.</summary>
    Quote,

    /// <summary>The sound or film of an observation.</summary>
    Clip,

    /// <summary>A picture, or a part of one.</summary>
    Picture,

    /// <summary>A table or chart.</summary>
    Figure,

    /// <summary>A file.</summary>
    Attachment,
}

/// <summary>A thing that stands in the text, as it is now.</summary>
/// <param name="As">What of it is shown.</param>
/// <param name="Thing">Which.</param>
/// <param name="Caption">Words under it; may be empty.</param>
public sealed record Embedded(EmbeddedAs As, ThingRef Thing, string Caption) : RichBlock;

/// <summary>A line across.</summary>
public sealed record Rule : RichBlock;

/// <summary>A block that this version does not know; kept as it is.</summary>
/// <param name="Json">An object of JSON.</param>
public sealed record UnknownBlock(string Json) : RichBlock;

/// <summary>A part of a line.</summary>
public abstract record Inline;

/// <summary>Words of one form.</summary>
/// <param name="Text">One character or more, without line breaks.</param>
/// <param name="Strong">Whether they are strong.</param>
/// <param name="Emphasis">Whether they are emphasised.</param>
/// <param name="Link">Where they lead to; an address of http, https or mailto.</param>
public sealed record TextRun(string Text, bool Strong = false, bool Emphasis = false, string? Link = null) : Inline;

/// <summary>A thing that is spoken of.</summary>
/// <param name="Thing">Which.</param>
/// <param name="Title">How it was called when it was written.</param>
public sealed record Mention(ThingRef Thing, string Title) : Inline;

/// <summary>A new line in the same paragraph.</summary>
public sealed record LineBreak : Inline;

/// <summary>A part that this version does not know; kept as it is.</summary>
/// <param name="Json">An object of JSON.</param>
public sealed record UnknownInline(string Json) : Inline;
