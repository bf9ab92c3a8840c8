using Vitrine.Core.Counting;
using Vitrine.Core.Gather.Participants;
using Vitrine.Core.Gather.Sources;
using Vitrine.Core.Mark.Finding;
using Vitrine.Core.Mark.Observations;
using Vitrine.Storage.Access;
using Vitrine.Storage.Counting;
using Vitrine.Storage.Mark.Blind;
using Vitrine.Storage.Mark.Finding;
using Vitrine.Storage.Mark.MarginNotes;
using Vitrine.Storage.Mark.Reading;
using Vitrine.Storage.Sort.TagSet;
using Vitrine.Storage.Text;
using Vitrine.Storage.Trail;
using Vitrine.Storage.Weigh.Agreement;
using Vitrine.Storage.Weigh.Filters;

namespace Vitrine.Storage.Tests;

public sealed class SeenStudiesTests : IDisposable
{
    private readonly TestWorkspace w = new();
    private readonly SeenStudies seen;
    private readonly BlindStore blind;

    public SeenStudiesTests()
    {
        seen = new SeenStudies(w.Workspace, new StudyIndexStore(w.Workspace));
        blind = new BlindStore(w.Workspace);
        w.Mark(w.Ida, "standing on the quay", "queue");
        w.Mark(w.Tom, "It was off", "late");
        w.Mark(w.Tom, "Nobody tells");
        new ReadingStore(w.Workspace).Reach(w.Ida.AccountId, w.Source, 5);
    }

    public void Dispose() => w.Dispose();

    private string[] Under(Conditions where, Actor? viewer = null)
    {
        var index = seen.Load(w.Study, (viewer ?? w.Ida).AccountId, where);
        return [.. index.Marks.AnchorOf.Select(a => ((TextAnchor)a).Range.Of(TestWorkspace.Interview))];
    }

    [Fact]
    public void Conditions_leave_those_that_fit_all_of_them_and_the_people_who_are_in_scope()
    {
        TagId queue = w.Tags.For(w.Study).Single(t => t.Name == "queue").Id;
        AttributeId home = w.Participants.AddAttribute(w.Ida, w.Study, "home", AttributeKind.Choice).Id!.Value;
        w.Participants.SetCells(
            w.Ida,
            w.Study,
            [new(w.Wren, ParticipantColumn.Attribute, home, "Quay"), new(w.Sorrel, ParticipantColumn.Attribute, home, "Hill")]
        );
        string[] all = ["standing on the quay", "Nobody tells", "It was off"];
        Assert.Equal(all, Under(new Conditions()));
        Assert.Equal(["It was off"], Under(new Conditions { ParticipantIds = [w.Wren] }));
        Assert.Equal(["It was off"], Under(new Conditions { Values = [new HasValue(home, "Quay"), new HasValue(home, "Moor")] }));
        AttributeId trips = w.Participants.AddAttribute(w.Ida, w.Study, "trips a week", AttributeKind.Number).Id!.Value;
        w.Participants.SetCells(
            w.Ida,
            w.Study,
            [new(w.Wren, ParticipantColumn.Attribute, trips, "9"), new(w.Sorrel, ParticipantColumn.Attribute, trips, "10")]
        );
        Assert.Equal(["It was off"], Under(new Conditions { Ranges = [new ValueRange(trips, "2", "9.5")] }));
        Assert.Equal(all, Under(new Conditions { SourceIds = [w.Source], SourceKinds = [SourceKind.Interview, SourceKind.Diary] }));
        Assert.Empty(Under(new Conditions { HeldFrom = new DateOnly(2026, 1, 1) }));
        Assert.Equal(["standing on the quay"], Under(new Conditions { TagIds = [queue] }));
        Assert.Equal(["Nobody tells"], Under(new Conditions { Untagged = true }));
        Assert.Equal(["Nobody tells", "It was off"], Under(new Conditions { AuthorIds = [w.Tom.AccountId] }));
        Assert.Empty(Under(new Conditions { Starred = true }));
        w.Observations.SetStar(w.Ida, w.Observations.In(w.Source, w.Steward.AccountId)[0].Id, true);
        Assert.Equal(["standing on the quay"], Under(new Conditions { Starred = true }));
        // Who is named and is not there any more is nobody.
        Assert.Empty(Under(new Conditions { TagIds = [9_999] }));

        var scope = seen.Load(w.Study, w.Ida.AccountId, new Conditions { ParticipantIds = [w.Wren] });
        Assert.Equal([w.Wren], scope.People.Where((_, p) => scope.InScope[p]));
    }

