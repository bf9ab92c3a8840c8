using Vitrine.Core.Gather.Intake;
using Vitrine.Core.Text;
using Vitrine.Formats.Feedback;
using Vitrine.Server.Access;
using Vitrine.Server.FileReading;
using Vitrine.Server.Http;
using Vitrine.Server.StandIns;
using Vitrine.Storage.Catalogue;
using Vitrine.Storage.Gather.Intake;
using Vitrine.Storage.Media;
using Vitrine.Storage.Trail;

namespace Vitrine.Server.Gather.Intake;

/// <summary>Feedback that another program sends.</summary>
/// <param name="Text">Its words; the only thing that must be there.</param>
/// <param name="Id">What the sending program calls it, so that sent twice it is here once; null to know it by its words.</param>
/// <param name="Sender">Who wrote it.</param>
/// <param name="Title">Its subject.</param>
/// <param name="Rating">A number on the program's own scale.</param>
/// <param name="At">When it was written: ISO 8601 with its offset.</param>
internal sealed record FeedbackGiven(string Text, string? Id, string? Sender, string? Title, double? Rating, DateTimeOffset? At);

internal sealed record NewChannel(string Name);

/// <param name="Token">To be sent with each request; shown once.</param>
internal sealed record ChannelMade(string Token);

/// <param name="Rule">The rule.</param>
/// <param name="Name">What it is called where it has routed something.</param>
/// <param name="AlsoPast">Whether what has arrived before is routed as well.</param>
internal sealed record WatchGiven(string Name, WatchRule Rule, bool AlsoPast);

internal sealed record ChangedWatch(WatchGiven Given, long Version);

/// <param name="RoutingIds">Which pieces.</param>
/// <param name="State">What becomes of them.</param>
/// <param name="SenderTakesPart">Whether who sent what is kept is a participant of the study.</param>
internal sealed record Settled(IReadOnlyList<RoutingId> RoutingIds, RoutingState State, bool SenderTakesPart = false);

internal static class IntakeEndpoints
{
    private const int MostWords = 50;
    private const int SimulatedAtOnce = 20;

    /// <summary>Where other programs send to; guarded by a token of its own, not by a page’s.</summary>
    public static void MapIntakeDoor(this WebApplication app) =>
        app.MapPost(
                "/api/intake/items",
                (FeedbackGiven given, HttpRequest request, ArrivalStore store) =>
                {
                    var token =
                        request.Headers.Authorization.ToString() is var header
                        && header.StartsWith("Bearer ", StringComparison.OrdinalIgnoreCase)
                            ? header["Bearer ".Length..].Trim()
                            : "";
                    var channel =
                        store.Opened(token)
                        ?? throw new Refusal(
                            RefusalKind.NotFound,
                            "This token opens no channel. Make one on the Intake page, and send it as: Authorization: Bearer TOKEN"
                        );
                    var text = Validate.Text(given.Text, "text", "Feedback needs words, in “text”.", Limits.LongText);
                    var sender = Validate.Optional(given.Sender, "sender", Limits.Title);
                    var id = Validate.Optional(given.Id, "id", Limits.Title) is { Length: > 0 } own
                        ? own
                        : ContentHash.Of($"{sender}\n{text}");
                    return store.Take(
                        channel,
                        [new NewFeedback(id, sender, Validate.Optional(given.Title, "title", Limits.Title), text, given.Rating, given.At)]
                    );
                }
            )
            .WithTags("Intake")
            .RequireRateLimiting(AccessEndpoints.Arrivals)
            .WithMetadata(new CalledByPrograms());

