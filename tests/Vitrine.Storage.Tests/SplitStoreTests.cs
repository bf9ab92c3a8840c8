using Vitrine.Core.Access;
using Vitrine.Core.Counting;
using Vitrine.Core.Sort.TagSet;
using Vitrine.Storage.Counting;
using Vitrine.Storage.Sort.TagSet;
using Vitrine.Storage.Tags;
using Vitrine.Storage.Trail;
using Vitrine.Storage.Weigh.Evidence;
using Vitrine.Storage.Weigh.Filters;

namespace Vitrine.Storage.Tests;

public sealed class SplitStoreTests : IDisposable
{
    private readonly TestWorkspace w = new();
    private readonly SplitStore splits;

    private SplitTag Split => new(w.Workspace);

    private readonly List<ObservationId> six;
    private readonly TagId wide;

    public SplitStoreTests()
    {
        splits = new SplitStore(w.Workspace, new SeenStudies(w.Workspace, new StudyIndexStore(w.Workspace)));
        string[] words = ["Nobody", "Nobody tells", "standing", "standing on the quay", "It was off", "It was"];
        six = [.. words.Select(said => w.Mark(w.Ida, said, "too late", "heard").Id!.Value)];
        wide = Tag("too late").Id;
    }

    public void Dispose() => w.Dispose();

    private Tag Tag(string name) => w.Tags.For(w.Study).Single(t => t.Name == name);

    private string Marks() =>
        string.Join(
            "; ",
            w.Observations.In(w.Source, w.Steward.AccountId)
                .OrderBy(o => six.IndexOf(o.Id))
                .Select(o => string.Join('+', o.TagIds.Select(id => w.Tags.For(w.Study).Single(t => t.Id == id).Name).Order()))
        );

    private SplitShown Shown() => splits.Get(w.Study, wide, w.Ida.AccountId);

    private void Tray(int number, string name) => splits.SetTray(w.Study, wide, number, null, TestWorkspace.Named(name));

    private void Send(int observation, params int[] trays) => splits.Decide(w.Study, wide, [six[observation]], SplitOutcome.Trays, trays);

    /// <summary>Six passages go to four narrower tags as 3, 1, 1, 1 (check values from practice; common practice, no source).</summary>
    private void SendAll()
    {
        foreach (var (name, i) in new[] { "after loading", "on the way", "money spent", "someone waits" }.Select((n, i) => (n, i)))
            Tray(i + 1, name);
        splits.Decide(w.Study, wide, [six[0], six[1], six[2]], SplitOutcome.Trays, [1]);
        Send(3, 2);
        Send(4, 3);
        Send(5, 4);
    }

    [Fact]
    public void Six_go_to_four_and_the_wide_tag_stays_above_them()
    {
        SendAll();
        var shown = Shown();
        Assert.Equal((new BeforeAfter(6, 0), new BeforeAfter(6, 6)), (shown.Kept.Own, shown.Kept.WithUnder));
        var step = Split.Finish(w.Ida, w.Study, wide, keep: true);
        Assert.Equal("Split the tag “too late” into “after loading”, “on the way”, “money spent” and “someone waits”", step.Label);
        Assert.Equal(
            "after loading+heard; after loading+heard; after loading+heard; heard+on the way; heard+money spent; heard+someone waits",
            Marks()
        );
        Assert.All(["after loading", "on the way", "money spent", "someone waits"], n => Assert.Equal(wide, Tag(n).ParentId));
        Assert.Empty(Shown().Observations);
        // One step back, and the desk is where it was.
        w.Undo.Back(w.Ida, null, step.ActionId);
        Assert.Equal(string.Join("; ", Enumerable.Repeat("heard+too late", 6)), Marks());
        Assert.Equal(6, Shown().Decisions.Count);
        Assert.DoesNotContain(w.Tags.For(w.Study), t => t.Name == "on the way");
    }

    [Fact]
    public void Let_go_the_wide_tag_is_gone_and_themes_and_filters_have_the_narrower_ones()
    {
        var theme = w.Themes.Make(w.Ida, w.Study, "They hear late", "", null, [], [wide]).Id!.Value;
        new SavedFilterStore(w.Workspace).Keep(w.Ida, w.Study, "Late", new Conditions { TagIds = [wide] });
        SendAll();
        Assert.True(Shown().LetGo.Goes);
        var step = Split.Finish(w.Ida, w.Study, wide, keep: false);
        Assert.DoesNotContain(w.Tags.For(w.Study), t => t.Id == wide);
        TagId[] narrower = [.. new[] { "after loading", "on the way", "money spent", "someone waits" }.Select(n => Tag(n).Id)];
        Assert.Equal(narrower, w.Themes.In(w.Study, w.Steward.AccountId).Single(t => t.Id == theme).TagIds);
        Assert.Equal(narrower, new SavedFilterStore(w.Workspace).In(w.Study).Single().Conditions!.TagIds);
        w.Undo.Back(w.Ida, null, step.ActionId);
        Assert.Equal(string.Join("; ", Enumerable.Repeat("heard+too late", 6)), Marks());
        Assert.Equal([wide], w.Themes.In(w.Study, w.Steward.AccountId).Single(t => t.Id == theme).TagIds);
    }

