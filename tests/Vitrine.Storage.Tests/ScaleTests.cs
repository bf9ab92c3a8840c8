using Vitrine.Core.Sort.TagSet;
using Vitrine.Storage.Tags;
using Vitrine.Storage.Trail;

namespace Vitrine.Storage.Tests;

public sealed class ScaleTests : IDisposable
{
    private static readonly Scale OneToFive = new(1, 5, 1, "", "none", "all of it");
    private readonly TestWorkspace w = new();
    private readonly long tag;
    private readonly long observation;

    public ScaleTests()
    {
        tag = w.Tags.Add(w.Ida, w.Study, new TagValues(TestWorkspace.Named("effort"), null, null, "", false, OneToFive)).Id!.Value;
        observation = w.Mark(w.Ida, "standing on the quay", "effort", "late").Id!.Value;
    }

    public void Dispose() => w.Dispose();

    [Fact]
    public void A_value_is_given_changed_taken_back_and_undone()
    {
        Assert.Equal(OneToFive, w.Tags.For(w.Study).Single(t => t.Id == tag).Scale);
        Assert.Empty(Values());
        w.Observations.SetValue(w.Ida, observation, tag, 4);
        Assert.Equal(4, Values()[tag]);
        w.Observations.SetValue(w.Ida, observation, tag, 2);
        w.Undo.Back(w.Ida, w.Study);
        Assert.Equal(4, Values()[tag]);
        Assert.Equal("Gave “effort” the value 4", w.Trail.Recent(w.Ida.AccountId, w.Study).First(s => !s.Undone).Label);
        w.Observations.SetValue(w.Ida, observation, tag, null);
        Assert.Empty(Values());
    }

    [Fact]
    public void A_value_off_the_scale_or_of_a_tag_without_one_is_refused()
    {
        Assert.Contains(
            "from 1 to 5 in steps of 1; 6 is not on it",
            Assert.Throws<Refusal>(() => w.Observations.SetValue(w.Ida, observation, tag, 6)).Message
        );
        var late = w.Tags.For(w.Study).Single(t => t.Name == "late").Id;
        Assert.Contains("carries no scale", Assert.Throws<Refusal>(() => w.Observations.SetValue(w.Ida, observation, late, 1)).Message);
        Assert.Throws<Refusal>(() => w.Observations.SetValue(w.Ida, observation, 999, 1));
    }

    [Fact]
    public void A_scale_is_not_narrowed_under_the_values_that_were_given()
    {
        w.Observations.SetValue(w.Ida, observation, tag, 5);
        var refused = Assert.Throws<Refusal>(() => Change(new Scale(1, 4, 1, "", "", "")));
        Assert.Contains("A value that was given is not on this scale", refused.Message);
        Assert.Throws<Refusal>(() => Change(null));
        Change(new Scale(0, 10, 1, "", "", ""));
        Assert.Equal(5, Values()[tag]);
    }

    private void Change(Scale? scale) =>
        w.Tags.Change(
            w.Ida,
            tag,
            w.Tags.For(w.Study).Single(t => t.Id == tag).Version,
            new TagValues(TestWorkspace.Named("effort"), null, null, "", false, scale)
        );

    private Dictionary<TagId, double> Values() => w.Observations.In(w.Source, w.Steward.AccountId).Single(o => o.Id == observation).Values;
}
