using Dapper;
using System.Globalization;
using System.Text.Json;
using System.Text;
using Vitrine.Core.Gather;
using Vitrine.Core.Mark.Observations;
using Vitrine.Core.Tagging;
using Vitrine.Core.Text;
using Vitrine.Storage.Quotes;
using Vitrine.Storage.Tags;
using Vitrine.Storage.Trail;

namespace Vitrine.Storage.Gather;

/// <summary>What a table's rows become, or have become.</summary>
/// <param name="NewPeople">Participants that are made.</param>
/// <param name="KnownPeople">Rows whose person is a participant already.</param>
/// <param name="Sources">Sources with open answers.</param>
/// <param name="Before">Rows that were taken in before.</param>
/// <param name="Changed">Of those, rows that differ now; they are left as they were.</param>
/// <param name="Values">Values on the scales of tags.</param>
public sealed record SurveyResult(int NewPeople, int KnownPeople, int Sources, int Before, int Changed, int Values);

/// <summary>Surveys: each row a participant, their open answers one source that reads like a short interview.</summary>
public sealed class SurveyStore(Workspace workspace)
{
    /// <summary>The speaker whose turns are the survey's questions; the team's own words.</summary>
    private const string Asking = "Question";

    /// <summary>What taking these rows in would make, without making it.</summary>
    public SurveyResult Preview(long studyId, IReadOnlyList<SurveyColumn> columns, IReadOnlyList<SurveyRow> rows)
    {
        using var connection = workspace.Open();
        var before = Before(connection, studyId, columns).Rows;
        var people = People(connection, studyId);
        var fresh = rows.Where(r => !before.ContainsKey(r.Key)).ToList();
        var known = fresh.Count(r => r.Who.Length > 0 && people.ContainsKey(r.Who));
        return new SurveyResult(fresh.Count - known, known, fresh.Count(r => r.Speaks), rows.Count - fresh.Count, rows.Count(r => before.TryGetValue(r.Key, out var hash) && hash != r.ContentHash), fresh.Sum(r => r.Values.Count));
    }

    /// <summary>Takes in the rows that were not taken in before, as one step.</summary>
    public (Step Step, SurveyResult Result) Add(Actor actor, long studyId, string name, IReadOnlyList<SurveyColumn> columns, IReadOnlyList<SurveyRow> rows, IProgress<double> progress)
    {
        var made = new SurveyResult(0, 0, 0, 0, 0, 0);
        var step = workspace.Write(actor, studyId, $"Took in the survey “{name}”", writing =>
        {
            var (surveyId, before) = Before(writing.Connection, studyId, columns);
            var people = People(writing.Connection, studyId);
            var fresh = rows.Where(r => !before.ContainsKey(r.Key)).ToList();
            made = made with { Before = rows.Count - fresh.Count, Changed = rows.Count(r => before.TryGetValue(r.Key, out var hash) && hash != r.ContentHash) };
            if (fresh.Count == 0) return surveyId;
            var survey = surveyId ?? writing.Insert("survey", new { studyId, name, columns = NamesOf(columns) });
            var attributes = Attributes(writing, studyId, columns);
            var folderId = fresh.Any(r => r.Speaks) ? FolderStore.FindOrMake(writing, studyId, name) : (long?)null;
            var scales = Scales(writing, studyId, columns, fresh);
            var codes = people.Values.Select(p => p.Code).ToHashSet(StringComparer.OrdinalIgnoreCase);
            var place = writing.Connection.ExecuteScalar<long>("SELECT coalesce(max(position), 0) + 1 FROM participant WHERE study_id = @studyId", new { studyId });
            var position = SourceStore.NextPosition(writing, studyId);
            for (var i = 0; i < fresh.Count; i++)
            {
                var row = fresh[i];
                var person = row.Who.Length > 0 ? people.GetValueOrDefault(row.Who) : null;
                var isNew = person is null;
                if (person is null)
                {
                    person = NewPerson(writing, studyId, row, codes, place++);
                    if (row.Who.Length > 0) people[row.Who] = person;
                    made = made with { NewPeople = made.NewPeople + 1 };
                }
                else
                {
                    made = made with { KnownPeople = made.KnownPeople + 1 };
                }
                Facts(writing, person.Id, row, attributes, isNew);
                var (sourceId, values) = row.Speaks ? Answers(writing, studyId, name, columns, row, person, folderId, position++, scales) : (null, 0);
                if (sourceId is not null) made = made with { Sources = made.Sources + 1, Values = made.Values + values };
                writing.Insert("survey_row", new { surveyId = survey, rowKey = row.Key, row.ContentHash, participantId = person.Id, sourceId });
                progress.Report((i + 1) / (double)fresh.Count);
            }
            return survey;
        });
        return (step, made);
    }

    private static string NamesOf(IReadOnlyList<SurveyColumn> columns) => JsonSerializer.Serialize(columns.Select(c => c.Name));

    /// <summary>The survey of this study with the same columns, and the rows that were taken in from it.</summary>
    private static (long? SurveyId, Dictionary<string, string> Rows) Before(Microsoft.Data.Sqlite.SqliteConnection connection, long studyId, IReadOnlyList<SurveyColumn> columns)
    {
        var id = connection.QueryFirstOrDefault<long?>("SELECT id FROM survey WHERE study_id = @studyId AND columns = @columns ORDER BY id DESC", new { studyId, columns = NamesOf(columns) });
        return (id, connection.Query<(string Key, string Hash)>("SELECT row_key, content_hash FROM survey_row WHERE survey_id = @id", new { id }).ToDictionary(r => r.Key, r => r.Hash));
    }

