using System.Diagnostics;
using System.Net.Http.Json;
using System.Security.Cryptography;
using System.Text;
using System.Text.Json.Nodes;
using Dapper;
using Microsoft.Data.Sqlite;
using Vitrine.Storage.Backups;
using Vitrine.Storage.Trail;

namespace Vitrine.Server.Tests;

/// <summary>
/// A real server process, killed without warning while someone marks or files come in: what it has acknowledged is there afterwards, whole
/// and once.
/// </summary>
public sealed class KilledServerTests : IDisposable
{
    private readonly string folder = Directory.CreateTempSubdirectory("vitrine-killed-test-").FullName;
    private readonly int port = FreePort.Next();
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
        using var http = new HttpClient(new PageTokenHandler { InnerHandler = new HttpClientHandler() })
        {
            BaseAddress = new Uri($"http://127.0.0.1:{port}"),
        };
        await Start(http);
        await Post(
            http,
            "set-up",
            new
            {
                name = "Una Kerr",
                email = "una@vitrine.example",
                password = "ten letters and more",
                role = "steward",
            }
        );
        var study = (long)
            (
                await Post(
                    http,
                    "studies",
                    new
                    {
                        title = "Killed",
                        purpose = "",
                        method = "",
                        researchQuestions = Array.Empty<string>(),
                    }
                )
            )["id"]!;
        var text = string.Join(' ', Enumerable.Range(0, 2_000).Select(i => $"word{i}"));
        var source = (long)
            (
                await Post(
                    http,
                    $"studies/{study}/sources/paste",
                    new
                    {
                        title = "Long",
                        kind = "interview",
                        heldOn = (string?)null,
                        text,
                        participantIds = Array.Empty<long>(),
                    }
                )
            )["step"]!["id"]!;

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
                    var made = await Post(
                        http,
                        $"sources/{source}/observations",
                        new
                        {
                            anchor = new
                            {
                                kind = "text",
                                start,
                                end = start + 30,
                            },
                            tagIds = Array.Empty<long>(),
                            newTags = new[] { $"tag {i % 5}" },
                        }
                    );
                    acknowledged.Add((long)made["id"]!);
                    // However slow the machine, some marks are answered before the end.
                    if (i == 5)
                        killing = KillAfter(random.Next(20, 300));
                }
            }
            catch (Exception gone) when (gone is HttpRequestException or IOException)
            {
                // The server is gone; whatever it had answered before must be kept.
            }
            await killing!;
            await Start(http);
        }
        var kept = (await http.GetFromJsonAsync<JsonArray>($"/api/sources/{source}/observations"))!
            .Select(o => (long)o!["id"]!)
            .ToHashSet();
        Assert.True(acknowledged.Count > 10);
        Assert.Empty(acknowledged.Except(kept));
    }

    [Fact]
    public async Task Files_that_were_coming_in_are_there_once_and_whole_and_nothing_is_left_over()
    {
        const int files = 15;
        using var http = new HttpClient(new PageTokenHandler { InnerHandler = new HttpClientHandler() })
        {
            BaseAddress = new Uri($"http://127.0.0.1:{port}"),
        };
        await Start(http);
        await Post(
            http,
            "set-up",
            new
            {
                name = "Una Kerr",
                email = "una@vitrine.example",
                password = "ten letters and more",
                role = "steward",
            }
        );
        var study = (long)
            (
                await Post(
                    http,
                    "studies",
                    new
                    {
                        title = "Killed",
                        purpose = "",
                        method = "",
                        researchQuestions = Array.Empty<string>(),
                    }
                )
            )["id"]!;
        var random = new Random(11);
        var killing = KillAfter(random.Next(100, 700));
        var kills = 1;
        for (var i = 0; i < files; i++)
        {
            // Every third is kept as an attachment; a file that broke off is announced again and goes on, or is found whole.
            var bytes = Encoding.UTF8.GetBytes(
                string.Join(
                    "\n\n",
                    Enumerable
                        .Range(0, 120)
                        .Select(t => $"{(t % 2 == 0 ? "Una" : $"Person{i}")}: Words {t} of file {i}, said at some length on the quay.")
                )
            );
            for (var sent = false; !sent; )
            {
                try
                {
                    var import = await Post(
                        http,
                        $"studies/{study}/imports",
                        new
                        {
                            name = $"talk {i}.txt",
                            bytes = bytes.Length,
                            modified = "1",
                            kind = "interview",
                            folderId = (long?)null,
                            attachment = i % 3 == 0,
                        }
                    );
                    var from = (int)(long)import["received"]!;
                    using var answer = await http.PutAsync(
                        $"/api/studies/{study}/imports/{import["key"]}/bytes?from={from}",
                        new ByteArrayContent(bytes[from..])
                    );
                    sent = answer.IsSuccessStatusCode;
                }
                catch (Exception gone) when (gone is HttpRequestException or IOException)
                {
                    await killing;
                    await Start(http);
                    if (kills++ < 3)
                        killing = KillAfter(random.Next(20, 400));
                }
            }
        }
        await killing;
        if (process!.HasExited)
            await Start(http);
        JsonArray imports;
        do
        {
            await Task.Delay(20);
            imports = (await http.GetFromJsonAsync<JsonArray>($"/api/studies/{study}/imports"))!;
        } while (imports.Any(j => (string)j!["state"]! is "waiting" or "working"));
        // Sent again although the first answer was lost on the way, a file is found to be here already.
        Assert.DoesNotContain(imports, j => (string)j!["state"]! is "sending" or "refused");
        var undecided = imports.Where(j => (string)j!["state"]! == "same").Select(j => (string)j!["key"]!).ToHashSet();
        process.Kill();
        await process.WaitForExitAsync();
        await Start(http);
        process.Kill();
        await process.WaitForExitAsync();

        Assert.Empty(WorkspaceCheck.Of(folder).Problems);
        using var database = new SqliteConnection($"Data Source={Path.Combine(folder, "vitrine.db")};Pooling=False");
        Assert.Equal("ok", database.ExecuteScalar<string>("PRAGMA integrity_check"));
        Assert.Empty(database.Query("PRAGMA foreign_key_check"));
        Assert.Equal(
            Enumerable.Range(0, files).Where(i => i % 3 != 0).Select(i => $"talk {i}").Order(),
            database.Query<string>("SELECT title FROM source").Order()
        );
        Assert.Equal(
            Enumerable.Range(0, files).Where(i => i % 3 == 0).Select(i => $"talk {i}").Order(),
            database.Query<string>("SELECT title FROM attachment").Order()
        );
        Assert.Equal(
            [120],
            database.Query<int>("SELECT count(t.id) FROM source s LEFT JOIN turn t ON t.source_id = s.id GROUP BY s.id").Distinct()
        );
        Assert.Equal(
            0,
            database.ExecuteScalar<int>(
                """
                SELECT count(*) FROM source s LEFT JOIN source_text t ON t.source_id = s.id WHERE t.id IS NULL
                OR length(t.text) <> s.length
                """
            )
        );
        var kept = Directory.GetFiles(Path.Combine(folder, "media"), "*", SearchOption.AllDirectories);
        Assert.Equal(database.Query<string>("SELECT hash FROM media").Order(), kept.Select(Path.GetFileName).Order());
        Assert.All(kept, f => Assert.Equal(Path.GetFileName(f), Convert.ToHexStringLower(SHA256.HashData(File.ReadAllBytes(f)))));
        Assert.All(Directory.GetFiles(Path.Combine(folder, "arriving")), f => Assert.Contains(Path.GetFileName(f), undecided));
    }

    [Fact]
    public async Task A_backup_made_while_people_work_is_whole_and_one_that_is_killed_leaves_nothing_in_its_way()
    {
        using var http = new HttpClient(new PageTokenHandler { InnerHandler = new HttpClientHandler() })
        {
            BaseAddress = new Uri($"http://127.0.0.1:{port}"),
        };
        await Start(http);
        await Post(
            http,
            "set-up",
            new
            {
                name = "Una Kerr",
                email = "una@vitrine.example",
                password = "ten letters and more",
                role = "steward",
            }
        );
        var study = (long)
            (
                await Post(
                    http,
                    "studies",
                    new
                    {
                        title = "Backed up",
                        purpose = "",
                        method = "",
                        researchQuestions = Array.Empty<string>(),
                    }
                )
            )["id"]!;
        var text = string.Join(' ', Enumerable.Range(0, 400).Select(i => $"word{i}"));
        using var end = new CancellationTokenSource();
        var answered = 0;
        var working = Task.Run(async () =>
        {
            for (var i = 0; !end.IsCancellationRequested; i++)
            {
                var source = (long)
                    (
                        await Post(
                            http,
                            $"studies/{study}/sources/paste",
                            new
                            {
                                title = $"Talk {i}",
                                kind = "interview",
                                heldOn = (string?)null,
                                text = $"{text} {i}",
                                participantIds = Array.Empty<long>(),
                            }
                        )
                    )["step"]!["id"]!;
                for (var mark = 0; mark < 5; mark++)
                    await Post(
                        http,
                        $"sources/{source}/observations",
                        new
                        {
                            anchor = new
                            {
                                kind = "text",
                                start = mark * 6,
                                end = mark * 6 + 30,
                            },
                            tagIds = Array.Empty<long>(),
                            newTags = new[] { $"tag {mark}" },
                        }
                    );
                Interlocked.Increment(ref answered);
            }
        });
        var elsewhere = Directory.CreateTempSubdirectory("vitrine-backup-test-").FullName;
        try
        {
            var file = Path.Combine(elsewhere, "today.vitrine");
            var random = new Random(5);
            for (var i = 0; i < 4; i++)
            {
                using var killed = Process.Start(
                    new ProcessStartInfo("dotnet", [typeof(Program).Assembly.Location, "backup", file, "--data", folder])
                    {
                        RedirectStandardOutput = true,
                    }
                )!;
                await Task.Delay(random.Next(60, 500));
                killed.Kill();
                await killed.WaitForExitAsync();
                File.Delete(file);
            }
            var before = answered;
            using (
                var backup = Process.Start(
                    new ProcessStartInfo("dotnet", [typeof(Program).Assembly.Location, "backup", file, "--data", folder])
                    {
                        RedirectStandardOutput = true,
                    }
                )!
            )
            {
                Assert.StartsWith($"{file} holds 1 study, ", await backup.StandardOutput.ReadToEndAsync());
                await backup.WaitForExitAsync();
                Assert.Equal(0, backup.ExitCode);
            }
            await end.CancelAsync();
            await working;
            Assert.Equal([file], Directory.GetFiles(elsewhere));
            Assert.Throws<Refusal>(() => Backup.Restore(file, folder, DateTimeOffset.UtcNow));

            var restored = Path.Combine(elsewhere, "restored");
            var (about, _) = Backup.Restore(file, restored, DateTimeOffset.UtcNow);
            Assert.InRange(about.Sources, before, answered);
            Assert.Empty(WorkspaceCheck.Of(restored).Problems);

            // In the place of the workspace itself, which is kept beside it.
            process!.Kill();
            await process.WaitForExitAsync();
            var (_, was) = Backup.Restore(file, folder, DateTimeOffset.UtcNow);
            Assert.Empty(WorkspaceCheck.Of(was!).Problems);
            Directory.Delete(was!, recursive: true);
            await Start(http);
            using var signedIn = await http.PostAsJsonAsync(
                "/api/sign-in",
                new { email = "una@vitrine.example", password = "ten letters and more" }
            );
            Assert.Equal(
                about.Sources,
                (await http.GetFromJsonAsync<JsonObject>($"/api/studies/{study}/sources?page=0"))!["total"]!.GetValue<int>()
            );
        }
        finally
        {
            await end.CancelAsync();
            Directory.Delete(elsewhere, recursive: true);
        }
    }

    private async Task Start(HttpClient http)
    {
        process?.Dispose();
        process = Process.Start(
            new ProcessStartInfo("dotnet", [typeof(Program).Assembly.Location, "serve", "--data", folder, "--port", $"{port}"])
            {
                RedirectStandardOutput = true,
            }
        )!;
        for (var tries = 0; tries < 200; tries++)
        {
            try
            {
                if ((await http.GetAsync("/healthz")).IsSuccessStatusCode)
                    return;
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
}
