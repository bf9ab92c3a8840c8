using Dapper;
using Microsoft.Data.Sqlite;
using Vitrine.Core.Sort.Suggestions;
using Vitrine.Storage.Sort.Themes;
using Vitrine.Storage.Sql;
using Vitrine.Storage.Trail;

namespace Vitrine.Storage.Sort.Suggestions;

/// <summary>
/// Suggestions that were asked for, and what was answered. Nothing is applied by them but what is accepted; what was refused is remembered.
/// </summary>
public sealed class SuggestionStore(Workspace workspace)
{
    // What hangs on an observation that the viewer may not see is not there for them.
    private const string Seen = "(i.observation_id IS NULL OR EXISTS (SELECT 1 FROM observation o WHERE o.id = i.observation_id))";

    // What was accepted and whose theme has gone since is open again.
    private const string Held =
        "(i.answer <> 'accepted' OR EXISTS (SELECT 1 FROM suggested_group g WHERE g.id = i.suggested_group_id AND g.theme_id IS NOT NULL))";

    private const string Heads = $"""
        SELECT s.id, s.study_id, s.kind, s.theme_id, s.put_away, a.name AS created_by, s.created_at,
          (SELECT count(*) FROM suggested_item i WHERE i.suggestion_id = s.id AND {Seen}) AS items,
          (SELECT count(*) FROM suggested_item i WHERE i.suggestion_id = s.id AND {Seen}
            AND i.answer IN ('accepted', 'refused') AND {Held}) AS answered
        FROM suggestion s JOIN account a ON a.id = s.created_by
        """;

    /// <summary>The suggestions of a study, the latest first.</summary>
    public IReadOnlyList<Suggestion> In(StudyId studyId, AccountId viewer)
    {
        using var connection = workspace.OpenFor(viewer);
        return connection
            .Query<Suggestion>($"{Heads} WHERE s.study_id = @studyId ORDER BY s.put_away, s.id DESC", new { studyId })
            .ToList();
    }

    /// <summary>Suggestions with all that is in them, as far as the viewer may see it.</summary>
    public SuggestionWhole Get(SuggestionId id, AccountId viewer)
    {
        using var connection = workspace.OpenFor(viewer);
        using var snapshot = connection.BeginTransaction(deferred: true);
        var head =
            connection.QueryFirstOrDefault<Suggestion>($"{Heads} WHERE s.id = @id", new { id }) ?? throw Refusal.Missing("suggestion");
        return new SuggestionWhole(
            head,
            connection
                .Query<SuggestedGroupRow>(
                    """
                    SELECT g.id, g.theme_id, coalesce(t.title, g.title) AS title
                    FROM suggested_group g LEFT JOIN theme t ON t.id = g.theme_id WHERE g.suggestion_id = @id ORDER BY g.position, g.id
                    """,
                    new { id }
                )
                .ToList(),
            connection
                .Query<SuggestedItemRow>(
                    $"""
                    SELECT i.id, i.suggested_group_id AS group_id, i.pile, i.tag_id, i.observation_id,
                      CASE WHEN {Held} THEN i.answer ELSE 'open' END AS answer
                    FROM suggested_item i WHERE i.suggestion_id = @id AND {Seen} ORDER BY i.id
                    """,
                    new { id }
                )
                .ToList()
        );
    }

    public StudyId StudyOf(SuggestionId id)
    {
        using var connection = workspace.Open();
        return connection.QueryFirstOrDefault<long?>("SELECT study_id FROM suggestion WHERE id = @id", new { id })
            ?? throw Refusal.Missing("suggestion");
    }

    /// <summary>What was refused in a study, group by group.</summary>
    public IReadOnlyList<RefusedGroup> Refused(StudyId studyId, AccountId viewer)
    {
        using var connection = workspace.OpenFor(viewer);
        return connection
            .Query<(SuggestedGroupId Group, ThemeId? Theme, TagId? Tag, ObservationId? Observation, bool Refused)>(
                $"""
                SELECT g.id, g.theme_id, i.tag_id, i.observation_id, i.answer = 'refused'
                FROM suggested_item i JOIN suggested_group g ON g.id = i.suggested_group_id JOIN suggestion s ON s.id = g.suggestion_id
                WHERE s.study_id = @studyId AND {Seen}
                  AND EXISTS (SELECT 1 FROM suggested_item r WHERE r.suggested_group_id = g.id AND r.answer = 'refused') ORDER BY i.id
                """,
                new { studyId }
            )
            .GroupBy(i => (i.Group, i.Theme))
            .Select(g => new RefusedGroup(
                [.. g.Where(i => i.Refused).Select(i => new Suggested(i.Tag, i.Observation))],
                [.. g.Select(i => new Suggested(i.Tag, i.Observation))],
                g.Key.Theme
            ))
            .ToList();
    }