    /// <summary>Participants by what a table may call them: their code or their real name.</summary>
    private static Dictionary<string, Person> People(Microsoft.Data.Sqlite.SqliteConnection connection, long studyId)
    {
        var found = new Dictionary<string, Person>(StringComparer.OrdinalIgnoreCase);
        foreach (var (id, code, realName) in connection.Query<(long, string, string?)>("SELECT id, code, real_name FROM participant WHERE study_id = @studyId ORDER BY id", new { studyId }))
        {
            found[code] = new Person(id, code);
            if (!string.IsNullOrWhiteSpace(realName)) found.TryAdd(realName, found[code]);
        }
        return found;
    }

    private static Person NewPerson(Writing writing, long studyId, SurveyRow row, HashSet<string> codes, long position)
    {
        var isCode = row.Who.Length > 0 && SurveyReading.IsCode(row.Who) && !codes.Contains(row.Who);
        var code = isCode ? row.Who : Enumerable.Range(codes.Count + 1, int.MaxValue - codes.Count - 1).Select(n => n.ToString("'R'000", CultureInfo.InvariantCulture)).First(c => !codes.Contains(c));
        codes.Add(code);
        return new Person(writing.Insert("participant", new { studyId, code, pseudonym = $"Respondent {code}", realName = isCode || row.Who.Length == 0 ? null : row.Who, position }), code);
    }

    private static Dictionary<int, (long Id, AttributeKind Kind)> Attributes(Writing writing, long studyId, IReadOnlyList<SurveyColumn> columns)
    {
        var there = writing.Connection.Query<(long Id, string Name, string Kind)>("SELECT id, name, kind FROM attribute WHERE study_id = @studyId", new { studyId }).ToList();
        var found = new Dictionary<int, (long, AttributeKind)>();
        var position = there.Count;
        for (var c = 0; c < columns.Count; c++)
        {
            if (columns[c].Role is not (ColumnRole.Attribute or ColumnRole.Rating)) continue;
            var kind = SurveyReading.KindOf(columns[c]);
            var same = there.FirstOrDefault(a => a.Name.Equals(columns[c].Name, StringComparison.OrdinalIgnoreCase));
            found[c] = same.Name is not null ? (same.Id, Enum.Parse<AttributeKind>(same.Kind, ignoreCase: true)) : (writing.Insert("attribute", new { studyId, columns[c].Name, kind, position = position++ }), kind);
        }
        return found;
    }

    private static void Facts(Writing writing, long participantId, SurveyRow row, Dictionary<int, (long Id, AttributeKind Kind)> attributes, bool isNew)
    {
        foreach (var (column, value) in row.Facts)
        {
            var (attributeId, kind) = attributes[column];
            // An attribute that was there before keeps its type; what is none of it is not forced in.
            if (AttributeValue.Fit(kind, value) is not { } fit) continue;
            // What the team has written about someone stays.
            if (!isNew && writing.Connection.ExecuteScalar<bool>("SELECT count(*) FROM attribute_value WHERE participant_id = @participantId AND attribute_id = @attributeId", new { participantId, attributeId })) continue;
            writing.Insert("attribute_value", new { participantId, attributeId, value = fit });
        }
    }

    /// <summary>The tags whose scales take the columns' values, by column.</summary>
    private static Dictionary<int, (long Id, Scale Scale)> Scales(Writing writing, long studyId, IReadOnlyList<SurveyColumn> columns, IReadOnlyList<SurveyRow> rows) => Enumerable.Range(0, columns.Count)
        .Where(c => columns[c].Role == ColumnRole.ScaleValue)
        .ToDictionary(c => c, c => TagStore.FindOrMakeScaled(writing, studyId, TagName.Shortened(columns[c].Name), Scale.Around([.. rows.SelectMany(r => r.Values).Where(v => v.Column == c).Select(v => v.Value)])));

    private static (long? SourceId, int Values) Answers(Writing writing, long studyId, string name, IReadOnlyList<SurveyColumn> columns, SurveyRow row, Person person, long? folderId, long position, Dictionary<int, (long Id, Scale Scale)> scales)
    {
        var text = new StringBuilder();
        var turns = new List<Turn>();
        var given = new List<(TextRange Words, long TagId, double Value)>();
        var values = row.Values.ToDictionary(v => v.Column, v => v.Value);
        foreach (var (column, words) in row.Answers.Concat(row.Values.Select(v => (v.Column, Words: v.Value.ToString(CultureInfo.InvariantCulture)))).OrderBy(a => a.Column))
        {
            Say(columns[column].Name, Asking);
            Say(words, person.Code);
            if (values.TryGetValue(column, out var value) && scales[column].Scale.Fits(value)) given.Add((turns[^1].Words, scales[column].Id, value));
        }
        var sourceId = SourceStore.Insert(
            writing,
            studyId,
            new NewSource($"{person.Code}, {name}", SourceKind.Survey, null, null, text.ToString(), turns, [person.Id], null, null, folderId),
            position,
            label => label == Asking ? new SpeakerMatch(null, true) : new SpeakerMatch(person.Id, false));
        foreach (var (words, tagId, value) in given)
        {
            var observationId = ObservationRows.Insert(writing, studyId, sourceId, new TextAnchor(words));
            writing.Insert("observation_tag", new { observationId, tagId, value });
        }
        return (sourceId, given.Count);

        void Say(string words, string speaker)
        {
            if (text.Length > 0) text.Append("\n\n");
            var from = text.Length;
            text.Append(CanonicalText.From(words).Trim());
            turns.Add(new Turn(new TextRange(from, text.Length), speaker));
        }
    }

    private sealed record Person(long Id, string Code);
}
