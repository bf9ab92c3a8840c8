using Vitrine.Core.Sort.TagSet;
using Vitrine.Server.Access;
using Vitrine.Server.Http;
using Vitrine.Storage.Catalogue;
using Vitrine.Storage.Counting;
using Vitrine.Storage.Sort.TagSet;
using Vitrine.Storage.Trail;
using Vitrine.Storage.Weigh.Evidence;

namespace Vitrine.Server.Sort.TagSet;

/// <param name="Several">Whether an observation may go to several trays.</param>
internal sealed record SplitMode(bool Several);

/// <param name="TagId">The tag; null for a new one.</param>
/// <param name="Name">The name of a new one, made when the split is done; a name that is taken means the tag that has it.</param>
internal sealed record TrayTag([IdOf(Thing.Tag)] TagId? TagId, string? Name);

/// <param name="ObservationIds">What is decided of, at once.</param>
/// <param name="Trays">Numbers of trays, for those that go to some.</param>
internal sealed record SplitDecided(IReadOnlyList<ObservationId> ObservationIds, SplitOutcome Outcome, IReadOnlyList<int> Trays);

/// <param name="Keep">Whether the wide tag stays above the narrower ones; else it goes when nothing is left on it.</param>
internal sealed record SplitEnd(bool Keep);

/// <summary>An observation as it lies on the desk.</summary>
/// <param name="Context">The words around it; null for one that does not stand in words.</param>
/// <param name="Hint">Where it may belong; null for no hint.</param>
internal sealed record SplitItem(Quote Quote, QuoteContext? Context, HintedTray? Hint);

internal static class SplitEndpoints
{
    /// <summary>At most so many items are given at once.</summary>
    private const int MostItems = 200;

    /// <summary>Hints learn from the latest so many.</summary>
    private const int MostLearnt = 500;

    public static void MapSplits(this RouteGroupBuilder api)
    {
        var split = api.MapGroup("/studies/{studyId:long}/tags/{tagId:long}/split").WithTags("Tag set");
        split.MapGet("", (StudyId studyId, TagId tagId, SignedIn me, SplitStore store) => store.Get(studyId, tagId, me.Id));
        split.MapPut(
            "",
            (StudyId studyId, TagId tagId, SplitMode given, SignedIn me, SplitStore store) =>
            {
                store.SetSeveral(studyId, tagId, given.Several);
                return store.Get(studyId, tagId, me.Id);
            }
        );
        split.MapPut(
            "/trays/{number:int}",
            (StudyId studyId, TagId tagId, int number, TrayTag given, SignedIn me, SplitStore store) =>
            {
                store.SetTray(studyId, tagId, number, given.TagId, given.Name is { Length: > 0 } ? Validate.TagNameOf(given.Name) : null);
                return store.Get(studyId, tagId, me.Id);
            }
        );
        split.MapDelete(
            "/trays/{number:int}",
            (StudyId studyId, TagId tagId, int number, SignedIn me, SplitStore store) =>
            {
                store.RemoveTray(studyId, tagId, number);
                return store.Get(studyId, tagId, me.Id);
            }
        );
        split.MapPost(
            "/decisions",
            (StudyId studyId, TagId tagId, SplitDecided given, SignedIn me, SplitStore store) =>
            {
                // All that hold a word may be more than a list that is chosen by hand.
                var ids = given.ObservationIds is { Count: > 0 } some
                    ? some
                    : throw Refusal.Because("Choose at least one observation.", "observationIds");
                store.Decide(studyId, tagId, ids, given.Outcome, given.Trays);
                return store.Get(studyId, tagId, me.Id);
            }
        );
        split.MapDelete(
            "/decisions/last",
            (StudyId studyId, TagId tagId, SignedIn me, SplitStore store) =>
            {
                store.Back(studyId, tagId);
                return store.Get(studyId, tagId, me.Id);
            }
        );
        split.MapPost(
            "/finish",
            (StudyId studyId, TagId tagId, SplitEnd given, SignedIn me, SplitTag ending) =>
                ending.Finish(me.Actor, studyId, tagId, given.Keep)
        );
        split.MapGet(
            "/items",
            (
                StudyId studyId,
                TagId tagId,
                ObservationId[] observationId,
                SignedIn me,
                SplitStore store,
                SeenStudies indexes,
                QuoteStore quotes,
                ContextStore contexts
            ) =>
            {
                var index = indexes.Load(studyId, me.Id);
                var places = observationId.Take(MostItems).Select(index.PlaceOfObservation).OfType<int>().ToList();
                var found = quotes.Of(index, places);
                var around = contexts.Of([.. found.Select(q => q.ObservationId)], me.Id).ToDictionary(c => c.ObservationId);
                var sent = store
                    .Get(studyId, tagId, me.Id)
                    .Decisions.Where(d => d.Outcome == SplitOutcome.Trays)
                    .TakeLast(MostLearnt)
                    .ToList();
                var words = quotes
                    .Of(index, sent.Select(d => index.PlaceOfObservation(d.ObservationId)).OfType<int>())
                    .ToDictionary(q => q.ObservationId, q => TrayHint.TermsOf(q.Words));
                var hints = new TrayHint(
                    sent.Where(d => words.ContainsKey(d.ObservationId)).SelectMany(d => d.Trays.Select(t => (words[d.ObservationId], t)))
                );
                return found.Select(q => new SplitItem(
                    q,
                    q.Gone ? null : around.GetValueOrDefault(q.ObservationId),
                    hints.For(TrayHint.TermsOf(q.Words))
                ));
            }
        );
        split.MapGet(
            "/holding",
            (
                StudyId studyId,
                TagId tagId,
                string? words,
                ParticipantId? participantId,
                SignedIn me,
                SplitStore store,
                SeenStudies indexes,
                QuoteStore quotes
            ) =>
            {
                var index = indexes.Load(studyId, me.Id);
                var shown = store.Get(studyId, tagId, me.Id);
                var decided = shown.Decisions.Select(d => d.ObservationId).ToHashSet();
                var left = shown.Observations.Where(o => !decided.Contains(o)).Select(index.PlaceOfObservation).OfType<int>();
                if (participantId is { } person)
                    left = left.Where(o => index.PersonOf(o) == person);
                var wanted = Validate.Optional(words, "words", Limits.Title);
                return wanted.Length == 0
                    ? left.Select(o => index.Observations[o])
                    : quotes.Of(index, left).Where(q => TrayHint.Holds(q.Words, wanted)).Select(q => q.ObservationId);
            }
        );
    }
}
