namespace Vitrine.Core.Counting;

/// <summary>
/// Counts many selections of one study's observations one after the other, without making anything for each. Not for two threads at once.
/// </summary>
internal sealed class TripleCounter(StudyMarks marks)
{
    // A source or person has been seen in this selection when its stamp is the selection's number.
    private readonly int[] sourceSeen = new int[marks.SourceCount];
    private readonly int[] personSeen = new int[marks.PersonCount];
    private int selection;

    /// <summary>The triple of the given observations, each listed once.</summary>
    public Triple Of(ReadOnlySpan<int> observations)
    {
        selection++;
        var (sources, people, unattributed) = (0, 0, 0);
        foreach (var o in observations)
        {
            ref var source = ref sourceSeen[marks.SourceOf[o]];
            if (source != selection)
            {
                source = selection;
                sources++;
            }
            if (marks.PersonOf[o] is not { } person)
            {
                unattributed++;
                continue;
            }
            ref var seen = ref personSeen[person];
            if (seen == selection)
                continue;
            seen = selection;
            people++;
        }
        return new Triple(observations.Length, sources, people, unattributed);
    }
}
