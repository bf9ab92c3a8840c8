using Vitrine.Core.Gather.Sessions;
using Vitrine.Core.Gather.Sources;
using Vitrine.Storage.Gather.Sessions;
using Vitrine.Storage.Gather.Sources;
using Vitrine.Storage.Mark.Reading;
using Vitrine.Storage.Trail;

namespace Vitrine.Storage.Tests;

public sealed class SessionTests : IDisposable
{
    private readonly TestWorkspace w = new();

    public void Dispose() => w.Dispose();

    [Fact]
    public void A_source_that_names_nobody_has_the_participants_of_its_session()
    {
        var notes = Notes();
        w.Observations.Make(w.Ida, notes, TestWorkspace.Words(0, 10), [], []);
        Assert.Null(w.Index().PersonOf(0));
        var session = Add("Talk on the quay", [w.Wren], [notes]);
        Assert.Equal(w.Wren, w.Index().PersonOf(0));
        Assert.Equal([w.Wren], Line(notes).PeopleIds);
        Assert.Empty(Line(notes).ParticipantIds);

        w.Sources.Change(w.Ida, notes, "Notes", SourceKind.FieldNotes, null, session, [w.Sorrel]);
        Assert.Equal(w.Sorrel, w.Index().PersonOf(0));
        Assert.Equal([w.Sorrel], Line(notes).PeopleIds);
    }

    [Fact]
    public void In_a_group_the_speaker_tells_whose_the_words_are_and_who_was_silent_is_in_scope_all_the_same()
    {
        var lark = w.Participants.Add(w.Ida, w.Study, "P09", "Lark", null).Id!.Value;
        w.Mark(w.Ida, "It was off", "off");
        w.Mark(w.Ida, "How did you hear", "asked");
        var session = Add("Group", [w.Sorrel, w.Wren, lark], [w.Source]);
        new ReadingStore(w.Workspace).Reach(w.Ida.AccountId, w.Source, 10);
        var index = w.Index();
        Assert.Null(index.PersonOf(0)); // the team's question: three people are there, so nobody's in particular
        Assert.Equal(w.Wren, index.PersonOf(1));
        Assert.True(index.InScope[index.PlaceOfPerson(lark)!.Value]);

        w.Sessions.Remove(w.Ida, w.Study, session);
        index = w.Index();
        Assert.False(index.InScope[index.PlaceOfPerson(lark)!.Value]);
        w.Undo.Back(w.Ida, w.Study);
        Assert.True(w.Index().InScope[index.PlaceOfPerson(lark)!.Value]);
    }

    [Fact]
    public void A_speaker_matched_anew_takes_the_counts_along()
    {
        w.Mark(w.Ida, "It was off", "off");
        Add("Group", [w.Sorrel, w.Wren], [w.Source]);
        Assert.Equal(w.Wren, w.Index().PersonOf(0));
        var speaker = Line(w.Source.Value).Speakers.Single(s => s.Label == "Wren");
        w.Turns.MatchSpeaker(w.Ida, w.Source, speaker.Id, w.Sorrel, false);
        Assert.Equal(w.Sorrel, w.Index().PersonOf(0));
    }

    [Fact]
    public void A_name_is_matched_everywhere_it_is_not_yet_as_one_step()
    {
        var (second, third) = (w.AddSource("Second", "Wren: One.\n\nwren: Two."), w.AddSource("Third", "Lark: One.\n\nLark: Two."));
        long? Of(long source, int speaker) => Line(source).Speakers[speaker].ParticipantId?.Value;
        var first = Line(w.Source.Value).Speakers.Single(s => s.Label == "Wren");
        w.Turns.MatchSpeaker(w.Ida, second, Line(second.Value).Speakers[0].Id, null, false);
        w.Turns.MatchSpeaker(w.Ida, w.Source, first.Id, w.Sorrel, false);
        Assert.Null(Of(second.Value, 0));
        var step = w.Turns.MatchSpeaker(w.Ida, w.Source, first.Id, w.Wren, false, everywhere: true);
        Assert.Equal((w.Wren.Value, null, "Matched a speaker in 2 sources"), (Of(second.Value, 0), Of(third.Value, 0), step.Label));
        w.Undo.Back(w.Ida, w.Study);
        Assert.Null(Of(second.Value, 0));
        Assert.Equal(w.Sorrel, Line(w.Source.Value).Speakers.Single(s => s.Label == "Wren").ParticipantId);
    }

