using Vitrine.Core.Gather.Privacy;
using Vitrine.Core.Text;
using Vitrine.Server.Access;
using Vitrine.Server.Http;
using Vitrine.Server.Jobs;
using Vitrine.Storage.Catalogue;
using Vitrine.Storage.Gather.Participants;
using Vitrine.Storage.Gather.Privacy;
using Vitrine.Storage.Gather.Sources;
using Vitrine.Storage.Jobs;
using Vitrine.Storage.Media;
using Vitrine.Storage.Trail;

namespace Vitrine.Server.Gather.Privacy;

/// <param name="SourceIds">Where to look; empty for the whole study.</param>
/// <param name="Words">Words or phrases to find beside names, addresses and numbers.</param>
internal sealed record DetailsWanted(IReadOnlyList<SourceId> SourceIds, IReadOnlyList<string> Words);

/// <summary>One place at which something gives a person away, with the words around it.</summary>
/// <param name="SourceId">In which source.</param>
/// <param name="Start">Where, in UTF-16 units of its text.</param>
/// <param name="End">One past it.</param>
/// <param name="Before">Words before it, for reading.</param>
/// <param name="After">Words after it.</param>
/// <param name="MaskId">The mask that stands over it already, or null.</param>
internal sealed record DetailPlace(SourceId SourceId, int Start, int End, string Before, string After, MaskId? MaskId);

/// <summary>The same words wherever they were found.</summary>
internal sealed record DetailGroup(DetailKind Kind, string Words, string Replacement, IReadOnlyList<DetailPlace> Places);

internal sealed record MasksGiven(IReadOnlyList<NewMask> Masks);

/// <summary>Words that look like a name or a masked word, as an exhibit shows them.</summary>
/// <param name="Context">By what they are known again.</param>
/// <param name="Words">As they stand.</param>
/// <param name="Stands">Whether readers see them.</param>
internal sealed record StandsGiven(string Context, string Words, bool Stands);

internal sealed record MasksTaken([IdOf(Thing.Mask)] IReadOnlyList<MaskId> Ids);

/// <param name="Start">Where, in UTF-16 units of the source's text.</param>
/// <param name="End">One past it.</param>
internal sealed record StretchGiven(int Start, int End);

/// <summary>What becomes of a source in which others take part too.</summary>
/// <param name="SourceId">Which.</param>
/// <param name="What">One of the choices that it has.</param>
/// <param name="Ranges">Words that are taken out with <c>takeOut</c>.</param>
/// <param name="BasedOn">The hash of the text in which they stand.</param>
internal sealed record SharedGiven(
    SourceId SourceId,
    SharedOutcome What,
    IReadOnlyList<StretchGiven>? Ranges = null,
    string? BasedOn = null
);

/// <param name="Code">The participant's code, typed again.</param>
/// <param name="Shared">What becomes of the sources that have choices.</param>
internal sealed record ErasureConfirmed(string Code, IReadOnlyList<SharedGiven>? Shared = null);

internal static class PrivacyEndpoints
{
    private const int WordsAround = 48;
    private const int MostGiven = 100;

