using System.Diagnostics;
using System.Net;
using System.Text.RegularExpressions;

namespace Vitrine.Server.Tests;

/// <summary>What the program says to someone who asks it wrongly, and while the demo is loaded.</summary>
public sealed class CommandLineTests : IDisposable
{
    private readonly string folder = Directory.CreateTempSubdirectory("vitrine-command-test-").FullName;

    public void Dispose() => Directory.Delete(folder, recursive: true);

    [Theory]
    [InlineData("“x” is no port", "serve", "--port", "x")]
    [InlineData("--data needs a value", "serve", "--data")]
    [InlineData("“--colour” is nothing that Vitrine knows", "demo", "--colour", "red")]
    [InlineData("There is no folder", "demo", "--data", "FOLDER/d", "--demo-files", "FOLDER/none")]
    [InlineData("is a file. --data names the folder", "serve", "--data", "FOLDER/file")]
    public async Task What_is_wrong_with_a_call_is_known_before_anything_begins(string sentence, params string[] args)
    {
        await File.WriteAllTextAsync(Path.Combine(folder, "file"), "no workspace");
        Assert.Contains(sentence, CommandLine.Problem([.. args.Select(InFolder)]));
    }

    [Theory]
    [InlineData("“frobnicate” is nothing that Vitrine does", "frobnicate")]
    [InlineData("“here” is not the address of a proxy", "serve", "--data", "FOLDER/d", "--proxy", "here")]
    [InlineData("There is no workspace in", "check", "--data", "FOLDER/none")]
    [InlineData("There is no workspace in", "backup", "FOLDER/b", "--data", "FOLDER/none")]
    [InlineData("There is no file", "restore", "FOLDER/none", "--data", "FOLDER/d")]
    [InlineData("is no whole backup of Vitrine", "restore", "FOLDER/file", "--data", "FOLDER/d")]
    [InlineData("Say which file", "restore", "", "--data", "FOLDER/d")]
    public async Task A_wrong_call_is_answered_by_a_sentence_and_ends_with_2(string sentence, params string[] args)
    {
        await File.WriteAllTextAsync(Path.Combine(folder, "file"), "no workspace");
        using var process = RunningServer.Program([.. args.Select(InFolder)]);
        var said = await process.StandardOutput.ReadToEndAsync() + await process.StandardError.ReadToEndAsync();
        await process.WaitForExitAsync();
        Assert.Equal(2, process.ExitCode);
        Assert.Contains(sentence, said);
        Assert.DoesNotContain("   at ", said);
    }

    [Fact]
    public async Task A_demo_whose_files_do_not_fit_says_so_and_ends()
    {
        var files = Directory.CreateDirectory(Path.Combine(folder, "files")).FullName;
        await File.WriteAllTextAsync(Path.Combine(files, "workspace.json"), "{ no");
        using var process = RunningServer.Program("demo", "--data", Path.Combine(folder, "d"), "--demo-files", files, "--port", "0");
        var said = await process.StandardError.ReadToEndAsync();
        await process.WaitForExitAsync();
        Assert.Equal(1, process.ExitCode);
        Assert.Contains("The demo could not be loaded", said);
        Assert.DoesNotContain("   at ", said);
    }

    [Fact]
    public async Task Packages_wait_for_another_program_that_installs()
    {
        // A package manager whose lock is held twice, and a clock that does not wait.
        var programs = Directory.CreateDirectory(Path.Combine(folder, "programs")).FullName;
        await Program("sleep", "");
        await Program("sudo", "shift; exec \"$@\"");
        await Program(
            "apt-get",
            $"""
            echo "$@" >>{folder}/asked
            [ $(wc -l <{folder}/asked) -gt 2 ] && exit 0
            echo "E: Could not get lock /var/lib/dpkg/lock-frontend. It is held by process 7 (apt)" >&2
            exit 100
            """
        );
        var root = Path.GetFullPath(Path.Combine(AppContext.BaseDirectory, "../../../../.."));
        var start = new ProcessStartInfo(Path.Combine(root, "vitrine"), ["debian", "quay-bell"]) { RedirectStandardError = true };
        start.Environment["PATH"] = $"{programs}:{Environment.GetEnvironmentVariable("PATH")}";
        using var process = Process.Start(start)!;
        var said = await process.StandardError.ReadToEndAsync();
        await process.WaitForExitAsync();
        Assert.Equal(0, process.ExitCode);
        Assert.Single(Regex.Matches(said, "Another program is installing packages. Waiting for it"));
        Assert.Contains("install -y -qq --no-install-recommends quay-bell", await File.ReadAllTextAsync(Path.Combine(folder, "asked")));

        async Task Program(string name, string body)
        {
            var path = Path.Combine(programs, name);
            await File.WriteAllTextAsync(path, $"#!/usr/bin/env bash\n{body}\n");
            await Process.Start("chmod", ["u+x", path]).WaitForExitAsync();
        }
    }

    [Fact]
    public async Task Nobody_comes_in_while_the_demo_is_loaded_and_it_survives_who_tries()
    {
        // One small study of it is enough to be met while it loads.
        var whole = Path.GetFullPath(Path.Combine(AppContext.BaseDirectory, "../../../../../demo"));
        var demo = Directory.CreateDirectory(Path.Combine(folder, "demo")).FullName;
        foreach (var file in Directory.GetFiles(Path.Combine(whole, "freight"), "*", SearchOption.AllDirectories))
        {
            var copy = Path.Combine(demo, Path.GetRelativePath(whole, file));
            Directory.CreateDirectory(Path.GetDirectoryName(copy)!);
            File.Copy(file, copy);
        }
        var workspace = await File.ReadAllTextAsync(Path.Combine(whole, "workspace.json"));
        await File.WriteAllTextAsync(
            Path.Combine(demo, "workspace.json"),
            Regex.Replace(workspace, @"""studies"": \[[^\]]*\]", @"""studies"": [""freight""]")
        );
        using var server = new RunningServer("demo", "--demo-files", demo);
        var statuses = new HashSet<HttpStatusCode>();
        server.Begin();
        await Wait.For("the demo to be loaded", Ready, ready => ready);
        // The last may have come in the moment in which it became ready.
        Assert.Contains(HttpStatusCode.ServiceUnavailable, statuses);
        Assert.Contains("\"loading\":false", await server.Http.GetStringAsync("/api/me"));
        Assert.False(server.HasExited);

        async Task<bool> Ready()
        {
            try
            {
                using var health = await server.Http.GetAsync("/healthz");
                if (health.IsSuccessStatusCode)
                    return true;
                Assert.Equal(("loading", HttpStatusCode.ServiceUnavailable), (await health.Content.ReadAsStringAsync(), health.StatusCode));
                // It may have become ready since.
                if ((await server.Http.GetStringAsync("/api/me")).Contains("\"loading\":false"))
                    return false;
                using var setUp = await server.Http.PostAsync("/api/set-up", new StringContent("{}"));
                statuses.Add(setUp.StatusCode);
            }
            catch (HttpRequestException)
            {
                // It does not listen yet.
            }
            return false;
        }
    }

    private string InFolder(string argument) => argument.Replace("FOLDER", folder);
}
