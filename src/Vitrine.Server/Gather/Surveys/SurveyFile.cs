using Vitrine.Core.Gather.Surveys;
using Vitrine.Formats.Tables;
using Vitrine.Server.FileReading;
using Vitrine.Storage.Jobs;
using Vitrine.Storage.Media;

namespace Vitrine.Server.Gather.Surveys;

/// <summary>A survey's table as it came in, read the same way whenever it is looked at and when it is taken in.</summary>
internal static class SurveyFile
{
    /// <summary>Its columns and rows; days and times of day stand in columns of their own, which is told.</summary>
    public static async Task<Table> Read(FileReader reader, MediaFolder media, Job job, int? headerRows, CancellationToken cancel)
    {
        var table = await reader.Table(job.Name, media.PathOf(job.Key, job.Hash!), headerRows, cancel);
        var (names, rows, parted) = TimesApart.Of(table.Columns, table.Rows);
        return parted.Count == 0
            ? table
            : table with
            {
                Columns = names,
                Rows = rows,
                Remarks = [.. table.Remarks, .. parted.Select(name => $"“{name}” holds days and times; the times stand beside it.")],
            };
    }
}
