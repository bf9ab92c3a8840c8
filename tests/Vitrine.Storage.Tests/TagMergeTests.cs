using Dapper;
using Vitrine.Core.Counting;
using Vitrine.Core.RichTexts;
using Vitrine.Core.Sort.TagSet;
using Vitrine.Storage.Counting;
using Vitrine.Storage.Mark.Reading;
using Vitrine.Storage.Media;
using Vitrine.Storage.Sort.TagSet;
using Vitrine.Storage.Tags;
using Vitrine.Storage.Trail;
using Vitrine.Storage.Weigh.Filters;

namespace Vitrine.Storage.Tests;

public sealed class TagMergeTests : IDisposable
{
    private readonly TestWorkspace w = new();
    private readonly TagMerge merge;

    public TagMergeTests() => merge = new TagMerge(w.Workspace, w.Uses);

    public void Dispose() => w.Dispose();

    private Tag Tag(string name) => w.Tags.For(w.Study).Single(t => t.Name == name);

    private string Marks() =>
        string.Join(
            "; ",
            w.Observations.In(w.Source, w.Steward.AccountId)
                .Select(o => string.Join('+', o.TagIds.Select(id => w.Tags.For(w.Study).Single(t => t.Id == id).Name).Order()))
        );

    [Fact]
    public void Whatever_has_one_that_goes_has_the_one_that_stays_and_no_mark_is_lost()
    {
        w.Mark(w.Ida, "standing on the quay", "queue", "queueing");
        w.Mark(w.Tom, "Nobody tells", "queueing");
        w.Mark(w.Ida, "It was off", "queue");
        var (stays, goes) = (Tag("queue"), Tag("queueing"));
        var theme = w.Themes.Make(w.Ida, w.Study, "They wait", "", null, [], [goes.Id]).Id!.Value;
        new SavedFilterStore(w.Workspace).Keep(w.Ida, w.Study, "Waiting", new Conditions { TagIds = [goes.Id, stays.Id] });
        w.Tags.Change(
            w.Ida,
            goes.Id,
            goes.Version,
            new TagValues(TestWorkspace.Named("queueing"), Aliases: [TagName.Read("waits", out _)!])
        );

        var shown = merge.Preview(stays.Id, [goes.Id], w.All);
        Assert.Equal((2, 3), (shown.Before, shown.After));
        Assert.Equal((2, 1), (shown.Merged[0].Observations, shown.Merged[0].AlsoInto));
        Assert.Equal(["They wait"], TestWorkspace.Titles(shown.Uses, ThingKind.Theme));
        Assert.Empty(TestWorkspace.Titles(shown.Uses, ThingKind.Insight));
        var on = w.Observations.In(w.Source, w.Steward.AccountId).Single(o => o.TagIds.SequenceEqual([goes.Id])).Id;
        w.Insights.Make(w.Ida, w.Study, "They wait for long", RichText.Empty, [on]);
        var photo = w.Attachments.Add(w.Ida, w.Study, "Photo", new NewMedia("0a", "photo.png", "image/png", 4)).Id!.Value;
        w.Attachments.Change(w.Ida, w.Study, photo, 1, "Photo", "", [goes.Id], []);
        var now = merge.Preview(stays.Id, [goes.Id], w.All).Uses;
        Assert.Equal(["They wait for long"], TestWorkspace.Titles(now, ThingKind.Insight));
        Assert.Equal(["Photo"], TestWorkspace.Titles(now, ThingKind.Attachment));
        Assert.Equal(["Waiting"], TestWorkspace.Titles(now, ThingKind.SavedFilter));
        Assert.Empty(merge.Preview(stays.Id, [goes.Id], w.Outside).Uses.Kinds.SelectMany(k => k.Named));
        Assert.Equal("Boarding", Assert.Single(shown.Studies));
        Assert.Equal(0, shown.OtherStudies);
        Assert.Equal(1, merge.Preview(stays.Id, [goes.Id], w.Outside).OtherStudies);

        var step = merge.Merge(w.Ida, stays.Id, [goes.Id], "Any wait in a line.", "Waiting aboard.");
        Assert.Equal("Merged the tag “queueing” into “queue”", step.Label);
        Assert.Equal("queue; queue; queue", Marks());
        var after = Tag("queue");
        Assert.Equal(["queueing", "waits"], after.Aliases);
        Assert.Equal(("Any wait in a line.", "Waiting aboard.", true), (after.Definition, after.IsNot, after.Settled));
        Assert.Equal([stays.Id], w.Themes.In(w.Study, w.Steward.AccountId).Single(t => t.Id == theme).TagIds);
        Assert.Equal([stays.Id], new SavedFilterStore(w.Workspace).In(w.Study).Single().Conditions!.TagIds);
        // The old name finds it.
        w.Mark(w.Ida, "How did you hear", "waits");
        Assert.StartsWith("queue; ", Marks(), StringComparison.Ordinal);
        w.Undo.Back(w.Ida, w.Study);

        w.Undo.Back(w.Ida, null, step.ActionId);
        Assert.Equal("queue+queueing; queueing; queue", Marks());
        Assert.Equal([goes.Id], w.Themes.In(w.Study, w.Steward.AccountId).Single(t => t.Id == theme).TagIds);
        Assert.Empty(Tag("queue").Aliases);
    }

