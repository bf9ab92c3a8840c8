using Vitrine.Storage.Trail;

namespace Vitrine.Tests;

/// <summary>A new workspace's database, made once for all tests of a process: each test has a copy of it.</summary>
internal static class MigratedTemplate
{
    private static readonly Lazy<byte[]> Database = new(() =>
    {
        var folder = Directory.CreateTempSubdirectory("vitrine-template-").FullName;
        try
        {
            new Workspace(folder, TimeProvider.System).Rest();
            return File.ReadAllBytes(Path.Combine(folder, Workspace.DatabaseName));
        }
        finally
        {
            Directory.Delete(folder, recursive: true);
        }
    });

    /// <summary>A new folder for a test, with an empty workspace in it.</summary>
    public static string Folder(string prefix)
    {
        var folder = Directory.CreateTempSubdirectory(prefix).FullName;
        File.WriteAllBytes(Path.Combine(folder, Workspace.DatabaseName), Database.Value);
        return folder;
    }
}
