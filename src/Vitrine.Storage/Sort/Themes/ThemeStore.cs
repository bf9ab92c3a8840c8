using Dapper;
using Microsoft.Data.Sqlite;
using Vitrine.Core.Mark.Observations;
using Vitrine.Core.Weigh.Evidence;
using Vitrine.Storage.Sql;
using Vitrine.Storage.Trail;

namespace Vitrine.Storage.Sort.Themes;

/// <summary>Themes and what lies in them.</summary>
public sealed class ThemeStore(Workspace workspace)
{
    /// <summary>The themes of a study in their order, with what the viewer may see of what was laid in them.</summary>
    public IReadOnlyList<Theme> In(StudyId studyId, AccountId viewer)
    {
        using var connection = workspace.OpenFor(viewer);
        using var snapshot = connection.BeginTransaction(deferred: true);
        return In(connection, studyId);
    }

    /// <summary>The themes of a study in their order, without what lies in them.</summary>
    private static List<Theme> Heads(SqliteConnection connection, StudyId studyId) =>
        connection
            .Query<Theme>(
                """
                SELECT id, parent_id, title, description, colour, position, version FROM theme WHERE study_id = @studyId
                ORDER BY position, id
                """,
                new { studyId }
            )
            .ToList();

    private static List<Theme> In(SqliteConnection connection, StudyId studyId)
    {
        var themes = Heads(connection, studyId);
        var byId = themes.ToDictionary(t => t.Id);
        foreach (var (theme, tag) in Of<(long, long)>("theme_tag", "tag_id"))
            byId[theme].TagIds.Add(tag);
        foreach (var (theme, observation, stance) in Of<(long, long, string)>("theme_observation", "observation_id, x.stance"))
            byId[theme].Observations.Add(observation, Enum.Parse<Stance>(stance, ignoreCase: true));
        foreach (var (theme, question) in Of<(long, long)>("theme_question", "research_question_id"))
            byId[theme].QuestionIds.Add(question);
        return themes;

        IEnumerable<T> Of<T>(string table, string columns) =>
            connection.Query<T>(
                $"""
                SELECT x.theme_id, x.{columns} FROM {table} x JOIN theme t ON t.id = x.theme_id
                WHERE t.study_id = @studyId ORDER BY x.id
                """,
                new { studyId }
            );
    }

    public StudyId StudyOf(ThemeId id)
    {
        using var connection = workspace.Open();
        return connection.QueryFirstOrDefault<long?>("SELECT study_id FROM theme WHERE id = @id", new { id })
            ?? throw Refusal.Missing("theme");
    }

    /// <summary>Makes a theme, the last of its place, with first contents where given, as one step.</summary>
    public Step Make(
        Actor actor,
        StudyId studyId,
        string title,
        string description,
        ThemeId? parentId,
        IReadOnlyList<ObservationId> observationIds,
        IReadOnlyList<TagId> tagIds
    ) =>
        workspace.Write(
            actor,
            studyId,
            title.Length == 0 ? "Made a theme" : $"Made the theme “{title}”",
            writing =>
            {
                var id = Add(writing, studyId, title, description, parentId);
                Lay(writing, id, new Laid(observationIds, tagIds), null);
                return id.Value;
            }
        );

    /// <summary>Adds a theme in which nothing lies yet, the last of its place.</summary>
    internal static ThemeId Add(Writing writing, StudyId studyId, string title, string description, ThemeId? parentId)
    {
        var position = writing.Connection.ExecuteScalar<long>(
            "SELECT coalesce(max(position), 0) + 1 FROM theme WHERE study_id = @studyId",
            new { studyId }
        );
        var colour =
            writing.Connection.ExecuteScalar<long>("SELECT count(*) FROM theme WHERE study_id = @studyId", new { studyId }) * 5 % 12;
        return writing.Insert(
            "theme",
            new
            {
                studyId,
                title,
                description,
                parentId,
                colour,
                position,
            }
        );
    }

