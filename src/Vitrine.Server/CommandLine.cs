using System.Globalization;
using Vitrine.Server.FileReading;
using Vitrine.Server.Mark.Transcription;

namespace Vitrine.Server;

/// <summary>What the program was asked on the command line, looked over before anything begins.</summary>
internal static class CommandLine
{
    /// <summary>What it ends with when it was not asked rightly.</summary>
    public const int NotAskedRightly = 2;

    private static readonly string[] Commands = ["serve", "demo", "backup", "restore", "check"];
    private static readonly string[] WithValue =
    [
        "--data",
        "--port",
        "--web",
        "--demo-files",
        "--proxy",
        "--password-iterations",
        "--transcriber",
    ];

    /// <summary>What is wrong with the arguments, in a sentence that says what to do; null when nothing is.</summary>
    public static string? Problem(IReadOnlyList<string> args)
    {
        if (args is [FileReadingWorker.Command])
            return null;
        if (args.Count == 0 || !Commands.Contains(args[0]))
            return $"{(args.Count == 0 ? "Say what to do" : $"“{args[0]}” is nothing that Vitrine does")}: "
                + $"{string.Join(", ", Commands)}. ./vitrine without anything lists them.";
        for (var i = 1; i < args.Count; i++)
        {
            var (name, whole) = (args[i].Split('=')[0], args[i].Contains('='));
            if (name == "--fresh" || !name.StartsWith("--", StringComparison.Ordinal))
                continue;
            if (!WithValue.Contains(name))
                return $"“{name}” is nothing that Vitrine knows. It knows {string.Join(", ", WithValue.Take(4))}, --proxy, --transcriber "
                    + "and --fresh.";
            if (!whole && (i + 1 >= args.Count || args[i + 1].StartsWith("--", StringComparison.Ordinal)))
                return $"{name} needs a value after it.";
            var value = whole ? args[i][(name.Length + 1)..] : args[++i];
            if (Wrong(name, value) is { } wrong)
                return wrong;
        }
        return null;
    }

    private static string? Wrong(string name, string value) =>
        name switch
        {
            "--port" when !int.TryParse(value, NumberStyles.None, CultureInfo.InvariantCulture, out var port) || port > 65_535 =>
                $"“{value}” is no port. Choose a whole number from 1 to 65535, or 0 for one that is free.",
            "--data" when File.Exists(value) => $"{value} is a file. --data names the folder that holds the workspace.",
            "--web" when !File.Exists(Path.Combine(value, "index.html")) =>
                $"There is no front end in {value}: it has no index.html. ./vitrine builds it.",
            "--transcriber" when value is not ("simulated" or "pocketsphinx") && ProgramTranscriber.Words(value) is null =>
                $"“{value}” is no transcription service. Choose simulated, pocketsphinx where it is installed, or a command such as "
                    + "\"program {in} {out}\", with both.",
            "--demo-files" when !Directory.Exists(value) => $"There is no folder {value} with the demo’s files.",
            _ => null,
        };
}
