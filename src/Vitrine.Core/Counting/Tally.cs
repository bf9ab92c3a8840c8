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
            if (!seen.Add(o))
                continue;
            sources.Add(marks.SourceOf[o]);
            if (marks.PersonOf[o] is { } person)
                people.Add(person);
            else
                unattributed++;
        }
        return new Triple(seen.Count, sources.Count, people.Count, unattributed);
    }

    /// <summary>The triple of every tag, from the observations of each as <see cref="ByTag"/> gives them.</summary>
    public static Triple[] OfEach(StudyMarks marks, IReadOnlyList<int[]> byTag)
    {
        var counter = new TripleCounter(marks);
        return [.. byTag.Select(observations => counter.Of(observations))];
    }

    /// <summary>
    /// The triple of each part of a selection: of the observations that share what <paramref name="partOf"/> says of them.
    /// </summary>
    /// <param name="marks">The study.</param>
    /// <param name="observations">The selection, each observation once.</param>
    /// <param name="partOf">What an observation belongs to; null for nothing.</param>
    public static IReadOnlyDictionary<TKey, Triple> Parts<TKey>(StudyMarks marks, IEnumerable<int> observations, Func<int, TKey?> partOf)
        where TKey : struct
    {
        var counter = new TripleCounter(marks);
        return observations
            .Select(o => (Part: partOf(o), Observation: o))
            .Where(x => x.Part is not null)
            .GroupBy(x => x.Part!.Value, x => x.Observation)
            .ToDictionary(g => g.Key, g => counter.Of([.. g]));
    }

    /// <summary>How many of the given observations each person has, by person index.</summary>
    public static int[] PerPerson(StudyMarks marks, IEnumerable<int> observations)
    {
        var counts = new int[marks.PersonCount];
        foreach (var o in observations.Distinct())
        {
            if (marks.PersonOf[o] is { } person)
                counts[person]++;
        }
        return counts;
    }

    /// <summary>
    /// The observations of each tag, ascending. With <paramref name="rollUp"/> a parent has the distinct union of its own and all its
    /// descendants'. A bundle has the distinct union of its tags and what stands under them, either way. Counted once for the same marks;
    /// not to be written into.
    /// </summary>
    public static int[][] ByTag(StudyMarks marks, bool rollUp) =>
        rollUp ? marks.RolledUp ??= ListsOf(marks, rollUp) : marks.Own ??= ListsOf(marks, rollUp);

    private static int[][] ListsOf(StudyMarks marks, bool rollUp)
    {
        // Counted first, so that each list is made in its length.
        var counts = new int[marks.Tags.Count];
        Walk(marks, rollUp, counts, null);
        var lists = Array.ConvertAll(counts, n => new int[n]);
        Array.Clear(counts);
        Walk(marks, rollUp, counts, lists);
        return lists;
    }

    private static void Walk(StudyMarks marks, bool rollUp, int[] counts, int[][]? lists)
    {
        var last = new int[counts.Length];
        Array.Fill(last, -1);
        for (var o = 0; o < marks.Count; o++)
        {
            foreach (var tag in marks.TagsOn(o))
            {
                // Where a tag has been taken, what is above it has been too.
                for (var t = tag; t >= 0 && last[t] != o; t = rollUp ? marks.Tags.ParentOf(t) : -1)
                {
                    last[t] = o;
                    if (lists is not null)
                        lists[t][counts[t]] = o;
                    counts[t]++;
                }
                foreach (var bundle in marks.Tags.BundlesOf(tag))
                {
                    if (last[bundle] == o)
                        continue;
                    last[bundle] = o;
                    if (lists is not null)
                        lists[bundle][counts[bundle]] = o;
                    counts[bundle]++;
                }
            }
        }
    }
}
