using System.Diagnostics;
using System.Net.Http.Json;
using System.Text.Json.Nodes;
using Microsoft.AspNetCore.SignalR.Client;

namespace Vitrine.Bench;

/// <summary>Ten people mark one source, once a second each, for a minute, each with a screen that follows the others over the live line.</summary>
internal static class Marking
{
    private const int People = 10;
    private const int Seconds = 60;
    private const int Port = 5196;

    public static async Task Run(string folder)
    {
        var server = Path.GetFullPath(Path.Combine(AppContext.BaseDirectory, "../../../../../src/Vitrine.Server/bin/Release/net10.0/Vitrine.Server.dll"));
        using var process = Process.Start(new ProcessStartInfo("dotnet", [server, "serve", "--data", folder, "--port", $"{Port}"]) { RedirectStandardOutput = true })!;
        try
        {
            var una = await Screen.Open("una", setUp: true);
            var study = (long)(await una.Write("studies", new { title = "Together", purpose = "", method = "", researchQuestions = Array.Empty<string>() }))["id"]!;
            var text = string.Join(' ', Enumerable.Range(0, 8_000).Select(i => $"word{i}"));
            var source = (long)(await una.Write($"studies/{study}/sources/paste", new { title = "Long", kind = "interview", heldOn = (string?)null, text, participantIds = Array.Empty<long>() }))["step"]!["id"]!;
            foreach (var i in Enumerable.Range(2, People - 1)) await una.Write("accounts", new { name = $"Person {i}", email = $"p{i}@vitrine.example", password = Screen.Password, role = "steward" });
            var screens = new List<Screen> { una };
            foreach (var i in Enumerable.Range(2, People - 1)) screens.Add(await Screen.Open($"p{i}", setUp: false));
            foreach (var screen in screens) await screen.Follow(study, source);

            var saves = (await Task.WhenAll(screens.Select((s, i) => s.MarkOnceASecond(source, text.Length, Seconds, new Random(i))))).SelectMany(t => t).ToList();
            await Task.Delay(2_000);
            var shown = screens.Select(s => s.Shown).ToList();
            Console.WriteLine($"Marking: {People} people, once a second each for {Seconds} s, each screen following the others");
            Console.WriteLine($"| marks saved | median | 95th percentile | slowest | rows afterwards | screens equal |");
            Console.WriteLine("|---|---|---|---|---|---|");
            Console.WriteLine($"| {saves.Count} | {Timing.At(0.5, saves):F1} ms | {Timing.At(0.95, saves):F1} ms | {saves.Max():F0} ms | {await una.Count(source)} | {(shown.Distinct().Count() == 1 ? "yes" : "no")} |\n");
        }
        finally
        {
            process.Kill();
        }
    }

    private sealed class Screen(HttpClient http, System.Net.CookieContainer cookies)
    {
        public const string Password = "ten letters and more";
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
                    if ((await http.GetAsync("/healthz")).IsSuccessStatusCode) break;
                }
                catch (HttpRequestException)
                {
                    await Task.Delay(50);
                }
            }
            var screen = new Screen(http, cookies);
            await screen.TakeToken();
            if (setUp) await screen.Write("set-up", new { name, email = $"{name}@vitrine.example", password = Password, role = "steward" });
            else await screen.Write("sign-in", new { email = $"{name}@vitrine.example", password = Password });
            await screen.TakeToken();
            return screen;
        }

        public async Task<JsonNode> Write(string path, object body)
        {
            using var answer = await http.PostAsJsonAsync("/api/" + path, body);
            if (!answer.IsSuccessStatusCode) throw new InvalidOperationException(await answer.Content.ReadAsStringAsync());
            return (await answer.Content.ReadFromJsonAsync<JsonNode>())!;
        }

        public async Task Follow(long study, long source)
        {
            line = new HubConnectionBuilder().WithUrl(new Uri(Base, "/api/live"), o => o.Cookies = cookies).Build();
            var asked = 0;
            line.On<long?, string[]>("changed", async (_, _) =>
            {
                // As the page does: many changes in a moment are fetched once.
                var mine = Interlocked.Increment(ref asked);
                await Task.Delay(120);
                if (mine == Volatile.Read(ref asked) || mine % 8 == 0) Shown = await http.GetStringAsync($"/api/sources/{source}/observations");
            });
            await line.StartAsync();
            await line.InvokeAsync("Open", (long?)study);
        }

        public async Task<List<double>> MarkOnceASecond(long source, int length, int seconds, Random random)
        {
            var saves = new List<double>();
            await Task.Delay(random.Next(1000));
            for (var i = 0; i < seconds; i++)
            {
                var watch = Stopwatch.StartNew();
                var start = random.Next(length - 60);
                await Write($"sources/{source}/observations", new { start, end = start + 20 + random.Next(40), tagIds = Array.Empty<long>(), newTags = new[] { $"tag {random.Next(40)}" } });
                saves.Add(watch.Elapsed.TotalMilliseconds);
                var rest = 1000 - (int)watch.ElapsedMilliseconds;
                if (rest > 0) await Task.Delay(rest);
            }
            return saves;
        }

        public async Task<int> Count(long source) => (await http.GetFromJsonAsync<JsonArray>($"/api/sources/{source}/observations"))!.Count;

        private async Task TakeToken()
        {
            http.DefaultRequestHeaders.Remove("X-Vitrine-Token");
            http.DefaultRequestHeaders.Add("X-Vitrine-Token", (await http.GetFromJsonAsync<JsonNode>("/api/me"))!["pageToken"]!.GetValue<string>());
        }
    }
}
