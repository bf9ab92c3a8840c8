using System.Text.Json;
using Dapper;
using Vitrine.Core.Counting;
using Vitrine.Core.Gather.Intake;
using Vitrine.Core.Gather.Participants;
using Vitrine.Core.Gather.Privacy;
using Vitrine.Core.Gather.Sessions;
using Vitrine.Core.Gather.Sources;
using Vitrine.Core.Gather.Surveys;
using Vitrine.Core.Mark.Finding;
using Vitrine.Core.Mark.Observations;
using Vitrine.Core.Mark.Transcription;
using Vitrine.Core.RichTexts;
using Vitrine.Core.Sort.Suggestions;
using Vitrine.Core.Text;
using Vitrine.Core.Weigh.Agreement;
using Vitrine.Core.Weigh.Evidence;
using Vitrine.Storage.Access;
using Vitrine.Storage.Catalogue;
using Vitrine.Storage.Counting;
using Vitrine.Storage.Gather.Intake;
using Vitrine.Storage.Gather.LiveNotes;
using Vitrine.Storage.Gather.Privacy;
using Vitrine.Storage.Gather.Sessions;
using Vitrine.Storage.Gather.Sources;
using Vitrine.Storage.Gather.Studies;
using Vitrine.Storage.Gather.Surveys;
using Vitrine.Storage.Mark.Blind;
using Vitrine.Storage.Mark.Finding;
using Vitrine.Storage.Media;
using Vitrine.Storage.Sort.Suggestions;
using Vitrine.Storage.Sort.TagSet;
using Vitrine.Storage.Sort.Themes;
using Vitrine.Storage.Tags;
using Vitrine.Storage.Text;
using Vitrine.Storage.Trail;
using Vitrine.Storage.Weigh.Agreement;
using Vitrine.Storage.Weigh.Evidence;
using Vitrine.Storage.Weigh.Filters;

namespace Vitrine.Storage.Tests;

public sealed class TrailTests : IDisposable
{
    private readonly TestWorkspace w = new();

    public void Dispose() => w.Dispose();

    /// <summary>The proof that no code path writes research data around the trail: every table can be told from the trail alone.</summary>
    [Fact]
    public void Replaying_the_trail_gives_every_table_as_it_is()
    {
        DoEverything();
        using var connection = w.Workspace.Open();
        var tables = WorkspaceCatalogue.Own.Tables.Where(t => t.IsTrailed).Select(t => t.Table).ToList();
        var replayed = new Dictionary<(string, long), string?>();
        foreach (
            var (table, id, after) in connection.Query<(string, long, string?)>("SELECT table_name, row_id, after FROM change ORDER BY id")
        )
            replayed[(table, id)] = after;
        // A table in which nothing happened would be compared empty with empty.
        Assert.Empty(tables.Except(replayed.Keys.Select(k => k.Item1)));
        foreach (var table in tables)
        {
            var rows = connection
                .Query($"SELECT * FROM {table} ORDER BY id")
                .Select(r => JsonSerializer.Serialize((IDictionary<string, object?>)r));
            var told = replayed.Where(r => r.Key.Item1 == table && r.Value is not null).OrderBy(r => r.Key.Item2).Select(r => r.Value!);
            Assert.Equal(told, rows);
        }
    }

    [Fact]
    public void Every_change_names_who_when_and_what()
    {
        DoEverything();
        using var connection = w.Workspace.Open();
        Assert.Equal(
            0,
            connection.ExecuteScalar<int>(
                """
                SELECT count(*) FROM change c LEFT JOIN action a ON a.id = c.action_id WHERE a.account_id IS NULL OR a.label = ''
                OR a.at NOT LIKE '____-__-__T__:__:__.___Z'
                """
            )
        );
        Assert.Equal(0, connection.ExecuteScalar<int>("SELECT count(*) FROM change WHERE before IS NULL AND after IS NULL"));
    }

    [Fact]
    public void The_trail_of_an_observation_tells_its_life()
    {
        var made = w.Mark(w.Ida, "standing on the quay", "learnt on the quay");
        var id = made.Id!.Value;
        w.Observations.SetSentiment(w.Tom, id, Sentiment.Negative);
        w.Observations.SetStar(w.Tom, id, true);
        w.Undo.Back(w.Tom, w.Study);
        Assert.Equal(
            [
                "Tom Varley: Undid: Starred an observation",
                "Tom Varley: Starred an observation",
                "Tom Varley: Set the sentiment negative",
                "Ida Moss: Marked “standing on the quay”",
            ],
            w.Trail.Of(Thing.Observation, id, w.Steward.AccountId, null).Select(e => $"{e.Who}: {e.Label}")
        );
    }

