using Vitrine.Core.Privacy;
using Vitrine.Core.Text;
using Vitrine.Storage.Gather;
using Vitrine.Storage.Privacy;
using Vitrine.Storage.Quotes;

namespace Vitrine.Server.Show;

/// <summary>Makes the guard at the door to readers, for one published page.</summary>
internal sealed class LeavingGuard(ParticipantStore participants, SourceStore sources, MaskStore masks, WithdrawalStore withdrawals)
{
    public Leaving Over(IReadOnlyCollection<long> studyIds) => new(
        participants, sources, masks.Over(studyIds), withdrawals.SourcesWith(Consent.Limited, Consent.Withdrawn), withdrawals.WordsOf(studyIds, Consent.Limited, Consent.Withdrawn), studyIds.ToDictionary(id => id, participants.In));
}

/// <summary>The one place through which words pass on their way to readers: consent decides whether they leave, masks and real names what stands in their place. Nothing of what was taken out is sent along.</summary>
internal sealed class Leaving(ParticipantStore participants, SourceStore sources, StudyMasks masks, IReadOnlySet<long> reserved, Verbatim reservedWords, IReadOnlyDictionary<long, Participants> studies)
{
    public const string KeptInTeam = "(These words stay with the team.)";

    private readonly IReadOnlyList<NamedPerson> named = participants.Named();
    private readonly Dictionary<long, (Source Source, IReadOnlyList<Mask> Masks)> opened = [];

    public Participants People(long studyId) => studies[studyId];

    /// <summary>Whether a quote's words may be shown: those of someone whose consent allows it; words of nobody known only where nobody took part who wants theirs kept.</summary>
    public bool MayLeave(Quote quote) => quote.ParticipantId is { } person ? WordsMayLeave(person) : !reserved.Contains(quote.SourceId);

    /// <summary>Text that a researcher wrote. Words of someone who wants theirs kept leave in it no more than in a quote.</summary>
    public string Written(string text) => NameMask.Apply(Masked.Anywhere(reservedWords.Without(text, KeptInTeam), masks.Words), named);

    /// <summary>The words of a quote. What someone else says inside it stays with the team when their consent does not allow it.</summary>
    public string Words(Quote quote)
    {
        var (source, over) = Open(quote.SourceId);
        var there = new TextRange(quote.Start, quote.End);
        // The words of a quote that is not in its text any more are those that were marked.
        return quote.Gone ? Written(quote.Words) : NameMask.Apply(Masked.Of(source.Text, there, over), named);
    }

    /// <summary>A stretch of a source, for a quote's context.</summary>
    public string Stretch(long sourceId, int start, int end) => start < end && Open(sourceId) is var (source, over) ? NameMask.Apply(Masked.Of(source.Text, new TextRange(start, end), over), named) : "";

    /// <summary>Whether what a speaker says in a source may be shown; null for someone who is matched to nobody.</summary>
    public bool MayLeave(Source source, Speaker? speaker) => speaker?.ParticipantId is { } person ? WordsMayLeave(person) : speaker is { IsTeam: true } || !reserved.Contains(source.Line.Id);

    public Source SourceOf(long id) => Open(id).Source;

    private bool WordsMayLeave(long person) => studies.Values.SelectMany(s => s.People).FirstOrDefault(p => p.Id == person) is not { } found || ConsentRule.WordsMayLeave(found.Consent);

    private (Source Source, IReadOnlyList<Mask> Masks) Open(long id)
    {
        if (opened.TryGetValue(id, out var found)) return found;
        var source = sources.Get(id, 0);
        var speakers = source.Line.Speakers.ToDictionary(s => s.Id);
        var kept = source.Turns.Where(t => t.SpeakerId is { } s && speakers[s].ParticipantId is { } person && !WordsMayLeave(person)).Select(t => new Mask(new TextRange(t.Start, t.End), KeptInTeam)).ToList();
        var over = masks.BySource[id].Where(m => !kept.Any(k => k.Range.Touches(m.Range)));
        return opened[id] = (source, [.. over.Concat(kept).OrderBy(m => m.Range.Start)]);
    }
}
