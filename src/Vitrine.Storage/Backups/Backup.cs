using System.Globalization;
using System.IO.Compression;
using System.Security.Cryptography;
using System.Text.Json;
using Dapper;
using Vitrine.Storage.Jobs;
using Vitrine.Storage.Sql;
using Vitrine.Storage.Trail;

namespace Vitrine.Storage.Backups;

/// <summary>What a backup holds.</summary>
/// <param name="MadeAt">When, UTC, ISO 8601.</param>
/// <param name="Database">The SHA-256 of its database.</param>
/// <param name="Files">How many kept files it holds.</param>
/// <param name="Studies">How many studies.</param>
/// <param name="Sources">How many sources.</param>
public sealed record BackupAbout(string MadeAt, string Database, int Files, int Studies, int Sources);

/// <summary>
/// One file that holds a whole workspace: a zip archive with the database, the kept files, and what it is (about.json). It is made while a
/// server runs and people write: the database in it is of one moment,
/// and holds nothing that was erased before. What is only passing (files still coming in, sign-in cookies, logs) is left out.
/// </summary>
public static class Backup
{
    private const string About = "about.json";
    private const string Part = ".part";
    private const int Tries = 3;

    private static readonly JsonSerializerOptions Json = new(JsonSerializerDefaults.Web) { WriteIndented = true };

    /// <summary>Makes a backup. The file is there only when it is whole.</summary>
    /// <exception cref="Refusal">The file is there already, there is no workspace, or a kept file is missing or broken.</exception>
    public static BackupAbout Make(string folder, string file, DateTimeOffset now)
    {
        if (File.Exists(file))
            throw Refusal.Because($"{file} is there already. Choose another name; nothing was written over.", "file");
        Directory.CreateDirectory(Path.GetDirectoryName(Path.GetFullPath(file))!);
        var (database, archive) = (file + ".database" + Part, file + Part);
        try
        {
            for (var tried = 1; ; tried++)
            {
                File.Delete(database);
                using (var connection = DataFolder.Open(folder))
                    connection.Execute("VACUUM INTO @database", new { database });
                var about = Write(folder, database, archive, now, out var missing);
                if (missing is null)
                {
                    File.Move(archive, file);
                    return about;
                }
                // A file that went away with its rows while this was made was erased on purpose: begin again without it.
                using var live = DataFolder.Open(folder);
                if (tried == Tries || Named(live).Contains(missing))
                    throw Refusal.Because(
                        $"The kept file {missing} is missing or broken. Run ./vitrine check to see what is, and restore it from "
                            + $"an earlier backup.",
                        "media"
                    );
            }
        }
        finally
        {
            File.Delete(database);
            File.Delete(archive);
        }
    }

    /// <summary>Puts a backup in the place of a workspace. What was there before is kept beside it.</summary>
    /// <returns>What it holds, and where the workspace from before is now, if there was one.</returns>
    /// <exception cref="Refusal">The file is no whole backup, or a server runs on the folder.</exception>
    public static (BackupAbout About, string? Before) Restore(string file, string folder, DateTimeOffset now)
    {
        folder = Path.TrimEndingDirectorySeparator(Path.GetFullPath(folder));
        var coming = folder + ".restoring";
        if (Directory.Exists(coming))
            Directory.Delete(coming, recursive: true);
        var about = Extract(file, coming);
        var problems = WorkspaceCheck.Of(coming).Problems;
        if (problems.Count > 0)
            throw Refusal.Because($"This backup is not whole: {problems[0]} Nothing was changed.", "file");
        // Files that were coming in are not in it.
        using (var connection = DataFolder.Open(coming))
            JobStore.CancelAll(connection, "It had not come in when the backup was made. Add it again.");
        string? before = null;
        if (Directory.Exists(folder))
        {
            using var hold =
                DataFolder.Hold(folder) ?? throw Refusal.Because("A server runs on this workspace. End it first, then restore.", "data");
            before = $"{folder}.before-{now.UtcDateTime.ToString("yyyyMMdd-HHmmss", CultureInfo.InvariantCulture)}";
            Directory.Move(folder, before);
        }
        Directory.Move(coming, folder);
        return (about, before);
    }

