using Vitrine.Core.Mark.Finding;
using Vitrine.Core.Text;

namespace Vitrine.Core.Tests;

public sealed class FindMoreTests
{
    private static readonly string[] Said =
    [
        "boat late boat",
        "late tram",
        "quay lamp swell",
        "sister rang",
        "sister told neighbour",
        "neighbour told group",
        "group knows",
        "kiosk ate card",
    ];

    private readonly Vocabulary vocabulary = new();
    private readonly IndexedText[] texts;
    private readonly PassageSet set;
    private readonly FindMore more;

    // Each in a text of its own, so that nothing stands beside it; all by one person.
    public FindMoreTests()
    {
        texts = [.. Said.Select(s => IndexedText.Of(s, [new TurnOf(new TextRange(0, s.Length), false, (ParticipantId)1L)], vocabulary))];
        set = new PassageSet(texts, vocabulary, PassageUnit.Turn, _ => true);
        more = new FindMore(set);
    }

    private IReadOnlyDictionary<int, int> Bag(int passage) => set.BagOf(texts[passage], new TextRange(0, Said[passage].Length));

    private int[] Ranked(double[] query, Func<int, bool>? left = null, Func<int, bool>? unheard = null) =>
        [.. more.Ranked(query, left ?? (_ => true), unheard ?? (_ => false), 10).Select(p => p.Passage)];

    // Worked by hand after Robertson and Zaragoza (2009): eight passages of 21 terms, 2.625 on average; "late" stands in two of them.
    // Rarity: ln(1 + (8 - 2 + 0.5) / (2 + 0.5)) = ln 3.6 = 1.280934. In "late tram", of 2 terms: 1.2 (0.25 + 0.75 x 2 / 2.625) = 0.985714;
    // weight 1.280934 x 2.2 / 1.985714 = 1.419164. In "boat late boat", of 3: 1.328571, and 1.210207. "boat", twice there and nowhere
    // else: ln(1 + 7.5 / 1.5) = 1.791759; weight 1.791759 x 2 x 2.2 / 3.328571 = 2.368506.
    [Fact]
    public void Weights_are_those_worked_by_hand()
    {
        var query = new double[set.Stems];
        query[Stem("late")] = 1;
        var scores = set.Scores(query);
        Assert.Equal(1.419164, scores[1], 5);
        Assert.Equal(1.210207, scores[0], 5);
        Assert.Equal(0, scores[2]);
        query[Stem("boat")] = 0.5;
        Assert.Equal(1.210207 + (2.368506 / 2), set.Scores(query)[0], 5);
        Assert.Equal(
            [("boat", 2.368506), ("late", 1.210207)],
            set.WeightsOf(0)
                .OrderByDescending(w => w.Weight)
                .Select(w => (w.Stem == Stem("boat") ? "boat" : "late", Math.Round(w.Weight, 6)))
        );
    }

    private int Stem(string word) => vocabulary.StemNumber(EnglishStem.Of(word))!.Value;

    [Fact]
    public void The_first_order_is_by_shared_words_and_one_that_comes_often_weighs_more_but_not_as_often()
    {
        var query = more.Query([Bag(3)], [], []);
        Assert.Equal([3, 4], Ranked(query));
        Assert.Equal(1, query[Stem("sister")], 9);
        var thrice = more.Query([Bag(3), Bag(3), Bag(3)], [], []);
        Assert.InRange(thrice[Stem("sister")], 2, 3);
        Assert.Empty(Ranked(more.Query([], [], [])));
    }

    [Fact]
    public void A_yes_leads_to_its_words_and_a_no_away_from_them()
    {
        Func<int, bool> left = p => p != 3;
        Assert.Equal([4], Ranked(more.Query([Bag(3)], [], []), left));
        // The neighbour is heard of by a yes; then the group.
        Assert.Equal([4, 5], Ranked(more.Query([Bag(3)], [Bag(4)], []), left));
        Assert.Equal([4, 5, 6], Ranked(more.Query([Bag(3)], [Bag(4), Bag(5)], []), left).Order());
        // What is refused takes its words down, and what holds them alone away.
        var refused = more.Query([Bag(3), Bag(1)], [], [Bag(0), Bag(0)]);
        Assert.True(refused[Stem("late")] < more.Query([Bag(3), Bag(1)], [Bag(4)], [])[Stem("late")]);
        Assert.Equal(0, refused[Stem("boat")]);
    }