    /// <summary>Rewrites the claim that the person saw as <paramref name="was"/>.</summary>
    public Step RewriteTitle(Actor actor, ThemeId id, string was, string text) => Rewrite(actor, id, "title", "claim", was, text);

    /// <summary>Rewrites the description that the person saw as <paramref name="was"/>.</summary>
    public Step RewriteDescription(Actor actor, ThemeId id, string was, string text) =>
        Rewrite(actor, id, "description", "description", was, text);

    private Step Rewrite(Actor actor, ThemeId id, string column, string word, string was, string text) =>
        workspace.Write(
            actor,
            StudyOf(id),
            $"Changed the {word} of a theme",
            writing =>
            {
                writing.Rewrite("theme", id.Value, column, was, text);
                return id.Value;
            }
        );

    public Step SetColour(Actor actor, ThemeId id, int colour) =>
        workspace.Write(
            actor,
            StudyOf(id),
            "Changed the colour of a theme",
            writing =>
            {
                writing.Update("theme", id.Value, new { colour });
                return id.Value;
            }
        );

    /// <summary>Says which research questions it answers.</summary>
    public Step Answer(Actor actor, ThemeId id, IReadOnlyList<ResearchQuestionId> questionIds) =>
        workspace.Write(
            actor,
            StudyOf(id),
            "Changed which questions a theme answers",
            writing =>
            {
                writing.Link("theme_question", "theme_id", id.Value, "research_question_id", questionIds);
                return id.Value;
            }
        );

    /// <summary>Puts a theme under another one, or at the top, before one of its new neighbours or as the last of them.</summary>
    /// <exception cref="Refusal">It would stand under itself, or a neighbour is not there any more.</exception>
    public Step Move(Actor actor, ThemeId id, ThemeId? parentId, ThemeId? beforeId)
    {
        var studyId = StudyOf(id);
        return workspace.Write(
            actor,
            studyId,
            "Moved a theme",
            writing =>
            {
                var themes = Heads(writing.Connection, studyId);
                var byId = themes.ToDictionary(t => t.Id);
                if (!byId.TryGetValue(id, out var moved) || (parentId is { } above && !byId.ContainsKey(above)))
                    throw Refusal.Missing("theme");
                for (var up = parentId; up is { } at; up = byId[at].ParentId)
                {
                    if (at == id)
                        throw Refusal.Because("A theme cannot be under itself.", "parentId");
                }
                var order = themes.Where(t => t.ParentId == parentId && t.Id != id).Select(t => t.Id).ToList();
                var place = beforeId is { } before ? order.IndexOf(before) : order.Count;
                if (place < 0)
                    throw Refusal.Because("The theme that it should stand before is somewhere else now. Try it again.", "beforeId");
                order.Insert(place, id);
                // Places count among neighbours; whole numbers leave none between.
                writing.Label = $"Moved the theme “{moved.Named}”" + (parentId is { } under ? $" under “{byId[under].Named}”" : "");
                if (moved.ParentId != parentId)
                    writing.Update("theme", id.Value, new { parentId });
                for (var i = 0; i < order.Count; i++)
                {
                    if (byId[order[i]].Position != i)
                        writing.Update("theme", order[i].Value, new { position = i });
                }
                return id.Value;
            }
        );
    }

    /// <summary>The starred observations of a study that the viewer may see.</summary>
    public IReadOnlySet<ObservationId> Starred(StudyId studyId, AccountId viewer)
    {
        using var connection = workspace.OpenFor(viewer);
        return connection
            .Query<ObservationId>("SELECT id FROM observation WHERE study_id = @studyId AND starred = 1", new { studyId })
            .ToHashSet();
    }

    /// <summary>The observations of a study that have a sentiment, those that the viewer may see.</summary>
    public IReadOnlyDictionary<ObservationId, Sentiment> Sentiments(StudyId studyId, AccountId viewer)
    {
        using var connection = workspace.OpenFor(viewer);
        return connection
            .Query<(ObservationId Id, string Sentiment)>(
                "SELECT id, sentiment FROM observation WHERE study_id = @studyId AND sentiment IS NOT NULL",
                new { studyId }
            )
            .ToDictionary(o => o.Id, o => Enum.Parse<Sentiment>(o.Sentiment, ignoreCase: true));
    }

