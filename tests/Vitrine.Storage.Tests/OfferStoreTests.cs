using Vitrine.Storage.Mark.Reading;
using Vitrine.Storage.Sort.TagSet;
using Vitrine.Storage.Tags;
using Vitrine.Storage.Trail;

namespace Vitrine.Storage.Tests;

public sealed class OfferStoreTests : IDisposable
{
    private readonly TestWorkspace w = new();
    private readonly OfferStore offers;
    private readonly TagId own;

    public OfferStoreTests()
    {
        offers = new OfferStore(w.Workspace);
        w.Mark(w.Ida, "standing on the quay", "queue", "waits outside");
        own = Tag("waits outside").Id;
        w.Tags.Place(w.Ida, [own], Tag("queue").Id, null);
    }

    public void Dispose() => w.Dispose();

    private Tag Tag(string name) => w.Tags.For(w.Study).Single(t => t.Name == name);

    private TagOffer Only() => Assert.Single(offers.In([w.Study]));

    private string Said(Action act) => Assert.Throws<Refusal>(act).Message;

    [Fact]
    public void A_tag_that_is_accepted_is_shared_under_its_new_name_and_one_undo_gives_it_back()
    {
        var step = offers.Offer(w.Ida, w.Study, own, "Freight has it too.");
        Assert.Equal("Proposed the tag “waits outside” for the shared set", step.Label);
        Assert.Contains("already", Said(() => offers.Offer(w.Tom, w.Study, own, "")), StringComparison.Ordinal);
        Assert.Contains("The steward", Said(() => offers.Accept(w.Ida, w.Study, own, null, "")), StringComparison.Ordinal);
        var accepted = offers.Accept(w.Steward, w.Study, own, TestWorkspace.Named("outside"), "");
        Assert.Equal("Took the tag “outside” into the shared set", accepted.Label);
        // The tag above it is the study's own: it stands alone.
        Assert.Equal((null, null), (Tag("outside").StudyId, Tag("outside").ParentId));
        Assert.Equal((OfferOutcome.Accepted, "waits outside", "Una Kerr"), (Only().Outcome, Only().Name, Only().AnsweredBy));
        Assert.Contains("shares", Said(() => offers.Offer(w.Ida, w.Study, own, "")), StringComparison.Ordinal);
        Assert.Contains("answered", Said(() => offers.Decline(w.Steward, w.Study, own, "no")), StringComparison.Ordinal);
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
        offers.Offer(w.Ida, w.Study, own, "");
        Assert.Contains(
            "shares a tag",
            Said(() => offers.Accept(w.Steward, w.Study, own, TestWorkspace.Named("Waiting"), "")),
            StringComparison.Ordinal
        );
        offers.Merge(w.Steward, w.Study, own, into, "It is the same.");
        Assert.Contains(into, Assert.Single(w.Observations.In(w.Source)).TagIds);
        Assert.Equal(["waits outside"], Tag("waiting").Aliases);
        Assert.Equal("Standing in a line.", Tag("waiting").Definition);
        Assert.Equal((3, into), (pens.Of(w.Tom.AccountId, w.Study).Single().Number, pens.Of(w.Tom.AccountId, w.Study).Single().TagId));
        Assert.Equal((OfferOutcome.Merged, into, "It is the same."), (Only().Outcome, Only().TagId, Only().Answer));
    }

    [Fact]
    public void A_tag_that_is_declined_stays_with_its_study_and_may_be_offered_again_or_taken_back()
    {
        offers.Offer(w.Ida, w.Study, own, "");
        offers.Decline(w.Steward, w.Study, own, "Too narrow.");
        Assert.Equal((OfferOutcome.Declined, "Too narrow."), (Only().Outcome, Only().Answer));
        offers.Offer(w.Tom, w.Study, own, "Once more.");
        Assert.Equal([null, OfferOutcome.Declined], offers.In(null).Select(o => o.Outcome));
        offers.TakeBack(w.Ida, w.Study, own);
        Assert.Equal("Too narrow.", Only().Answer);
        Assert.Empty(offers.In([]));
        Assert.Throws<Refusal>(() => offers.TakeBack(w.Ida, w.Study, own));
    }
}
