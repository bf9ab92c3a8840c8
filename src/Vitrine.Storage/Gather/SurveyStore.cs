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

    /// <summary>How many rows are taken in before others may write again.</summary>
    private const int RowsAtOnce = 250;

    /// <summary>Takes in the rows that were not taken in before, as one step in several parts: others write between them, and a part of it that was cut off is gone on with.</summary>
    public (Step Step, SurveyResult Result) Add(Actor actor, long studyId, string name, IReadOnlyList<SurveyColumn> columns, IReadOnlyList<SurveyRow> rows, IProgress<double> progress)
    {
        Taking? taking = null;
        var edition = -1L;
        var step = workspace.WriteInParts(actor, studyId, $"Took in the survey “{name}”", writing =>
        {
            // What was seen of the study holds until somebody else has written what it rests on.
            if (taking is null || !Holds(studyId, edition)) taking = Taking.Begin(writing, studyId, name, columns, rows, taking);
            if (taking.Fresh.Count == 0) return (false, taking.Survey);
            foreach (var row in taking.Fresh.Take(RowsAtOnce)) Take(writing, studyId, name, columns, row, taking);
            taking = taking with { Fresh = [.. taking.Fresh.Skip(RowsAtOnce)] };
            edition = workspace.Edition;
            progress.Report(1 - (taking.Fresh.Count / (double)Math.Max(1, rows.Count)));
            return (taking.Fresh.Count > 0, taking.Survey);
        });
        return (step, Told(step, rows, taking));
    }

    // Its own part is told as well, and is the one that may have touched all of these.
    private bool Holds(long studyId, long edition) => workspace.NewsSince(studyId, edition) is { } news
        && news.Count(n => n.Tables.Any(t => t is "participant" or "source" or "tag" or "folder" or "attribute" or "attribute_value" or "survey_row")) <= 1;

    /// <summary>Where the taking in of a survey stands.</summary>
    private sealed record Taking(long? Survey, IReadOnlyList<SurveyRow> Fresh, int Changed, Dictionary<string, Person> People, HashSet<string> Codes, Dictionary<int, (long Id, AttributeKind Kind)> Attributes, Dictionary<int, (long Id, Scale Scale)> Scales, long? FolderId)
    {
        public long Place { get; set; }
        public long Position { get; set; }

        public static Taking Begin(Writing writing, long studyId, string name, IReadOnlyList<SurveyColumn> columns, IReadOnlyList<SurveyRow> rows, Taking? goesOn)
        {
            var (surveyId, before) = Before(writing.Connection, studyId, columns);
            var fresh = rows.Where(r => !before.ContainsKey(r.Key)).ToList();
            var changed = goesOn?.Changed ?? rows.Count(r => before.TryGetValue(r.Key, out var hash) && hash != r.ContentHash);
            var people = SurveyStore.People(writing.Connection, studyId);
            if (fresh.Count == 0) return new Taking(surveyId, fresh, changed, people, [], [], [], null);
            return new Taking(
                surveyId ?? writing.Insert("survey", new { studyId, name, columns = NamesOf(columns) }),
                fresh,
                changed,
                people,
                people.Values.Select(p => p.Code).ToHashSet(StringComparer.OrdinalIgnoreCase),
                SurveyStore.Attributes(writing, studyId, columns),
                // The scale is made around all values, not those that are left.
                goesOn?.Scales ?? SurveyStore.Scales(writing, studyId, columns, rows),
                rows.Any(r => r.Speaks) ? FolderStore.FindOrMake(writing, studyId, name) : null)
            {
                Place = writing.Connection.ExecuteScalar<long>("SELECT coalesce(max(position), 0) + 1 FROM participant WHERE study_id = @studyId", new { studyId }),
                Position = SourceStore.NextPosition(writing, studyId),
            };
        }
    }

    private static void Take(Writing writing, long studyId, string name, IReadOnlyList<SurveyColumn> columns, SurveyRow row, Taking taking)
    {
        var person = row.Who.Length > 0 ? taking.People.GetValueOrDefault(row.Who) : null;
        var isNew = person is null;
        if (person is null)
        {
            person = NewPerson(writing, studyId, row, taking.Codes, taking.Place++);
            if (row.Who.Length > 0) taking.People[row.Who] = person;
        }
        Facts(writing, person.Id, row, taking.Attributes, isNew);
        var sourceId = row.Speaks ? Answers(writing, studyId, name, columns, row, person, taking.FolderId, taking.Position++, taking.Scales) : null;
        writing.Insert("survey_row", new { surveyId = taking.Survey, rowKey = row.Key, row.ContentHash, participantId = person.Id, sourceId });
    }

    /// <summary>What the whole step has made, by the trail: it may have been begun by a server that was killed.</summary>
    private SurveyResult Told(Step step, IReadOnlyList<SurveyRow> rows, Taking? taking)
    {
        using var connection = workspace.Open();
        var made = connection.Query<(string Table, int Rows)>("SELECT table_name, count(*) FROM change WHERE action_id = @ActionId AND before IS NULL GROUP BY table_name", new { step.ActionId }).ToDictionary(m => m.Table, m => m.Rows);
        int Made(string table) => made.GetValueOrDefault(table);
        return new SurveyResult(Made("participant"), Made("survey_row") - Made("participant"), Made("source"), rows.Count - Made("survey_row"), taking?.Changed ?? 0, Made("observation_tag"));
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

    private static long? Answers(Writing writing, long studyId, string name, IReadOnlyList<SurveyColumn> columns, SurveyRow row, Person person, long? folderId, long position, Dictionary<int, (long Id, Scale Scale)> scales)
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
        return sourceId;

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
