using Dapper;

namespace Vitrine.Storage.Mark;

/// <summary>How far each person has read each source; never goes back.</summary>
public sealed class ReadingStore(Workspace workspace)
{
    public void Reach(long accountId, long sourceId, int furthest) => workspace.WriteUntrailed(connection => connection.Execute("""
        INSERT INTO reading (account_id, source_id, furthest, read_at) VALUES (@accountId, @sourceId, @furthest, @now)
        ON CONFLICT (account_id, source_id) DO UPDATE SET furthest = max(furthest, excluded.furthest), read_at = excluded.read_at
        """, new { accountId, sourceId, furthest, now = workspace.Now }));
}
