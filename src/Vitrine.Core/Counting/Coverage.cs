namespace Vitrine.Core.Counting;

/// <summary>The stretches of text that a set of observations covers, each unit (UTF-16 code unit of a source) counted once.</summary>
public sealed class Coverage
{
    private readonly List<(int Source, int Start, int End)> runs;

    private Coverage(List<(int Source, int Start, int End)> runs) => this.runs = runs;

    /// <summary>How many units are covered.</summary>
    public long Units => runs.Sum(r => (long)(r.End - r.Start));

    /// <summary>The coverage of the given observations.</summary>
    public static Coverage Of(StudyMarks marks, IEnumerable<int> observations)
    {
        var runs = new List<(int Source, int Start, int End)>();
        foreach (var (source, range) in observations.Select(o => (marks.SourceOf[o], marks.RangeOf[o])).OrderBy(x => x.Item1).ThenBy(x => x.Item2.Start))
        {
            if (runs.Count > 0 && runs[^1].Source == source && runs[^1].End >= range.Start)
            {
                runs[^1] = (source, runs[^1].Start, Math.Max(runs[^1].End, range.End));
            }
            else
            {
                runs.Add((source, range.Start, range.End));
            }
        }
        return new Coverage(runs);
    }

    /// <summary>How many units both cover.</summary>
    public long SharedWith(Coverage other)
    {
        long shared = 0;
        var (i, j) = (0, 0);
        while (i < runs.Count && j < other.runs.Count)
        {
            var (x, y) = (runs[i], other.runs[j]);
            if (x.Source == y.Source) shared += Math.Max(0, Math.Min(x.End, y.End) - Math.Max(x.Start, y.Start));
            if (x.Source < y.Source || (x.Source == y.Source && x.End <= y.End)) i++;
            else j++;
        }
        return shared;
    }
}
