using System.Globalization;
using System.Text.Json;
using Dapper;
using Microsoft.Data.Sqlite;
using Vitrine.Core.Gather.Surveys;
using Vitrine.Core.Text;
using Vitrine.Storage.Sql;

namespace Vitrine.Storage.Gather.Surveys;

/// <summary>What is done with a row that was taken in before and says something else now.</summary>
public enum SurveyAgain
{
    /// <summary>Nothing: what is here stays.</summary>
    Leave,

    /// <summary>It is a second wave: a new source of the same person.</summary>
    NewAnswers,

    /// <summary>What is here is corrected.</summary>
    Replace,
}

/// <summary>What a row says otherwise than what is here.</summary>
/// <param name="Who">Whose row, by code.</param>
/// <param name="Question">The column.</param>
/// <param name="Before">What is here; empty when nothing is.</param>
/// <param name="Now">What the table says.</param>
public sealed record AnswerDifference(string Who, string Question, string Before, string Now);

/// <summary>A row that was taken in before.</summary>
internal sealed record RowBefore
{
    public long Id { get; init; }
    public string RowKey { get; init; } = "";
    public string ContentHash { get; init; } = "";
    public ParticipantId? ParticipantId { get; init; }
    public string? Code { get; init; }
    public SourceId? SourceId { get; init; }
}

