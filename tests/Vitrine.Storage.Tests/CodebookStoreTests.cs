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
        Assert.Single(w.Observations.In(w.Source).Single().TagIds);
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
