namespace Vitrine.Core.Sort.TagSet;

/// <summary>A column of the tag set as a table.</summary>
public enum TagColumn
{
    /// <summary>What it is called.</summary>
    Name,

    /// <summary>The tag that it stands under: its name, or the names from the top one down with " / " between; empty for none.</summary>
    Under,

    /// <summary>What it is.</summary>
    Definition,

    /// <summary>What it is not.</summary>
    IsNot,

    /// <summary>Its other names, with semicolons between.</summary>
    Aliases,

    /// <summary>Whether it is thought through: settled or draft.</summary>
    State,

    /// <summary>Its scale in words, as <see cref="ScaleWords"/> has them; empty for none.</summary>
    Scale,

    /// <summary>The number of its own colour, from 1; empty for that of its parent.</summary>
    Colour,
}

/// <summary>What is written into a cell of a tag.</summary>
public sealed record TagCell(TagId TagId, TagColumn Column, string Value);

/// <summary>Why a cell is not taken.</summary>
public enum TagCellProblem
{
    /// <summary>The tag is gone, or is a bundle.</summary>
    NoTag,

    /// <summary>It has no name.</summary>
    NoName,

    /// <summary>A name is longer than <see cref="TagName.Longest"/>.</summary>
    NameTooLong,

    /// <summary>Another tag is called so, or is also called so.</summary>
    NameTaken,

    /// <summary>No tag is called so.</summary>
    NoParent,

    /// <summary>Several tags are called so: with the names above it, it is clear which.</summary>
    WhichParent,

    /// <summary>It would stand under itself.</summary>
    UnderItself,

    /// <summary>It is neither settled nor draft.</summary>
    State,

    /// <summary>These are no words of a scale.</summary>
    Scale,

    /// <summary>Values that were given are not on the scale.</summary>
    ValuesLost,

    /// <summary>There is no such colour.</summary>
    Colour,

    /// <summary>It is longer than a text may be.</summary>
    TooLong,
}

/// <summary>A cell that is not taken, and why.</summary>
public sealed record RefusedTagCell(TagCell Cell, TagCellProblem Problem);

/// <summary>A tag as it is in the table, or is from then on.</summary>
public sealed record TagRow(
    TagId Id,
    TagName Name,
    TagId? ParentId,
    string Definition,
    string IsNot,
    IReadOnlyList<TagName> Aliases,
    bool Settled,
    Scale? Scale,
    int? Colour
)
{
    /// <summary>Values that observations have on its scale.</summary>
    public IReadOnlyList<double> Values { get; init; } = [];

    /// <summary>The study whose own it is; null for a shared one.</summary>
    public StudyId? StudyId { get; init; }
}

/// <summary>Many cells of the tag set written at once: each is taken or refused by itself, whatever becomes of the others.</summary>
public static class TagCells
{
    /// <summary>Characters of a text, at most.</summary>
    public const int LongestText = 20_000;

    /// <summary>The tags that are different from then on, and the cells that are not taken.</summary>
    public static (IReadOnlyList<TagRow> Changed, IReadOnlyList<RefusedTagCell> Refused) Of(
        IReadOnlyList<TagCell> cells,
        IReadOnlyList<TagRow> there
    )
    {
        var rows = there.ToDictionary(t => t.Id);
        var refused = new List<RefusedTagCell>();
        // Names first: what stands under a tag may mean one by the name that it has just been given.
        foreach (var cell in cells.OrderBy(c => c.Column == TagColumn.Under))
        {
            if (!rows.TryGetValue(cell.TagId, out var row))
                refused.Add(new RefusedTagCell(cell, TagCellProblem.NoTag));
            else if (cell.Value.Length > LongestText)
                refused.Add(new RefusedTagCell(cell, TagCellProblem.TooLong));
            else if (Written(row, cell, rows) is var (changed, problem) && problem is { } why)
                refused.Add(new RefusedTagCell(cell, why));
            else
                rows[row.Id] = changed;
        }
        return ([.. there.Select(t => (Was: t, Now: rows[t.Id])).Where(t => !ReferenceEquals(t.Was, t.Now)).Select(t => t.Now)], refused);
    }

