using Vitrine.Core.Sort.TagSet;
using Vitrine.Storage.Sort.TagSet;
using Vitrine.Storage.Tags;
using Vitrine.Storage.Trail;

namespace Vitrine.Storage.Tests;

public sealed class CodebookStoreTests : IDisposable
{
    private readonly TestWorkspace w = new();
    private readonly CodebookStore store;

    public CodebookStoreTests() => store = new CodebookStore(w.Workspace, w.Tags);

    public void Dispose() => w.Dispose();

    private static CodebookLine Line(string name, string above = "", string definition = "", bool? settled = null) =>
        new(name, above.Split('/', StringSplitOptions.RemoveEmptyEntries), definition, "", [], settled, null);

    private string Told()
    {
        var tags = w.Tags.For(w.Study);
        return string.Join(
            "; ",
            tags.Select(t => $"{tags.FirstOrDefault(p => p.Id == t.ParentId)?.Name}/{t.Name}{(t.Settled ? $": {t.Definition}" : "")}")
        );
    }

    [Fact]
    public void Lines_become_tags_under_each_other_in_any_order_and_one_undo_takes_all_back()
    {
        w.Mark(w.Ida, "standing on the quay", "queue");
        var before = Told();
        store.Take(
            w.Ida,
            w.Study,
            [
                Line("in the taxi", "hearing/late"),
                Line("late", "hearing", "After the boat."),
                Line("hearing", "", "How word comes."),
                Line("Queue", "aboard", "They stand."),
                Line("one", "two"),
                Line("two", "one"),
            ]
        );
        Assert.Equal(
            "aboard/queue; /hearing: How word comes.; hearing/late: After the boat.; late/in the taxi; /two; two/one; /aboard",
            Told()
        );
        Assert.Single(w.Observations.In(w.Source, w.Steward.AccountId).Single().TagIds);
        w.Undo.Back(w.Ida, w.Study);
        Assert.Equal(before, Told());
    }

    [Fact]
    public void Nothing_new_is_said_and_no_tag_comes_under_itself()
    {
        store.Take(w.Ida, w.Study, [Line("a"), Line("b", "a"), Line("c", "b")]);
        var before = Told();
        Assert.Throws<Refusal>(() => store.Take(w.Ida, w.Study, [Line("a"), Line("b", "a")]));
        // Each of the two moves is possible, both are not.
        w.Tags.Place(w.Ida, [w.Tags.For(w.Study).Single(t => t.Name == "b").Id], null, null);
        Assert.Throws<Refusal>(() => store.Take(w.Ida, w.Study, [Line("a", "b"), Line("b", "a")]));
        w.Undo.Back(w.Ida, null);
        Assert.Equal(before, Told());
    }

    [Fact]
    public void A_note_taker_changes_no_tag_that_all_studies_share()
    {
        w.Tags.Add(w.Ida, null, new TagValues(TagName.Read("shared", out _)!));
        var taker = w.Ida with { Role = Core.Access.Role.NoteTaker, AccountId = w.Tom.AccountId };
        Assert.Throws<Refusal>(() => store.Take(taker, w.Study, [Line("shared", "", "Mine.")]));
        store.Take(taker, w.Study, [Line("own", "shared", "Mine.")]);
        Assert.Equal("/shared; shared/own: Mine.", Told());
    }

    [Fact]
    public void Scales_colours_and_bundles_come_in_and_a_bundle_is_made_once()
    {
        w.Mark(w.Ida, "standing on the quay", "queue");
        var scale = new Scale(1, 5, 1, "", "easy", "hard");
        store.Take(
            w.Ida,
            w.Study,
            [
                Line("queue") with
                {
                    Bundles = ["Board"],
                },
                Line("effort") with
                {
                    Scale = scale,
                    Colour = "#2c6fa8",
                    Bundles = ["board", "To revisit"],
                },
            ]
        );
        var tags = w.Tags.For(w.Study).ToDictionary(t => t.Name);
        Assert.Equal((scale, 1), (tags["effort"].Scale, tags["effort"].Colour));
        Assert.Equal(2, tags["Board"].Members!.Count);
        Assert.Equal([tags["effort"].Id], tags["To revisit"].Members);
        var again = store.Plan(w.Study, [Line("effort") with { Scale = scale, Bundles = ["Board"] }]);
        Assert.Equal(CodebookFate.Same, again[0].Fate);
        Assert.Contains(
            "no bundle",
            Assert.Throws<Refusal>(() => store.Take(w.Ida, w.Study, [Line("mud") with { Bundles = ["queue"] }])).Message,
            StringComparison.Ordinal
        );
    }

    [Fact]
    public void Ids_and_colours_are_kept_and_a_tag_that_was_renamed_elsewhere_is_known_by_its_id()
    {
        var keys = Enumerable.Range(0, 10).Select(_ => Guid.NewGuid()).ToList();
        var lines = keys.Select((key, i) => Line($"tag {i}") with { Key = key, Colour = "#90EE90", IsCodable = i > 0 }).ToList();
        store.Take(w.Ida, w.Study, [.. lines, Line("Report", "", "For May.") with { Key = Guid.NewGuid(), IsBundle = true }]);
        var named = w.Tags.For(w.Study).ToDictionary(t => t.Name);
        var kept = w.Tags.Keys(w.Study);
        Assert.Equal(keys, keys.Select((_, i) => kept[named[$"tag {i}"].Id]));
        Assert.All(lines, l => Assert.Equal("#90ee90", TagOutside.ColourOf(named[l.Name].Colour, named[l.Name].Outside)));
        Assert.Equal((false, null), (named["tag 0"].Outside!.IsCodable, named["tag 1"].Outside!.IsCodable ? null : "no"));
        Assert.Equal("For May.", named["Report"].Definition);
        Assert.All(store.Plan(w.Study, lines), p => Assert.Equal((CodebookFate.Same, CodebookMatch.Id), (p.Fate, p.Match)));

        var renamed = store.Plan(w.Study, [lines[3] with { Name = "called otherwise" }])[0];
        Assert.Equal((CodebookFate.Changed, named["tag 3"].Id), (renamed.Fate, renamed.TagId));
        // A colour that is chosen here takes the place of the one it came with.
        var own = named["tag 5"];
        w.Tags.Change(w.Ida, own.Id, own.Version, new TagValues(TestWorkspace.Named(own.Name), Colour: 1));
        own = w.Tags.For(w.Study).Single(t => t.Id == own.Id);
        Assert.Equal(Palette.Of(1), TagOutside.ColourOf(own.Colour, own.Outside));
        // Another study has its own tags of the same ids.
        store.Take(w.Ida, null, [Line("shared") with { Key = keys[0] }]);
        Assert.NotEqual(keys[0], w.Tags.Keys(null)[w.Tags.For(null).Single().Id]);
    }

    [Fact]
    public void Without_a_study_tags_come_into_the_shared_set()
    {
        w.Mark(w.Ida, "standing on the quay", "queue");
        var step = store.Take(w.Ida, null, [Line("late", "hearing", "After it."), Line("queue") with { Bundles = ["Everywhere"] }]);
        Assert.All(w.Tags.For(null), t => Assert.Null(t.StudyId));
        // The study's own tag of that name is another.
        Assert.Equal(2, w.Tags.For(w.Study).Count(t => t.Name == "queue"));
        Assert.Single(w.Tags.For(null).Single(t => t.Name == "Everywhere").Members!);
        w.Undo.Back(w.Ida, null, step.ActionId);
        Assert.Empty(w.Tags.For(null));
    }
}
