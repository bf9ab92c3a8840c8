using System.Diagnostics;
using System.Net.Http.Json;
using System.Text.Json.Nodes;
using Microsoft.AspNetCore.SignalR.Client;

namespace Vitrine.Bench;

/// <summary>One person with a browser.</summary>
internal sealed class Screen(HttpClient http, System.Net.CookieContainer cookies)
{
    public const string Password = "ten letters and more";
    private static readonly int Port = Vitrine.Tests.FreePort.Next();
    private static readonly Uri Base = new($"http://127.0.0.1:{Port}");
    private HubConnection? line;

    public string Shown { get; private set; } = "";

    public static async Task<Screen> Open(string name, bool setUp)
    {
        var cookies = new System.Net.CookieContainer();
        var http = new HttpClient(new HttpClientHandler { CookieContainer = cookies }) { BaseAddress = Base };
        for (var tries = 0; tries < 200; tries++)
        {
            try
            {
                if ((await http.GetAsync("/healthz")).IsSuccessStatusCode)
                    break;
            }
            catch (HttpRequestException)
            {
                await Task.Delay(50);
            }
        }
        var screen = new Screen(http, cookies);
        await screen.TakeToken();
        if (setUp)
            await screen.Write(
                "set-up",
                new
                {
                    name,
                    email = $"{name}@vitrine.example",
                    password = Password,
                    role = "steward",
                }
            );
        else
            await screen.Write("sign-in", new { email = $"{name}@vitrine.example", password = Password });
        await screen.TakeToken();
        return screen;
    }

    public async Task<JsonNode> Write(string path, object body) => await Answered(await http.PostAsJsonAsync("/api/" + path, body));

    public async Task<JsonNode> Put(string path, object body) => await Answered(await http.PutAsJsonAsync("/api/" + path, body));

    private static async Task<JsonNode> Answered(HttpResponseMessage answer)
    {
        using var _ = answer;
        if (!answer.IsSuccessStatusCode)
            throw new InvalidOperationException(await answer.Content.ReadAsStringAsync());
        return (await answer.Content.ReadFromJsonAsync<JsonNode>())!;
    }

    /// <summary>Starts a server of the built application on an empty folder.</summary>
    public static Process Serve(string folder)
    {
        var server = Path.GetFullPath(
            Path.Combine(AppContext.BaseDirectory, "../../../../../src/Vitrine.Server/bin/Release/net10.0/Vitrine.Server.dll")
        );
        return Process.Start(
            new ProcessStartInfo("dotnet", [server, "serve", "--data", folder, "--port", $"{Port}"]) { RedirectStandardOutput = true }
        )!;
    }

    public async Task<JsonNode> Read(string path) => (await http.GetFromJsonAsync<JsonNode>("/api/" + path))!;

    /// <summary>Sends a file as the page does.</summary>
    public async Task Bring(long study, string name, byte[] bytes)
    {
        var import = await Write(
            $"studies/{study}/imports",
            new
            {
                name,
                bytes = bytes.Length,
                modified = "",
                kind = "interview",
                folderId = (long?)null,
                attachment = false,
            }
        );
        using var answer = await http.PutAsync($"/api/studies/{study}/imports/{import["key"]}/bytes?from=0", new ByteArrayContent(bytes));
        answer.EnsureSuccessStatusCode();
    }

    public async Task Follow(long study, long source)
    {
        line = new HubConnectionBuilder().WithUrl(new Uri(Base, "/api/live"), o => o.Cookies = cookies).Build();
        var asked = 0;
        line.On<object, long?>(
            "changed",
            async (_, _) =>
            {
                // As the page does: many changes in a moment are fetched once.
                var mine = Interlocked.Increment(ref asked);
                await Task.Delay(120);
                if (mine == Volatile.Read(ref asked) || mine % 8 == 0)
                    Shown = await http.GetStringAsync($"/api/sources/{source}/observations");
            }
        );
        await line.StartAsync();
        await line.InvokeAsync("Open", (long?)study);
    }

    /// <summary>Marks every so many milliseconds until told to stop.</summary>
    /// <returns>How long each save took, in milliseconds.</returns>
    public async Task<List<double>> Mark(long source, int length, int every, Func<bool> stop, Random random)
    {
        var saves = new List<double>();
        await Task.Delay(random.Next(every));
        while (!stop())
        {
            var watch = Stopwatch.StartNew();
            var start = random.Next(length - 60);
            await Write(
                $"sources/{source}/observations",
                new
                {
                    anchor = new
                    {
                        kind = "text",
                        start,
                        end = start + 20 + random.Next(40),
                    },
                    tagIds = Array.Empty<long>(),
                    newTags = new[] { $"tag {random.Next(40)}" },
                }
            );
            saves.Add(watch.Elapsed.TotalMilliseconds);
            var rest = every - (int)watch.ElapsedMilliseconds;
            if (rest > 0)
                await Task.Delay(rest);
        }
        return saves;
    }

    public async Task<int> Count(long source) => (await http.GetFromJsonAsync<JsonArray>($"/api/sources/{source}/observations"))!.Count;

    private async Task TakeToken()
    {
        http.DefaultRequestHeaders.Remove("X-Vitrine-Token");
        http.DefaultRequestHeaders.Add(
            "X-Vitrine-Token",
            (await http.GetFromJsonAsync<JsonNode>("/api/me"))!["pageToken"]!.GetValue<string>()
        );
    }
}
