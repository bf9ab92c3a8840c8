using System.Collections.Concurrent;
using Microsoft.AspNetCore.Authorization;
using Microsoft.AspNetCore.SignalR;
using Vitrine.Server.Access;

namespace Vitrine.Server.Live;

/// <summary>Someone who has a study open.</summary>
internal sealed record Present(long AccountId, string Name);

/// <summary>
/// The line over which screens hear of each other. A browser says which study it has open (<see cref="Open"/>);
/// it is told "changed" (study id or null) after each commit and "present" (the people in its study) when someone comes or goes. Words never travel here.
/// </summary>
[Authorize(AccessEndpoints.Team)]
internal sealed class LiveHub : Hub
{
    private static readonly ConcurrentDictionary<string, (long StudyId, Present Person)> Here = new();

    /// <summary>This browser now has the given study open; null for none.</summary>
    public async Task Open(long? studyId)
    {
        await Leave();
        if (studyId is not { } study || await SignedIn.BindAsync(Context.GetHttpContext()!) is not { } me) return;
        Here[Context.ConnectionId] = (study, new Present(me.Id, me.Actor.Name));
        await Groups.AddToGroupAsync(Context.ConnectionId, GroupOf(study));
        await Tell(study);
    }

    public override async Task OnDisconnectedAsync(Exception? exception)
    {
        await Leave();
        await base.OnDisconnectedAsync(exception);
    }

    private async Task Leave()
    {
        if (!Here.TryRemove(Context.ConnectionId, out var left)) return;
        await Groups.RemoveFromGroupAsync(Context.ConnectionId, GroupOf(left.StudyId));
        await Tell(left.StudyId);
    }

    private Task Tell(long studyId) =>
        Clients.Group(GroupOf(studyId)).SendAsync("present", Here.Values.Where(h => h.StudyId == studyId).Select(h => h.Person).Distinct().OrderBy(p => p.AccountId));

    private static string GroupOf(long studyId) => $"study {studyId}";
}
