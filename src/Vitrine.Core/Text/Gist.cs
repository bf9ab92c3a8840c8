namespace Vitrine.Core.Text;

/// <summary>A sentence that carries much of what is said in a text.</summary>
/// <param name="Range">Where it stands.</param>
/// <param name="Turn">In which turn.</param>
/// <param name="Ties">Its words that most of the others have too, the strongest first.</param>
public sealed record GistSentence(TextRange Range, int Turn, IReadOnlyList<string> Ties);

/// <summary>
/// The gist of a text: the few sentences whose words most of the others share, in their order. Chosen by count, and not understood.
/// </summary>
public static class Gist
{
    /// <summary>The most sentences.</summary>
    public const int Most = 7;

    /// <summary>So many sentences stand behind each that is chosen; a text of fewer is read as quickly.</summary>
    private const int BehindEach = 4;

    /// <summary>A sentence of fewer words than the one says nothing by itself, one of more than the other is no gist.</summary>
    private const int FewestWords = 5;
    private const int MostWords = 60;

    private const int MostTies = 3;

    /// <summary>What is this like to one that was chosen says the same.</summary>
    private const double SameWords = 0.5;

    /// <summary>
    /// Chooses, of what the team does not say, the most central sentence (<see cref="LexRank"/> over stems without stop words) of each of
    /// up to seven equal parts of the text, so that the end is not lost to a talkative beginning; never two that say the same, as long as a
    /// part has others. The bounds are common practice, no source.
    /// </summary>
    /// <param name="text">The text.</param>
    /// <param name="turns">Its turns, in order.</param>
    public static IReadOnlyList<GistSentence> Of(string text, IReadOnlyList<TurnOf> turns)
    {
        var sentences = Enumerable
            .Range(0, turns.Count)
            .Where(t => !turns[t].IsTeam && turns[t].Words.Length > 0)
            .SelectMany(t => Sentences.In(text, turns[t].Words).Select(s => new Said(s, t, TermsOf(text, s))))
            .Where(s => s.Words.Count is >= FewestWords and <= MostWords && s.Terms.Count > 0)
            .ToList();
        var many = Math.Min(Most, sentences.Count / BehindEach);
        if (many == 0)
            return [];
        var ranks = new LexRank([.. sentences.Select(s => s.Terms.Select(t => t.Stem).ToList())]);
        var chosen = new List<int>();
        for (var part = 0; part < many; part++)
        {
            var (from, to) = (part * sentences.Count / many, (part + 1) * sentences.Count / many);
            var there = Enumerable.Range(from, to - from).ToList();
            var fresh = there.Where(i => chosen.TrueForAll(c => ranks.Likeness(c, i) < SameWords)).ToList();
            chosen.Add((fresh.Count > 0 ? fresh : there).MaxBy(i => (ranks.Centrality[i], -i)));
        }
        return [.. chosen.Select(i => new GistSentence(sentences[i].Range, sentences[i].Turn, TiesOf(i)))];

        IReadOnlyList<string> TiesOf(int sentence) =>
            [
                .. sentences[sentence]
                    .Terms.DistinctBy(t => t.Stem)
                    .Select(t => (t.Word, Tie: ranks.TieBy(sentence, t.Stem)))
                    .Where(t => t.Tie > 0)
                    .OrderByDescending(t => t.Tie)
                    .Take(MostTies)
                    .Select(t => t.Word),
            ];
    }

    private static (IReadOnlyList<string> Words, IReadOnlyList<Term> Terms) TermsOf(string text, TextRange sentence)
    {
        var words = Words.In(text, sentence.Start, sentence.End).Select(w => w.Of(text)).ToList();
        return (
            words,
            [
                .. words
                    .Select(w => (Word: w, Folded: FoldedText.Of(w)))
                    .Where(w => !StopWords.Has(w.Folded))
                    .Select(w => new Term(w.Word, EnglishStem.Of(w.Folded))),
            ]
        );
    }

    private sealed record Term(string Word, string Stem);

    private sealed record Said(TextRange Range, int Turn, (IReadOnlyList<string> Words, IReadOnlyList<Term> Terms) Of)
    {
        public IReadOnlyList<string> Words => Of.Words;
        public IReadOnlyList<Term> Terms => Of.Terms;
    }
}
