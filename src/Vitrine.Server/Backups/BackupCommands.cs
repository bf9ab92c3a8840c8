using Microsoft.Data.Sqlite;
using Vitrine.Storage.Backups;
using Vitrine.Storage.Trail;

namespace Vitrine.Server.Backups;

/// <summary>What is done to a workspace from the command line, beside a running server or without one.</summary>
internal static class BackupCommands
{
    /// <summary>Runs backup, restore or check; null when the arguments ask for something else.</summary>
    /// <returns>0 when it was done and all is well, 1 when something is wrong, 2 when it was not asked rightly.</returns>
    public static int? Run(string[] args, TextWriter said)
    {
        var data = args.SkipWhile(a => a != "--data").Skip(1).FirstOrDefault() ?? "data";
        var file = args.Skip(1).TakeWhile(a => !a.StartsWith("--", StringComparison.Ordinal)).FirstOrDefault();
        try
        {
            switch (args.FirstOrDefault())
            {
                case "backup" or "restore" when string.IsNullOrEmpty(file):
                    said.WriteLine($"Say which file: ./vitrine {args[0]} FILE");
                    return CommandLine.NotAskedRightly;
                case "backup" or "check" when !File.Exists(Path.Combine(data, Workspace.DatabaseName)):
                    said.WriteLine($"There is no workspace in {Path.GetFullPath(data)}. Name its folder with --data.");
                    return CommandLine.NotAskedRightly;
                case "backup":
                    var made = Backup.Make(data, file, DateTimeOffset.UtcNow);
                    said.WriteLine($"{file} holds {Holds(made)}.");
                    return 0;
                case "restore":
                    var (about, before) = Backup.Restore(file, data, DateTimeOffset.UtcNow);
                    said.WriteLine($"Restored what stood there at {about.MadeAt}: {Holds(about)}.");
                    if (before is not null)
                        said.WriteLine(
                            $"The workspace from before is in {before}. Take it away when you do not need it; until then it holds "
                                + $"what was erased since."
                        );
                    return 0;
                case "check":
                    var check = WorkspaceCheck.Of(data);
                    said.WriteLine($"Looked at {string.Join(", ", check.LookedAt)}.");
                    foreach (var problem in check.Problems)
                        said.WriteLine($"- {problem}");
                    said.WriteLine(
                        check.Problems.Count == 0
                            ? "All is whole."
                            : "Something is wrong. Restore the latest backup that is whole, or ask the person who runs Vitrine."
                    );
                    return check.Problems.Count == 0 ? 0 : 1;
                default:
                    return null;
            }
        }
        catch (Exception refused) when (refused is Refusal or IOException or UnauthorizedAccessException or SqliteException)
        {
            said.WriteLine(refused.Message);
            return refused is IOException or UnauthorizedAccessException or Refusal { Field: "file" } ? CommandLine.NotAskedRightly : 1;
        }
    }

    private static string Holds(BackupAbout about) =>
        $"{Number(about.Studies, "study", "studies")}, {Number(about.Sources, "source", "sources")} "
        + $"and {Number(about.Files, "kept file", "kept files")}";

    private static string Number(int n, string one, string many) => $"{n} {(n == 1 ? one : many)}";
}
