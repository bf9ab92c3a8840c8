using Vitrine.Core.Mark.Observations;
using Vitrine.Core.Text;

namespace Vitrine.Core.Tests;

public class AnchorTests
{
    private static readonly AnchorGround Words = new(" Three words here ", null, false);
    private static readonly AnchorGround Film = new("", 60_000, true);

    [Fact]
    public void What_fits_is_an_anchor()
    {
        Assert.Equal(
            (new TextAnchor(new TextRange(1, 6)), (AnchorProblem?)null),
            new AnchorGiven(AnchorKind.Text, Start: 6, End: 0).In(Words)
        );
        Assert.Equal((new TimeAnchor(1, 60_000), null), new AnchorGiven(AnchorKind.Time, BeginMs: 1, EndMs: 99_000).In(Film));
        Assert.Equal(
            (new RegionAnchor(9_999, 0, 1, 10_000, 5), null),
            new AnchorGiven(AnchorKind.Region, X: 9_999, Y: 0, Width: 1, Height: 10_000, AtMs: 5).In(Film)
        );
    }

    public static TheoryData<AnchorGiven, AnchorProblem> Misfits =>
        new()
        {
            { new AnchorGiven(AnchorKind.Text), AnchorProblem.NoWords },
            { new AnchorGiven(AnchorKind.Text, Start: 0, End: 1), AnchorProblem.NoWords },
            { new AnchorGiven(AnchorKind.Time, BeginMs: 0, EndMs: 5), AnchorProblem.NoTimes },
            { new AnchorGiven(AnchorKind.Region, X: 0, Y: 0, Width: 5, Height: 5), AnchorProblem.NoPicture },
        };

    [Theory]
    [MemberData(nameof(Misfits))]
    public void What_the_source_does_not_have_is_said(AnchorGiven given, AnchorProblem problem) =>
        Assert.Equal((null, problem), given.In(Words));

    [Theory]
    [InlineData(null, 5)]
    [InlineData(-1, 5)]
    [InlineData(5, 5)]
    [InlineData(60_000, 60_001)]
    [InlineData(0, int.MinValue)]
    public void A_time_outside_the_source_is_said(int? begin, int? end) =>
        Assert.Equal(AnchorProblem.OutsideTime, new AnchorGiven(AnchorKind.Time, BeginMs: begin, EndMs: end).In(Film).Problem);

    [Theory]
    [InlineData(-1, 0, 5, 5, null)]
    [InlineData(0, 10_000, 5, 5, null)]
    [InlineData(9_999, 0, 2, 5, null)]
    [InlineData(0, 0, 0, 5, null)]
    [InlineData(0, 0, int.MaxValue, 5, null)]
    [InlineData(0, 0, 5, 5, -1)]
    [InlineData(null, 0, 5, 5, null)]
    public void A_rectangle_outside_the_picture_is_said(int? x, int y, int width, int height, int? at)
    {
        Assert.Equal(
            AnchorProblem.OutsidePicture,
            new AnchorGiven(AnchorKind.Region, X: x, Y: y, Width: width, Height: height, AtMs: at).In(Film).Problem
        );
        if (x is { } edge)
            Assert.Throws<ArgumentOutOfRangeException>(() => new RegionAnchor(edge, y, width, height, at));
    }

    [Fact]
    public void A_clip_splits_at_a_moment_inside_it_and_joins_to_the_least_that_holds_both()
    {
        var clip = new TimeAnchor(1000, 3000);
        var (before, after) = clip.Split("", 1500);
        Assert.Equal((new TimeAnchor(1000, 1500), new TimeAnchor(1500, 3000)), (before, after));
        Assert.Equal(clip, after!.Cover(before!));
        Assert.Equal((null, null), clip.Split("", 1000));
        Assert.Equal((null, null), clip.Split("", 3000));
        var region = new RegionAnchor(0, 0, 10, 10, null);
        Assert.Equal((null, null), region.Split("", 0));
        Assert.Null(region.Cover(region));
        Assert.Null(clip.Cover(new TextAnchor(new TextRange(0, 4))));
        Assert.Equal(
            (new TextAnchor(new TextRange(0, 2)), new TextAnchor(new TextRange(3, 5))),
            new TextAnchor(new TextRange(0, 5)).Split("so we", 3)
        );
    }
}
