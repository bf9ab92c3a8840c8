using Dapper;
using Microsoft.Data.Sqlite;
using Vitrine.Storage.Sql;

namespace Vitrine.Storage.Trail;

/// <summary>
/// The database file of a workspace: how it is opened, and how what was written comes from the log of writes into it, so that nobody's
/// write waits for it.
/// </summary>
internal sealed class DatabaseFile
{
    // A step of a survey touches many pages; with the default of 2 MB they would be written out and read back again and again. In KiB.
    // The log of writes is brought into the database file by another thread, so that nobody's write waits for it.
    private const string ForWriting = "PRAGMA cache_size = -131072; PRAGMA wal_autocheckpoint = 0";

    /// <summary>Changed rows after which the log is brought into the database file.</summary>
    private const long RowsInLog = 2_000;

    private readonly string connectionString;
    private long rowsInLog;
    private int resting;

    static DatabaseFile()
    {
        DefaultTypeMap.MatchNamesWithUnderscores = true;
        IdColumns.Register();
        SqlMapper.AddTypeHandler(new ScaleColumn());
        SqlMapper.AddTypeHandler(new TagOutsideColumn());
        SqlMapper.AddTypeHandler(new TagIdsColumn());
        SqlMapper.AddTypeHandler(new NamesColumn());
        SqlMapper.AddTypeHandler(new RichTextColumn());
        SqlMapper.AddTypeHandler(new ConditionsColumn());
        SqlMapper.AddTypeHandler(new DayColumn());
        SqlMapper.RemoveTypeMap(typeof(DateTimeOffset));
        SqlMapper.AddTypeHandler(new InstantColumn());
    }

    /// <summary>The file in a folder; it is made when missing, and its schema brought up to date.</summary>
    public DatabaseFile(string path)
    {
        connectionString = new SqliteConnectionStringBuilder
        {
            DataSource = path,
            ForeignKeys = true,
            DefaultTimeout = 30,
        }.ToString();
        SchemaSteps.Run(connectionString);
        using var connection = Open();
        connection.Execute("PRAGMA journal_mode = WAL");
    }

    /// <summary>For whoever wants to hear what is asked of the database.</summary>
    public Action<SqliteConnection>? OnOpen { get; set; }

    /// <summary>A connection; the caller disposes it.</summary>
    /// <param name="pooled">Whether it is lent and goes back; else it is closed with what was made in it alone.</param>
    public SqliteConnection Open(bool pooled = true)
    {
        var connection = new SqliteConnection(pooled ? connectionString : connectionString + ";Pooling=False");
        connection.Open();
        OnOpen?.Invoke(connection);
        return connection;
    }

    /// <summary>A connection for writing.</summary>
    public SqliteConnection OpenForWriting()
    {
        var connection = Open();
        connection.Execute(ForWriting);
        return connection;
    }

    /// <summary>Brings all that is written into the one database file, for a server that ends.</summary>
    public void Rest()
    {
        using (var connection = Open())
            connection.Execute("PRAGMA wal_checkpoint(TRUNCATE)");
        SqliteConnection.ClearAllPools();
    }

    /// <summary>
    /// Writes the file anew, without anything that was deleted from it, and empties the log of writes. Nobody may write meanwhile.
    /// </summary>
    public void MakeAnew()
    {
        using var connection = Open();
        connection.Execute("VACUUM");
        // Whoever reads the old pages holds them for a moment only.
        for (
            var tries = 0;
            connection.QuerySingle<(int Busy, int Log, int Done)>("PRAGMA wal_checkpoint(TRUNCATE)").Busy != 0 && tries < 100;
            tries++
        )
            Thread.Sleep(50);
    }

    /// <summary>So many rows were written: brings the log into the file aside when it has grown long.</summary>
    // A checkpoint of this kind waits for nobody and lets nobody wait; what it could not bring over is brought by the next one.
    public void Wrote(long rows)
    {
        if (Interlocked.Add(ref rowsInLog, rows) < RowsInLog || Interlocked.Exchange(ref resting, 1) == 1)
            return;
        Interlocked.Exchange(ref rowsInLog, 0);
        ThreadPool.QueueUserWorkItem(_ =>
        {
            try
            {
                using var connection = Open();
                connection.Execute("PRAGMA wal_checkpoint(PASSIVE)");
            }
            catch (SqliteException)
            {
                // The log stays as it is, and is read as before.
            }
            finally
            {
                Volatile.Write(ref resting, 0);
            }
        });
    }
}
