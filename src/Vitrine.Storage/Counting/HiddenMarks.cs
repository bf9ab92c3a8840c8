namespace Vitrine.Storage.Counting;

/// <summary>
/// What others have marked in a source that a person tags blind, and that is not opened yet: it is not shown to that person, and does not
/// count for that person.
/// </summary>
internal static class HiddenMarks
{
    /// <summary>
    /// Whether one who looks (@viewer; null for one who sees all) may see what a row holds: a condition in SQL over its source and author.
    /// </summary>
    public static string SeenBy(string row) =>
        $"""
            (@viewer IS NULL OR {row}.created_by = @viewer OR NOT EXISTS (
              SELECT 1 FROM blind_tagging b JOIN blind_tagger t ON t.blind_tagging_id = b.id
              WHERE b.source_id = {row}.source_id AND b.opened_at IS NULL AND t.account_id = @viewer))
            """;
}
