using Vitrine.Core.Text;

namespace Vitrine.Formats;

/// <summary>What a reader made of a file or of pasted text.</summary>
/// <param name="Text">Canonical plain text.</param>
/// <param name="Turns">Its turns or paragraphs, in order.</param>
/// <param name="Remarks">Sentences about what was left out or guessed; empty when all went in.</param>
/// <param name="Shape">Headings, lists, tables, bold, italics and pages; null where the file has none.</param>
public sealed record ReadSource(string Text, IReadOnlyList<Turn> Turns, IReadOnlyList<string> Remarks, Shape? Shape = null)
{
    /// <summary>The remark on pictures that were left out; none when there were none.</summary>
    internal static IEnumerable<string> LeftOut(int pictures) => pictures switch
    {
        0 => [],
        1 => ["One picture in it was left out."],
        _ => [$"{pictures} pictures in it were left out."],
    };

    /// <summary>What a document that was built block by block holds.</summary>
    /// <exception cref="UnreadableException">It holds no words.</exception>
    internal static ReadSource Of(ShapedText built, Func<string, bool>? isKnown, IEnumerable<string> remarks, string? without = null)
    {
        var (text, shape) = built.Done() ?? throw new UnreadableException(without ?? "There are no words in it. Choose a file with something to read.");
        return new ReadSource(text, TurnReading.Of(text, isKnown, shape.Blocks), [.. remarks], shape);
    }
}

/// <summary>A file that cannot be read, with a sentence that says why and what to do.</summary>
public sealed class UnreadableException(string message) : Exception(message);
