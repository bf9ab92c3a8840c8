using System.Text.Json.Serialization;
using Vitrine.Core.Mark.Observations;

namespace Vitrine.Core.Gather.Privacy;

/// <summary>How a part of a picture is covered.</summary>
public enum CoverLook
{
    /// <summary>One colour: nothing of it is left.</summary>
    Solid,

    /// <summary>Blurred: movement and rough shapes are left.</summary>
    Blur,
}

/// <summary>A part of a picture or film that is covered in whatever leaves.</summary>
/// <param name="Look">How.</param>
/// <param name="X">The left edge, in ten-thousandths of the picture's width, as of a <see cref="RegionAnchor"/>.</param>
/// <param name="Y">The upper edge, in ten-thousandths of its height.</param>
/// <param name="Width">1 or more.</param>
/// <param name="Height">1 or more.</param>
/// <param name="BeginMs">When it begins to be covered; null for from the beginning, and for a picture.</param>
/// <param name="EndMs">When it is not covered any more; null for to the end.</param>
public sealed record Cover(CoverLook Look, int X, int Y, int Width, int Height, int? BeginMs = null, int? EndMs = null)
{
    /// <summary>The most covers of one source.</summary>
    public const int Most = 50;

    /// <summary>Whether it holds some of the picture and some time.</summary>
    [JsonIgnore]
    public bool IsSound =>
        X >= 0
        && Y >= 0
        && Width > 0
        && Height > 0
        && Width <= RegionAnchor.Whole - Math.Min(X, RegionAnchor.Whole)
        && Height <= RegionAnchor.Whole - Math.Min(Y, RegionAnchor.Whole)
        && BeginMs is null or >= 0
        && (EndMs ?? int.MaxValue) > (BeginMs ?? 0);

    /// <summary>Whether it is there at a moment.</summary>
    public bool CoversAt(int ms) => (BeginMs ?? 0) <= ms && ms < (EndMs ?? int.MaxValue);
}

/// <summary>How people are protected in what leaves of a recording or picture.</summary>
/// <param name="VoiceChanged">Whether voices are made less recognisable.</param>
/// <param name="Covers">Parts of the picture that are covered.</param>
public sealed record Protection(bool VoiceChanged, IReadOnlyList<Cover> Covers)
{
    /// <summary>Nothing is changed.</summary>
    public static Protection None { get; } = new(false, []);
}
