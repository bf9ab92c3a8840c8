using System.Text;
using System.Text.RegularExpressions;
using Vitrine.Core.Text;

namespace Vitrine.Formats.Captions;

/// <summary>
/// Turns timed captions into running text: cues that follow each other in one voice become one turn. Cues without voices are joined into
/// paragraphs: a paragraph ends at a pause, at a shorter one behind a sentence, behind a sentence when it has grown long, and before a
/// dash, with which captions write that another speaks.
/// </summary>
internal static partial class CueText
{
    public static ReadSource ToSource(IReadOnlyList<Cue> cues)
    {
        var spoken = cues.SelectMany(c =>
                c.Parts.SelectMany((p, i) => Pieces(c, i).Select((piece, n) => Spoken(p.Voice, piece.Words, piece.Cue, mayName: n == 0)))
            )
            .Where(s => s.Words.Length > 0)
            .ToList();
        var text = new StringBuilder();
        var turns = new List<Turn>();
        var times = new List<TimedWords>();
        for (var i = 0; i < spoken.Count; )
        {
            var (first, begun) = (i, text.Length);
            do
            {
                if (i > first)
                    text.Append(' ');
                var (_, words, cue) = spoken[i++];
                if (cue.EndMs > cue.BeginMs)
                    times.Add(new TimedWords(new TextRange(text.Length, text.Length + words.Length), cue.BeginMs, cue.EndMs));
                text.Append(words);
            } while (i < spoken.Count && GoesOn(spoken[i - 1], spoken[i], text.Length - begun));
            var (begin, end) = (spoken[first].Cue.BeginMs, spoken[i - 1].Cue.EndMs);
            turns.Add(new Turn(new TextRange(begun, text.Length), spoken[first].Voice, begin, end > begin ? end : null));
            text.Append("\n\n");
        }
        if (turns.Count == 0)
            throw new UnreadableException("The captions in it are all empty. Export them again, or paste the text.");
        var shape = new Shape([.. turns.Select(t => new Block(t.Words, BlockKind.Paragraph))], [], [], Times: times);
        return new ReadSource(text.ToString().TrimEnd('\n'), turns, [], shape);
    }

    /// <summary>A part of a caption, cut where it says when single words begin; the whole part where it says nothing.</summary>
    private static IEnumerable<(string Words, Cue Cue)> Pieces(Cue cue, int part)
    {
        var words = cue.Parts[part].Words;
        var (at, begin) = (0, cue.BeginMs);
        foreach (var (of, from, ms) in cue.Stamps ?? [])
        {
            // Within a word nothing is cut: words have times, and not their letters.
            if (of == part && from > at && (from == words.Length || char.IsWhiteSpace(words[from]) || char.IsWhiteSpace(words[from - 1])))
            {
                yield return (words[at..from], cue with { BeginMs = begin, EndMs = ms });
                at = from;
                begin = ms;
            }
            if (of < part || from == at)
                begin = ms;
        }
        yield return (words[at..], cue with { BeginMs = begin });
    }

    private const int LongPauseMs = 2_000;
    private const int PauseMs = 700;
    private const int LongParagraph = 400;

    private static bool GoesOn((string? Voice, string Words, Cue Cue) said, (string? Voice, string Words, Cue Cue) next, int length)
    {
        if (said.Voice is not null || next.Voice is not null)
            return said.Voice == next.Voice;
        if (ReferenceEquals(said.Cue.Parts, next.Cue.Parts))
            return true;
        var pause = next.Cue.BeginMs - said.Cue.EndMs;
        if (pause >= LongPauseMs || next.Words[0] is '-' or '–' or '—')
            return false;
        return !SentenceEnd().IsMatch(said.Words) || (pause < PauseMs && length < LongParagraph);
    }

    [GeneratedRegex(@"[.!?…。！？][\p{Pe}\p{Pf}""'’]*$")]
    private static partial Regex SentenceEnd();

    private static (string? Voice, string Words, Cue Cue) Spoken(string? voice, string raw, Cue cue, bool mayName)
    {
        var words = Spaces().Replace(CanonicalText.From(raw), " ").Trim();
        if (voice is null && mayName && NameAndColon().Match(words) is { Success: true } named)
        {
            return (named.Groups[1].Value, words[named.Length..], cue);
        }
        return (voice is null ? null : CanonicalText.From(voice), words, cue);
    }

    [GeneratedRegex(@"\s+")]
    private static partial Regex Spaces();

    /// <summary>Captions without voices often write the name with a capital and a colon.</summary>
    [GeneratedRegex(@"^([\p{Lu}][\p{L}\p{N}.'’-]{0,20}(?: [\p{Lu}\p{N}][\p{L}\p{N}.'’-]{0,20})?):\s+(?=\S)")]
    private static partial Regex NameAndColon();
}
