using Dapper;
using Vitrine.Core.Gather.Privacy;
using Vitrine.Core.Gather.Surveys;
using Vitrine.Core.Sort.TagSet;
using Vitrine.Storage.Gather.Attachments;
using Vitrine.Storage.Gather.Corrections;
using Vitrine.Storage.Media;
using Vitrine.Storage.Tags;
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
/// <param name="Grown">Rows that were taken in before and answer questions that are new.</param>
public sealed record SurveyResult(
    int People,
    int NewPeople,
    int KnownPeople,
    int Sources,
    int Before,
    int Changed,
    int Values,
    int Grown = 0
);

/// <summary>What a researcher says of a table that could be taken in in several ways.</summary>
/// <param name="Again">What is done with rows that came in before and say something else now.</param>
/// <param name="HeldOn">The day of new answers whose row says none.</param>
/// <param name="WidenScales">Whether scales of tags are widened for values that lie outside them.</param>
/// <param name="AgreedBy">How new people have agreed to their words being used; null where no answer is noted.</param>
public sealed record SurveyChoice(
    SurveyAgain Again = SurveyAgain.Leave,
    DateOnly? HeldOn = null,
    bool WidenScales = false,
    AgreedBy? AgreedBy = null
);

/// <summary>What a table says of people and what is not taken, because something else is noted of them.</summary>
/// <param name="First">The first of it.</param>
/// <param name="Values">How many values there are.</param>
public sealed record Unheard(IReadOnlyList<AnswerDifference> First, int Values);

