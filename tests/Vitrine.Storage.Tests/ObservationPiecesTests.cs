using Vitrine.Core.Mark.Observations;
using Vitrine.Core.RichTexts;
using Vitrine.Storage.Mark.Observations;
using Vitrine.Storage.Trail;
using Vitrine.Storage.Uses;

namespace Vitrine.Storage.Tests;

public sealed class ObservationPiecesTests : IDisposable
{
    private readonly TestWorkspace w = new();
    private readonly ObservationPieces pieces;

    public ObservationPiecesTests() => pieces = new ObservationPieces(w.Workspace);

    public void Dispose() => w.Dispose();

    private string[] Marked() =>
        [
            .. w
                .Observations.In(w.Source, w.Steward.AccountId)
                .Select(o => ((TextAnchor)o.Anchor).Range.Of(w.Sources.Get(w.Source, w.Ida.AccountId).Text)),
        ];

    private int At(string words) => w.Sources.Get(w.Source, w.Ida.AccountId).Text.IndexOf(words, StringComparison.Ordinal);

    [Fact]
    public void Both_pieces_of_a_split_carry_what_hung_on_the_whole()
    {
        var whole = (ObservationId)w.Mark(w.Tom, "standing on the quay", "learnt on the quay", "too late").Id!.Value;
        w.Observations.SetSentiment(w.Tom, whole, Sentiment.Negative);
        w.Observations.SetUnsure(w.Tom, whole, true);
        w.Observations.SetNote(w.Tom, whole, "", "Twice.");
        var theme = w.Themes.Make(w.Ida, w.Study, "Too late", "", null, [whole], []).Id!.Value;
        var insight = w.Insights.Make(w.Ida, w.Study, "They hear too late", RichText.Empty, [whole]).Id!.Value;
        var byTag = w.Themes.Make(w.Ida, w.Study, "By a tag", "", null, [], [w.Tags.For(w.Study).First(t => t.Name == "too late").Id]);
        Assert.Equal(
            [(theme, false), (byTag.Id!.Value, true)],
            w.Uses.Of(ThingKind.Observation, [whole.Value], w.All)
                .Kinds.Single(k => k.Kind == ThingKind.Theme)
                .Named.Select(t => (t.Id, t.Reach == UseReach.Within))
        );
        Assert.Equal(
            [insight],
            w.Uses.Of(ThingKind.Observation, [whole.Value], w.All).Kinds.Single(k => k.Kind == ThingKind.Insight).Named.Select(i => i.Id)
        );
        w.Undo.Back(w.Ida, w.Study);
        var step = pieces.Split(w.Ida, whole, At("on the quay"));
        Assert.Equal(["standing", "on the quay"], Marked());
        Assert.All(
            w.Observations.In(w.Source, w.Steward.AccountId),
            o =>
            {
                Assert.Equal(2, o.TagIds.Count);
                Assert.Equal(Sentiment.Negative, o.Sentiment);
                Assert.True(o.Unsure);
                Assert.Equal("Tom Varley", o.CreatedBy);
            }
        );
        Assert.Equal(["Twice.", ""], w.Observations.In(w.Source, w.Steward.AccountId).Select(o => o.Note));
        Assert.Equal(2, w.Themes.In(w.Study, w.Steward.AccountId).Single(t => t.Id == theme).Observations.Count);
        Assert.Equal(2, w.Insights.EvidenceOf([insight], w.Steward.AccountId)[insight].Count());
        w.Undo.Back(w.Ida, w.Study, step.ActionId);
        Assert.Equal(["standing on the quay"], Marked());
        Assert.Contains("caret inside", Assert.Throws<Refusal>(() => pieces.Split(w.Ida, whole, At("standing"))).Message);
        Assert.Contains("caret inside", Assert.Throws<Refusal>(() => pieces.Split(w.Ida, whole, int.MaxValue)).Message);
    }

    [Fact]
    public void One_that_is_joined_of_many_covers_and_carries_all_of_them()
    {
        ObservationId first = w.Mark(w.Ida, "standing", "one").Id!.Value;
        ObservationId second = w.Mark(w.Tom, "on the quay", "two").Id!.Value;
        w.Observations.SetSentiment(w.Ida, first, Sentiment.Negative);
        w.Observations.SetSentiment(w.Ida, second, Sentiment.Positive);
        w.Observations.SetNote(w.Ida, first, "", "Here.");
        w.Observations.SetNote(w.Ida, second, "", "There.");
        w.Observations.SetStar(w.Ida, second, true);
        var insight = w.Insights.Make(w.Ida, w.Study, "They hear too late", RichText.Empty, [second]).Id!.Value;
        pieces.Join(w.Ida, w.Study, [second, first]);
        var joined = Assert.Single(w.Observations.In(w.Source, w.Steward.AccountId));
        Assert.Equal(["standing on the quay"], Marked());
        Assert.Equal((2, "Here.\n\nThere.", Sentiment.Mixed, true), (joined.TagIds.Count, joined.Note, joined.Sentiment, joined.Starred));
        Assert.Equal(first, Assert.Single(w.Insights.EvidenceOf([insight], w.Steward.AccountId)[insight]).ObservationId);
        w.Undo.Back(w.Ida, w.Study);
        Assert.Equal(["standing", "on the quay"], Marked());
        Assert.Equal(second, Assert.Single(w.Insights.EvidenceOf([insight], w.Steward.AccountId)[insight]).ObservationId);
        Assert.Throws<Refusal>(() => pieces.Join(w.Ida, w.Study, [first]));
        Assert.Throws<Refusal>(() => pieces.Join(w.Ida, w.Study, [first, first]));
    }

    [Fact]
    public void An_edge_that_somebody_else_has_moved_is_not_moved_from_where_it_was()
    {
        var id = (ObservationId)w.Mark(w.Ida, "standing on the quay", "one").Id!.Value;
        var was = new AnchorGiven(AnchorKind.Text, At("standing"), At("standing") + "standing on the quay".Length);
        w.Observations.Move(w.Tom, id, was with { End = At("standing") + "standing".Length }, was);
        var refused = Assert.Throws<Refusal>(() => w.Observations.Move(w.Ida, id, was with { Start = At("on the quay") }, was));
        Assert.Equal(RefusalKind.Conflict, refused.Kind);
        Assert.Contains("Tom Varley", refused.Message);
        Assert.Equal(["standing"], Marked());
    }
}
