using Vitrine.Core.Mark.Finding;
using Vitrine.Core.Text;

namespace Vitrine.Core.Tests;

/// <summary>The walk over numbered words against the plainest way to find the same: every passage looked at, word by word.</summary>
public sealed class FinderPropertyTests
{
    private static readonly string[] Spoken =
    [
        "boat",
        "boats",
        "cancel",
        "cancelled",
        "late",
        "quay",
        "Café",
        "the",
        "not",
        "mother-in-law",
        "can't",
        "1,000",
    ];

    private static readonly string[] Typed =
    [
        "boat",
        "cancel",
        "late",
        "\"the boat\"",
        "\"cancelled\"",
        "cafe",
        "mother-in-law",
        "bo",
        "can't",
        "\"1,000\"",
        "nothing",
    ];

    [Theory]
    [InlineData(1)]
    [InlineData(2)]
    [InlineData(3)]
    [InlineData(4)]
    public void The_walk_finds_what_looking_at_every_passage_finds(int seed)
    {
        var chance = new Random(seed);
        for (var round = 0; round < 60; round++)
        {
            var (text, turns) = Talk(chance);
            var vocabulary = new Vocabulary();
            var indexed = IndexedText.Of(text, turns, vocabulary);
            var clauses = Enumerable
                .Range(0, chance.Next(1, 4))
                .Select(i =>
                    (
                        Any: Enumerable.Range(0, chance.Next(1, 3)).Select(_ => One(Typed, chance)).ToArray(),
                        Not: i > 0 && chance.Next(3) == 0
                    )
                )
                .ToList();
            // With a space at its end, so that no word is unfinished.
            var typed = string.Join(' ', clauses.Select(c => (c.Not ? "-" : "") + string.Join(" | ", c.Any))) + " ";
            var unit = One(Enum.GetValues<PassageUnit>(), chance);
            var found = new Finder(FindQuery.Read(typed)!, vocabulary).In(indexed, unit, t => !t.IsTeam).Select(f => f.Passage).ToList();
            var plain = Enumerable
                .Range(0, turns.Count)
                .Where(t => !turns[t].IsTeam)
                .SelectMany(t => Passages.Of(indexed, t, unit).Select(p => (Turn: turns[t].Words, Passage: p)))
                .Where(p => clauses.All(c => c.Any.Any(term => Holds(text, p.Turn, p.Passage, term)) != c.Not))
                .Select(p => p.Passage)
                .ToList();
            Assert.True(plain.SequenceEqual(found), $"“{typed}” by {unit} in “{text}”");
            // A whole turn holds it when the turn is found.
            var finder = new Finder(FindQuery.Read(typed)!, vocabulary);
            var whole = finder.In(indexed, PassageUnit.Turn, _ => true).Select(f => f.Passage).ToHashSet();
            var stretches = turns.Select(t => t.Words).ToList();
            Assert.True(
                stretches.Select(whole.Contains).SequenceEqual(finder.Holding(indexed, stretches)),
                $"“{typed}” in turns of “{text}”"
            );
        }
    }

    /// <summary>Rows near each other against all ways to choose a word for each part.</summary>
    [Theory]
    [InlineData(1)]
    [InlineData(2)]
    [InlineData(3)]
    public void Parts_near_each_other_are_found_whichever_of_them_belong_together(int seed)
    {
        var chance = new Random(seed);
        for (var round = 0; round < 300; round++)
        {
            var words = Enumerable.Range(0, chance.Next(2, 12)).Select(_ => One(["ay", "bee", "cow", "duck"], chance)).ToArray();
            var parts = Enumerable.Range(0, chance.Next(2, 5)).Select(_ => One(["ay", "bee", "cow"], chance)).ToArray();
            var within = parts.Skip(1).Select(_ => chance.Next(4)).ToArray();
            var text = string.Join(' ', words);
            var vocabulary = new Vocabulary();
            var indexed = IndexedText.Of(text, [new TurnOf(new TextRange(0, text.Length), false, null)], vocabulary);
            var typed = parts[0] + string.Concat(parts.Skip(1).Select((p, i) => $" ~{within[i]} {p}")) + " ";
            var found = new Finder(FindQuery.Read(typed)!, vocabulary).In(indexed, PassageUnit.Turn, _ => true).ToList();
            var chains = Chains([], 0).ToList();
            Assert.True(chains.Count > 0 == found.Count > 0, $"“{typed}” in “{text}”");
            if (found.Count > 0)
                Assert.Equal(chains.SelectMany(c => c).Distinct().Order(), found[0].Hits.Select(h => text[..h.Start].Count(c => c == ' ')));

            IEnumerable<int[]> Chains(int[] so, int part) =>
                part == parts.Length
                    ? [so]
                    : Enumerable
                        .Range(0, words.Length)
                        .Where(w => words[w] == parts[part])
                        .Where(w => part == 0 || (w != so[^1] && Math.Abs(w - so[^1]) - 1 <= within[part - 1]))
                        .SelectMany(w => Chains([.. so, w], part + 1));
        }
    }

