using Microsoft.AspNetCore.SignalR;
using Vitrine.Server.Access;
using Vitrine.Storage.Access;
using Vitrine.Storage.Trail;

namespace Vitrine.Server.Live;

/// <summary>Passes each commit on to the open screens of those who may see it.</summary>
internal sealed class ChangeBroadcaster(Workspace workspace, StudyAccess access, IHubContext<LiveHub> hub, ILogger<ChangeBroadcaster> log)
    : IHostedService
{
    public Task StartAsync(CancellationToken cancellationToken)
    {
        workspace.Committed += Announce;
        return Task.CompletedTask;
    }

    public Task StopAsync(CancellationToken cancellationToken)
    {
        workspace.Committed -= Announce;
        return Task.CompletedTask;
    }

    private void Announce(Committed committed) => _ = Send(committed);

    private async Task Send(Committed committed)
    {
        try
        {
            // A job is its own person's affair; what it makes is announced as any other change.
            var seenBy = committed.News.Tables.SequenceEqual(["job"]) ? [committed.AccountId] : access.SeenBy(committed.StudyId);
            if (committed.StudyId is { } study && committed.News.Tables.Contains("membership"))
                LiveConnections.EndForOthers(study, seenBy);
            var news = committed.News.In(committed.StudyId);
            // Who tags a source blind is not told that others mark in it.
            var blind = workspace.BlindTo(committed.News.Sources, committed.AccountId);
            await Tell(news, seenBy.Where(id => !blind.Contains(id)));
            if (blind.Count > 0 && workspace.WithoutMarks(news) is { } rest)
                await Tell(rest, seenBy.Where(blind.Contains));

            Task Tell(Changed changed, IEnumerable<AccountId> people) =>
                hub.Clients.Users([.. people.Select(id => id.ToString())]).SendAsync("changed", changed, committed.ActionId);
        }
        catch (Exception failure)
        {
            // The write stands; a screen that was not told fetches again when it is looked at.
            log.LogWarning(failure, "A change could not be announced");
        }
    }
}