    /// <summary>Takes a theme away; what lay in it goes back to the unsorted, its sub-themes move up.</summary>
    public Step Remove(Actor actor, ThemeId id) =>
        workspace.Write(
            actor,
            StudyOf(id),
            "Removed a theme",
            writing =>
            {
                writing.Label = $"Removed the theme “{TitleOf(writing, id)}”";
                writing.Remove("theme", id.Value);
                return id.Value;
            }
        );

    /// <summary>
    /// Lays observations and whole tags in a theme, as one step. An observation that lay left out is left out no more.
    /// </summary>
    /// <param name="stance">How the observations bear on its claim; null for support, and for what they are already where they lie
    /// there.</param>
    /// <param name="from">Out of which themes they are taken; what was laid there by hand keeps its stance.</param>
    public Step Lay(
        Actor actor,
        ThemeId id,
        IReadOnlyList<ObservationId> observationIds,
        IReadOnlyList<TagId> tagIds,
        Stance? stance = null,
        IReadOnlyList<(ThemeId From, ObservationId Piece)>? from = null
    ) =>
        workspace.Write(
            actor,
            StudyOf(id),
            "Put something in a theme",
            writing =>
            {
                var laid = new Laid(observationIds, tagIds);
                writing.Label = $"Put {laid.InWords} in “{TitleOf(writing, id)}”";
                foreach (var pieces in (from ?? []).Where(p => p.From != id).GroupBy(p => p.From, p => p.Piece))
                {
                    writing.Expect("theme", pieces.Key.Value, "study_id", StudyOf(id).Value);
                    Move(writing, pieces.Key, id, [.. pieces.Intersect(observationIds)]);
                }
                Lay(writing, id, laid, stance);
                return id.Value;
            }
        );

    /// <summary>
    /// Says how observations of a theme bear on its claim. One that came by a tag or a sub-theme is laid in the theme itself by it.
    /// </summary>
    public Step SetStance(Actor actor, ThemeId id, IReadOnlyList<ObservationId> observationIds, Stance stance) =>
        workspace.Write(
            actor,
            StudyOf(id),
            "Set the stance in a theme",
            writing =>
            {
                writing.Label =
                    $"Set the stance of {new Laid(observationIds, []).InWords} in “{TitleOf(writing, id)}” "
                    + $"to “{stance.ToString().ToLowerInvariant()}”";
                Lay(writing, id, new Laid(observationIds, []), stance);
                return id.Value;
            }
        );

    /// <summary>Takes observations and tags out of a theme, as one step.</summary>
    public Step TakeOut(Actor actor, ThemeId id, IReadOnlyList<ObservationId> observationIds, IReadOnlyList<TagId> tagIds) =>
        workspace.Write(
            actor,
            StudyOf(id),
            "Took something out of a theme",
            writing =>
            {
                writing.Label = $"Took {new Laid(observationIds, tagIds).InWords} out of “{TitleOf(writing, id)}”";
                Take("theme_observation", "observation_id", Ids.Json(observationIds));
                Take("theme_tag", "tag_id", Ids.Json(tagIds));
                return id.Value;

                void Take(string table, string column, string? ids) =>
                    writing.DeleteEach(
                        table,
                        writing
                            .Connection.Query<long>(
                                $"SELECT id FROM {table} WHERE theme_id = @id AND {column} IN (SELECT value FROM json_each(@ids))",
                                new { id, ids }
                            )
                            .ToList()
                    );
            }
        );

