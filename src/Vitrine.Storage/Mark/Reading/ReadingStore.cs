using Dapper;
using Microsoft.Data.Sqlite;
using Vitrine.Storage.Trail;

namespace Vitrine.Storage.Mark.Reading;

/// <summary>How far each person has read each source; never goes back. Who is in scope of a study's counts rests on it.</summary>
public sealed class ReadingStore(Workspace workspace)
{
    public void Reach(AccountId accountId, SourceId sourceId, int furthest)
    {
        var (study, first) = workspace.WriteUntrailed(connection =>
        {
            var begun = connection.ExecuteScalar<bool>("SELECT count(*) FROM reading WHERE source_id = @sourceId", new { sourceId });
            connection.Execute(
                """
                INSERT INTO reading (account_id, source_id, furthest, read_at) VALUES (@accountId, @sourceId, @furthest, @now)
                ON CONFLICT (account_id, source_id) DO UPDATE SET furthest = max(furthest, excluded.furthest), read_at = excluded.read_at
                """,
                new
                {
                    accountId,
                    sourceId,
                    furthest,
                    now = workspace.Now,
                }
            );
            return (connection.ExecuteScalar<long>("SELECT study_id FROM source WHERE id = @sourceId", new { sourceId }), !begun);
        });
        if (first)
            workspace.Touch(study, StepNews.Of("reading"));
    }
}
