using Vitrine.Core.Mark.Observations;

namespace Vitrine.Core.Counting;

/// <summary>How much is covered, each kind in its own unit.</summary>
/// <param name="Characters">UTF-16 code units of text.</param>
/// <param name="Milliseconds">Milliseconds of recordings.</param>
/// <param name="Area">Area of pictures, in hundred-millionths of one picture (ten-thousandths of its width times those of its
/// height).</param>
public readonly record struct Covered(long Characters, long Milliseconds, long Area);

/// <summary>
/// What a set of observations covers, each code unit, millisecond and bit of area counted once, kind by kind.
/// </summary>
/// <example>
/// Two observations on the words 0 to 10 and 6 to 14 of one source and one on its first second cover 14 characters and 1,000 milliseconds.
/// </example>
public sealed class Coverage
{
    // Text and time are runs along their source; pictures are rectangles that share no area, picture by picture.
    private readonly List<(AnchorKind Kind, int Source, int Start, int End)> runs;
    private readonly List<(int Source, int? AtMs, Box Box)> boxes;

    private Coverage(List<(AnchorKind Kind, int Source, int Start, int End)> runs, List<(int Source, int? AtMs, Box Box)> boxes)
    {
        this.runs = runs;
        this.boxes = boxes;
        Units = new Covered(Length(AnchorKind.Text), Length(AnchorKind.Time), boxes.Sum(b => b.Box.Area));

        long Length(AnchorKind kind) => runs.Where(r => r.Kind == kind).Sum(r => (long)(r.End - r.Start));
    }

    /// <summary>How much is covered.</summary>
    public Covered Units { get; }

    /// <summary>The coverage of the given observations.</summary>
    public static Coverage Of(StudyMarks marks, IEnumerable<int> observations) =>
        Of(observations.Select(o => (marks.SourceOf[o], marks.AnchorOf[o])));

    /// <summary>The coverage of places in sources.</summary>
    public static Coverage Of(IEnumerable<(int Source, Anchor Anchor)> places)
    {
        var runs = new List<(AnchorKind Kind, int Source, int Start, int End)>();
        var regions = new List<(int Source, RegionAnchor Region)>();
        foreach (var (source, anchor) in places.OrderBy(x => x.Anchor.Kind).ThenBy(x => x.Source).ThenBy(x => x.Anchor.From))
        {
            if (anchor is RegionAnchor region)
                regions.Add((source, region));
            else if (runs.Count > 0 && runs[^1].Kind == anchor.Kind && runs[^1].Source == source && runs[^1].End >= anchor.From)
                runs[^1] = runs[^1] with { End = Math.Max(runs[^1].End, anchor.To) };
            else
                runs.Add((anchor.Kind, source, anchor.From, anchor.To));
        }
        var boxes = regions
            .GroupBy(r => (r.Source, r.Region.AtMs))
            .SelectMany(picture =>
                Box.Disjoint(picture.SelectMany(r => Box.Of(r.Region))).Select(box => (picture.Key.Source, picture.Key.AtMs, box))
            );
        return new Coverage(runs, [.. boxes]);
    }

    /// <summary>How much both cover.</summary>
    public Covered SharedWith(Coverage other)
    {
        long characters = 0,
            milliseconds = 0;
        var (i, j) = (0, 0);
        while (i < runs.Count && j < other.runs.Count)
        {
            var (x, y) = (runs[i], other.runs[j]);
            var (here, there) = ((x.Kind, x.Source), (y.Kind, y.Source));
            var order = here.CompareTo(there);
            if (order == 0)
            {
                var shared = Math.Max(0, Math.Min(x.End, y.End) - Math.Max(x.Start, y.Start));
                if (x.Kind == AnchorKind.Text)
                    characters += shared;
                else
                    milliseconds += shared;
            }
            if (order < 0 || (order == 0 && x.End <= y.End))
                i++;
            else
                j++;
        }
        var theirs = other.boxes.ToLookup(b => (b.Source, b.AtMs), b => b.Box);
        return new Covered(characters, milliseconds, boxes.Sum(b => theirs[(b.Source, b.AtMs)].Sum(t => b.Box.SharedWith(t))));
    }

    /// <summary>A rectangle by its edges.</summary>
    private readonly record struct Box(int Left, int Top, int Right, int Bottom)
    {
        public long Area => (long)(Right - Left) * (Bottom - Top);

        /// <summary>A region as rectangles that share no area.</summary>
        public static IEnumerable<Box> Of(RegionAnchor region) => region.Strips.Select(s => new Box(s.Left, s.Top, s.Right, s.Bottom));

        public long SharedWith(Box other) =>
            (long)Math.Max(0, Math.Min(Right, other.Right) - Math.Max(Left, other.Left))
            * Math.Max(0, Math.Min(Bottom, other.Bottom) - Math.Max(Top, other.Top));

        /// <summary>Rectangles that share no area and cover the same: those that come later lose what is covered already.</summary>
        public static List<Box> Disjoint(IEnumerable<Box> boxes)
        {
            var covered = new List<Box>();
            foreach (var box in boxes)
            {
                var left = new List<Box> { box };
                foreach (var there in covered)
                    left = [.. left.SelectMany(b => b.Without(there))];
                covered.AddRange(left);
            }
            return covered;
        }

        private IEnumerable<Box> Without(Box other)
        {
            if (SharedWith(other) == 0)
            {
                yield return this;
                yield break;
            }
            var (top, bottom) = (Math.Max(Top, other.Top), Math.Min(Bottom, other.Bottom));
            if (Top < top)
                yield return this with
                {
                    Bottom = top,
                };
            if (bottom < Bottom)
                yield return this with
                {
                    Top = bottom,
                };
            if (Left < other.Left)
                yield return new Box(Left, top, other.Left, bottom);
            if (other.Right < Right)
                yield return new Box(other.Right, top, Right, bottom);
        }
    }
}