    /// <summary>Keeps suggestions, as one step.</summary>
    public Step Make(
        Actor actor,
        StudyId studyId,
        SuggestionKind kind,
        ThemeId? themeId,
        IReadOnlyList<NewSuggestedGroup> groups,
        IReadOnlyList<NewSuggestedItem> items
    ) =>
        workspace.Write(
            actor,
            studyId,
            kind switch
            {
                SuggestionKind.Themes => "Asked for themes",
                SuggestionKind.Placing => "Asked in which themes things belong",
                _ => "Asked for parts",
            },
            writing =>
            {
                var id = writing.Insert(
                    "suggestion",
                    new
                    {
                        studyId,
                        kind,
                        themeId,
                    }
                );
                var ids = groups.Select((g, at) => AddGroup(writing, id, at, g.ThemeId)).ToList();
                writing.InsertAll(
                    "suggested_item",
                    ["suggestion_id", "suggested_group_id", "pile", "tag_id", "observation_id"],
                    [
                        .. items.Select(i =>
                            (object?[])[id, i.Group is { } at ? ids[at] : null, i.Pile, i.Thing.TagId?.Value, i.Thing.ObservationId?.Value]
                        ),
                    ]
                );
                return id;
            }
        );

    /// <summary>
    /// Answers, as one step. What is accepted is laid in the theme of its group; a group that is none becomes one. What is put into another
    /// group that is no theme yet waits there.
    /// </summary>
    /// <exception cref="Refusal">A thing or a group is not of these suggestions, or a thing lies in no group.</exception>
    public Step Answer(Actor actor, SuggestionId id, IReadOnlyList<AnsweredItem> answered, SuggestionAnswer answer)
    {
        var studyId = StudyOf(id);
        return workspace.Write(
            actor,
            studyId,
            "Answered suggestions",
            writing =>
            {
                var head = writing.Connection.QuerySingle<Suggestion>($"{Heads} WHERE s.id = @id", new { id });
                var there = writing
                    .Connection.Query<SuggestedItemRow>(
                        """
                        SELECT id, suggested_group_id AS group_id, pile, tag_id, observation_id, answer FROM suggested_item
                        WHERE suggestion_id = @id
                        """,
                        new { id }
                    )
                    .ToDictionary(i => i.Id);
                var groups = writing
                    .Connection.Query<SuggestedGroupRow>(
                        "SELECT id, title, theme_id FROM suggested_group WHERE suggestion_id = @id",
                        new { id }
                    )
                    .ToDictionary(g => g.Id);
                if (answered.Any(a => !there.ContainsKey(a.ItemId) || (a.GroupId is { } g && !groups.ContainsKey(g))))
                    throw Refusal.Because("One of these is not suggested any more. Go on with the next.", "items");
                if (
                    answered.Any(a =>
                        IsLaid(there[a.ItemId]) && (answer != SuggestionAnswer.Accepted || Into(a) != there[a.ItemId].GroupId)
                    )
                )
                    throw Refusal.Because("It lies in its theme already. Take it out there, or undo the step.", "items");
                writing.Label = Label(answer, answered.Count);
                foreach (var into in answered.DistinctBy(a => a.ItemId).GroupBy(Into))
                {
                    var items = into.Select(a => there[a.ItemId]).ToList();
                    if (into.Key is null && answer is SuggestionAnswer.Accepted or SuggestionAnswer.Refused)
                        throw Refusal.Because("Say first in which theme it belongs, or does not.", "items");
                    if (answer == SuggestionAnswer.Accepted)
                        Accept(writing, head, groups[into.Key!.Value], items);
                    Change(writing, [.. items.Where(i => i.GroupId != into.Key)], "suggested_group_id", into.Key?.Value);
                    Change(writing, [.. items.Where(i => i.Answer != answer)], "answer", StoredName.Of(answer));
                    // Where somebody has put it, it is sure.
                    if (into.Key is not null && answer is SuggestionAnswer.Open or SuggestionAnswer.Accepted)
                        Change(writing, [.. items.Where(i => i.Pile != SuggestedPile.Fits)], "pile", StoredName.Of(SuggestedPile.Fits));
                }
                return id.Value;

                // What is left for later lies where it lay.
                SuggestedGroupId? Into(AnsweredItem a) => (answer == SuggestionAnswer.Later ? null : a.GroupId) ?? there[a.ItemId].GroupId;

                bool IsLaid(SuggestedItemRow item) =>
                    item.Answer == SuggestionAnswer.Accepted && item.GroupId is { } g && groups[g].ThemeId is not null;
            }
        );
    }

