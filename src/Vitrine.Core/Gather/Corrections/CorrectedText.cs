using Vitrine.Core.Gather.Turns;
using Vitrine.Core.Text;

namespace Vitrine.Core.Gather.Corrections;

/// <summary>What stands beside a text, moved along when the text is corrected.</summary>
public static class CorrectedText
{
    /// <summary>
    /// The shape of the corrected text: blocks stand around whatever became of their words; what was written between them is paragraphs.
    /// </summary>
    public static Shape ShapeOf(Reanchor moved, Shape shape)
    {
        var blocks = shape
            .Blocks.Select(b => (Block: b, Now: moved.Block(b.Words)))
            .Where(b => b.Now is not null)
            .Select(b =>
                b.Block with
                {
                    Words = b.Now!.Value,
                    Cells = b
                        .Block.Cells?.Select(c => (Cell: c, Now: moved.Block(c.Words)))
                        .Where(c => c.Now is not null)
                        .Select(c => c.Cell with { Words = c.Now!.Value })
                        .ToList(),
                }
            );
        // A block that was broken in two becomes as many; each is still what the whole was.
        var standing = InOrder(
            blocks.SelectMany(b =>
                b.Cells is null
                    ? TurnReading.Paragraphs(moved.After, b.Words.Start, b.Words.End).Select(p => b with { Words = p.Words })
                    : [b]
            ),
            b => b.Words
        );
        var written = Between(moved.After, standing.Select(b => b.Words)).Select(words => new Block(words, BlockKind.Paragraph));
        return new Shape(
            [.. standing.Concat(written).OrderBy(b => b.Words.Start)],
            [
                .. shape
                    .Emphases.Select(e => (Emphasis: e, Now: moved.Of(e.Words)))
                    .Where(e => e.Now.Fate != AnchorFate.Gone)
                    .Select(e => e.Emphasis with { Words = e.Now.Range }),
            ],
            [.. shape.Pages.Select(p => p with { Start = moved.Position(p.Start) })],
            shape.Lines?.Select(moved.Position).ToList(),
            shape
                .Times?.Select(t => (Time: t, Now: moved.Of(t.Words)))
                .Where(t => t.Now.Fate != AnchorFate.Gone)
                // Words that a person has changed were looked at.
                .Select(t => t.Time with { Words = t.Now.Range, Unsure = t.Time.Unsure && t.Now.Fate == AnchorFate.Same })
                .ToList()
        );
    }

    /// <summary>
    /// The turns of the corrected text where it cannot be read anew: each stands around whatever became of its words; what was written
    /// between them are turns of nobody.
    /// </summary>
    public static IReadOnlyList<Turn> TurnsOf(Reanchor moved, IReadOnlyList<Turn> turns)
    {
        var standing = InOrder(
            turns
                .Select(t => (Turn: t, Now: moved.Block(t.Words)))
                .Where(t => t.Now is not null)
                .Select(t => t.Turn with { Words = t.Now!.Value }),
            t => t.Words
        );
        var written = Between(moved.After, standing.Select(t => t.Words)).Where(moved.IsNew).Select(words => new Turn(words));
        return [.. standing.Concat(written).OrderBy(t => t.Words.Start)];
    }

    /// <summary>
    /// Turns that were read anew from the corrected text, with the times that the old ones had where the text itself says none.
    /// </summary>
    public static IReadOnlyList<Turn> WithTimes(Reanchor moved, IReadOnlyList<Turn> old, IReadOnlyList<Turn> read)
    {
        var timed = old.Where(t => t.BeginMs is not null)
            .Select(t => (Turn: t, Now: moved.Block(t.Words)))
            .Where(t => t.Now is not null)
            .ToList();
        var next = 0;
        return
        [
            .. read.Select(turn =>
            {
                while (next < timed.Count && timed[next].Now!.Value.End <= turn.Words.Start)
                    next++;
                return turn.BeginMs is not null || next == timed.Count || !timed[next].Now!.Value.Touches(turn.Words)
                    ? turn
                    : turn with
                    {
                        BeginMs = timed[next].Turn.BeginMs,
                        EndMs = timed[next].Turn.EndMs,
                    };
            }),
        ];
    }

    /// <summary>Stretches in order; one that reaches into the one before is cut to what is its own.</summary>
    private static List<T> InOrder<T>(IEnumerable<T> things, Func<T, TextRange> words)
    {
        var kept = new List<T>();
        foreach (var thing in things.OrderBy(t => words(t).Start).ThenByDescending(t => words(t).End))
        {
            if (kept.Count == 0 || words(kept[^1]).End <= words(thing).Start)
                kept.Add(thing);
        }
        return kept;
    }

    /// <summary>The paragraphs that no stretch covers.</summary>
    private static IEnumerable<TextRange> Between(string text, IEnumerable<TextRange> standing)
    {
        var at = 0;
        foreach (var (start, end) in standing.Select(r => (r.Start, r.End)).Append((text.Length, text.Length)))
        {
            foreach (var paragraph in TurnReading.Paragraphs(text, at, Math.Max(at, start)))
                yield return paragraph.Words;
            at = end;
        }
    }
}
