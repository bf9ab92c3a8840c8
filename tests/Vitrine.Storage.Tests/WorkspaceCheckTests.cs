using Dapper;
using Vitrine.Storage.Backups;
using Vitrine.Storage.Media;
using Vitrine.Storage.Trail;

namespace Vitrine.Storage.Tests;

/// <summary>What a check finds wrong, and what a backup refuses.</summary>
public sealed class WorkspaceCheckTests : IDisposable
{
    private readonly TestWorkspace w = new();
    private readonly string elsewhere = Directory.CreateTempSubdirectory("vitrine-check-test-").FullName;

    public void Dispose()
    {
        w.Dispose();
        Directory.Delete(elsewhere, recursive: true);
    }

    private IReadOnlyList<string> Problems => WorkspaceCheck.Of(w.Workspace.Folder).Problems;

    private void Run(string sql)
    {
        using var connection = w.Workspace.Open();
        connection.Execute("PRAGMA foreign_keys = OFF; " + sql);
    }

    private async Task<string> Keep(string words)
    {
        var media = new MediaFolder(w.Workspace);
        await media.Append("job", 0, 99, new MemoryStream(System.Text.Encoding.UTF8.GetBytes(words)), () => true, default);
        var hash = await media.HashOf("job", default);
        media.Keep("job", hash);
        w.Attachments.Add(w.Ida, w.Study, "Plan", new NewMedia(hash, "plan.txt", "text/plain", words.Length));
        return media.PathOf(hash);
    }

    [Fact]
    public void A_workspace_that_was_worked_on_is_whole()
    {
        w.Mark(w.Ida, "Nobody tells you", "late");
        w.Corrections.Correct(w.Tom, w.Source, TestWorkspace.Corrected(w, TestWorkspace.Interview.Replace("Nobody tells you.", "")), []);
        w.Mark(w.Tom, "on the quay", "quay");
        w.Undo.Back(w.Tom, w.Study);
        Assert.Empty(Problems);
    }

    [Theory]
    [InlineData("UPDATE source_text SET text = text || '!'", "text of another length or content")]
    [InlineData("UPDATE observation SET \"end\" = 9999", "an observation outside its text")]
    [InlineData("UPDATE turn SET start = 0, \"end\" = 40", "turns that overlap")]
    [InlineData("DELETE FROM source_text", "has no text")]
    [InlineData("DELETE FROM tag", "points to a tag that is not there")]
    [InlineData("UPDATE observation SET start = start + 3", "other words for observation")]
    [InlineData("DELETE FROM searchable WHERE rowid & 15 = 7", "other words for observation")]
    [InlineData("INSERT INTO source_search (source_search, rowid, text) VALUES ('delete', 1, 'quay')", "does not agree with the texts")]
    public void What_is_wrong_is_said(string damage, string said)
    {
        w.Mark(w.Ida, "Nobody tells you", "late");
        Assert.Empty(Problems);
        Run(damage);
        Assert.Contains(Problems, p => p.Contains(said, StringComparison.Ordinal));
    }

    [Fact]
    public async Task Kept_files_are_held_against_their_hashes()
    {
        var path = await Keep("the plan of the quay");
        Assert.Empty(Problems);
        await File.WriteAllTextAsync(path, "the plan of the quag");
        Assert.Contains("is not what it was", Assert.Single(Problems));
        Assert.Contains(
            "missing or broken",
            Assert.Throws<Refusal>(() => Backup.Make(w.Workspace.Folder, Path.Combine(elsewhere, "b"), DateTimeOffset.UtcNow)).Message
        );
        File.Move(path, Path.Combine(Path.GetDirectoryName(path)!, "lost"));
        Assert.Equal(["is missing.", "the server starts next."], Problems.Select(p => p[^(p.Contains("missing") ? 11 : 23)..]));
        Assert.Empty(Directory.GetFiles(elsewhere));
    }

    [Fact]
    public async Task A_backup_holds_the_files_and_gives_everything_back()
    {
        w.Mark(w.Ida, "Nobody tells you", "late");
        await Keep("the plan of the quay");
        var file = Path.Combine(elsewhere, "b.vitrine");
        Assert.Equal(
            (1, 1, 1),
            Backup.Make(w.Workspace.Folder, file, DateTimeOffset.UtcNow) is var made ? (made.Files, made.Studies, made.Sources) : default
        );
        Assert.Contains(
            "is there already",
            Assert.Throws<Refusal>(() => Backup.Make(w.Workspace.Folder, file, DateTimeOffset.UtcNow)).Message
        );
        var to = Path.Combine(elsewhere, "restored");
        Backup.Restore(file, to, DateTimeOffset.UtcNow);
        Assert.Empty(WorkspaceCheck.Of(to).Problems);
        Assert.Contains(
            "no whole backup",
            Assert.Throws<Refusal>(() => Backup.Restore(typeof(Backup).Assembly.Location, to, DateTimeOffset.UtcNow)).Message
        );
        var bytes = await File.ReadAllBytesAsync(file);
        Array.Clear(bytes, bytes.Length / 2, 200);
        await File.WriteAllBytesAsync(file, bytes);
        Assert.Throws<Refusal>(() => Backup.Restore(file, to, DateTimeOffset.UtcNow));
        Assert.Empty(WorkspaceCheck.Of(to).Problems);
        Assert.Throws<Refusal>(() => WorkspaceCheck.Of(elsewhere));
    }
}