    [Fact]
    public void Passages_and_observations_are_found_under_conditions()
    {
        var texts = new StudyTexts(w.Workspace);
        var passages = new PassageStore(w.Workspace, texts, seen);
        string[] Found(Conditions where) =>
            [
                .. passages
                    .Find(
                        w.Study,
                        w.Ida.AccountId,
                        FindQuery.Read("tells | quay | off"),
                        new FindScope(PassageUnit.Sentence, false, where, null)
                    )
                    .Passages.Select(p => p.Words.Of(p.In.Text.Text)),
            ];
        Assert.Equal(3, Found(new Conditions()).Length);
        Assert.Equal(["Nobody tells you.", "\U0001F6A2 It was off."], Found(new Conditions { AuthorIds = [w.Tom.AccountId] }));
        Assert.Equal(["Nobody tells you."], Found(new Conditions { Untagged = true }));
        Assert.Equal(["\U0001F6A2 It was off."], Found(new Conditions { ParticipantIds = [w.Wren] }));

        var finder = new ObservationFinder(texts, seen, w.InStep);
        var (index, found) = finder.Find(w.Study, w.Ida.AccountId, FindQuery.Read("stand -off"), null);
        Assert.Equal("standing on the quay", ((TextAnchor)index.Marks.AnchorOf[Assert.Single(found)]).Range.Of(TestWorkspace.Interview));
        Assert.Equal(2, finder.Find(w.Study, w.Ida.AccountId, null, new Conditions { AuthorIds = [w.Tom.AccountId] }).Found.Count);
    }

    [Fact]
    public void Who_tags_blind_sees_nothing_of_the_others_until_the_last_has_said_done()
    {
        var note = w.Remark(w.Tom, "quay", "Which one?");
        new StudyAccess(w.Workspace).SetMembers(w.Ida, w.Study, [w.Ida.AccountId, w.Tom.AccountId]);
        blind.Give(w.Steward, w.Source, [w.Ida.AccountId, w.Tom.AccountId]);
        Assert.Equal(["standing on the quay"], Under(new Conditions()));
        Assert.Equal(["Nobody tells", "It was off"], Under(new Conditions(), w.Tom));
        Assert.Equal(3, Under(new Conditions(), w.Steward).Length);
        Assert.Equal([1, 2, 3], new[] { w.Ida, w.Tom, w.Steward }.Select(who => w.Observations.In(w.Source, who.AccountId).Count));
        Assert.Empty(w.MarginNotes.In(w.Source, w.Ida.AccountId));
        Assert.DoesNotContain(
            w.Trail.In(w.Study, w.Tom.AccountId, null, null, null, null, 0, w.Ida.AccountId),
            e => e.Label.Contains("It was off", StringComparison.Ordinal)
        );
        Assert.Contains(
            w.Trail.In(w.Study, w.Tom.AccountId, null, null, null, null, 0, w.Steward.AccountId),
            e => e.Label.Contains("It was off", StringComparison.Ordinal)
        );
        Assert.Equal(0, new NoteList(w.Workspace, seen).Page(w.Study, w.Ida.AccountId, null, 0, 9).Total);
        Assert.Equal([1, 2], new[] { w.Ida, w.Tom }.Select(who => w.Sources.CountsIn(w.Study, who.AccountId).Single().Observations));
        TagId late = w.Tags.For(w.Study).Single(t => t.Name == "late").Id;
        Assert.Empty(new TagUseStore(w.Workspace).Sentiments(w.Study, w.Ida.AccountId, [late]));

        // Who tags it blind is known; how much, is not.
        var agreement = new AgreementStore(w.Workspace, new StudyTexts(w.Workspace), new StudyIndexStore(w.Workspace), w.InStep);
        Assert.Equal([("Ida Moss", 1), ("Tom Varley", 0)], agreement.Taggers(w.Study, w.Ida.AccountId).Select(t => (t.Name, t.Sources)));

        blind.Done(w.Ida, w.Source, true);
        Assert.Single(Under(new Conditions()));
        Assert.Equal([true, false], blind.In(w.Source).Taggers.Select(t => t.DoneAt is not null));
        blind.Done(w.Ida, w.Source, false);
        blind.Done(w.Tom, w.Source, true);
        Assert.Null(blind.In(w.Source).OpenedAt);
        blind.Done(w.Ida, w.Source, true);
        Assert.NotNull(blind.In(w.Source).OpenedAt);
        Assert.Equal(3, Under(new Conditions()).Length);
        Assert.All(w.Observations.In(w.Source, w.Steward.AccountId), o => Assert.False(o.Late));
        w.Mark(w.Tom, "Nobody tells you", "told");
        Assert.True(
            w.Observations.In(w.Source, w.Steward.AccountId)
                .Single(o => o.TagIds.Count == 1 && o.CreatedById == w.Tom.AccountId && o.Late)
                .Late
        );
        Assert.NotEqual(default, note);
    }

