using Vitrine.Core.Sort.TagSet;
using Vitrine.Core.Text;

namespace Vitrine.Core.Tests;

public sealed class LookAlikesTests
{
    // The pairs of Winkler's report ("String comparator metrics and enhanced decision rules in the Fellegi-Sunter model of record linkage",
    // 1990), to three digits. From memory.
    [Theory]
    [InlineData("MARTHA", "MARHTA", 0.961)]
    [InlineData("DWAYNE", "DUANE", 0.840)]
    [InlineData("DIXON", "DICKSONX", 0.813)]
    [InlineData("JONES", "JOHNSON", 0.832)]
    [InlineData("ABROMS", "ABRAMS", 0.922)]
    [InlineData("", "", 1)]
    [InlineData("a", "", 0)]
    [InlineData("abc", "xyz", 0)]
    public void Likeness_is_that_of_the_published_pairs(string one, string other, double likeness)
    {
        Assert.Equal(likeness, Spelling.Likeness(one, other), 3);
        Assert.Equal(likeness, Spelling.Likeness(other, one), 3);
    }

    // Damerau's four single errors (1964): a letter wrong, missing, too much, or two swapped; and common examples. From memory.
    [Theory]
    [InlineData("separate", "seperate", 1)]
    [InlineData("quay", "qay", 1)]
    [InlineData("queue", "queueu", 1)]
    [InlineData("ferry", "frery", 1)]
    [InlineData("kitten", "sitting", 3)]
    [InlineData("ca", "abc", 3)]
    [InlineData("", "abc", 3)]
    [InlineData("same", "same", 0)]
    public void Distance_counts_single_errors(string one, string other, int errors)
    {
        Assert.Equal(errors, Spelling.Distance(one, other));
        Assert.Equal(errors, Spelling.Distance(other, one));
    }

    private static string[] Found(params string[] names) => Found(names.Select(n => (n, Array.Empty<string>())).ToArray());

    private static string[] Found(params (string Name, string[] Aliases)[] tags) =>
        [
            .. LookAlikes
                .Of([.. tags.Select((t, i) => new LookAlikeTag(i + 1, t.Name, t.Aliases, null, 0))], new Dictionary<(TagId, TagId), int>())
                .Select(p => $"{tags[(int)p.One.Value - 1].Name} = {tags[(int)p.Other.Value - 1].Name}: {string.Join(", ", p.Reasons)}"),
        ];

    [Fact]
    public void Names_are_look_alikes_by_their_stems_their_spelling_or_another_name()
    {
        Assert.Equal(["told by neighbours = the neighbour told: SameStems"], Found("told by neighbours", "queue", "the neighbour told"));
        Assert.Equal(["good notice = good notcie: NearSpelling"], Found("good notice", "good notcie", "bad news"));
        Assert.Equal(["hearsay = word of mouth: Alias"], Found(("hearsay", []), ("word of mouth", ["hear say"])));
        Assert.Empty(Found("wave 1", "wave 2", "app", "map", "cat", "car"));
        Assert.Empty(Found("learnt on the quay", "too late to act", "price not clear", "queue"));
    }

    [Fact]
    public void Tags_on_nearly_the_same_observations_are_look_alikes_unless_one_stands_under_the_other()
    {
        LookAlikeTag wide = new(1, "hearing", [], null, 10),
            late = new(2, "late", [], 1, 6),
            last = new(3, "told last", [], 1, 5),
            few = new(4, "rain", [], null, 2);
        var both = new Dictionary<(TagId, TagId), int>
        {
            [(1, 2)] = 6,
            [(2, 3)] = 5,
            [(3, 4)] = 2,
        };
        var pair = Assert.Single(LookAlikes.Of([wide, late, last, few], both));
        Assert.Equal(((TagId)2, (TagId)3, 5), (pair.One, pair.Other, pair.Both));
        Assert.Equal([LookAlikeReason.Overlap], pair.Reasons);
    }
}
