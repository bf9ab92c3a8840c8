using System.Text.Json;
using Vitrine.Core.Gather.Privacy;
using Vitrine.Core.Gather.Surveys;
using Vitrine.Formats;
using Vitrine.Server.FileReading;
using Vitrine.Server.Gather.Turns;
using Vitrine.Server.Jobs;
using Vitrine.Storage.Gather.Surveys;
using Vitrine.Storage.Jobs;
using Vitrine.Storage.Media;
using Vitrine.Storage.Trail;

namespace Vitrine.Server.Gather.Surveys;

/// <summary>What a person says about a table that is a survey.</summary>
/// <param name="Name">What the survey is called.</param>
/// <param name="HeaderRows">How many rows at the top name the columns.</param>
/// <param name="Columns">What each column is.</param>
/// <param name="Again">What is done with rows that came in before and say something else now.</param>
/// <param name="HeldOn">The day of new answers whose row says none.</param>
/// <param name="WidenScales">Whether scales of tags are widened for values that lie outside them.</param>
/// <param name="AgreedBy">How new people have agreed to their words being used; null where no answer is noted.</param>
internal sealed record SurveyGiven(
    string Name,
    int HeaderRows,
    IReadOnlyList<SurveyColumn> Columns,
    SurveyAgain Again = SurveyAgain.Leave,
    DateOnly? HeldOn = null,
    bool WidenScales = false,
    AgreedBy? AgreedBy = null
);

/// <summary>Makes participants, attributes and sources of a table's rows.</summary>
internal sealed class SurveyImport(SurveyStore surveys, MediaFolder media, FileReader reader) : IJobWork
{
    public JobKind Kind => JobKind.Survey;

    public async Task<JobEnd> Run(Job job, Actor actor, IProgress<double> progress, CancellationToken cancel)
    {
        var given = JsonSerializer.Deserialize<SurveyGiven>(job.Given)!;
        var table = await SurveyFile.Read(reader, media, job, given.HeaderRows, cancel);
        var (rows, misfits) = SurveyReading.Rows(given.Columns, table.Rows);
        media.Keep(job.Key, job.Hash!);
        var file = new NewMedia(job.Hash!, job.Name, SourceFile.TypeOf(job.Name), job.Bytes);
        var (_, result) = surveys.Add(
            actor,
            job.StudyId,
            given.Name,
            given.Columns,
            rows,
            progress,
            file,
            new SurveyChoice(given.Again, given.HeldOn, given.WidenScales, given.AgreedBy)
        );
        return new JobEnd(JobState.Done, Said(result, misfits.Count, given.Again));
    }

    public JobEnd DoneBefore(Job job, Step step) => new(JobState.Done, step.Label + ".");

    private static string Said(SurveyResult result, int misfits, SurveyAgain again)
    {
        var parts = new List<string>();
        if (result.NewPeople > 0)
            parts.Add(SourceReading.Count(result.NewPeople, "new participant"));
        if (result.KnownPeople > 0)
            parts.Add($"{SourceReading.Count(result.KnownPeople, "row")} of participants who were here");
        if (result.Sources > 0)
            parts.Add($"{SourceReading.Count(result.Sources, "source")} with open answers");
        if (result.Values > 0)
            parts.Add($"{SourceReading.Count(result.Values, "value")} on scales");
        if (result.Before > 0)
            parts.Add(
                $"{SourceReading.Count(result.Before, "row")} here already"
                    + (result.Changed > 0 ? $", of which {result.Changed:N0} differ now and {Then(again)}" : "")
            );
        if (result.Grown > 0)
            parts.Add($"{SourceReading.Count(result.Grown, "row")} with answers to questions that are new");
        if (misfits > 0)
            parts.Add($"{SourceReading.Count(misfits, "value")} left out that did not fit the type of the column");
        return string.Join("; ", parts.DefaultIfEmpty("Nothing new in it")) + ".";
    }

    private static string Then(SurveyAgain again) =>
        again switch
        {
            SurveyAgain.NewAnswers => "were taken as new answers of the same people",
            SurveyAgain.Replace => "took the place of what was here",
            _ => "were left as they were",
        };
}
