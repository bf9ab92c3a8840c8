using System.IO.Compression;
using System.Text.Json;
using Dapper;
using Microsoft.Data.Sqlite;
using Vitrine.Core.Mark.Observations;
using Vitrine.Storage.Access;
using Vitrine.Storage.Backups;
using Vitrine.Storage.Mark.Observations;
using Vitrine.Storage.Trail;

namespace Vitrine.Storage.Tests;

/// <summary>Workspaces that an earlier version made, kept as files beside the tests: something was done in every table of them.</summary>
public sealed class KeptWorkspaceTests : IDisposable
{
    private readonly string folder = Directory.CreateTempSubdirectory("vitrine-kept-").FullName;

    public void Dispose() => Directory.Delete(folder, recursive: true);

    public static TheoryData<string> Kept =>
        [.. Directory.GetFiles(Path.Combine(AppContext.BaseDirectory, "kept")).Select(Path.GetFileName).OfType<string>()];

    [Theory]
    [MemberData(nameof(Kept))]
    public void A_workspace_of_an_earlier_version_opens_with_nothing_lost_and_its_steps_can_be_undone(string file)
    {
        var database = Path.Combine(folder, Workspace.DatabaseName);
        using (var zipped = new GZipStream(File.OpenRead(Path.Combine(AppContext.BaseDirectory, "kept", file)), CompressionMode.Decompress))
        using (var unzipped = File.Create(database))
            zipped.CopyTo(unzipped);
        var before = Rows(database);
        var workspace = new Workspace(folder, TimeProvider.System);
        var after = Rows(database);

        // Every row is there with every column that it had; columns may have been added.
        Assert.Equal(before.Keys.Order(), after.Keys.Where(before.ContainsKey).Order());
        foreach (var (row, columns) in before)
            Assert.Superset(columns, after[row]);
        Assert.All(WorkspaceCheck.Of(folder).Problems, p => Assert.Contains("kept file", p));

        using var connection = workspace.Open();
        var sources = connection.Query<SourceId>("SELECT id FROM source").ToList();
        var observations = new ObservationStore(workspace);
        Assert.All(sources.SelectMany(s => observations.In(s, default)), o => Assert.IsType<TextAnchor>(o.Anchor));

        // Ids are never used twice, and each person can undo their steps from before.
        var last = connection.ExecuteScalar<long>("SELECT seq FROM sqlite_sequence WHERE name = 'observation'");
        var (undo, trail, accounts) = (new Undo(workspace), new TrailStore(workspace), new AccountStore(workspace));
        var study = connection.QuerySingle<long>("SELECT id FROM study");
        var team = accounts.All().Where(a => a.Name is "Ida Moss" or "Tom Varley").Select(a => new Actor(a.Id, a.Name, a.Role)).ToList();
        Assert.True(observations.Make(team[0], sources[0], TestWorkspace.Words(0, 8), [], []).Id > last);
        var undone = 0;
        // Where someone's step rests on another's, the other undoes theirs first.
        while (team.Any(a => Undone(a, study) || Undone(a, null)))
            undone++;
        Assert.True(undone > 20, $"{undone} steps were undone");

        bool Undone(Actor actor, long? where)
        {
            if (trail.Recent(actor.AccountId, where).All(s => s.Undone))
                return false;
            try
            {
                undo.Back(actor, where);
                return true;
            }
            catch (Refusal)
            {
                return false;
            }
        }
    }

    private static Dictionary<(string Table, string Id), HashSet<string>> Rows(string database)
    {
        using var connection = new SqliteConnection($"Data Source={database};Pooling=False");
        var tables = connection
            .Query<string>(
                """
                SELECT name FROM sqlite_schema WHERE type = 'table' AND name NOT LIKE '%search%'
                AND name NOT IN ('SchemaVersions', 'sqlite_sequence')
                """
            )
            .ToList();
        return tables
            .SelectMany(t => connection.Query($"SELECT * FROM {t}").Cast<IDictionary<string, object?>>().Select(r => (Table: t, Row: r)))
            .ToDictionary(
                r => (r.Table, JsonSerializer.Serialize(r.Row.TryGetValue("id", out var id) ? id : r.Row)),
                r => r.Row.Select(c => $"{c.Key}={JsonSerializer.Serialize(c.Value)}").ToHashSet()
            );
    }
}
