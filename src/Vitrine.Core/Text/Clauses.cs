using System.Buffers;

namespace Vitrine.Core.Text;

/// <summary>
/// Splits a sentence into clauses by its punctuation: behind a comma, semicolon, colon, dash or ellipsis that white space follows, and
/// around what stands in brackets. No grammar is read (common practice, no source); a list of words is cut at each comma.
/// </summary>
/// <example>"If it came before I'd loaded the van, I'd not have loaded it." has two clauses.</example>
public static class Clauses
{
    private static readonly SearchValues<char> Cuts = SearchValues.Create(",;:—–…،؛、，；：");

    /// <summary>The clauses of a sentence, in order; white space at their edges belongs to none.</summary>
    /// <param name="text">The whole text.</param>
    /// <param name="sentence">The sentence.</param>
    public static IReadOnlyList<TextRange> In(string text, TextRange sentence)
    {
        var found = new List<TextRange>();
        var from = sentence.Start;
        for (var at = sentence.Start; at < sentence.End; at++)
        {
            var opens = text[at] is '(' or '[' && at > from;
            var cuts = at + 1 < sentence.End && char.IsWhiteSpace(text[at + 1]) && (Cuts.Contains(text[at]) || text[at] is ')' or ']');
            if (!opens && !cuts)
                continue;
            var end = opens ? at : at + 1;
            if (TextRange.Tidy(text, from, end) is { } clause)
                found.Add(clause);
            from = end;
        }
        if (TextRange.Tidy(text, from, sentence.End) is { } last)
            found.Add(last);
        return found;
    }
}
