using System.Text.Json.Serialization;
using Vitrine.Core.Text;

namespace Vitrine.Core.Mark.Observations;

/// <summary>The ways in which an observation can stand in its source.</summary>
public enum AnchorKind
{
    /// <summary>A range of its text.</summary>
    Text,

    /// <summary>A range of its time.</summary>
    Time,

    /// <summary>A region of its picture.</summary>
    Region,
}

/// <summary>
/// Where an observation stands in its source: a range of text, a range of time, or a region of a picture; nothing else is one.
/// Anchors of different kinds never touch.
/// </summary>
/// <example>
/// The words 10 to 14 of a transcript and its first minute are two anchors of one source; they share nothing that can be counted.
/// </example>
[JsonPolymorphic(TypeDiscriminatorPropertyName = "kind")]
[JsonDerivedType(typeof(TextAnchor), "text")]
[JsonDerivedType(typeof(TimeAnchor), "time")]
[JsonDerivedType(typeof(RegionAnchor), "region")]
public abstract record Anchor
{
    private protected Anchor() { }

    /// <summary>Which of the kinds it is.</summary>
    [JsonIgnore]
    public abstract AnchorKind Kind { get; }

    /// <summary>
    /// Where it begins in its own unit: a code unit of the text, or a millisecond. A picture that is no frame begins at 0.
    /// </summary>
    internal abstract int From { get; }

    /// <summary>Where it has ended in that unit. A region lasts for its one moment.</summary>
    internal abstract int To { get; }

    /// <summary>
    /// Whether two observations of one source share at least one unit: a code unit, a millisecond, or some area of one picture.
    /// </summary>
    public bool Touches(Anchor other) =>
        Kind == other.Kind && From < other.To && other.From < To && (this is not RegionAnchor here || here.SharesArea((RegionAnchor)other));

    /// <summary>
    /// Its parts before and after a place inside it, in its own unit; nulls where one of them would hold nothing, and for a region, which
    /// has no inside to go along.
    /// </summary>
    /// <param name="text">The source's canonical text: parts of it are tidied (see <see cref="TextRange.Split"/>).</param>
    /// <param name="at">The place.</param>
    public (Anchor? Before, Anchor? After) Split(string text, int at) =>
        this switch
        {
            TextAnchor words when words.Range.Split(text, at) is ({ } before, { } after) => (new TextAnchor(before), new TextAnchor(after)),
            TimeAnchor time when time.BeginMs < at && at < time.EndMs => (new TimeAnchor(time.BeginMs, at), new TimeAnchor(at, time.EndMs)),
            _ => (null, null),
        };

    /// <summary>The least that holds both; null for regions and for anchors of different kinds.</summary>
    public Anchor? Cover(Anchor other) =>
        (this, other) switch
        {
            (TextAnchor a, TextAnchor b) => new TextAnchor(a.Range.Cover(b.Range)),
            (TimeAnchor a, TimeAnchor b) => new TimeAnchor(a.Range.Cover(b.Range)),
            _ => null,
        };
}

/// <summary>A range of a source's canonical text, in UTF-16 code units, half-open.</summary>
public sealed record TextAnchor : Anchor
{
    /// <param name="range">The range.</param>
    public TextAnchor(TextRange range) => Range = range;

    /// <summary>The range.</summary>
    [JsonIgnore]
    public TextRange Range { get; }

    /// <summary>Its first code unit, 0 or more.</summary>
    public int Start => Range.Start;

    /// <summary>One past its last code unit.</summary>
    public int End => Range.End;

    /// <inheritdoc/>
    [JsonIgnore]
    public override AnchorKind Kind => AnchorKind.Text;

    internal override int From => Start;

    internal override int To => End;
}

/// <summary>A range of a source's time, in milliseconds from its beginning, half-open.</summary>
public sealed record TimeAnchor : Anchor
{
    /// <param name="range">The range.</param>
    public TimeAnchor(TimeRange range) => Range = range;

    /// <param name="beginMs">0 or more.</param>
    /// <param name="endMs">Greater than <paramref name="beginMs"/>.</param>
    /// <exception cref="ArgumentOutOfRangeException">The range is empty or begins before 0.</exception>
    [JsonConstructor]
    public TimeAnchor(int beginMs, int endMs)
        : this(new TimeRange(beginMs, endMs)) { }

    /// <summary>The range.</summary>
    [JsonIgnore]
    public TimeRange Range { get; }

