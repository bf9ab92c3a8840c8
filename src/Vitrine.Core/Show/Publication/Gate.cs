using Vitrine.Core.Counting;
using Vitrine.Core.Gather.Privacy;
using Vitrine.Core.Gather.Sources;
using Vitrine.Core.Mark.Observations;
using Vitrine.Core.Text;

namespace Vitrine.Core.Show.Publication;

/// <summary>A participant, as far as the gate looks at them.</summary>
public sealed record GatePerson(ParticipantId Id, string Pseudonym, string? RealName, Consent Consent);

/// <summary>A turn of a source.</summary>
/// <param name="Words">Where it stands in the source's text.</param>
/// <param name="PersonId">The participant who speaks; null when it is the team, nobody named, or a name that is matched to nobody.</param>
/// <param name="IsTeam">Whether the team speaks.</param>
/// <param name="IsLabelled">Whether the text names who speaks.</param>
/// <param name="AtMs">When it begins on its session's clock, in milliseconds; null where no time is known.</param>
/// <param name="EndMs">When it has ended on that clock; null where that is not known.</param>
public sealed record GateTurn(TextRange Words, ParticipantId? PersonId, bool IsTeam, bool IsLabelled, int? AtMs = null, int? EndMs = null);

/// <summary>A source of which something may leave.</summary>
/// <param name="Id">Its id.</param>
/// <param name="Kind">What it is.</param>
/// <param name="Text">Its canonical text.</param>
/// <param name="Turns">In text order.</param>
/// <param name="PersonIds">Everyone who takes part in it.</param>
/// <param name="Masks">In text order, not overlapping.</param>
/// <param name="Quoted">The stretches that are marked in it.</param>
/// <param name="SomebodyErased">Whether somebody took part in it who was erased.</param>
/// <param name="Earlier">Turns of its texts before corrections that are, or may be, of someone who wants theirs kept.</param>
public sealed record GateSource(
    SourceId Id,
    SourceKind Kind,
    string Text,
    IReadOnlyList<GateTurn> Turns,
    IReadOnlyList<ParticipantId> PersonIds,
    IReadOnlyList<Mask> Masks,
    IReadOnlyList<TextRange> Quoted,
    bool SomebodyErased = false,
    IReadOnlyList<string>? Earlier = null
)
{
    /// <summary>Who its only participant may be: with somebody erased nobody knows who is left.</summary>
    internal IReadOnlyList<ParticipantId> OnlyPersonIds => SomebodyErased ? [] : PersonIds;
}

/// <summary>Words that readers see something else of, because they look like a name or a masked word.</summary>
/// <param name="Before">What stands before them.</param>
/// <param name="Words">The words.</param>
/// <param name="After">What stands behind them.</param>
/// <param name="Replacement">What readers see.</param>
/// <param name="Context">By what they are known again when they are let stand.</param>
/// <param name="Stands">Whether they are.</param>
public sealed record CoveredWords(string Before, string Words, string After, string Replacement, string Context, bool Stands);

/// <summary>Words that may leave.</summary>
/// <param name="SourceId">The source in which they stand.</param>
/// <param name="Anchor">Where they stand.</param>
/// <param name="IsGone">Whether a correction took them out of the text, so that nobody knows whose they are until somebody has
/// looked.</param>
public sealed record GatePassage(SourceId SourceId, Anchor Anchor, bool IsGone = false)
{
    /// <summary>The stretch of text; null when it is none.</summary>
    internal TextRange? Range => (Anchor as TextAnchor)?.Range;
}

/// <summary>
/// A turn as a reader is shown it; the quote inside it is bounded by positions in <paramref name="Words"/>, in UTF-16 units.
/// </summary>
/// <param name="Who">The pseudonym, or "Researcher"; empty for nobody named.</param>
/// <param name="IsTeam">Whether the team speaks.</param>
/// <param name="Words">What is shown of its words.</param>
/// <param name="AtMs">When it begins on its session’s clock, in milliseconds; null where no time is known.</param>
/// <param name="QuoteStart">Where the quote begins; null when it is not in this turn.</param>
/// <param name="QuoteEnd">One past its end.</param>
public sealed record ShownTurn(string Who, bool IsTeam, string Words, int? AtMs, int? QuoteStart, int? QuoteEnd);

