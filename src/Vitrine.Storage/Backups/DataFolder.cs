using Microsoft.Data.Sqlite;
using Vitrine.Storage.Trail;

namespace Vitrine.Storage.Backups;

/// <summary>A workspace's data folder as files, for what is done beside a running server or without one.</summary>
public static class DataFolder
{
    private const string InUse = "in-use";

    /// <summary>
    /// Holds the folder for one server or one restore; null when another holds it. The hold ends with the process, however it ends.
    /// </summary>
    public static IDisposable? Hold(string folder)
    {
        Directory.CreateDirectory(folder);
        try
        {
            return new FileStream(Path.Combine(folder, InUse), FileMode.OpenOrCreate, FileAccess.ReadWrite, FileShare.None);
        }
        catch (IOException)
        {
            return null;
        }
    }

    /// <summary>Opens the database as it is, without bringing its schema up to date.</summary>
    /// <exception cref="Refusal">There is no workspace in the folder.</exception>
    internal static SqliteConnection Open(string folder)
    {
        var file = Path.Combine(folder, Workspace.DatabaseName);
        if (!File.Exists(file))
            throw Refusal.Because($"There is no workspace in {Path.GetFullPath(folder)}. Name its folder with --data.", "data");
        var connection = new SqliteConnection(
            new SqliteConnectionStringBuilder
            {
                DataSource = file,
                DefaultTimeout = 60,
                Pooling = false,
                Mode = SqliteOpenMode.ReadWrite,
            }.ToString()
        );
        connection.Open();
        return connection;
    }

    internal static string MediaPath(string folder, string hash) => Path.Combine(folder, "media", hash[..2], hash);
}
