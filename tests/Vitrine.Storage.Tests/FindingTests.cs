using Dapper;
using Vitrine.Core.Counting;
using Vitrine.Core.Mark.Finding;
using Vitrine.Core.Text;
using Vitrine.Storage.Counting;
using Vitrine.Storage.Mark.Finding;
using Vitrine.Storage.Text;
using Vitrine.Storage.Trail;

namespace Vitrine.Storage.Tests;

public sealed class FindingTests : IDisposable
{
    private readonly TestWorkspace w = new();
    private readonly StudyTexts texts;
    private readonly PassageStore passages;
    private readonly FoundStore found;
    private readonly MoreStore more;

    public FindingTests()
    {
        var indexes = new SeenStudies(w.Workspace, new StudyIndexStore(w.Workspace));
        texts = new StudyTexts(w.Workspace);
        passages = new PassageStore(w.Workspace, texts, indexes);
        found = new FoundStore(w.Workspace);
        more = new MoreStore(texts, indexes, passages);
    }

    public void Dispose() => w.Dispose();

    private static FindScope All(TagId? newFor = null, bool unmarked = false, bool team = false) =>
        new(PassageUnit.Sentence, team, new Conditions { Untagged = unmarked }, newFor);

    private string[] Find(string typed, FindScope? scope = null) =>
        [
            .. passages
                .Find(w.Study, w.Ida.AccountId, FindQuery.Read(typed), scope ?? All())
                .Passages.Select(p => p.Words.Of(p.In.Text.Text)),
        ];

    private List<PassageGiven> Given(string typed, FindScope? scope = null) =>
        [
            .. passages
                .Find(w.Study, w.Ida.AccountId, FindQuery.Read(typed), scope ?? All())
                .Passages.Select(p => new PassageGiven(p.In.Id, p.Words.Start, p.Words.End, p.In.Hash)),
        ];

    private Step Tag(string typed, string tag, bool reviewed = false, TagId? newFor = null) =>
        found.Tag(
            w.Ida,
            w.Study,
            Given(typed, All(newFor)),
            [],
            [TestWorkspace.Named(tag)],
            reviewed,
            (typed, PassageUnit.Sentence, false, true)
        );

    [Fact]
    public void Sentences_are_found_in_what_people_say_with_who_says_it()
    {
        var speaker = w.Sources.Get(w.Source, w.Ida.AccountId).Line.Speakers.Single(s => s.Label == "Sorrel");
        w.Turns.MatchSpeaker(w.Ida, w.Source, speaker.Id, w.Sorrel, false);
        var there = passages.Find(w.Study, w.Ida.AccountId, FindQuery.Read("quay | off"), All());
        Assert.Equal(
            ["I was already standing on the quay.", "\U0001F6A2 It was off."],
            there.Passages.Select(p => p.Words.Of(p.In.Text.Text))
        );
        Assert.Equal((2, 1), (there.Breadth.Triple.Observations, there.Breadth.Triple.Sources));
        Assert.Equal(["Nobody tells you."], Find("tell -quay"));
        Assert.Empty(Find("hear"));
        Assert.Equal(["How did you hear?"], Find("hear", All(team: true)));
    }

    [Fact]
    public void A_text_that_was_corrected_or_came_in_is_found_as_it_is_and_one_that_is_gone_is_not()
    {
        Assert.Single(Find("quay "));
        var other = w.AddSource("Other", "Wren: The quays were empty.");
        Assert.Equal(2, Find("quay ").Length);
        w.Sources.Remove(w.Ida, other);
        Assert.Single(Find("quay "));
        w.Corrections.Correct(
            w.Ida,
            w.Source,
            TestWorkspace.Corrected(w, TestWorkspace.Interview.Replace("quay", "pier", StringComparison.Ordinal)),
            []
        );
        Assert.Empty(Find("quay "));
        Assert.Equal(["I was already standing on the pier."], Find("pier"));
        w.Undo.Back(w.Ida, w.Study);
        Assert.Single(Find("quay "));
    }

