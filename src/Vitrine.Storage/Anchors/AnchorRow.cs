using Microsoft.Data.Sqlite;
using Vitrine.Core.Mark.Observations;
using Vitrine.Core.Text;
using Vitrine.Storage.Sql;

namespace Vitrine.Storage.Anchors;

/// <summary>The columns of a row of <c>observation</c> that tell where it stands.</summary>
internal record AnchorRow
{
    /// <summary>The first of these columns, for a statement that ends with them; it is never null, or Dapper would read nothing.</summary>
    public const string First = "anchor_kind";

    /// <summary>These columns of the table that is called <c>o</c>.</summary>
    public const string Columns =
        "o.anchor AS anchor_kind, o.start, o.\"end\", o.begin_ms, o.end_ms, o.x, o.y, o.width, o.height, o.outline";

    /// <summary>These columns of the table that is called <c>n</c>, by their own names, for a statement inside of another.</summary>
    public const string Own = "n.anchor, n.start, n.\"end\", n.begin_ms, n.end_ms, n.x, n.y, n.width, n.height, n.outline";

    public int? Start { get; init; }
    public int? End { get; init; }
    public int? BeginMs { get; init; }
    public int? EndMs { get; init; }
    public int? X { get; init; }
    public int? Y { get; init; }
    public int? Width { get; init; }
    public int? Height { get; init; }
    public string? Outline { get; init; }

    public Anchor Anchor => At(Start, End, BeginMs, EndMs, X, Y, Width, Height, Outline);

    /// <summary>The anchor in a row that is read without an object for it; its columns, but for the kind, stand from a place on.</summary>
    public static Anchor Read(SqliteDataReader row, int first)
    {
        // Most stand in words.
        if (!row.IsDBNull(first))
            return At(row.GetInt32(first), row.GetInt32(first + 1));
        return At(
            null,
            null,
            Number(2),
            Number(3),
            Number(4),
            Number(5),
            Number(6),
            Number(7),
            row.IsDBNull(first + 8) ? null : row.GetString(first + 8)
        );

        int? Number(int place) => row.IsDBNull(first + place) ? null : row.GetInt32(first + place);
    }

    // Which columns hold something tells the kind.
    private static Anchor At(
        int? start,
        int? end,
        int? beginMs = null,
        int? endMs = null,
        int? x = null,
        int? y = null,
        int? width = null,
        int? height = null,
        string? outline = null
    ) =>
        start is { } from ? new TextAnchor(new TextRange(from, end!.Value))
        : x is { } left ? new RegionAnchor(left, y!.Value, width!.Value, height!.Value, beginMs, outline)
        : new TimeAnchor(new TimeRange(beginMs!.Value, endMs!.Value));

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
