namespace Vitrine.Core.Sort.TagSet;

/// <summary>
/// The tag set: who is whose parent, and who is in which bundle. Tags and bundles are dense indices 0..Count-1; a parent of -1 is none.
/// </summary>
public sealed class TagTree
{
    private readonly int[] parents;
    private readonly int[][] bundles;
    private readonly HashSet<int> holding;

    /// <param name="parents">The parent of each; bundles have none.</param>
    /// <param name="members">Which tag is in which bundle; null for no bundles.</param>
    /// <exception cref="ArgumentException">A parent is out of range, or the parents form a ring.</exception>
    public TagTree(IReadOnlyList<int> parents, IReadOnlyCollection<(int Bundle, int Tag)>? members = null)
    {
        this.parents = [.. parents];
        for (var tag = 0; tag < this.parents.Length; tag++)
        {
            var steps = 0;
            for (var up = this.parents[tag]; up >= 0; up = this.parents[up])
            {
                if (up >= this.parents.Length)
                    throw new ArgumentException($"Tag {tag} has a parent that does not exist.", nameof(parents));
                if (++steps > this.parents.Length)
                    throw new ArgumentException($"Tag {tag} is its own ancestor.", nameof(parents));
            }
        }
        bundles = new int[this.parents.Length][];
        Array.Fill(bundles, []);
        holding = members?.Select(m => m.Bundle).ToHashSet() ?? [];
        if (members is null || !HasBundles)
            return;
        var bundlesOf = members.ToLookup(m => m.Tag, m => m.Bundle);
        for (var tag = 0; tag < bundles.Length; tag++)
            bundles[tag] = [.. WithAncestors(tag).SelectMany(t => bundlesOf[t]).Distinct().Order()];
    }

    /// <summary>How many tags and bundles there are.</summary>
    public int Count => parents.Length;

    /// <summary>Whether any tag is in a bundle.</summary>
    public bool HasBundles => holding.Count > 0;

    /// <summary>Whether it is a bundle that holds tags.</summary>
    public bool IsBundle(int tag) => holding.Contains(tag);

    /// <summary>The parent of a tag; -1 for none.</summary>
    public int ParentOf(int tag) => parents[tag];

    /// <summary>The bundles that a tag is in, itself or by one above it, ascending, each once.</summary>
    public ReadOnlySpan<int> BundlesOf(int tag) => bundles[tag];

    /// <summary>The tag itself and every tag above it, nearest first.</summary>
    public IEnumerable<int> WithAncestors(int tag)
    {
        for (var up = tag; up >= 0; up = parents[up])
            yield return up;
    }

    /// <summary>All that an observation with this tag counts for: the tag, those above it, and the bundles of these.</summary>
    public IEnumerable<int> CountsFor(int tag) => WithAncestors(tag).Concat(bundles[tag]);

    /// <summary>Whether one of them is a bundle and the other is in it, itself or by one above it.</summary>
    public bool OneHoldsOther(int a, int b) => bundles[a].Contains(b) || bundles[b].Contains(a);

    /// <summary>Whether placing <paramref name="tag"/> under <paramref name="parent"/> would make it its own ancestor.</summary>
    public bool WouldRing(int tag, int parent) => WithAncestors(parent).Contains(tag);
}