/// <summary>
/// The one way by which words leave the team. Made of one snapshot of people, consent, masks, names and sources, it decides for every
/// passage whether it leaves and as what.
/// It fails closed: a source, a person or a turn that it does not know, a name that is matched to nobody, words that a correction took
/// away: whatever it cannot tell whose it is stays inside.
/// What nobody who was studied has said leaves: the team's own turns, and documents and field notes in which nobody takes part.
/// </summary>
/// <example>
/// Sorrel wants hers kept. A quote over her turn and Wren's leaves as "(These words stay with the team.)" and Wren's words, with Wren's
/// real name replaced and what is masked in it replaced;
/// a story that a researcher wrote leaves without any six words in a row that Sorrel has said. When Sorrel has withdrawn, she is in no
/// figure either.
/// </example>
public sealed partial class Gate
{
    /// <summary>Stands where words are that do not leave.</summary>
    public const string KeptInTeam = "(These words stay with the team.)";

    private const string Somebody = "A participant";
    private const string Researcher = "Researcher";
    private const string BetweenTurns = "\n\n";

    private readonly Dictionary<ParticipantId, GatePerson> people;
    private readonly Dictionary<SourceId, GateSource> sources;
    private readonly Dictionary<SourceId, GateRecording> recordings;
    private readonly IReadOnlyList<NamedPerson> names;
    private readonly IReadOnlyList<(string Words, string Replacement)> masked;
    private readonly Verbatim kept;
    private readonly IReadOnlySet<string> letStand;

    /// <param name="people">Everyone in the studies that something leaves of.</param>
    /// <param name="sources">Every source that something leaves of, every source with a mask, and every source in which someone takes part
    /// who wants theirs kept.</param>
    /// <param name="letStand">What looks like a name or a masked word and is none, by <see cref="NameMask.Context"/>.</param>
    /// <param name="recordings">The recordings and pictures of which something may leave, and those in which something is heard that
    /// may.</param>
    public Gate(
        IReadOnlyCollection<GatePerson> people,
        IReadOnlyCollection<GateSource> sources,
        IReadOnlyCollection<GateRecording>? recordings = null,
        IReadOnlySet<string>? letStand = null
    )
    {
        this.letStand = letStand ?? new HashSet<string>();
        this.recordings = (recordings ?? []).ToDictionary(r => r.Source.Id);
        this.people = people.ToDictionary(p => p.Id);
        this.sources = sources.ToDictionary(s => s.Id);
        names = [.. people.Where(p => p.RealName is not null).Select(p => new NamedPerson(p.RealName!, p.Pseudonym))];
        masked = [.. sources.SelectMany(s => s.Masks.Select(m => (m.Range.Of(s.Text), m.Replacement))).Distinct()];
        var theirs = sources
            .Where(s => s.PersonIds.Any(p => !MayLeave(p)))
            .Select(s => (Source: s, Turns: s.Turns.Where(t => MayBeKept(s, t)).ToList()))
            .ToList();
        kept = new Verbatim(
            theirs.SelectMany(t => t.Turns.Select(turn => turn.Words.Of(t.Source.Text))).Concat(sources.SelectMany(s => s.Earlier ?? [])),
            theirs.SelectMany(t =>
                t.Source.Quoted.Where(q => t.Turns.Any(turn => turn.Words.Start <= q.Start && turn.Words.End >= q.End))
                    .Select(q => q.Of(t.Source.Text))
            )
        );
    }

    /// <summary>Whose words a passage is, by the same rule as in every count; null for nobody known.</summary>
    public ParticipantId? PersonOf(GatePassage passage) =>
        passage.Anchor is TimeAnchor clip && recordings.TryGetValue(passage.SourceId, out var recording) ? Speaker(recording, clip)
        : sources.TryGetValue(passage.SourceId, out var source) ? PersonOf(source, passage.Anchor)
        : null;

    /// <summary>Whether a passage is in what readers are told of figures: not when it is of someone who has withdrawn, or may be.</summary>
    public bool Counts(GatePassage passage)
    {
        if (!sources.TryGetValue(passage.SourceId, out var source))
            return false;
        return PersonOf(passage) is { } person ? !HasWithdrawn(person) : !source.PersonIds.Any(HasWithdrawn);
    }

    /// <summary>
    /// Whether readers are shown a passage's words: when it is known whose they are, and something that they said leaves; of a question
    /// and its answer not the question alone.
    /// </summary>
    public bool Shows(GatePassage passage)
    {
        if (passage.Anchor is not TextAnchor)
            return Clip(passage) is not null || Leaves(passage.Anchor as RegionAnchor, passage.SourceId);
        if (
            passage.IsGone
            || passage.Range is not { } range
            || !sources.TryGetValue(passage.SourceId, out var source)
            || range.End > source.Text.Length
        )
            return false;
        var turns = Parts(source, range).Select(p => p.Turn).ToList();
        var theirs = turns.Where(t => !t.IsTeam).ToList();
        return (theirs.Count > 0 ? theirs : turns).Any(t => Leaves(source, t));
    }

