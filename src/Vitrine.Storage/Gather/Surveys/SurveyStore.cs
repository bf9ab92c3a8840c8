using Dapper;
using Vitrine.Core.Gather.Surveys;
using Vitrine.Storage.Gather.Attachments;
using Vitrine.Storage.Gather.Corrections;
using Vitrine.Storage.Media;
using Vitrine.Storage.Trail;

namespace Vitrine.Storage.Gather.Surveys;

/// <summary>What a table's rows become, or have become.</summary>
/// <param name="People">How many people the table is of.</param>
/// <param name="NewPeople">Participants that are made.</param>
/// <param name="KnownPeople">Rows whose person is a participant already.</param>
/// <param name="Sources">Sources with open answers.</param>
/// <param name="Before">Rows that were taken in before.</param>
/// <param name="Changed">Of those, rows that say something else than what is here.</param>
/// <param name="Values">Values on the scales of tags.</param>
public sealed record SurveyResult(int People, int NewPeople, int KnownPeople, int Sources, int Before, int Changed, int Values);

/// <summary>A survey that was taken in before, recognised by its people and questions.</summary>
/// <param name="Name">What it was called.</param>
/// <param name="TakenInAt">When it came in first.</param>
/// <param name="Added">Questions that are new.</param>
/// <param name="Dropped">Questions that are not asked any more.</param>
/// <param name="First">The first of what is answered otherwise now.</param>
/// <param name="Differences">How many answers are otherwise.</param>
public sealed record SurveyKnown(
    string Name,
    DateTimeOffset TakenInAt,
    IReadOnlyList<string> Added,
    IReadOnlyList<string> Dropped,
    IReadOnlyList<AnswerDifference> First,
    int Differences
);

/// <summary>Surveys: each row a participant, their open answers one source that reads like a short interview.</summary>
public sealed class SurveyStore(Workspace workspace, CorrectionStore corrections)
{
    /// <summary>What taking these rows in would make, without making it.</summary>
    public (SurveyResult Result, SurveyKnown? Known) Preview(
        StudyId studyId,
        IReadOnlyList<SurveyColumn> columns,
        IReadOnlyList<SurveyRow> rows
    )
    {
        using var connection = workspace.Open();
        using var snapshot = connection.BeginTransaction(deferred: true);
        var before = SurveyBefore.Find(connection, studyId, columns, rows);
        var people = SurveyTaking.PeopleIn(connection, studyId);
        var fresh = rows.Where(r => before?.Rows.ContainsKey(r.Key) != true).ToList();
        var differing = before?.Differences(connection, columns, rows).Values.ToList() ?? [];
        var known = fresh.Count(r => r.Who.Length > 0 && people.ContainsKey(r.Who));
        var result = new SurveyResult(
            PeopleIn(rows),
            PeopleIn(fresh.Where(r => !people.ContainsKey(r.Who))),
            known,
            fresh.Count(r => r.Speaks),
            rows.Count - fresh.Count,
            differing.Count,
            fresh.Sum(r => r.Values.Count)
        );
        if (before is null)
            return (result, null);
        var change = SameSurvey.Between(before.Columns, [.. columns.Select(c => c.Name)]) ?? new SurveyChange([], []);
        return (
            result,
            new SurveyKnown(
                before.Name,
                before.TakenInAt,
                change.Added,
                change.Dropped,
                [.. differing.SelectMany(d => d).Take(DifferencesShown)],
                differing.Sum(d => d.Count)
            )
        );
    }

    private const int DifferencesShown = 8;

    /// <summary>How many people rows are of; a row that says nothing of who it is, is a person's own.</summary>
    private static int PeopleIn(IEnumerable<SurveyRow> rows) =>
        rows.Select(r => r.Who.Length > 0 ? r.Who : r.Key).Distinct(StringComparer.OrdinalIgnoreCase).Count();

    /// <summary>How many rows are taken in before others may write again.</summary>
    private const int RowsAtOnce = 250;

    /// <summary>
    /// Takes in the rows that were not taken in before, as one step in several parts: others write between them, and a part of it that was
    /// cut off is gone on with.
    /// </summary>
    /// <param name="file">The table as it came in, which is attached; null for none.</param>
    /// <param name="again">What is done with rows that were here and say something else now.</param>
    /// <param name="heldOn">The day of their new answers, where the row says none.</param>
    public (Step Step, SurveyResult Result) Add(
        Actor actor,
        StudyId studyId,
        string name,
        IReadOnlyList<SurveyColumn> columns,
        IReadOnlyList<SurveyRow> rows,
        IProgress<double> progress,
        NewMedia? file = null,
        SurveyAgain again = SurveyAgain.Leave,
        DateOnly? heldOn = null
    )
    {
        SurveyTaking? taking = null;
        var edition = -1L;
        var step = workspace.WriteInParts(
            actor,
            studyId,
            $"Took in the survey “{name}”",
            writing =>
            {
                // What was seen of the study holds until somebody else has written what it rests on.
                if (taking is null || !Holds(studyId, edition))
                    taking = SurveyTaking.Begin(writing, studyId, name, columns, rows, again, heldOn, taking);
                if (taking.Fresh.Count == 0)
                    return (false, taking.Survey);
                if (file is not null && edition < 0)
                    AttachmentStore.Keep(writing, studyId, name, file);
                foreach (var row in taking.Fresh.Take(RowsAtOnce))
                    SurveyRows.Take(writing, studyId, name, columns, row, taking, corrections);
                taking.Flush(writing);
                taking = taking with { Fresh = [.. taking.Fresh.Skip(RowsAtOnce)] };
                edition = workspace.Edition;
                progress.Report(1 - (taking.Fresh.Count / (double)Math.Max(1, rows.Count)));
                return (taking.Fresh.Count > 0, taking.Survey);
            }
        );
        return (step, Told(step, rows, taking));
    }

    // Its own part is told as well, and is the one that may have touched all of these.
    private bool Holds(StudyId studyId, long edition) =>
        workspace.NewsSince(studyId, edition) is { } news
        && news.Count(n =>
            n.Tables.Any(t => t is "participant" or "source" or "tag" or "folder" or "attribute" or "attribute_value" or "survey_row")
        ) <= 1;

    /// <summary>What the whole step has made, by the trail: it may have been begun by a server that was killed.</summary>
    private SurveyResult Told(Step step, IReadOnlyList<SurveyRow> rows, SurveyTaking? taking)
    {
        using var connection = workspace.Open();
        var made = connection
            .Query<(string Table, int Rows)>(
                "SELECT table_name, count(*) FROM change WHERE action_id = @ActionId AND before IS NULL GROUP BY table_name",
                new { step.ActionId }
            )
            .ToDictionary(m => m.Table, m => m.Rows);
        int Made(string table) => made.GetValueOrDefault(table);
        return new SurveyResult(
            PeopleIn(rows),
            Made("participant"),
            connection.ExecuteScalar<int>(
                """
                SELECT count(*) FROM change c WHERE c.action_id = @ActionId AND c.table_name = 'survey_row' AND c.before IS NULL
                  AND json_extract(c.after, '$.participant_id') NOT IN (SELECT m.row_id FROM change m
                    WHERE m.action_id = @ActionId AND m.table_name = 'participant' AND m.before IS NULL)
                """,
                new { step.ActionId }
            ),
            Made("source"),
            rows.Count - Made("survey_row"),
            taking?.Changed ?? 0,
            Made("observation_tag")
        );
    }
}
