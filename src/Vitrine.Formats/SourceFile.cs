using Vitrine.Formats.Captions;
using Vitrine.Formats.Documents;

namespace Vitrine.Formats;

/// <summary>Chooses the reader for a file by the ending of its name.</summary>
public static class SourceFile
{
    /// <summary>The endings that can be read, for the file picker and for messages.</summary>
    public static readonly IReadOnlyList<string> Endings = [".txt", ".md", ".vtt"];

    /// <summary>Reads one file; <paramref name="isKnown"/> says which names are speakers at first sight.</summary>
    /// <exception cref="UnreadableException">Says why not, in a sentence for the person who chose the file.</exception>
    public static ReadSource Read(string fileName, byte[] bytes, Func<string, bool>? isKnown = null)
    {
        var ending = Path.GetExtension(fileName).ToLowerInvariant();
        if (!Endings.Contains(ending)) throw new UnreadableException($"Files of this kind cannot be read yet. Choose {string.Join(", ", Endings)}, or paste the text.");
        if (bytes.Length == 0) throw new UnreadableException("The file is empty. Check that it was saved, and add it again.");
        return ending == ".vtt" ? WebVtt.Read(bytes) : TextFile.Read(bytes, isKnown);
    }
}
