using FsCheck.Xunit;
using Vitrine.Core.Mark.Observations;

namespace Vitrine.Core.Tests;

/// <summary>Free outlines in pictures; their areas are held against the shoelace formula (Meister 1769).</summary>
public class OutlineTests
{
    private static RegionAnchor Region(string points) =>
        (RegionAnchor)new AnchorGiven(AnchorKind.Region, Outline: points).In(new AnchorGround("", null, true)).Anchor!;

    private static long Area(Outline outline) => outline.Strips().Sum(s => (long)(s.Right - s.Left) * (s.Bottom - s.Top));

    [Fact]
    public void An_outline_has_the_least_box_around_it_and_is_written_as_it_was_read()
    {
        var outline = Outline.Read(" 1000,2000  3000,2000 2000,6000 ")!;
        Assert.Equal((1000, 2000, 2000, 4000), (outline.X, outline.Y, outline.Width, outline.Height));
        Assert.Equal("1000,2000 3000,2000 2000,6000", outline.ToString());
        Assert.Equal(Region("1000,2000 3000,2000 2000,6000"), Region("1000,2000 3000,2000  2000,6000"));
        Assert.NotEqual<Anchor>(Region("1000,2000 3000,2000 2000,6000"), new RegionAnchor(1000, 2000, 2000, 4000, null));
    }

    [Theory]
    [InlineData("")]
    [InlineData("1,1 2,2")]
    [InlineData("0,0 1000,0 10001,1000")]
    [InlineData("0,0 -1,0 5,1000")]
    [InlineData("0,0 1000,0 a,1000")]
    [InlineData("0,0 1000,0 1000")]
    [InlineData("0,0 1000,0 2000,0")]
    [InlineData("5,5 5,5 5,5")]
    public void What_is_no_outline_is_refused(string points) =>
        Assert.Equal(
            AnchorProblem.NoOutline,
            new AnchorGiven(AnchorKind.Region, Outline: points).In(new AnchorGround("", null, true)).Problem
        );

    [Fact]
    public void Too_many_corners_are_refused() =>
        Assert.Null(Outline.Read(string.Join(' ', Enumerable.Range(0, Outline.Most + 1).Select(i => $"{i},{i % 7 * 100}"))));

    [Property]
    public void Its_area_is_that_of_the_shoelace_formula_to_a_fiftieth_of_its_box(byte[] radii)
    {
        if (radii.Length < 3)
            return;
        // Corners around a middle, so that no edges cross.
        var corners = radii
            .Take(100)
            .Select((r, i) => (Angle: 2 * Math.PI * i / Math.Min(100, radii.Length), Radius: 500 + (r * 15)))
            .Select(c => (X: (int)(5000 + (c.Radius * Math.Cos(c.Angle))), Y: (int)(5000 + (c.Radius * Math.Sin(c.Angle)))))
            .ToList();
        var outline = Outline.Read(string.Join(' ', corners.Select(c => $"{c.X},{c.Y}")))!;
        var direct =
            Math.Abs(
                corners.Select((a, i) => (a, b: corners[(i + 1) % corners.Count])).Sum(e => ((long)e.a.X * e.b.Y) - ((long)e.b.X * e.a.Y))
            ) / 2.0;
        Assert.InRange(
            Area(outline),
            direct - ((long)outline.Width * outline.Height / 50.0),
            direct + ((long)outline.Width * outline.Height / 50.0)
        );
        var strips = outline.Strips();
        for (var i = 0; i < strips.Count; i++)
        {
            for (var j = i + 1; j < strips.Count; j++)
            {
                var (a, b) = (strips[i], strips[j]);
                Assert.False(a.Left < b.Right && b.Left < a.Right && a.Top < b.Bottom && b.Top < a.Bottom);
            }
        }
    }

    [Fact]
    public void Outlines_touch_where_they_share_area_and_not_where_their_boxes_alone_do()
    {
        // Two halves of one square, and a small box in the corner of each.
        var (upper, lower) = (Region("0,0 1000,0 0,1000"), Region("1000,1000 1000,20 20,1000"));
        Assert.False(upper.Touches(lower));
        Assert.True(upper.Touches(new RegionAnchor(0, 0, 100, 100, null)));
        Assert.False(upper.Touches(new RegionAnchor(900, 900, 100, 100, null)));
        Assert.True(lower.Touches(new RegionAnchor(900, 900, 100, 100, null)));
        // What crosses itself is inside by turns: the middle of a star of two squares is not.
        var twice = Outline.Read("0,0 1000,0 1000,1000 0,1000 0,0 1000,0 1000,1000 0,1000");
        Assert.Null(twice);
    }
}
