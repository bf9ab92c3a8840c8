using Vitrine.Core.Mark.Observations;
using Vitrine.Core.Sort.TagSet;

namespace Vitrine.Core.Counting;

/// <summary>
/// A study's observations as compact arrays, the one input of all counting. Observations, sources, people and tags are dense indices;
/// <c>TagStarts</c>/<c>TagOf</c> list the tags of observation i at <c>TagOf[TagStarts[i] .. TagStarts[i+1]]</c>, each tag once.
/// </summary>
public sealed class StudyMarks
{
    /// <summary>Source of each observation.</summary>
    public required int[] SourceOf { get; init; }

    /// <summary>Person of each observation; null for nobody: unattributed.</summary>
    public required int?[] PersonOf { get; init; }

    /// <summary>Where each observation stands in its source.</summary>
    public required Anchor[] AnchorOf { get; init; }

    /// <summary>Offsets into <see cref="TagOf"/>; one longer than there are observations.</summary>
    public required int[] TagStarts { get; init; }

    /// <summary>Tags, observation by observation.</summary>
    public required int[] TagOf { get; init; }

    /// <summary>Whether each was found by a search and not looked at yet; null where none was.</summary>
    public bool[]? NotReviewed { get; init; }

    /// <summary>The tag set.</summary>
    public required TagTree Tags { get; init; }

    /// <summary>How many sources the study has.</summary>
    public required int SourceCount { get; init; }

    /// <summary>How many participants the study has.</summary>
    public required int PersonCount { get; init; }

    // What each tag has, once it was asked for: the marks never change.
    internal int[][]? Own { get; set; }

    internal int[][]? RolledUp { get; set; }

    private int[][]? withBundles;

    /// <summary>How many observations there are.</summary>
    public int Count => SourceOf.Length;

    /// <summary>How many of some observations were found by a search and not looked at yet.</summary>
    public int CountNotReviewed(IEnumerable<int> observations) => NotReviewed is { } found ? observations.Count(o => found[o]) : 0;

    /// <summary>The tags on one observation.</summary>
    public ReadOnlySpan<int> TagsOn(int observation) =>
        TagOf.AsSpan(TagStarts[observation], TagStarts[observation + 1] - TagStarts[observation]);

    /// <summary>The tags on one observation and the bundles that they are in, each once.</summary>
    public ReadOnlySpan<int> TagsAndBundlesOn(int observation)
    {
        if (!Tags.HasBundles)
            return TagsOn(observation);
        withBundles ??= [.. Enumerable.Range(0, Count).Select(With)];
        return withBundles[observation];

        int[] With(int o)
        {
            List<int> all = [.. TagsOn(o)];
            foreach (var tag in TagsOn(o))
            {
                foreach (var bundle in Tags.BundlesOf(tag))
                {
                    if (!all.Contains(bundle))
                        all.Add(bundle);
                }
            }
            return [.. all];
        }
    }
}
