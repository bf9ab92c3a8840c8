using System.Text.Json;
using Vitrine.Core.Counting;
using Vitrine.Core.Gather.Sources;
using Vitrine.Core.Mark.Observations;
using Vitrine.Core.Sort.TagSet;
using Vitrine.Core.Text;
using Vitrine.Storage.Backups;
using Vitrine.Storage.Counting;
using Vitrine.Storage.Gather.Sources;
using Vitrine.Storage.Gather.Studies;
using Vitrine.Storage.Mark.Reading;
using Vitrine.Storage.Media;
using Vitrine.Storage.Sort.TagSet;
using Vitrine.Storage.Sort.Themes;
using Vitrine.Storage.Tags;
using Vitrine.Storage.Trail;
using Vitrine.Storage.Weigh.Evidence;

namespace Vitrine.Storage.Tests;

public sealed class MarkingTests : IDisposable
{
    private readonly TestWorkspace w = new();

    public void Dispose() => w.Dispose();

    [Fact]
    public void Speakers_are_matched_when_a_source_comes_in()
    {
        var speakers = w.Sources.Get(w.Source, w.Ida.AccountId).Line.Speakers;
        Assert.Equal(
            [("Ida", null, true), ("Sorrel", w.Sorrel, false), ("Wren", w.Wren.Value, false)],
            speakers.Select(s => (s.Label, s.ParticipantId, s.IsTeam))
        );
    }

    [Fact]
    public void The_same_tag_in_another_case_is_found_not_made()
    {
        w.Mark(w.Ida, "standing", "Learnt on the quay");
        w.Mark(w.Tom, "Nobody", "learnt  ON the quay");
        Assert.Equal("Learnt on the quay", Assert.Single(w.Tags.For(w.Study)).Name);
    }

    [Fact]
    public void Words_that_were_chosen_before_a_correction_are_marked_where_they_are_now_or_not_at_all()
    {
        var seen = w.Sources.Get(w.Source, 0);
        var quay = seen.Text.IndexOf("on the quay", StringComparison.Ordinal);
        var told = seen.Text.IndexOf("Nobody tells you", StringComparison.Ordinal);
        w.Corrections.Correct(
            w.Ida,
            w.Source,
            TestWorkspace.Corrected(w, seen.Text.Replace("already", "as it happens", StringComparison.Ordinal)),
            []
        );
        w.Corrections.Correct(
            w.Ida,
            w.Source,
            TestWorkspace.Corrected(w, w.Sources.Get(w.Source, 0).Text.Replace("Nobody tells", "No one told", StringComparison.Ordinal)),
            []
        );
        Step Mark(int start, int length, string? basedOn) =>
            w.Observations.Make(w.Tom, w.Source, TestWorkspace.Words(start, start + length), [], [], basedOn);
        Mark(quay, 11, seen.TextHash);
        var made = Assert.IsType<TextAnchor>(Assert.Single(w.Observations.In(w.Source, w.Steward.AccountId)).Anchor);
        Assert.Equal("on the quay", made.Range.Of(w.Sources.Get(w.Source, 0).Text));
        Assert.Contains("corrected in the meantime", Assert.Throws<Refusal>(() => Mark(told, 16, seen.TextHash)).Message);
        Assert.Throws<Refusal>(() => Mark(quay, 11, "no hash of any text"));
        Assert.Throws<Refusal>(() => Mark(-5, 2, seen.TextHash));
        Assert.Throws<Refusal>(() =>
            w.MarginNotes.Make(w.Tom, w.Source, TestWorkspace.Words(told, told + 16), "Why?", false, seen.TextHash)
        );
        Assert.Single(w.Observations.In(w.Source, w.Steward.AccountId));
    }

