using Vitrine.Core.Sort.TagSet;
using Vitrine.Storage.Counting;
using Vitrine.Storage.Sort.TagSet;
using Vitrine.Storage.Tags;

namespace Vitrine.Storage.Tests;

public sealed class TagHistoryStoreTests : IDisposable
{
    private readonly TestWorkspace w = new();
    private readonly TagHistoryStore history;

    public TagHistoryStoreTests() => history = new TagHistoryStore(w.Workspace);

    public void Dispose() => w.Dispose();

    private Tag Tag(string name) => w.Tags.For(w.Study).Single(t => t.Name == name);

    private void Change(string name, TagValues to) => w.Tags.Change(w.Ida, Tag(name).Id, Tag(name).Version, to);

    private static DateOnly Day(DateTimeOffset at) => DateOnly.FromDateTime(at.UtcDateTime);

    private static DateTimeOffset EndOf(DateOnly day) => new(day.AddDays(1).ToDateTime(TimeOnly.MinValue), TimeSpan.Zero);

    [Fact]
    public void The_tag_set_is_as_it_was_on_a_day_and_each_change_since_is_told()
    {
        w.Mark(w.Ida, "standing on the quay", "queue", "wide");
        w.Mark(w.Tom, "Nobody tells", "queueing", "wide");
        w.Mark(w.Tom, "It was off", "loose");
        var then = Day(w.Clock.GetUtcNow());
        w.Clock.Advance(TimeSpan.FromDays(3));

        new TagMerge(w.Workspace, w.Uses).Merge(w.Ida, Tag("queue").Id, [Tag("queueing").Id], "A line.", "");
        var splits = new SplitStore(w.Workspace, new SeenStudies(w.Workspace, new StudyIndexStore(w.Workspace)));
        var wide = Tag("wide").Id;
        splits.SetTray(w.Study, wide, 1, null, TestWorkspace.Named("narrow"));
        splits.Decide(w.Study, wide, splits.Get(w.Study, wide, w.Ida.AccountId).Observations, SplitOutcome.Trays, [1]);
        new SplitTag(w.Workspace).Finish(w.Ida, w.Study, wide, keep: false);
        Change("loose", new TagValues(TestWorkspace.Named("tight"), Tag("queue").Id));
        w.Tags.Remove(w.Ida, Tag("narrow").Id);
        w.Undo.Back(w.Ida, null);

        var found = history.On(EndOf(then), [w.Study]);
        Assert.Equal(["loose", "queue", "queueing", "wide"], found.Tags.Select(t => t.Name).Order(StringComparer.Ordinal));
        Assert.Equal(then, found.First);
        string Told(TagDifference d) => string.Join(' ', [(d.Now ?? d.Then)!.Name, .. d.Changes, .. d.Into.Select(NameOf)]);
        string NameOf(TagId id) => found.Now.Single(n => n.Id == id).Name;
        string[] told = ["narrow Added", "queue Defined Settled", "queueing Merged queue", "tight Renamed Moved", "wide Split narrow"];
        Assert.Equal(told, found.Differences.Select(Told).Order(StringComparer.Ordinal));
        // What was undone is as if it had not been, and today is as it is.
        Assert.Empty(history.On(EndOf(Day(w.Clock.GetUtcNow())), [w.Study]).Differences);
        Assert.Empty(history.On(EndOf(then.AddDays(-1)), [w.Study]).Tags);
        Assert.DoesNotContain(history.On(EndOf(then), []).Tags, t => t.Name == "loose");
    }
}
