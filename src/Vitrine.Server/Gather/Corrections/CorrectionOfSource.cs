using Vitrine.Core.Gather.Corrections;
using Vitrine.Core.Text;
using Vitrine.Server.Gather.Turns;
using Vitrine.Server.Http;
using Vitrine.Storage.Gather.Corrections;
using Vitrine.Storage.Gather.Sources;
using Vitrine.Storage.Trail;

namespace Vitrine.Server.Gather.Corrections;

/// <summary>Makes a correction of what was typed or sent.</summary>
internal static class CorrectionOfSource
{
    /// <summary>
    /// What a corrected text makes of a source: its turns are read anew in the way they were read before; where they were read in no known
    /// way, they move along.
    /// </summary>
    /// <exception cref="Refusal">The text is too long or holds no words, or the source has none.</exception>
    public static Correction Of(SourceReading gate, Source source, string text, string basedOn)
    {
        if (text.Length > Limits.SourceText)
            throw SourceReading.TooLong(text.Length, "text");
        if (source.Text.Length == 0)
            throw Refusal.Because("This source is a recording or a picture; it has no text to correct.", "text");
        var canonical = CanonicalText.From(text).Trim('\n', ' ');
        if (!canonical.Any(char.IsLetterOrDigit))
            throw Refusal.Because("There are no words left in it. To take a source away, remove it in Gather.", "text");
        var moved = Reanchor.Between(source.Text, canonical);
        var shape = source.Shape is { } before ? CorrectedText.ShapeOf(moved, before) : null;
        var old = source.ReadTurns();
        var (style, known) = gate.Readings(source).Of(old);
        var turns = known
            ? CorrectedText.WithTimes(moved, old, gate.Readings(source, canonical, shape).As(style).Turns)
            : CorrectedText.TurnsOf(moved, old);
        return new Correction(basedOn, moved, turns, shape);
    }
}
