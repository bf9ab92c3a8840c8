using Vitrine.Core.Mark.Observations;
using Vitrine.Core.Text;

namespace Vitrine.Core.Counting;

/// <summary>A turn with the participant who speaks in it.</summary>
/// <param name="Words">Its stretch of the text.</param>
/// <param name="Person">Who speaks; null when the speaker is of the team or not matched.</param>
/// <param name="BeginMs">When it begins, in milliseconds of the source; null when it has no times.</param>
/// <param name="EndMs">When it has ended; null when only its beginning is known: it then lasts until the next turn that has one.</param>
public readonly record struct SpokenTurn(TextRange Words, int? Person, int? BeginMs = null, int? EndMs = null);

/// <summary>Whose words an observation holds.</summary>
public static class Attribution
{
    /// <summary>
    /// The participant of the first turn that the observation touches, in words or in time, and that a participant speaks; else the
    /// source's only participant; else null: nobody, unattributed.
    /// A picture is nobody's turn.
    /// </summary>
    /// <param name="anchor">Where the observation stands.</param>
    /// <param name="turns">The source's turns in text order.</param>
    /// <param name="peopleOfSource">Everyone who takes part in the source.</param>
    public static int? PersonOf(Anchor anchor, IReadOnlyList<SpokenTurn> turns, IReadOnlyCollection<int> peopleOfSource) =>
        Speaker(anchor, turns) ?? (peopleOfSource.Count == 1 ? peopleOfSource.First() : null);

    private static int? Speaker(Anchor anchor, IReadOnlyList<SpokenTurn> turns)
    {
        if (anchor is TimeAnchor time)
            return InTime(time, turns);
        if (anchor is not TextAnchor text)
            return null;
        for (var i = FirstEndingAfter(turns, text.Start); i < turns.Count && turns[i].Words.Start < text.End; i++)
        {
            if (turns[i].Person is { } person)
                return person;
        }
        return null;
    }

    private static int? InTime(TimeAnchor time, IReadOnlyList<SpokenTurn> turns)
    {
        var timed = turns.Where(t => t.BeginMs is not null).ToList();
        for (var i = 0; i < timed.Count && timed[i].BeginMs < time.EndMs; i++)
        {
            var end = timed[i].EndMs ?? (i + 1 < timed.Count ? timed[i + 1].BeginMs!.Value : int.MaxValue);
            if (end > time.BeginMs && timed[i].Person is { } person)
                return person;
        }
        return null;
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