    /// <summary>
    /// How a passage is quoted: turn by turn, without the names that the text writes beside them; a turn that does not leave is said to
    /// stay. Where several speak, each has their name before their words. A clip is quoted by what is said in it; where nothing is, and
    /// for a picture, it is empty.
    /// </summary>
    /// <exception cref="InvalidOperationException">It is not shown at all.</exception>
    public string Words(GatePassage passage)
    {
        if (!Shows(passage))
            throw new InvalidOperationException("These words stay with the team.");
        if (Said(passage) is not { Range: { } range } said || !Shows(said))
            return "";
        passage = said;
        var source = sources[passage.SourceId];
        var parts = Parts(source, range).ToList();
        var several = parts.Select(p => Speaker(source, p.Turn)).Distinct().Skip(1).Any();
        var shown = new List<string>();
        foreach (var (turn, part) in parts)
        {
            var words =
                !Leaves(source, turn) ? KeptInTeam
                : several && Speaker(source, turn) is { Length: > 0 } who ? $"{who}: {Leaving(source, turn, part)}"
                : Leaving(source, turn, part);
            if (words != KeptInTeam || shown.LastOrDefault() != KeptInTeam)
                shown.Add(words);
        }
        return string.Join(BetweenTurns, shown);
    }

    /// <summary>Who a reader is told has said a passage: all whose words in it leave, the team only where nobody else speaks.</summary>
    public string Who(GatePassage passage)
    {
        var turns = passage.Anchor switch
        {
            TextAnchor text when sources.TryGetValue(passage.SourceId, out var source) => Parts(source, text.Range)
                .Select(p => (Source: source, p.Turn)),
            TimeAnchor clip when recordings.TryGetValue(passage.SourceId, out var recording) => HeardIn(recording, clip.Range)
                .Select(h => (h.Source, h.Turn)),
            _ => [],
        };
        var spoken = turns.Where(t => Leaves(t.Source, t.Turn)).ToList();
        var people = spoken.Select(t => PersonOf(t.Source, t.Turn)).OfType<ParticipantId>().Distinct().Select(NameOf).ToList();
        return people switch
        {
            [] when spoken.Count > 0 && spoken.All(t => t.Turn.IsTeam) => Researcher,
            [] => PersonOf(passage) is { } person && !HasWithdrawn(person) ? NameOf(person) : Somebody,
            [var one] => one,
            _ => $"{string.Join(", ", people.SkipLast(1))} and {people[^1]}",
        };
    }

    /// <summary>The participants because of whom a passage, or a part of it, stays inside.</summary>
    public IReadOnlyList<ParticipantId> KeptOf(GatePassage passage)
    {
        var people = passage.Anchor switch
        {
            TextAnchor text when sources.TryGetValue(passage.SourceId, out var source) => Parts(source, text.Range)
                .Select(p => PersonOf(source, p.Turn))
                .OfType<ParticipantId>(),
            _ when recordings.TryGetValue(passage.SourceId, out var recording) => EveryoneIn(recording),
            _ => [],
        };
        return [.. people.Distinct().Where(p => !MayLeave(p))];
    }

    /// <summary>What a person is called outside the team.</summary>
    public string NameOf(ParticipantId person) => Knows(person) is { } known ? Written(known.Pseudonym) : Somebody;

    /// <summary>Whom a reader sees beside a turn: nobody where it is of nobody known, or of someone who has withdrawn.</summary>
    private string Speaker(GateSource source, GateTurn turn) =>
        turn.IsTeam ? Researcher
        : PersonOf(source, turn) is { } person && !HasWithdrawn(person) ? NameOf(person)
        : "";

    /// <summary>Whether someone has withdrawn, or is not known, so that nothing may be told of them.</summary>
    private bool HasWithdrawn(ParticipantId person) => Knows(person) is not { Consent: not Consent.Withdrawn };

    /// <summary>The passage with some turns before and after it.</summary>
    /// <param name="passage">What is quoted.</param>
    /// <param name="turnsAround">How many turns on each side.</param>
    public IReadOnlyList<ShownTurn> Around(GatePassage passage, int turnsAround)
    {
        if (!Shows(passage) || Said(passage) is not { Range: { } range } said || !Shows(said))
            return [];
        passage = said;
        var source = sources[passage.SourceId];
        var first = source.Turns.ToList().FindIndex(t => t.Words.Touches(range));
        var last = source.Turns.ToList().FindLastIndex(t => t.Words.Touches(range));
        var from = Math.Max(0, first - turnsAround);
        return [.. source.Turns.Skip(from).Take(last + turnsAround - from + 1).Select(turn => Shown(source, turn, range))];
    }

