using Vitrine.Core.Text;

namespace Vitrine.Core.Gather.Turns;

/// <summary>How far a reading of turns can be relied on.</summary>
public enum Sureness
{
    /// <summary>Every name comes back or is known.</summary>
    Sure,

    /// <summary>There are names that nobody knows and that come once.</summary>
    Doubtful,

    /// <summary>Another style reads nearly as many turns, or what looks like names may be words.</summary>
    Unsure,
}

/// <summary>A name that was not understood, or that looks like one and was left in the words.</summary>
/// <param name="Label">As the text writes it.</param>
/// <param name="Times">How many lines it opens.</param>
/// <param name="Start">Where it stands first.</param>
/// <param name="Speaks">Whether turns begin with it in this reading.</param>
public sealed record DoubtfulLabel(string Label, int Times, int Start, bool Speaks);

/// <summary>What is known of a text besides its words when its turns are read.</summary>
/// <param name="IsKnown">Whether a name is someone's already: a participant's or the team's.</param>
/// <param name="Blocks">The paragraphs, where the text comes from a document that says them; else they are what stands between empty
/// lines.</param>
/// <param name="Lines">Where lines begin inside paragraphs, where the document says it; they count like lines of their own.</param>
/// <param name="Choices">What a person said of labels: whether they are speakers. Labels are compared without case.</param>
public sealed record TurnAids(
    Func<string, bool>? IsKnown = null,
    IReadOnlyList<Block>? Blocks = null,
    IReadOnlyList<int>? Lines = null,
    IReadOnlyDictionary<string, bool>? Choices = null
);

/// <summary>How the turns of a text were understood.</summary>
/// <param name="Style">As which style.</param>
/// <param name="Turns">Turns or paragraphs, in order, not overlapping.</param>
/// <param name="Sureness">How far it can be relied on.</param>
/// <param name="Doubtful">The labels that a person should look at, in the order of the text.</param>
/// <param name="Heads">How many lines open a turn by a name, a time or a mark.</param>
/// <param name="RunnerUp">The style that comes next; null where no other reads a turn.</param>
public sealed record TurnGuess(
    TurnStyle Style,
    IReadOnlyList<Turn> Turns,
    Sureness Sureness,
    IReadOnlyList<DoubtfulLabel> Doubtful,
    int Heads,
    TurnStyle? RunnerUp
);

/// <summary>
/// Recognises turns in a transcript (common practice, no source). A name is believed when it is known, a usual role or code, or opens at
/// least two lines and is no usual word. Where turns are established, a name that comes once opens a turn of its own and is doubtful: its
/// words are never those of the turn before it. A text without turns is read as paragraphs.
/// </summary>
public static partial class TurnReading
{
    private const int FewestTurns = 2;

    /// <summary>A style that reads this much of what the chosen one reads makes the choice unsure.</summary>
    private const double NearlyAsMany = 0.8;

    /// <summary>The turns (or paragraphs) of a canonical text; lines of white space belong to none.</summary>
    /// <param name="text">The text.</param>
    /// <param name="isKnown">Whether a name is someone's already.</param>
    /// <param name="blocks">The paragraphs of a document.</param>
    /// <param name="style">How it is to be read; null to recognise it.</param>
    public static IReadOnlyList<Turn> Of(
        string text,
        Func<string, bool>? isKnown = null,
        IReadOnlyList<Block>? blocks = null,
        TurnStyle? style = null
    ) => Guess(text, new TurnAids(isKnown, blocks), style).Turns;

    /// <summary>The turns of a canonical text, how sure they are, and what is doubtful in them.</summary>
    /// <param name="text">The text.</param>
    /// <param name="aids">What is known besides.</param>
    /// <param name="style">How it is to be read; null to recognise it.</param>
    public static TurnGuess Guess(string text, TurnAids? aids = null, TurnStyle? style = null)
    {
        aids ??= new TurnAids();
        var labels = new Labels(text, aids);
        var found = TurnCandidates.In(text, aids);
        if (style is { } wanted)
            return Read(text, aids, wanted, labels.Judge(found.AsChosen(wanted)), null, chosen: true);
        var all = Families.Select(family => (Family: family, Heads: labels.Judge(found.As(family)))).ToList();
        var ranked = all.Where(r => r.Heads.Established).OrderByDescending(r => r.Heads.Score).ToList();
        if (ranked.Count == 0)
        {
            // One label alone makes nobody think of a talk.
            var likely = all.Where(r => r.Heads.Opening.Count >= FewestTurns).OrderByDescending(r => r.Heads.Score).ToList();
            return likely.Count == 0
                ? Read(text, aids, TurnStyle.NoTurns, null, null, chosen: false)
                : Read(text, aids, TurnStyle.NoTurns, likely[0].Heads, likely[0].Family, chosen: false);
        }
        var (best, heads) = ranked[0];
        // Another style that finds the very same turns speaks for them, not against them.
        var places = heads.Opening.Select(h => h.LineStart).ToList();
        ranked.RemoveAll(r => r.Family != best && r.Heads.Opening.Select(h => h.LineStart).SequenceEqual(places));
        TurnStyle? second = ranked.Count > 1 ? ranked[1].Family : TurnStyle.NoTurns;
        var guess = Read(text, aids, best, heads, second, false);
        return ranked.Count > 1 && ranked[1].Heads.Score >= heads.Score * NearlyAsMany ? guess with { Sureness = Sureness.Unsure } : guess;
    }

    /// <summary>The styles that are tried; colons, times, marks and questions are read together, since transcripts mix them.</summary>
    private static readonly TurnStyle[] Families =
    [
        TurnStyle.TableColumns,
        TurnStyle.NameAndColon,
        TurnStyle.NameOnItsOwnLine,
        TurnStyle.NameInBrackets,
        TurnStyle.NameAndDash,
        TurnStyle.TimesAlone,
    ];

