using Vitrine.Core.Gather.Participants;
using Vitrine.Core.Gather.Sources;
using Vitrine.Core.RichTexts;
using Vitrine.Core.Weigh.Evidence;
using Vitrine.Storage.Gather.Studies;
using Vitrine.Storage.Sort.Themes;
using Vitrine.Storage.Tags;
using Vitrine.Storage.Trail;
using Vitrine.Storage.Weigh.Evidence;

namespace Vitrine.Storage.Tests;

public sealed class GatherStoreTests : IDisposable
{
    private readonly TestWorkspace w = new();

    public void Dispose() => w.Dispose();

    [Fact]
    public void Studies_come_with_the_one_worked_on_last_first()
    {
        var studies = new StudyStore(w.Workspace);
        var second = studies.Create(w.Ida, new StudyText("Freight", "Why", "How", ["One?", "Two?"])).Id!.Value;
        Assert.Equal([second, w.Study], studies.All(null, w.Steward.AccountId).Select(s => s.Id));
        var before = w.Workspace.Now;
        SpinWait.SpinUntil(() => w.Workspace.Now != before);
        w.Mark(w.Ida, "standing", "one");
        Assert.Equal([w.Study, second], studies.All(null, w.Steward.AccountId).Select(s => s.Id));
        var line = studies.Get(w.Study, w.Steward.AccountId).Line;
        Assert.Equal((1, 0, 2, 1), (line.Sources, line.SourcesBegun, line.Participants, line.Observations));
        Assert.Equal(["One?", "Two?"], studies.Get(second, w.Steward.AccountId).ResearchQuestions);
    }

    [Fact]
    public void A_studys_description_is_changed_and_undone_with_its_questions()
    {
        var studies = new StudyStore(w.Workspace);
        studies.Change(
            w.Ida,
            w.Study,
            studies.Get(w.Study, w.Steward.AccountId).Line.Version,
            new StudyText("Renamed", "p", "m", ["New?"])
        );
        Assert.Equal(["New?"], studies.Get(w.Study, w.Steward.AccountId).ResearchQuestions);
        w.Undo.Back(w.Ida, w.Study);
        Assert.Equal(
            ("Boarding", "How do they hear?"),
            (
                studies.Get(w.Study, w.Steward.AccountId).Line.Title,
                Assert.Single(studies.Get(w.Study, w.Steward.AccountId).ResearchQuestions)
            )
        );
    }

    [Fact]
    public void A_removed_participant_leaves_the_words_and_undo_gives_them_back()
    {
        w.Mark(w.Ida, "standing on the quay", "learnt");
        w.Participants.Remove(w.Ida, w.Study, w.Sorrel);
        Assert.Single(w.Observations.In(w.Source, w.Steward.AccountId));
        Assert.DoesNotContain(w.Participants.In(w.Study).People, p => p.Id == w.Sorrel);
        w.Undo.Back(w.Ida, w.Study);
        Assert.Equal(w.Sorrel, w.Index().PersonOf(0));
    }

    [Fact]
    public void A_removed_attribute_comes_back_with_its_values()
    {
        var home = w.Participants.AddAttribute(w.Ida, w.Study, "home", AttributeKind.Choice).Id!.Value;
        w.Participants.SetCells(w.Ida, w.Study, [new ParticipantCell(w.Sorrel, ParticipantColumn.Attribute, home, "Skelda")]);
        w.Participants.RemoveAttribute(w.Ida, w.Study, home);
        Assert.Empty(w.Participants.In(w.Study).Attributes);
        w.Undo.Back(w.Ida, w.Study);
        Assert.Equal("Skelda", w.Participants.In(w.Study).People.Single(p => p.Id == w.Sorrel).Values[home]);
    }

    [Fact]
    public void Two_attributes_of_one_name_are_refused()
    {
        w.Participants.AddAttribute(w.Ida, w.Study, "home", AttributeKind.Choice);
        Assert.Throws<Refusal>(() => w.Participants.AddAttribute(w.Ida, w.Study, "Home", AttributeKind.Text));
    }

    [Fact]
    public void The_same_text_is_known_by_its_content()
    {
        Assert.Equal(w.Source, w.Sources.SameText(w.Study, TestWorkspace.Interview)!.Value.Id);
        Assert.Null(w.Sources.SameText(w.Study, "other words"));
    }

    [Fact]
    public void A_person_can_be_put_into_a_source_without_speakers()
    {
        var notes = w.AddSource("Notes", "Some words about the quay.");
        w.Sources.Change(w.Ida, notes, "Notes", SourceKind.FieldNotes, new DateOnly(2026, 11, 1), null, [w.Wren]);
        w.Observations.Make(w.Ida, notes, TestWorkspace.Words(0, 10), [], []);
        Assert.Equal(w.Wren, w.Index().PersonOf(0));
        Assert.Equal(new DateOnly(2026, 11, 1), w.Sources.Get(notes, 0).Line.HeldOn);
    }
}

public sealed class SortAndShowStoreTests : IDisposable
{
    private readonly TestWorkspace w = new();

    public void Dispose() => w.Dispose();

