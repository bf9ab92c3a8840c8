using Vitrine.Core.Text;

namespace Vitrine.Core.Counting;

/// <summary>A turn with the participant who speaks in it; null when the speaker is of the team or not matched.</summary>
public readonly record struct SpokenTurn(TextRange Words, int? Person);

/// <summary>Whose words an observation holds.</summary>
public static class Attribution
{
    /// <summary>
    /// The participant of the first turn the stretch touches that a participant speaks; else the source's only participant; else -1 (unattributed).
    /// </summary>
    /// <param name="stretch">The observation's text range.</param>
    /// <param name="turns">The source's turns in text order.</param>
    /// <param name="peopleOfSource">Everyone who takes part in the source.</param>
    public static int PersonOf(TextRange stretch, IReadOnlyList<SpokenTurn> turns, IReadOnlyCollection<int> peopleOfSource)
    {
        for (var i = FirstEndingAfter(turns, stretch.Start); i < turns.Count && turns[i].Words.Start < stretch.End; i++)
        {
            if (turns[i].Person is { } person) return person;
        }
        return peopleOfSource.Count == 1 ? peopleOfSource.First() : -1;
    }

    private static int FirstEndingAfter(IReadOnlyList<SpokenTurn> turns, int position)
    {
        var (low, high) = (0, turns.Count);
        while (low < high)
        {
            var middle = (low + high) / 2;
            if (turns[middle].Words.End <= position) low = middle + 1;
            else high = middle;
        }
        return low;
    }
}
