using Dapper;
using Microsoft.Data.Sqlite;
using Vitrine.Core.Counting;
using Vitrine.Core.Mark.Observations;
using Vitrine.Storage.Trail;

namespace Vitrine.Storage.Counting;

/// <summary>
/// A study's marks for counting, as one person may see them, and under conditions. The last ones are kept until anything is written.
/// </summary>
public sealed class SeenStudies(Workspace workspace, StudyIndexStore indexes)
{
    /// <summary>How many are kept at once.</summary>
    public const int MostKept = 12;

    private readonly Lock gate = new();
    private readonly Dictionary<(StudyId, AccountId, string), (long Edition, long Used, StudyIndex Index)> kept = [];
    private long uses;

    /// <summary>The study as a person sees it: without what others mark in sources that the person tags blind.</summary>
    /// <param name="where">Which observations count, and which people are in scope; null for all.</param>
    public StudyIndex Load(StudyId studyId, AccountId viewer, Conditions? where = null)
    {
        var edition = workspace.Edition;
        var whole = indexes.Load(studyId);
        var key = (studyId, viewer, where is { Any: true } ? where.ToJson() : "");
        lock (gate)
        {
            if (kept.TryGetValue(key, out var found) && found.Edition == edition)
            {
                kept[key] = (edition, ++uses, found.Index);
                return found.Index;
            }
        }
        var index = Seen(whole, viewer, where);
        lock (gate)
        {
            kept[key] = (edition, ++uses, index);
            if (kept.Count > MostKept)
                kept.Remove(kept.MinBy(k => k.Value.Used).Key);
        }
        return index;
    }

    private StudyIndex Seen(StudyIndex index, AccountId viewer, Conditions? where)
    {
        using var connection = workspace.OpenFor(viewer);
        var hidden = connection
            .Query<ObservationId>(
                "SELECT id FROM main.observation WHERE study_id = @StudyId EXCEPT SELECT id FROM observation WHERE study_id = @StudyId",
                new { index.StudyId }
            )
            .Select(index.PlaceOfObservation)
            .OfType<int>()
            .ToHashSet();
        if (where is not { Any: true })
            return hidden.Count == 0 ? index : index.Only(o => !hidden.Contains(o), index.InScope);
        var (sources, people) = (SourcesFitting(connection, index, where), PeopleFitting(connection, index, where));
        var marks = where.OfMarks ? MarksFitting(connection, index, where) : null;
        var begun = StudyReader.Begun(connection, index.StudyId).ToHashSet();
        var inScope = new bool[index.People.Length];
        for (var s = 0; s < index.Sources.Length; s++)
        {
            if (!sources[s] || !begun.Contains(index.Sources[s].Id))
                continue;
            foreach (var person in index.PeopleOf[s])
                inScope[person] |= people[person];
        }
        return index.Only(
            o =>
                !hidden.Contains(o)
                && sources[index.Marks.SourceOf[o]]
                && (!where.OfPeople || (index.Marks.PersonOf[o] is { } person && people[person]))
                && marks?[o] != false,
            inScope,
            StudyReader
                .Searched(
                    connection,
                    index.StudyId,
                    StudyReader.Places(index.Sources.Select(s => s.Id)),
                    StudyReader.Places(index.Tags),
                    index.Marks.Tags,
                    index.PeopleOf,
                    index.People.Length,
                    s => sources[s]
                )
                .ToDictionary(s => s.Key, s => (bool[])[.. s.Value.Select((there, p) => there && people[p])])
        );
    }

    /// <summary>Which sources of a study fit, by their places.</summary>
    public static bool[] SourcesFitting(SqliteConnection connection, StudyIndex index, Conditions where)
    {
        if (!where.OfSources)
            return [.. Enumerable.Repeat(true, index.Sources.Length)];
        var held = connection
            .Query<(SourceId Id, SessionId? Session, DateOnly? Day)>(
                "SELECT id, session_id, held_on FROM source WHERE study_id = @StudyId",
                new { index.StudyId }
            )
            .ToDictionary(s => s.Id);
        return [.. index.Sources.Select(s => held.TryGetValue(s.Id, out var of) && where.Fits(s.Id, s.Kind, of.Session, of.Day))];
    }

    /// <summary>Which people of a study fit, by their places.</summary>
    public static bool[] PeopleFitting(SqliteConnection connection, StudyIndex index, Conditions where)
    {
        var values =
            where.Values.Count + where.Ranges.Count == 0
                ? []
                : connection
                    .Query<(ParticipantId Participant, AttributeId Attribute, string Value)>(
                        """
                        SELECT v.participant_id, v.attribute_id, v.value FROM attribute_value v
                        JOIN participant p ON p.id = v.participant_id
                        WHERE p.study_id = @StudyId
                        """,
                        new { index.StudyId }
                    )
                    .ToDictionary(v => (v.Participant, v.Attribute), v => v.Value);
        return [.. index.People.Select(id => where.Fits(id, attribute => values.GetValueOrDefault((id, attribute))))];
    }

    private static bool[] MarksFitting(SqliteConnection connection, StudyIndex index, Conditions where)
    {
        var fits = new bool[index.Marks.Count];
        List<TagId> tags = [];
        foreach (
            var row in connection.Query<(ObservationId Id, AccountId By, Sentiment? Felt, bool Starred, bool Unsure, bool Found)>(
                "SELECT id, created_by, sentiment, starred, unsure, found FROM observation WHERE study_id = @StudyId",
                new { index.StudyId },
                buffered: false
            )
        )
        {
            if (index.PlaceOfObservation(row.Id) is not { } place)
                continue;
            tags.Clear();
            foreach (var t in index.Marks.TagsOn(place))
                tags.AddRange(index.Marks.Tags.CountsFor(t).Select(a => index.Tags[a]));
            fits[place] = where.Fits(tags, row.By, row.Felt, row.Starred, row.Unsure, row.Found);
        }
        return fits;
    }
}
