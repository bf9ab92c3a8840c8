using System.Diagnostics;
using System.Globalization;
using System.IO.Compression;
using System.Runtime.InteropServices;
using System.Text;
using System.Text.Json.Nodes;
using Microsoft.Data.Sqlite;
using Vitrine.Storage.Backups;

namespace Vitrine.Server.Tests;

/// <summary>Sounds and films made by ffmpeg with known lengths and silences, and a study into which they go.</summary>
public abstract class Recorded(SharedServer shared) : IAsyncLifetime, IDisposable
{
    private protected readonly TestServer server = shared.Server;
    private protected readonly DirectoryInfo made = Directory.CreateTempSubdirectory("vitrine-media-");
    private protected long study;

    public virtual async Task InitializeAsync()
    {
        study = await server.Study();
    }

    public virtual Task DisposeAsync() => Task.CompletedTask;

    public void Dispose()
    {
        GC.SuppressFinalize(this);
        made.Delete(recursive: true);
    }

    /// <summary>A second of noise, a silence from 1 s to 2.5 s, and noise up to 4 s.</summary>
    private protected const string Speech = "aevalsrc='if(between(t,1,2.5),0,0.4*(random(0)*2-1))':s=16000:d=4";

    private protected static string Run(string program, params string[] arguments)
    {
        using var process = Process.Start(
            new ProcessStartInfo(program, arguments) { RedirectStandardOutput = true, RedirectStandardError = true }
        )!;
        var wrong = process.StandardError.ReadToEndAsync();
        var said = process.StandardOutput.ReadToEnd();
        process.WaitForExit();
        Assert.True(process.ExitCode == 0, wrong.Result);
        return said + wrong.Result;
    }

    /// <summary>What ffprobe says of how long a file lasts, in milliseconds.</summary>
    private protected static double Length(string path) =>
        1000
        * double.Parse(
            Run("ffprobe", "-v", "error", "-show_entries", "format=duration", "-of", "csv=p=0", path),
            CultureInfo.InvariantCulture
        );

    private protected async Task<byte[]> Make(string name, params string[] how)
    {
        var path = Path.Combine(made.FullName, name);
        Run("ffmpeg", [.. "-v error -y -f lavfi -i".Split(' '), Speech, .. how, path]);
        return await File.ReadAllBytesAsync(path);
    }

    private protected Task<byte[]> Film(string name, params string[] how) =>
        Make(name, [.. "-f lavfi -i testsrc=size=321x180:rate=10:duration=4 -shortest".Split(' '), .. how]);

    private protected async Task<(long Source, JsonNode Facts)> Ready(string name, byte[] bytes)
    {
        var (state, said, id) = await server.Upload(study, name, bytes);
        Assert.True(state == "done", said);
        var facts = await Wait.For(
            $"{name} to be made ready",
            () => server.Get($"sources/{id}/recording"),
            f => (string)f["state"]! is "ready" or "unready"
        );
        return (id!.Value, facts);
    }

    /// <summary>How strong a tone is in a stretch of a file's sound, by Goertzel's algorithm, 0..1.</summary>
    private protected double Strength(string path, double frequency, double from, double seconds)
    {
        const int rate = 8000;
        var raw = Path.Combine(made.FullName, "raw");
        var (start, length) = (from.ToString(CultureInfo.InvariantCulture), seconds.ToString(CultureInfo.InvariantCulture));
        Run("ffmpeg", "-v", "error", "-y", "-i", path, "-ss", start, "-t", length, "-ac", "1", "-ar", $"{rate}", "-f", "s16le", raw);
        var samples = MemoryMarshal.Cast<byte, short>(File.ReadAllBytes(raw)).ToArray();
        var (turn, before, last) = (2 * Math.Cos(2 * Math.PI * frequency / rate), 0.0, 0.0);
        foreach (var sample in samples)
            (before, last) = (last, (sample / 32768.0) + (turn * last) - before);
        return 2 * Math.Sqrt(Math.Max(0, (before * before) + (last * last) - (turn * before * last))) / samples.Length;
    }

    /// <summary>The colour of one pixel at a moment.</summary>
    private protected byte[] Pixel(string path, int x, int y)
    {
        var raw = Path.Combine(made.FullName, "pixel");
        Run(
            "ffmpeg",
            [
                .. "-v error -y -i".Split(' '),
                path,
                "-frames:v",
                "1",
                "-vf",
                $"format=rgb24,crop=1:1:{x}:{y}",
                .. "-f rawvideo -pix_fmt rgb24".Split(' '),
                raw,
            ]
        );
        return File.ReadAllBytes(raw);
    }

    /// <summary>None of the words is in any byte of the data folder, nor of a backup that is made now.</summary>
    private protected void OnDisk(params string[] words)
    {
        SqliteConnection.ClearAllPools();
        var (backup, opened) = (Path.Combine(made.FullName, "after.backup"), Path.Combine(made.FullName, "opened"));
        File.Delete(backup);
        if (Directory.Exists(opened))
            Directory.Delete(opened, recursive: true);
        Backup.Make(server.Folder, backup, DateTimeOffset.UtcNow);
        ZipFile.ExtractToDirectory(backup, opened);
        foreach (var folder in new[] { server.Folder, opened })
        {
            foreach (var file in Directory.GetFiles(folder, "*", SearchOption.AllDirectories))
            {
                using var stream = new FileStream(file, FileMode.Open, FileAccess.Read, FileShare.ReadWrite | FileShare.Delete);
                var bytes = new byte[stream.Length];
                stream.ReadExactly(bytes);
                var text = Encoding.UTF8.GetString(bytes);
                foreach (var word in words)
                    Assert.False(
                        text.Contains(word, StringComparison.OrdinalIgnoreCase),
                        $"{word} in {Path.GetRelativePath(folder, file)}"
                    );
            }
        }
    }
}
