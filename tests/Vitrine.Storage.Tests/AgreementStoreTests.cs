using Dapper;
using Vitrine.Core.Gather.Sources;
using Vitrine.Core.Mark.Observations;
using Vitrine.Core.Text;
using Vitrine.Core.Weigh.Agreement;
using Vitrine.Storage.Counting;
using Vitrine.Storage.Gather.Sources;
using Vitrine.Storage.Mark.Finding;
using Vitrine.Storage.Media;
using Vitrine.Storage.Tags;
using Vitrine.Storage.Text;
using Vitrine.Storage.Trail;
using Vitrine.Storage.Weigh.Agreement;

namespace Vitrine.Storage.Tests;

public sealed class AgreementStoreTests : IDisposable
{
    private readonly TestWorkspace w = new();
    private readonly AgreementStore store;

    public AgreementStoreTests() =>
        store = new AgreementStore(w.Workspace, new StudyTexts(w.Workspace), new StudyIndexStore(w.Workspace), w.InStep);

    public void Dispose() => w.Dispose();

    private AgreementFound Compare(AgreementUnit unit = AgreementUnit.Sentence) =>
        store.Compare(w.Study, w.Ida.AccountId, w.Tom.AccountId, unit, []);

    // What participants say has three sentences: the quay, nobody tells, it was off.
    [Fact]
    public void Units_are_sentences_of_participants_that_a_mark_touches()
    {
        w.Mark(w.Ida, "standing on the quay", "queue");
        w.Mark(w.Tom, "quay. Nobody tells", "queue");
        w.Mark(w.Tom, "It was off", "late");
        w.Mark(w.Tom, "How did you hear", "queue");
        var found = Compare();
        Assert.Equal((3, 2), (found.Units, found.People));
        var named = w.Tags.For(w.Study).ToDictionary(t => t.Id, t => t.Name);
        var queue = found.Tags.Single(t => named[t.TagId] == "queue");
        Assert.Equal(new FourFold(1, 0, 1, 1), queue.Table);
        Assert.Equal(0.4, queue.Cohen.Kappa!.Value, 9);
        Assert.Equal(new FourFold(0, 0, 1, 2), found.Tags.Single(t => named[t.TagId] == "late").Table);
        Assert.Equal(new FourFold(1, 0, 2, 3), found.Together);
        var differs = Assert.Single(
            store.Disagreements(w.Study, w.Ida.AccountId, w.Tom.AccountId, AgreementUnit.Sentence, queue.TagId, [])
        );
        Assert.Equal(("Nobody tells you.", false), (differs.Words, differs.First));
        Assert.Equal(queue.TagId, Assert.Single(differs.Marks).Tag);
        Assert.Null(differs.Settled);
        Assert.Equal(new FourFold(1, 0, 0, 1), Compare(AgreementUnit.Turn).Tags.Single(t => named[t.TagId] == "queue").Table);
    }

    [Fact]
    public void A_tag_counts_with_those_under_it_and_what_is_found_and_not_reviewed_counts_for_nobody()
    {
        w.Mark(w.Ida, "standing", "wide");
        w.Mark(w.Tom, "standing", "narrow");
        var (wide, narrow) = (w.Tags.For(w.Study).Single(t => t.Name == "wide"), w.Tags.For(w.Study).Single(t => t.Name == "narrow"));
        w.Tags.Change(w.Ida, narrow.Id, narrow.Version, new TagValues(TestWorkspace.Named("narrow"), wide.Id));
        Assert.Equal(1, Compare().Tags.Single(t => t.TagId == wide.Id).Table.Both);
        var at = TestWorkspace.Interview.IndexOf("Nobody", StringComparison.Ordinal);
        new FoundStore(w.Workspace).Tag(
            w.Tom,
            w.Study,
            [new(w.Source, at, at + 17, ContentHash.Of(TestWorkspace.Interview))],
            [wide.Id],
            [],
            false,
            null
        );
        Assert.Equal(0, Compare().Tags.Single(t => t.TagId == wide.Id).Table.OnlySecond);
        Assert.Equal([1, 1], store.Taggers(w.Study, w.Steward.AccountId).Select(t => t.Sources));
    }

    [Fact]
    public void All_tags_together_count_each_mark_once_whatever_stands_above_it()
    {
        w.Mark(w.Ida, "standing", "wide");
        w.Mark(w.Tom, "standing", "narrow");
        w.Mark(w.Ida, "It was off", "narrow");
        w.Mark(w.Tom, "It was off", "narrow");
        var before = Compare().Together;
        var (wide, narrow) = (w.Tags.For(w.Study).Single(t => t.Name == "wide"), w.Tags.For(w.Study).Single(t => t.Name == "narrow"));
        w.Tags.Change(w.Ida, narrow.Id, narrow.Version, new TagValues(TestWorkspace.Named("narrow"), wide.Id));
        // By hand, of three sentences: narrow 1 both, 1 the second alone, 1 none; wide 1 the first alone, 2 none.
        Assert.Equal((new FourFold(1, 1, 1, 3), before), (Compare().Together, before));
        Assert.Equal(before, Compare().Together);
    }

