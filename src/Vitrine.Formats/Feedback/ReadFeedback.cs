namespace Vitrine.Formats.Feedback;

/// <summary>One piece of feedback as a file holds it.</summary>
/// <param name="OuterId">What the file calls it, by which it is known again.</param>
/// <param name="Sender">Who sent it, as the file says; may be empty.</param>
/// <param name="Title">Its subject; may be empty.</param>
/// <param name="Text">Its words as plain text.</param>
/// <param name="At">When it was written, where the file says so.</param>
public sealed record ReadFeedback(string OuterId, string Sender, string Title, string Text, DateTimeOffset? At);
