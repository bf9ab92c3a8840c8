using Dapper;
using Vitrine.Core.Gather.Privacy;
using Vitrine.Core.RichTexts;
using Vitrine.Storage.Backups;
using Vitrine.Storage.Catalogue;
using Vitrine.Storage.Gather.Privacy;
using Vitrine.Storage.Gather.Studies;
using Vitrine.Storage.Mark.Blind;
using Vitrine.Storage.Media;
using Vitrine.Storage.Search;
using Vitrine.Storage.Show.Publication;
using Vitrine.Storage.Sort.TagSet;
using Vitrine.Storage.Trail;
using Vitrine.Storage.Uses;

namespace Vitrine.Storage.Tests;

/// <summary>The story of an insight: a text in blocks with a quote that stays live.</summary>
public sealed class RichTextStoryTests : IDisposable
{
    private readonly TestWorkspace w = new();
    private readonly ObservationId quoted;
    private readonly TagId tag;
    private readonly InsightId insight;

    public RichTextStoryTests()
    {
        quoted = w.Mark(w.Ida, "standing on the quay", "queue", "line").Id!.Value;
        tag = Tag("queue");
        insight = w
            .Insights.Make(
                w.Ida,
                w.Study,
                "They wait",
                Of(
                    new Paragraph([
                        new TextRun("So says Marnie Quill"),
                        new TextRun("feather, in the ", Strong: true),
                        new Mention(new ThingRef(ThingKind.Tag, tag.Value), "queue"),
                    ]),
                    Quote(quoted)
                ),
                []
            )
            .Id!.Value;
    }

    public void Dispose() => w.Dispose();

    private static RichText Of(params RichBlock[] blocks) => new(blocks);

    private static Embedded Quote(ObservationId id) => new(EmbeddedAs.Quote, new ThingRef(ThingKind.Observation, id.Value), "");

    private TagId Tag(string name) => w.Tags.For(w.Study).Single(t => t.Name == name).Id;

    private RichText Story => w.Insights.Get(insight).Story;

    private IEnumerable<(long, UseReach)> Using(ThingKind kind, long id) =>
        w.Uses.Of(kind, [id], w.All).Kinds.Where(k => k.Kind == ThingKind.Insight).SelectMany(k => k.Named).Select(u => (u.Id, u.Reach));

    private IEnumerable<long> Found(string typed) =>
        new SearchStore(w.Workspace, w.Access).Find(w.All, typed, null, 5).Where(h => h.Kind == FoundKind.Insight).Select(h => h.Id);

    private void Whole() => Assert.Empty(WorkspaceCheck.Of(w.Workspace.Folder).Problems);

    [Fact]
    public void What_it_refers_to_knows_of_it_and_its_words_are_found_over_the_bounds_of_its_parts()
    {
        Assert.Equal([(insight.Value, UseReach.Itself)], Using(ThingKind.Observation, quoted.Value));
        Assert.Equal([(insight.Value, UseReach.Itself)], Using(ThingKind.Tag, tag.Value));
        Assert.Equal([insight.Value], Found("quillfeather"));
        Assert.Empty(Found("version"));
        w.Insights.RewriteStory(w.Ida, insight, Story, RichText.FromPlain("Nothing of them."));
        Assert.Empty(Using(ThingKind.Observation, quoted.Value));
        Assert.Empty(Found("quillfeather"));
        w.Undo.Back(w.Ida, w.Study);
        Assert.Equal([(insight.Value, UseReach.Itself)], Using(ThingKind.Observation, quoted.Value));
        Assert.Equal([insight.Value], Found("quillfeather"));
        Whole();
    }

    [Fact]
    public void A_quote_follows_corrections_and_what_is_merged_and_comes_back_after_a_removal()
    {
        w.Corrections.Correct(
            w.Ida,
            w.Source,
            TestWorkspace.Corrected(w, TestWorkspace.Interview.Replace("already standing", "still standing")),
            ["Ida Moss"]
        );
        Assert.Equal([(insight.Value, UseReach.Itself)], Using(ThingKind.Observation, quoted.Value));

        new TagMerge(w.Workspace, w.Uses).Merge(w.Ida, Tag("line"), [tag], "", "");
        Assert.Equal([new ThingRef(ThingKind.Tag, Tag("line").Value), new ThingRef(ThingKind.Observation, quoted.Value)], Story.References);
        Assert.Equal([(insight.Value, UseReach.Itself)], Using(ThingKind.Tag, Tag("line").Value));
        w.Undo.Back(w.Ida, null);
        Assert.Equal([new ThingRef(ThingKind.Tag, tag.Value), new ThingRef(ThingKind.Observation, quoted.Value)], Story.References);
        Assert.Equal([(insight.Value, UseReach.Itself)], Using(ThingKind.Tag, tag.Value));

        // Removed, it stands there as removed; the text can be written on, and the undo of the removal brings it back.
        w.Observations.Remove(w.Tom, w.Study, [quoted]);
        Assert.Contains(new ThingRef(ThingKind.Observation, quoted.Value), Story.References);
        w.Insights.RewriteStory(w.Ida, insight, Story, Of([.. Story.Blocks, new Paragraph([new TextRun("More.")])]));
        Whole();
        w.Undo.Back(w.Tom, w.Study);
        w.Insights.RewriteStory(w.Ida, insight, Story, Of([.. Story.Blocks, new Paragraph([new TextRun("And more.")])]));
        Assert.Equal([(insight.Value, UseReach.Itself)], Using(ThingKind.Observation, quoted.Value));
        Whole();
    }

