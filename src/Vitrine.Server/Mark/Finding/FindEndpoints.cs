using Vitrine.Core.Counting;
using Vitrine.Core.Mark.Finding;
using Vitrine.Core.Text;
using Vitrine.Server.Access;
using Vitrine.Server.Http;
using Vitrine.Storage.Catalogue;
using Vitrine.Storage.Counting;
using Vitrine.Storage.Mark.Finding;
using Vitrine.Storage.Trail;
using Vitrine.Storage.Weigh.Evidence;

namespace Vitrine.Server.Mark.Finding;

/// <summary>A passage in its context.</summary>
/// <param name="BasedOn">The hash of the text in which it stands.</param>
/// <param name="Before">What stands before it in its turn, shortened.</param>
/// <param name="Hits">Where in <paramref name="Words"/> what was looked for stands.</param>
/// <param name="After">What stands behind it in its turn, shortened.</param>
/// <param name="ObservationIds">Observations that touch it.</param>
internal sealed record PassageShown(
    SourceId SourceId,
    int Start,
    int End,
    string BasedOn,
    ParticipantId? ParticipantId,
    string Before,
    string Words,
    string After,
    IReadOnlyList<TextRange> Hits,
    IReadOnlyList<ObservationId> ObservationIds,
    IReadOnlyList<TagId> TagIds
);

/// <summary>Where a passage stands.</summary>
internal sealed record PassagePlace(SourceId SourceId, int Start, int End, string BasedOn);

/// <summary>What of what was found stands together.</summary>
internal enum FoundGroup
{
    Source,
    Person,
}

/// <summary>What was found.</summary>
/// <param name="Passages">Those of the page.</param>
/// <param name="Complete">Whether these are all; else only the first ones were looked for.</param>
internal sealed record PassagesFound(Breadth Breadth, IReadOnlyList<PassageShown> Passages, bool Complete);

/// <summary>What is to be tagged, and with what.</summary>
/// <param name="Reviewed">Whether each was looked at; else they are found, not reviewed.</param>
/// <param name="Search">The search that stays with the tag; null for none.</param>
internal sealed record TagPassages(
    IReadOnlyList<PassagePlace> Passages,
    IReadOnlyList<TagId> TagIds,
    IReadOnlyList<string> NewTags,
    bool Reviewed,
    KeptSearch? Search = null
);

/// <param name="Typed">What was looked for.</param>
/// <param name="Unit">What a passage is.</param>
/// <param name="Team">Whether words of the team were looked through too.</param>
/// <param name="Whole">Whether all texts of the study were, under no filter.</param>
internal sealed record KeptSearch(string Typed, PassageUnit Unit, bool Team, bool Whole = false);

/// <summary>Observations that were looked for.</summary>
/// <param name="ObservationIds">All of them, in the order that was asked for; in it the pages of quotes come.</param>
internal sealed record ObservationsFound(Breadth Breadth, IReadOnlyList<ObservationId> ObservationIds);

internal sealed record FoundObservations(IReadOnlyList<ObservationId> ObservationIds);

internal sealed record RefusedPassages(IReadOnlyList<PassagePlace> Passages);

/// <summary>A passage that may be meant too, with the words that carried it.</summary>
/// <param name="Unheard">Whether nothing under the tag is of this person yet.</param>
internal sealed record PassageOffered(PassageShown Passage, bool Unheard);

/// <param name="Given">How many observations it began with.</param>
/// <param name="Left">How many passages could be offered at all.</param>
/// <param name="Seeds">The first of these.</param>
internal sealed record PassagesOffered(IReadOnlyList<PassageOffered> Offered, int Given, int Left, IReadOnlyList<Quote> Seeds);

internal static class FindEndpoints
{
    /// <summary>Passages on a page.</summary>
    private const int OfPage = 50;

    /// <summary>How much of a turn is shown around a passage, in characters.</summary>
    private const int Around = 120;

    /// <summary>How many passages are offered at once.</summary>
    private const int Offered = 20;

    /// <summary>How many of the observations that it began with are shown.</summary>
    private const int Seeds = 2;

    /// <summary>So many passages are tagged at once.</summary>
    private const int MostTagged = PassageStore.Most;

