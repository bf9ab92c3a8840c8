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
        (ClockTime Time, int At)? above = null;
        var nameAbove = -1;
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
            var heads = TurnHeads
                .Of(text, start, end)
                // A label with nothing behind it needs words on the next line; a name alone may stand over an empty one.
                .Where(h => !h.Alone || follows || (h.Style == TurnStyle.NameOnItsOwnLine && next < text.Length))
                .Select(h => h.Alone ? h with { WordsStart = next } : h)
                .ToList();
            if (TurnHeads.TimeOnly(text, start, end) is { } time)
            {
                // Below a name it is that name's time; else it stands over what comes.
                if (i > 0 && nameAbove == starts[i - 1] && follows)
                {
                    found.lines[^1] =
                    [
                        .. found.lines[^1].Select(h => h is { Alone: true, Time: null } ? h with { Time = time, WordsStart = next } : h),
                    ];
                    continue;
                }
                above = (time, start);
                if (follows)
                    found.lines.Add([new TurnHead(TurnStyle.TimesAlone, null, time, start, next, true)]);
                continue;
            }
            if (above is { } over)
                heads = [.. heads.Select(h => h.Time is null && h.Name is not null ? Under(h, over) : h)];
            above = null;
            if (heads.Count > 0)
                found.lines.Add(heads);
            nameAbove = heads.Exists(h => h.Alone && SpeakerLabel.Of(h.Name!) is LabelLook.Role or LabelLook.Name) ? start : -1;
        }
        return found;
    }

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
