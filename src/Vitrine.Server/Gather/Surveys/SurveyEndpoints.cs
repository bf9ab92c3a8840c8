using System.Text;
using System.Text.Json;
using Vitrine.Core.Gather.Sources;
using Vitrine.Core.Gather.Surveys;
using Vitrine.Formats.Tables;
using Vitrine.Server.Access;
using Vitrine.Server.FileReading;
using Vitrine.Server.Gather.Imports;
using Vitrine.Server.Gather.Turns;
using Vitrine.Server.Http;
using Vitrine.Server.Jobs;
using Vitrine.Storage.Gather.Surveys;
using Vitrine.Storage.Jobs;
using Vitrine.Storage.Media;
using Vitrine.Storage.Trail;

namespace Vitrine.Server.Gather.Surveys;

/// <summary>A table as it stands in a file, with a guess of what its columns are.</summary>
/// <param name="Name">The file's name without its ending.</param>
/// <param name="Columns">The guess.</param>
/// <param name="Filled">How many rows say something, by column.</param>
/// <param name="FirstRows">The first rows.</param>
/// <param name="Rows">How many there are.</param>
/// <param name="HeaderRows">How many rows at the top were read as names.</param>
/// <param name="Remarks">What was left out or guessed.</param>
/// <param name="Doubts">Columns that look like numbers or dates and stay text until somebody says otherwise.</param>
internal sealed record SurveyTable(
    string Name,
    IReadOnlyList<SurveyColumn> Columns,
    IReadOnlyList<int> Filled,
    IReadOnlyList<string[]> FirstRows,
    int Rows,
    int HeaderRows,
    IReadOnlyList<string> Remarks,
    IReadOnlyList<ColumnDoubt> Doubts
);

internal sealed record ColumnDoubt(int Column, ValueDoubt Doubt);

/// <summary>Values of one column that are none of its type.</summary>
internal sealed record ColumnMisfits(int Column, int Values, IReadOnlyList<string> Examples);

/// <summary>Cells of one column that would be kept otherwise than they are written.</summary>
/// <param name="Column">The column, from 0.</param>
/// <param name="Spellings">How many different ones there are.</param>
/// <param name="First">The first of them.</param>
internal sealed record ColumnChanges(int Column, int Spellings, IReadOnlyList<ChangedCell> First);

/// <summary>What taking a table in would make.</summary>
/// <param name="Known">The survey that this is again; null for a new one.</param>
/// <param name="Outgrown">Columns whose values lie outside the scale of their tag.</param>
/// <param name="Unheard">What is not taken because something else is noted of the person.</param>
internal sealed record SurveyPreview(
    SurveyResult Result,
    IReadOnlyList<ColumnMisfits> Misfits,
    IReadOnlyList<ColumnChanges> Changes,
    SurveyKnown? Known,
    IReadOnlyList<ScaleOutgrown> Outgrown,
    Unheard Unheard
);

/// <summary>Cells that were pasted.</summary>
internal sealed record PastedTable(string Name, string Text);

internal static class SurveyEndpoints
{
    private const int FirstRows = 6;
    private const int Examples = 3;

