using Dapper;
using Vitrine.Core.Gather.Corrections;
using Vitrine.Core.Mark.Observations;
using Vitrine.Core.Text;
using Vitrine.Storage.Trail;

namespace Vitrine.Storage.Anchors;

/// <summary>What belongs to the rows of margin notes, for every write that moves them.</summary>
internal static class MarginNoteRows
{
    /// <summary>Adds a note.</summary>
    public static MarginNoteId Insert(Writing writing, StudyId studyId, SourceId sourceId, Anchor anchor, string words, bool unsure = false)
    {
        var row = AnchorRow.Of(anchor);
        (row["study_id"], row["source_id"], row["words"], row["unsure"]) = (studyId, sourceId, words, unsure ? 1L : 0L);
        return writing.Insert("margin_note", row);
    }

    /// <summary>Moves the notes on a text along when it is corrected.</summary>
    public static void Follow(Writing writing, SourceId sourceId, Reanchor moved)
    {
        foreach (
            var (id, start, end) in writing
                .Connection.Query<(long, int, int)>(
                    "SELECT id, start, \"end\" FROM margin_note WHERE source_id = @sourceId AND start IS NOT NULL ORDER BY id",
                    new { sourceId }
                )
                .ToList()
        )
        {
            var now = moved.Of(new TextRange(start, end)).Range;
            writing.Update("margin_note", id, new { now.Start, now.End });
        }
    }
}
