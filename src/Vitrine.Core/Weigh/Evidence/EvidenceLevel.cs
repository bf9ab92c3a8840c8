using Vitrine.Core.Gather.Sources;

namespace Vitrine.Core.Weigh.Evidence;

/// <summary>How an observation bears on a claim.</summary>
public enum Stance
{
    /// <summary>It speaks for it.</summary>
    Supports,

    /// <summary>It speaks against it.</summary>
    Contradicts,

    /// <summary>It says where or when; it counts for neither side.</summary>
    Context,
}

/// <summary>How broad the evidence of a claim is; always shown with the facts that made it.</summary>
public enum EvidenceLevel
{
    /// <summary>No observation of an identified person supports or contradicts it yet.</summary>
    NoEvidence,

    /// <summary>Support from one person.</summary>
    SingleVoice,

    /// <summary>Support from two or more people, but one session or one kind of source, or fewer than three people.</summary>
    Echoed,

    /// <summary>Three or more people, and two or more kinds of source or studies.</summary>
    Corroborated,

    /// <summary>People contradicting are at least a quarter of all people with evidence.</summary>
    Contested,
}

/// <summary>One piece of evidence. A person of null is unattributed. Ids are compared, never shown.</summary>
public readonly record struct EvidencePiece(Stance Stance, ParticipantId? Person, SourceId Source, SourceKind Kind, StudyId Study);

/// <summary>The level and every fact it rests on. People are counted once however often they speak.</summary>
/// <param name="Level">The level.</param>
/// <param name="PeopleFor">People with supporting evidence.</param>
/// <param name="PeopleAgainst">People with contradicting evidence.</param>
/// <param name="Supporting">Observations that support.</param>
/// <param name="Contradicting">Observations that contradict.</param>
/// <param name="Context">Observations that are context.</param>
/// <param name="Unattributed">Observations of which nobody knows whose they are.</param>
/// <param name="Sources">Sources of the supporting ones.</param>
/// <param name="Kinds">Kinds of those sources.</param>
/// <param name="Studies">Their studies.</param>
/// <param name="LargestShare">The share (0..1) of the supporting observations that come from the one person with most; 0 when there are
/// none.</param>
public sealed record EvidenceFacts(
    EvidenceLevel Level,
    int PeopleFor,
    int PeopleAgainst,
    int Supporting,
    int Contradicting,
    int Context,
    int Unattributed,
    int Sources,
    int Kinds,
    int Studies,
    double LargestShare
)
{
    /// <summary>
    /// Weighs the pieces. Context counts in no level. Breadth (kinds, studies, sources) is that of supporting evidence.
    /// A person on both sides counts on both, and once among "all people with evidence".
    /// </summary>
    public static EvidenceFacts Of(IReadOnlyCollection<EvidencePiece> pieces)
    {
        var supporting = pieces.Where(p => p.Stance == Stance.Supports).ToList();
        var contradicting = pieces.Where(p => p.Stance == Stance.Contradicts).ToList();
        var peopleFor = People(supporting);
        var peopleAgainst = People(contradicting);
        var kinds = supporting.Select(p => p.Kind).Distinct().Count();
        var studies = supporting.Select(p => p.Study).Distinct().Count();
        var largest = supporting.Where(p => p.Person is not null).GroupBy(p => p.Person).Select(g => g.Count()).DefaultIfEmpty(0).Max();
        return new EvidenceFacts(
            LevelOf(peopleFor, peopleAgainst, kinds, studies),
            peopleFor.Count,
            peopleAgainst.Count,
            supporting.Count,
            contradicting.Count,
            pieces.Count - supporting.Count - contradicting.Count,
            pieces.Count(p => p.Person is null),
            supporting.Select(p => p.Source).Distinct().Count(),
            kinds,
            studies,
            supporting.Count == 0 ? 0 : largest / (double)supporting.Count
        );
    }

    private static HashSet<ParticipantId> People(IEnumerable<EvidencePiece> pieces) =>
        [.. pieces.Where(p => p.Person is not null).Select(p => p.Person!.Value)];

    private static EvidenceLevel LevelOf(HashSet<ParticipantId> peopleFor, HashSet<ParticipantId> peopleAgainst, int kinds, int studies)
    {
        var everyone = peopleFor.Union(peopleAgainst).Count();
        if (everyone == 0)
            return EvidenceLevel.NoEvidence;
        if (peopleAgainst.Count * 4 >= everyone)
            return EvidenceLevel.Contested;
        if (peopleFor.Count == 1)
            return EvidenceLevel.SingleVoice;
        return peopleFor.Count >= 3 && (kinds >= 2 || studies >= 2) ? EvidenceLevel.Corroborated : EvidenceLevel.Echoed;
    }
}
