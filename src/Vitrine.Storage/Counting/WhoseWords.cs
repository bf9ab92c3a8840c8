using Dapper;
using Microsoft.Data.Sqlite;
using Vitrine.Core.Counting;
using Vitrine.Core.Mark.Observations;
using Vitrine.Core.Text;

namespace Vitrine.Storage.Counting;

/// <summary>Whose words stand where in a study, by the one rule (<see cref="Attribution"/>); turns are read when first asked for.</summary>
internal sealed class WhoseWords
{
    private readonly SqliteConnection connection;
    private readonly Dictionary<SourceId, int> sourcePlace;
    private readonly Dictionary<ParticipantId, int> personPlace;
    private readonly ParticipantId[] people;
    private readonly IndexedSource[] sources;
    private readonly HashSet<int>[] peopleOf;
    private readonly Dictionary<SourceId, List<SpokenTurn>> turns = [];

    public WhoseWords(SqliteConnection connection, StudyId studyId)
    {
        this.connection = connection;
        sources = StudyReader.Sources(connection, studyId);
        people = connection
            .Query<ParticipantId>("SELECT id FROM participant WHERE study_id = @studyId ORDER BY id", new { studyId })
            .ToArray();
        (sourcePlace, personPlace) = (StudyReader.Places(sources.Select(s => s.Id)), StudyReader.Places(people));
        peopleOf = StudyReader.PeopleOfSources(connection, studyId, sourcePlace, personPlace);
    }

    /// <summary>Whose an anchor's words are; null for nobody.</summary>
    public ParticipantId? Of(SourceId source, Anchor anchor) =>
        Attribution.PersonOf(anchor, TurnsOf(source), OnlyOf(source)) is { } person ? people[person] : null;

    /// <summary>Whether some of them are a person's.</summary>
    public bool IsOf(ParticipantId person, SourceId source, Anchor anchor) =>
        personPlace.TryGetValue(person, out var place) && Attribution.IsOf(place, anchor, TurnsOf(source), OnlyOf(source));

    private IReadOnlyCollection<int> OnlyOf(SourceId source) =>
        sourcePlace.TryGetValue(source, out var place) && !sources[place].SomebodyErased ? peopleOf[place] : [];

    private List<SpokenTurn> TurnsOf(SourceId source)
    {
        if (!turns.TryGetValue(source, out var found))
            turns[source] = found = sourcePlace.TryGetValue(source, out var place)
                ? StudyReader.LoadTurns(connection, [sources[place]], personPlace, null)[0]
                : [];
        return found;
    }
}
