using Vitrine.Core.Gather.Turns;
using Vitrine.Core.Text;

namespace Vitrine.Server.Gather.Turns;

/// <summary>All ways in which the turns of one text can be understood, each read when it is asked for.</summary>
internal sealed class SourceReadings(string text, TurnAids aids)
{
    /// <summary>As what it was recognised.</summary>
    public TurnGuess Guess { get; } = TurnReading.Guess(text, aids);

    /// <summary>As a style; null as it was recognised.</summary>
    public TurnGuess As(TurnStyle? style) => style is null ? Guess : TurnReading.Guess(text, aids, style);

    /// <summary>The styles in which the text holds turns, and as paragraphs; as it was recognised first.</summary>
    public IReadOnlyList<TurnGuess> All() =>
        [
            Guess,
            .. Enum.GetValues<TurnStyle>()
                .Where(s => s != Guess.Style)
                .Select(s => As(s))
                .Where(g => g.Heads > 0 || g.Style == TurnStyle.NoTurns)
                .DistinctBy(g => g.Style),
        ];

    /// <summary>In which of the ways turns were read; null when in none.</summary>
    public (TurnStyle? Style, bool Found) Of(IReadOnlyList<Turn> turns)
    {
        var words = turns.Select(t => (t.Words, t.Speaker)).ToList();
        bool Same(TurnGuess guess) => guess.Turns.Select(t => (t.Words, t.Speaker)).SequenceEqual(words);
        if (Same(Guess))
            return (null, true);
        return All().FirstOrDefault(Same) is { } found ? (found.Style, true) : (null, false);
    }
}
