using Vitrine.Core.Counting;
using Vitrine.Core.Gather.Sources;
using Vitrine.Core.Ids;
using Vitrine.Core.Weigh.Evidence;

namespace Vitrine.Storage.Counting;

/// <summary>A study's marks as arrays, with the ids behind the indices. A snapshot: load it again after a write.</summary>
public sealed class StudyIndex
{
    public required StudyId StudyId { get; init; }
    public required StudyMarks Marks { get; init; }
    public required ObservationId[] Observations { get; init; }
    public required IndexedSource[] Sources { get; init; }
    public required ParticipantId[] People { get; init; }
    public required TagId[] Tags { get; init; }

    /// <summary>Who takes part in each source.</summary>
    public required HashSet<int>[] PeopleOf { get; init; }

    /// <summary>Who the only participant of a source may be, for the rule whose words are whose.</summary>
    public IReadOnlyCollection<int> OnlyOf(int source) => Sources[source].SomebodyErased ? [] : PeopleOf[source];

    /// <summary>Whether each person has a source that somebody has begun to read.</summary>
    public required bool[] InScope { get; init; }

    /// <summary>
    /// For tags that a kept search was made for, or for one under them: whose material it has gone through. Such a tag was asked for there,
    /// read or not.
    /// </summary>
    public required IReadOnlyDictionary<int, bool[]> Searched { get; init; }

    /// <summary>Who is in scope for some tags: everyone in scope, and whose material a search has gone through for one of them.</summary>
    /// <param name="tags">By their places.</param>
    public bool[] InScopeFor(params IEnumerable<int> tags)
    {
        var searched = tags.Select(t => Searched.GetValueOrDefault(t)).OfType<bool[]>().ToList();
        return searched.Count == 0 ? InScope : [.. InScope.Select((there, p) => there || searched.Exists(s => s[p]))];
    }

    private readonly Lazy<Dictionary<ObservationId, int>> observationPlace;
    private readonly Lazy<Dictionary<TagId, int>> tagPlace;
    private readonly Lazy<Dictionary<ParticipantId, int>> personPlace;

    public StudyIndex()
    {
        observationPlace = new(() => PlacesOf(Observations!));
        tagPlace = new(() => PlacesOf(Tags!));
        personPlace = new(() => PlacesOf(People!));
    }

    public int? PlaceOfObservation(ObservationId id) => observationPlace.Value.TryGetValue(id, out var i) ? i : null;

    public int? PlaceOfTag(TagId id) => tagPlace.Value.TryGetValue(id, out var i) ? i : null;

    public int? PlaceOfPerson(ParticipantId id) => personPlace.Value.TryGetValue(id, out var i) ? i : null;

    /// <summary>The person of an observation, by id; null when unattributed.</summary>
    public ParticipantId? PersonOf(int observation) => Marks.PersonOf[observation] is { } person ? People[person] : null;

    public HashSet<int> PlacesOfPeople(IEnumerable<ParticipantId> ids) => [.. ids.Select(PlaceOfPerson).OfType<int>()];

    /// <summary>Observations by whose they are, in the order of the people; those of nobody last; each person's by place.</summary>
    public IReadOnlyList<int> ByPerson(IEnumerable<int> observations) =>
        [.. observations.OrderBy(o => Marks.PersonOf[o] ?? int.MaxValue).ThenBy(o => o)];

    /// <summary>An observation as a piece of evidence.</summary>
    public EvidencePiece PieceOf(int observation, Stance stance)
    {
        var source = Sources[Marks.SourceOf[observation]];
        return new EvidencePiece(stance, PersonOf(observation), source.Id, source.Kind, StudyId);
    }

    /// <summary>The same study with some of its observations alone.</summary>
    /// <param name="stays">Whether an observation, by its place, stays.</param>
    /// <param name="inScope">Who counts as asked.</param>
    /// <param name="searched">Whose material was gone through for each tag; null for the same as before.</param>
    public StudyIndex Only(Func<int, bool> stays, bool[] inScope, IReadOnlyDictionary<int, bool[]>? searched = null)
    {
        int[] left = [.. Enumerable.Range(0, Marks.Count).Where(stays)];
        var starts = new int[left.Length + 1];
        for (var i = 0; i < left.Length; i++)
            starts[i + 1] = starts[i] + Marks.TagsOn(left[i]).Length;
        var tagOf = new int[starts[^1]];
        for (var i = 0; i < left.Length; i++)
            Marks.TagsOn(left[i]).CopyTo(tagOf.AsSpan(starts[i]));
        return With(
            [.. left.Select(o => Observations[o])],
            Tags,
            inScope,
            new StudyMarks
            {
                SourceOf = [.. left.Select(o => Marks.SourceOf[o])],
                PersonOf = [.. left.Select(o => Marks.PersonOf[o])],
                AnchorOf = [.. left.Select(o => Marks.AnchorOf[o])],
                NotReviewed = Marks.NotReviewed is { } found && left.Any(o => found[o]) ? [.. left.Select(o => found[o])] : null,
                TagStarts = starts,
                TagOf = tagOf,
                Tags = Marks.Tags,
                SourceCount = Marks.SourceCount,
                PersonCount = Marks.PersonCount,
            },
            searched ?? Searched
        );
    }

    /// <summary>The same study with other observations.</summary>
    internal StudyIndex With(
        ObservationId[] observations,
        TagId[] tags,
        bool[] inScope,
        StudyMarks marks,
        IReadOnlyDictionary<int, bool[]> searched
    ) =>
        new()
        {
            StudyId = StudyId,
            Marks = marks,
            Observations = observations,
            Sources = Sources,
            People = People,
            Tags = tags,
            PeopleOf = PeopleOf,
            InScope = inScope,
            Searched = searched,
        };

    private static Dictionary<Id<TKind>, int> PlacesOf<TKind>(Id<TKind>[] ids) =>
        ids.Select((id, i) => (id, i)).ToDictionary(x => x.id, x => x.i);
}

/// <summary>A source as counting needs it.</summary>
/// <param name="SomebodyErased">Whether somebody took part in it who was erased.</param>
public sealed record IndexedSource(SourceId Id, string Title, SourceKind Kind, bool SomebodyErased = false);
