using Vitrine.Core.Sort.TagSet;

namespace Vitrine.Core.Tests;

public sealed class CodebookPlanTests
{
    private static readonly Guid Key = new(1, 0, 0, new byte[8]);

    private static TagName Named(string name) => TagName.Read(name, out _)!;

    private static CodebookEntry Entry(int id, string name, int? parent = null, string definition = "", params string[] aliases) =>
        new(id, new Guid(id, 0, 0, new byte[8]), Named(name), parent, definition, "", definition.Length > 0, [.. aliases.Select(Named)]);

    private static CodebookLine Line(string name, string above = "", string definition = "", string aliases = "", Guid? key = null) =>
        new(
            name,
            above.Split('/', StringSplitOptions.RemoveEmptyEntries),
            definition,
            "",
            aliases.Split(',', StringSplitOptions.RemoveEmptyEntries),
            null,
            key
        );

    private static readonly CodebookEntry[] There =
    [
        Entry(1, "Hearing", null, "How word reaches someone."),
        Entry(2, "late", 1, "", "too late"),
        Entry(3, "queue", null, "They stand."),
    ];

    private static string Told(params CodebookLine[] lines) =>
        string.Join(
            "; ",
            CodebookPlan
                .Of(lines, There)
                .Select(p => $"{p.Name?.Shown} {p.Fate} {p.Match} {string.Join('+', p.Changes)}{p.Problem}".Replace("  ", " ").Trim())
        );

    [Fact]
    public void A_line_is_known_by_id_then_by_name_then_by_another_name()
    {
        Assert.Equal("hearing Changed Id Name", Told(Line("hearing", key: Key)));
        Assert.Equal("Word of it Changed Id Name", Told(Line("Word of it", key: Key)));
        Assert.Equal("Hearing Same Name", Told(Line(" HEARING ")));
        Assert.Equal("late Changed Alias Definition", Told(Line("too  late", "", "After it.")));
        Assert.Equal("mud Added", Told(Line("mud")));
        // An id that means nothing here is no reason to make a second tag of a name.
        Assert.Equal("queue Same Name", Told(Line("queue", key: Guid.NewGuid())));
    }

    [Fact]
    public void What_is_empty_says_nothing_and_other_names_are_added()
    {
        Assert.Equal("queue Same Name", Told(Line("queue")));
        Assert.Equal("queue Changed Name Place", Told(Line("queue", "Hearing")));
        Assert.Equal("late Same Name", Told(Line("late", "Hearing")));
        var plan = CodebookPlan.Of([Line("late", "", " ", "too late,after it,queue,late")], There).Single();
        Assert.Equal(["too late", "after it"], plan.Aliases.Select(a => a.Shown));
        Assert.Equal([CodebookChange.Aliases], plan.Changes);
        var made = CodebookPlan.Of([Line("mud", "Quay/Weather", " wet ")], There).Single();
        Assert.Equal(("wet", true, "Quay, Weather"), (made.Definition, made.Settled, string.Join(", ", made.Above.Select(a => a.Shown))));
    }

    [Fact]
    public void A_scale_comes_in_that_holds_what_was_given_a_colour_as_the_nearest_and_bundles_besides_those_it_is_in()
    {
        CodebookEntry[] there = [Entry(1, "effort") with { Values = [2, 5], Colour = 3, Bundles = [Named("To revisit")] }];
        PlannedTag Plan(Scale? scale, string? colour, params string[] bundles) =>
            CodebookPlan.Of([Line("effort") with { Scale = scale, Colour = colour, Bundles = bundles }], there).Single();
        var five = new Scale(1, 5, 1, "", "", "");
        Assert.Equal([CodebookChange.Scale], Plan(five, null).Changes);
        Assert.Empty(Plan(five with { Most = 4 }, "no colour", "to revisit").Changes);
        // Nearly the second of the palette.
        Assert.Equal((1, CodebookChange.Colour), (Plan(null, "#2C6FAA").Colour, Plan(null, "#2C6FAA").Changes.Single()));
        Assert.Equal(["Board"], Plan(null, null, "Board", "To revisit", "board").Bundles.Select(b => b.Shown));
    }

    [Fact]
    public void A_line_that_cannot_be_taken_is_left_with_why()
    {
        Assert.Equal("Left NoName", Told(Line(" ")));
        Assert.Equal("Left NameTooLong", Told(Line(new string('x', 81))));
        Assert.Equal("Left NameTooLong", Told(Line("x", new string('x', 81))));
        Assert.Equal("mud Added; Left Twice", Told(Line("mud"), Line("Mud")));
        Assert.Equal("late Same Name; Left Twice", Told(Line("late"), Line("too late")));
        Assert.Equal("Left UnderItself", Told(Line("mud", "mud")));
        Assert.Equal("Left UnderItself", Told(Line("Hearing", "late")));
        Assert.Equal("Left NameTaken", Told(Line("queue", key: Key)));
    }

    [Fact]
    public void What_was_taken_in_is_the_same_already_when_it_comes_again()
    {
        var random = new Random(7);
        for (var round = 0; round < 200; round++)
        {
            var there = There.ToList();
            var lines = Enumerable
                .Range(0, 8)
                .Select(_ =>
                    Line(
                        $"tag {random.Next(6)}",
                        random.Next(2) == 0 ? "" : "Hearing",
                        random.Next(2) == 0 ? "" : $"is {random.Next(3)}",
                        $"also {random.Next(6)}"
                    )
                )
                .ToList();
            foreach (var tag in CodebookPlan.Of(lines, there).Where(p => p.Fate == CodebookFate.Added))
                there.Add(
                    new CodebookEntry(
                        there.Count + 1,
                        Guid.NewGuid(),
                        tag.Name!,
                        tag.Above.Count > 0 ? 1 : null,
                        tag.Definition,
                        tag.IsNot,
                        tag.Settled,
                        tag.Aliases
                    )
                );
            var taken = CodebookPlan.Of(lines, There).Where(p => p.Fate != CodebookFate.Left).Select(p => p.Line).ToList();
            Assert.All(CodebookPlan.Of(taken, there), p => Assert.Equal(CodebookFate.Same, p.Fate));
        }
    }
}