    [Fact]
    public void A_tag_is_made_with_those_above_it_and_what_is_there_stays_as_it_is()
    {
        var at = TestWorkspace.Interview.IndexOf("standing", StringComparison.Ordinal);
        NewTag Typed(string typed) => NewTag.Read(typed, out _)!;
        w.Observations.Make(
            w.Ida,
            w.Source,
            TestWorkspace.Words(at, at + 8),
            [],
            [Typed("hearing / late = News after the boat."), Typed("Hearing / early"), Typed("other / LATE = Something else.")]
        );
        string Told()
        {
            var tags = w.Tags.For(w.Study);
            return string.Join(
                ", ",
                tags.Select(t => $"{tags.FirstOrDefault(p => p.Id == t.ParentId)?.Name}/{t.Name}{(t.Settled ? $": {t.Definition}" : "")}")
            );
        }
        Assert.Equal("/hearing, hearing/late: News after the boat., hearing/early, /other", Told());
        Assert.Equal(2, w.Observations.In(w.Source, w.Steward.AccountId).Single().TagIds.Count);

        // A tag is moved under another, before one that stands there, and back.
        var ids = w.Tags.For(w.Study).ToDictionary(t => t.Name, t => t.Id);
        w.Tags.Place(w.Ida, [ids["other"]], ids["hearing"], ids["early"]);
        Assert.Equal("/hearing, hearing/late: News after the boat., hearing/other, hearing/early", Told());
        Assert.Throws<Refusal>(() => w.Tags.Place(w.Ida, [ids["hearing"]], ids["other"], null));
        Assert.Throws<Refusal>(() => w.Tags.Make(w.Ida, w.Study, Typed("Early")));
        // Many at once; what stands under one of them goes along, and all come back as one step.
        w.Tags.Place(w.Ida, [ids["other"], ids["early"]], null, ids["hearing"]);
        Assert.Equal("hearing/late: News after the boat., /other, /early, /hearing", Told());
        w.Tags.Place(w.Ida, [ids["late"], ids["hearing"]], ids["other"], null);
        Assert.Equal("other/hearing, hearing/late: News after the boat., /other, /early", Told());
        Assert.NotNull(w.Tags.In(w.Steward.AccountId, null).Single(t => t.Id == ids["late"]).LastUsedAt);
        w.Undo.Back(w.Ida, null);
        w.Undo.Back(w.Ida, null);
        Assert.Equal("/hearing, hearing/late: News after the boat., hearing/other, hearing/early", Told());
        w.Undo.Back(w.Ida, null);
        Assert.Equal("/hearing, hearing/late: News after the boat., hearing/early, /other", Told());
    }

    [Fact]
    public void The_shared_tag_is_found_before_a_new_one_is_made()
    {
        var shared = w.Tags.Add(w.Tom, null, new TagValues(TestWorkspace.Named("queue"), null, 1, "", true)).Id;
        w.Mark(w.Ida, "standing", "Queue");
        Assert.Equal(shared!.Value, Assert.Single(w.Observations.In(w.Source, w.Steward.AccountId)).TagIds[0].Value);
    }

    [Fact]
    public void The_same_request_sent_twice_makes_one_mark_and_gets_one_answer()
    {
        var once = w.Ida with { RequestKey = Guid.NewGuid() };
        var first = w.Observations.Make(once, w.Source, TestWorkspace.Words(30, 40), [], []);
        Assert.Equal(
            JsonSerializer.Serialize(first),
            JsonSerializer.Serialize(w.Observations.Make(once, w.Source, TestWorkspace.Words(30, 40), [], []))
        );
        Assert.Single(w.Observations.In(w.Source, w.Steward.AccountId));
    }

    [Fact]
    public void The_same_stretch_marked_again_by_the_same_person_gets_the_tags()
    {
        var first = w.Mark(w.Ida, "standing", "one").Id;
        Assert.Equal(first, w.Mark(w.Ida, "standing", "two").Id);
        Assert.NotEqual(first, w.Mark(w.Tom, "standing", "two").Id);
    }

