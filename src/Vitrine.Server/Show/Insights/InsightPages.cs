using Vitrine.Core.Counting;
using Vitrine.Core.Weigh.Evidence;
using Vitrine.Server.Counting;
using Vitrine.Storage.Counting;
using Vitrine.Storage.Gather.Participants;
using Vitrine.Storage.Show.Insights;
using Vitrine.Storage.Weigh.Evidence;

namespace Vitrine.Server.Show.Insights;

/// <summary>One piece of evidence with its words.</summary>
internal sealed record EvidenceQuote(EvidenceId Id, string Key, Stance Stance, Quote Quote);

/// <summary>An insight with its evidence weighed.</summary>
/// <param name="NewestEvidence">The latest date on which supporting words were said, where known.</param>
/// <param name="Quoted">The observations that its story quotes, with their words; those that are evidence too are not among them.</param>
/// <param name="SilentGroups">Groups of participants from whom there is no evidence.</param>
internal sealed record InsightPage(
    Insight Insight,
    EvidenceFacts Facts,
    Breadth Breadth,
    IReadOnlyList<EvidenceQuote> Evidence,
    IReadOnlyList<Quote> Quoted,
    DateOnly? NewestEvidence,
    IReadOnlyList<SilentGroup> SilentGroups,
    IReadOnlyList<ParticipantId> NotAsked
);

/// <summary>Puts insights and their weighed evidence together, for the team's page and lists.</summary>
internal sealed class InsightPages(
    InsightStore insights,
    SeenStudies indexes,
    QuoteStore quotes,
    NotAskedStore notAsked,
    ParticipantStore participants
)
{
    /// <summary>The pages of the given insights, in their order, weighed by what the viewer may see.</summary>
    public IReadOnlyList<InsightPage> Of(IReadOnlyList<Insight> wanted, AccountId viewer)
    {
        var evidence = insights.EvidenceOf([.. wanted.Select(i => i.Id)], viewer);
        // Everything once for each study, however many insights it has.
        var studies = wanted
            .GroupBy(i => i.StudyId)
            .ToDictionary(
                s => s.Key,
                s =>
                {
                    var index = indexes.Load(s.Key, viewer);
                    var places = s.SelectMany(i => evidence[i.Id].Select(e => e.ObservationId).Concat(QuotedIn(i)))
                        .Distinct()
                        .Select(index.PlaceOfObservation)
                        .OfType<int>();
                    return (
                        Index: index,
                        Words: quotes.Of(index, places).ToDictionary(q => q.ObservationId),
                        NotAsked: notAsked.In(s.Key, AskedThing.Insight),
                        People: participants.In(s.Key)
                    );
                }
            );
        return
        [
            .. wanted.Select(insight =>
            {
                var study = studies[insight.StudyId];
                return PageOf(
                    insight,
                    [.. evidence[insight.Id]],
                    study.Index,
                    study.Words,
                    [.. study.NotAsked[insight.Id.Value]],
                    study.People
                );
            }),
        ];
    }

    private static IEnumerable<ObservationId> QuotedIn(Insight insight) =>
        insight.Story.References.Where(r => r.Kind == ThingKind.Observation).Select(r => (ObservationId)r.Id);

    private static InsightPage PageOf(
        Insight insight,
        IReadOnlyList<AttachedEvidence> attached,
        StudyIndex index,
        IReadOnlyDictionary<ObservationId, Quote> words,
        IReadOnlyList<ParticipantId> silent,
        Participants people
    )
    {
        var placed = attached
            .Select(e => (Evidence: e, Place: index.PlaceOfObservation(e.ObservationId)))
            .Where(x => x.Place is not null)
            .Select(x => (x.Evidence, Place: x.Place!.Value))
            .ToList();
        var told = placed.Where(x => words.ContainsKey(x.Evidence.ObservationId)).ToList();
        var (facts, breadth) = Weighing.Of(index, [.. told.Select(x => (x.Evidence.Stance, x.Place))], index.InScope, silent);
        var newest = told.Where(x => x.Evidence.Stance == Stance.Supports).Select(x => words[x.Evidence.ObservationId].HeldOn).Max();
        return new InsightPage(
            insight,
            facts,
            breadth,
            [.. told.Select(x => new EvidenceQuote(x.Evidence.Id, x.Evidence.Key, x.Evidence.Stance, words[x.Evidence.ObservationId]))],
            [.. QuotedIn(insight).Except(told.Select(x => x.Evidence.ObservationId)).Where(words.ContainsKey).Select(o => words[o])],
            newest,
            Weighing.SilentGroupsOf(people, index, breadth),
            silent
        );
    }
}
