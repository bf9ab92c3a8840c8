using Dapper;
using Microsoft.Data.Sqlite;
using Vitrine.Core.Mark.Observations;
using Vitrine.Core.Text;
using Vitrine.Storage.Sql;
using Vitrine.Storage.Trail;

namespace Vitrine.Storage.Anchors;

/// <summary>The columns of a row of <c>observation</c> that tell where it stands.</summary>
internal record AnchorRow
{
    /// <summary>The first of these columns, for a statement that ends with them.</summary>
    public const string First = "anchor_kind";

    /// <summary>These columns of the table that is called <c>o</c>.</summary>
    public const string Columns =
        "o.anchor AS anchor_kind, o.start, o.\"end\", o.begin_ms, o.end_ms, o.x, o.y, o.width, o.height, o.outline";

    public AnchorKind AnchorKind { get; init; }
    public int? Start { get; init; }
    public int? End { get; init; }
    public int? BeginMs { get; init; }
    public int? EndMs { get; init; }
    public int? X { get; init; }
    public int? Y { get; init; }
    public int? Width { get; init; }
    public int? Height { get; init; }
    public string? Outline { get; init; }

    public Anchor Anchor =>
        AnchorKind switch
        {
            AnchorKind.Text => new TextAnchor(new TextRange(Start!.Value, End!.Value)),
            AnchorKind.Time => new TimeAnchor(BeginMs!.Value, EndMs!.Value),
            _ => new RegionAnchor(X!.Value, Y!.Value, Width!.Value, Height!.Value, BeginMs, Outline),
        };

    /// <summary>The values of all these columns for an anchor.</summary>
    public static Dictionary<string, object?> Of(Anchor anchor)
    {
        var (text, time, region) = (anchor as TextAnchor, anchor as TimeAnchor, anchor as RegionAnchor);
        return new Dictionary<string, object?>
        {
            ["anchor"] = StoredName.Of(anchor.Kind),
            ["start"] = (long?)text?.Start,
            ["end"] = (long?)text?.End,
            ["begin_ms"] = (long?)(time?.BeginMs ?? region?.AtMs),
            ["end_ms"] = (long?)time?.EndMs,
            ["x"] = (long?)region?.X,
            ["y"] = (long?)region?.Y,
            ["width"] = (long?)region?.Width,
            ["height"] = (long?)region?.Height,
            ["outline"] = region?.Outline,
        };
    }
}

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