    [Fact]
    public void The_one_that_stays_comes_out_from_under_one_that_goes_near_or_far()
    {
        w.Mark(w.Ida, "standing", "wait", "queue", "line");
        void Under(string name, string parent)
        {
            var values = new TagValues(TestWorkspace.Named(name), Tag(parent).Id);
            w.Tags.Change(w.Ida, Tag(name).Id, Tag(name).Version, values);
        }
        Under("queue", "wait");
        Under("line", "queue");
        merge.Merge(w.Ida, Tag("line").Id, [Tag("wait").Id], "", "");
        Assert.Null(Tag("line").ParentId);
        Assert.Equal(Tag("line").Id, Tag("queue").ParentId);
    }

    [Fact]
    public void Values_of_another_scale_are_laid_on_the_one_that_stays_when_that_is_chosen()
    {
        ObservationId one = w.Mark(w.Ida, "standing on the quay", "effort").Id!.Value;
        ObservationId two = w.Mark(w.Ida, "Nobody tells", "toil").Id!.Value;
        ObservationId both = w.Mark(w.Ida, "It was off", "toil", "effort").Id!.Value;
        void Measure(string name, double least, double most)
        {
            var values = new TagValues(TestWorkspace.Named(name), Scale: new Scale(least, most, 1, "", "", ""));
            w.Tags.Change(w.Ida, Tag(name).Id, Tag(name).Version, values);
        }
        Measure("effort", 1, 5);
        Measure("toil", 0, 10);
        w.Observations.SetValue(w.Ida, one, Tag("effort").Id, 4);
        w.Observations.SetValue(w.Ida, two, Tag("toil").Id, 5);
        w.Observations.SetValue(w.Ida, both, Tag("toil").Id, 10);
        var (stays, goes) = (Tag("effort"), Tag("toil"));
        var shown = merge.Preview(stays.Id, [goes.Id], w.All).Merged[0];
        Assert.Equal((2, 1), (shown.Values, shown.ValuesLost));
        Assert.Equal([new ConvertedValue(5, 1, 3), new ConvertedValue(10, 1, 5)], shown.Converted);

        string Values() =>
            string.Join(' ', w.Observations.In(w.Source, w.Steward.AccountId).Select(o => o.Values.GetValueOrDefault(stays.Id)).Order());
        var step = merge.Merge(w.Ida, stays.Id, [goes.Id], "", "", convert: true);
        Assert.Equal("3 4 5", Values());
        w.Undo.Back(w.Ida, null, step.ActionId);
        Assert.Equal(
            [5.0, 10.0],
            w.Observations.In(w.Source, w.Steward.AccountId)
                .SelectMany(o => o.Values.Where(v => v.Key == goes.Id))
                .Select(v => v.Value)
                .Order()
        );
        merge.Merge(w.Ida, stays.Id, [goes.Id], "", "");
        Assert.Equal("0 4 5", Values());
    }

    [Fact]
    public void Children_stand_under_the_one_that_stays_which_never_stands_under_one_that_goes()
    {
        w.Mark(w.Ida, "standing", "wide", "middle", "narrow", "other");
        void Under(string name, string parent) =>
            w.Tags.Change(w.Ida, Tag(name).Id, Tag(name).Version, new TagValues(TestWorkspace.Named(name), Tag(parent).Id));
        Under("middle", "wide");
        Under("narrow", "middle");
        Under("other", "wide");
        merge.Merge(w.Ida, Tag("narrow").Id, [Tag("middle").Id, Tag("wide").Id], "", "");
        Assert.Null(Tag("narrow").ParentId);
        Assert.Equal(Tag("narrow").Id, Tag("other").ParentId);
        Assert.Equal("narrow+other", Marks());
    }

