using System.Collections.Concurrent;
using System.Security.Cryptography;
using Dapper;
using Microsoft.Data.Sqlite;
using Vitrine.Storage.Trail;

namespace Vitrine.Storage.Media;

/// <summary>A file that is kept, and what it is called.</summary>
public sealed record NewMedia(string Hash, string Name, string Type, long Bytes)
{
    /// <summary>Whether it is sound, picture or film, by what is in it.</summary>
    public bool IsMedia => Type.Split('/')[0] is "audio" or "video" or "image";
}

/// <summary>
/// Files that are kept as they are, named by their SHA-256 (FIPS 180-4) under media/ in the data folder, and files that are still coming in
/// under arriving/, named by their job.
/// A row of the database never points to a file that is not there: the file stands before its row is written, and is swept away only when
/// no row and no trail names it.
/// </summary>
public sealed class MediaFolder(Workspace workspace)
{
    private const int Buffer = 1 << 20;

    /// <summary>Where a kept file stands.</summary>
    public string PathOf(string hash) => Path.Combine(workspace.Folder, "media", hash[..2], hash);

    /// <summary>Where something stands that was made of a kept file, and can be made of it again.</summary>
    public string MadeOf(string hash, string name) => Path.Combine(workspace.Folder, "made", hash, name);

    /// <summary>
    /// Where a file stands while it is read and that is not kept; swept away at the next start when the server is killed meanwhile.
    /// </summary>
    public string Passing()
    {
        var path = Arriving(Guid.NewGuid().ToString("N"));
        Directory.CreateDirectory(Path.GetDirectoryName(path)!);
        return path;
    }

    /// <summary>How much of a file has come in.</summary>
    public long Received(string job) => new FileInfo(Arriving(job)) is { Exists: true } file ? file.Length : 0;

    /// <summary>
    /// Adds what comes next of a file, if it is still wanted when nobody else adds to it; what arrived before the line broke is kept.
    /// </summary>
    /// <returns>How much has come in now.</returns>
    /// <exception cref="Refusal">It is more than the file was to have; nothing of it is kept.</exception>
    public async Task<long> Append(string job, long from, long most, Stream bytes, Func<bool> wanted, CancellationToken cancel)
    {
        Directory.CreateDirectory(Path.GetDirectoryName(Arriving(job))!);
        // Several send the same file at once: one after the other, and who comes later learns how much is there.
        var turn = appending.GetOrAdd(job, _ => new SemaphoreSlim(1));
        await turn.WaitAsync(cancel);
        try
        {
            // Whoever is late must not hold what is worked on already.
            if (Received(job) is var received && (received != from || !wanted()))
                return received;
            await using var file = new FileStream(Arriving(job), FileMode.OpenOrCreate, FileAccess.Write, FileShare.None);
            file.Position = from;
            var buffer = new byte[Buffer];
            int read;
            while ((read = await bytes.ReadAsync(buffer, cancel)) > 0)
            {
                if (file.Length + read > most)
                {
                    file.SetLength(from);
                    throw Refusal.Because("This piece does not fit into the file as it was announced. Choose the file again.", "from");
                }
                await file.WriteAsync(buffer.AsMemory(0, read), CancellationToken.None);
            }
            file.Flush(flushToDisk: true);
            if (file.Length == most)
                appending.TryRemove(job, out _);
            return file.Length;
        }
        finally
        {
            turn.Release();
        }
    }

    private readonly ConcurrentDictionary<string, SemaphoreSlim> appending = [];

    /// <summary>The SHA-256 of a file that has come in.</summary>
    public async Task<string> HashOf(string job, CancellationToken cancel)
    {
        await using var file = File.OpenRead(Arriving(job));
        return Convert.ToHexStringLower(await SHA256.HashDataAsync(file, cancel));
    }

    /// <summary>Where a file stands that has come in, or that is kept already.</summary>
    public string PathOf(string job, string hash) => File.Exists(Arriving(job)) ? Arriving(job) : PathOf(hash);

    /// <summary>Keeps a file that has come in, under its hash. Done twice, it is done once.</summary>
    public void Keep(string job, string hash)
    {
        if (!File.Exists(Arriving(job)))
            return;
        Directory.CreateDirectory(Path.GetDirectoryName(PathOf(hash))!);
        File.Move(Arriving(job), PathOf(hash), overwrite: true);
    }

    /// <summary>Takes away what has come in of a file.</summary>
    public void Drop(string job)
    {
        if (File.Exists(Arriving(job)))
            File.Delete(Arriving(job));
    }

    /// <summary>Takes away files that nothing names: what a server that was killed left behind.</summary>
    /// <returns>How many there were.</returns>
    /// <param name="alsoArriving">Whether files that were coming in are looked at as well: only while none can be.</param>
    public int Sweep(bool alsoArriving = true)
    {
        using var connection = workspace.Open();
        var named = Named(connection);
        var coming = connection
            .Query<string>("SELECT key FROM job WHERE state IN ('sending', 'waiting', 'working', 'same', 'table')")
            .ToHashSet();
        var made = Path.Combine(workspace.Folder, "made");
        if (Directory.Exists(made))
            foreach (var folder in Directory.EnumerateDirectories(made).Where(f => !named.Contains(Path.GetFileName(f))).ToList())
                Directory.Delete(folder, recursive: true);
        return Sweep("media", named) + (alsoArriving ? Sweep("arriving", coming) : 0);
    }

    /// <summary>The hashes of all files that a row, an undo or a job may need.</summary>
    internal static HashSet<string> Named(SqliteConnection connection) =>
        connection
            .Query<string>(
                """
                SELECT hash FROM media
                UNION SELECT json_extract(before, '$.hash') FROM change WHERE table_name = 'media' AND before IS NOT NULL
                UNION SELECT hash FROM job WHERE hash IS NOT NULL AND state IN ('waiting', 'working', 'same', 'table')
                """
            )
            .ToHashSet();

    private int Sweep(string folder, HashSet<string> named)
    {
        var path = Path.Combine(workspace.Folder, folder);
        if (!Directory.Exists(path))
            return 0;
        var lost = Directory
            .EnumerateFiles(path, "*", SearchOption.AllDirectories)
            .Where(f => !named.Contains(Path.GetFileName(f)))
            .ToList();
        foreach (var file in lost)
            File.Delete(file);
        return lost.Count;
    }

    private string Arriving(string job) => Path.Combine(workspace.Folder, "arriving", job);
}
