namespace Vitrine.Core.Text;

/// <summary>A turn of a text, and who speaks it.</summary>
/// <param name="Words">Its stretch of the text.</param>
/// <param name="IsTeam">Whether somebody of the team speaks.</param>
/// <param name="Person">Which participant speaks; null for nobody who is known.</param>
/// <param name="HasSpeaker">Whether the text tells who speaks, be it the team or a name that is matched to nobody.</param>
public readonly record struct TurnOf(TextRange Words, bool IsTeam, ParticipantId? Person, bool HasSpeaker = false);

/// <summary>
/// A text with its words by number, in order. What stands in no turn (names of speakers, times) is not among them.
/// </summary>
public sealed class IndexedText
{
    private readonly int[] starts;
    private readonly int[] ends;
    private readonly int[] firstOfTurn;

    // Those of each turn once they were asked for; who asks at the same time finds the same ones.
    private readonly IReadOnlyList<TextRange>?[] sentences;

    private IndexedText(
        string text,
        IReadOnlyList<TurnOf> turns,
        int[] forms,
        int[] starts,
        int[] ends,
        int[] firstOfTurn,
        IReadOnlyList<TextRange>?[] sentences
    )
    {
        (Text, Turns, Forms) = (text, turns, forms);
        (this.starts, this.ends, this.firstOfTurn, this.sentences) = (starts, ends, firstOfTurn, sentences);
    }

    /// <summary>The whole text.</summary>
    public string Text { get; }

    /// <summary>Its turns, in order.</summary>
    public IReadOnlyList<TurnOf> Turns { get; }

    /// <summary>The form of each word.</summary>
    public int[] Forms { get; }

    /// <summary>Takes a text in.</summary>
    /// <param name="text">The text.</param>
    /// <param name="turns">Its turns, in order, that share nothing.</param>
    /// <param name="vocabulary">Where its words are numbered.</param>
    public static IndexedText Of(string text, IReadOnlyList<TurnOf> turns, Vocabulary vocabulary)
    {
        var (forms, starts, ends) = (new List<int>(), new List<int>(), new List<int>());
        var first = new int[turns.Count + 1];
        for (var t = 0; t < turns.Count; t++)
        {
            first[t] = forms.Count;
            foreach (var word in Words.In(text, turns[t].Words.Start, turns[t].Words.End))
            {
                forms.Add(vocabulary.FormOf(text.AsSpan(word.Start, word.Length)));
                starts.Add(word.Start);
                ends.Add(word.End);
            }
        }
        first[turns.Count] = forms.Count;
        return new IndexedText(text, turns, [.. forms], [.. starts], [.. ends], first, new IReadOnlyList<TextRange>?[turns.Count]);
    }

    /// <summary>The same text whose turns are spoken by others.</summary>
    /// <param name="turns">As many turns, on the same stretches.</param>
    public IndexedText SpokenBy(IReadOnlyList<TurnOf> turns) => new(Text, turns, Forms, starts, ends, firstOfTurn, sentences);

    /// <summary>The sentences of a turn, in order.</summary>
    public IReadOnlyList<TextRange> SentencesOf(int turn) => sentences[turn] ??= Sentences.In(Text, Turns[turn].Words);

    /// <summary>The stretch of a word.</summary>
    public TextRange Range(int word) => new(starts[word], ends[word]);

    /// <summary>In which turn a word stands.</summary>
    public int TurnAt(int word)
    {
        var at = Array.BinarySearch(firstOfTurn, word);
        if (at < 0)
            return ~at - 1;
        // Turns without words begin where the next does.
        while (at + 1 < firstOfTurn.Length && firstOfTurn[at + 1] == word)
            at++;
        return at;
    }

    /// <summary>The words of a turn: the first, and one past the last.</summary>
    public (int From, int To) WordsOf(int turn) => (firstOfTurn[turn], firstOfTurn[turn + 1]);

    /// <summary>The words that begin in a stretch: the first, and one past the last.</summary>
    public (int From, int To) WordsIn(TextRange range) => (FirstFrom(range.Start), FirstFrom(range.End));

    private int FirstFrom(int position)
    {
        var at = Array.BinarySearch(starts, position);
        return at < 0 ? ~at : at;
    }
}