    [Fact]
    public void Values_go_along_where_the_scale_that_stays_holds_them()
    {
        var one = w.Mark(w.Ida, "standing on the quay", "effort", "strain").Id!.Value;
        var two = w.Mark(w.Ida, "It was off", "strain").Id!.Value;
        void Scaled(string name, double most) =>
            w.Tags.Change(
                w.Ida,
                Tag(name).Id,
                Tag(name).Version,
                new TagValues(TestWorkspace.Named(name), Scale: new Scale(1, most, 1, "", "", ""))
            );
        Scaled("effort", 5);
        Scaled("strain", 10);
        w.Observations.SetValue(w.Ida, one, Tag("strain").Id, 4);
        w.Observations.SetValue(w.Ida, two, Tag("strain").Id, 9);
        var shown = merge.Preview(Tag("effort").Id, [Tag("strain").Id], w.All).Merged[0];
        Assert.Equal((2, 1), (shown.Values, shown.ValuesLost));
        merge.Merge(w.Ida, Tag("effort").Id, [Tag("strain").Id], "", "");
        var effort = Tag("effort").Id;
        Assert.Equal(
            [4, null],
            w.Observations.In(w.Source, w.Steward.AccountId).Select(o => o.Values.TryGetValue(effort, out var v) ? v : (double?)null)
        );
    }

    [Fact]
    public void What_may_not_be_merged_is_refused()
    {
        w.Mark(w.Ida, "standing", "own");
        TagId shared = w.Tags.Add(w.Ida, null, new TagValues(TestWorkspace.Named("shared"))).Id!.Value;
        TagId another = w.Tags.Add(w.Ida, null, new TagValues(TestWorkspace.Named("another"))).Id!.Value;
        Assert.Throws<Refusal>(() => merge.Merge(w.Steward, Tag("own").Id, [shared], "", ""));
        Assert.Throws<Refusal>(() => merge.Merge(w.Ida, shared, [another], "", ""));
        Assert.Throws<Refusal>(() => merge.Merge(w.Ida, shared, [shared], "", ""));
        Assert.Throws<Refusal>(() => merge.Merge(w.Ida, shared, [], "", ""));
        Assert.Throws<Refusal>(() => merge.Preview(shared, [9_999], w.All));
        merge.Merge(w.Steward, shared, [another, Tag("own").Id], "", "");
        Assert.Equal("shared", Marks());
    }

    [Fact]
    public void Look_alikes_are_listed_with_words_of_each_until_they_are_kept_apart()
    {
        w.Mark(w.Ida, "standing on the quay", "told by a neighbour");
        w.Mark(w.Tom, "Nobody tells", "neighbours told");
        w.Mark(w.Tom, "It was off", "neighbours told");
        var lookAlikes = new LookAlikeStore(w.Workspace, w.Tags);
        var pair = Assert.Single(lookAlikes.Find(w.Steward.AccountId, null));
        Assert.Equal(
            (2, "Nobody tells", 1, "standing on the quay"),
            (pair.One.Observations, pair.One.Quote, pair.Other.Observations, pair.Other.Quote)
        );
        // Of a study that one does not see, nothing is told.
        Assert.Empty(lookAlikes.Find(w.Steward.AccountId, []));
        var step = lookAlikes.KeepApart(w.Ida, pair.Other.TagId, pair.One.TagId);
        Assert.Empty(lookAlikes.Find(w.Steward.AccountId, null));
        w.Undo.Back(w.Ida, null, step.ActionId);
        Assert.Single(lookAlikes.Find(w.Steward.AccountId, null));
        Assert.Throws<Refusal>(() => lookAlikes.KeepApart(w.Ida, pair.One.TagId, pair.One.TagId));
    }

