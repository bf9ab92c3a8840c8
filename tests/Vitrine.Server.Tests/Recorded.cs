using System.Diagnostics;
using System.Globalization;
using System.Text.Json.Nodes;

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

    public Task DisposeAsync() => Task.CompletedTask;

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
        while (true)
        {
            var facts = await server.Get($"sources/{id}/recording");
            if ((string)facts["state"]! is "ready" or "unready")
                return (id!.Value, facts);
            await Task.Delay(20);
        }
    }
}