    [Fact]
    public void An_undo_of_the_story_does_not_stumble_over_what_was_removed_since()
    {
        var other = w.Mark(w.Tom, "Nobody tells").Id!.Value;
        w.Insights.RewriteStory(w.Ida, insight, Story, Of(Quote(other)));
        w.Observations.Remove(w.Tom, w.Study, [other]);
        w.Undo.Back(w.Ida, w.Study);
        Assert.Equal([(insight.Value, UseReach.Itself)], Using(ThingKind.Observation, quoted.Value));
        w.Undo.Again(w.Ida, w.Study);
        Assert.Equal([new ThingRef(ThingKind.Observation, other)], Story.References);
        Assert.Empty(Using(ThingKind.Observation, quoted.Value));
        Whole();
    }

    [Fact]
    public void Nothing_is_referred_to_that_is_not_there_or_that_one_may_not_see()
    {
        var elsewhere = new StudyStore(w.Workspace).Create(w.Ida, new StudyText("Elsewhere", "", "", [])).Id!.Value;
        var theirs = w.Themes.Make(w.Ida, elsewhere, "Theirs", "", null, [], []).Id!.Value;
        foreach (
            var wrong in new[]
            {
                new ThingRef(ThingKind.Observation, 9_999),
                new ThingRef(ThingKind.Theme, theirs),
                new ThingRef(ThingKind.Study, elsewhere),
            }
        )
            Assert.Throws<Refusal>(() => w.Insights.RewriteStory(w.Ida, insight, Story, Of(new Paragraph([new Mention(wrong, "x")]))));
        w.Access.SetMembers(w.Ida, w.Study, [w.Ida.AccountId, w.Tom.AccountId]);
        new BlindStore(w.Workspace).Give(w.Ida, w.Source, [w.Ida.AccountId, w.Tom.AccountId]);
        var hidden = w.Mark(w.Ida, "Nobody tells").Id!.Value;
        Assert.Throws<Refusal>(() => w.Insights.RewriteStory(w.Tom, insight, Story, Of(Quote(hidden))));
        w.Insights.RewriteStory(w.Ida, insight, Story, Of(Quote(hidden)));
        Whole();
    }

    [Fact]
    public void An_erased_name_is_in_no_form_of_it_and_the_quote_goes_with_its_observation()
    {
        w.Insights.RewriteStory(w.Ida, insight, Story, Of([.. Story.Blocks, new Paragraph([new TextRun("x")])]));
        w.Participants.SetConsent(w.Ida, w.Study, [w.Sorrel], Consent.Withdrawn);
        var touched = new WithdrawalStore(w.Workspace, w.Access).Touches(w.Study, w.Sorrel, w.All);
        Assert.Equal((insight.Value, 1, 1), touched.Insights.Select(i => (i.Id, i.Theirs, i.All)).Single());
        var choice = new SharedDecision(w.Source, SharedOutcome.NothingOfTheirs);
        new Erasure(w.Workspace, new MediaFolder(w.Workspace)).Erase(
            w.Ida,
            w.Study,
            w.Sorrel,
            touched.Sources.Any(s => s.Choices.Count > 0) ? [choice] : []
        );
        Assert.StartsWith("So says (erased), in the queue", Story.Plain);
        Assert.Empty(Using(ThingKind.Observation, quoted.Value));
        using var connection = w.Workspace.Open();
        foreach (var part in new[] { "Quill", "feather", "Marnie" })
            Assert.Equal(
                0,
                connection.ExecuteScalar<int>(
                    "SELECT count(*) FROM change WHERE coalesce(before, '') || coalesce(after, '') LIKE '%' || @part || '%'",
                    new { part }
                )
            );
        Whole();
    }

    [Fact]
    public void Readers_are_given_it_through_the_gate_with_the_quote_as_it_leaves()
    {
        w.Participants.SetConsent(w.Ida, w.Study, [w.Sorrel, w.Wren], Consent.Given);
        var exhibit = w.Exhibits.Make(w.Ida, "Why?", "").Id!.Value;
        w.Exhibits.Arrange(w.Ida, exhibit, [insight]);
        var published = new PublicationStore(w.Workspace);
        var shown = published.Of(exhibit);
        var given = Assert.Single(shown.Insights);
        Assert.StartsWith("So says Sorrel, in the queue", shown.Gate.Written(given.Insight.Story).Plain);
        Assert.Equal("standing on the quay", shown.Gate.Words(Assert.Single(given.Quoted).Passage));
        Assert.Empty(given.Evidence);
        w.Participants.SetConsent(w.Ida, w.Study, [w.Sorrel], Consent.Limited);
        shown = published.Of(exhibit);
        Assert.False(shown.Gate.Shows(shown.Insights[0].Quoted[0].Passage));
    }
}
