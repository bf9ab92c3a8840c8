using Dapper;
using Microsoft.Data.Sqlite;
using Vitrine.Core.Mark.Observations;
using Vitrine.Core.Text;
using Vitrine.Storage.Trail;

namespace Vitrine.Storage.Anchors;

/// <summary>What belongs to an observation's rows, for every write that makes one and every read of where it stands.</summary>
internal static class ObservationRows
{
    /// <summary>Adds an observation.</summary>
    /// <param name="starred">Whether it has a star.</param>
    /// <param name="createdBy">Whose it is, when it is not the actor's.</param>
    /// <param name="found">Whether a search made it and nobody has looked at it.</param>
    public static ObservationId Insert(
        Writing writing,
        StudyId studyId,
        SourceId sourceId,
        Anchor anchor,
        bool starred = false,
        AccountId? createdBy = null,
        bool found = false
    )
    {
        var row = AnchorRow.Of(anchor);
        (row["study_id"], row["source_id"], row["starred"]) = (studyId, sourceId, starred ? 1L : 0L);
        if (createdBy is { } person)
            row["created_by"] = person;
        if (found)
            row["found"] = 1L;
        return writing.Insert("observation", row);
    }

    /// <summary>How long a recording is taken to be that was not looked at yet: a day.</summary>
    private const int LongestMs = 24 * 60 * 60 * 1000;

    /// <summary>What a source offers for observations to stand in.</summary>
    public static AnchorGround GroundOf(SqliteConnection connection, SourceId sourceId)
    {
        var (text, length, picture) = connection.QuerySingle<(string, int?, bool)>(
            """
            SELECT t.text, coalesce(q.length_ms, (SELECT max(coalesce(u.end_ms, u.begin_ms + 1)) FROM turn u WHERE u.source_id = s.id),
                CASE WHEN m.type LIKE 'audio/%' OR m.type LIKE 'video/%' THEN @longest END),
              coalesce(m.type LIKE 'image/%' OR m.type LIKE 'video/%', 0)
            FROM source s JOIN source_text t ON t.source_id = s.id LEFT JOIN media m ON m.id = s.media_id
              LEFT JOIN recording q ON q.hash = m.hash WHERE s.id = @sourceId
            """,
            new { sourceId, longest = LongestMs }
        );
        return new AnchorGround(text, length, picture);
    }

    /// <summary>
    /// Where observations stand in the texts of the given sources, whoever looks: what is marked is protected, not shown. Those in time and
    /// in pictures are left out.
    /// </summary>
    public static ILookup<SourceId, TextRange> TextRanges(SqliteConnection connection, string? sources) =>
        connection
            .Query<(SourceId Source, int Start, int End)>(
                """
                SELECT source_id, start, "end" FROM main.observation WHERE start IS NOT NULL AND source_id IN (SELECT value
                FROM json_each(@sources)) ORDER BY source_id, start, id
                """,
                new { sources }
            )
            .ToLookup(o => o.Source, o => new TextRange(o.Start, o.End));
}
