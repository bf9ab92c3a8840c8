using Vitrine.Core.Counting;
using Vitrine.Core.Weigh.Evidence;

namespace Vitrine.Core.Sort.Themes;

/// <summary>
/// A theme as it was laid out: tags placed whole, observations placed one by one, each with its stance. Parent is an index into the same
/// list, or -1.
/// </summary>
public sealed record LaidTheme(int Parent, IReadOnlyCollection<int> Tags, IReadOnlyDictionary<int, Stance> Observations);

/// <summary>What a theme holds of one observation.</summary>
/// <param name="Observation">Its place.</param>
/// <param name="Stance">How it bears on the claim.</param>
public readonly record struct ThemePiece(int Observation, Stance Stance);

/// <summary>Which observations each theme holds, and how they bear on its claim.</summary>
public static class ThemeContents
{
    /// <summary>
    /// For each theme the distinct observations laid in it, plus those that carry one of its tags (or a descendant) now, plus those of its
    /// sub-themes, by place. Because tags are looked up afresh, a tag laid in a theme stays live.
    /// <para>
    /// The stance is the one given in the theme itself; else the one given in a sub-theme (of several the one that contradicts, so that it
    /// is not overlooked, then the one that supports); what arrived by a tag, and was given none, supports.
    /// </para>
    /// </summary>
    public static IReadOnlyList<ThemePiece>[] Of(StudyMarks marks, IReadOnlyList<LaidTheme> themes)
    {
        var byTag = Tally.ByTag(marks, rollUp: true);
        var held = themes.Select(_ => new SortedDictionary<int, Weight>()).ToArray();
        for (var t = 0; t < themes.Count; t++)
        {
            var steps = 0;
            for (var (at, given) = (t, Given.Here); at >= 0 && steps++ <= themes.Count; (at, given) = (themes[at].Parent, Given.Below))
            {
                foreach (var (observation, stance) in themes[t].Observations)
                    Hold(held[at], observation, new Weight(given, stance));
                foreach (var observation in themes[t].Tags.SelectMany(tag => byTag[tag]))
                    Hold(held[at], observation, new Weight(Given.ByTag, Stance.Supports));
            }
        }
        return [.. held.Select(h => h.Select(x => new ThemePiece(x.Key, x.Value.Stance)).ToList())];
    }

    private static void Hold(SortedDictionary<int, Weight> held, int observation, Weight weight)
    {
        if (!held.TryGetValue(observation, out var there) || weight.Outweighs(there))
            held[observation] = weight;
    }

    private enum Given
    {
        ByTag,
        Below,
        Here,
    }

    private readonly record struct Weight(Given Given, Stance Stance)
    {
        public bool Outweighs(Weight other) => Given > other.Given || (Given == other.Given && Rank(Stance) > Rank(other.Stance));

        private static int Rank(Stance stance) =>
            stance switch
            {
                Stance.Contradicts => 2,
                Stance.Supports => 1,
                _ => 0,
            };
    }
}
