using Vitrine.Core.Mark.Finding;
using Vitrine.Core.Text;
using Vitrine.Core.Weigh.Agreement;
using Vitrine.Storage.Counting;
using Vitrine.Storage.Mark.Finding;
using Vitrine.Storage.Tags;
using Vitrine.Storage.Text;
using Vitrine.Storage.Weigh.Agreement;

namespace Vitrine.Storage.Tests;

public sealed class AgreementStoreTests : IDisposable
{
    private readonly TestWorkspace w = new();
    private readonly AgreementStore store;

    public AgreementStoreTests() => store = new AgreementStore(w.Workspace, new StudyTexts(w.Workspace), new StudyIndexStore(w.Workspace));

    public void Dispose() => w.Dispose();

    private AgreementFound Compare(PassageUnit unit = PassageUnit.Sentence) =>
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
        var differs = Assert.Single(store.Disagreements(w.Study, w.Ida.AccountId, w.Tom.AccountId, PassageUnit.Sentence, queue.TagId, []));
        Assert.Equal(("Nobody tells you.", false), (differs.Words, differs.First));
        Assert.Single(differs.ObservationIds);
        Assert.Equal(new FourFold(1, 0, 0, 1), Compare(PassageUnit.Turn).Tags.Single(t => named[t.TagId] == "queue").Table);
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
        Assert.Equal([1, 1], store.Taggers(w.Study).Select(t => t.Sources));
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
