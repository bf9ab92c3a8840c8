namespace Vitrine.Core.Mark.Recordings;

/// <summary>
/// Where the scenes of a film change: frames whose measure of change, 0..1, stands far above what is usual in this film. Cuts of a camera
/// reach 0.3 and more; a page that changes on a mostly white screen changes a hundredth of the picture, and nearly nothing else moves
/// there.
/// The bounds are common practice, no source.
/// </summary>
public static class SceneChanges
{
    /// <summary>How far above the usual, the 95th percentile, a change stands.</summary>
    private const double Above = 10;

    private const double Least = 0.004;
    private const double Enough = 0.3;

    /// <summary>Changes nearer to each other than this, in milliseconds, are one: the first.</summary>
    public const int ApartMs = 1000;

    /// <param name="scores">Moments in milliseconds with their measures, in order.</param>
    public static IReadOnlyList<int> In(IReadOnlyList<(int AtMs, double Score)> scores)
    {
        if (scores.Count == 0)
            return [];
        var usual = scores.Select(s => s.Score).Order().ElementAt(scores.Count * 95 / 100);
        var bound = Math.Clamp(usual * Above, Least, Enough);
        var found = new List<int>();
        foreach (var (at, score) in scores)
        {
            if (at > 0 && score >= bound && (found.Count == 0 || at - found[^1] >= ApartMs))
                found.Add(at);
        }
        return found;
    }
}