    [Fact]
    public void What_is_settled_stands_as_it_was_settled_and_counts_as_it_was_marked()
    {
        w.Mark(w.Ida, "standing on the quay", "queue", "dry");
        w.Mark(w.Tom, "standing on the quay", "wet");
        var before = Compare();
        var named = w.Tags.For(w.Study).ToDictionary(t => t.Name, t => t.Id);
        Disagreement Of(string tag) =>
            Assert.Single(store.Disagreements(w.Study, w.Ida.AccountId, w.Tom.AccountId, AgreementUnit.Sentence, named[tag], []));
        Step Settle(Outcome outcome) =>
            store.Settle(
                w.Ida,
                w.Study,
                w.Ida.AccountId,
                w.Tom.AccountId,
                new UnitGiven(w.Source, Of("wet").Start, Of("wet").End, false),
                outcome
            );
        string Stands() =>
            string.Join(
                ", ",
                w.Observations.In(w.Source, w.Steward.AccountId)
                    .Select(o => string.Join('+', o.TagIds.Select(t => named.First(n => n.Value == t).Key)))
            );
        var (both, wet) = (Stands(), Of("wet"));
        Assert.Equal([named["queue"], named["dry"]], wet.FirstTagIds);
        Assert.Equal([named["wet"]], wet.SecondTagIds);

        Settle(Outcome.Talk);
        Assert.Equal((both, Outcome.Talk), (Stands(), Of("wet").Settled!.Outcome));
        Settle(Outcome.First);
        Assert.Equal(("queue+dry, ", Outcome.First), (Stands(), Of("queue").Settled!.Outcome));
        // How they agreed before they talked does not change.
        Assert.Equal(before.Together, Compare().Together);
        // Settled anew, what went comes back.
        var neither = Settle(Outcome.Neither);
        Assert.Equal(", ", Stands());
        w.Undo.Back(w.Ida, w.Study, neither.ActionId);
        Assert.Equal("queue+dry, ", Stands());
        Settle(Outcome.Second);
        Assert.Equal(", wet", Stands());
        Settle(Outcome.Both);
        Assert.Equal("queue+dry, wet", Stands());
        using (var connection = w.Workspace.Open())
            Assert.Equal(
                [w.Ida.AccountId, w.Ida.AccountId, w.Tom.AccountId],
                connection.Query<AccountId>("SELECT created_by FROM observation_tag ORDER BY tag_id")
            );
        Assert.Equal(("Ida Moss", Outcome.Both), (Of("wet").Settled!.By, Of("wet").Settled!.Outcome));
        Assert.Throws<Refusal>(() =>
            store.Settle(w.Ida, w.Study, w.Ida.AccountId, w.Tom.AccountId, new UnitGiven(w.Source, 0, 3, false), Outcome.First)
        );
    }

    [Fact]
    public void Seconds_of_a_recording_are_units_too()
    {
        SourceId film = w
            .Sources.Add(
                w.Ida,
                w.Study,
                new NewSource(
                    "Film",
                    SourceKind.UsabilityTest,
                    null,
                    null,
                    "",
                    [],
                    [w.Wren],
                    Media: new NewMedia("0f", "film.mp4", "video/mp4", 9)
                ),
                []
            )
            .Id!.Value;
        using (var connection = w.Workspace.Open())
            connection.Execute("INSERT INTO recording (hash, length_ms, sounds) VALUES ('0f', 3400, 1)");
        w.Observations.Make(w.Ida, film, new AnchorGiven(AnchorKind.Time, BeginMs: 0, EndMs: 1_500), [], [TestWorkspace.Named("rough")]);
        w.Observations.Make(
            w.Tom,
            film,
            new AnchorGiven(AnchorKind.Time, BeginMs: 1_000, EndMs: 2_100),
            [],
            [TestWorkspace.Named("rough")]
        );
        var found = Compare(AgreementUnit.Second);
        Assert.Equal(4, found.Units);
        var rough = Assert.Single(found.Tags);
        Assert.Equal(new FourFold(1, 1, 1, 1), rough.Table);
        var differ = store.Disagreements(w.Study, w.Ida.AccountId, w.Tom.AccountId, AgreementUnit.Second, rough.TagId, []);
        Assert.Equal([(0, true, true), (2_000, false, true)], differ.Select(d => (d.Start, d.First, d.InTime)));
        store.Settle(w.Ida, w.Study, w.Ida.AccountId, w.Tom.AccountId, new UnitGiven(film, 0, 1_000, true), Outcome.Both);

        // Words cover the seconds in which they are said: the whole of a turn from 2 s to 3 s.
        using (var connection = w.Workspace.Open())
            connection.Execute(
                """
                UPDATE source SET in_step_with_id = @film WHERE id = @Source;
                UPDATE turn SET begin_ms = 1000, end_ms = 2000 WHERE source_id = @Source AND start <= @at AND "end" > @at;
                UPDATE source SET offset_ms = 1000 WHERE id = @Source
                """,
                new
                {
                    film,
                    w.Source,
                    at = TestWorkspace.Interview.IndexOf("standing", StringComparison.Ordinal),
                }
            );
        w.Mark(w.Ida, "I was already standing on the quay. Nobody tells you.", "rough");
        Assert.Equal(new FourFold(2, 1, 0, 1), Assert.Single(Compare(AgreementUnit.Second).Tags).Table);
    }

    [Fact]
    public void Sources_that_one_has_not_marked_do_not_count()
    {
        w.Mark(w.Ida, "standing", "queue");
        var found = Compare();
        Assert.Equal((0, 0), (found.Sources.Count, found.Units));
        Assert.Empty(found.Tags);
        Assert.Equal(WhyUndefined.NoUnits, found.All.Undefined);
    }
}
