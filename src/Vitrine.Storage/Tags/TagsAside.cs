using Dapper;
using Microsoft.Data.Sqlite;

namespace Vitrine.Storage.Tags;

/// <summary>What has a tag and is no research data: pens, and trays of splits.</summary>
internal static class TagsAside
{
    /// <summary>They go on with the tag that another was merged into.</summary>
    public static void Move(SqliteConnection connection, TagId from, TagId into) =>
        connection.Execute(
            """
            UPDATE pen SET tag_id = @into WHERE tag_id = @from AND NOT EXISTS (
              SELECT 1 FROM pen p WHERE p.account_id = pen.account_id AND p.study_id = pen.study_id AND p.tag_id = @into);
            UPDATE split_tray SET tag_id = @into WHERE tag_id = @from AND NOT EXISTS (
              SELECT 1 FROM split_tray t WHERE t.tag_split_id = split_tray.tag_split_id AND t.tag_id = @into);
            """,
            new { from, into }
        );
}