/// <summary>A survey of the study that is the same as the one that comes in now.</summary>
/// <param name="Incoming">The rows that come in now, known as those of this survey are.</param>
internal sealed record SurveyBefore(
    SurveyId SurveyId,
    string Name,
    DateTimeOffset TakenInAt,
    IReadOnlyList<string> Columns,
    IReadOnlyDictionary<string, RowBefore> Rows,
    IReadOnlyList<SurveyRow> Incoming
)
{
    /// <summary>
    /// The survey with the same columns; else the latest with questions and people in common; null when this one is new.
    /// </summary>
    public static SurveyBefore? Find(
        SqliteConnection connection,
        StudyId studyId,
        IReadOnlyList<SurveyColumn> columns,
        IReadOnlyList<SurveyRow> rows
    )
    {
        var names = columns.Select(c => c.Name).ToList();
        var there = connection
            .Query<(SurveyId Id, string Name, string Columns, string KeyColumns, DateTimeOffset At)>(
                "SELECT id, name, columns, key_columns, created_at FROM survey WHERE study_id = @studyId ORDER BY id DESC",
                new { studyId }
            )
            .Select(s => (s.Id, s.Name, s.At, Columns: NamesIn(s.Columns), Keys: NamesIn(s.KeyColumns)))
            .ToList();
        SurveyBefore As((SurveyId Id, string Name, DateTimeOffset At, List<string> Columns, List<string> Keys) s) =>
            new(s.Id, s.Name, s.At, s.Columns, RowsOf(connection, s.Id), SameSurvey.KeyedBy(s.Keys, columns, rows));
        if (there.Find(s => s.Columns.SequenceEqual(names)) is { Columns: not null } same)
            return As(same);
        return there
            .Where(s => SameSurvey.Between(s.Columns, names) is not null)
            .Select(As)
            .FirstOrDefault(like => like.Incoming.Any(r => like.Rows.ContainsKey(r.Key)));
    }

    private static List<string> NamesIn(string json) => JsonSerializer.Deserialize<List<string>>(json)!;

    /// <summary>What was said of the columns of the latest survey that asks the same; empty where there is none.</summary>
    public static IReadOnlyList<SurveyColumn> RolesIn(SqliteConnection connection, StudyId studyId, IReadOnlyList<string> names) =>
        connection
            .Query<string>("SELECT roles FROM survey WHERE study_id = @studyId AND roles IS NOT NULL ORDER BY id DESC", new { studyId })
            .Select(json => JsonSerializer.Deserialize<List<SurveyColumn>>(json)!)
            .FirstOrDefault(said => SameSurvey.Between([.. said.Select(c => c.Name)], names) is not null)
        ?? [];

    /// <summary>Questions that this survey did not ask when it came in before.</summary>
    public HashSet<string> Added(IReadOnlyList<SurveyColumn> columns)
    {
        var asked = Columns.Select(SameSurvey.Question).ToHashSet();
        return [.. columns.Select(c => c.Name).Where(name => !asked.Contains(SameSurvey.Question(name)))];
    }

    private static Dictionary<string, RowBefore> RowsOf(SqliteConnection connection, SurveyId id) =>
        connection
            .Query<RowBefore>(
                """
                SELECT r.id, r.row_key, r.content_hash, r.participant_id, r.source_id, p.code FROM survey_row r
                LEFT JOIN participant p ON p.id = r.participant_id WHERE r.survey_id = @id
                """,
                new { id }
            )
            .ToDictionary(r => r.RowKey);

    /// <summary>
    /// What rows that were taken in before say otherwise than what is here now, by row. Who was removed since has no differences.
    /// </summary>
    public IReadOnlyDictionary<string, IReadOnlyList<AnswerDifference>> Differences(
        SqliteConnection connection,
        IReadOnlyList<SurveyColumn> columns
    )
    {
        var again = Incoming
            .Where(r => Rows.TryGetValue(r.Key, out var was) && was.ContentHash != r.ContentHash && was.ParticipantId is not null)
            .Select(r => (Row: r, Was: Rows[r.Key]))
            .ToList();
        if (again.Count == 0)
            return new Dictionary<string, IReadOnlyList<AnswerDifference>>();
        var facts = NotedOf(connection, again.Select(a => a.Was.ParticipantId!.Value))
            .ToLookup(v => (v.Person, SameSurvey.Question(v.Name)), v => v.Value);
        var texts = connection
            .Query<(SourceId Source, string Text)>(
                "SELECT source_id, text FROM source_text WHERE source_id IN (SELECT value FROM json_each(@sources))",
                new { sources = Ids.Json(again.Select(a => a.Was.SourceId).OfType<SourceId>()) }
            )
            .ToDictionary(t => t.Source, t => t.Text);
        return again
            .Select(a => (a.Row.Key, Differences: (IReadOnlyList<AnswerDifference>)[.. DifferencesOf(a.Row, a.Was, columns, facts, texts)]))
            .Where(d => d.Differences.Count > 0)
            .ToDictionary(d => d.Key, d => d.Differences);
    }

    /// <summary>The values of attributes that are noted of people.</summary>
    public static IEnumerable<(ParticipantId Person, string Name, string Value)> NotedOf(
        SqliteConnection connection,
        IEnumerable<ParticipantId> people
    ) =>
        connection.Query<(ParticipantId, string, string)>(
            """
            SELECT v.participant_id, a.name, v.value FROM attribute_value v JOIN attribute a ON a.id = v.attribute_id
            WHERE v.participant_id IN (SELECT value FROM json_each(@ids))
            """,
            new { ids = Ids.Json(people) }
        );

    private static IEnumerable<AnswerDifference> DifferencesOf(
        SurveyRow row,
        RowBefore was,
        IReadOnlyList<SurveyColumn> columns,
        ILookup<(ParticipantId, string), string> facts,
        Dictionary<SourceId, string> texts
    )
    {
        foreach (var (column, value) in row.Facts)
        {
            var before = facts[(was.ParticipantId!.Value, SameSurvey.Question(columns[column].Name))].FirstOrDefault("");
            if (before != value)
                yield return new AnswerDifference(was.Code!, columns[column].Name, before, value);
        }
        var said = was.SourceId is { } source && texts.TryGetValue(source, out var text) ? text.Split("\n\n") : [];
        foreach (
            var (column, words) in row.Answers.Concat(
                row.Values.Select(v => (v.Column, Words: v.Value.ToString(CultureInfo.InvariantCulture)))
            )
        )
        {
            // Questions and answers stand one after the other; one that was corrected by hand may hold several paragraphs.
            var (question, now) = (CanonicalText.From(columns[column].Name).Trim(), CanonicalText.From(words).Trim());
            var at = Array.FindIndex(said, s => SameSurvey.Question(s) == SameSurvey.Question(question));
            var before = at >= 0 && at + 1 < said.Length ? said[at + 1] : "";
            if (before != now && !(at >= 0 && string.Join("\n\n", said.Skip(at + 1)).StartsWith(now, StringComparison.Ordinal)))
                yield return new AnswerDifference(was.Code!, columns[column].Name, before, now);
        }
    }
}
