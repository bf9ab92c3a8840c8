namespace Vitrine.Core.Sort.WhoNext;

/// <summary>A tag on an observation of a session.</summary>
/// <param name="Tag">Which tag.</param>
/// <param name="Person">Whose observation; null for nobody's.</param>
public readonly record struct TagHeard(int Tag, int? Person);

/// <summary>What a session has added to those before it.</summary>
/// <param name="Tags">How many tags are on its observations.</param>
/// <param name="NewTags">Which of them no session before it had.</param>
/// <param name="NewVoices">How often somebody was heard for the first time under a tag that an earlier session had.</param>
public sealed record SessionAdded(int Tags, IReadOnlyList<int> NewTags, int NewVoices);

/// <summary>How much the last sessions have brought, against the first.</summary>
/// <param name="Base">How many sessions are the base.</param>
/// <param name="BaseTags">How many tags these have.</param>
/// <param name="Run">How many of the last sessions are looked at.</param>
/// <param name="NewTags">How many tags they have that none before them had.</param>
public sealed record LastRun(int Base, int BaseTags, int Run, int NewTags)
{
    /// <summary>The new tags of the run as a share of those of the base; 0 or more.</summary>
    public double Share => (double)NewTags / BaseTags;
}

/// <summary>
/// What session after session adds. The share of the last run is the new information threshold of Guest, Namey and Chen, “A simple method
/// to assess and report thematic saturation in qualitative research”, PLoS ONE 15(5), 2020: a base of the first sessions, a run of the
/// last ones, and the new tags of the run over all tags of the base. The authors propose a base of 4 to 6, a run of 2 or 3, and 5 % or none
/// as the threshold (from memory).
/// </summary>
public static class NewInformation
{
    /// <summary>How many of the first sessions are the base.</summary>
    public const int Base = 4;

    /// <summary>How many of the last sessions are the run.</summary>
    public const int Run = 2;

    /// <summary>A run with at most this share of new tags brings little.</summary>
    public const double Little = 0.05;

    /// <summary>What each session adds, in their order.</summary>
    public static IReadOnlyList<SessionAdded> Of(IReadOnlyList<IReadOnlyCollection<TagHeard>> sessions)
    {
        var tags = new HashSet<int>();
        var voices = new HashSet<TagHeard>();
        var added = new List<SessionAdded>();
        foreach (var session in sessions)
        {
            var here = session.Select(h => h.Tag).Distinct().ToList();
            var voicesUnderOld = session.Distinct().Count(h => h.Person is not null && tags.Contains(h.Tag) && !voices.Contains(h));
            added.Add(new SessionAdded(here.Count, [.. here.Where(t => !tags.Contains(t)).Order()], voicesUnderOld));
            tags.UnionWith(here);
            voices.UnionWith(session);
        }
        return added;
    }

    /// <summary>The last run against the base; null where there are too few sessions for both, or the base has no tag.</summary>
    public static LastRun? RunOf(IReadOnlyList<SessionAdded> sessions)
    {
        var baseTags = sessions.Take(Base).Sum(s => s.NewTags.Count);
        return sessions.Count < Base + Run || baseTags == 0
            ? null
            : new LastRun(Base, baseTags, Run, sessions.TakeLast(Run).Sum(s => s.NewTags.Count));
    }
}