    [Fact]
    public void Somebody_who_was_not_heard_yet_comes_before_an_equal_and_each_says_what_carried_it()
    {
        var query = more.Query([Bag(4)], [], []);
        var plain = more.Ranked(query, p => p is 3 or 5, _ => false, 10);
        var favoured = more.Ranked(query, p => p is 3 or 5, p => p == 3, 10);
        Assert.Equal(plain.Single(p => p.Passage == 3).Score * FindMore.Unheard, favoured.Single(p => p.Passage == 3).Score, 9);
        Assert.Equal([Stem("sister")], favoured.Single(p => p.Passage == 3).Carried);
        Assert.Equal(2, favoured.Single(p => p.Passage == 5).Carried.Count);
        Assert.Equal(
            [.. favoured.Select(p => (p.Passage, p.Score))],
            more.Ranked(query, p => p is 3 or 5, p => p == 3, 10).Select(p => (p.Passage, p.Score))
        );
        Assert.Single(more.Ranked(query, _ => true, _ => false, 1));
    }

    [Fact]
    public void What_stands_beside_a_passage_carries_a_part_of_it()
    {
        const string talk = "The sister rang. Nobody answered. It rained. The kiosk ate my card.";
        var words = new Vocabulary();
        var text = IndexedText.Of(talk, [new TurnOf(new TextRange(0, talk.Length), false, null)], words);
        var passages = new PassageSet([text], words, PassageUnit.Sentence, _ => true);
        var query = new double[passages.Stems];
        query[words.StemNumber("sister")!.Value] = 1;
        var ranked = new FindMore(passages).Ranked(query, _ => true, _ => false, 10);
        Assert.Equal([0, 1, 2], ranked.Select(p => p.Passage));
        Assert.Equal(ranked[0].Score * 0.4, ranked[1].Score, 9);
        Assert.Equal(ranked[0].Score * 0.1, ranked[2].Score, 9);
        Assert.Empty(ranked[1].Carried);
    }

    [Fact]
    public void Small_words_are_no_terms_and_the_teams_words_are_left_out()
    {
        const string talk = "It was the boat.\nAnd it was not.";
        var words = new Vocabulary();
        TurnOf[] turns = [new(new TextRange(0, 16), false, null), new(new TextRange(17, talk.Length), true, null)];
        var text = IndexedText.Of(talk, turns, words);
        var passages = new PassageSet([text], words, PassageUnit.Turn, t => !t.IsTeam);
        Assert.Equal(1, passages.Count);
        Assert.Equal([(words.StemNumber("boat")!.Value, 1)], passages.BagOf(text, new TextRange(0, 16)).Select(b => (b.Key, b.Value)));
        Assert.Equal((0, 0, new TextRange(0, 16)), passages.At(0));
        Assert.Empty(
            new FindMore(new PassageSet([], words, PassageUnit.Turn, _ => true)).Ranked(new double[words.Stems], _ => true, _ => true, 5)
        );
    }

    [Fact]
    public void A_word_that_everybody_uses_carries_less_than_one_of_few_people()
    {
        var words = new Vocabulary();
        // Every one of four came; gulls and rain are each said as often, gulls by one person, rain by two.
        string[] said = ["came rain", "came gulls gulls", "came rain", "came"];
        var texts = said.Select(
                (t, i) => IndexedText.Of(t, [new TurnOf(new TextRange(0, t.Length), false, (ParticipantId)(i + 1L))], words)
            )
            .ToList();
        var passages = new PassageSet(texts, words, PassageUnit.Turn, _ => true);
        double Of(string word) => passages.Rarity(words.StemOf(words.FormOf(word)));
        // ln(1 + (4 - 4 + 0.5) / (4 + 0.5)) = 0.105361, of which 1 - 3/4 stays; ln(1 + 2.5/2.5) = 0.693147, of which 1 - 1/4; ln(1 +
        // 3.5/1.5) = 1.203973.
        Assert.Equal(0.026340, Of("came"), 6);
        Assert.Equal(0.519860, Of("rain"), 6);
        Assert.Equal(1.203973, Of("gulls"), 6);
    }
}
