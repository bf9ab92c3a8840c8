using Vitrine.Core.Sort.TagSet;

namespace Vitrine.Core.Tests;

public sealed class TagCellsTests
{
    private static TagName Named(string name) => TagName.Read(name, out _)!;

    private static TagRow Row(int id, string name, int? parent = null, int? study = null) =>
        new(id, Named(name), parent, "", "", [], false, null, null) { StudyId = study };

    private static readonly TagRow[] There =
    [
        Row(1, "hearing"),
        Row(2, "late", 1),
        Row(3, "boarding"),
        Row(4, "late", 3, study: 7) with
        {
            Name = Named("late too"),
        },
        Row(5, "queue", study: 8),
        Row(6, "effort") with
        {
            Scale = new Scale(1, 5, 1, "", "", ""),
            Values = [2],
        },
    ];

    private static string Told(params (int Tag, TagColumn Column, string Value)[] cells)
    {
        var (changed, refused) = TagCells.Of([.. cells.Select(c => new TagCell(c.Tag, c.Column, c.Value))], There);
        return string.Join(
            "; ",
            [
                .. changed.Select(t =>
                    $"{t.Id}: {t.ParentId}/{t.Name.Shown} {t.Definition}{t.IsNot}{string.Join('+', t.Aliases.Select(a => a.Shown))} "
                    + $"{(t.Settled ? "settled" : "draft")} {(t.Scale is { } s ? ScaleWords.Of(s) : "")}{t.Colour}".Trim()
                ),
                .. refused.Select(r => $"{r.Cell.TagId} {r.Problem}"),
            ]
        );
    }

    [Fact]
    public void Each_cell_is_taken_or_refused_by_itself()
    {
        Assert.Equal(
            "1: /Hearing of it How word comes. settled; 2 NameTaken; 99 NoTag",
            Told(
                (1, TagColumn.Name, " Hearing  of it"),
                (2, TagColumn.Name, "boarding"),
                (1, TagColumn.Definition, "How word comes."),
                (99, TagColumn.Name, "x")
            )
        );
        Assert.Equal("3: /boarding in line+waits draft", Told((3, TagColumn.Aliases, "in line; waits; In line")));
        Assert.Equal("3 NameTaken", Told((3, TagColumn.Aliases, "late")));
        Assert.Equal("3: /boarding  settled 5", Told((3, TagColumn.State, "Settled"), (3, TagColumn.Colour, "6")));
        Assert.Equal(
            "3 State; 3 Colour; 3 NoName",
            Told((3, TagColumn.State, "maybe"), (3, TagColumn.Colour, "13"), (3, TagColumn.Name, " "))
        );
        Assert.Equal("6: /effort  draft 1 to 7", Told((6, TagColumn.Scale, "1 to 7")));
        Assert.Equal("6 ValuesLost; 6 Scale", Told((6, TagColumn.Scale, ""), (6, TagColumn.Scale, "high")));
    }

    [Fact]
    public void What_a_tag_stands_under_is_named_by_as_many_names_as_are_needed()
    {
        // A name that is given in the same paste is known already.
        Assert.Equal(
            "1: /word draft; 3: 1/boarding  draft",
            Told((3, TagColumn.Under, "word"), (1, TagColumn.Name, "word")).Replace("word  draft", "word draft", StringComparison.Ordinal)
        );
        Assert.Equal("6: 2/effort  draft 1 to 5", Told((6, TagColumn.Under, "hearing / late")));
        Assert.Equal("2: /late  draft", Told((2, TagColumn.Under, "")));
        Assert.Equal("1 UnderItself; 3 NoParent", Told((1, TagColumn.Under, "late"), (3, TagColumn.Under, "nowhere")));
        // A shared tag stands under no study's own, and a study's own under none of another study.
        Assert.Equal("1 NoParent; 4 NoParent", Told((1, TagColumn.Under, "late too"), (4, TagColumn.Under, "queue")));
    }

    [Fact]
    public void A_name_that_is_given_up_is_free()
    {
        Assert.Equal("1 NameTaken", Told((1, TagColumn.Name, "boarding")));
        Assert.Equal("1: /late one  draft; 2: 1/hearing  draft", Told((1, TagColumn.Name, "late one"), (2, TagColumn.Name, "hearing")));
    }
}