    /// <summary>Rewrites the claim of a group: of the theme that it is, where it is one.</summary>
    public Step RewriteTitle(Actor actor, SuggestedGroupId id, string was, string text)
    {
        using var connection = workspace.Open();
        var studyId =
            connection.QueryFirstOrDefault<StudyId?>(
                "SELECT s.study_id FROM suggested_group g JOIN suggestion s ON s.id = g.suggestion_id WHERE g.id = @id",
                new { id }
            ) ?? throw Refusal.Missing("suggested group");
        return workspace.Write(
            actor,
            studyId,
            "Wrote the claim of a suggested theme",
            writing =>
            {
                // It may have become a theme while the text was on its way.
                var themeId = writing.Connection.QuerySingleOrDefault<long?>(
                    "SELECT theme_id FROM suggested_group WHERE id = @id",
                    new { id }
                );
                writing.Rewrite(themeId is null ? "suggested_group" : "theme", themeId ?? id.Value, "title", was, text);
                return id.Value;
            }
        );
    }

    /// <summary>Adds a group in which nothing lies yet.</summary>
    public Step AddGroup(Actor actor, SuggestionId id) =>
        workspace.Write(
            actor,
            StudyOf(id),
            "Added a group to suggestions",
            writing =>
                AddGroup(
                    writing,
                    id.Value,
                    writing.Connection.ExecuteScalar<int>("SELECT count(*) FROM suggested_group WHERE suggestion_id = @id", new { id }),
                    null
                )
        );

    /// <summary>Puts suggestions away, or takes them out again. What was refused in them stays refused.</summary>
    public Step PutAway(Actor actor, SuggestionId id, bool putAway) =>
        workspace.Write(
            actor,
            StudyOf(id),
            putAway ? "Put suggestions away" : "Took suggestions out again",
            writing =>
            {
                writing.Update("suggestion", id.Value, new { putAway });
                return id.Value;
            }
        );

    private static long AddGroup(Writing writing, long suggestionId, int position, ThemeId? themeId) =>
        writing.Insert(
            "suggested_group",
            new
            {
                suggestionId,
                position,
                themeId,
            }
        );

    private static void Accept(Writing writing, Suggestion head, SuggestedGroupRow group, IReadOnlyList<SuggestedItemRow> items)
    {
        var observations = items.Select(i => i.ObservationId).OfType<ObservationId>().ToList();
        var tags = items.Select(i => i.TagId).OfType<TagId>().ToList();
        var themeId = group.ThemeId;
        if (themeId is null)
        {
            themeId = ThemeStore.Add(writing, head.StudyId, group.Title, "", head.ThemeId);
            writing.Update("suggested_group", group.Id.Value, new { themeId });
        }
        if (head.ThemeId is { } from)
            ThemeStore.Move(writing, from, themeId.Value, observations);
        ThemeStore.Lay(writing, themeId.Value, new Laid(observations, tags), null);
    }

    private static void Change(Writing writing, IReadOnlyList<SuggestedItemRow> items, string column, object? value) =>
        writing.UpdateEach("suggested_item", [.. items.Select(i => i.Id.Value)], column, value);

    private static string Label(SuggestionAnswer answer, int count) =>
        (answer, count) switch
        {
            (SuggestionAnswer.Accepted, 1) => "Accepted a suggestion",
            (SuggestionAnswer.Accepted, _) => $"Accepted {count} suggestions",
            (SuggestionAnswer.Refused, 1) => "Said no to a suggestion",
            (SuggestionAnswer.Refused, _) => $"Said no to {count} suggestions",
            (SuggestionAnswer.Later, _) => "Left a suggestion for later",
            _ => "Put a suggestion elsewhere",
        };
}
