using Vitrine.Core.Sort.TagSet;

namespace Vitrine.Core.Tests;

public class TagSetHistoryTests
{
    private static TagThen Tag(int id, string name = "a", int? parent = null, string definition = "", bool settled = false) =>
        new(id, name, parent is { } p ? (TagId)p : null, definition, "", settled, false, []);

    private static IReadOnlyList<TagDifference> Between(TagThen[] then, params TagThen[] now) =>
        TagSetHistory.Between(
            then,
            now,
            new Dictionary<TagId, TagId> { [8] = 1 },
            new Dictionary<TagId, IReadOnlyList<TagId>> { [9] = [1, 2] }
        );

    [Fact]
    public void What_is_as_it_was_is_no_difference() => Assert.Empty(Between([Tag(1), Tag(2)], Tag(2), Tag(1)));

    [Fact]
    public void What_came_went_and_changed_is_told_with_where_it_went()
    {
        var found = Between(
            [Tag(1, "hearing"), Tag(2, "late", 1), Tag(7), Tag(8), Tag(9)],
            Tag(1, "hearing of it", definition: "How the news came.", settled: true),
            Tag(2, "late"),
            Tag(3)
        );
        Assert.Equal([1, 2, 3, 7, 8, 9], found.Select(d => (d.Now ?? d.Then)!.Id.Value));
        Assert.Equal([TagChange.Renamed, TagChange.Defined, TagChange.Settled], found[0].Changes);
        Assert.Equal([TagChange.Moved], found[1].Changes);
        Assert.Equal([TagChange.Added], found[2].Changes);
        Assert.Equal([TagChange.Removed], found[3].Changes);
        Assert.Equal((TagChange.Merged, (TagId)1), (found[4].Changes[0], found[4].Into[0]));
        Assert.Equal((TagChange.Split, 2), (found[5].Changes[0], found[5].Into.Count));
    }

    [Fact]
    public void A_tag_that_stayed_above_what_it_was_split_into_is_told_as_split_and_back_from_retirement_as_brought_back()
    {
        var found = Between([Tag(1), Tag(2) with { Retired = true }], Tag(1) with { SplitInto = [2] }, Tag(2));
        Assert.Equal((TagChange.Split, (TagId)2), (found[0].Changes[0], found[0].Into[0]));
        Assert.Equal([TagChange.BroughtBack], found[1].Changes);
    }
}
