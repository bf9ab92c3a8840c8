using System.Net.Http.Json;
using System.Security.Cryptography;
using System.Text;
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
    private readonly RunningServer server = new();

    public void Dispose() => server.Dispose();

    [Fact]
    public async Task Every_acknowledged_mark_is_there_afterwards()
    {
        await server.Start();
        await server.SetUp();
        var study = await server.Study();
        var text = string.Join(' ', Enumerable.Range(0, 2_000).Select(i => $"word{i}"));
        var source = await server.Paste(study, "Long", text);

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
                    var made = await server.Post(
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
                        killing = server.Kill(random.Next(20, 300));
                }
            }
            catch (Exception gone) when (gone is HttpRequestException or IOException)
            {
                // The server is gone; whatever it had answered before must be kept.
            }
            await killing!;
            await server.Start();
        }
        var kept = (await server.Get($"sources/{source}/observations")).AsArray().Select(o => (long)o!["id"]!).ToHashSet();
        Assert.True(acknowledged.Count > 10);
        Assert.Empty(acknowledged.Except(kept));
    }

    [Fact]
    public async Task Files_that_were_coming_in_are_there_once_and_whole_and_nothing_is_left_over()
    {
        const int files = 15;
        await server.Start();
        await server.SetUp();
        var study = await server.Study();
        var random = new Random(11);
        var killing = server.Kill(random.Next(100, 700));
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
                    var import = await server.Post(
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
                    using var answer = await server.Http.PutAsync(
                        $"/api/studies/{study}/imports/{import["key"]}/bytes?from={from}",
                        new ByteArrayContent(bytes[from..])
                    );
                    sent = answer.IsSuccessStatusCode;
                }
                catch (Exception gone) when (gone is HttpRequestException or IOException)
                {
                    await killing;
                    await server.Start();
                    if (kills++ < 3)
                        killing = server.Kill(random.Next(20, 400));
                }
            }
        }
        await killing;
        if (server.HasExited)
            await server.Start();
        var imports = await Wait.For(
            "the files to be read",
            async () => (await server.Get($"studies/{study}/imports")).AsArray(),
            all => all.All(j => (string)j!["state"]! is not ("waiting" or "working"))
        );
        // Sent again although the first answer was lost on the way, a file is found to be here already.
        Assert.DoesNotContain(imports, j => (string)j!["state"]! is "sending" or "refused");
        var undecided = imports.Where(j => (string)j!["state"]! == "same").Select(j => (string)j!["key"]!).ToHashSet();
        await server.Kill();
        await server.Start();
        await server.Kill();

        Assert.Empty(WorkspaceCheck.Of(server.Folder).Problems);
        using var database = new SqliteConnection($"Data Source={Path.Combine(server.Folder, "vitrine.db")};Pooling=False");
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
        var kept = Directory.GetFiles(Path.Combine(server.Folder, "media"), "*", SearchOption.AllDirectories);
        Assert.Equal(database.Query<string>("SELECT hash FROM media").Order(), kept.Select(Path.GetFileName).Order());
        Assert.All(kept, f => Assert.Equal(Path.GetFileName(f), Convert.ToHexStringLower(SHA256.HashData(File.ReadAllBytes(f)))));
        Assert.All(Directory.GetFiles(Path.Combine(server.Folder, "arriving")), f => Assert.Contains(Path.GetFileName(f), undecided));
    }

    [Fact]
    public async Task A_backup_made_while_people_work_is_whole_and_one_that_is_killed_leaves_nothing_in_its_way()
    {
        await server.Start();
        await server.SetUp();
        var study = await server.Study();
        var text = string.Join(' ', Enumerable.Range(0, 400).Select(i => $"word{i}"));
        using var end = new CancellationTokenSource();
        var answered = 0;
        var working = Task.Run(async () =>
        {
            for (var i = 0; !end.IsCancellationRequested; i++)
            {
                var source = await server.Paste(study, $"Talk {i}", $"{text} {i}");
                for (var mark = 0; mark < 5; mark++)
                    await server.Post(
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
                using var killed = RunningServer.Program("backup", file, "--data", server.Folder);
                await Task.Delay(random.Next(60, 500));
                killed.Kill();
                await killed.WaitForExitAsync();
                File.Delete(file);
            }
            var before = answered;
            using (var backup = RunningServer.Program("backup", file, "--data", server.Folder))
            {
                Assert.StartsWith($"{file} holds 1 study, ", await backup.StandardOutput.ReadToEndAsync());
                await backup.WaitForExitAsync();
                Assert.Equal(0, backup.ExitCode);
            }
            await end.CancelAsync();
            await working;
            Assert.Equal([file], Directory.GetFiles(elsewhere));
            Assert.Throws<Refusal>(() => Backup.Restore(file, server.Folder, DateTimeOffset.UtcNow));

            var restored = Path.Combine(elsewhere, "restored");
            var (about, _) = Backup.Restore(file, restored, DateTimeOffset.UtcNow);
            Assert.InRange(about.Sources, before, answered);
            Assert.Empty(WorkspaceCheck.Of(restored).Problems);

            // In the place of the workspace itself, which is kept beside it.
            await server.Kill();
            var (_, was) = Backup.Restore(file, server.Folder, DateTimeOffset.UtcNow);
            Assert.Empty(WorkspaceCheck.Of(was!).Problems);
            Directory.Delete(was!, recursive: true);
            await server.Start();
            using var signedIn = await server.Http.PostAsJsonAsync(
                "/api/sign-in",
                new { email = "una@vitrine.example", password = "ten letters and more" }
            );
            Assert.Equal(about.Sources, (await server.Get($"studies/{study}/sources?page=0"))["total"]!.GetValue<int>());
        }
        finally
        {
            await end.CancelAsync();
            Directory.Delete(elsewhere, recursive: true);
        }
    }
}
