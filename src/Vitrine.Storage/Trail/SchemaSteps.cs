using System.Reflection;
using Dapper;
using DbUp;
using DbUp.Engine.Output;
using Microsoft.Data.Sqlite;

namespace Vitrine.Storage.Trail;

/// <summary>The steps by which the schema has grown; each is run once on a database.</summary>
internal static class SchemaSteps
{
    private static readonly IReadOnlyList<string> All =
    [
        .. Assembly.GetExecutingAssembly().GetManifestResourceNames().Where(n => n.EndsWith(".sql", StringComparison.Ordinal)),
    ];

    /// <summary>Brings a database up to date; one that is not there is made.</summary>
    /// <exception cref="InvalidOperationException">A step failed: the database is as it was before that step.</exception>
    public static void Run(string connectionString)
    {
        if (AreDone(connectionString))
            return;
        // A step that makes a table anew takes the old one away under its links; they are looked at when all steps are done.
        var upgrade = DeployChanges
            .To.SqliteDatabase(new SqliteConnectionStringBuilder(connectionString) { ForeignKeys = false }.ToString())
            .WithScriptsEmbeddedInAssembly(Assembly.GetExecutingAssembly())
            .WithTransactionPerScript()
            .LogTo(new NoOpUpgradeLog())
            .Build()
            .PerformUpgrade();
        if (!upgrade.Successful)
            throw new InvalidOperationException("The database could not be brought up to date.", upgrade.Error);
    }

    // Asking takes a thousandth of a second, a run in which nothing is to be done a tenth.
    private static bool AreDone(string connectionString)
    {
        using var connection = new SqliteConnection(connectionString);
        connection.Open();
        return connection.ExecuteScalar<bool>("SELECT count(*) FROM sqlite_schema WHERE name = 'SchemaVersions'")
            && !All.Except(connection.Query<string>("SELECT ScriptName FROM SchemaVersions")).Any();
    }
}
