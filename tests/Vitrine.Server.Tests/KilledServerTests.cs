using System.Diagnostics;
using System.Net;
using System.Net.Http.Json;
using System.Net.Sockets;
using System.Text.Json.Nodes;

namespace Vitrine.Server.Tests;

/// <summary>A real server process, killed without warning while someone marks: every mark it has acknowledged is there afterwards.</summary>
public sealed class KilledServerTests : IDisposable
{
    private readonly string folder = Directory.CreateTempSubdirectory("vitrine-killed-test-").FullName;
    private readonly int port = FreePort();
    private Process? process;

    public void Dispose()
    {
        process?.Kill();
        process?.Dispose();
        Directory.Delete(folder, recursive: true);
    }

    [Fact]
    public async Task Every_acknowledged_mark_is_there_afterwards()
    {
        using var http = new HttpClient(new PageTokenHandler { InnerHandler = new HttpClientHandler() }) { BaseAddress = new Uri($"http://127.0.0.1:{port}") };
        await Start(http);
        await Post(http, "set-up", new { name = "Una Kerr", email = "una@vitrine.example", password = "ten letters and more", role = "steward" });
        var study = (long)(await Post(http, "studies", new { title = "Killed", purpose = "", method = "", researchQuestions = Array.Empty<string>() }))["id"]!;
        var text = string.Join(' ', Enumerable.Range(0, 2_000).Select(i => $"word{i}"));
        var source = (long)(await Post(http, $"studies/{study}/sources/paste", new { title = "Long", kind = "interview", heldOn = (string?)null, text, participantIds = Array.Empty<long>() }))["step"]!["id"]!;

        var acknowledged = new List<long>();
        var random = new Random(7);
        for (var round = 0; round < 3; round++)
        {
            Task? killing = null;
            try
            {
                for (var i = 0; ; i++)
                {
                    var start = random.Next(text.Length - 40);
                    var made = await Post(http, $"sources/{source}/observations", new { start, end = start + 30, tagIds = Array.Empty<long>(), newTags = new[] { $"tag {i % 5}" } });
                    acknowledged.Add((long)made["id"]!);
                    // However slow the machine, some marks are answered before the end.
                    if (i == 5) killing = KillAfter(random.Next(20, 300));
                }
            }
            catch (HttpRequestException)
            {
                // The server is gone; whatever it had answered before must be kept.
            }
            await killing!;
            await Start(http);
        }
        var kept = (await http.GetFromJsonAsync<JsonArray>($"/api/sources/{source}/observations"))!.Select(o => (long)o!["id"]!).ToHashSet();
        Assert.True(acknowledged.Count > 10);
        Assert.Empty(acknowledged.Except(kept));
    }

    private async Task Start(HttpClient http)
    {
        process?.Dispose();
        process = Process.Start(new ProcessStartInfo("dotnet", [typeof(Program).Assembly.Location, "serve", "--data", folder, "--port", $"{port}"]) { RedirectStandardOutput = true })!;
        for (var tries = 0; tries < 200; tries++)
        {
            try
            {
                if ((await http.GetAsync("/healthz")).IsSuccessStatusCode) return;
            }
            catch (HttpRequestException)
            {
                await Task.Delay(50);
            }
        }
        throw new InvalidOperationException("The server did not start.");
    }

    private async Task KillAfter(int milliseconds)
    {
        await Task.Delay(milliseconds);
        process!.Kill();
        await process.WaitForExitAsync();
    }

    private static async Task<JsonNode> Post(HttpClient http, string path, object body)
    {
        using var answer = await http.PostAsJsonAsync("/api/" + path, body);
        answer.EnsureSuccessStatusCode();
        return (await answer.Content.ReadFromJsonAsync<JsonNode>())!;
    }

    private static int FreePort()
    {
        using var listener = new TcpListener(IPAddress.Loopback, 0);
        listener.Start();
        return ((IPEndPoint)listener.LocalEndpoint).Port;
    }
}
