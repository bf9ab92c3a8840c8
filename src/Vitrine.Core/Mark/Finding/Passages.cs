using System.Text.Json.Serialization;
using Vitrine.Core.Text;

namespace Vitrine.Core.Mark.Finding;

/// <summary>How much around a hit is taken.</summary>
[JsonConverter(typeof(JsonStringEnumConverter<PassageUnit>))]
public enum PassageUnit
{
    /// <summary>The sentence (see <see cref="Sentences"/>).</summary>
    Sentence,

    /// <summary>The lines up to the next line break within the turn.</summary>
    Paragraph,

    /// <summary>All that a speaker says in a row; in a text without speakers, the paragraph.</summary>
    Turn,

    /// <summary>The turn with what the team said just before it.</summary>
    TurnWithQuestion,
}

/// <summary>The passages of a text.</summary>
public static class Passages
{
    /// <summary>The passages of one turn, in order.</summary>
    public static IReadOnlyList<TextRange> Of(IndexedText text, int turn, PassageUnit unit)
    {
        var words = text.Turns[turn].Words;
        return unit switch
        {
            PassageUnit.Sentence => text.SentencesOf(turn),
            PassageUnit.Paragraph => Lines(text.Text, words),
            PassageUnit.Turn => [words],
            _ => [Asked(text, turn) is { } question ? question.Cover(words) : words],
        };
    }

    /// <summary>What the team said just before a participant's turn.</summary>
    private static TextRange? Asked(IndexedText text, int turn) =>
        turn > 0 && !text.Turns[turn].IsTeam && text.Turns[turn - 1].IsTeam ? text.Turns[turn - 1].Words : null;

    private static List<TextRange> Lines(string text, TextRange within)
    {
        var lines = new List<TextRange>();
        for (var at = within.Start; at < within.End; )
        {
            var end = text.IndexOf('\n', at, within.End - at);
            end = end < 0 ? within.End : end;
            if (!text.AsSpan(at, end - at).IsWhiteSpace())
                lines.Add(new TextRange(at, end));
            at = end + 1;
        }
        return lines;
    }
}
