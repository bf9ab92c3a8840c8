using Vitrine.Core.Counting;
using Vitrine.Storage.Counting;
using Vitrine.Storage.Mark.Reading;
using Vitrine.Storage.Sort.TagSet;
using Vitrine.Storage.Sort.Themes;
using Vitrine.Storage.Tags;
using Vitrine.Storage.Trail;

namespace Vitrine.Storage.Tests;

public sealed class BundleStoreTests : IDisposable
{
    private readonly TestWorkspace w = new();
    private readonly TagId bundle;

    public BundleStoreTests()
    {
        w.Mark(w.Ida, "standing on the quay", "queue");
        w.Mark(w.Tom, "Nobody tells", "queue", "silence");
        w.Mark(w.Ida, "It was off", "cancelled");
        bundle = Make("For the board", "queue", "silence");
    }

    public void Dispose() => w.Dispose();

    private TagId Make(string name, params string[] tags) =>
        w.Bundles.Make(w.Ida, w.Study, new TagValues(TestWorkspace.Named(name)), [.. tags.Select(t => Tag(t).Id)]).Id!.Value;

    private Tag Tag(string name) => w.Tags.For(w.Study).Single(t => t.Name == name);

    private int Count(TagId id)
    {
        var index = w.Index();
        return Tally.ByTag(index.Marks, rollUp: true)[index.PlaceOfTag(id)!.Value].Length;
    }

    private static string Said(Action act) => Assert.Throws<Refusal>(act).Message;

    /// <summary>Common practice, no source: a tag in a list is what it was, and leaving the list changes no count.</summary>
    [Fact]
    public void It_counts_what_carries_one_of_its_tags_once_and_leaving_it_touches_no_tag()
    {
        Assert.Equal(2, Count(bundle));
        Assert.Equal((2, 1), (Count(Tag("queue").Id), Count(Tag("silence").Id)));
        w.Tags.Place(w.Ida, [Tag("cancelled").Id], Tag("queue").Id, null);
        Assert.Equal(3, Count(bundle));
        Assert.Equal(3, w.Tags.In(w.Steward.AccountId, null).Single(t => t.Id == bundle).Observations);
        Assert.Equal(0, w.Tags.In(w.Steward.AccountId, []).Count(t => t.Id == bundle));
        Assert.Equal(["Boarding"], w.Reach.ReachOf(bundle, w.All).Seen);

        var step = w.Bundles.Put(w.Tom, bundle, [Tag("queue").Id], held: false);
        Assert.Equal("Took a tag out of “For the board”", step.Label);
        Assert.DoesNotContain(
            w.Trail.Of("tag", Tag("queue").Id.Value, w.Steward.AccountId, []),
            t => t.Label.Contains("board", StringComparison.Ordinal)
        );
        Assert.Equal([Tag("silence").Id], Tag("For the board").Members);
        Assert.Equal((1, 3), (Count(bundle), Count(Tag("queue").Id)));
        w.Undo.Back(w.Tom, null, step.ActionId);
        Assert.Equal(3, Count(bundle));

        // The index follows, whether it is read anew or brought up.
        var kept = new StudyIndexStore(w.Workspace);
        Assert.True(kept.Load(w.Study).Marks.Tags.HasBundles);
        w.Tags.Remove(w.Ida, bundle);
        Assert.False(kept.Load(w.Study).Marks.Tags.HasBundles);
        Assert.Equal(3, Count(Tag("queue").Id));
    }

    [Fact]
    public void Conditions_and_themes_take_it_as_a_tag()
    {
        var seen = new SeenStudies(w.Workspace, new StudyIndexStore(w.Workspace));
        Assert.Equal(2, seen.Load(w.Study, w.Ida.AccountId, new Conditions { TagIds = [bundle] }).Observations.Length);
        var theme = w.Themes.Make(w.Ida, w.Study, "They wait", "", null, [], [bundle]).Id!.Value;
        Assert.Equal(2, w.Index().ContentsOf(w.Themes.In(w.Study, w.Steward.AccountId))[0].Count);
        var marked = w.Observations.In(w.Source, w.Steward.AccountId).First(o => o.TagIds.Contains(Tag("silence").Id)).Id;
        Assert.Equal(
            [(long)theme],
            w.Uses.Of(ThingKind.Observation, [marked.Value], w.All).Kinds.Single(k => k.Kind == ThingKind.Theme).Named.Select(t => t.Id)
        );
    }