    [Fact]
    public void The_history_of_a_source_and_of_a_tag_tells_what_touched_them()
    {
        var other = w.AddSource("Other", "Wren: Nothing.");
        w.Mark(w.Ida, "standing", "one");
        var two = w.Mark(w.Tom, "Nobody", "two");
        w.Observations.Untag(w.Tom, w.Study, [two.Id!.Value], w.Tags.For(w.Study).Single(t => t.Name == "two").Id);
        w.Sources.Change(w.Ida, other, "Renamed", SourceKind.Diary, null, null, []);
        IEnumerable<string> Told(SourceId? source, TagId? tag, AccountId? by) =>
            w.Trail.In(w.Study, by, source, tag, null, null, 0, w.Steward.AccountId).Select(e => e.Label);
        Assert.Equal(["Removed “two” from an observation", "Marked “Nobody”", "Marked “standing”"], Told(w.Source, null, null).Take(3));
        Assert.DoesNotContain("Marked “Nobody”", Told(other, null, null));
        Assert.Equal(
            ["Removed “two” from an observation", "Marked “Nobody”"],
            Told(null, w.Tags.For(w.Study).Single(t => t.Name == "two").Id, null)
        );
        Assert.Equal(["Removed “two” from an observation", "Marked “Nobody”"], Told(null, null, w.Tom.AccountId));
    }

    [Fact]
    public void Steps_of_the_tag_set_belong_to_the_studies_whose_tags_and_marks_they_change()
    {
        w.Mark(w.Ida, "standing", "one");
        w.Mark(w.Ida, "Nobody", "two");
        var other = (StudyId)new StudyStore(w.Workspace).Create(w.Ida, new StudyText("Other", "", "", [])).Id!.Value;
        var (one, two) = (w.Tags.For(w.Study).Single(t => t.Name == "one"), w.Tags.For(w.Study).Single(t => t.Name == "two"));
        w.Tags.Change(w.Ida, two.Id, two.Version, new TagValues(TestWorkspace.Named("two boats"), null, 1, "", false));
        new TagMerge(w.Workspace, w.Uses).Merge(w.Ida, one.Id, [two.Id], "", "");
        // Told where they belong, to whoever is there, and in the list of one's own steps.
        string[] expected = ["Merged the tag “two boats” into “one”", "Changed the tag “two boats”"];
        Assert.Equal(expected, w.Trail.In(w.Study, null, null, null, null, null, 0, w.Steward.AccountId).Select(e => e.Label).Take(2));
        Assert.Equal(expected, w.Trail.Recent(w.Ida.AccountId, w.Study).Select(e => e.Label).Take(2));
        Assert.DoesNotContain(
            w.Trail.In(other, null, null, null, null, null, 0, w.Steward.AccountId),
            e => e.Label.Contains("boats", StringComparison.Ordinal)
        );
        // A shared tag that the other study marks with is its as well, and is not told with another's own name.
        w.Tags.Change(
            w.Ida,
            one.Id,
            w.Tags.For(w.Study).Single(t => t.Id == one.Id).Version,
            new TagValues(TestWorkspace.Named("one"), null, 1, "shared", true)
        );
        Assert.DoesNotContain(
            w.Trail.In(other, null, null, null, null, null, 0, w.Steward.AccountId),
            e => e.Label.Contains("“one”", StringComparison.Ordinal)
        );
    }

    [Fact]
    public void A_write_that_fails_half_way_leaves_nothing()
    {
        using var connection = w.Workspace.Open();
        var before = connection.ExecuteScalar<long>("SELECT count(*) FROM change");
        Assert.Throws<InvalidOperationException>(() =>
            w.Workspace.Write(
                w.Ida,
                w.Study,
                "Will fail",
                writing =>
                {
                    writing.Insert(
                        "theme",
                        new
                        {
                            studyId = w.Study,
                            title = "Half",
                            position = 1,
                        }
                    );
                    throw new InvalidOperationException();
                }
            )
        );
        Assert.Equal(before, connection.ExecuteScalar<long>("SELECT count(*) FROM change"));
        Assert.Empty(w.Themes.In(w.Study, w.Steward.AccountId));
    }