    [Fact]
    public void What_is_unsure_or_wide_or_not_looked_at_stays()
    {
        Tray(1, "after loading");
        Send(0, 1);
        splits.Decide(w.Study, wide, [six[1]], SplitOutcome.Unsure, []);
        splits.Decide(w.Study, wide, [six[2]], SplitOutcome.Wide, []);
        Assert.False(Shown().LetGo.Goes);
        Split.Finish(w.Ida, w.Study, wide, keep: false);
        Assert.Equal("after loading+heard; heard+too late; heard+too late; heard+too late; heard+too late; heard+too late", Marks());
        Assert.Null(Tag("after loading").ParentId);
        Assert.Equal([SplitOutcome.Unsure, SplitOutcome.Wide], Shown().Decisions.Select(d => d.Outcome));
    }

    [Fact]
    public void Several_only_where_several_are_asked_for_and_who_gave_the_tag_stays()
    {
        var of = w.Mark(w.Tom, "How did you hear", "too late").Id!.Value;
        Tray(1, "after loading");
        splits.SetTray(w.Study, wide, 2, Tag("heard").Id, null);
        var refused = Assert.Throws<Refusal>(() => splits.Decide(w.Study, wide, [of], SplitOutcome.Trays, [1, 2]));
        Assert.Contains("Choose “several”", refused.Message, StringComparison.Ordinal);
        splits.SetSeveral(w.Study, wide, true);
        splits.Decide(w.Study, wide, [of], SplitOutcome.Trays, [1, 2]);
        Send(0, 2);
        Split.Finish(w.Ida, w.Study, wide, keep: true);
        Assert.Equal(2, w.Observations.In(w.Source, w.Steward.AccountId).Single(o => o.Id == of).TagIds.Count);
        // One that had it already has it once.
        Assert.StartsWith("after loading+heard; heard; heard+too late", Marks(), StringComparison.Ordinal);
        using var connection = w.Workspace.Open();
        Assert.Equal(
            w.Tom.AccountId.Value,
            Dapper.SqlMapper.ExecuteScalar<long>(
                connection,
                "SELECT created_by FROM observation_tag WHERE observation_id = @id AND tag_id = @tag",
                new { id = of, tag = Tag("after loading").Id }
            )
        );
    }

    [Fact]
    public void Values_go_along_where_the_other_scale_has_them()
    {
        var scale = new Scale(1, 5, 1, "", "", "");
        w.Tags.Change(w.Ida, wide, Tag("too late").Version, new TagValues(TestWorkspace.Named("too late"), Scale: scale));
        w.Observations.SetValue(w.Ida, six[0], wide, 4);
        w.Observations.SetValue(w.Ida, six[1], wide, 5);
        Tray(1, "after loading");
        splits.SetTray(w.Study, wide, 2, Tag("heard").Id, null);
        Send(0, 1);
        Send(1, 2);
        Assert.Equal(1, Shown().ValuesLost);
        Split.Finish(w.Ida, w.Study, wide, keep: true);
        Assert.Equal(4, w.Observations.In(w.Source, w.Steward.AccountId).Single(o => o.Id == six[0]).Values[Tag("after loading").Id]);
        Assert.Equal(scale, Tag("after loading").Scale);
    }

    [Fact]
    public void Back_takes_what_was_decided_at_once_and_a_tray_that_goes_leaves_nothing_decided()
    {
        SendAll();
        splits.Back(w.Study, wide);
        Assert.Equal(5, Shown().Decisions.Count);
        splits.RemoveTray(w.Study, wide, 1);
        Assert.Equal([six[3], six[4]], Shown().Decisions.Select(d => d.ObservationId));
        for (var i = 0; i < 4; i++)
            splits.Back(w.Study, wide);
        Assert.Empty(Shown().Decisions);
        // What is removed or untagged meanwhile is not gone through.
        Send(3, 2);
        w.Observations.Remove(w.Ida, w.Study, [six[3]]);
        Assert.Equal(5, Shown().Observations.Count);
        Assert.Empty(Shown().Decisions);
        Assert.Throws<Refusal>(() => Send(3, 2));
    }

    [Fact]
    public void What_cannot_be_is_refused_with_a_sentence()
    {
        string Said(Action act) => Assert.Throws<Refusal>(act).Message;
        Assert.Contains("1 to 9", Said(() => Tray(10, "x")), StringComparison.Ordinal);
        Assert.Contains("wide tag itself", Said(() => Tray(1, "Too Late")), StringComparison.Ordinal);
        Tray(1, "money");
        Assert.Contains("has a tray already", Said(() => Tray(2, "Money")), StringComparison.Ordinal);
        Assert.Contains("no such tray", Said(() => Send(0, 3)), StringComparison.Ordinal);
        Assert.Contains("Nothing was sent", Said(() => Split.Finish(w.Ida, w.Study, wide, true)), StringComparison.Ordinal);
        Send(0, 1);
        Assert.Contains(
            "note-taker",
            Said(() => Split.Finish(w.Ida with { Role = Role.NoteTaker }, w.Study, wide, true)),
            StringComparison.Ordinal
        );
        Assert.Throws<Refusal>(() => splits.Get(w.Study, new TagId(99_999), w.Ida.AccountId));
    }

    [Fact]
    public void The_words_around_a_quote_are_those_of_its_turn_and_of_the_turns_beside_it()
    {
        var context = Assert.Single(new ContextStore(w.Workspace).Of([six[4]], w.Steward.AccountId));
        var text = w.Sources.Get(w.Source, w.Ida.AccountId);
        var at = text.Text.IndexOf("It was off", StringComparison.Ordinal);
        var turn = text.Turns.Single(t => t.Start <= at && t.End > at);
        Assert.Equal(text.Text[turn.Start..turn.End], context.Lead + "It was off" + context.Trail);
        Assert.NotEqual("", context.Who);
    }
}