    [Fact]
    public void Pens_and_trays_go_on_with_the_tag_that_stays_and_come_back_when_it_is_undone()
    {
        w.Mark(w.Ida, "standing on the quay", "queue", "queueing", "wide");
        var (stays, goes, wide) = (Tag("queue").Id, Tag("queueing").Id, Tag("wide").Id);
        var (pens, splits) = (
            new PenStore(w.Workspace),
            new SplitStore(w.Workspace, new SeenStudies(w.Workspace, new StudyIndexStore(w.Workspace)))
        );
        pens.Set(w.Ida.AccountId, w.Study, 3, goes);
        pens.Set(w.Tom.AccountId, w.Study, 1, goes);
        pens.Set(w.Tom.AccountId, w.Study, 2, stays);
        splits.SetTray(w.Study, wide, 4, goes, null);
        Assert.Equal("3=queueing | 1=queueing 2=queue | 4=queueing", Aside());

        merge.Merge(w.Ida, stays, [goes], "", "");
        Assert.Equal("3=queue | 2=queue | 4=queue", Aside());
        w.Undo.Back(w.Ida, null);
        Assert.Equal("3=queueing | 1=queueing 2=queue | 4=queueing", Aside());

        // What somebody has put on the key since stays there; the step is undone all the same.
        w.Undo.Again(w.Ida, null);
        pens.Set(w.Tom.AccountId, w.Study, 1, wide);
        w.Undo.Back(w.Ida, null);
        Assert.Equal("3=queueing | 1=wide 2=queue | 4=queueing", Aside());

        // So it is with a tag that is removed.
        w.Tags.Remove(w.Ida, wide);
        Assert.Equal("3=queueing | 2=queue | ", Aside());
        w.Undo.Back(w.Ida, null);
        Assert.Equal("3=queueing | 1=wide 2=queue | 4=queueing", Aside());

        string Aside()
        {
            using var connection = w.Workspace.Open();
            var trays = connection.Query<(int, string)>(
                "SELECT x.number, t.name FROM split_tray x JOIN tag t ON t.id = x.tag_id ORDER BY 1"
            );
            return $"{Of(w.Ida)} | {Of(w.Tom)} | {string.Join(' ', trays.Select(t => $"{t.Item1}={t.Item2}"))}";
        }

        string Of(Actor whose)
        {
            var names = w.Tags.For(w.Study).ToDictionary(t => t.Id, t => t.Name);
            return string.Join(' ', pens.Of(whose.AccountId, w.Study).Select(p => $"{p.Number}={names[p.TagId]}"));
        }
    }

    [Fact]
    public void A_tag_tells_all_that_hangs_on_it_and_retired_it_stays_where_it_is()
    {
        w.Mark(w.Ida, "standing on the quay", "queue", "weather");
        var alone = w.Mark(w.Tom, "Nobody tells", "queue").Id!.Value;
        var queue = Tag("queue");
        w.Tags.Add(w.Ida, w.Study, new TagValues(TestWorkspace.Named("short queue"), queue.Id));
        w.Themes.Make(w.Ida, w.Study, "They wait", "", null, [], [queue.Id]);
        new SavedFilterStore(w.Workspace).Keep(w.Ida, w.Study, "Waiting", new Conditions { TagIds = [queue.Id] });
        var hangs = w.Reach.HangsOn(queue.Id, w.All);
        Assert.Equal(
            (2, 1, 1, 1, 0, 1),
            (
                hangs.Reach.Observations,
                hangs.LeftWithout,
                Of(ThingKind.Tag),
                Of(ThingKind.Theme),
                Of(ThingKind.Insight),
                Of(ThingKind.SavedFilter)
            )
        );
        Assert.Empty(w.Reach.HangsOn(queue.Id, w.Outside).Reach.Seen);

        int Of(ThingKind kind) => hangs.Uses.Kinds.Where(k => k.Kind == kind).Sum(k => k.Itself + k.Further);

        var before = Marks();
        w.Tags.Retire(w.Ida, queue.Id, true);
        Assert.True(Tag("queue").Retired);
        Assert.Equal(before, Marks());
        w.Undo.Back(w.Ida, null);
        Assert.False(Tag("queue").Retired);

        // Deleted, it is off everywhere, and an observation that is left without a tag stays.
        w.Tags.Remove(w.Steward, queue.Id);
        Assert.Equal("weather; ", Marks());
        Assert.Contains(w.Observations.In(w.Source, w.Steward.AccountId), o => o.Id == alone);
        w.Undo.Back(w.Steward, null);
        Assert.Equal(before, Marks());
    }
}