    [Fact]
    public void A_text_that_someone_else_has_changed_is_not_written_over()
    {
        var id = w.Insights.Make(w.Ida, w.Study, "Headline", RichText.Empty, []).Id!.Value;
        var (none, toms) = (RichText.Empty, RichText.FromPlain("Tom's story"));
        w.Insights.RewriteStory(w.Tom, id, none, toms);
        var refusal = Assert.Throws<Refusal>(() => w.Insights.RewriteStory(w.Ida, id, none, RichText.FromPlain("Ida's story")));
        Assert.Equal((RefusalKind.Conflict, RichTextJson.Stored(toms)), (refusal.Kind, refusal.Theirs));
        w.Insights.RewriteStory(w.Ida, id, none, toms);
        w.Insights.RewriteHeadline(w.Ida, id, "Headline", "Another headline is no quarrel");
        Assert.Contains("Tom Varley", refusal.Message);
        Assert.Equal("Tom's story", w.Insights.Get(id).Story.Plain);
    }

    private void DoEverything()
    {
        var home = w.Participants.AddAttribute(w.Ida, w.Study, "home", AttributeKind.Choice).Id!.Value;
        w.Participants.SetCells(w.Ida, w.Study, [new ParticipantCell(w.Sorrel, ParticipantColumn.Attribute, home, "Skelda")]);
        w.Participants.SetCells(w.Ida, w.Study, [new ParticipantCell(w.Sorrel, ParticipantColumn.Attribute, home, "Tarra")]);
        w.Participants.Change(w.Ida, w.Study, w.Wren, "P02", "Wren", "Someone Real");
        var speaker = w.Sources.Get(w.Source, 0).Line.Speakers[1];
        w.Turns.MatchSpeaker(w.Ida, w.Source, speaker.Id, w.Wren, false);
        var turns = w.Sources.Get(w.Source, w.Ida.AccountId).ReadTurns();
        w.Turns.Choose(w.Ida, w.Source, "Note", false, null, turns, []);
        w.Turns.Choose(w.Ida, w.Source, "Note", true, true, turns, []);
        w.Turns.MatchSpeaker(w.Ida, w.Source, speaker.Id, w.Sorrel, false);
        w.Sources.Change(w.Ida, w.Source, "P03", SourceKind.Diary, new DateOnly(2026, 10, 1), null, [w.Wren]);
        var gone = w.AddSource("Gone", "Some words to go.");
        w.Sources.Remove(w.Ida, gone);
        var one = w.Mark(w.Ida, "standing", "one", "two").Id!.Value;
        var two = w.Mark(w.Tom, "Nobody", "two").Id!.Value;
        var remark = w.Remark(w.Ida, "quay", "The lamp again?");
        w.MarginNotes.SetUnsure(w.Ida, remark, true);
        w.MarginNotes.Turn(w.Tom, w.Study, [remark], [], [TestWorkspace.Named("lamp")]);
        w.Observations.Untag(w.Ida, w.Study, [one], w.Observations.In(w.Source, w.Steward.AccountId).Single(o => o.Id == one).TagIds[0]);
        var family = w.Tags.Add(w.Ida, null, new TagValues(TestWorkspace.Named("family"), null, 3, "A family.", true)).Id!.Value;
        var tag = w.Tags.For(w.Study).First(t => t.Name == "two");
        w.Tags.Change(w.Ida, tag.Id, tag.Version, new TagValues(TestWorkspace.Named("deux"), family, null, "Two.", true));
        w.Observations.SetExample(w.Ida, two, tag.Id, true);
        w.NotAsked.Set(w.Ida, w.Study, AskedThing.Tag, tag.Id.Value, [w.Wren]);
        var theme = w.Themes.Make(w.Ida, w.Study, "Theme", "", null, [one], [tag.Id]).Id!.Value;
        var sub = w.Themes.Make(w.Ida, w.Study, "Sub", "", theme, [], []).Id!.Value;
        w.Themes.Lay(w.Ida, sub, [two], []);
        w.Themes.TakeOut(w.Ida, theme, [one], []);
        w.Themes.SetStance(w.Ida, sub, [one], Stance.Contradicts);
        w.Themes.SetColour(w.Ida, sub, 4);
        w.Themes.RewriteDescription(w.Ida, sub, "", "What it means.");
        w.Themes.Move(w.Ida, sub, null, theme);
        w.Themes.Move(w.Ida, sub, theme, null);
        w.Themes.Merge(w.Ida, sub, [w.Themes.Make(w.Ida, w.Study, "", "", sub, [two], [tag.Id]).Id!.Value]);
        w.Themes.Answer(w.Ida, sub, [new StudyStore(w.Workspace).Questions(w.Study)[0].Id]);
        var suggestions = new SuggestionStore(w.Workspace);
        var suggested = suggestions
            .Make(
                w.Ida,
                w.Study,
                SuggestionKind.Parts,
                sub,
                [new(null)],
                [new(new(null, one), 0, SuggestedPile.Fits), new(new(tag.Id, null), null, SuggestedPile.Unsure)]
            )
            .Id!.Value;
        var extra = suggestions.AddGroup(w.Ida, suggested).Id!.Value;
        suggestions.RewriteTitle(w.Ida, extra, "", "A claim");
        var items = suggestions.Get(suggested, w.Steward.AccountId).Items;
        suggestions.Answer(w.Ida, suggested, [new(items[1].Id, extra)], SuggestionAnswer.Open);
        suggestions.Answer(w.Ida, suggested, [new(items[0].Id, null), new(items[1].Id, null)], SuggestionAnswer.Accepted);
        suggestions.PutAway(w.Ida, suggested, true);
        new LeftOutStore(w.Workspace).Set(w.Ida, w.Study, [two], true);
        w.Themes.Remove(w.Ida, theme);
        var insight = w.Insights.Make(w.Ida, w.Study, "Insight", RichText.Empty, [one]).Id!.Value;
        w.Insights.Attach(w.Ida, insight, [two], Stance.Contradicts);
        w.Insights.RewriteStory(
            w.Ida,
            insight,
            RichText.Empty,
            new RichText([new Embedded(EmbeddedAs.Quote, new ThingRef(ThingKind.Observation, one), "")])
        );
        w.Insights.SetStance(w.Ida, insight, w.Insights.EvidenceOf([insight], w.Steward.AccountId)[insight].First().Id, Stance.Context);
        var exhibit = w.Exhibits.Make(w.Ida, "What?", "").Id!.Value;
        w.Exhibits.Arrange(w.Ida, exhibit, [insight]);
        var (link, _) = w.Exhibits.MakeLink(w.Ida, exhibit);
        w.Exhibits.RevokeLink(w.Ida, exhibit, link.Id!.Value);
        w.Undo.Back(w.Ida, w.Study);
        w.Undo.Again(w.Ida, w.Study);
        w.Observations.Remove(w.Tom, w.Study, [two]);
        w.Tags.Remove(w.Steward, family);
        w.Undo.Back(w.Steward, null);
        DoWhatCameLater();
    }