    [Fact]
    public void What_a_search_tags_is_not_reviewed_until_it_is_accepted_and_what_is_dropped_is_not_found_again()
    {
        TagId tag = Tag("stand | tell", "told").Id!.Value;
        var both = w.Observations.In(w.Source, w.Steward.AccountId);
        Assert.Equal([true, true], both.Select(o => o.Found));
        Assert.Equal(2, found.NotReviewed(w.Study, w.Steward.AccountId)[tag]);
        found.Accept(w.Tom, w.Study, [both[0].Id]);
        found.Drop(w.Tom, w.Study, [both[1].Id]);
        Assert.False(Assert.Single(w.Observations.In(w.Source, w.Steward.AccountId)).Found);
        Assert.Contains(
            "accepted in the meantime",
            Assert.Throws<Refusal>(() => found.Drop(w.Tom, w.Study, [both[0].Id])).Message,
            StringComparison.Ordinal
        );
        // Run again it adds only what is new.
        w.AddSource("Other", "Wren: They stood and told me.");
        Assert.Equal(["Wren: They stood and told me."], Find("stand | tell | told", All(newFor: tag)));
        Assert.Equal(("stand | tell", tag), found.Searches(w.Study).Select(s => (s.Typed, s.TagId)).Single());
        w.Undo.Back(w.Tom, w.Study);
        Assert.Equal(2, w.Observations.In(w.Source, w.Steward.AccountId).Count);
    }

    [Fact]
    public void One_undo_takes_back_what_a_search_has_tagged_with_its_tag()
    {
        for (var i = 0; i < 3; i++)
            w.AddSource($"Talk {i}", string.Join("\n\n", Enumerable.Range(0, 150).Select(n => $"Wren: Sailing {n} was cancelled.")));
        Tag("cancel ", "called off");
        Assert.Equal(450, w.Sources.In(w.Study, w.Ida.AccountId).Sum(s => w.Observations.In(s.Id, w.Steward.AccountId).Count));
        w.Undo.Back(w.Ida, w.Study);
        Assert.Equal(0, w.Sources.In(w.Study, w.Ida.AccountId).Sum(s => w.Observations.In(s.Id, w.Steward.AccountId).Count));
        Assert.Empty(w.Tags.For(w.Study));
        Assert.Empty(found.Searches(w.Study));
    }

    [Fact]
    public void What_was_chosen_with_care_is_not_mixed_with_what_is_found()
    {
        w.Mark(w.Ida, "Nobody tells you.", "told");
        TagId tag = w.Tags.For(w.Study).Single().Id;
        Tag("tell ", "told");
        Assert.False(Assert.Single(w.Observations.In(w.Source, w.Steward.AccountId)).Found);
        Tag("tell ", "another");
        Assert.Equal([false, true], w.Observations.In(w.Source, w.Steward.AccountId).OrderBy(o => o.Id).Select(o => o.Found));
        Assert.Empty(Find("tell ", All(newFor: tag)));
        Assert.Empty(Find("tell ", All(unmarked: true)));
        var seen = new SeenStudies(w.Workspace, new StudyIndexStore(w.Workspace));
        int Counted(Conditions? where) => seen.Load(w.Study, w.Ida.AccountId, where).Marks.Count;
        Assert.Equal((2, 1), (Counted(null), Counted(new Conditions { Reviewed = true })));
    }

    [Fact]
    public void Passages_of_another_study_and_places_that_are_none_are_refused()
    {
        var hash = ContentHash.Of(TestWorkspace.Interview);
        var other = new Storage.Gather.Studies.StudyStore(w.Workspace).Create(w.Ida, new("Other", "", "", [])).Id!.Value;
        Assert.Throws<Refusal>(() => found.Tag(w.Ida, other, [new(w.Source, 0, 5, hash)], [], [TestWorkspace.Named("x")], false, null));
        Assert.Throws<Refusal>(() =>
            found.Tag(w.Ida, w.Study, [new(w.Source, 9_000, 9_999, hash)], [], [TestWorkspace.Named("x")], false, null)
        );
        Assert.Throws<Refusal>(() => found.Tag(w.Ida, w.Study, [new(w.Source, 0, 5, "ff")], [], [TestWorkspace.Named("x")], false, null));
        Assert.Empty(w.Tags.For(w.Study));
    }

