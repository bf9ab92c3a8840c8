using Dapper;
using Microsoft.Data.Sqlite;
using Vitrine.Core.Gather.Corrections;

namespace Vitrine.Storage.Anchors;

/// <summary>How far people have read, as positions in a source's text.</summary>
internal static class Bookmarks
{
    /// <summary>Moves a source's bookmarks along when its text is corrected.</summary>
    public static void Follow(SqliteConnection connection, SourceId sourceId, Reanchor moved)
    {
        foreach (
            var (account, furthest) in connection
                .Query<(long, int)>("SELECT account_id, furthest FROM reading WHERE source_id = @sourceId", new { sourceId })
                .ToList()
        )
        {
            connection.Execute(
                "UPDATE reading SET furthest = @now WHERE source_id = @sourceId AND account_id = @account",
                new
                {
                    sourceId,
                    account,
                    now = moved.Position(furthest),
                }
            );
        }
    }
}