    /// <summary>Its first millisecond.</summary>
    public int BeginMs => Range.BeginMs;

    /// <summary>One past its last millisecond.</summary>
    public int EndMs => Range.EndMs;

    /// <inheritdoc/>
    [JsonIgnore]
    public override AnchorKind Kind => AnchorKind.Time;

    internal override int From => BeginMs;

    internal override int To => EndMs;
}

/// <summary>
/// A part of a picture: a rectangle, in ten-thousandths of the picture's width and height, from its upper left corner, or what lies
/// inside a free outline; with the moment when the picture is a frame of a film. Two regions touch when they share some area and are of the
/// same moment.
/// </summary>
public sealed record RegionAnchor : Anchor
{
    /// <summary>The whole width, and the whole height, of a picture.</summary>
    public const int Whole = 10_000;

    /// <param name="x">The left edge, 0 or more.</param>
    /// <param name="y">The upper edge, 0 or more.</param>
    /// <param name="width">1 or more; the right edge is at most <see cref="Whole"/>.</param>
    /// <param name="height">1 or more; the lower edge is at most <see cref="Whole"/>.</param>
    /// <param name="atMs">The moment of the frame in milliseconds; null for a picture that stands still.</param>
    /// <param name="outline">A free outline, of which the rectangle is the least box; null for the rectangle itself.</param>
    /// <exception cref="ArgumentOutOfRangeException">The rectangle is empty or leaves the picture, or the moment is before 0.</exception>
    public RegionAnchor(int x, int y, int width, int height, int? atMs, string? outline = null)
    {
        ArgumentOutOfRangeException.ThrowIfNegative(x);
        ArgumentOutOfRangeException.ThrowIfNegative(y);
        ArgumentOutOfRangeException.ThrowIfNegativeOrZero(width);
        ArgumentOutOfRangeException.ThrowIfNegativeOrZero(height);
        ArgumentOutOfRangeException.ThrowIfGreaterThan(width, Whole - Math.Min(x, Whole), nameof(width));
        ArgumentOutOfRangeException.ThrowIfGreaterThan(height, Whole - Math.Min(y, Whole), nameof(height));
        if (atMs is { } moment)
            ArgumentOutOfRangeException.ThrowIfNegative(moment, nameof(atMs));
        (X, Y, Width, Height, AtMs) = (x, y, width, height, atMs);
        var drawn = outline is null
            ? null
            : Observations.Outline.Read(outline) ?? throw new ArgumentException("This is no outline.", nameof(outline));
        Outline = drawn?.ToString();
        Strips = drawn?.Strips() ?? [(x, y, x + width, y + height)];
    }

    /// <summary>The left edge.</summary>
    public int X { get; }

    /// <summary>The upper edge.</summary>
    public int Y { get; }

    /// <summary>From the left edge to the right one.</summary>
    public int Width { get; }

    /// <summary>From the upper edge to the lower one.</summary>
    public int Height { get; }

    /// <summary>The moment of the frame; null for a picture that stands still.</summary>
    public int? AtMs { get; }

    /// <summary>The corners of a free outline, as <see cref="Observations.Outline"/> writes them; null for a rectangle.</summary>
    public string? Outline { get; }

    /// <summary>Rectangles by their edges that together are this part; they share no area.</summary>
    internal IReadOnlyList<(int Left, int Top, int Right, int Bottom)> Strips { get; }

    /// <inheritdoc/>
    public bool Equals(RegionAnchor? other) =>
        other is not null
        && (X, Y, Width, Height, AtMs, Outline) == (other.X, other.Y, other.Width, other.Height, other.AtMs, other.Outline);

    /// <inheritdoc/>
    public override int GetHashCode() => HashCode.Combine(X, Y, Width, Height, AtMs, Outline);

    /// <inheritdoc/>
    [JsonIgnore]
    public override AnchorKind Kind => AnchorKind.Region;

    internal override int From => AtMs ?? 0;

    internal override int To => From + 1;

    internal bool SharesArea(RegionAnchor other) =>
        AtMs == other.AtMs
        && X < other.X + other.Width
        && other.X < X + Width
        && Y < other.Y + other.Height
        && other.Y < Y + Height
        && (
            (Outline ?? other.Outline) is null
            || Strips.Any(a => other.Strips.Any(b => a.Left < b.Right && b.Left < a.Right && a.Top < b.Bottom && b.Top < a.Bottom))
        );
}
