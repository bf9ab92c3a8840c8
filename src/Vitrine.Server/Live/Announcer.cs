using Microsoft.AspNetCore.SignalR;
using Vitrine.Storage;

namespace Vitrine.Server.Live;

/// <summary>Passes each commit on to all open screens of the team.</summary>
internal sealed class Announcer(Workspace workspace, IHubContext<LiveHub> hub, ILogger<Announcer> log) : IHostedService
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
            await hub.Clients.All.SendAsync("changed", committed.StudyId);
        }
        catch (Exception failure)
        {
            // The write stands; a screen that was not told fetches again when it is looked at.
            log.LogWarning(failure, "A change could not be announced");
        }
    }
}
