namespace Vitrine.Core.Text;

/// <summary>
/// One speaker's stretch of a transcript, or one paragraph of a text without speakers.
/// </summary>
/// <param name="Words">What was said, without the speaker's name and time, as a stretch of the canonical text.</param>
/// <param name="Speaker">The name as the transcript writes it; null when the text names none.</param>
/// <param name="BeginMs">Milliseconds from the start of the session, where the transcript says so.</param>
/// <param name="EndMs">End in milliseconds (exclusive), where the transcript says so.</param>
public sealed record Turn(TextRange Words, string? Speaker = null, int? BeginMs = null, int? EndMs = null);
