namespace Vitrine.Core.Sort.TagSet;

/// <summary>The tag set as a forest: who is whose parent. Tags are dense indices 0..Count-1; a parent of -1 is none.</summary>
public sealed class TagTree
{
    private readonly int[] parents;

    /// <exception cref="ArgumentException">A parent is out of range, or the parents form a ring.</exception>
    public TagTree(IReadOnlyList<int> parents)
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
    }

    /// <summary>How many tags there are.</summary>
    public int Count => parents.Length;

    /// <summary>The parent of a tag; -1 for none.</summary>
    public int ParentOf(int tag) => parents[tag];

    /// <summary>The tag itself and every tag above it, nearest first.</summary>
    public IEnumerable<int> WithAncestors(int tag)
    {
        for (var up = tag; up >= 0; up = parents[up])
            yield return up;
    }

    /// <summary>Whether placing <paramref name="tag"/> under <paramref name="parent"/> would make it its own ancestor.</summary>
    public bool WouldRing(int tag, int parent) => WithAncestors(parent).Contains(tag);
}