/// <summary>Values that lie outside the scale that a tag has.</summary>
/// <param name="Column">The column, from 0.</param>
/// <param name="Tag">The tag's name.</param>
/// <param name="Scale">Its scale.</param>
/// <param name="Values">How many values lie outside.</param>
/// <param name="Widened">The scale that would hold them; null when there is none.</param>
public sealed record ScaleOutgrown(int Column, string Tag, Scale Scale, int Values, Scale? Widened);

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
        var fresh = FreshOf(before, rows);
        var added = before?.Added(columns) ?? [];
        var differences = before?.Differences(connection, columns).Values.ToList() ?? [];
        var differing = differences.Select(d => d.Where(one => !added.Contains(one.Question)).ToList()).Where(d => d.Count > 0).ToList();
        var known = fresh.Count(r => r.Who.Length > 0 && people.ContainsKey(r.Who));
        var result = new SurveyResult(
            PeopleIn(rows),
            PeopleIn(fresh.Where(r => !people.ContainsKey(r.Who))),
            known,
            fresh.Count(r => r.Speaks),
            rows.Count - fresh.Count,
            differing.Count,
            fresh.Sum(r => r.Values.Count),
            differences.Count(d => d.Any(one => added.Contains(one.Question)))
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

    /// <summary>The columns of a table as they were said to be when the same questions came in before; else as they are guessed.</summary>
    public IReadOnlyList<SurveyColumn> AsSaidBefore(StudyId studyId, IReadOnlyList<SurveyColumn> guessed)
    {
        using var connection = workspace.Open();
        return SameSurvey.AsSaidBefore(guessed, SurveyBefore.RolesIn(connection, studyId, [.. guessed.Select(c => c.Name)]));
    }

    private static List<SurveyRow> FreshOf(SurveyBefore? before, IReadOnlyList<SurveyRow> rows) =>
        before is null ? [.. rows] : [.. before.Incoming.Where(r => !before.Rows.ContainsKey(r.Key))];

    /// <summary>Columns of scale values whose tag is there with a scale that does not hold them all.</summary>
    public IReadOnlyList<ScaleOutgrown> Outgrown(StudyId studyId, IReadOnlyList<SurveyColumn> columns, IReadOnlyList<SurveyRow> rows)
    {
        using var connection = workspace.Open();
        var outgrown = new List<ScaleOutgrown>();
        for (var c = 0; c < columns.Count; c++)
        {
            if (columns[c].Role != ColumnRole.ScaleValue)
                continue;
            var (name, values) = (TagName.Shortened(columns[c].Name), SurveyTaking.ValuesOf(rows, c));
            if (TagNames.Find(connection, studyId, name) is not { } id || TagNames.ScaleOf(connection, id) is not { } scale)
                continue;
            if (values.Count(v => !scale.Fits(v)) is > 0 and var outside)
                outgrown.Add(new ScaleOutgrown(c, name.Shown, scale, outside, scale.Widened(values)));
        }
        return outgrown;
    }

    /// <summary>
    /// Facts of new rows that say something else than what is noted of their person, here or in an earlier row of the table: one attribute
    /// holds one value, and what was noted first stays.
    /// </summary>
    public Unheard UnheardOf(StudyId studyId, IReadOnlyList<SurveyColumn> columns, IReadOnlyList<SurveyRow> rows)
    {
        using var connection = workspace.Open();
        var before = SurveyBefore.Find(connection, studyId, columns, rows);
        var people = SurveyTaking.PeopleIn(connection, studyId);
        var fresh = FreshOf(before, rows).Where(r => r.Who.Length > 0).ToList();
        var noted = new Dictionary<(string Who, string Question), string>();
        var known = fresh
            .Select(r => r.Who)
            .Distinct(StringComparer.OrdinalIgnoreCase)
            .Where(people.ContainsKey)
            .ToLookup(w => people[w].Id);
        foreach (var (person, name, value) in SurveyBefore.NotedOf(connection, known.Select(k => k.Key)))
        {
            foreach (var who in known[person])
                noted.TryAdd((who.ToLowerInvariant(), SameSurvey.Question(name)), value);
        }
        var questions = columns.Select(c => SameSurvey.Question(c.Name)).ToList();
        var unheard =
            from row in fresh
            from fact in row.Facts
            let place = (row.Who.ToLowerInvariant(), questions[fact.Column])
            where !noted.TryAdd(place, fact.Value) && noted[place] != fact.Value
            select new AnswerDifference(row.Who, columns[fact.Column].Name, noted[place], fact.Value);
        var all = unheard.ToList();
        return new Unheard([.. all.Take(DifferencesShown)], all.Count);
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
    /// <param name="choice">What the researcher has said of what could not be told; null to leave all that is here.</param>
    public (Step Step, SurveyResult Result) Add(
        Actor actor,
        StudyId studyId,
        string name,
        IReadOnlyList<SurveyColumn> columns,
        IReadOnlyList<SurveyRow> rows,
        IProgress<double> progress,
        NewMedia? file = null,
        SurveyChoice? choice = null
    )
    {
        SurveyTaking? taking = null;
        var edition = -1L;
        var step = workspace.WriteInParts(
            actor,
            studyId,
            $"Imported the survey “{name}”",
            writing =>
            {
                // What was seen of the study holds until somebody else has written what it rests on.
                var touched = taking is null ? null : TouchedByOthers(studyId, edition);
                if (taking is null || touched is null || touched.Any(t => t != "participant"))
                    taking = SurveyTaking.Begin(writing, studyId, name, columns, rows, choice ?? new SurveyChoice(), taking);
                else if (touched.Count > 0)
                    taking = taking.WithPeople(writing.Connection, studyId);
                if (taking.Fresh.Count == 0)
                    return (false, taking.Survey?.Value);
                if (file is not null && edition < 0)
                    AttachmentStore.Keep(writing, studyId, name, file, taking.Survey!.Value);
                foreach (var row in taking.Fresh.Take(RowsAtOnce))
                    SurveyRows.Take(writing, studyId, name, columns, row, taking, corrections);
                taking.Flush(writing);
                taking = taking with { Fresh = [.. taking.Fresh.Skip(RowsAtOnce)] };
                if (taking.Fresh.Count == 0)
                    taking.End(writing, columns);
                edition = workspace.Edition;
                progress.Report(1 - (taking.Fresh.Count / (double)Math.Max(1, rows.Count)));
                return (taking.Fresh.Count > 0, taking.Survey?.Value);
            }
        );
        return (step, Told(step, rows, taking));
    }

    /// <summary>
    /// What others have written since the last part, of that on which the step rests; null when that is too long ago. The first that is
    /// told is the last part itself.
    /// </summary>
    private HashSet<string>? TouchedByOthers(StudyId studyId, long edition) =>
        workspace.NewsSince(studyId, edition)?.Skip(1).SelectMany(n => n.Tables).Where(Ground.Contains).ToHashSet();

    private static readonly HashSet<string> Ground =
    [
        "participant",
        "source",
        "tag",
        "folder",
        "attribute",
        "attribute_value",
        "survey_row",
    ];

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
                SELECT count(*) FROM survey_row r WHERE r.survey_id = @Id AND r.participant_id IS NOT NULL
                  AND EXISTS (SELECT 1 FROM change c WHERE c.table_name = 'survey_row' AND c.row_id = r.id AND c.action_id = @ActionId
                    AND c.before IS NULL)
                  AND NOT EXISTS (SELECT 1 FROM change c WHERE c.table_name = 'participant' AND c.row_id = r.participant_id
                    AND c.action_id = @ActionId AND c.before IS NULL)
                """,
                new { step.ActionId, step.Id }
            ),
            Made("source"),
            rows.Count - Made("survey_row"),
            taking?.Changed ?? 0,
            Made("observation_tag"),
            taking?.Grown ?? 0
        );
    }
}