    [Fact]
    public void Several_texts_at_once_give_the_same_as_one_after_the_other()
    {
        var chance = new Random(9);
        var vocabulary = new Vocabulary();
        var texts = Enumerable.Range(0, 90).Select(_ => Talk(chance)).Select(t => IndexedText.Of(t.Text, t.Turns, vocabulary)).ToList();
        var finder = new Finder(FindQuery.Read("boat | late")!, vocabulary);
        var one = texts.ConvertAll(t => finder.In(t, PassageUnit.Sentence, _ => true).Select(p => p.Passage).ToList());
        var all = finder.InAll(texts, PassageUnit.Sentence, _ => true, int.MaxValue);
        Assert.Equal(one, all.Select(a => a.Select(p => p.Passage).ToList()));
        // It ends with the text in which there are more than were asked for.
        var some = finder.InAll(texts, PassageUnit.Sentence, _ => true, 10);
        Assert.InRange(some.Sum(s => s.Count), 11, 10 + some[^1].Count);
        Assert.True(some.Count < texts.Count);
    }

    [Fact]
    public void Words_know_their_turns_also_beside_turns_without_words()
    {
        const string text = "… one two\n— three";
        TurnOf[] turns =
        [
            new(new TextRange(0, 1), false, null),
            new(new TextRange(2, 9), false, null),
            new(new TextRange(10, 11), true, null),
            new(new TextRange(12, 17), false, null),
        ];
        var vocabulary = new Vocabulary();
        var indexed = IndexedText.Of(text, turns, vocabulary);
        Assert.Equal(["one", "two", "three"], Enumerable.Range(0, 3).Select(w => indexed.Range(w).Of(text)));
        Assert.Equal([1, 1, 3], Enumerable.Range(0, 3).Select(indexed.TurnAt));
        Assert.Equal((0, 0), indexed.WordsOf(0));
        Assert.Equal((2, 2), indexed.WordsOf(2));
        Assert.Equal((1, 3), indexed.WordsIn(new TextRange(4, 17)));
        Assert.Equal((0, 0), indexed.WordsIn(new TextRange(0, 1)));
        var others = indexed.SpokenBy([.. turns.Select(t => t with { IsTeam = !t.IsTeam })]);
        Assert.True(others.Turns[1].IsTeam);
        Assert.Same(indexed.Forms, others.Forms);
    }

    [Fact]
    public void The_vocabulary_joins_what_differs_by_case_and_accents_alone_and_keeps_forms_of_a_stem_apart()
    {
        var vocabulary = new Vocabulary();
        var cafe = vocabulary.FormOf("Café");
        Assert.Equal(cafe, vocabulary.FormOf("CAFE"));
        Assert.Equal(vocabulary.FormOf("can’t"), vocabulary.FormOf("can't"));
        var (one, other) = (vocabulary.FormOf("cancelled"), vocabulary.FormOf("cancelling"));
        Assert.NotEqual(one, other);
        Assert.Equal(vocabulary.StemOf(one), vocabulary.StemOf(other));
        Assert.Equal(vocabulary.StemNumber("cancel"), vocabulary.StemOf(one));
        Assert.Null(vocabulary.StemNumber("quay"));
        Assert.Equal(("cafe", 4, 3), (vocabulary.Form(cafe), vocabulary.Forms, vocabulary.Stems));
    }

    /// <summary>Whether a passage holds a whole term, within its turn.</summary>
    private static bool Holds(string text, TextRange turn, TextRange passage, string term)
    {
        var exact = term.StartsWith('"');
        var wanted = Words.In(term, 0, term.Length).Select(w => Compared(w.Of(term), exact)).ToList();
        var words = Words.In(text, turn.Start, turn.End).ToList();
        for (var i = 0; i + wanted.Count <= words.Count; i++)
        {
            if (
                passage.Start <= words[i].Start
                && words[i + wanted.Count - 1].Start < passage.End
                && wanted.Select((w, n) => (w, n)).All(x => Compared(words[i + x.n].Of(text), exact) == x.w)
            )
                return true;
        }
        return false;
    }

    private static string Compared(string word, bool exact)
    {
        var folded = FoldedText.Of(word).Replace('’', '\'');
        return exact ? folded : EnglishStem.Of(folded);
    }

    private static (string Text, List<TurnOf> Turns) Talk(Random chance)
    {
        var text = new System.Text.StringBuilder();
        var turns = new List<TurnOf>();
        for (var t = 0; t < chance.Next(1, 6); t++)
        {
            text.Append("Name").Append(t).Append(": ");
            var start = text.Length;
            for (var s = 0; s < chance.Next(1, 4); s++)
            {
                var sentence = string.Join(' ', Enumerable.Range(0, chance.Next(1, 6)).Select(_ => One(Spoken, chance)));
                text.Append(char.ToUpperInvariant(sentence[0])).Append(sentence.AsSpan(1)).Append(chance.Next(4) == 0 ? ".\n" : ". ");
            }
            while (char.IsWhiteSpace(text[^1]))
                text.Length--;
            turns.Add(new TurnOf(new TextRange(start, text.Length), chance.Next(3) == 0, null));
            text.Append("\n\n");
        }
        return (text.ToString(), turns);
    }

    private static T One<T>(IReadOnlyList<T> of, Random chance) => of[chance.Next(of.Count)];
}
