using Vitrine.Core.Counting;

namespace Vitrine.Core.Sort.Themes;

/// <summary>
/// A theme as it was laid out: tags placed whole, observations placed one by one. Parent is an index into the same list, or -1.
/// </summary>
public sealed record LaidTheme(int Parent, IReadOnlyCollection<int> Tags, IReadOnlyCollection<int> Observations);

/// <summary>Which observations each theme holds.</summary>
public static class ThemeContents
{
    /// <summary>
    /// For each theme the distinct observations laid in it, plus those that carry one of its tags (or a descendant) now, plus those of its
    /// sub-themes.
    /// Because tags are looked up afresh, a tag laid in a theme stays live.
    /// </summary>
    public static IReadOnlyList<int>[] Of(StudyMarks marks, IReadOnlyList<LaidTheme> themes)
    {
        var byTag = Tally.ByTag(marks, rollUp: true);
        var sets = themes.Select(_ => new SortedSet<int>()).ToArray();
        for (var t = 0; t < themes.Count; t++)
        {
            var held = themes[t].Observations.Concat(themes[t].Tags.SelectMany(tag => byTag[tag])).ToList();
            var steps = 0;
            for (var up = t; up >= 0 && steps++ <= themes.Count; up = themes[up].Parent)
                sets[up].UnionWith(held);
        }
        return [.. sets.Select(s => s.ToList())];
    }
}