    private void DoWhatCameLater()
    {
        var recorded = new RecordedSourceStore(w.Workspace, w.Sources);
        var written = WrittenDown.Of([new(0, [new("Tarra", 0, 500, Unsure: true)])]);
        var transcript = recorded.AddTranscript(w.Ida, w.Source, "Talk, transcript", written, WrittenBy.Simulated).Id!.Value;
        recorded.SetSure(w.Ida, transcript, 0, 5, ContentHash.Of(written.Text));
        recorded.SetInStepWith(w.Ida, transcript, null);
        new ProtectionStore(w.Workspace).Set(w.Ida, w.Study, w.Source, new Protection(true, [new(CoverLook.Blur, 0, 0, 10, 10)]));
        var found = new FoundStore(w.Workspace);
        var hash = ContentHash.Of(TestWorkspace.Interview);
        PassageGiven[] passages = [new(w.Source, 31, 63, hash), new(w.Source, 64, 82, hash)];
        TagId searched = found
            .Tag(w.Ida, w.Study, passages, [], [TestWorkspace.Named("searched")], false, ("stand", PassageUnit.Sentence, false, true))
            .Id!.Value;
        var both = w.Observations.In(w.Source, w.Steward.AccountId).Where(o => o.Found).Select(o => o.Id).ToList();
        found.Accept(w.Tom, w.Study, [both[0]]);
        found.Drop(w.Tom, w.Study, [both[1]]);
        found.Refuse(w.Tom, w.Study, searched, [new(w.Source, 0, 5, hash)]);
        new SavedFilterStore(w.Workspace).Keep(w.Ida, w.Study, "Wren", new Conditions { ParticipantIds = [w.Wren] });
        var lookAlikes = w.Tags.For(w.Study).Take(2).Select(t => t.Id).ToList();
        new LookAlikeStore(w.Workspace, w.Tags).KeepApart(w.Ida, lookAlikes[0], lookAlikes[1]);
        new ProposalStore(w.Workspace).Propose(w.Ida, w.Study, lookAlikes[0], "All may want it.");
        w.Bundles.Make(w.Ida, w.Study, new TagValues(TestWorkspace.Named("To revisit")), [lookAlikes[0]]);
        var blind = new BlindStore(w.Workspace);
        blind.Give(w.Ida, w.Source, [w.Ida.AccountId, w.Steward.AccountId]);
        blind.Done(w.Steward, w.Source, true);
        blind.Open(w.Ida, w.Source);
        w.Mark(w.Tom, "standing", "hers");
        new AgreementStore(w.Workspace, new StudyTexts(w.Workspace), new StudyIndexStore(w.Workspace), w.InStep).Settle(
            w.Ida,
            w.Study,
            w.Ida.AccountId,
            w.Tom.AccountId,
            new UnitGiven(w.Source, 40, 63, false),
            Outcome.Neither
        );
        var folder = new FolderStore(w.Workspace).Add(w.Ida, w.Study, "Islanders").Id!.Value;
        new FolderStore(w.Workspace).Put(w.Ida, w.Study, [w.Source], folder);
        var session = w
            .Sessions.Add(w.Ida, w.Study, new SessionText("Held", SessionKind.Interview, null, 40, "", [w.Wren]), [w.Source])
            .Id!.Value;
        var notes = new LiveNotesStore(w.Workspace, w.Sources, w.Corrections, w.Participants);
        var running = notes.Begin(w.Ida, w.Study, session).Id!.Value;
        notes.AddLine(w.Tom, w.Study, running, "She waits #queue", 1, 2);
        var attachment = w.Attachments.Add(w.Ida, w.Study, "Guide", new NewMedia("0a", "guide.pdf", "application/pdf", 4)).Id!.Value;
        w.Attachments.Change(w.Ida, w.Study, attachment, 1, "The guide", "", [], [TestWorkspace.Named("guide")]);
        w.Attachments.SetOf(w.Ida, w.Study, w.Insights.In([w.Study])[0].Id, [attachment]);
        new LetStandStore(w.Workspace).Set(w.Ida, w.Study, "the wren sang", "Wren", true);
        new MaskStore(w.Workspace).Mask(w.Ida, w.Study, [new NewMask(w.Source, 0, 3, DetailKind.Word, "someone")]);
        w.Corrections.Correct(
            w.Ida,
            w.Source,
            TestWorkspace.Corrected(
                w,
                TestWorkspace
                    .Interview.Replace("Nobody", "No one", StringComparison.Ordinal)
                    .Replace("standing", "waiting", StringComparison.Ordinal)
            ),
            []
        );
        w.Sources.Add(
            w.Ida,
            w.Study,
            new NewSource(
                "Report",
                SourceKind.Document,
                null,
                null,
                "A head",
                [new Turn(new TextRange(0, 6), null, null, null)],
                [],
                new Shape([], [], [])
            ),
            []
        );
        var columns = new[]
        {
            new SurveyColumn("who", ColumnRole.Who, AttributeKind.Text),
            new SurveyColumn("why", ColumnRole.OpenAnswer, AttributeKind.Text),
        };
        new SurveyStore(w.Workspace, w.Corrections).Add(
            w.Ida,
            w.Study,
            "Quay",
            columns,
            SurveyReading
                .Rows(
                    columns,
                    [
                        ["S1", "It was late."],
                    ]
                )
                .Rows,
            new Progress<double>()
        );
        var (intake, arrivals) = (new IntakeStore(w.Workspace, new StudyAccess(w.Workspace)), new ArrivalStore(w.Workspace));
        // What a watch routes by itself is outside the trail; what it routes for a person is in it.
        arrivals.Take(arrivals.ChannelOf(ChannelKind.Mail, "Mail"), [new NewFeedback("1", "a", "b", "It was late", null, null)]);
        intake.AddWatch(w.Ida, w.Study, "Late", new WatchRule(["late"], false, "", null, null, null), alsoPast: true);
        new StudyAccess(w.Workspace).SetMembers(w.Ida, w.Study, [w.Ida.AccountId, w.Tom.AccountId]);
        w.Undo.Back(w.Ida, w.Study);
        w.Undo.Again(w.Ida, w.Study);
    }
}