    /// <summary>Whatever gives a tag to something gives a tag.</summary>
    [Fact]
    public void It_is_given_to_nothing()
    {
        var pens = new PenStore(w.Workspace);
        Action[] acts =
        [
            () => w.Observations.Make(w.Ida, w.Source, TestWorkspace.Words(0, 3), [bundle], []),
            () => w.Mark(w.Ida, "How did you", "for the board"),
            () => w.Mark(w.Ida, "How did you", "queue", "For the Board"),
            () => pens.Set(w.Ida.AccountId, w.Study, 1, bundle),
            () => w.Tags.Make(w.Ida, w.Study, new(TestWorkspace.Named("narrow"), [TestWorkspace.Named("For the board")], "", null)),
            () => w.Tags.Place(w.Ida, [Tag("queue").Id], bundle, null),
            () => w.Tags.Place(w.Ida, [bundle], Tag("queue").Id, null),
            () => w.Bundles.Put(w.Ida, bundle, [Make("To revisit", "queue")], held: true),
        ];
        foreach (var act in acts)
            Assert.Contains("bundle", Said(act), StringComparison.Ordinal);
        Assert.Equal(3, w.Observations.In(w.Source, w.Steward.AccountId).Count);
        Assert.Contains(
            "no bundle",
            Said(() => w.Bundles.Put(w.Ida, Tag("queue").Id, [Tag("silence").Id], true)),
            StringComparison.Ordinal
        );
        Assert.Contains("a bundle “For the board” already", Said(() => Make("for the board", "queue")), StringComparison.Ordinal);
        Assert.DoesNotContain(w.Tags.In(w.Steward.AccountId, null), t => t.Name == "narrow");
    }

    [Fact]
    public void A_shared_one_holds_shared_tags()
    {
        var shared = w.Tags.Add(w.Steward, null, new TagValues(TestWorkspace.Named("waiting"))).Id!.Value;
        var all = w.Bundles.Make(w.Ida, null, new TagValues(TestWorkspace.Named("Everywhere")), [shared]).Id!.Value;
        Assert.Contains("Propose the tag", Said(() => w.Bundles.Put(w.Ida, all, [Tag("queue").Id], true)), StringComparison.Ordinal);
        // The steward takes in a bundle once its tags are shared.
        var proposals = new ProposalStore(w.Workspace);
        proposals.Propose(w.Ida, w.Study, bundle, "");
        Assert.Contains("first", Said(() => proposals.Accept(w.Steward, w.Study, bundle, null, "")), StringComparison.Ordinal);
    }

    [Fact]
    public void A_tag_that_is_merged_or_goes_is_followed_and_bundles_are_merged_with_bundles()
    {
        var merge = new TagMerge(w.Workspace, w.Uses);
        Assert.Equal(
            ["For the board"],
            TestWorkspace.Titles(merge.Preview(Tag("cancelled").Id, [Tag("queue").Id], w.All).Uses, ThingKind.Tag, "bundle")
        );
        Assert.Single(TestWorkspace.Titles(w.Reach.HangsOn(Tag("queue").Id, w.All).Uses, ThingKind.Tag, "bundle"));
        merge.Merge(w.Ida, Tag("cancelled").Id, [Tag("queue").Id], "", "");
        Assert.Equal(3, Count(bundle));
        var other = Make("To revisit", "cancelled");
        Assert.Contains("into a bundle", Said(() => merge.Merge(w.Ida, bundle, [Tag("silence").Id], "", "")), StringComparison.Ordinal);
        var step = merge.Merge(w.Ida, other, [bundle], "", "");
        Assert.Equal(2, Tag("To revisit").Members!.Count);
        w.Undo.Back(w.Ida, null, step.ActionId);
        Assert.Equal([Tag("cancelled").Id], Tag("To revisit").Members);
        w.Tags.Remove(w.Ida, Tag("silence").Id);
        Assert.Equal([Tag("cancelled").Id], Tag("For the board").Members);
    }
}
