using Vitrine.Core.Counting;
using Vitrine.Core.Gather.Sources;
using Vitrine.Server.Access;
using Vitrine.Server.Counting;
using Vitrine.Storage.Catalogue;
using Vitrine.Storage.Counting;
using Vitrine.Storage.Gather.Participants;
using Vitrine.Storage.Sort.TagSet;
using Vitrine.Storage.Trail;
using Vitrine.Storage.Weigh.Evidence;

namespace Vitrine.Server.Sort.TagSet;

internal sealed record TagInSource(SourceId SourceId, Triple Triple);

internal sealed record TagInKind(SourceKind Kind, Triple Triple);

/// <summary>A tag among the people who share a value of an attribute.</summary>
/// <param name="OutOf">How many of them are in scope.</param>
internal sealed record TagInGroup(AttributeId AttributeId, string Value, Triple Triple, int OutOf);

/// <param name="Both">How many observations carry both.</param>
internal sealed record TagBeside(TagId TagId, int Both);

/// <summary>How a study uses one tag, counted with all tags under it.</summary>
/// <param name="Own">Without the tags under it.</param>
/// <param name="NotAsked">Who was not asked about it.</param>
/// <param name="Beside">What else stands on its observations, most often first.</param>
/// <param name="Values">On its own scale.</param>
internal sealed record TagPage(
    Breadth Breadth,
    Triple Own,
    IReadOnlyList<ParticipantId> NotAsked,
    IReadOnlyList<TagInSource> Sources,
    IReadOnlyList<TagInKind> Kinds,
    IReadOnlyList<TagInGroup> Groups,
    IReadOnlyList<TagBeside> Beside,
    IReadOnlyList<SentimentCount> Sentiments,
    IReadOnlyList<ValueCount> Values
);

internal static class TagPageEndpoints
{
    public static void MapTagPages(this RouteGroupBuilder api)
    {
        var tag = api.MapGroup("/studies/{studyId:long}/tags/{tagId:long}").WithTags("Tag set");
        tag.MapGet(
            "/page",
            (
                StudyId studyId,
                TagId tagId,
                Conditions? where,
                SignedIn me,
                SeenStudies indexes,
                NotAskedStore notAsked,
                ParticipantStore participants,
                TagUseStore uses
            ) =>
            {
                var index = indexes.Load(studyId, me.Id, where);
                var place = index.PlaceOfTag(tagId) ?? throw Refusal.Missing(Thing.Tag);
                var (marks, found) = (index.Marks, Tally.ByTag(index.Marks, rollUp: true)[place]);
                var only = where is { Any: true } ? found.Select(o => index.Observations[o]).ToList() : null;
                var silent = notAsked.In(studyId, AskedThing.Tag)[tagId.Value].ToList();
                var breadth = Breadth.Of(marks, found, index.InScopeFor(place), index.PlacesOfPeople(silent));
                var bySource = Tally.Parts(marks, found, o => (int?)marks.SourceOf[o]);
                return new TagPage(
                    breadth,
                    Tally.Of(marks, Tally.ByTag(marks, rollUp: false)[place]),
                    silent,
                    [.. bySource.OrderBy(s => s.Key).Select(s => new TagInSource(index.Sources[s.Key].Id, s.Value))],
                    [
                        .. Tally
                            .Parts(marks, found, o => (SourceKind?)index.Sources[marks.SourceOf[o]].Kind)
                            .OrderBy(k => k.Key)
                            .Select(k => new TagInKind(k.Key, k.Value)),
                    ],
                    Groups(index, found, breadth, participants.In(studyId)),
                    [.. OverlapTable.With(marks, place, found).Select(b => new TagBeside(index.Tags[b.Tag], b.Both))],
                    uses.Sentiments(studyId, me.Id, Under(index, place), only),
                    uses.Values(studyId, me.Id, tagId, only)
                );
            }
        );
        tag.MapGet(
            "/telling-quotes",
            (StudyId studyId, TagId tagId, Conditions? where, SignedIn me, SeenStudies indexes, QuoteStore quotes, TagUseStore uses) =>
            {
                var index = indexes.Load(studyId, me.Id, where);
                var place = index.PlaceOfTag(tagId) ?? throw Refusal.Missing(Thing.Tag);
                var examples = uses.Examples(studyId, me.Id, tagId).Select(index.PlaceOfObservation).OfType<int>();
                return QuotesThatTell.Of(index, Tally.ByTag(index.Marks, rollUp: true)[place], quotes) with
                {
                    Examples = quotes.Of(index, examples),
                };
            }
        );
    }

    private static IEnumerable<TagId> Under(StudyIndex index, int tag) =>
        Enumerable.Range(0, index.Tags.Length).Where(t => index.Marks.Tags.CountsFor(t).Contains(tag)).Select(t => index.Tags[t]);

    private static List<TagInGroup> Groups(StudyIndex index, int[] found, Breadth breadth, Participants known)
    {
        var valuesOf = known.People.ToDictionary(p => index.PlaceOfPerson(p.Id) ?? -1, p => p.Values);
        var groups = new List<TagInGroup>();
        foreach (var attribute in known.Attributes)
        {
            // People to whom nothing was given of it are no group.
            var names = valuesOf
                .Values.Select(v => v.GetValueOrDefault(attribute.Id, ""))
                .Where(v => v.Length > 0)
                .Distinct()
                .Order()
                .ToList();
            var places = names.Select((name, i) => (name, i)).ToDictionary(n => n.name, n => n.i);
            int? GroupOf(int person) =>
                valuesOf.TryGetValue(person, out var values) && places.TryGetValue(values.GetValueOrDefault(attribute.Id, ""), out var i)
                    ? i
                    : null;
            var triples = Tally.Parts(index.Marks, found, o => index.Marks.PersonOf[o] is { } person ? GroupOf(person) : null);
            for (var i = 0; i < names.Count; i++)
            {
                var outOf = Enumerable.Range(0, index.People.Length).Count(p => breadth.Asked[p] && GroupOf(p) == i);
                groups.Add(new TagInGroup(attribute.Id, names[i], triples.GetValueOrDefault(i), outOf));
            }
        }
        return groups;
    }
}
