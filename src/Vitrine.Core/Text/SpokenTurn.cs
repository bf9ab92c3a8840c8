namespace Vitrine.Core.Text;

/// <summary>A turn with when it is spoken, and by whom.</summary>
/// <param name="Words">Its stretch of the text.</param>
/// <param name="BeginMs">When it begins, in milliseconds of the source; null where the text does not say.</param>
/// <param name="EndMs">When it has ended; null where only its beginning is known: it then lasts until the next turn that has one.</param>
/// <param name="Person">Who speaks, by place; null when that is the team, a name that is matched to nobody, or not told.</param>
/// <param name="HasSpeaker">Whether the text tells who speaks, be it the team or a name that is matched to nobody.</param>
public readonly record struct SpokenTurn(
    TextRange Words,
    int? BeginMs = null,
    int? EndMs = null,
    int? Person = null,
    bool HasSpeaker = false
);
