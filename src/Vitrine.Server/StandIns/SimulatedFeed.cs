using System.Text.Json;
using Vitrine.Storage.Gather.Intake;

namespace Vitrine.Server.StandIns;

/// <summary>
/// A stand-in for the feedback that an app store, a contact form or a review site would send: made-up messages in a fixed order, always the
/// same. It says of itself that it is simulated.
/// A real feed takes its place by sending to the JSON address of the intake.
/// </summary>
internal static class SimulatedFeed
{
    private const string Name = "Simulated feedback";

    private static readonly Lazy<IReadOnlyList<NewFeedback>> Messages = new(() =>
    {
        using var stream = typeof(SimulatedFeed).Assembly.GetManifestResourceStream("simulated-feed.json")!;
        return JsonSerializer.Deserialize<List<NewFeedback>>(stream, JsonSerializerOptions.Web)!;
    });

    /// <summary>Lets the next messages arrive that have not.</summary>
    public static Arrival Deliver(ArrivalStore store, int count)
    {
        var channel = store.ChannelOf(ChannelKind.Simulated, Name);
        var there = store.Channels().Single(c => c.Id == channel).Items;
        return store.Take(channel, [.. Messages.Value.Skip(there).Take(count)]);
    }
}
