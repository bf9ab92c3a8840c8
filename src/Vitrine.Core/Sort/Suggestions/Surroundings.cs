namespace Vitrine.Core.Sort.Suggestions;

/// <summary>
/// Which observations of a study stand near each other: those in the same turn, and the one before and after in the same source.
/// </summary>
/// <param name="SourceOf">The source of each observation, source by source, in the order of the text.</param>
/// <param name="TurnOf">The turn in which each begins, by a number of its own in the whole study; null for none.</param>
public sealed record Surroundings(IReadOnlyList<int> SourceOf, IReadOnlyList<int?> TurnOf)
{
    /// <summary>What stands near counts so much beside 1 for the same observation.</summary>
    public const double Near = 0.5;

    /// <summary>How many observations there are.</summary>
    public int Count => SourceOf.Count;

    /// <summary>What stands near an observation.</summary>
    public IEnumerable<int> Around(int observation)
    {
        foreach (var step in (int[])[-1, 1])
        {
            for (var o = observation + step; o >= 0 && o < Count && SourceOf[o] == SourceOf[observation]; o += step)
            {
                if (o != observation + step && (TurnOf[observation] is not { } turn || TurnOf[o] != turn))
                    break;
                yield return o;
            }
        }
    }
}
