using System.Runtime.InteropServices;

namespace Vitrine.Core.Counting;

/// <summary>Counts any selection of observations as a triple, and per person for the people strip.</summary>
public static class Tally
{
    /// <summary>The triple of the given observations. An observation listed twice counts once.</summary>
    public static Triple Of(StudyMarks marks, IEnumerable<int> observations)
    {
        var sources = new HashSet<int>();
        var people = new HashSet<int>();
        var seen = new HashSet<int>();
        var unattributed = 0;
        foreach (var o in observations)
        {
            if (!seen.Add(o)) continue;
            sources.Add(marks.SourceOf[o]);
            if (marks.PersonOf[o] < 0) unattributed++;
            else people.Add(marks.PersonOf[o]);
        }
        return new Triple(seen.Count, sources.Count, people.Count, unattributed);
    }

    /// <summary>The triple of every tag, from the observations of each as <see cref="ByTag"/> gives them.</summary>
    public static Triple[] OfEach(StudyMarks marks, IReadOnlyList<List<int>> byTag)
    {
        var counter = new TripleCounter(marks);
        return [.. byTag.Select(observations => counter.Of(CollectionsMarshal.AsSpan(observations)))];
    }

    /// <summary>How many of the given observations each person has, by person index.</summary>
    public static int[] PerPerson(StudyMarks marks, IEnumerable<int> observations)
    {
        var counts = new int[marks.PersonCount];
        foreach (var o in observations.Distinct())
        {
            if (marks.PersonOf[o] >= 0) counts[marks.PersonOf[o]]++;
        }
        return counts;
    }

    /// <summary>
    /// The observations of each tag, ascending. With <paramref name="rollUp"/> a parent has the distinct union of its own and all its descendants'.
    /// </summary>
    public static List<int>[] ByTag(StudyMarks marks, bool rollUp)
    {
        var lists = new List<int>[marks.Tags.Count];
        for (var t = 0; t < lists.Length; t++) lists[t] = [];
        for (var o = 0; o < marks.Count; o++)
        {
            foreach (var tag in marks.TagsOn(o))
            {
                foreach (var t in rollUp ? marks.Tags.WithAncestors(tag) : [tag])
                {
                    var list = lists[t];
                    if (list.Count == 0 || list[^1] != o) list.Add(o);
                }
            }
        }
        return lists;
    }
}