    public static void MapFinding(this RouteGroupBuilder api)
    {
        var study = api.MapGroup("/studies/{studyId:long}").WithTags("Mark");
        study.MapGet(
            "/passages",
            (
                StudyId studyId,
                string typed,
                Choice<PassageUnit>? unit,
                bool? team,
                Conditions? where,
                [IdOf(Thing.Tag)] TagId? newForTagId,
                Choice<FoundGroup>? groupBy,
                int? page,
                SignedIn me,
                PassageStore store
            ) =>
            {
                var found = store.Find(studyId, me.Id, Query(typed), Scope(unit, team, where, newForTagId));
                var marked = MarkedText.Of(found.Index);
                return new PassagesFound(
                    found.Breadth,
                    [
                        .. Grouped(found.Passages, groupBy)
                            .Skip(Validate.Page(page ?? 0) * OfPage)
                            .Take(OfPage)
                            .Select(p => Shown(found.Index, marked, p)),
                    ],
                    found.All
                );
            }
        );
        study.MapGet(
            "/passages/places",
            (
                StudyId studyId,
                string typed,
                Choice<PassageUnit>? unit,
                bool? team,
                Conditions? where,
                [IdOf(Thing.Tag)] TagId? newForTagId,
                SignedIn me,
                PassageStore store
            ) =>
                store
                    .Find(studyId, me.Id, Query(typed), Scope(unit, team, where, newForTagId))
                    .Passages.Select(p => new PassagePlace(p.In.Id, p.Words.Start, p.Words.End, p.In.Hash))
        );
        study.MapGet(
            "/observations",
            (StudyId studyId, string? typed, Conditions? where, Choice<FoundGroup>? groupBy, SignedIn me, ObservationFinder finder) =>
            {
                var (index, found) = finder.Find(studyId, me.Id, Query(typed ?? ""), where);
                return new ObservationsFound(
                    Breadth.Of(index.Marks, [.. found], index.InScope),
                    [.. Grouped(index, found, groupBy).Select(o => index.Observations[o])]
                );
            }
        );
        study.MapGet(
            "/observations/quotes",
            (
                StudyId studyId,
                string? typed,
                Conditions? where,
                Choice<FoundGroup>? groupBy,
                int? page,
                SignedIn me,
                ObservationFinder finder,
                QuoteStore quotes
            ) =>
            {
                var (index, found) = finder.Find(studyId, me.Id, Query(typed ?? ""), where);
                return quotes.Page(index, Grouped(index, found, groupBy), Validate.Page(page ?? 0), OfPage);
            }
        );
        study.MapPost(
            "/passages/tags",
            (StudyId studyId, TagPassages given, SignedIn me, FoundStore store) =>
                store.Tag(
                    me.Actor,
                    studyId,
                    Given(given.Passages),
                    given.TagIds,
                    Validate.NewTags(given.NewTags),
                    given.Reviewed,
                    given.Search is { } kept
                        ? (Validate.Text(kept.Typed, "typed", "Type what is looked for."), kept.Unit, kept.Team, kept.Whole)
                        : null
                )
        );
        study.MapGet("/searches", (StudyId studyId, FoundStore store) => store.Searches(studyId));
        study.MapDelete(
            "/searches/{tagSearchId:long}",
            (StudyId studyId, TagSearchId tagSearchId, SignedIn me, FoundStore store) => store.RemoveSearch(me.Actor, studyId, tagSearchId)
        );
        study.MapGet(
            "/found",
            (StudyId studyId, TagId? tagId, int? page, SignedIn me, SeenStudies indexes, QuoteStore quotes) =>
            {
                var index = indexes.Load(studyId, me.Id);
                var place = tagId is { } tag ? index.PlaceOfTag(tag) ?? throw Refusal.Missing(Thing.Tag) : (int?)null;
                List<int> found =
                [
                    .. Enumerable
                        .Range(0, index.Marks.Count)
                        .Where(o => index.Marks.NotReviewed?[o] == true && (place is not { } t || index.Marks.TagsOn(o).Contains(t))),
                ];
                return quotes.Page(index, found, Validate.Page(page ?? 0), OfPage);
            }
        );
        study.MapPost(
            "/observations/accept",
            (StudyId studyId, FoundObservations given, SignedIn me, FoundStore store) =>
                store.Accept(me.Actor, studyId, Validate.Ids(given.ObservationIds, "observation"))
        );
        study.MapPost(
            "/observations/drop",
            (StudyId studyId, FoundObservations given, SignedIn me, FoundStore store) =>
                store.Drop(me.Actor, studyId, Validate.Ids(given.ObservationIds, "observation"))
        );
        study.MapGet(
            "/tags/{tagId:long}/more",
            (
                StudyId studyId,
                TagId tagId,
                [IdOf(Thing.Observation)] ObservationId? likeId,
                ObservationId[]? observationId,
                Choice<PassageUnit>? unit,
                SignedIn me,
                MoreStore store,
                QuoteStore quotes
            ) =>
            {
                var found = store.Find(studyId, me.Id, tagId, likeId, observationId ?? [], Unit(unit), Offered);
                var marked = MarkedText.Of(found.Index);
                return new PassagesOffered(
                    [.. found.Offered.Select(o => new PassageOffered(Shown(found.Index, marked, o.Passage), o.Unheard))],
                    found.Given.Count,
                    found.Left,
                    quotes.Of(found.Index, found.Given.Take(Seeds))
                );
            }
        );
        study.MapPost(
            "/tags/{tagId:long}/refused",
            (StudyId studyId, TagId tagId, RefusedPassages given, SignedIn me, FoundStore store) =>
                store.Refuse(me.Actor, studyId, tagId, Given(given.Passages))
        );
    }