    [Fact]
    public void A_removed_tag_takes_no_observation_with_it_and_its_children_move_up()
    {
        var wide = w.Tags.Add(w.Ida, null, new TagValues(TestWorkspace.Named("wide"), null, 2, "", true)).Id!.Value;
        var middle = w.Tags.Add(w.Ida, null, new TagValues(TestWorkspace.Named("middle"), wide, null, "", true)).Id!.Value;
        var narrow = w.Tags.Add(w.Ida, null, new TagValues(TestWorkspace.Named("narrow"), middle, null, "", true)).Id!.Value;
        w.Observations.Make(w.Ida, w.Source, TestWorkspace.Words(30, 40), [middle], []);
        w.Tags.Remove(w.Steward, middle);
        Assert.Equal(wide, w.Tags.For(w.Study).Single(t => t.Id == narrow).ParentId);
        Assert.Empty(Assert.Single(w.Observations.In(w.Source, w.Steward.AccountId)).TagIds);
        w.Undo.Back(w.Steward, null);
        Assert.Equal([middle], Assert.Single(w.Observations.In(w.Source, w.Steward.AccountId)).TagIds);
    }

    [Fact]
    public void A_studys_own_tag_is_not_seen_in_another()
    {
        w.Mark(w.Ida, "standing", "mine alone");
        var other = new StudyStore(w.Workspace).Create(w.Ida, new StudyText("Other", "", "", [])).Id!.Value;
        Assert.Empty(w.Tags.For(other));
        Assert.Single(w.Tags.In(w.Steward.AccountId, null));
    }

    [Fact]
    public void A_theme_cannot_stand_under_itself()
    {
        var top = w.Themes.Make(w.Ida, w.Study, "Top", "", null, [], []).Id!.Value;
        var sub = w.Themes.Make(w.Ida, w.Study, "Sub", "", top, [], []).Id!.Value;
        Assert.Equal("parentId", Assert.Throws<Refusal>(() => w.Themes.Move(w.Ida, top, sub, null)).Field);
    }

    [Fact]
    public void A_removed_theme_leaves_its_sub_themes_and_observations()
    {
        var mark = w.Mark(w.Ida, "standing").Id!.Value;
        var top = w.Themes.Make(w.Ida, w.Study, "Top", "", null, [mark], []).Id!.Value;
        var sub = w.Themes.Make(w.Ida, w.Study, "Sub", "", top, [], []).Id!.Value;
        w.Themes.Remove(w.Ida, top);
        Assert.Null(w.Themes.In(w.Study, w.Steward.AccountId).Single(t => t.Id == sub).ParentId);
        Assert.Single(w.Observations.In(w.Source, w.Steward.AccountId));
        Assert.Empty(w.Index().ContentsOf(w.Themes.In(w.Study, w.Steward.AccountId))[0]);
    }

    [Fact]
    public void Evidence_is_attached_once_and_only_from_its_study()
    {
        var mark = w.Mark(w.Ida, "standing").Id!.Value;
        var insight = w.Insights.Make(w.Ida, w.Study, "Insight", RichText.Empty, [mark, mark, 999]).Id!.Value;
        w.Insights.Attach(w.Ida, insight, [mark], Stance.Contradicts);
        Assert.Equal(Stance.Supports, Assert.Single(w.Insights.EvidenceOf([insight], w.Steward.AccountId)[insight]).Stance);
    }

    [Fact]
    public void Who_was_not_asked_is_kept_per_thing()
    {
        w.Mark(w.Ida, "standing", "learnt");
        var tag = w.Tags.For(w.Study)[0].Id;
        w.NotAsked.Set(w.Ida, w.Study, AskedThing.Tag, tag.Value, [w.Wren, w.Sorrel]);
        w.NotAsked.Set(w.Ida, w.Study, AskedThing.Tag, tag.Value, [w.Wren]);
        Assert.Equal([w.Wren], w.NotAsked.In(w.Study, AskedThing.Tag)[tag.Value]);
        Assert.Empty(w.NotAsked.In(w.Study, AskedThing.Theme));
        w.Undo.Back(w.Ida, w.Study);
        Assert.Equal(2, w.NotAsked.In(w.Study, AskedThing.Tag)[tag.Value].Count());
    }

    [Fact]
    public void An_exhibit_keeps_the_order_it_was_given()
    {
        long[] insights =
        [
            .. Enumerable.Range(1, 3).Select(i => w.Insights.Make(w.Ida, w.Study, $"Insight {i}", RichText.Empty, []).Id!.Value),
        ];
        var exhibit = w.Exhibits.Make(w.Ida, "What?", "").Id!.Value;
        w.Exhibits.Arrange(w.Ida, exhibit, [insights[2], insights[0], insights[1]]);
        w.Exhibits.Arrange(w.Ida, exhibit, [insights[1], insights[2]]);
        Assert.Equal([insights[1], insights[2]], w.Exhibits.InsightsOf(exhibit));
        w.Undo.Back(w.Ida, null);
        Assert.Equal([insights[2], insights[0], insights[1]], w.Exhibits.InsightsOf(exhibit));
    }

    [Fact]
    public void What_is_gone_is_refused_as_missing()
    {
        Assert.Equal(RefusalKind.NotFound, Assert.Throws<Refusal>(() => w.Insights.Get(999)).Kind);
        Assert.Equal(RefusalKind.NotFound, Assert.Throws<Refusal>(() => w.Themes.StudyOf(999)).Kind);
        Assert.Equal(RefusalKind.NotFound, Assert.Throws<Refusal>(() => w.Exhibits.Get(999)).Kind);
        Assert.Equal(RefusalKind.NotFound, Assert.Throws<Refusal>(() => w.Sources.Get(999, 1)).Kind);
        Assert.Equal(RefusalKind.NotFound, Assert.Throws<Refusal>(() => w.Observations.SetNote(w.Ida, 999, "", "x")).Kind);
    }
}
