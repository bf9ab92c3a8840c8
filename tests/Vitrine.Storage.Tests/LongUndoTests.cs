using Dapper;
using Vitrine.Core.Sort.TagSet;
using Vitrine.Core.Text;
using Vitrine.Storage.Mark.Finding;
using Vitrine.Storage.Sort.TagSet;
using Vitrine.Storage.Tags;
using Vitrine.Storage.Trail;

namespace Vitrine.Storage.Tests;

/// <summary>Steps so long that they are undone in several transactions.</summary>
public sealed class LongUndoTests : IDisposable
{
    private const int Many = 400;
    private readonly TestWorkspace w = new();
    private readonly SourceId source;
    private readonly Step step;

    public LongUndoTests()
    {
        var text = "Wren: " + string.Join(' ', Enumerable.Range(0, Many).Select(i => $"It was off {i:D3}."));
        source = w.AddSource("Long", text);
        var hash = ContentHash.Of(text);
        step = new FoundStore(w.Workspace).Tag(
            w.Ida,
            w.Study,
            [.. Sentences.In(text, new TextRange(6, text.Length)).Select(s => new PassageGiven(source, s.Start, s.End, hash))],
            [],
            [TestWorkspace.Named("off")],
            false,
            null
        );
    }

    public void Dispose() => w.Dispose();

    private int Tagged() => w.Observations.In(source, w.Steward.AccountId).Count(o => o.TagIds.Count == 1);

    private long Unfinished()
    {
        using var connection = w.Workspace.Open();
        return connection.ExecuteScalar<long>("SELECT count(*) FROM action WHERE unfinished = 1");
    }

    [Fact]
    public void A_long_step_is_one_step_and_goes_and_comes_back_whole_with_others_between()
    {
        Assert.Equal(Many, Tagged());
        var news = 0;
        w.Workspace.Committed += _ => news++;
        var undone = w.Undo.Back(w.Ida, w.Study);
        Assert.InRange(news, 5, 50);
        Assert.Empty(w.Observations.In(source, w.Steward.AccountId));
        Assert.StartsWith("Undid: Tagged 400 passages", undone.Label, StringComparison.Ordinal);
        Assert.Equal(undone.Label, w.Trail.In(w.Study, null, null, null, null, null, 0, w.Steward.AccountId)[0].Label);
        w.Undo.Again(w.Ida, w.Study);
        Assert.Equal((Many, 0), (Tagged(), Unfinished()));
        w.Undo.Back(w.Ida, w.Study, step.ActionId);
        Assert.Empty(w.Observations.In(source, w.Steward.AccountId));
    }

    [Fact]
    public void When_another_has_changed_a_part_of_it_nothing_of_it_is_undone()
    {
        w.Observations.SetStar(w.Tom, w.Observations.In(source, w.Steward.AccountId)[Many / 2].Id, true);
        var refusal = Assert.Throws<Refusal>(() => w.Undo.Back(w.Ida, w.Study));
        Assert.Contains("Tom Varley", refusal.Message, StringComparison.Ordinal);
        Assert.Equal((Many, 0), (Tagged(), Unfinished()));
        Assert.DoesNotContain(
            w.Trail.In(w.Study, null, null, null, null, null, 0, w.Steward.AccountId),
            e => e.Label.StartsWith("Undid", StringComparison.Ordinal)
        );
    }

    [Fact]
    public void What_an_ending_server_leaves_half_undone_is_as_if_it_had_not_begun()
    {
        var parts = 0;
        void End(Committed committed)
        {
            if (++parts == 3)
                throw new InvalidOperationException("The server ends.");
        }
        w.Workspace.Committed += End;
        Assert.Throws<InvalidOperationException>(() => w.Undo.Back(w.Ida, w.Study));
        w.Workspace.Committed -= End;
        Assert.InRange(Tagged(), 1, Many - 1);
        w.Undo.TakeBackHalfDone();
        Assert.Equal((Many, 0), (Tagged(), Unfinished()));
        w.Undo.Back(w.Ida, w.Study);
        Assert.Empty(w.Observations.In(source, w.Steward.AccountId));
    }

