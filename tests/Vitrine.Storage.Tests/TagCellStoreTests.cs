using Vitrine.Core.Access;
using Vitrine.Core.Sort.TagSet;
using Vitrine.Storage.Sort.TagSet;
using Vitrine.Storage.Tags;
using Vitrine.Storage.Trail;

namespace Vitrine.Storage.Tests;

public sealed class TagCellStoreTests : IDisposable
{
    private readonly TestWorkspace w = new();
    private readonly TagCellStore cells;

    public TagCellStoreTests()
    {
        cells = new TagCellStore(w.Workspace, w.Tags);
        w.Mark(w.Ida, "standing on the quay", "queue", "effort");
    }

    public void Dispose() => w.Dispose();

    private Tag Tag(string name) => w.Tags.For(w.Study).Single(t => t.Name == name);

    private TagCell Cell(string tag, TagColumn column, string value) => new(Tag(tag).Id, column, value);

    [Fact]
    public void What_fits_is_one_step_and_what_does_not_is_said()
    {
        w.Tags.Make(w.Ida, w.Study, new(TestWorkspace.Named("late"), [], "", null));
        var (step, refused) = cells.Set(
            w.Ida,
            [
                // One takes the name that another gives up, whichever comes first in the tag set.
                Cell("late", TagColumn.Name, "too late"),
                Cell("queue", TagColumn.Name, "late"),
                Cell("effort", TagColumn.Under, "late"),
                Cell("effort", TagColumn.Scale, "1 to 5"),
                Cell("effort", TagColumn.State, "perhaps"),
            ]
        );
        Assert.Equal("Changed 3 tags in the table", step.Label);
        Assert.Equal(TagCellProblem.State, Assert.Single(refused).Problem);
        Assert.Equal((Tag("late").Id, new Scale(1, 5, 1, "", "", "")), (Tag("effort").ParentId!.Value, Tag("effort").Scale!));
        Assert.Equal("late", w.Tags.For(w.Study).Single(t => t.Id == w.Observations.In(w.Source, w.Steward.AccountId)[0].TagIds[0]).Name);
        w.Undo.Back(w.Ida, null, step.ActionId);
        Assert.Equal((null, null), (Tag("effort").ParentId, Tag("effort").Scale));
        Assert.Equal("queue", w.Tags.For(w.Study).Single(t => t.Id == w.Observations.In(w.Source, w.Steward.AccountId)[0].TagIds[0]).Name);
    }

    [Fact]
    public void A_value_that_was_given_keeps_its_scale_and_a_shared_tag_its_makers()
    {
        cells.Set(w.Ida, [Cell("effort", TagColumn.Scale, "1 to 5")]);
        var marked = w.Observations.In(w.Source, w.Steward.AccountId)[0].Id;
        w.Observations.SetValue(w.Ida, marked, Tag("effort").Id, 4);
        Assert.Equal(TagCellProblem.ValuesLost, cells.Set(w.Ida, [Cell("effort", TagColumn.Scale, "")]).Refused.Single().Problem);
        w.Tags.Add(w.Ida, null, new TagValues(TestWorkspace.Named("shared")));
        var taker = w.Tom with { Role = Role.NoteTaker };
        Assert.Throws<Refusal>(() => cells.Set(taker, [Cell("shared", TagColumn.Definition, "Mine.")]));
        Assert.Equal("", Tag("shared").Definition);
    }
}
