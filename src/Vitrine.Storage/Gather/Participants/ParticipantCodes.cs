using System.Globalization;
using Dapper;
using Microsoft.Data.Sqlite;

namespace Vitrine.Storage.Gather.Participants;

/// <summary>Codes for people who come in without one: P01 and on; of a survey R001 and on.</summary>
internal static class ParticipantCodes
{
    /// <summary>The next code of the form P01 that nobody in the study has.</summary>
    public static string NextIn(SqliteConnection connection, StudyId studyId)
    {
        var taken = connection
            .Query<string>("SELECT code FROM participant WHERE study_id = @studyId", new { studyId })
            .ToHashSet(StringComparer.OrdinalIgnoreCase);
        return Enumerable
            .Range(taken.Count + 1, int.MaxValue - taken.Count - 1)
            .Select(n => n.ToString("'P'00", CultureInfo.InvariantCulture))
            .First(c => !taken.Contains(c));
    }

    /// <summary>The next code that nobody of <paramref name="taken"/> has; it is added to them.</summary>
    public static string Next(HashSet<string> taken)
    {
        var code = Enumerable
            .Range(taken.Count + 1, int.MaxValue - taken.Count - 1)
            .Select(n => n.ToString("'R'000", CultureInfo.InvariantCulture))
            .First(c => !taken.Contains(c));
        taken.Add(code);
        return code;
    }
}
