using Vitrine.Storage.Gather.Studies;
using Vitrine.Storage.Mark.Reading;
using Vitrine.Storage.Tags;
using Vitrine.Storage.Trail;

namespace Vitrine.Storage.Tests;

public sealed class PenStoreTests : IDisposable
{
    private readonly TestWorkspace w = new();
    private readonly PenStore pens;

    public PenStoreTests() => pens = new PenStore(w.Workspace);

    public void Dispose() => w.Dispose();

    private string Of(Actor who) => string.Join(' ', pens.Of(who.AccountId, w.Study).Select(p => $"{p.Number}:{p.TagId}"));

    [Fact]
    public void A_tag_is_on_one_pen_of_a_person_and_leaves_it_when_it_is_removed()
    {
        TagId queue = w.Tags.Add(w.Ida, null, new TagValues(TestWorkspace.Named("queue"), null, 1, "", true)).Id!.Value;
        TagId lamp = w.Tags.Add(w.Ida, w.Study, new TagValues(TestWorkspace.Named("lamp"), null, 1, "", true)).Id!.Value;
        pens.Set(w.Ida.AccountId, w.Study, 1, queue);
        pens.Set(w.Ida.AccountId, w.Study, 2, lamp);
        pens.Set(w.Tom.AccountId, w.Study, 2, queue);
        Assert.Equal($"1:{queue} 2:{lamp}", Of(w.Ida));
        pens.Set(w.Ida.AccountId, w.Study, 9, queue);
        pens.Set(w.Ida.AccountId, w.Study, 3, null);
        Assert.Equal($"2:{lamp} 9:{queue}", Of(w.Ida));
        Assert.Equal($"2:{queue}", Of(w.Tom));
        w.Tags.Remove(w.Ida, lamp);
        Assert.Equal($"9:{queue}", Of(w.Ida));
    }

    [Fact]
    public void What_is_no_pen_or_no_tag_of_the_study_is_refused()
    {
        var other = new StudyStore(w.Workspace).Create(w.Ida, new StudyText("Another", "", "", [])).Id!.Value;
        TagId theirs = w.Tags.Add(w.Ida, other, new TagValues(TestWorkspace.Named("theirs"), null, 1, "", true)).Id!.Value;
        Assert.Throws<Refusal>(() => pens.Set(w.Ida.AccountId, w.Study, 0, null));
        Assert.Throws<Refusal>(() => pens.Set(w.Ida.AccountId, w.Study, 10, null));
        Assert.Throws<Refusal>(() => pens.Set(w.Ida.AccountId, w.Study, 1, theirs));
        Assert.Throws<Refusal>(() => pens.Set(w.Ida.AccountId, w.Study, 1, 999_999));
    }
}
