using FsCheck.Xunit;
using Vitrine.Core.Gather.Privacy;
using Vitrine.Core.Gather.Sources;
using Vitrine.Core.Mark.Observations;
using Vitrine.Core.Show.Publication;
using Vitrine.Core.Text;

namespace Vitrine.Core.Tests;

public sealed class GateTests
{
    private const long Sorrel = 1;
    private const long Wren = 2;

    private static readonly GatePerson[] People =
    [
        new(Sorrel, "Sorrel", "Marnie Quillfeather", Consent.Limited),
        new(Wren, "Wren", "Rose Hollow", Consent.Given),
    ];

    /// <summary>A source of paragraphs "label: words"; each is given with who speaks.</summary>
    private static GateSource Source(
        SourceKind kind,
        IReadOnlyList<ParticipantId> people,
        params (string Label, string Words, ParticipantId? Person, bool Team)[] turns
    )
    {
        var (text, read) = ("", new List<GateTurn>());
        foreach (var (label, words, person, team) in turns)
        {
            text += (text.Length > 0 ? "\n\n" : "") + (label.Length > 0 ? label + ": " : "");
            read.Add(new GateTurn(new TextRange(text.Length, text.Length + words.Length), person, team, label.Length > 0));
            text += words;
        }
        return new GateSource(7, kind, text, read, people, [], []);
    }

    private static GatePassage On(GateSource source, string words) =>
        new(
            source.Id,
            new TextAnchor(
                new TextRange(
                    source.Text.IndexOf(words, StringComparison.Ordinal),
                    source.Text.IndexOf(words, StringComparison.Ordinal) + words.Length
                )
            )
        );

    [Fact]
    public void A_quote_over_several_turns_leaves_turn_by_turn_and_shows_whose_words_are_whose()
    {
        var source = Source(
            SourceKind.GroupDiscussion,
            [Sorrel, Wren],
            ("Una", "Who comes?", null, true),
            ("Rose", "Marnie Quillfeather and I.", Wren, false),
            ("Marnie", "Never on a Monday.", Sorrel, false),
            ("A voice", "Nor me.", null, false),
            ("Rose", "I do.", Wren, false)
        );
        var gate = new Gate(People, [source]);
        var all = new GatePassage(source.Id, new TextAnchor(new TextRange(0, source.Text.Length)));
        Assert.True(gate.Shows(all));
        Assert.Equal($"Researcher: Who comes?\n\nWren: Sorrel and I.\n\n{Gate.KeptInTeam}\n\nWren: I do.", gate.Words(all));
        Assert.Equal("Wren", gate.Who(all));
        Assert.Equal(["Researcher", "Wren", "Sorrel", "", "Wren"], gate.Around(all, 2).Select(t => t.Who));
        Assert.False(gate.Shows(On(source, "Never on a Monday")));
        Assert.True(gate.Counts(On(source, "Never on a Monday")));
    }

    [Theory]
    [InlineData(SourceKind.Document, true)]
    [InlineData(SourceKind.FieldNotes, true)]
    [InlineData(SourceKind.Feedback, false)]
    [InlineData(SourceKind.Interview, false)]
    [InlineData(SourceKind.Survey, false)]
    public void Words_of_nobody_known_leave_only_where_nobody_was_studied(SourceKind kind, bool leave)
    {
        var source = Source(kind, [], ("", "The quay is closed on Mondays.", null, false));
        var passage = On(source, "closed");
        Assert.Equal((leave, true), (new Gate(People, [source]).Shows(passage), new Gate(People, [source]).Counts(passage)));
        Assert.Empty(new Gate(People, [source with { PersonIds = [Sorrel, Wren] }]).Around(passage, 2));
    }

    [Fact]
    public void What_it_does_not_know_stays_inside()
    {
        var source = Source(SourceKind.Interview, [Wren], ("Rose", "I do go.", Wren, false));
        var passage = On(source, "I do");
        Assert.True(new Gate(People, [source]).Shows(passage));
        Assert.False(new Gate(People, []).Shows(passage));
        Assert.False(new Gate(People, []).Counts(passage));
        Assert.False(new Gate([], [source]).Shows(passage));
        Assert.False(new Gate([], [source]).Counts(passage));
        Assert.False(new Gate(People, [source]).Shows(passage with { IsGone = true }));
        Assert.False(new Gate(People, [source]).Shows(passage with { Anchor = new TextAnchor(new TextRange(0, 999)) }));
        Assert.False(new Gate(People, [source]).Shows(passage with { Anchor = new TimeAnchor(0, 999) }));
        Assert.False(new Gate(People, [source]).Shows(passage with { Anchor = new RegionAnchor(0, 0, 9, 9, null) }));
        // The label alone is no words of anybody.
        Assert.False(new Gate(People, [source]).Shows(On(source, "Rose")));
        Assert.Throws<InvalidOperationException>(() => new Gate(People, []).Words(passage));
    }

