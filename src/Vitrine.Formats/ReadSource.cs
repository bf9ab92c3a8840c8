using Vitrine.Core.Text;

namespace Vitrine.Formats;

/// <summary>What a reader made of a file or of pasted text.</summary>
/// <param name="Text">Canonical plain text.</param>
/// <param name="Turns">Its turns or paragraphs, in order.</param>
/// <param name="Remarks">Sentences about what was left out or guessed; empty when all went in.</param>
public sealed record ReadSource(string Text, IReadOnlyList<Turn> Turns, IReadOnlyList<string> Remarks);

/// <summary>A file that cannot be read, with a sentence that says why and what to do.</summary>
public sealed class UnreadableException(string message) : Exception(message);
