using Vitrine.Core.Mark.Observations;
using Vitrine.Server.Access;
using Vitrine.Server.Http;
using Vitrine.Storage.Catalogue;
using Vitrine.Storage.Mark.Observations;

namespace Vitrine.Server.Mark.Observations;

/// <param name="BasedOn">
/// The hash of the text on which it was chosen: words that were not changed since are marked where they are now. Null for the text as
/// it is.
/// </param>
internal sealed record NewObservation(
    AnchorGiven Anchor,
    IReadOnlyList<TagId> TagIds,
    IReadOnlyList<string> NewTags,
    string? BasedOn = null
);

/// <param name="Anchor">Where it stands from now on.</param>
/// <param name="Was">Where it was seen to stand; it is not moved when it stands elsewhere. Null to move it from wherever it is.</param>
internal sealed record NewPlace(AnchorGiven Anchor, AnchorGiven? Was = null);

/// <param name="At">Where the second begins.</param>
internal sealed record SplitAt(int At);

internal sealed record UnsureReading(bool Unsure);

internal sealed record SentimentChoice(Sentiment? Sentiment);

internal sealed record Star(bool Starred);

internal sealed record ScaleValue(double? Value);

internal sealed record ExampleChoice(bool Example);

internal sealed record TagMany(IReadOnlyList<ObservationId> ObservationIds, IReadOnlyList<TagId> TagIds, IReadOnlyList<string> NewTags);

internal sealed record UntagMany(IReadOnlyList<ObservationId> ObservationIds, TagId TagId);

internal sealed record Many(IReadOnlyList<ObservationId> ObservationIds);

internal static class ObservationEndpoints
{
    public static void MapObservations(this RouteGroupBuilder api)
    {
        var source = api.MapGroup("/sources/{id:long}").WithTags("Mark").About(Thing.Source);
        source.MapGet("/observations", (SourceId id, SignedIn me, ObservationStore store) => store.In(id, me.Id));
        source.MapPost(
            "/observations",
            (SourceId id, NewObservation given, SignedIn me, ObservationStore store) =>
                store.Make(me.Actor, id, given.Anchor, given.TagIds, Validate.NewTags(given.NewTags), given.BasedOn)
        );

        var study = api.MapGroup("/studies/{studyId:long}/observations").WithTags("Mark");
        study.MapPost(
            "/tags",
            (StudyId studyId, TagMany given, SignedIn me, ObservationStore store) =>
                store.Tag(
                    me.Actor,
                    studyId,
                    Validate.Ids(given.ObservationIds, "observation"),
                    given.TagIds,
                    Validate.NewTags(given.NewTags)
                )
        );
        study.MapPost(
            "/untag",
            (StudyId studyId, UntagMany given, SignedIn me, ObservationStore store) =>
                store.Untag(me.Actor, studyId, Validate.Ids(given.ObservationIds, "observation"), given.TagId)
        );
        study.MapPost(
            "/join",
            (StudyId studyId, Many given, SignedIn me, ObservationPieces pieces) =>
                pieces.Join(me.Actor, studyId, Validate.Ids(given.ObservationIds, "observation"))
        );
        study.MapPost(
            "/remove",
            (StudyId studyId, Many given, SignedIn me, ObservationStore store) =>
                store.Remove(me.Actor, studyId, Validate.Ids(given.ObservationIds, "observation"))
        );

        var observation = api.MapGroup("/observations/{id:long}").WithTags("Mark").About(Thing.Observation);
        observation.MapPut(
            "/anchor",
            (ObservationId id, NewPlace given, SignedIn me, ObservationStore store) => store.Move(me.Actor, id, given.Anchor, given.Was)
        );
        observation.MapPut(
            "/note",
            (ObservationId id, NewText given, SignedIn me, ObservationStore store) =>
                store.SetNote(me.Actor, id, given.Was, Validate.Optional(given.Text, "note"))
        );
        observation.MapPut(
            "/sentiment",
            (ObservationId id, SentimentChoice given, SignedIn me, ObservationStore store) =>
                store.SetSentiment(me.Actor, id, given.Sentiment)
        );
        observation.MapPut(
            "/star",
            (ObservationId id, Star given, SignedIn me, ObservationStore store) => store.SetStar(me.Actor, id, given.Starred)
        );
        observation.MapPut(
            "/unsure",
            (ObservationId id, UnsureReading given, SignedIn me, ObservationStore store) => store.SetUnsure(me.Actor, id, given.Unsure)
        );
        observation.MapPost(
            "/split",
            (ObservationId id, SplitAt given, SignedIn me, ObservationPieces pieces) => pieces.Split(me.Actor, id, given.At)
        );
        observation.MapPut(
            "/tags/{tagId:long}/value",
            (ObservationId id, TagId tagId, ScaleValue given, SignedIn me, ObservationStore store) =>
                store.SetValue(me.Actor, id, tagId, given.Value)
        );
        observation.MapPut(
            "/tags/{tagId:long}/example",
            (ObservationId id, TagId tagId, ExampleChoice given, SignedIn me, ObservationStore store) =>
                store.SetExample(me.Actor, id, tagId, given.Example)
        );
        observation.MapDelete(
            "/tags/{tagId:long}",
            (ObservationId id, TagId tagId, SignedIn me, ObservationStore store) => store.Untag(me.Actor, store.StudyOf(id), [id], tagId)
        );
    }
}