    /// <summary>
    /// All that is covered in a turn. It is looked for in the whole turn, so that nothing leaves because a quote begins in the middle of a
    /// name.
    /// </summary>
    private IReadOnlyList<Mask> Over(GateSource source, GateTurn turn)
    {
        var words = turn.Words.Of(source.Text);
        // What the team, or nobody, has said may repeat someone who wants theirs kept.
        var found = turn.PersonId is null ? OverWritten(words) : Named(words);
        return Redaction.Merged([
            .. source.Masks.Where(m => m.Range.Touches(turn.Words)),
            .. found.Select(m => new Mask(new TextRange(m.Range.Start + turn.Words.Start, m.Range.End + turn.Words.Start), m.Replacement)),
        ]);
    }

    private ShownTurn Shown(GateSource source, GateTurn turn, TextRange quote)
    {
        var who = Speaker(source, turn);
        if (!Leaves(source, turn))
            return new ShownTurn(who, false, KeptInTeam, turn.AtMs, null, null);
        var (start, end) = (Math.Max(turn.Words.Start, quote.Start), Math.Min(turn.Words.End, quote.End));
        if (start >= end)
            return new ShownTurn(who, turn.IsTeam, Leaving(source, turn, turn.Words), turn.AtMs, null, null);
        // A mask over an edge of the quote is inside it.
        var over = Over(source, turn).Where(m => m.Range.Touches(new TextRange(start, end))).ToList();
        start = Math.Max(turn.Words.Start, over.Select(m => m.Range.Start).Append(start).Min());
        end = Math.Min(turn.Words.End, over.Select(m => m.Range.End).Append(end).Max());
        var before = start > turn.Words.Start ? Leaving(source, turn, new TextRange(turn.Words.Start, start)) : "";
        var inside = Leaving(source, turn, new TextRange(start, end));
        var after = end < turn.Words.End ? Leaving(source, turn, new TextRange(end, turn.Words.End)) : "";
        return new ShownTurn(who, turn.IsTeam, before + inside + after, turn.AtMs, before.Length, before.Length + inside.Length);
    }

    /// <summary>A part of a turn that leaves, as it leaves.</summary>
    private string Leaving(GateSource source, GateTurn turn, TextRange part) => Redaction.Of(source.Text, part, Over(source, turn));

    private bool Leaves(GateSource source, GateTurn turn) =>
        PersonOf(source, turn) is { } person ? MayLeave(person) : turn.IsTeam || (!turn.IsLabelled && IsNobodys(source));

    /// <summary>Whether a turn is, or may be, of someone who wants theirs kept.</summary>
    private bool MayBeKept(GateSource source, GateTurn turn) =>
        turn.PersonId is { } person ? !MayLeave(person) : !turn.IsTeam && source.PersonIds.Any(p => !MayLeave(p));

    /// <summary>Whether nobody who was studied speaks in a source: a document, or notes that the team made with nobody there.</summary>
    private static bool IsNobodys(GateSource source) =>
        source is { Kind: SourceKind.Document or SourceKind.FieldNotes, PersonIds.Count: 0, SomebodyErased: false };

    private bool MayLeave(ParticipantId person) => Knows(person) is { } known && ConsentRule.MayLeave(known.Consent);

    private GatePerson? Knows(ParticipantId person) => people.GetValueOrDefault(person);

    private static IEnumerable<(GateTurn Turn, TextRange Part)> Parts(GateSource source, TextRange range) =>
        source
            .Turns.Where(t => t.Words.Touches(range))
            .Select(t => (t, new TextRange(Math.Max(t.Words.Start, range.Start), Math.Min(t.Words.End, range.End))));

    private static ParticipantId? PersonOf(GateSource source, Anchor anchor)
    {
        var ids = source.Turns.Select(t => t.PersonId).OfType<ParticipantId>().Concat(source.PersonIds).Distinct().ToList();
        var place = Attribution.PersonOf(
            anchor,
            [.. source.Turns.Select(t => Spoken(t, t.PersonId is { } p ? ids.IndexOf(p) : null))],
            [.. source.OnlyPersonIds.Select(p => ids.IndexOf(p))]
        );
        return place is { } at ? ids[at] : null;
    }

    private static ParticipantId? PersonOf(GateSource source, GateTurn turn) =>
        turn.PersonId
        ?? (
            Attribution.PersonOf(Spoken(turn, null), [.. source.OnlyPersonIds.Select((_, i) => i)]) is { } at
                ? source.OnlyPersonIds[at]
                : null
        );

    private static SpokenTurn Spoken(GateTurn turn, int? person) =>
        new(turn.Words, turn.AtMs, turn.EndMs, person, turn.IsTeam || turn.IsLabelled);
}