    [Fact]
    public void Each_source_that_was_held_becomes_a_session_in_one_step()
    {
        var captions = w
            .Sources.Add(
                w.Ida,
                w.Study,
                new NewSource(
                    "Kiosk",
                    SourceKind.UsabilityTest,
                    new DateOnly(2026, 10, 27),
                    null,
                    "Ida: Try it.\n\nWren: I did.",
                    [new(new(0, 12), "Ida", 0, 4_000), new(new(14, 26), "Wren", 4_000, 61_000)],
                    []
                ),
                ["Ida Moss"]
            )
            .Id!.Value;
        var letter = w
            .Sources.Add(w.Ida, w.Study, new NewSource("Letter", SourceKind.Document, null, null, "Some words.", [new(new(0, 11))], []), [])
            .Id!.Value;
        w.Sessions.AddForEach(w.Ida, w.Study, [w.Source, captions, letter]);
        var sessions = w.Sessions.In(w.Study);
        Assert.Equal(["Kiosk", "Interview"], sessions.Select(s => s.Title)); // what has a day stands before what has none
        var kiosk = sessions[0];
        Assert.Equal(
            (SessionKind.UsabilityTest, new DateOnly(2026, 10, 27), 2, "Ida"),
            (kiosk.Kind, kiosk.HeldOn, kiosk.Minutes, kiosk.Moderator)
        );
        Assert.Equal([w.Wren], kiosk.ParticipantIds);
        Assert.Equal([captions], kiosk.SourceIds);
        Assert.Null(Line(letter).SessionId);
        Assert.Contains(
            "come of one already",
            Assert.Throws<Refusal>(() => w.Sessions.AddForEach(w.Ida, w.Study, [w.Source, letter])).Message
        );
        w.Undo.Back(w.Ida, w.Study);
        Assert.Empty(w.Sessions.In(w.Study));
        Assert.Null(Line(captions).SessionId);
    }

    [Fact]
    public void Two_people_who_change_one_session_do_not_overwrite_each_other()
    {
        var session = Add("Talk", [w.Wren], []);
        var seen = w.Sessions.In(w.Study).Single().Version;
        w.Sessions.Change(
            w.Tom,
            w.Study,
            session,
            seen,
            new SessionText("Toms talk", SessionKind.Visit, new DateOnly(2026, 11, 1), 30, "Tom", [w.Sorrel])
        );
        var refused = Assert.Throws<Refusal>(() =>
            w.Sessions.Change(w.Ida, w.Study, session, seen, new SessionText("Idas talk", SessionKind.Visit, null, null, "", []))
        );
        Assert.Contains("Tom Varley changed it", refused.Message);
        Assert.Equal([w.Sorrel], w.Sessions.In(w.Study).Single().ParticipantIds);

        // Also when only who was there has changed.
        var again = w.Sessions.In(w.Study).Single().Version;
        var text = new SessionText("Toms talk", SessionKind.Visit, new DateOnly(2026, 11, 1), 30, "Tom", [w.Sorrel]);
        w.Sessions.Change(w.Tom, w.Study, session, again, text with { ParticipantIds = [w.Sorrel, w.Wren] });
        Assert.Throws<Refusal>(() => w.Sessions.Change(w.Ida, w.Study, session, again, text with { ParticipantIds = [] }));
    }

    [Fact]
    public void Sources_stand_in_the_order_that_was_given_by_hand_inside_their_folder()
    {
        var (a, b, c) = (w.AddSource("A", "Words of a."), w.AddSource("B", "Words of b."), w.AddSource("C", "Words of c."));
        var folders = new FolderStore(w.Workspace);
        var folder = folders.Add(w.Ida, w.Study, "Quay").Id!.Value;
        folders.Put(w.Ida, w.Study, [a, b, c], folder);
        folders.Put(w.Ida, w.Study, [c], folder, beforeId: a);
        Assert.Equal([c, a, b], Order(folder));
        folders.Put(w.Ida, w.Study, [c, a], folder, afterId: b);
        Assert.Equal([b, c, a], Order(folder));
        folders.Put(w.Ida, w.Study, [w.Source], folder, beforeId: c);
        Assert.Equal([b, w.Source, c, a], Order(folder));
        w.Undo.Back(w.Ida, w.Study);
        Assert.Equal([b, c, a], Order(folder));
        Assert.Throws<Refusal>(() => folders.Put(w.Ida, w.Study, [a], folder, beforeId: w.Source));

        List<SourceId> Order(long inside) => [.. w.Sources.In(w.Study, 0).Where(s => s.FolderId == inside).Select(s => s.Id)];
    }

    private long Notes() => w.AddSource("Notes", "Some words about the quay.").Value;

    private long Add(string title, IReadOnlyList<ParticipantId> people, IReadOnlyList<SourceId> sources) =>
        w.Sessions.Add(w.Ida, w.Study, new SessionText(title, SessionKind.GroupDiscussion, null, null, "", people), sources).Id!.Value;

    [Fact]
    public void Sources_and_participants_come_in_pages_that_leave_nothing_out()
    {
        foreach (var n in Enumerable.Range(1, 4))
            w.AddSource($"S{n}", $"Words of {n}.");
        var all = w.Sources.In(w.Study, 0).Select(s => s.Id).ToList();
        var pages = Enumerable.Range(0, 4).Select(page => w.Sources.Page(w.Study, 0, page, 2)).ToList();
        Assert.Equal(all, pages.SelectMany(p => p.Sources).Select(s => s.Id));
        Assert.All(pages, p => Assert.Equal(all.Count, p.Total));
        Assert.Empty(w.Sources.Page(w.Study, 0, int.MaxValue, 500).Sources);
        var people = Enumerable.Range(0, 3).SelectMany(page => w.Participants.Page(w.Study, page, 1).People).Select(p => p.Id);
        Assert.Equal(w.Participants.In(w.Study).People.Select(p => p.Id), people);
    }

    private SourceLine Line(long id) => w.Sources.In(w.Study, 0).Single(s => s.Id == id);
}
