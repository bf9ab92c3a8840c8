using System.Diagnostics;

namespace Vitrine.Server.Tests;

/// <summary>A server in a process of its own over a folder of its own, which is started, killed without warning and started again.</summary>
public sealed class RunningServer : WorkspaceClient, IDisposable
{
    private readonly int port = FreePort.Next();
    private readonly string mode;
    private readonly string[] options;
    private Process? process;

    public RunningServer(string mode = "serve", params string[] options)
    {
        this.mode = mode;
        this.options = options;
        Http = new HttpClient(new PageTokenHandler { InnerHandler = new HttpClientHandler() })
        {
            BaseAddress = new Uri($"http://127.0.0.1:{port}"),
        };
    }

    public override HttpClient Http { get; }

    public string Folder { get; } = Directory.CreateTempSubdirectory("vitrine-running-test-").FullName;

    public bool HasExited => process!.HasExited;

    /// <summary>The program, asked for something in a process of its own.</summary>
    public static Process Program(params string[] args) =>
        Process.Start(
            new ProcessStartInfo("dotnet", [typeof(Program).Assembly.Location, .. args])
            {
                RedirectStandardOutput = true,
                RedirectStandardError = true,
            }
        )!;

    /// <summary>Starts it, and does not wait until it listens.</summary>
    public void Begin()
    {
        process?.Dispose();
        string[] quick = mode == "serve" ? ["--password-iterations", "1"] : [];
        process = Program([mode, "--data", Folder, "--port", $"{port}", .. quick, .. options]);
    }

    public async Task Start()
    {
        Begin();
        await Wait.For("the server to start", Listens, listens => listens);
    }

    /// <summary>Ends it without warning, now or after a while.</summary>
    public async Task Kill(int afterMilliseconds = 0)
    {
        await Task.Delay(afterMilliseconds);
        process!.Kill();
        await process.WaitForExitAsync();
    }

    public void Dispose()
    {
        process?.Kill();
        process?.Dispose();
        Http.Dispose();
        Directory.Delete(Folder, recursive: true);
    }

    private async Task<bool> Listens()
    {
        Assert.False(HasExited, "The server ended before it listened.");
        try
        {
            return (await Http.GetAsync("/healthz")).IsSuccessStatusCode;
        }
        catch (HttpRequestException)
        {
            return false;
        }
    }
}
