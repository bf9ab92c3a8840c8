using Dapper;
using Vitrine.Core.Text;
using Vitrine.Storage.Mark.Finding;
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

    private int Tagged() => w.Observations.In(source).Count(o => o.TagIds.Count == 1);

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
        Assert.Empty(w.Observations.In(source));
        Assert.StartsWith("Undid: Tagged 400 passages", undone.Label, StringComparison.Ordinal);
        Assert.Equal(undone.Label, w.Trail.In(w.Study, null, null, null, null, null, 0)[0].Label);
        w.Undo.Again(w.Ida, w.Study);
        Assert.Equal((Many, 0), (Tagged(), Unfinished()));
        w.Undo.Back(w.Ida, w.Study, step.ActionId);
        Assert.Empty(w.Observations.In(source));
    }

    [Fact]
    public void When_another_has_changed_a_part_of_it_nothing_of_it_is_undone()
    {
        w.Observations.SetStar(w.Tom, w.Observations.In(source)[Many / 2].Id, true);
        var refusal = Assert.Throws<Refusal>(() => w.Undo.Back(w.Ida, w.Study));
        Assert.Contains("Tom Varley", refusal.Message, StringComparison.Ordinal);
        Assert.Equal((Many, 0), (Tagged(), Unfinished()));
        Assert.DoesNotContain(
            w.Trail.In(w.Study, null, null, null, null, null, 0),
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
        Assert.Empty(w.Observations.In(source));
    }
}