    private static BackupAbout Write(string folder, string database, string archive, DateTimeOffset now, out string? missing)
    {
        missing = null;
        File.Delete(archive);
        using var stream = new FileStream(archive, FileMode.Create, FileAccess.Write);
        using var zip = new ZipArchive(stream, ZipArchiveMode.Create, leaveOpen: true);
        var (files, studies, sources) = Counts(database);
        foreach (var (hash, needed) in files)
        {
            var path = DataFolder.MediaPath(folder, hash);
            if (!File.Exists(path) && !needed)
                continue;
            // Sound, film and pictures do not get smaller.
            if (!File.Exists(path) || Copied(path, zip.CreateEntry($"media/{hash[..2]}/{hash}", CompressionLevel.NoCompression)) != hash)
            {
                missing = hash;
                return new BackupAbout("", "", 0, 0, 0);
            }
        }
        var kept = files.Count(f => File.Exists(DataFolder.MediaPath(folder, f.Hash)));
        var about = new BackupAbout(
            InstantColumn.Stored(now),
            Copied(database, zip.CreateEntry(Workspace.DatabaseName, CompressionLevel.Fastest)),
            kept,
            studies,
            sources
        );
        using (var written = zip.CreateEntry(About).Open())
            JsonSerializer.Serialize(written, about, Json);
        zip.Dispose();
        stream.Flush(flushToDisk: true);
        return about;
    }

    private static (IReadOnlyList<(string Hash, bool Needed)> Files, int Studies, int Sources) Counts(string database)
    {
        using var copy = new Microsoft.Data.Sqlite.SqliteConnection($"Data Source={database};Pooling=False;Mode=ReadOnly");
        var rows = copy.Query<string>("SELECT hash FROM media").ToHashSet();
        return (
            [.. Named(copy).Select(h => (h, rows.Contains(h)))],
            copy.ExecuteScalar<int>("SELECT count(*) FROM study"),
            copy.ExecuteScalar<int>("SELECT count(*) FROM source")
        );
    }

    /// <summary>Every kept file that a row or an undo may need.</summary>
    private static HashSet<string> Named(Microsoft.Data.Sqlite.SqliteConnection connection) =>
        [
            .. connection.Query<string>(
                """
                SELECT hash FROM media UNION SELECT json_extract(before, '$.hash') FROM change WHERE table_name = 'media'
                AND before IS NOT NULL
                """
            ),
        ];

    private static BackupAbout Extract(string file, string coming)
    {
        try
        {
            using var zip = ZipFile.OpenRead(file);
            using var read = (zip.GetEntry(About) ?? throw new InvalidDataException()).Open();
            var about = JsonSerializer.Deserialize<BackupAbout>(read, Json) ?? throw new InvalidDataException();
            Directory.CreateDirectory(coming);
            // Refuses an entry that would be written outside the folder.
            zip.ExtractToDirectory(coming);
            File.Delete(Path.Combine(coming, About));
            using var database = File.OpenRead(Path.Combine(coming, Workspace.DatabaseName));
            return Convert.ToHexStringLower(SHA256.HashData(database)) == about.Database ? about : throw new InvalidDataException();
        }
        catch (FileNotFoundException)
        {
            throw Refusal.Because($"There is no file {file}.", "file");
        }
        catch (Exception broken) when (broken is InvalidDataException or JsonException or IOException)
        {
            throw Refusal.Because($"{file} is no whole backup of Vitrine. Nothing was changed.", "file");
        }
    }

    /// <summary>Copies a file into an entry.</summary>
    /// <returns>The SHA-256 of what was copied.</returns>
    private static string Copied(string path, ZipArchiveEntry entry)
    {
        using var from = File.OpenRead(path);
        using var to = entry.Open();
        using var hash = IncrementalHash.CreateHash(HashAlgorithmName.SHA256);
        var buffer = new byte[1 << 20];
        int read;
        while ((read = from.Read(buffer)) > 0)
        {
            hash.AppendData(buffer, 0, read);
            to.Write(buffer, 0, read);
        }
        return Convert.ToHexStringLower(hash.GetHashAndReset());
    }
}