    [Fact]
    public void Time_and_pictures_are_marked_counted_quoted_and_undone_like_words()
    {
        var film = w
            .Sources.Add(
                w.Ida,
                w.Study,
                new NewSource(
                    "Screen",
                    SourceKind.UsabilityTest,
                    null,
                    null,
                    "Wren: I look. Where is it?",
                    [new Turn(new TextRange(6, 26), "Wren", 0, 9_000)],
                    [w.Wren],
                    Media: new NewMedia("0f", "screen.webm", "video/webm", 4)
                ),
                ["Ida Moss"]
            )
            .Id!.Value;
        var (time, region) = (
            new AnchorGiven(AnchorKind.Time, BeginMs: 1_000, EndMs: 20_000),
            new AnchorGiven(AnchorKind.Region, X: 0, Y: 0, Width: 5_000, Height: 10_000, AtMs: 1_500)
        );
        var seen = w.Observations.Make(w.Ida, film, region, [], [TestWorkspace.Named("lost")]).Id!.Value;
        Assert.Equal("Marked 0:01 to 0:09", w.Observations.Make(w.Ida, film, time, [], [TestWorkspace.Named("lost")]).Label);
        w.Observations.Make(w.Ida, film, time, [], [TestWorkspace.Named("slow")]);
        w.Observations.Make(w.Ida, film, TestWorkspace.Words(6, 12), [], [TestWorkspace.Named("slow")]);
        Anchor[] anchors =
        [
            new TimeAnchor(1_000, 9_000),
            new RegionAnchor(0, 0, 5_000, 10_000, 1_500),
            new TextAnchor(new TextRange(6, 12)),
        ];
        Assert.Equal(anchors, w.Observations.In(film, w.Steward.AccountId).Select(o => o.Anchor));

        var index = new StudyIndexStore(w.Workspace).Load(w.Study);
        Assert.Equal(new Covered(6, 8_000, 50_000_000), Coverage.Of(index.Marks, Enumerable.Range(0, index.Observations.Length)).Units);
        var quotes = new QuoteStore(w.Workspace, w.InStep).Of(index, Enumerable.Range(0, index.Observations.Length));
        Assert.Equal(
            [("", 1_000, w.Wren), ("", 1_500, w.Wren), ("I look", 0, w.Wren)],
            quotes.Select(q => (q.Words, q.AtMs!.Value, q.ParticipantId!.Value)).OrderBy(q => q.Words).ThenBy(q => q.Item2)
        );

        w.Corrections.Correct(w.Ida, film, TestWorkspace.Corrected(w, film, "Wren: Well, I look. Where is it?"), []);
        Assert.Equal(
            [.. anchors[..2], new TextAnchor(new TextRange(12, 18))],
            w.Observations.In(film, w.Steward.AccountId).Select(o => o.Anchor)
        );
        w.Observations.Move(w.Ida, seen, time);
        w.Undo.Back(w.Ida, w.Study);
        Assert.Equal(anchors[1], w.Observations.In(film, w.Steward.AccountId).Single(o => o.Id == seen).Anchor);
        Assert.Equal(
            "This source has no times. Mark its words instead.",
            Assert.Throws<Refusal>(() => w.Observations.Make(w.Ida, w.Source, time, [], [])).Message
        );
        Assert.All(WorkspaceCheck.Of(w.Workspace.Folder).Problems, p => Assert.Contains("kept file", p));
    }

    [Fact]
    public void White_space_around_a_selection_is_left_out_and_alone_is_refused()
    {
        var at = TestWorkspace.Interview.IndexOf("\n\nIda: And", StringComparison.Ordinal);
        w.Observations.Make(w.Ida, w.Source, TestWorkspace.Words(at - 4, at + 2), [], []);
        Assert.Equal(at, ((TextAnchor)Assert.Single(w.Observations.In(w.Source, w.Steward.AccountId)).Anchor).End);
        Assert.Throws<Refusal>(() => w.Observations.Make(w.Ida, w.Source, TestWorkspace.Words(at, at + 2), [], []));
        Assert.Equal(
            RefusalKind.NotFound,
            Assert.Throws<Refusal>(() => w.Observations.Make(w.Ida, 999, TestWorkspace.Words(0, 3), [], [])).Kind
        );
    }

