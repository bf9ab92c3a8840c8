using Vitrine.Core.Mark.Observations;
using Vitrine.Core.Text;

namespace Vitrine.Core.Counting;

/// <summary>Whose words an observation holds: the one rule for counts, quotes, notes and what leaves.</summary>
/// <example>
/// In an interview with Wren: her answer is hers, and so is a paragraph without a name; the team's question is nobody's, and so is what
/// "Man at the bar" says, as long as he is matched to nobody.
/// </example>
public static class Attribution
{
    /// <summary>
    /// The participant of the first turn that the observation touches, in words or in time, and that a participant speaks; else, where a
    /// turn without a speaker is touched, or the source has no turns there at all, the source's only participant; else null: nobody,
    /// unattributed. Sound that no turn covers is nobody's. A picture is of its only participant.
    /// </summary>
    /// <param name="anchor">Where the observation stands.</param>
    /// <param name="turns">The source's turns in text order.</param>
    /// <param name="peopleOfSource">Everyone who takes part in the source.</param>
    public static int? PersonOf(Anchor anchor, IReadOnlyList<SpokenTurn> turns, IReadOnlyCollection<int> peopleOfSource)
    {
        var without = anchor switch
        {
            TextAnchor => turns.Count == 0,
            TimeAnchor => turns.All(t => t.BeginMs is null),
            _ => true,
        };
        foreach (var turn in Touched(anchor, turns))
        {
            if (turn.Person is { } person)
                return person;
            without |= !turn.HasSpeaker;
        }
        return without ? Only(peopleOfSource) : null;
    }

    /// <summary>Whether some of an observation is a person's: by this rule, or by any turn of theirs that it touches.</summary>
    public static bool IsOf(int person, Anchor anchor, IReadOnlyList<SpokenTurn> turns, IReadOnlyCollection<int> peopleOfSource) =>
        PersonOf(anchor, turns, peopleOfSource) == person || Touched(anchor, turns).Any(t => t.Person == person);

    /// <summary>Whose words a turn holds, by the same rule.</summary>
    public static int? PersonOf(SpokenTurn turn, IReadOnlyCollection<int> peopleOfSource) =>
        turn.Person ?? (turn.HasSpeaker ? null : Only(peopleOfSource));

    private static int? Only(IReadOnlyCollection<int> people) => people.Count == 1 ? people.First() : null;

    private static IEnumerable<SpokenTurn> Touched(Anchor anchor, IReadOnlyList<SpokenTurn> turns) =>
        anchor switch
        {
            TextAnchor text => InWords(text.Range, turns),
            TimeAnchor time => InTime(time, turns),
            _ => [],
        };

    private static IEnumerable<SpokenTurn> InWords(TextRange range, IReadOnlyList<SpokenTurn> turns)
    {
        for (var i = FirstEndingAfter(turns, range.Start); i < turns.Count && turns[i].Words.Start < range.End; i++)
            yield return turns[i];
    }

    private static IEnumerable<SpokenTurn> InTime(TimeAnchor time, IReadOnlyList<SpokenTurn> turns)
    {
        var timed = turns.Where(t => t.BeginMs is not null).ToList();
        for (var i = 0; i < timed.Count; i++)
        {
            if (timed[i].BeginMs < time.EndMs && (timed[i].EndMs ?? NextBegin(timed, i)) > time.BeginMs)
                yield return timed[i];
        }
    }

    private static int NextBegin(List<SpokenTurn> timed, int i)
    {
        for (var next = i + 1; next < timed.Count; next++)
        {
            if (timed[next].BeginMs > timed[i].BeginMs)
                return timed[next].BeginMs!.Value;
        }
        return int.MaxValue;
    }

    private static int FirstEndingAfter(IReadOnlyList<SpokenTurn> turns, int position)
    {
        var (low, high) = (0, turns.Count);
        while (low < high)
        {
            var middle = (low + high) / 2;
            if (turns[middle].Words.End <= position)
                low = middle + 1;
            else
                high = middle;
        }
        return low;
    }
}