    private static (TagRow Row, TagCellProblem? Problem) Written(TagRow row, TagCell cell, Dictionary<TagId, TagRow> rows)
    {
        var value = cell.Value.Trim();
        switch (cell.Column)
        {
            case TagColumn.Name:
                if (TagName.Read(value, out var length) is not { } name)
                    return (row, length == 0 ? TagCellProblem.NoName : TagCellProblem.NameTooLong);
                return IsTaken(row, name, rows) || row.Aliases.Any(a => a.Key == name.Key)
                    ? (row, TagCellProblem.NameTaken)
                    : (row with { Name = name }, null);
            case TagColumn.Under:
                if (value.Length == 0)
                    return (row with { ParentId = null }, null);
                return Parent(WrittenNames.ReadPath(value), row, rows) switch
                {
                    ({ } parent, null) => (row with { ParentId = parent }, null),
                    (_, var problem) => (row, problem),
                };
            case TagColumn.Definition:
                // As everywhere, one that is given what it is is thought through.
                return (row with { Definition = value, Settled = row.Settled || value.Length > 0 }, null);
            case TagColumn.IsNot:
                return (row with { IsNot = value }, null);
            case TagColumn.Aliases:
                var names = WrittenNames.ReadList(value).Select(n => TagName.Read(n, out _)).ToList();
                if (names.Contains(null))
                    return (row, TagCellProblem.NameTooLong);
                var aliases = names.OfType<TagName>().DistinctBy(n => n.Key).ToList();
                return aliases.Exists(a => a.Key == row.Name.Key || IsTaken(row, a, rows))
                    ? (row, TagCellProblem.NameTaken)
                    : (row with { Aliases = aliases }, null);
            case TagColumn.State:
                return value.ToLowerInvariant() switch
                {
                    "settled" => (row with { Settled = true }, null),
                    "draft" => (row with { Settled = false }, null),
                    _ => (row, TagCellProblem.State),
                };
            case TagColumn.Scale:
                var scale = ScaleWords.Read(value);
                return value.Length > 0 && scale is null ? (row, TagCellProblem.Scale)
                    : row.Values.Any(v => scale?.Fits(v) != true) ? (row, TagCellProblem.ValuesLost)
                    : (row with { Scale = scale }, null);
            default:
                if (value.Length == 0)
                    return (row with { Colour = null }, null);
                return int.TryParse(value, out var number) && number >= 1 && number <= Palette.Count
                    ? (row with { Colour = number - 1 }, null)
                    : (row, TagCellProblem.Colour);
        }
    }

    // A study's own tag meets the shared ones and those of its study; a shared one meets shared ones.
    private static bool Meets(TagRow row, TagRow other) => other.StudyId is null || other.StudyId == row.StudyId;

    private static bool IsTaken(TagRow row, TagName name, Dictionary<TagId, TagRow> rows) =>
        rows.Values.Any(t => t.Id != row.Id && Meets(row, t) && (t.Name.Key == name.Key || t.Aliases.Any(a => a.Key == name.Key)));

    private static (TagId? Parent, TagCellProblem? Problem) Parent(IReadOnlyList<string> path, TagRow row, Dictionary<TagId, TagRow> rows)
    {
        var fitting = rows.Values.Where(t => Meets(row, t) && EndsWith(t, path, rows)).Select(t => t.Id).ToList();
        if (fitting.Count != 1)
            return (null, fitting.Count == 0 ? TagCellProblem.NoParent : TagCellProblem.WhichParent);
        for (TagId? up = fitting[0]; up is { } id; up = rows.GetValueOrDefault(id)?.ParentId)
        {
            if (id == row.Id)
                return (null, TagCellProblem.UnderItself);
        }
        return (fitting[0], null);
    }

    /// <summary>Whether a tag and those above it are called as the end of a path says.</summary>
    private static bool EndsWith(TagRow tag, IReadOnlyList<string> path, Dictionary<TagId, TagRow> rows)
    {
        TagRow? at = tag;
        for (var i = path.Count - 1; i >= 0; i--)
        {
            if (at is null || TagName.Read(path[i], out _)?.Key != at.Name.Key)
                return false;
            at = at.ParentId is { } up ? rows.GetValueOrDefault(up) : null;
        }
        return path.Count > 0;
    }
}
