using System.Collections.Concurrent;

namespace Vitrine.Server.Access;

/// <summary>A live line of somebody's page.</summary>
/// <param name="StudyId">The study that the page has open; null for none.</param>
/// <param name="Cut">Ends it; a page that is still signed in calls again.</param>
internal sealed record LiveConnection(AccountId AccountId, string Name, StudyId? StudyId, Action Cut)
{
    /// <summary>What is chosen or dragged on the page: observations of its study.</summary>
    public IReadOnlyList<ObservationId> InHand { get; init; } = [];
}

/// <summary>The live lines that are open, by the connection's id.</summary>
internal static class LiveConnections
{
    private static readonly ConcurrentDictionary<string, LiveConnection> Lines = new();

    public static LiveConnection? Get(string connection) => Lines.GetValueOrDefault(connection);

    public static void Set(string connection, LiveConnection line) => Lines[connection] = line;

    public static void Forget(string connection) => Lines.TryRemove(connection, out _);

    public static IEnumerable<LiveConnection> On(StudyId studyId) => Lines.Values.Where(l => l.StudyId == studyId);

    /// <summary>Cuts all lines of an account, after its sign-ins were ended.</summary>
    public static void End(AccountId accountId)
    {
        foreach (var line in Lines.Values.Where(l => l.AccountId == accountId))
            line.Cut();
    }

    /// <summary>Cuts the lines of those who have a study open that they do not see any more.</summary>
    public static void EndForOthers(StudyId studyId, IReadOnlyList<AccountId> seenBy)
    {
        foreach (var line in On(studyId).Where(l => !seenBy.Contains(l.AccountId)))
            line.Cut();
    }
}