    public static void MapIntake(this RouteGroupBuilder api)
    {
        var intake = api.MapGroup("/intake").WithTags("Intake").About(null);
        intake.MapGet(
            "",
            (Choice<FeedbackView> view, StudyId? studyId, string? words, int page, SignedIn me, IntakeStore store) =>
                store.Page(
                    me.Viewer,
                    view,
                    studyId,
                    Validate.Optional(words, nameof(words), Limits.Title),
                    Validate.Page(page),
                    Limits.FeedbackOnPage
                )
        );
        intake.MapGet("/channels", (ArrivalStore store) => store.Channels());
        intake
            .MapPost(
                "/channels",
                (NewChannel given, ArrivalStore store) =>
                    new ChannelMade(
                        store.MakeEndpoint(Validate.Text(given.Name, "name", "A channel needs a name, such as “App reviews”.", Limits.Name))
                    )
            )
            .RequireAuthorization(AccessEndpoints.Publishers);
        intake
            .MapPost(
                "/channels/{channelId:long}/end",
                (ChannelId channelId, ArrivalStore store) =>
                {
                    store.EndEndpoint(channelId);
                    return TypedResults.NoContent();
                }
            )
            .RequireAuthorization(AccessEndpoints.Publishers);
        // The file as it is in the request's body.
        intake.MapPost(
            "/files",
            async (string name, HttpRequest request, ArrivalStore store, FileReader reader, MediaFolder media) =>
            {
                var mail = Path.GetExtension(name).Equals(".eml", StringComparison.OrdinalIgnoreCase);
                return Taken(
                    store,
                    mail,
                    await Validate.File(request, media, path => reader.Feedback(name, path, mail, request.HttpContext.RequestAborted))
                );
            }
        );
        intake.MapPost(
            "/simulated/next",
            (int count, ArrivalStore store) => SimulatedFeed.Deliver(store, Math.Clamp(count, 1, SimulatedAtOnce))
        );
        intake.MapGet("/watches", (SignedIn me, IntakeStore store) => store.WatchesFor(me.Viewer));
        intake.MapPost("/try", (WatchRule rule, IntakeStore store) => store.Try(Checked(rule)));

        var study = api.MapGroup("/studies/{studyId:long}").WithTags("Intake");
        study.MapPost(
            "/watches",
            (StudyId studyId, WatchGiven given, SignedIn me, IntakeStore store) =>
                store.AddWatch(me.Actor, studyId, NameOf(given), Checked(given.Rule), given.AlsoPast)
        );
        study
            .MapPut(
                "/watches/{id:long}",
                (StudyId studyId, WatchId id, ChangedWatch given, SignedIn me, IntakeStore store) =>
                    store.ChangeWatch(
                        me.Actor,
                        studyId,
                        id,
                        given.Version,
                        NameOf(given.Given),
                        Checked(given.Given.Rule),
                        given.Given.AlsoPast
                    )
            )
            .About(Thing.Watch);
        study
            .MapDelete(
                "/watches/{id:long}",
                (StudyId studyId, WatchId id, SignedIn me, IntakeStore store) => store.RemoveWatch(me.Actor, studyId, id)
            )
            .About(Thing.Watch);
        study.MapPost(
            "/feedback/{feedbackId:long}",
            (StudyId studyId, FeedbackId feedbackId, SignedIn me, IntakeStore store) => store.Route(me.Actor, studyId, feedbackId)
        );
        study.MapPost(
            "/routings",
            (StudyId studyId, Settled given, SignedIn me, IntakeStore store) =>
                store.Settle(me.Actor, studyId, Validate.Ids(given.RoutingIds, "piece of feedback"), given.State, given.SenderTakesPart)
        );
    }

    private static Arrival Taken(ArrivalStore store, bool mail, IReadOnlyList<ReadFeedback> read)
    {
        if (read.Count == 0)
            throw Refusal.Because("There is nothing in this feed yet.", "file");
        var channel = mail ? store.ChannelOf(ChannelKind.Mail, "E-mail files") : store.ChannelOf(ChannelKind.Feed, "Feed files");
        return store.Take(
            channel,
            [
                .. read.Select(r => new NewFeedback(
                    Cut(r.OuterId),
                    Cut(r.Sender),
                    Cut(r.Title),
                    r.Text.Length <= Limits.LongText ? r.Text : r.Text[..Limits.LongText],
                    null,
                    r.At
                )),
            ]
        );
    }

    private static string NameOf(WatchGiven given) =>
        Validate.Text(given.Name, "name", "A watch needs a name, such as “Cancellations”.", Limits.Name);

    private static WatchRule Checked(WatchRule rule)
    {
        var words = rule
            .Words.Select(w => Validate.Optional(w, "words", Limits.Name))
            .Where(w => w.Any(char.IsLetterOrDigit))
            .Distinct(StringComparer.OrdinalIgnoreCase)
            .ToList();
        if (words.Count > MostWords)
            throw Refusal.Because($"A watch looks for {MostWords} words at most. Make two of it.", "words");
        if (rule.RatingFrom > rule.RatingTo)
            throw Refusal.Because("The least rating is above the highest one.", "ratingFrom");
        var given = rule with { Words = words, Sender = Validate.Optional(rule.Sender, "sender", Limits.Name) };
        return given.IsEmpty
            ? throw Refusal.Because("Say what the watch looks for: words, a sender, a rating or a channel.", "words")
            : given;
    }

    private static string Cut(string text) => text.Length <= Limits.Title ? text : text[..Limits.Title];
}
