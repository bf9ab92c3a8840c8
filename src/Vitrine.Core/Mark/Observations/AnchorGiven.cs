using Vitrine.Core.Text;

namespace Vitrine.Core.Mark.Observations;

/// <summary>What a source offers for an observation to stand in.</summary>
/// <param name="Text">Its canonical text.</param>
/// <param name="LengthMs">How long it lasts, as far as that is known from its turns or its recording; null when it has no times.</param>
/// <param name="HasPicture">Whether it has a picture, still or moving.</param>
public sealed record AnchorGround(string Text, int? LengthMs, bool HasPicture);

/// <summary>Why an anchor does not fit its source.</summary>
public enum AnchorProblem
{
    /// <summary>The range holds nothing but white space, or nothing.</summary>
    NoWords,

    /// <summary>The source has no times.</summary>
    NoTimes,

    /// <summary>The time range is empty, begins before 0 or lies behind the source's end.</summary>
    OutsideTime,

    /// <summary>The source has no picture.</summary>
    NoPicture,

    /// <summary>The rectangle is empty or leaves the picture.</summary>
    OutsidePicture,

    /// <summary>The outline has too few or too many corners, leaves the picture or holds nothing.</summary>
    NoOutline,
}

/// <summary>
/// An anchor as somebody gives it, before it is held against its source: the values of its kind; those of the other kinds are not looked
/// at.
/// </summary>
public sealed record AnchorGiven(
    AnchorKind Kind,
    int? Start = null,
    int? End = null,
    int? BeginMs = null,
    int? EndMs = null,
    int? X = null,
    int? Y = null,
    int? Width = null,
    int? Height = null,
    int? AtMs = null,
    string? Outline = null
)
{
    /// <summary>
    /// The anchor that is meant: a text range tidied (see <see cref="TextRange.Tidy"/>), a time range cut at the source's end; or why there
    /// is none.
    /// </summary>
    public (Anchor? Anchor, AnchorProblem? Problem) In(AnchorGround ground) =>
        Kind switch
        {
            AnchorKind.Text => TextRange.Tidy(ground.Text, Start ?? 0, End ?? 0) is { } range
                ? (new TextAnchor(range), null)
                : (null, AnchorProblem.NoWords),
            AnchorKind.Time when ground.LengthMs is not { } => (null, AnchorProblem.NoTimes),
            AnchorKind.Time => BeginMs is { } begin and >= 0 && Math.Min(EndMs ?? 0, ground.LengthMs!.Value) is var end && end > begin
                ? (new TimeAnchor(begin, end), null)
                : (null, AnchorProblem.OutsideTime),
            _ when !ground.HasPicture => (null, AnchorProblem.NoPicture),
            _ => Region(),
        };

    private (Anchor?, AnchorProblem?) Region()
    {
        if (Outline is not null)
            return AtMs is null or >= 0 && Observations.Outline.Read(Outline) is { } drawn
                ? (new RegionAnchor(drawn.X, drawn.Y, drawn.Width, drawn.Height, AtMs, Outline), null)
                : (null, AnchorProblem.NoOutline);
        var inside =
            X is >= 0 and < RegionAnchor.Whole
            && Y is >= 0 and < RegionAnchor.Whole
            && Width > 0
            && Height > 0
            && Width <= RegionAnchor.Whole - X
            && Height <= RegionAnchor.Whole - Y
            && AtMs is null or >= 0;
        return inside
            ? (new RegionAnchor(X!.Value, Y!.Value, Width!.Value, Height!.Value, AtMs), null)
            : (null, AnchorProblem.OutsidePicture);
    }
}
