namespace Vitrine.Storage.Trail;

/// <summary>What the latest steps have changed, so that what was loaded takes in what it has missed.</summary>
internal sealed class Editions
{
    /// <summary>Of how many steps it is remembered what they changed.</summary>
    private const int MostRemembered = 1_000;

    private readonly Lock gate = new();
    private readonly List<(long Edition, StudyId? StudyId, StepNews News)> latest = [];
    private long now;

    /// <summary>Rises with every step.</summary>
    public long Now
    {
        get
        {
            lock (gate)
                return now;
        }
    }

    /// <summary>A step of a study; for null, of what all studies share.</summary>
    public void Add(StudyId? studyId, StepNews news)
    {
        lock (gate)
        {
            latest.Add((++now, studyId, news));
            if (latest.Count > 2 * MostRemembered)
                latest.RemoveRange(0, MostRemembered);
        }
    }

    /// <summary>What has changed in a study since an edition, step by step; null when that is too long ago to be known.</summary>
    public IReadOnlyList<StepNews>? Since(StudyId studyId, long edition)
    {
        lock (gate)
        {
            if (edition < now - latest.Count)
                return null;
            return [.. latest.Where(e => e.Edition > edition && (e.StudyId is null || e.StudyId == studyId)).Select(e => e.News)];
        }
    }
}
