using System.Collections.Concurrent;
using Microsoft.AspNetCore.Authorization;
using Microsoft.AspNetCore.SignalR;
using Vitrine.Server.Access;
using Vitrine.Storage;
using Vitrine.Storage.Access;

namespace Vitrine.Server.Live;

/// <summary>Someone who has a study open.</summary>
internal sealed record Present(long AccountId, string Name);

/// <summary>
/// The line over which screens hear of each other. A browser says which study it has open (<see cref="Open"/>);
/// it is told "changed" (study id or null, and the tables that were touched) after each commit that it may see, and "present" (the people in its study) when someone comes or goes.
/// Words never travel here.
/// </summary>
[Authorize(AccessEndpoints.Team)]
internal sealed class LiveHub(StudyAccess access, Workspace workspace) : Hub
{
    private static readonly ConcurrentDictionary<string, Line> Lines = new();

    /// <summary>This browser now has the given study open; null for none. A study that the person does not see is none. Answers with the number of writes so far.</summary>
    public async Task<long> Open(long? studyId)
    {
        await Leave();
        if (studyId is not { } study || SignedIn.Of(Context.GetHttpContext()!) is not { } me || !access.SeesStudy(me.Viewer, study)) return workspace.Commits;
        Lines[Context.ConnectionId] = new Line(Context, me.Id, study, new Present(me.Id, me.Actor.Name));
        await Groups.AddToGroupAsync(Context.ConnectionId, GroupOf(study));
        await Tell(study);
        return workspace.Commits;
    }

    /// <summary>Cuts all lines of an account, after its sign-ins were ended; a page that is still signed in calls again.</summary>
    public static void End(long accountId)
    {
        foreach (var line in Lines.Values.Where(l => l.AccountId == accountId)) line.Caller.Abort();
    }

    /// <summary>Cuts the lines of those who have a study open that they do not see any more.</summary>
    public static void EndForOthers(long studyId, IReadOnlyList<long> seenBy)
    {
        foreach (var line in Lines.Values.Where(l => l.StudyId == studyId && !seenBy.Contains(l.AccountId))) line.Caller.Abort();
    }

    public override Task OnConnectedAsync()
    {
        Lines[Context.ConnectionId] = new Line(Context, SignedIn.Of(Context.GetHttpContext()!)!.Id, null, null);
        return base.OnConnectedAsync();
    }

    public override async Task OnDisconnectedAsync(Exception? exception)
    {
        await Leave();
        Lines.TryRemove(Context.ConnectionId, out _);
        await base.OnDisconnectedAsync(exception);
    }

    private async Task Leave()
    {
        if (!Lines.TryGetValue(Context.ConnectionId, out var left) || left.StudyId is not { } study) return;
        Lines[Context.ConnectionId] = left with { StudyId = null, Person = null };
        await Groups.RemoveFromGroupAsync(Context.ConnectionId, GroupOf(study));
        await Tell(study);
    }

    private Task Tell(long studyId) =>
        Clients.Group(GroupOf(studyId)).SendAsync("present", Lines.Values.Where(h => h.StudyId == studyId).Select(h => h.Person!).Distinct().OrderBy(p => p.AccountId));

    private static string GroupOf(long studyId) => $"study {studyId}";

    private sealed record Line(HubCallerContext Caller, long AccountId, long? StudyId, Present? Person);
}
