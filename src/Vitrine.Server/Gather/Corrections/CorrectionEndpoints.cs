using Vitrine.Core.Gather.Corrections;
using Vitrine.Core.Mark.Observations;
using Vitrine.Server.Access;
using Vitrine.Server.Gather.Turns;
using Vitrine.Server.Http;
using Vitrine.Storage.Catalogue;
using Vitrine.Storage.Gather.Corrections;
using Vitrine.Storage.Gather.Sources;
using Vitrine.Storage.Mark.Observations;
using Vitrine.Storage.Media;
using Vitrine.Storage.Trail;

namespace Vitrine.Server.Gather.Corrections;

/// <param name="Text">The whole text as it should be.</param>
/// <param name="BasedOn">The hash of the text that was corrected.</param>
internal sealed record NewSourceText(string Text, string BasedOn);

/// <param name="Start">Where the words begin that are to be replaced, in UTF-16 units.</param>
/// <param name="End">One past their end.</param>
/// <param name="Words">What stands there from now on.</param>
/// <param name="BasedOn">The hash of the text that was corrected.</param>
internal sealed record CorrectedWords(int Start, int End, string Words, string BasedOn);

/// <summary>What becomes of an observation.</summary>
internal sealed record FollowedObservation(ObservationId Id, AnchorFate Fate, string OldWords, string NewWords);

/// <summary>What a correction would do.</summary>
/// <param name="Changes">Places in the text that differ.</param>
/// <param name="Turns">Turns of the corrected text.</param>
/// <param name="NewSpeakers">Names that speak in it and did not before.</param>
/// <param name="Same">Observations that stand on the same words.</param>
/// <param name="Others">Those whose words are changed or gone, in text order.</param>
internal sealed record CorrectionPreview(
    int Changes,
    int Turns,
    IReadOnlyList<string> NewSpeakers,
    int Same,
    IReadOnlyList<FollowedObservation> Others
);

/// <summary>A text to compare with.</summary>
internal sealed record WordsOfSource(string Text);

internal sealed record Looked(IReadOnlyList<ObservationId> ObservationIds);

internal static class CorrectionEndpoints
{
    public static void MapCorrections(this RouteGroupBuilder api)
    {
        var sources = api.MapGroup("/sources/{id:long}").WithTags("Gather").About(Thing.Source);
        sources.MapGet(
            "/first-text",
            (SourceId id, CorrectionStore store, SignedIn me, SourceStore sources) =>
                new WordsOfSource(store.OriginalOf(id) ?? sources.Get(id, me.Id).Text)
        );
        sources.MapPost(
            "/correction-preview",
            (SourceId id, NewSourceText given, SignedIn me, SourceStore store, ObservationStore observations, SourceReading gate) =>
            {
                var source = store.Get(id, me.Id);
                var correction = CorrectionOfSource.Of(gate, source, given.Text, given.BasedOn);
                var followed = observations
                    .In(id, me.Id)
                    .Where(o => o.Anchor is TextAnchor)
                    .Select(o => (o.Id, ((TextAnchor)o.Anchor).Range))
                    .Select(o => (o.Id, o.Range, Now: correction.Moved.Of(o.Range)))
                    .ToList();
                return new CorrectionPreview(
                    correction.Moved.Changes,
                    correction.Turns.Count,
                    [
                        .. correction
                            .Turns.Select(t => t.Speaker)
                            .OfType<string>()
                            .Distinct()
                            .Except(source.Line.Speakers.Select(s => s.Label)),
                    ],
                    followed.Count(f => f.Now.Fate == AnchorFate.Same),
                    [
                        .. followed
                            .Where(f => f.Now.Fate != AnchorFate.Same)
                            .Select(f => new FollowedObservation(
                                f.Id,
                                f.Now.Fate,
                                f.Range.Of(source.Text),
                                f.Now.Range.Of(correction.Moved.After)
                            )),
                    ]
                );
            }
        );
        // The file as it is in the request's body: what its words are, to be looked over before anything is corrected.
        sources.MapPost(
            "/correction-file",
            async (SourceId id, string name, HttpRequest request, SourceStore store, SourceReading gate, MediaFolder media) =>
            {
                var read = await Validate.File(
                    request,
                    media,
                    path => gate.Read(store.StudyOf(id), name, path, request.HttpContext.RequestAborted)
                );
                return new WordsOfSource(read.Text);
            }
        );
        sources.MapPut(
            "/text",
            (SourceId id, NewSourceText given, SignedIn me, SourceStore store, CorrectionStore corrections, SourceReading gate) =>
                corrections.Correct(
                    me.Actor,
                    id,
                    CorrectionOfSource.Of(gate, store.Get(id, me.Id), given.Text, given.BasedOn),
                    gate.TeamNames()
                )
        );
        sources.MapPut(
            "/words",
            (SourceId id, CorrectedWords given, SignedIn me, SourceStore store, CorrectionStore corrections, SourceReading gate) =>
                corrections.Correct(
                    me.Actor,
                    id,
                    Corrected(gate, store.Get(id, me.Id), given.Start, given.End, given.Words, given.BasedOn),
                    gate.TeamNames()
                )
        );

        var study = api.MapGroup("/studies/{studyId:long}/to-look-at").WithTags("Mark");
        study.MapGet("", (StudyId studyId, SignedIn me, CorrectionStore store) => store.ToLookAtIn(studyId, me.Id));
        study.MapPost(
            "/settle",
            (StudyId studyId, Looked given, SignedIn me, CorrectionStore store) =>
                store.Settle(me.Actor, studyId, Validate.Ids(given.ObservationIds, "observation"))
        );
    }

    /// <summary>Words that were written anew in place.</summary>
    private static Correction Corrected(SourceReading gate, Source source, int start, int end, string words, string basedOn) =>
        basedOn == source.TextHash && start >= 0 && end >= start && end <= source.Text.Length
            ? CorrectionOfSource.Of(gate, source, source.Text[..start] + words + source.Text[end..], basedOn)
            : throw new Refusal(
                RefusalKind.Conflict,
                "Someone else has corrected this text meanwhile. What you wrote is still here: copy it, look at the text as it "
                    + "is now, and correct that.",
                "words"
            );
}
