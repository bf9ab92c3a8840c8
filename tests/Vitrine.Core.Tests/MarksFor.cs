using Vitrine.Core.Counting;
using Vitrine.Core.Mark.Observations;
using Vitrine.Core.Sort.TagSet;
using Vitrine.Core.Text;

namespace Vitrine.Core.Tests;

/// <summary>Small studies for the counting tests: written out by hand, or made from a seed.</summary>
internal static class MarksFor
{
    public sealed record Mark(int Source, int? Person, Anchor Anchor, params int[] Tags)
    {
        public Mark(int source, int? person, int start, int end, params int[] tags)
            : this(source, person, new TextAnchor(new TextRange(start, end)), tags) { }
    }

    public static StudyMarks Study(int[] tagParents, int sources, int people, params Mark[] marks) =>
        Study(new TagTree(tagParents), sources, people, marks);

    public static StudyMarks Study(TagTree tags, int sources, int people, params Mark[] marks)
    {
        var starts = new int[marks.Length + 1];
        for (var i = 0; i < marks.Length; i++)
            starts[i + 1] = starts[i] + marks[i].Tags.Length;
        return new StudyMarks
        {
            SourceOf = [.. marks.Select(m => m.Source)],
            PersonOf = [.. marks.Select(m => m.Person)],
            AnchorOf = [.. marks.Select(m => m.Anchor)],
            TagStarts = starts,
            TagOf = [.. marks.SelectMany(m => m.Tags)],
            Tags = tags,
            SourceCount = sources,
            PersonCount = people,
        };
    }

    /// <summary>A random study of observations on text, time and pictures; the same seed makes the same one.</summary>
    public static StudyMarks Random(int seed)
    {
        var random = new Random(seed);
        var (tags, sources, people) = (random.Next(1, 9), random.Next(1, 5), random.Next(1, 7));
        var parents = Enumerable.Range(0, tags).Select(t => random.Next(3) == 0 || t == 0 ? -1 : random.Next(t)).ToArray();
        var marks = Enumerable
            .Range(0, random.Next(0, 40))
            .Select(_ =>
            {
                var (start, length) = (random.Next(0, 60), random.Next(1, 25));
                Anchor anchor = random.Next(4) switch
                {
                    0 => new TimeAnchor(start, start + length),
                    1 => new RegionAnchor(
                        random.Next(20),
                        random.Next(20),
                        length,
                        random.Next(1, 20),
                        random.Next(3) switch
                        {
                            0 => null,
                            var at => at,
                        }
                    ),
                    _ => new TextAnchor(new TextRange(start, start + length)),
                };
                var own = Enumerable.Range(0, tags).Where(_ => random.Next(4) == 0).ToArray();
                return new Mark(random.Next(sources), random.Next(-1, people) is >= 0 and var person ? person : null, anchor, own);
            })
            .ToArray();
        // Bundles come after the tags; some studies have none.
        var bundles = random.Next(0, 3);
        var members = Enumerable
            .Range(tags, bundles)
            .SelectMany(b => Enumerable.Range(0, tags).Where(_ => random.Next(3) == 0).Select(t => (b, t)))
            .ToList();
        return Study(new TagTree([.. parents, .. Enumerable.Repeat(-1, bundles)], members), sources, people, marks);
    }
}
