using Dapper;
using Microsoft.Data.Sqlite;

namespace Vitrine.Storage.Trail;

/// <summary>Puts into words what the database refused: a link to something gone, or two things of one name.</summary>
internal static class BrokenConstraint
{
    private const int ForeignKey = 787;
    private const int Unique = 2067;
    private const int Trigger = 1811;

    /// <summary>The refusal for a failed statement or commit; the transaction is still open.</summary>
    public static Refusal AsRefusal(SqliteConnection connection, AccountId viewer, SqliteException failure)
    {
        if (failure.SqliteExtendedErrorCode == Unique)
        {
            return new Refusal(
                RefusalKind.Conflict,
                "Something with this name or in this place is there already. Reload the page to see it."
            );
        }
        if (failure.SqliteExtendedErrorCode == Trigger && failure.Message.Contains("bundle", StringComparison.Ordinal))
            return Refusal.Because("A bundle is a pick of tags, and no tag itself. Choose one of its tags.", "tagIds");
        if (failure.SqliteExtendedErrorCode != ForeignKey)
            throw failure;
        var broken = connection.QueryFirstOrDefault<(string Table, long Id)>(
            "SELECT \"table\", coalesce(rowid, 0) FROM pragma_foreign_key_check()"
        );
        if (broken.Table is null)
            return Refusal.Missing("item");
        return new Refusal(
            RefusalKind.Conflict,
            $"Something else rests on this. {TrailStore.LastChange(connection, viewer, broken.Table, broken.Id)} Undo or remove that first."
        );
    }
}