    public static void MapPrivacy(this RouteGroupBuilder api)
    {
        var study = api.MapGroup("/studies/{studyId:long}").WithTags("Gather");
        study.MapPost(
            "/privacy/find",
            (StudyId studyId, DetailsWanted given, SignedIn me, SourceStore sources, ParticipantStore participants, MaskStore masks) =>
            {
                if (given.Words.Count > MostGiven)
                    throw Refusal.Because($"Give {MostGiven} words at most at once.", "words");
                var words = given.Words.Select(w => Validate.Optional(w, "words", Limits.Name)).ToList();
                var (named, over) = (participants.Named([studyId]), masks.In(studyId).ToLookup(m => m.SourceId));
                return sources
                    .TextsIn(studyId)
                    .Where(s => given.SourceIds.Count == 0 || given.SourceIds.Contains(s.Id))
                    .SelectMany(s =>
                        PersonalDetails
                            .Find(s.Text, named, words)
                            .Select(found => (Found: found, Place: PlaceOf(s.Id, s.Text, found, over[s.Id])))
                    )
                    .GroupBy(f => (f.Found.Kind, Words: f.Found.Words.ToLowerInvariant(), f.Found.Replacement))
                    .Select(g => new DetailGroup(g.Key.Kind, g.First().Found.Words, g.Key.Replacement, [.. g.Select(f => f.Place)]))
                    .OrderBy(g => g.Kind)
                    .ThenByDescending(g => g.Places.Count)
                    .ToList();
            }
        );
        var source = api.MapGroup("/sources/{id:long}").WithTags("Gather").About(Thing.Source);
        source.MapGet("/protection", (SourceId id, ProtectionStore store) => store.Of(id));
        source.MapPut(
            "/protection",
            (SourceId id, Protection given, SignedIn me, SourceStore sources, ProtectionStore store) =>
            {
                if (sources.MediaOf(id) is not { IsMedia: true })
                    throw Refusal.Because("This source is neither a recording nor a picture. Mask its words instead.", "id");
                if (given.Covers.Count > Cover.Most)
                    throw Refusal.Because($"A source has {Cover.Most} covers at most.", "covers");
                if (given.Covers.Any(c => !c.IsSound))
                    throw Refusal.Because("A cover lies inside the picture, and ends after it begins.", "covers");
                return store.Set(me.Actor, sources.StudyOf(id), id, given);
            }
        );
        study.MapGet("/masks", (StudyId studyId, MaskStore store) => store.In(studyId));
        study.MapPost(
            "/masks",
            (StudyId studyId, MasksGiven given, SignedIn me, MaskStore store) =>
            {
                if (given.Masks.Count is 0 or > Limits.ListLength)
                    throw Refusal.Because("Choose at least one place to mask.", "masks");
                return store.Mask(
                    me.Actor,
                    studyId,
                    [
                        .. given.Masks.Select(m =>
                            m with
                            {
                                Replacement = Validate.Text(
                                    m.Replacement,
                                    "replacement",
                                    "Say what readers see instead, such as a made-up name.",
                                    Limits.Name
                                ),
                            }
                        ),
                    ]
                );
            }
        );
        study
            .MapPut(
                "/let-stand",
                (StudyId studyId, StandsGiven given, SignedIn me, LetStandStore store) =>
                    store.Set(
                        me.Actor,
                        studyId,
                        Validate.Text(given.Context, "context", "Say which words stand.", Limits.Title),
                        Validate.Text(given.Words, "words", "Say which words stand.", Limits.Title),
                        given.Stands
                    )
            )
            .RequireAuthorization(AccessEndpoints.Publishers);
        study
            .MapPost(
                "/masks/take-off",
                (StudyId studyId, MasksTaken given, SignedIn me, MaskStore store) =>
                    store.Unmask(me.Actor, studyId, Validate.Ids(given.Ids, "mask"))
            )
            .RequireAuthorization(AccessEndpoints.Publishers);
        study
            .MapGet(
                "/participants/{id:long}/touched",
                (StudyId studyId, ParticipantId id, SignedIn me, WithdrawalStore store) => store.Touches(studyId, id, me.Viewer)
            )
            .About(Thing.Participant);
        study
            .MapPost(
                "/participants/{id:long}/erase",
                async (
                    StudyId studyId,
                    ParticipantId id,
                    ErasureConfirmed given,
                    SignedIn me,
                    ParticipantStore participants,
                    Erasure erasure,
                    ErasedFiles files,
                    JobStore jobs,
                    JobRunner runner,
                    CancellationToken cancel
                ) =>
                {
                    var person = participants.In(studyId).People.FirstOrDefault(p => p.Id == id) ?? throw Refusal.Missing("participant");
                    if (!string.Equals(given.Code.Trim(), person.Code, StringComparison.OrdinalIgnoreCase))
                        throw Refusal.Because($"Type {person.Code} to erase what is theirs. It cannot be undone.", "code");
                    if ((given.Shared ?? []).Any(s => (s.Ranges ?? []).Any(r => r.Start < 0 || r.End <= r.Start)))
                        throw Refusal.Because("Words that are taken out end after they begin. Tick them again.", "shared");
                    List<SharedDecision> shared =
                    [
                        .. (given.Shared ?? []).Select(s => new SharedDecision(
                            s.SourceId,
                            s.What,
                            [.. (s.Ranges ?? []).Select(r => new TextRange(r.Start, r.End))],
                            s.BasedOn
                        )),
                    ];
                    erasure.Check(studyId, id, shared);
                    var instead = await files.Make(studyId, id, shared, cancel);
                    erasure.Erase(me.Actor, studyId, id, shared, instead);
                    foreach (var (source, file) in instead.Where(f => !f.Value.Type.StartsWith("image/", StringComparison.Ordinal)))
                        jobs.Add(studyId, me.Id, JobKind.Recording, JobState.Waiting, file.Name, file.Bytes, "", "{}", file.Hash, source);
                    runner.Wake();
                    return TypedResults.NoContent();
                }
            )
            .RequireAuthorization(AccessEndpoints.Publishers)
            .About(Thing.Participant);
        api.MapGet("/sources/{id:long}/masks", (SourceId id, MaskStore store) => store.Of(id)).WithTags("Gather").About(Thing.Source);
    }

    private static DetailPlace PlaceOf(SourceId sourceId, string text, FoundDetail found, IEnumerable<StoredMask> masks)
    {
        var (start, end) = (found.Range.Start, found.Range.End);
        var (from, to) = (Math.Max(0, start - WordsAround), Math.Min(text.Length, end + WordsAround));
        var over = masks.FirstOrDefault(m => m.Start <= start && m.End >= end);
        return new DetailPlace(sourceId, start, end, FromWord(Line(text[from..start]), cut: from > 0), Line(text[end..to]), over?.Id);
    }

    /// <summary>The words without the rest of one that was cut.</summary>
    private static string FromWord(string words, bool cut) =>
        cut && words.IndexOf(' ') is >= 0 and var space ? words[(space + 1)..] : words;

    private static string Line(string words) => words.Replace('\n', ' ');
}
