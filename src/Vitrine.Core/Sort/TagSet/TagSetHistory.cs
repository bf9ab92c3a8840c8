namespace Vitrine.Core.Sort.TagSet;

/// <summary>A tag as it was on a day.</summary>
/// <param name="Id">The tag.</param>
/// <param name="Name">Its name.</param>
/// <param name="ParentId">The tag that it stood under; null for none.</param>
/// <param name="Definition">What it was.</param>
/// <param name="IsNot">What it was not.</param>
/// <param name="Settled">Whether it was thought through.</param>
/// <param name="Retired">Whether it was offered no more.</param>
/// <param name="SplitInto">The tags that it was split into last; none where it was not.</param>
public sealed record TagThen(
    TagId Id,
    string Name,
    TagId? ParentId,
    string Definition,
    string IsNot,
    bool Settled,
    bool Retired,
    IReadOnlyList<TagId> SplitInto
);

/// <summary>What became of a tag between two days.</summary>
public enum TagChange
{
    /// <summary>It was not there.</summary>
    Added,

    /// <summary>It was taken away.</summary>
    Removed,

    /// <summary>It was merged into another.</summary>
    Merged,

    /// <summary>Its observations went to narrower tags.</summary>
    Split,

    /// <summary>It has another name.</summary>
    Renamed,

    /// <summary>It stands under another tag, or under none.</summary>
    Moved,

    /// <summary>What it is or is not was written or rewritten.</summary>
    Defined,

    /// <summary>It was a draft.</summary>
    Settled,

    /// <summary>It is a draft again.</summary>
    Unsettled,

    /// <summary>It is offered no more.</summary>
    Retired,

    /// <summary>It is offered again.</summary>
    BroughtBack,
}

/// <summary>A tag that is not as it was.</summary>
/// <param name="Then">As it was; null for one that was not there.</param>
/// <param name="Now">As it is; null for one that is gone.</param>
/// <param name="Changes">What became of it.</param>
/// <param name="Into">Where it was merged, or split, into.</param>
public sealed record TagDifference(TagThen? Then, TagThen? Now, IReadOnlyList<TagChange> Changes, IReadOnlyList<TagId> Into);

/// <summary>Compares the tag set of two days.</summary>
public static class TagSetHistory
{
    /// <summary>
    /// The tags that differ, in the order in which they stand now; those that are gone last, in the order in which they stood.
    /// </summary>
    /// <param name="then">The earlier day.</param>
    /// <param name="now">The later day.</param>
    /// <param name="merged">For tags that are gone by a merge: into which.</param>
    /// <param name="split">For tags that are gone by a split: into which.</param>
    public static IReadOnlyList<TagDifference> Between(
        IReadOnlyList<TagThen> then,
        IReadOnlyList<TagThen> now,
        IReadOnlyDictionary<TagId, TagId> merged,
        IReadOnlyDictionary<TagId, IReadOnlyList<TagId>> split
    )
    {
        var before = then.ToDictionary(t => t.Id);
        var after = now.Select(t => t.Id).ToHashSet();
        var differ = new List<TagDifference>();
        foreach (var tag in now)
        {
            if (!before.TryGetValue(tag.Id, out var was))
                differ.Add(new TagDifference(null, tag, [TagChange.Added], []));
            else if (Changes(was, tag).ToList() is { Count: > 0 } changes)
                differ.Add(new TagDifference(was, tag, changes, changes.Contains(TagChange.Split) ? tag.SplitInto : []));
        }
        foreach (var tag in then.Where(t => !after.Contains(t.Id)))
        {
            differ.Add(
                merged.TryGetValue(tag.Id, out var into) ? new TagDifference(tag, null, [TagChange.Merged], [into])
                : split.TryGetValue(tag.Id, out var narrower) ? new TagDifference(tag, null, [TagChange.Split], narrower)
                : new TagDifference(tag, null, [TagChange.Removed], [])
            );
        }
        return differ;
    }

    private static IEnumerable<TagChange> Changes(TagThen was, TagThen now)
    {
        if (now.SplitInto.Count > 0 && !was.SplitInto.SequenceEqual(now.SplitInto))
            yield return TagChange.Split;
        if (was.Name != now.Name)
            yield return TagChange.Renamed;
        if (was.ParentId != now.ParentId)
            yield return TagChange.Moved;
        if (was.Definition != now.Definition || was.IsNot != now.IsNot)
            yield return TagChange.Defined;
        if (was.Settled != now.Settled)
            yield return now.Settled ? TagChange.Settled : TagChange.Unsettled;
        if (was.Retired != now.Retired)
            yield return now.Retired ? TagChange.Retired : TagChange.BroughtBack;
    }
}
