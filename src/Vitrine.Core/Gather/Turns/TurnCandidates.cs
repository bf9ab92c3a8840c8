namespace Vitrine.Core.Gather.Turns;

/// <summary>All lines of a text that may open a turn, by style.</summary>
internal sealed class TurnCandidates
{
    /// <summary>Read together: transcripts mix them.</summary>
    private static readonly TurnStyle[] Spoken =
    [
        TurnStyle.ChangeMarks,
        TurnStyle.QuestionAndAnswer,
        TurnStyle.TimeAndName,
        TurnStyle.NameAndColon,
    ];

    private readonly List<IReadOnlyList<TurnHead>> lines = [];
    private readonly IReadOnlyList<TurnHead> table;

    private TurnCandidates(IReadOnlyList<TurnHead> table) => this.table = table;

    /// <summary>The heads of a style that a person chose: a name and a colon alone, without those that have times.</summary>
    public IReadOnlyList<TurnHead> AsChosen(TurnStyle style) =>
        style == TurnStyle.NameAndColon ? First(h => h.Style == TurnStyle.NameAndColon && h.Time is null) : As(style);

    /// <summary>The heads of a style, at most one for a line, in order.</summary>
    public IReadOnlyList<TurnHead> As(TurnStyle style) =>
        style switch
        {
            TurnStyle.NoTurns => [],
            TurnStyle.TableColumns => table,
            TurnStyle.NameAndColon => First(h => Spoken.Contains(h.Style)),
            TurnStyle.TimeAndName => First(h => Spoken.Contains(h.Style) && h.Time is not null),
            TurnStyle.ChangeMarks => First(h => h.Style is TurnStyle.ChangeMarks),
            TurnStyle.QuestionAndAnswer => First(h => h.Style is TurnStyle.QuestionAndAnswer),
            // Names without anything beside them mix with times, and with nothing else.
            TurnStyle.NameOnItsOwnLine => First(h => h.Style == style || (h.Style == TurnStyle.TimeAndName && h.Alone)),
            _ => First(h => h.Style == style),
        };

    private List<TurnHead> First(Func<TurnHead, bool> fits) => [.. lines.Select(heads => heads.FirstOrDefault(fits)).OfType<TurnHead>()];

    /// <summary>Looks through the lines of a text.</summary>
    public static TurnCandidates In(string text, TurnAids aids)
    {
        var found = new TurnCandidates(TurnTable.Heads(text, aids));
        var lines = LinesOf(text, aids);
        var over = TimesStandOver(lines);
        (ClockTime Time, int At)? above = null;
        for (var i = 0; i < lines.Count; i++)
        {
            var line = lines[i];
            if (line.Time is { } time)
            {
                // A number that stands alone over a time is the number of what comes.
                var at = i > 0 && IsNumber(text, lines[i - 1]) ? lines[i - 1].Start : line.Start;
                if (!over && i > 0 && lines[i - 1] is { NamesAlone: true } name && line.Start == name.Next && line.Follows)
                {
                    found.lines[^1] =
                    [
                        .. found
                            .lines[^1]
                            .Select(h => h is { Alone: true, Time: null } ? h with { Time = time, WordsStart = line.Next } : h),
                    ];
                    continue;
                }
                above = (time, at);
                if (line.Follows)
                    found.lines.Add([new TurnHead(TurnStyle.TimesAlone, null, time, at, line.Next, true)]);
                continue;
            }
            // Where every name has its time over it, a line without one is said, whatever it looks like.
            IEnumerable<TurnHead> heads = over && above is null ? line.Heads.Where(h => !h.Alone) : line.Heads;
            if (above is { } upper)
                heads = heads.Select(h => h.Time is null && h.Name is not null ? Under(h, upper) : h);
            above = null;
            var kept = heads.ToList();
            if (kept.Count > 0)
                found.lines.Add(kept);
        }
        return found;
    }

    /// <summary>A line that is not empty.</summary>
    /// <param name="Start">Where it begins.</param>
    /// <param name="End">Where its words end.</param>
    /// <param name="Next">Where the next line begins.</param>
    /// <param name="Follows">Whether words follow it at once.</param>
    /// <param name="Time">The time, where it holds nothing else.</param>
    /// <param name="Heads">How it may open a turn.</param>
    private sealed record Line(int Start, int End, int Next, bool Follows, ClockTime? Time, IReadOnlyList<TurnHead> Heads)
    {
        public bool NamesAlone => Heads.Any(h => h.Alone && SpeakerLabel.Of(h.Name!) is LabelLook.Role or LabelLook.Name);
    }

    private static List<Line> LinesOf(string text, TurnAids aids)
    {
        var lines = new List<Line>();
        var starts = LineStarts(text, aids.Lines);
        for (var i = 0; i < starts.Count; i++)
        {
            var start = starts[i];
            var next = i + 1 < starts.Count ? starts[i + 1] : text.Length;
            var end = next;
            while (end > start && text[end - 1] is '\n' or ' ')
                end--;
            if (end == start)
                continue;
            // The paragraphs of a document stand apart; in other texts an empty line ends what a label stands above.
            var follows = next < text.Length && (text[next] != '\n' || aids.Blocks is not null);
            var time = TurnHeads.TimeOnly(text, start, end);
            var heads = TurnHeads
                .Of(text, start, end)
                // A label with nothing behind it needs words on the next line; a name alone may stand over an empty one.
                .Where(h => !h.Alone || follows || (h.Style == TurnStyle.NameOnItsOwnLine && next < text.Length))
                .Select(h => h.Alone ? h with { WordsStart = next } : h)
                .ToList();
            lines.Add(new Line(start, end, next, follows, time, time is null ? heads : []));
        }
        return lines;
    }

    /// <summary>
    /// Whether times on lines of their own stand over the names they belong to, each over one, not under them and not here and there: told
    /// by all lines. For each name at most one other line may look like one: a short answer.
    /// </summary>
    private static bool TimesStandOver(List<Line> lines)
    {
        var (over, under, names) = (0, 0, 0);
        for (var i = 0; i < lines.Count; i++)
        {
            names += lines[i].NamesAlone ? 1 : 0;
            if (lines[i].Time is null)
                continue;
            over += i + 1 < lines.Count && lines[i + 1].NamesAlone ? 1 : 0;
            under += i > 0 && lines[i - 1].NamesAlone ? 1 : 0;
        }
        return over > 0 && over >= under && names <= over * 2;
    }

    private static bool IsNumber(string text, Line line) =>
        line.End - line.Start <= 5 && text.AsSpan(line.Start, line.End - line.Start).IndexOfAnyExceptInRange('0', '9') < 0;

    /// <summary>A name below a line with a time.</summary>
    private static TurnHead Under(TurnHead head, (ClockTime Time, int At) over) => head with { Time = over.Time, LineStart = over.At };

    /// <summary>Where lines begin: after line ends, and where a document says so.</summary>
    private static List<int> LineStarts(string text, IReadOnlyList<int>? more)
    {
        var starts = new List<int> { 0 };
        var other = 0;
        for (var at = text.IndexOf('\n'); ; at = text.IndexOf('\n', at + 1))
        {
            var until = at < 0 ? text.Length : at + 1;
            for (; more is not null && other < more.Count && more[other] < until; other++)
            {
                if (more[other] > starts[^1])
                    starts.Add(more[other]);
            }
            if (at < 0)
                return starts;
            if (until > starts[^1])
                starts.Add(until);
        }
    }
}
