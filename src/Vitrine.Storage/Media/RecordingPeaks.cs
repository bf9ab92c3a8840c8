using Vitrine.Core.Mark.Recordings;
using Vitrine.Core.Text;

namespace Vitrine.Storage.Media;

/// <summary>The peaks of recordings, beside what else was made of their files.</summary>
public static class RecordingPeaks
{
    /// <summary>How many peaks a second has, finest first; each is of the one before.</summary>
    public static readonly IReadOnlyList<int> Resolutions = [100, 10, 1];

    /// <summary>Peaks stand by how many a second has: "peaks-100".</summary>
    public static string NameOf(int perSecond) => $"peaks-{perSecond}";

    /// <summary>Where nobody speaks in a file; nothing for one that has no peaks.</summary>
    public static IReadOnlyList<TimeRange> PausesOf(MediaFolder media, string hash)
    {
        var path = media.MadeOf(hash, NameOf(Resolutions[0]));
        return File.Exists(path) ? Pauses.In(new Peaks(Resolutions[0], File.ReadAllBytes(path))) : [];
    }
}