    [Fact]
    public void An_unnamed_turn_is_of_the_only_participant_and_a_name_that_is_matched_to_nobody_is_of_nobody()
    {
        var unnamed = Source(SourceKind.Survey, [Wren], ("Why?", "It was late.", null, true), ("", "I waited on the quay.", null, false));
        Assert.Equal("I waited", new Gate(People, [unnamed]).Words(On(unnamed, "I waited")));
        var unmatched = Source(SourceKind.Interview, [Wren], ("Her brother", "I waited on the quay.", null, false));
        Assert.False(new Gate(People, [unmatched]).Shows(On(unmatched, "I waited")));
    }

    [Fact]
    public void What_the_team_asks_is_nobodys_and_of_a_question_and_its_answer_the_question_does_not_leave_alone()
    {
        var source = Source(SourceKind.Interview, [Sorrel], ("Una", "Who comes?", null, true), ("Marnie", "Nobody does.", Sorrel, false));
        var gate = new Gate(People, [source]);
        Assert.Null(gate.PersonOf(On(source, "Who comes")));
        Assert.Equal(("Who comes", "Researcher"), (gate.Words(On(source, "Who comes")), gate.Who(On(source, "Who comes"))));
        Assert.False(gate.Shows(new GatePassage(source.Id, new TextAnchor(new TextRange(0, source.Text.Length)))));
    }

    /// <summary>A quote over a turn of Sorrel's and one of Wren's.</summary>
    private static (GateSource Source, GatePassage Both) OfTwo()
    {
        var source = Source(
            SourceKind.GroupDiscussion,
            [Sorrel, Wren],
            ("Marnie", "Never on a Monday.", Sorrel, false),
            ("Rose", "I do.", Wren, false)
        );
        return (source, new GatePassage(source.Id, new TextAnchor(new TextRange(0, source.Text.Length))));
    }

    [Theory]
    [InlineData(Consent.Limited)]
    [InlineData(Consent.Withdrawn)]
    public void Of_two_people_in_a_quote_only_the_words_leave_of_whom_they_may(Consent consent)
    {
        GatePerson[] people = [People[0] with { Consent = consent }, People[1]];
        var (source, both) = OfTwo();
        var gate = new Gate(people, [source]);
        Assert.Equal(
            (Sorrel, $"{Gate.KeptInTeam}\n\nWren: I do.", "Wren"),
            (gate.PersonOf(both)!.Value.Value, gate.Words(both), gate.Who(both))
        );
        // Around it nobody is named who has withdrawn.
        Assert.Equal([consent == Consent.Withdrawn ? "" : "Sorrel", "Wren"], gate.Around(On(source, "I do"), 1).Select(t => t.Who));
    }

    [Fact]
    public void Two_people_in_a_quote_are_both_named()
    {
        GatePerson[] people = [People[0] with { Consent = Consent.Given }, People[1]];
        var (source, both) = OfTwo();
        Assert.Equal(
            ("Sorrel and Wren", "Sorrel: Never on a Monday.\n\nWren: I do."),
            (new Gate(people, [source]).Who(both), new Gate(people, [source]).Words(both))
        );
    }

    [Fact]
    public void Who_has_withdrawn_is_in_no_figure_nor_is_what_may_be_theirs()
    {
        GatePerson[] people = [People[0] with { Consent = Consent.Withdrawn }, People[1]];
        var source = Source(
            SourceKind.GroupDiscussion,
            [Sorrel, Wren],
            ("Marnie", "Never.", Sorrel, false),
            ("A voice", "Nor me.", null, false),
            ("Rose", "I do.", Wren, false)
        );
        var gate = new Gate(people, [source]);
        Assert.Equal(
            (false, false, true),
            (gate.Counts(On(source, "Never")), gate.Counts(On(source, "Nor me")), gate.Counts(On(source, "I do")))
        );
    }

    [Fact]
    public void What_the_team_or_a_story_repeats_of_someone_who_wants_theirs_kept_stays_inside()
    {
        var source = Source(
            SourceKind.Interview,
            [Sorrel, Wren],
            ("Marnie", "I keep the purple timetable on the fridge door.", Sorrel, false),
            ("Una", "You keep the purple timetable on the fridge, Marnie?", null, true),
            ("Rose", "She does.", Wren, false)
        );
        var gate = new Gate(People, [source]);
        Assert.Equal($"You {Gate.KeptInTeam}, Sorrel?", gate.Around(On(source, "She does"), 1)[0].Words);
        Assert.Equal(
            $"“I {Gate.KeptInTeam}”, says Sorrel",
            gate.Written("“I keep the PURPLE timetable, on the fridge door”, says Marnie")
                .Replace($"“{Gate.KeptInTeam}", $"“I {Gate.KeptInTeam}")
        );
    }

