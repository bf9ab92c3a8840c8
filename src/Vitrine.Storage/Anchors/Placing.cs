using System.Globalization;
using Vitrine.Core.Mark.Observations;
using Vitrine.Core.Text;
using Vitrine.Storage.Trail;

namespace Vitrine.Storage.Anchors;

/// <summary>Places in sources as requests give them and as sentences name them.</summary>
internal static class Placing
{
    /// <summary>The place that a request gives, when its source has such a place.</summary>
    /// <exception cref="Refusal">It has not.</exception>
    public static Anchor Fitting(AnchorGiven given, AnchorGround ground)
    {
        var (anchor, problem) = given.In(ground);
        return anchor
            ?? throw Refusal.Because(
                RefusalSentences.Of(problem!.Value),
                given.Kind switch
                {
                    AnchorKind.Text => "start",
                    AnchorKind.Time => "beginMs",
                    _ => "x",
                }
            );
    }

    /// <summary>What is said of a place in the trail.</summary>
    public static string InWords(Anchor anchor, AnchorGround ground) =>
        anchor switch
        {
            TextAnchor text => $"“{Excerpt.Beginning(text.Range.Of(ground.Text))}”",
            TimeAnchor time => $"{Clock(time.BeginMs)} to {Clock(time.EndMs)}",
            RegionAnchor { AtMs: { } at } => $"a part of the picture at {Clock(at)}",
            _ => "a part of the picture",
        };

    private static string Clock(int ms) =>
        TimeSpan.FromMilliseconds(ms).ToString(ms < 3_600_000 ? @"m\:ss" : @"h\:mm\:ss", CultureInfo.InvariantCulture);
}