    [Fact]
    public void Quotes_are_the_words_with_whose_they_are()
    {
        w.Mark(w.Ida, "\U0001F6A2 It was off.", "told");
        w.Mark(w.Ida, "standing on the quay", "learnt");
        var index = w.Index();
        var quotes = new QuoteStore(w.Workspace, w.InStep).Of(index, [0, 1]);
        Assert.Equal(
            [("standing on the quay", w.Sorrel), ("\U0001F6A2 It was off.", w.Wren.Value)],
            quotes.Select(q => (q.Words, q.ParticipantId))
        );
    }

    [Fact]
    public void Counts_follow_when_a_speaker_is_matched_anew()
    {
        w.Mark(w.Ida, "standing on the quay", "learnt");
        Assert.Equal(w.Sorrel, w.Index().PersonOf(0));
        var speaker = w.Sources.Get(w.Source, 0).Line.Speakers.Single(s => s.Label == "Sorrel");
        w.Turns.MatchSpeaker(w.Ida, w.Source, speaker.Id, w.Wren, false);
        Assert.Equal(w.Wren, w.Index().PersonOf(0));
        w.Turns.MatchSpeaker(w.Ida, w.Source, speaker.Id, null, false);
        Assert.Null(w.Index().PersonOf(0)); // a name that is matched to nobody is not the only participant left either
    }

    [Fact]
    public void People_are_in_scope_when_somebody_has_begun_to_read_them()
    {
        Assert.Equal([false, false], w.Index().InScope);
        new ReadingStore(w.Workspace).Reach(w.Tom.AccountId, w.Source, 10);
        Assert.Equal([true, true], w.Index().InScope);
    }

    [Fact]
    public void A_studys_marks_are_kept_until_something_is_written_and_no_longer()
    {
        var indexes = new StudyIndexStore(w.Workspace);
        var first = indexes.Load(w.Study);
        Assert.Same(first, indexes.Load(w.Study));
        w.Mark(w.Tom, "standing", "learnt");
        var second = indexes.Load(w.Study);
        Assert.Equal((0, 1), (first.Marks.Count, second.Marks.Count));
        w.Undo.Back(w.Tom, w.Study);
        Assert.Equal(0, indexes.Load(w.Study).Marks.Count);
        new ReadingStore(w.Workspace).Reach(w.Tom.AccountId, w.Source, 10);
        Assert.True(indexes.Load(w.Study).InScope[0]);
    }

    [Fact]
    public void Only_the_studies_used_last_are_kept()
    {
        var indexes = new StudyIndexStore(w.Workspace);
        var studies = Enumerable
            .Range(0, StudyIndexStore.MostKept)
            .Select(i => new StudyStore(w.Workspace).Create(w.Ida, new StudyText($"Study {i}", "", "", [])).Id!.Value)
            .ToList();
        var mine = indexes.Load(w.Study);
        var first = indexes.Load(studies[0]);
        foreach (var study in studies.Skip(1))
            indexes.Load(study);
        Assert.NotSame(mine, indexes.Load(w.Study));
        Assert.NotSame(first, indexes.Load(studies[0]));
        Assert.Same(indexes.Load(studies[^1]), indexes.Load(studies[^1]));
    }

    [Fact]
    public void Reading_never_goes_back()
    {
        var reading = new ReadingStore(w.Workspace);
        reading.Reach(w.Ida.AccountId, w.Source, 50);
        reading.Reach(w.Ida.AccountId, w.Source, 20);
        Assert.Equal(50, w.Sources.Get(w.Source, w.Ida.AccountId).Line.Furthest);
    }

    [Fact]
    public void A_whole_tag_in_a_theme_stays_live()
    {
        w.Mark(w.Ida, "standing", "learnt");
        var tag = w.Tags.For(w.Study)[0].Id;
        w.Themes.Make(w.Ida, w.Study, "Too late", "", null, [], [tag]);
        w.Mark(w.Ida, "It was off", "learnt");
        var index = w.Index();
        Assert.Equal(
            2,
            Tally.Of(index.Marks, [.. index.ContentsOf(w.Themes.In(w.Study, w.Steward.AccountId))[0].Select(p => p.Observation)]).People
        );
    }