    [Fact]
    public void Blind_tagging_takes_two_of_the_team_and_is_given_once()
    {
        Assert.Throws<Refusal>(() => blind.Give(w.Ida, w.Source, [w.Ida.AccountId, w.Ida.AccountId]));
        // Tom is not of this study's team.
        Assert.Throws<Refusal>(() => blind.Give(w.Ida, w.Source, [w.Ida.AccountId, w.Tom.AccountId]));
        Assert.Throws<Refusal>(() => blind.Done(w.Ida, w.Source, true));
        Assert.Empty(blind.In(w.Source).Taggers);
        blind.Give(w.Ida, w.Source, [w.Ida.AccountId, w.Steward.AccountId]);
        Assert.Throws<Refusal>(() => blind.Done(w.Tom, w.Source, true));
        blind.Open(w.Ida, w.Source);
        Assert.Throws<Refusal>(() => blind.Give(w.Ida, w.Source, [w.Ida.AccountId, w.Steward.AccountId]));
    }

    [Fact]
    public void A_filter_is_kept_by_name_and_once()
    {
        var filters = new SavedFilterStore(w.Workspace);
        var wren = new Conditions
        {
            ParticipantIds = [w.Wren],
            HeldFrom = new DateOnly(2026, 3, 1),
            Sentiments = [Sentiment.Mixed],
        };
        var kept = filters.Keep(w.Ida, w.Study, "Wren", wren);
        filters.Keep(w.Tom, w.Study, "wren", wren with { Unsure = true });
        var filter = Assert.Single(filters.In(w.Study));
        Assert.Equal(("wren", true, "Ida Moss"), (filter.Name, filter.Conditions!.Unsure, filter.CreatedBy));
        Assert.Equal((wren with { Unsure = true }).ToJson(), filter.Conditions.ToJson());
        Assert.Throws<Refusal>(() => filters.Keep(w.Ida, w.Study, "All", new Conditions()));
        Assert.Throws<Refusal>(() => filters.Keep(w.Ida, w.Study, "Old", new Conditions { Ranges = [new ValueRange(1, "old", null)] }));
        filters.Remove(w.Ida, w.Study, kept.Id!.Value);
        Assert.Empty(filters.In(w.Study));
    }
}
