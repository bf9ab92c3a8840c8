using System.Text.Json;
using Dapper;
using Microsoft.Data.Sqlite;
using Vitrine.Core.Gather.Participants;
using Vitrine.Core.Gather.Surveys;
using Vitrine.Core.Sort.TagSet;
using Vitrine.Storage.Gather.Participants;
using Vitrine.Storage.Gather.Sources;
using Vitrine.Storage.Gather.Turns;
using Vitrine.Storage.Tags;
using Vitrine.Storage.Trail;

namespace Vitrine.Storage.Gather.Surveys;

/// <summary>Someone whom a row is of.</summary>
internal sealed record SurveyPerson(ParticipantId Id, string Code);

/// <summary>Where the taking in of a survey stands.</summary>
internal sealed record SurveyTaking(
    SurveyId? Survey,
    IReadOnlyList<SurveyRow> Fresh,
    Dictionary<string, SurveyPerson> People,
    HashSet<string> Codes,
    Dictionary<int, (AttributeId Id, AttributeKind Kind)> Attributes,
    Dictionary<int, (TagId Id, Scale Scale)> Scales,
    FolderId? FolderId,
    IReadOnlyDictionary<string, RowBefore> Again
)
{
    private static readonly IReadOnlyDictionary<string, IReadOnlyList<AnswerDifference>> none =
        new Dictionary<string, IReadOnlyList<AnswerDifference>>();

    /// <summary>Rows of the part that are added together at its end.</summary>
    private readonly List<object?[]> values = [];
    private readonly List<object?[]> taken = [];
    private readonly List<object?[]> present = [];
    private readonly List<NewTurns> turns = [];

    public void Note(ParticipantId participantId, AttributeId attributeId, string value) => values.Add([participantId, attributeId, value]);

    public void Note(SurveyRow row, ParticipantId participantId, SourceId? sourceId)
    {
        taken.Add([Survey, row.Key, row.ContentHash, participantId, sourceId]);
        if (sourceId is { } source)
            NotePresent(source, participantId);
    }

    public void NotePresent(SourceId sourceId, ParticipantId participantId) => present.Add([sourceId, participantId]);

    public void Note(NewTurns of) => turns.Add(of);

    /// <summary>Adds what was noted.</summary>
    public void Flush(Writing writing)
    {
        writing.InsertAll("attribute_value", ["participant_id", "attribute_id", "value"], values);
        writing.InsertAll("survey_row", ["survey_id", "row_key", "content_hash", "participant_id", "source_id"], taken);
        writing.InsertAll("source_participant", ["source_id", "participant_id"], present);
        TurnStore.Insert(writing, turns);
        values.Clear();
        turns.Clear();
        taken.Clear();
        present.Clear();
    }

    public SurveyChoice Choice { get; init; } = new();

    /// <summary>How many rows that were taken in before say something else now, and how many answer questions that are new.</summary>
    public int Changed { get; init; }
    public int Grown { get; init; }

    /// <summary>The rows that say something else, by key, and the columns that are new.</summary>
    private HashSet<string> Differing { get; init; } = [];
    public HashSet<int> Added { get; init; } = [];

    /// <summary>Whether of a row that was taken in before only what is asked anew comes in.</summary>
    public bool OnlyGrows(SurveyRow row) => Choice.Again == SurveyAgain.Leave || !Differs(row);

    public bool Differs(SurveyRow row) => Differing.Contains(row.Key);

    public long Place { get; set; }
    public long Position { get; set; }

    public static SurveyTaking Begin(
        Writing writing,
        StudyId studyId,
        string name,
        IReadOnlyList<SurveyColumn> columns,
        IReadOnlyList<SurveyRow> rows,
        SurveyChoice choice,
        SurveyTaking? goesOn
    )
    {
        var before = SurveyBefore.Find(writing.Connection, studyId, columns, rows);
        var added = before?.Added(columns) ?? [];
        var differing = before?.Differences(writing.Connection, columns) ?? none;
        var changed = differing.Where(d => d.Value.Any(one => !added.Contains(one.Question))).Select(d => d.Key).ToHashSet();
        var grown = differing.Where(d => d.Value.Any(one => added.Contains(one.Question))).Select(d => d.Key).ToHashSet();
        // What is asked anew comes in whatever is done with the rest: it touches nothing.
        var again = (choice.Again == SurveyAgain.Leave ? grown : grown.Union(changed)).ToDictionary(key => key, key => before!.Rows[key]);
        var fresh = (before?.Incoming ?? rows).Where(r => before?.Rows.ContainsKey(r.Key) != true || again.ContainsKey(r.Key)).ToList();
        var people = PeopleIn(writing.Connection, studyId);
        if (fresh.Count == 0)
            return new SurveyTaking(before?.SurveyId, fresh, people, [], [], [], null, again) { Changed = Said(goesOn?.Changed, changed) };
        return new SurveyTaking(
            before?.SurveyId
                ?? writing.Insert(
                    "survey",
                    new
                    {
                        studyId,
                        name,
                        columns = NamesOf(columns),
                        keyColumns = NamesOf(columns),
                        roles = RolesOf(columns),
                    }
                ),
            fresh,
            people,
            CodesOf(people),
            AttributesOf(writing, studyId, columns),
            // The scale is made around all values, not those that are left.
            goesOn?.Scales
                ?? ScalesOf(writing, studyId, columns, rows, choice.WidenScales),
            rows.Any(r => r.Speaks) ? FolderStore.FindOrMake(writing, studyId, name) : null,
            again
        )
        {
            Place = ParticipantStore.NextPosition(writing.Connection, studyId),
            Position = SourceStore.NextPosition(writing, studyId),
            Choice = choice,
            Changed = Said(goesOn?.Changed, changed),
            Grown = Said(goesOn?.Grown, grown),
            Differing = changed,
            Added = Enumerable.Range(0, columns.Count).Where(c => added.Contains(columns[c].Name)).ToHashSet(),
        };
    }

    /// <summary>What was told when the step began holds for all its parts.</summary>
    private static int Said(int? before, HashSet<string> rows) => before ?? rows.Count;

    /// <summary>All rows are in. Only now the survey is known by its new columns: a server that was killed before goes on with
    /// them.</summary>
    public void End(Writing writing, IReadOnlyList<SurveyColumn> columns)
    {
        if (Survey is { } survey)
            writing.Update("survey", survey.Value, new { columns = NamesOf(columns), roles = RolesOf(columns) });
    }

    /// <summary>The same, with the people who are in the study now.</summary>
    public SurveyTaking WithPeople(SqliteConnection connection, StudyId studyId)
    {
        var people = PeopleIn(connection, studyId);
        return this with { People = people, Codes = CodesOf(people), Place = ParticipantStore.NextPosition(connection, studyId) };
    }

    private static HashSet<string> CodesOf(Dictionary<string, SurveyPerson> people) =>
        people.Values.Select(p => p.Code).ToHashSet(StringComparer.OrdinalIgnoreCase);

    private static string NamesOf(IReadOnlyList<SurveyColumn> columns) => JsonSerializer.Serialize(columns.Select(c => c.Name));

    private static string RolesOf(IReadOnlyList<SurveyColumn> columns) => JsonSerializer.Serialize(columns);

    /// <summary>Participants by what a table may call them: their code or their real name.</summary>
    public static Dictionary<string, SurveyPerson> PeopleIn(SqliteConnection connection, StudyId studyId)
    {
        var found = new Dictionary<string, SurveyPerson>(StringComparer.OrdinalIgnoreCase);
        foreach (
            var (id, code, realName) in connection.Query<(ParticipantId, string, string?)>(
                "SELECT id, code, real_name FROM participant WHERE study_id = @studyId ORDER BY id",
                new { studyId }
            )
        )
        {
            found[code] = new SurveyPerson(id, code);
            if (!string.IsNullOrWhiteSpace(realName))
                found.TryAdd(realName, found[code]);
        }
        return found;
    }

    private static Dictionary<int, (AttributeId Id, AttributeKind Kind)> AttributesOf(
        Writing writing,
        StudyId studyId,
        IReadOnlyList<SurveyColumn> columns
    )
    {
        var there = writing
            .Connection.Query<(AttributeId Id, string Name, string Kind)>(
                "SELECT id, name, kind FROM attribute WHERE study_id = @studyId",
                new { studyId }
            )
            .ToList();
        var found = new Dictionary<int, (AttributeId, AttributeKind)>();
        var position = there.Count;
        for (var c = 0; c < columns.Count; c++)
        {
            if (columns[c].Role is not (ColumnRole.Attribute or ColumnRole.Rating))
                continue;
            var kind = SurveyReading.KindOf(columns[c]);
            var same = there.FirstOrDefault(a => a.Name.Equals(columns[c].Name, StringComparison.OrdinalIgnoreCase));
            if (same.Name is null)
                same = there.FirstOrDefault(a => SameSurvey.Question(a.Name) == SameSurvey.Question(columns[c].Name));
            found[c] = same.Name is not null
                ? (same.Id, Enum.Parse<AttributeKind>(same.Kind, ignoreCase: true))
                : (
                    writing.Insert(
                        "attribute",
                        new
                        {
                            studyId,
                            columns[c].Name,
                            kind,
                            position = position++,
                        }
                    ),
                    kind
                );
        }
        return found;
    }

    public static List<double> ValuesOf(IReadOnlyList<SurveyRow> rows, int column) =>
        [.. rows.SelectMany(r => r.Values).Where(v => v.Column == column).Select(v => v.Value)];

    /// <summary>The tags whose scales take the columns' values, by column.</summary>
    private static Dictionary<int, (TagId Id, Scale Scale)> ScalesOf(
        Writing writing,
        StudyId studyId,
        IReadOnlyList<SurveyColumn> columns,
        IReadOnlyList<SurveyRow> rows,
        bool widen
    ) =>
        Enumerable
            .Range(0, columns.Count)
            .Where(c => columns[c].Role == ColumnRole.ScaleValue)
            .ToDictionary(
                c => c,
                c => TagNames.FindOrMakeScaled(writing, studyId, TagName.Shortened(columns[c].Name), ValuesOf(rows, c), widen)
            );
}