    [Fact]
    public void A_tag_is_found_by_its_other_names_which_are_nobody_elses()
    {
        static TagValues Of(string name, params string[] aliases) =>
            new(TestWorkspace.Named(name), Aliases: [.. aliases.Select(TestWorkspace.Named)]);
        TagId queue = w.Tags.Add(w.Ida, null, Of("queue", "Ärger am Kai", "line")).Id!.Value;
        w.Mark(w.Ida, "standing", "ärger am kai");
        Assert.Equal([queue], Assert.Single(w.Observations.In(w.Source, w.Steward.AccountId)).TagIds);
        Assert.Equal(
            "There is a tag “queue” that is also called “Line” already.",
            Assert.Throws<Refusal>(() => w.Tags.Add(w.Ida, null, Of("Line"))).Message
        );
        Assert.Equal("aliases", Assert.Throws<Refusal>(() => w.Tags.Add(w.Ida, null, Of("lamp", "Queue"))).Field);
        Assert.Equal("aliases", Assert.Throws<Refusal>(() => w.Tags.Add(w.Ida, null, Of("lamp", "lamp"))).Field);
        var tag = Assert.Single(w.Tags.For(w.Study));
        w.Tags.Change(w.Ida, queue, tag.Version, new TagValues(TestWorkspace.Named("standing in line")));
        Assert.Equal(["Ärger am Kai", "line"], Assert.Single(w.Tags.For(w.Study)).Aliases);
    }

    [Fact]
    public void An_example_goes_with_its_tag_and_comes_back_with_it()
    {
        var uses = new TagUseStore(w.Workspace);
        var one = w.Mark(w.Ida, "standing", "queue").Id!.Value;
        var tag = Assert.Single(w.Tags.For(w.Study)).Id;
        w.Observations.SetExample(w.Ida, one, tag, true);
        Assert.Equal([(ObservationId)one], uses.Examples(w.Study, w.Steward.AccountId, tag));
        w.Observations.Untag(w.Ida, w.Study, [one], tag);
        Assert.Empty(uses.Examples(w.Study, w.Steward.AccountId, tag));
        w.Undo.Back(w.Ida, w.Study);
        Assert.Single(uses.Examples(w.Study, w.Steward.AccountId, tag));
        Assert.Throws<Refusal>(() => w.Observations.SetExample(w.Ida, one, 999, true));
    }

    [Fact]
    public void A_tag_cannot_stand_under_itself()
    {
        var parent = w.Tags.Add(w.Ida, null, new TagValues(TestWorkspace.Named("wide"), null, 1, "", true)).Id!.Value;
        var child = w.Tags.Add(w.Ida, null, new TagValues(TestWorkspace.Named("narrow"), parent, null, "", true)).Id!.Value;
        Assert.Equal(
            "parentId",
            Assert
                .Throws<Refusal>(() => w.Tags.Change(w.Ida, parent, 1, new TagValues(TestWorkspace.Named("wide"), child, 1, "", true)))
                .Field
        );
    }

    [Fact]
    public void A_link_opens_until_it_is_revoked_and_is_kept_as_a_hash_only()
    {
        var exhibit = w.Exhibits.Make(w.Ida, "What?", "").Id!.Value;
        var (step, token) = w.Exhibits.MakeLink(w.Ida, exhibit);
        Assert.Equal(43, token.Length); // 256 bits in base64url
        Assert.Equal(exhibit, w.Exhibits.Opened(token));
        Assert.DoesNotContain(
            token,
            File.ReadAllText(Path.Combine(w.Workspace.Folder, Workspace.DatabaseName), System.Text.Encoding.Latin1)
        );
        w.Exhibits.RevokeLink(w.Ida, exhibit, step.Id!.Value);
        Assert.Null(w.Exhibits.Opened(token));
        Assert.Null(w.Exhibits.Opened("guess"));
    }
}