    private Tag Tag(string name) => w.Tags.For(w.Study).Single(t => t.Name == name);

    /// <summary>All are on "off", every second on "gone" too; values stand on both scales.</summary>
    private Step Merged()
    {
        var all = w.Observations.In(source, w.Steward.AccountId);
        w.Observations.Tag(w.Ida, w.Study, [.. all.Where((_, i) => i % 2 == 0).Select(o => o.Id)], [], [TestWorkspace.Named("gone")]);
        w.Observations.Tag(w.Ida, w.Study, [.. all.Where((_, i) => i % 2 == 1).Select(o => o.Id)], [], [TestWorkspace.Named("other")]);
        foreach (var name in new[] { "off", "gone" })
        {
            var tag = Tag(name);
            var values = new TagValues(TestWorkspace.Named(name), Scale: new Scale(1, 5, 0.5, "", "", ""));
            w.Tags.Change(w.Ida, tag.Id, tag.Version, values);
        }
        w.Observations.SetValue(w.Ida, all[0].Id, Tag("gone").Id, 2);
        w.Observations.SetValue(w.Ida, all[2].Id, Tag("gone").Id, 2.5);
        w.Observations.SetValue(w.Ida, all[2].Id, Tag("off").Id, 4);
        return new TagMerge(w.Workspace, w.Uses).Merge(w.Ida, Tag("other").Id, [Tag("off").Id, Tag("gone").Id], "", "");
    }

    private string Marks() =>
        string.Join(
            "; ",
            w.Observations.In(source, w.Steward.AccountId)
                .Select(o =>
                    string.Join(
                        '+',
                        o.TagIds.Select(t => $"{w.Tags.For(w.Study).Single(x => x.Id == t).Name}{o.Values.GetValueOrDefault(t)}").Order()
                    )
                )
        );

    /// <summary>Rows that are changed, and rows that are taken away, many at once; values as whole numbers and as fractions.</summary>
    [Fact]
    public void A_merge_of_many_gives_back_every_row_as_it_was()
    {
        var step = Merged();
        Assert.DoesNotContain("off", Marks(), StringComparison.Ordinal);
        Assert.Equal(Many, w.Observations.In(source, w.Steward.AccountId).Count(o => o.TagIds.SequenceEqual([Tag("other").Id])));
        var merged = Marks();
        w.Undo.Back(w.Ida, w.Study, step.ActionId);
        var apart = Marks();
        Assert.StartsWith("gone2+off0; off0+other0; gone2.5+off4; ", apart, StringComparison.Ordinal);
        Assert.Equal((Many / 2, Many / 2), (apart.Split("gone").Length - 1, apart.Split("other").Length - 1));
        w.Undo.Again(w.Ida, null);
        Assert.Equal((merged, 0L), (Marks(), Unfinished()));
        w.Undo.Back(w.Ida, w.Study, step.ActionId);
        Assert.Equal(apart, Marks());
        // The trail of one row among many reads as it would alone.
        using var connection = w.Workspace.Open();
        var images = connection.Query<(string? Before, string? After)>(
            "SELECT before, after FROM change WHERE table_name = 'observation_tag' AND row_id = (SELECT min(id) FROM observation_tag) ORDER BY id"
        );
        Assert.Equal(images.Skip(1).Select(i => i.Before), images.SkipLast(1).Select(i => i.After));
    }

    [Fact]
    public void A_row_that_was_changed_since_keeps_a_merge_of_many_from_being_undone()
    {
        var step = Merged();
        var one = w.Observations.In(source, w.Steward.AccountId)[Many / 2];
        w.Observations.Untag(w.Tom, w.Study, [one.Id], Tag("other").Id);
        var merged = Marks();
        Assert.Contains(
            "Tom Varley",
            Assert.Throws<Refusal>(() => w.Undo.Back(w.Ida, w.Study, step.ActionId)).Message,
            StringComparison.Ordinal
        );
        Assert.Equal((merged, 0L), (Marks(), Unfinished()));
        w.Undo.Back(w.Tom, w.Study);
        w.Undo.Back(w.Ida, w.Study, step.ActionId);
        Assert.Contains("off4", Marks(), StringComparison.Ordinal);
    }
}
