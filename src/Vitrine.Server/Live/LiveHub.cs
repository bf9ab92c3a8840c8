using Microsoft.AspNetCore.Authorization;
using Microsoft.AspNetCore.SignalR;
using Vitrine.Server.Access;
using Vitrine.Storage.Access;
using Vitrine.Storage.Trail;

namespace Vitrine.Server.Live;

/// <summary>Someone who has a study open.</summary>
/// <param name="InHand">Observations that they have chosen or drag at the sorting table, in any of their windows.</param>
internal sealed record Present(AccountId AccountId, string Name, IReadOnlyList<ObservationId> InHand);

/// <summary>
/// The line over which screens hear of each other. A browser says which study it has open (<see cref="Open"/>);
/// it is told "changed" (study id or null, and the tables that were touched) after each commit that it may see, and "present" (the people
/// in its study) when someone comes or goes, or has something else in hand (<see cref="Hold"/>).
/// Words never travel here.
/// </summary>
[Authorize(AccessEndpoints.Team)]
internal sealed class LiveHub(StudyAccess access, Workspace workspace) : Hub
{
    /// <summary>Of more things in hand than these the others see the first.</summary>
    private const int MostInHand = 500;

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

    /// <summary>What this browser’s person has in hand now, for the others in the study; by its ids alone.</summary>
    public async Task Hold(IReadOnlyList<ObservationId> observationIds)
    {
        if (LiveConnections.Get(Context.ConnectionId) is not { StudyId: { } study } line)
            return;
        LiveConnections.Set(Context.ConnectionId, line with { InHand = [.. observationIds.Take(MostInHand)] });
        await Tell(study);
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
        LiveConnections.Set(Context.ConnectionId, left with { StudyId = null, InHand = [] });
        await Groups.RemoveFromGroupAsync(Context.ConnectionId, GroupOf(study));
        await Tell(study);
    }

    private Task Tell(StudyId studyId) =>
        Clients
            .Group(GroupOf(studyId))
            .SendAsync(
                "present",
                LiveConnections
                    .On(studyId)
                    .GroupBy(line => (line.AccountId, line.Name))
                    .OrderBy(person => person.Key.AccountId)
                    .Select(person => new Present(
                        person.Key.AccountId,
                        person.Key.Name,
                        [.. person.SelectMany(line => line.InHand).Distinct()]
                    ))
            );

    private static string GroupOf(StudyId studyId) => $"study {studyId}";
}
