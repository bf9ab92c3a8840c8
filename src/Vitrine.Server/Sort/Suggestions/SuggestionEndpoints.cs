using Vitrine.Core.Sort.Suggestions;
using Vitrine.Server.Access;
using Vitrine.Server.Http;
using Vitrine.Storage.Catalogue;
using Vitrine.Storage.Sort.Suggestions;
using Vitrine.Storage.Trail;

namespace Vitrine.Server.Sort.Suggestions;

/// <param name="SuggestedGroupId">The group that is meant; null for the one in which it lies.</param>
internal sealed record SuggestionAnswered(SuggestedItemId SuggestedItemId, SuggestedGroupId? SuggestedGroupId);

/// <param name="Answer">For all of them; <c>open</c> with another group puts them there.</param>
internal sealed record SuggestionAnswers(IReadOnlyList<SuggestionAnswered> Items, SuggestionAnswer Answer);

internal sealed record PuttingAway(bool PutAway);

internal static class SuggestionEndpoints
{
    public static void MapSuggestions(this RouteGroupBuilder api)
    {
        var study = api.MapGroup("/studies/{studyId:long}/suggestions").WithTags("Sort");
        study.MapGet("", (StudyId studyId, SignedIn me, SuggestionStore store) => store.In(studyId, me.Id));
        study.MapPost(
            "",
            (StudyId studyId, SuggestionAsked given, SignedIn me, Suggesting suggesting) => suggesting.Make(me.Actor, studyId, given)
        );

        var suggestion = api.MapGroup("/suggestions/{id:long}").WithTags("Sort").About(Thing.Suggestion);
        suggestion.MapGet("", (SuggestionId id, SignedIn me, SuggestionViews views) => views.Of(id, me.Id));
        suggestion.MapGet(
            "/quotes",
            (SuggestionId id, ObservationId[] observationId, SignedIn me, SuggestionViews views) =>
                views.Quotes(id, me.Id, [.. observationId.Take(Limits.QuotesOnPage)])
        );
        suggestion.MapGet(
            "/told",
            (SuggestionId id, SuggestedGroupId suggestedGroupId, SignedIn me, SuggestionViews views) =>
                views.Told(id, me.Id, suggestedGroupId)
        );
        suggestion.MapPost(
            "/answers",
            (SuggestionId id, SuggestionAnswers given, SignedIn me, SuggestionStore store) =>
                store.Answer(
                    me.Actor,
                    id,
                    given.Items is { Count: > 0 } items
                        ? [.. items.Select(i => new AnsweredItem(i.SuggestedItemId, i.SuggestedGroupId))]
                        : throw Refusal.Because("Choose at least one.", "items"),
                    given.Answer
                )
        );
        suggestion.MapPost("/groups", (SuggestionId id, SignedIn me, SuggestionStore store) => store.AddGroup(me.Actor, id));
        suggestion.MapPut(
            "/put-away",
            (SuggestionId id, PuttingAway given, SignedIn me, SuggestionStore store) => store.PutAway(me.Actor, id, given.PutAway)
        );

        var group = api.MapGroup("/suggested-groups/{id:long}").WithTags("Sort").About(Thing.SuggestedGroup);
        group.MapPut(
            "/title",
            (SuggestedGroupId id, NewText given, SignedIn me, SuggestionStore store) =>
                store.RewriteTitle(me.Actor, id, given.Was, Validate.Optional(given.Text, "text", Limits.Title).ReplaceLineEndings(" "))
        );
    }
}
