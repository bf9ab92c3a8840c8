using Vitrine.Storage.Mark.Reading;
using Vitrine.Storage.Sort.TagSet;
using Vitrine.Storage.Tags;
using Vitrine.Storage.Trail;

namespace Vitrine.Storage.Tests;

public sealed class ProposalStoreTests : IDisposable
{
    private readonly TestWorkspace w = new();
    private readonly ProposalStore proposals;
    private readonly TagId own;

    public ProposalStoreTests()
    {
        proposals = new ProposalStore(w.Workspace);
        w.Mark(w.Ida, "standing on the quay", "queue", "waits outside");
        own = Tag("waits outside").Id;
        w.Tags.Place(w.Ida, [own], Tag("queue").Id, null);
    }

    public void Dispose() => w.Dispose();

    private Tag Tag(string name) => w.Tags.For(w.Study).Single(t => t.Name == name);

    private TagProposal Only() => Assert.Single(proposals.In([w.Study]));

    private string Said(Action act) => Assert.Throws<Refusal>(act).Message;

    [Fact]
    public void A_tag_that_is_accepted_is_shared_under_its_new_name_and_one_undo_gives_it_back()
    {
        var step = proposals.Propose(w.Ida, w.Study, own, "Freight has it too.");
        Assert.Equal("Proposed the tag “waits outside” for the shared set", step.Label);
        Assert.Contains("already", Said(() => proposals.Propose(w.Tom, w.Study, own, "")), StringComparison.Ordinal);
        Assert.Contains("The steward", Said(() => proposals.Accept(w.Ida, w.Study, own, null, "")), StringComparison.Ordinal);
        var accepted = proposals.Accept(w.Steward, w.Study, own, TestWorkspace.Named("outside"), "");
        Assert.Equal("Took the tag “outside” into the shared set", accepted.Label);
        // The tag above it is the study's own: it stands alone.
        Assert.Equal((null, null), (Tag("outside").StudyId, Tag("outside").ParentId));
        Assert.Equal((ProposalOutcome.Accepted, "waits outside", "Una Kerr"), (Only().Outcome, Only().Name, Only().AnsweredBy));
        Assert.Contains("shares", Said(() => proposals.Propose(w.Ida, w.Study, own, "")), StringComparison.Ordinal);
        Assert.Contains("answered", Said(() => proposals.Decline(w.Steward, w.Study, own, "no")), StringComparison.Ordinal);
        w.Undo.Back(w.Steward, null, accepted.ActionId);
        Assert.Equal(w.Study, Tag("waits outside").StudyId);
        Assert.Null(Only().Outcome);
    }

    [Fact]
    public void A_tag_that_is_merged_leaves_its_marks_its_name_and_its_pen_to_the_shared_one()
    {
        var shared = w.Tags.Add(w.Steward, null, new TagValues(TestWorkspace.Named("waiting"), Definition: "Standing in a line."));
        var into = (TagId)shared.Id!.Value;
        var pens = new PenStore(w.Workspace);
        pens.Set(w.Tom.AccountId, w.Study, 3, own);
        proposals.Propose(w.Ida, w.Study, own, "");
        Assert.Contains(
            "shares a tag",
            Said(() => proposals.Accept(w.Steward, w.Study, own, TestWorkspace.Named("Waiting"), "")),
            StringComparison.Ordinal
        );
        proposals.Merge(w.Steward, w.Study, own, into, "It is the same.");
        Assert.Contains(into, Assert.Single(w.Observations.In(w.Source, w.Steward.AccountId)).TagIds);
        Assert.Equal(["waits outside"], Tag("waiting").Aliases);
        Assert.Equal("Standing in a line.", Tag("waiting").Definition);
        Assert.Equal((3, into), (pens.Of(w.Tom.AccountId, w.Study).Single().Number, pens.Of(w.Tom.AccountId, w.Study).Single().TagId));
        Assert.Equal((ProposalOutcome.Merged, into, "It is the same."), (Only().Outcome, Only().TagId, Only().Answer));
    }

    [Fact]
    public void A_tag_that_is_declined_stays_with_its_study_and_may_be_proposed_again_or_taken_back()
    {
        proposals.Propose(w.Ida, w.Study, own, "");
        proposals.Decline(w.Steward, w.Study, own, "Too narrow.");
        Assert.Equal((ProposalOutcome.Declined, "Too narrow."), (Only().Outcome, Only().Answer));
        proposals.Propose(w.Tom, w.Study, own, "Once more.");
        Assert.Equal([null, ProposalOutcome.Declined], proposals.In(null).Select(o => o.Outcome));
        proposals.TakeBack(w.Ida, w.Study, own);
        Assert.Equal("Too narrow.", Only().Answer);
        Assert.Empty(proposals.In([]));
        Assert.Throws<Refusal>(() => proposals.TakeBack(w.Ida, w.Study, own));
    }
}
