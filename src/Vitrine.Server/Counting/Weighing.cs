using Vitrine.Core.Counting;
using Vitrine.Core.Gather.Participants;
using Vitrine.Core.Weigh.Evidence;
using Vitrine.Storage.Counting;
using Vitrine.Storage.Gather.Participants;

namespace Vitrine.Server.Counting;

/// <summary>What claims rest on: those of insights and of themes.</summary>
internal static class Weighing
{
    /// <summary>Weighs pieces of evidence, each with its place in the study's arrays.</summary>
    /// <param name="inScope">Who is in scope.</param>
    /// <param name="silent">Who was not asked.</param>
    public static (EvidenceFacts Facts, Breadth Breadth) Of(
        StudyIndex index,
        IReadOnlyList<(Stance Stance, int Place)> pieces,
        IReadOnlyList<bool> inScope,
        IReadOnlyList<ParticipantId> silent
    )
    {
        List<int> With(Stance stance) => [.. pieces.Where(x => x.Stance == stance).Select(x => x.Place)];
        return (
            EvidenceFacts.Of([.. pieces.Select(x => index.PieceOf(x.Place, x.Stance))]),
            Breadth.Of(index.Marks, With(Stance.Supports), inScope, index.PlacesOfPeople(silent), With(Stance.Contradicts))
        );
    }

    /// <summary>Groups of participants, by what was chosen for them, of whom nobody speaks for or against.</summary>
    public static IReadOnlyList<SilentGroup> SilentGroupsOf(Participants people, StudyIndex index, Breadth breadth)
    {
        var names = people
            .Attributes.Where(a => a.Kind is AttributeKind.Choice or AttributeKind.YesNo)
            .ToDictionary(a => a.Id, a => a.Name);
        var inScope = people.People.Where(p => index.PlaceOfPerson(p.Id) is { } at && breadth.Asked[at]);
        var values = inScope.SelectMany(p => p.Values.Where(v => names.ContainsKey(v.Key)).Select(v => (names[v.Key], v.Value, p.Id)));
        var spoke = people
            .People.Select(p => p.Id)
            .Where(id => index.PlaceOfPerson(id) is { } at && breadth.Strip[at] + breadth.Against[at] > 0)
            .ToHashSet();
        return SilentGroups.Of(values, spoke);
    }
}