    /// <summary>
    /// Every word is one of a kind and stands once, so that one that leaves can be traced: random people, consents, masks and sources,
    /// every passage, its context, and a story made of everything.
    /// </summary>
    [Property(MaxTest = 150)]
    public void Nothing_of_those_who_want_theirs_kept_no_masked_word_and_no_real_name_leaves(int seed)
    {
        var random = new Random(seed);
        var people = Enumerable
            .Range(1, 4)
            .Select(i => new GatePerson(i, $"Pseudo{i}", random.Next(4) == 0 ? null : $"First{i} Last{i}", (Consent)random.Next(4)))
            .ToList();
        var sources = Enumerable.Range(0, 3).Select(s => RandomSource(random, s, people)).ToList();
        var gate = new Gate(people, sources);
        var forbidden = people.Where(p => p.RealName is not null).SelectMany(p => new[] { $"First{p.Id}", $"Last{p.Id}" }).ToHashSet();
        foreach (var source in sources)
        {
            foreach (var turn in source.Turns.Where(t => !MayLeave(source, t, people)))
                forbidden.UnionWith(Words(turn.Words.Of(source.Text)));
            foreach (var mask in source.Masks)
                forbidden.UnionWith(Words(mask.Range.Of(source.Text)));
        }
        var left = new List<string>();
        foreach (var source in sources)
        {
            for (var i = 0; i < 12; i++)
            {
                if (TextRange.Tidy(source.Text, random.Next(source.Text.Length), random.Next(source.Text.Length)) is not { } range)
                    continue;
                var passage = new GatePassage(source.Id, new TextAnchor(range), random.Next(9) == 0);
                if (gate.Shows(passage))
                    left.Add(gate.Words(passage));
                left.AddRange(gate.Around(passage, 2).SelectMany(t => new[] { t.Who, t.Words }));
            }
            // A story may hold fewer than six words of theirs in a row, which are everybody's; a whole turn, never.
            // What a stranger has said where nobody wants theirs kept, a researcher may write.
            var reserved = source.PersonIds.Any(id => people.Single(p => p.Id == id).Consent is not Consent.Given);
            foreach (
                var turn in source.Turns.Where(t =>
                    Words(t.Words.Of(source.Text)).Count() >= Verbatim.Telling && (reserved || MayLeave(source, t, people))
                )
            )
                left.Add(gate.Written($"He said: {turn.Words.Of(source.Text)} And First1 too."));
        }
        Assert.DoesNotContain(left.SelectMany(Words), forbidden.Contains);
        Assert.DoesNotContain(left, l => l.Contains("Label", StringComparison.Ordinal));
    }

    // Told apart from the gate's own code: a turn leaves when its person's consent allows; the team's; unnamed ones of an only
    // participant, or of nobody's document.
    private static bool MayLeave(GateSource source, GateTurn turn, IReadOnlyList<GatePerson> people)
    {
        bool Allows(long id) => people.Single(p => p.Id == id).Consent is Consent.Given;
        if (turn.PersonId is { } person)
            return Allows(person.Value);
        if (turn.IsTeam)
            return true;
        if (turn.IsLabelled)
            return false;
        return source.PersonIds.Count == 1
            ? Allows(source.PersonIds[0].Value)
            : source.PersonIds.Count == 0 && source.Kind is SourceKind.Document or SourceKind.FieldNotes && source.PersonIds.Count == 0;
    }

    private static GateSource RandomSource(Random random, int id, IReadOnlyList<GatePerson> people)
    {
        var (text, turns, masks) = ("", new List<GateTurn>(), new List<Mask>());
        var taking = people.Where(_ => random.Next(3) == 0).Select(p => p.Id).ToHashSet();
        for (var t = 0; t < 8; t++)
        {
            long? person = random.Next(2) == 0 ? people[random.Next(people.Count)].Id.Value : null;
            var labelled = person is not null || random.Next(2) == 0;
            if (person is { } speaks)
                taking.Add(speaks);
            text += (t > 0 ? "\n\n" : "") + (labelled ? $"Label{id}x{t}: " : "");
            var start = text.Length;
            for (var w = 0; w < random.Next(1, 12); w++)
            {
                var word =
                    random.Next(10) == 0 && people[random.Next(people.Count)] is { RealName: { } real }
                        ? real.Split(' ')[random.Next(2)]
                        : $"w{id}x{t}x{w}";
                if (word[0] == 'w' && random.Next(6) == 0)
                    masks.Add(new Mask(new TextRange(text.Length, text.Length + word.Length), "[left out]"));
                text += word + " ";
            }
            text = text.TrimEnd();
            turns.Add(new GateTurn(new TextRange(start, text.Length), person, person is null && labelled && random.Next(2) == 0, labelled));
        }
        return new GateSource(id, (SourceKind)random.Next(8), text, turns, [.. taking], masks, []);
    }

    private static IEnumerable<string> Words(string text) => text.Split([' ', '\n', ':', '.', ','], StringSplitOptions.RemoveEmptyEntries);
}
