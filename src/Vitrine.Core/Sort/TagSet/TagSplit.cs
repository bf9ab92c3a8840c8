namespace Vitrine.Core.Sort.TagSet;

/// <summary>What is decided of an observation of the wide tag.</summary>
public enum SplitOutcome
{
    /// <summary>It goes to narrower tags.</summary>
    Trays,

    /// <summary>It is to be looked at again; it stays where it is.</summary>
    Unsure,

    /// <summary>It stays on the wide tag.</summary>
    Wide,
}

/// <summary>A number before the split and after it.</summary>
public readonly record struct BeforeAfter(int Before, int After);

/// <summary>What a split makes of the numbers of a study, in observations.</summary>
/// <param name="Own">Of the wide tag itself.</param>
/// <param name="WithUnder">Of the wide tag with all tags under it; each observation once.</param>
/// <param name="Trays">Of each narrower tag, in the order of the trays.</param>
/// <param name="Goes">Whether nothing is left on the wide tag, so that it goes.</param>
public sealed record SplitNumbers(BeforeAfter Own, BeforeAfter WithUnder, IReadOnlyList<BeforeAfter> Trays, bool Goes);

/// <summary>
/// A wide tag is split: each of its observations goes to one or several narrower tags, or stays. Nothing else that is on an observation
/// changes.
/// </summary>
public static class TagSplit
{
    /// <summary>The numbers before and after.</summary>
    /// <param name="wide">Observations that carry the wide tag.</param>
    /// <param name="under">Observations that carry a tag under it.</param>
    /// <param name="trays">For each tray, those that carry its tag already.</param>
    /// <param name="sent">Where observations go: numbers of trays, from 0. Those that are not there stay on the wide tag.</param>
    /// <param name="keep">Whether the narrower tags stand under the wide one afterwards; else it is let go.</param>
    /// <param name="elsewhere">How many observations of other studies carry the wide tag.</param>
    public static SplitNumbers Numbers<T>(
        IReadOnlySet<T> wide,
        IReadOnlySet<T> under,
        IReadOnlyList<IReadOnlySet<T>> trays,
        IReadOnlyDictionary<T, IReadOnlyList<int>> sent,
        bool keep,
        int elsewhere
    )
        where T : notnull
    {
        var going = sent.Where(s => s.Value.Count > 0 && wide.Contains(s.Key)).ToDictionary();
        var left = wide.Count - going.Count;
        var after = trays.Select((has, i) => has.Union(going.Where(g => g.Value.Contains(i)).Select(g => g.Key)).ToHashSet()).ToList();
        var rolledUp = wide.Where(o => !going.ContainsKey(o)).Concat(under);
        return new SplitNumbers(
            new BeforeAfter(wide.Count, left),
            new BeforeAfter(wide.Union(under).Count(), (keep ? rolledUp.Concat(after.SelectMany(a => a)) : rolledUp).Distinct().Count()),
            [.. trays.Select((has, i) => new BeforeAfter(has.Count, after[i].Count))],
            !keep && left == 0 && elsewhere == 0
        );
    }
}
