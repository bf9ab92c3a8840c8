using Dapper;
using Microsoft.Data.Sqlite;
using Vitrine.Core.Text;
using Vitrine.Storage.Trail;

namespace Vitrine.Storage.Reading;

/// <summary>How far each person has read each source; never goes back. Who is in scope of a study's counts rests on it.</summary>
public sealed class ReadingStore(Workspace workspace)
{
    public void Reach(long accountId, long sourceId, int furthest)
    {
        var (study, first) = workspace.WriteUntrailed(connection =>
        {
            var begun = connection.ExecuteScalar<bool>("SELECT count(*) FROM reading WHERE source_id = @sourceId", new { sourceId });
            connection.Execute("""
                INSERT INTO reading (account_id, source_id, furthest, read_at) VALUES (@accountId, @sourceId, @furthest, @now)
                ON CONFLICT (account_id, source_id) DO UPDATE SET furthest = max(furthest, excluded.furthest), read_at = excluded.read_at
                """, new { accountId, sourceId, furthest, now = workspace.Now });
            return (connection.ExecuteScalar<long>("SELECT study_id FROM source WHERE id = @sourceId", new { sourceId }), !begun);
        });
        if (first) workspace.Touch(study, StepNews.Of("reading"));
    }

    /// <summary>Moves a source's bookmarks along when its text is corrected.</summary>
    internal static void Follow(SqliteConnection connection, long sourceId, Reanchor moved)
    {
        foreach (var (account, furthest) in connection.Query<(long, int)>("SELECT account_id, furthest FROM reading WHERE source_id = @sourceId", new { sourceId }).ToList())
        {
            connection.Execute("UPDATE reading SET furthest = @now WHERE source_id = @sourceId AND account_id = @account", new { sourceId, account, now = moved.Position(furthest) });
        }
    }
}