    private static TurnGuess Read(string text, TurnAids aids, TurnStyle style, JudgedHeads? judged, TurnStyle? second, bool chosen)
    {
        var heads = judged?.Opening ?? [];
        var spoken = style != TurnStyle.NoTurns && (heads.Count >= FewestTurns || (chosen && heads.Count > 0));
        if (!spoken)
        {
            var doubtful = chosen ? [] : judged?.Doubtful.Select(d => d with { Speaks = false }).ToList() ?? [];
            return new TurnGuess(
                TurnStyle.NoTurns,
                Unspoken(text, 0, text.Length, aids.Blocks),
                doubtful.Count > 0 ? Sureness.Unsure : Sureness.Sure,
                doubtful,
                0,
                second
            );
        }
        return new TurnGuess(
            chosen ? style : StyleOf(style, heads),
            TurnsAfter(text, heads, aids.Blocks),
            judged!.Doubtful.Count > 0 ? Sureness.Doubtful : Sureness.Sure,
            judged.Doubtful,
            heads.Count,
            second
        );
    }

    /// <summary>What most lines of a mixed transcript are.</summary>
    private static TurnStyle StyleOf(TurnStyle family, IReadOnlyList<TurnHead> heads) =>
        family == TurnStyle.NameAndColon
            ? heads.GroupBy(h => h.Time is null ? h.Style : TurnStyle.TimeAndName).MaxBy(g => g.Count())!.Key
            : family;

    private static List<Turn> TurnsAfter(string text, IReadOnlyList<TurnHead> heads, IReadOnlyList<Block>? blocks)
    {
        var turns = new List<Turn>();
        if (heads[0].LineStart > 0)
            turns.AddRange(Unspoken(text, 0, heads[0].LineStart, blocks));
        // Times of day count from the first one.
        var midnight = heads.FirstOrDefault(h => h.Time is { OfDay: true })?.Time?.BeginMs ?? 0;
        var breaksLines = blocks is null && heads[0].Style == TurnStyle.TableColumns && TurnTable.BreaksLines(text, heads);
        for (var i = 0; i < heads.Count; i++)
        {
            var end = i + 1 < heads.Count ? heads[i + 1].LineStart : text.Length;
            var spoken =
                blocks is null && heads[i].Style == TurnStyle.TableColumns
                    ? TurnTable.RowEnd(text, heads[i], end, i + 1 < heads.Count || breaksLines)
                    : SpokenEnd(heads[i], end, blocks);
            if (TextRange.Tidy(text, Math.Min(heads[i].WordsStart, spoken), spoken) is { } words)
            {
                var time = heads[i].Time;
                turns.Add(new Turn(words, heads[i].Name, After(time?.BeginMs, time, midnight), After(time?.EndMs, time, midnight)));
            }
            if (spoken < end)
                turns.AddRange(Unspoken(text, spoken, end, blocks));
        }
        return turns;
    }

    private static int? After(int? ms, ClockTime? time, int midnight)
    {
        if (ms is not { } at || time is not { OfDay: true })
            return ms;
        const int Day = 86_400_000;
        return at >= midnight ? at - midnight : at + Day - midnight;
    }

    /// <summary>
    /// Where a turn ends: headings, tables and notes that follow it are nobody's words, and what follows a table is not its last row's.
    /// </summary>
    private static int SpokenEnd(TurnHead head, int end, IReadOnlyList<Block>? blocks)
    {
        if (blocks is null)
            return end;
        var inTable = head.Style == TurnStyle.TableColumns;
        for (var i = FirstAfter(blocks, head.WordsStart); i < blocks.Count && blocks[i].Words.Start < end; i++)
        {
            if (
                inTable
                    ? blocks[i].Kind != BlockKind.TableRow
                    : blocks[i].Kind is BlockKind.Heading or BlockKind.TableRow or BlockKind.Aside
            )
                return blocks[i].Words.Start;
        }
        return end;
    }

    private static int FirstAfter(IReadOnlyList<Block> blocks, int position)
    {
        var (low, high) = (0, blocks.Count);
        while (low < high)
        {
            var middle = (low + high) / 2;
            if (blocks[middle].Words.Start <= position)
                low = middle + 1;
            else
                high = middle;
        }
        return low;
    }

    private static IReadOnlyList<Turn> Unspoken(string text, int start, int end, IReadOnlyList<Block>? blocks)
    {
        if (blocks is null)
            return Paragraphs(text, start, end);
        var turns = new List<Turn>();
        for (var i = Math.Max(0, FirstAfter(blocks, start) - 1); i < blocks.Count && blocks[i].Words.Start < end; i++)
        {
            var from = Math.Max(blocks[i].Words.Start, start);
            var to = Math.Min(blocks[i].Words.End, end);
            if (from < to && TextRange.Tidy(text, from, to) is { } words)
                turns.Add(new Turn(words));
        }
        return turns;
    }

    /// <summary>The paragraphs of a stretch of text: runs of lines between blank lines.</summary>
    public static IReadOnlyList<Turn> Paragraphs(string text, int start, int end)
    {
        var paragraphs = new List<Turn>();
        var from = start;
        while (from < end)
        {
            var gap = text.IndexOf("\n\n", from, end - from, StringComparison.Ordinal);
            var to = gap < 0 ? end : gap;
            if (TextRange.Tidy(text, from, to) is { } words)
                paragraphs.Add(new Turn(words));
            from = to + 2;
        }
        return paragraphs;
    }
}