    /// <exception cref="Refusal">It cannot be meant.</exception>
    private static FindQuery? Query(string typed)
    {
        typed = typed.Length <= Limits.Title ? typed : typed[..Limits.Title];
        if (FindQuery.AsksForWithoutBesideOthers(typed))
            throw Refusal.Because("“-word” leaves passages out. Put it beside what you look for, not after | or ~.", "typed");
        return FindQuery.Read(typed);
    }

    private static bool ByPerson(Choice<FoundGroup>? groupBy) => groupBy?.Value == FoundGroup.Person;

    /// <summary>Passages by source and place; or one person's after another's, nobody's last.</summary>
    private static IEnumerable<PlacedPassage> Grouped(IReadOnlyList<PlacedPassage> passages, Choice<FoundGroup>? groupBy) =>
        ByPerson(groupBy) ? passages.OrderBy(p => p.Person ?? int.MaxValue) : passages;

    private static IReadOnlyList<int> Grouped(StudyIndex index, IReadOnlyList<int> found, Choice<FoundGroup>? groupBy) =>
        ByPerson(groupBy) ? index.ByPerson(found) : found;

    private static FindScope Scope(Choice<PassageUnit>? unit, bool? team, Conditions? where, TagId? newFor) =>
        new(Unit(unit), team ?? false, where ?? new Conditions(), newFor);

    private static PassageUnit Unit(Choice<PassageUnit>? unit) => unit?.Value ?? PassageUnit.Sentence;

    private static List<PassageGiven> Given(IReadOnlyList<PassagePlace> passages)
    {
        if (passages.Count == 0)
            throw Refusal.Because("Choose the passages first.", "passages");
        if (passages.Count > MostTagged)
            throw Refusal.Because($"These are more than {MostTagged:N0} passages. Look for less at once.", "passages");
        return [.. passages.Select(p => new PassageGiven(p.SourceId, p.Start, p.End, p.BasedOn)).Distinct()];
    }

    private static PassageShown Shown(StudyIndex index, MarkedText marked, PlacedPassage passage)
    {
        var (text, words) = (passage.In.Text.Text, passage.Words);
        var turn = passage.In.Text.Turns.First(t => t.Words.Touches(words)).Words.Cover(words);
        var touching = marked.Touching(passage.Source, words).ToList();
        return new PassageShown(
            passage.In.Id,
            words.Start,
            words.End,
            passage.In.Hash,
            passage.Person is { } person ? index.People[person] : null,
            Excerpt.Ending(text[turn.Start..words.Start], Around),
            words.Of(text),
            Excerpt.Beginning(text[words.End..turn.End], Around),
            [.. passage.Hits.Where(h => h.Start >= words.Start && h.End <= words.End).Select(h => h.Shift(-words.Start))],
            [.. touching.Select(o => index.Observations[o])],
            [.. touching.SelectMany(o => index.Marks.TagsOn(o).ToArray()).Distinct().Select(t => index.Tags[t])]
        );
    }
}
