using Microsoft.AspNetCore.Authorization;
using Microsoft.AspNetCore.SignalR;
using Vitrine.Server.Access;
using Vitrine.Storage.Access;
using Vitrine.Storage.Trail;

namespace Vitrine.Server.Live;

/// <summary>Someone who has a study open.</summary>
internal sealed record Present(AccountId AccountId, string Name);

/// <summary>
/// The line over which screens hear of each other. A browser says which study it has open (<see cref="Open"/>);
/// it is told "changed" (study id or null, and the tables that were touched) after each commit that it may see, and "present" (the people
/// in its study) when someone comes or goes.
/// Words never travel here.
/// </summary>
[Authorize(AccessEndpoints.Team)]
internal sealed class LiveHub(StudyAccess access, Workspace workspace) : Hub
{
    /// <summary>
    /// This browser now has the given study open; null for none. A study that the person does not see is none. Answers with the number of
    /// writes so far.
    /// </summary>
    public async Task<long> Open(StudyId? studyId)
    {
        await Leave();
        if (studyId is not { } study || SignedIn.Of(Context.GetHttpContext()!) is not { } me || !access.SeesStudy(me.Viewer, study))
            return workspace.Commits;
        LiveConnections.Set(Context.ConnectionId, Line(me, study));
        await Groups.AddToGroupAsync(Context.ConnectionId, GroupOf(study));
        await Tell(study);
        return workspace.Commits;
    }

    public override Task OnConnectedAsync()
    {
        LiveConnections.Set(Context.ConnectionId, Line(SignedIn.Of(Context.GetHttpContext()!)!, null));
        return base.OnConnectedAsync();
    }

    public override async Task OnDisconnectedAsync(Exception? exception)
    {
        await Leave();
        LiveConnections.Forget(Context.ConnectionId);
        await base.OnDisconnectedAsync(exception);
    }

    private LiveConnection Line(SignedIn me, StudyId? studyId) => new(me.Id, me.Actor.Name, studyId, Context.Abort);

    private async Task Leave()
    {
        if (LiveConnections.Get(Context.ConnectionId) is not { StudyId: { } study } left)
            return;
        LiveConnections.Set(Context.ConnectionId, left with { StudyId = null });
        await Groups.RemoveFromGroupAsync(Context.ConnectionId, GroupOf(study));
        await Tell(study);
    }

    private Task Tell(StudyId studyId) =>
        Clients
            .Group(GroupOf(studyId))
            .SendAsync(
                "present",
                LiveConnections.On(studyId).Select(line => new Present(line.AccountId, line.Name)).Distinct().OrderBy(p => p.AccountId)
            );

    private static string GroupOf(StudyId studyId) => $"study {studyId}";
}