    /// <summary>
    /// Merges themes into one, as one step: what lies in them lies in the one that stays, their sub-themes stand under it, and what uses
    /// them uses it. Where an observation lies in several, the stance in the one that stays holds, then that in the first of the others.
    /// </summary>
    /// <exception cref="Refusal">One of them is not there, or is of another study.</exception>
    public Step Merge(Actor actor, ThemeId into, IReadOnlyList<ThemeId> merged)
    {
        var studyId = StudyOf(into);
        return workspace.Write(
            actor,
            studyId,
            "Merged themes",
            writing =>
            {
                var byId = Heads(writing.Connection, studyId).ToDictionary(t => t.Id);
                var ids = merged.Distinct().ToList();
                if (ids.Count == 0 || ids.Contains(into))
                    throw Refusal.Because("Choose other themes that are merged into this one.", "themeIds");
                if (!byId.TryGetValue(into, out var stays) || ids.Exists(id => !byId.ContainsKey(id)))
                    throw Refusal.Missing("theme");
                writing.Label =
                    (ids.Count == 1 ? $"Merged the theme “{byId[ids[0]].Named}”" : $"Merged {ids.Count} themes") + $" into “{stays.Named}”";
                // The one that stays never stands under one that goes, near or far: it takes the place of the highest of them.
                var parentId = stays.ParentId;
                for (var up = parentId; up is { } above; up = byId[above].ParentId)
                {
                    if (ids.Contains(above))
                        parentId = byId[above].ParentId;
                }
                if (parentId != stays.ParentId)
                    writing.Update("theme", into.Value, new { parentId });
                foreach (var id in ids)
                {
                    foreach (var (table, rows) in Merging.MoveLinks(writing, "theme", id.Value, into.Value))
                        writing.DeleteEach(table, rows);
                    writing.Remove("theme", id.Value);
                }
                return into.Value;
            }
        );
    }

    /// <summary>Moves what was laid in a theme by hand into another one, where it keeps its stance.</summary>
    internal static void Move(Writing writing, ThemeId from, ThemeId into, IReadOnlyList<ObservationId> observationIds)
    {
        var laid = writing
            .Connection.Query<(long Row, ObservationId Observation, string Stance)>(
                """
                SELECT id, observation_id, stance FROM theme_observation
                WHERE theme_id = @from AND observation_id IN (SELECT value FROM json_each(@ids))
                """,
                new { from, ids = Ids.Json(observationIds) }
            )
            .ToList();
        writing.DeleteEach("theme_observation", [.. laid.Select(r => r.Row)]);
        foreach (var stance in laid.GroupBy(r => Enum.Parse<Stance>(r.Stance, ignoreCase: true)))
            Lay(writing, into, new Laid([.. stance.Select(r => r.Observation)], []), stance.Key);
    }

    internal static void Lay(Writing writing, ThemeId id, Laid laid, Stance? stance)
    {
        var there = writing
            .Connection.Query<(long Row, ObservationId Observation, string Stance)>(
                "SELECT id, observation_id, stance FROM theme_observation WHERE theme_id = @id",
                new { id }
            )
            .ToDictionary(r => r.Observation);
        foreach (var observationId in laid.ObservationIds.Distinct())
        {
            if (!there.TryGetValue(observationId, out var row))
                writing.Insert(
                    "theme_observation",
                    new
                    {
                        themeId = id,
                        observationId,
                        stance = stance ?? Stance.Supports,
                    }
                );
            else if (stance is { } other && !string.Equals(row.Stance, other.ToString(), StringComparison.OrdinalIgnoreCase))
                writing.Update("theme_observation", row.Row, new { stance = other });
        }
        LeftOutStore.TakeBack(writing, laid.ObservationIds);
        var tags = writing.Connection.Query<TagId>("SELECT tag_id FROM theme_tag WHERE theme_id = @id", new { id });
        foreach (var tagId in laid.TagIds.Distinct().Except(tags))
            writing.Insert("theme_tag", new { themeId = id, tagId });
    }

    private static string TitleOf(Writing writing, ThemeId id) =>
        writing.Connection.QuerySingle<string>("SELECT title FROM theme WHERE id = @id", new { id }) is { Length: > 0 } title
            ? title
            : Theme.Unnamed;
}