    [Fact]
    public void More_is_found_by_the_words_of_those_that_were_taken_and_what_was_refused_is_not_offered()
    {
        var talk =
            "Wren: My sister rang me about it.\n\nWren: A neighbour rang me first.\n\nWren: The neighbour put it in the group.\n\n"
            + "Wren: The group knows before anybody.\n\nWren: The kiosk ate my card.";
        var source = w.AddSource("Talk", talk);
        var at = talk.IndexOf("My sister", StringComparison.Ordinal);
        var first = w.Observations.Make(w.Ida, source, TestWorkspace.Words(at, at + 27), [], [TestWorkspace.Named("heard")]).Id!.Value;
        TagId tag = w.Tags.For(w.Study).Single().Id;
        string[] Offered(params ObservationId[] taken) =>
            [
                .. more.Find(w.Study, w.Ida.AccountId, tag, null, taken, PassageUnit.Sentence, 10)
                    .Offered.Select(o => o.Passage.Words.Of(o.Passage.In.Text.Text)),
            ];
        // What stands beside it comes after it.
        Assert.Equal(["A neighbour rang me first.", "The neighbour put it in the group."], Offered());
        Assert.Equal(
            "rang",
            more.Find(w.Study, w.Ida.AccountId, tag, first, [], PassageUnit.Sentence, 10).Offered[0].Passage.Hits[0].Of(talk)
        );
        // A yes brings the neighbour, who brings the group.
        at = talk.IndexOf("A neighbour", StringComparison.Ordinal);
        ObservationId yes = w.Observations.Make(w.Ida, source, TestWorkspace.Words(at, at + 26), [tag], []).Id!.Value;
        Assert.Equal("The neighbour put it in the group.", Offered(yes)[0]);
        at = talk.IndexOf("The neighbour", StringComparison.Ordinal);
        ObservationId also = w.Observations.Make(w.Ida, source, TestWorkspace.Words(at, at + 34), [tag], []).Id!.Value;
        Assert.Equal("The group knows before anybody.", Offered(yes, also)[0]);
        at = talk.IndexOf("The group", StringComparison.Ordinal);
        found.Refuse(w.Ida, w.Study, tag, [new(source, at, at + 31, ContentHash.Of(talk))]);
        Assert.DoesNotContain("The group knows before anybody.", Offered(yes, also));
    }

    // The reference: SQLite's own bm25(), with k1 = 1.2 and b = 0.75; its inverse document frequency is ln((N - n + 0.5) / (n + 0.5)),
    // without the 1 that keeps ours above 0 (https://sqlite.org/fts5.html, section "The bm25() function").
    [Fact]
    public void Weights_are_those_of_SQLites_bm25_but_for_rarity()
    {
        string[] stems = ["quay", "boat", "lamp", "swell", "ramp", "kiosk", "ticket"];
        var chance = new Random(5);
        var talk = Enumerable
            .Range(0, 60)
            .Select(_ =>
                string.Join(' ', Enumerable.Range(0, chance.Next(3, 30)).Select(_ => stems[Math.Min(chance.Next(7), chance.Next(9))]))
            )
            .ToList();
        var vocabulary = new Vocabulary();
        var text = string.Join('\n', talk);
        var turns = new List<TurnOf>();
        foreach (var line in talk)
        {
            var start = turns.Count == 0 ? 0 : turns[^1].Words.End + 1;
            turns.Add(new TurnOf(new TextRange(start, start + line.Length), false, null));
        }
        var indexed = IndexedText.Of(text, turns, vocabulary);
        var set = new PassageSet([indexed], vocabulary, PassageUnit.Turn, _ => true);
        using var connection = w.Workspace.Open();
        connection.Execute("CREATE VIRTUAL TABLE temp.reference USING fts5 (words)");
        foreach (var line in talk)
            connection.Execute("INSERT INTO temp.reference (words) VALUES (@line)", new { line });
        foreach (var stem in stems)
        {
            var number = vocabulary.StemNumber(EnglishStem.Of(stem))!.Value;
            var query = new double[set.Stems];
            query[number] = 1;
            var ours = set.Scores(query);
            var theirs = connection.Query<(int Row, double Score)>(
                "SELECT rowid, bm25(reference) FROM temp.reference WHERE reference MATCH @stem",
                new { stem }
            );
            var n = theirs.Count();
            var rarity = Math.Max(1e-6, Math.Log((talk.Count - n + 0.5) / (n + 0.5)));
            foreach (var (row, score) in theirs)
                Assert.Equal(-score / rarity, ours[row - 1] / set.Rarity(number), 9);
            Assert.Equal(n, ours.Count(s => s > 0));
        }
    }
}