    public static void MapSurveys(this RouteGroupBuilder api)
    {
        var imports = api.MapGroup("/studies/{studyId:long}/imports").WithTags("Gather");
        imports.MapPost(
            "/pasted-table",
            async (StudyId studyId, PastedTable given, SignedIn me, JobStore jobs, MediaFolder media) =>
            {
                var name = Validate.Text(given.Name, "name", "A survey needs a name, such as “Quay survey, May”.");
                if (given.Text.Length > Limits.PastedTable)
                    throw Refusal.Because(
                        $"These cells are {given.Text.Length / 1_000_000:N0} MB; {Limits.PastedTable / 1_000_000} MB is the most "
                            + $"that can be pasted. Save them as a file, and add it.",
                        "text"
                    );
                SourceReading.Readable("text", () => TableFile.ReadText(given.Text));
                var bytes = Encoding.UTF8.GetBytes(given.Text);
                var job = jobs.Add(
                    studyId,
                    me.Id,
                    JobKind.File,
                    JobState.Sending,
                    name + ".csv",
                    bytes.Length,
                    "",
                    JsonSerializer.Serialize(new FileGiven(SourceKind.Survey, null, true))
                );
                await media.Append(job.Key, 0, bytes.Length, new MemoryStream(bytes), () => true, CancellationToken.None);
                jobs.Hashed(job, await media.HashOf(job.Key, CancellationToken.None));
                jobs.Move(job, JobState.Table, SourceReading.IsTable, from: JobState.Sending);
                return new PastedTableAdded(job.Key);
            }
        );
        imports.MapGet(
            "/{key}/table",
            async (
                StudyId studyId,
                string key,
                int? headerRows,
                SignedIn me,
                JobStore jobs,
                MediaFolder media,
                SurveyStore surveys,
                FileReader reader,
                CancellationToken cancel
            ) =>
            {
                var job = Find(jobs, studyId, me, key);
                var table = await Read(reader, media, job, headerRows, cancel);
                var guessed = surveys.AsSaidBefore(studyId, SurveyReading.Guess(table.Columns, table.Rows));
                return new SurveyTable(
                    SourceReading.TitleOf(job.Name),
                    guessed,
                    [.. table.Columns.Select((_, c) => table.Rows.Count(r => r[c].Length > 0))],
                    [.. table.Rows.Take(FirstRows)],
                    table.Rows.Count,
                    table.HeaderRows,
                    table.Remarks,
                    [.. SurveyReading.Doubts(guessed, table.Rows).Select(d => new ColumnDoubt(d.Column, d.Doubt))]
                );
            }
        );
        imports.MapPost(
            "/{key}/survey-preview",
            async (
                StudyId studyId,
                string key,
                SurveyGiven given,
                SignedIn me,
                JobStore jobs,
                MediaFolder media,
                SurveyStore surveys,
                FileReader reader,
                CancellationToken cancel
            ) =>
            {
                var cells = Checked(given, await Read(reader, media, Find(jobs, studyId, me, key), given.HeaderRows, cancel)).Rows;
                var (rows, misfits) = SurveyReading.Rows(given.Columns, cells);
                var byColumn = misfits
                    .GroupBy(m => m.Column)
                    .OrderBy(g => g.Key)
                    .Select(g => new ColumnMisfits(g.Key, g.Count(), [.. g.Select(m => m.Value).Distinct().Take(Examples)]));
                var changes = SurveyReading
                    .Changes(given.Columns, cells)
                    .GroupBy(c => c.Column)
                    .OrderBy(g => g.Key)
                    .Select(g => new ColumnChanges(g.Key, g.Count(), [.. g.Take(FirstRows)]));
                var (result, known) = surveys.Preview(studyId, given.Columns, rows);
                return new SurveyPreview(
                    result,
                    [.. byColumn],
                    [.. changes],
                    known,
                    surveys.Outgrown(studyId, given.Columns, rows),
                    surveys.UnheardOf(studyId, given.Columns, rows)
                );
            }
        );
        imports.MapPost(
            "/{key}/survey",
            async (
                StudyId studyId,
                string key,
                SurveyGiven given,
                SignedIn me,
                JobStore jobs,
                MediaFolder media,
                JobRunner runner,
                FileReader reader,
                CancellationToken cancel
            ) =>
            {
                var job = Find(jobs, studyId, me, key);
                var name = Validate.Text(given.Name, "name", "A survey needs a name, such as “Quay survey, May”.", Limits.Name);
                Checked(given, await Read(reader, media, job, given.HeaderRows, cancel));
                if (given.Columns.All(c => c.Role is ColumnRole.Ignore or ColumnRole.Who))
                    throw Refusal.Because(
                        "Every column is ignored. Say of at least one that it is an attribute, a rating or an open answer.",
                        "columns"
                    );
                if (given.Columns.Count(c => c.Role == ColumnRole.Who) > 1)
                    throw Refusal.Because("Two columns say who answered. Choose one of them; the other can be an attribute.", "columns");
                if (
                    jobs.Move(
                        job,
                        JobState.Waiting,
                        given: JsonSerializer.Serialize(given with { Name = name }),
                        kind: JobKind.Survey,
                        from: JobState.Table
                    )
                )
                    runner.Wake();
            }
        );
    }

    private static Job Find(JobStore jobs, StudyId studyId, SignedIn me, string key) =>
        jobs.Get(studyId, me.Id, key) is { State: JobState.Table } job
            ? job
            : throw new Refusal(
                RefusalKind.NotFound,
                "This table is not waiting any more. It was imported or cancelled; add the file again if you need it."
            );

    private static Task<Table> Read(FileReader reader, MediaFolder media, Job job, int? headerRows, CancellationToken cancel) =>
        SurveyFile.Read(reader, media, job, headerRows, cancel);

    private static Table Checked(SurveyGiven given, Table table) =>
        table.Columns.SequenceEqual(given.Columns.Select(c => c.Name))
            ? table
            : throw new Refusal(
                RefusalKind.Conflict,
                "These are not the columns of this table. Reload the page and choose again.",
                "columns"
            );
}

internal sealed record PastedTableAdded(string Key);
