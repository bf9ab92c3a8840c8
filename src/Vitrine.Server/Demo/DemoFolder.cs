using Vitrine.Storage.Trail;

namespace Vitrine.Server.Demo;

/// <summary>
/// The demo's data folder. A marker file says that it is the demo's and whether loading ended, so that a load that was cut off starts over
/// and a real workspace is never opened as a demo.
/// </summary>
internal sealed class DemoFolder(string folder)
{
    private const string Loading = "loading";
    private const string Loaded = "loaded";

    private string Marker => Path.Combine(folder, "demo-workspace");

    private string? State => File.Exists(Marker) ? File.ReadAllText(Marker) : null;

    public bool IsLoaded => State == Loaded;

    /// <summary>Why this folder cannot hold the demo; null when it can.</summary>
    public string? Problem =>
        State is null && File.Exists(Path.Combine(folder, Workspace.DatabaseName))
            ? $"{Path.GetFullPath(folder)} holds a real workspace. Open it with ./vitrine serve, or choose another folder for the "
                + $"demo with --data."
            : null;

    public void ClearWhatWasHalfLoaded()
    {
        if (State == Loading)
            Directory.Delete(folder, recursive: true);
    }

    public void BeginLoading() => File.WriteAllText(Marker, Loading);

    public void EndLoading() => File.WriteAllText(Marker, Loaded);
}
