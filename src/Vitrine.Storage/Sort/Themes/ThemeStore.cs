using Dapper;
using Vitrine.Core.Sort.Themes;
using Vitrine.Storage.Counting;
using Vitrine.Storage.Sql;
using Vitrine.Storage.Trail;

namespace Vitrine.Storage.Sort.Themes;

/// <summary>A theme with what was laid in it by hand.</summary>
public sealed record Theme
{
    public ThemeId Id { get; init; }
    public ThemeId? ParentId { get; init; }
    public string Title { get; init; } = "";
    public string Description { get; init; } = "";
    public int? Colour { get; init; }
    public long Version { get; init; }
    public List<TagId> TagIds { get; init; } = [];
    public List<ObservationId> ObservationIds { get; init; } = [];
}

/// <summary>Themes and what lies in them.</summary>
public sealed class ThemeStore(Workspace workspace)
{
    /// <summary>The themes of a study, with what the viewer may see of what was laid in them.</summary>
    public IReadOnlyList<Theme> In(StudyId studyId, AccountId viewer)
    {
        using var connection = workspace.OpenFor(viewer);
        using var snapshot = connection.BeginTransaction(deferred: true);
        var themes = connection
            .Query<Theme>(
                "SELECT id, parent_id, title, description, colour, version FROM theme WHERE study_id = @studyId ORDER BY position, id",
                new { studyId }
            )
            .ToList();
        var byId = themes.ToDictionary(t => t.Id);
        foreach (
            var (theme, tag) in connection.Query<(long, long)>(
                "SELECT x.theme_id, x.tag_id FROM theme_tag x JOIN theme t ON t.id = x.theme_id WHERE t.study_id = @studyId ORDER BY x.id",
                new { studyId }
            )
        )
            byId[theme].TagIds.Add(tag);
        foreach (
            var (theme, observation) in connection.Query<(long, long)>(
                """
                SELECT x.theme_id, x.observation_id FROM theme_observation x JOIN theme t ON t.id = x.theme_id
                WHERE t.study_id = @studyId ORDER BY x.id
                """,
                new { studyId }
            )
        )
            byId[theme].ObservationIds.Add(observation);
        return themes;
    }

    public StudyId StudyOf(ThemeId id)
    {
        using var connection = workspace.Open();
        return connection.QueryFirstOrDefault<long?>("SELECT study_id FROM theme WHERE id = @id", new { id })
            ?? throw Refusal.Missing("theme");
    }

    /// <summary>Makes a theme, with first contents where given, as one step.</summary>
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
            $"Made the theme “{title}”",
            writing =>
            {
                var position = writing.Connection.ExecuteScalar<long>(
                    "SELECT coalesce(max(position), 0) + 1 FROM theme WHERE study_id = @studyId",
                    new { studyId }
                );
                var colour =
                    writing.Connection.ExecuteScalar<long>("SELECT count(*) FROM theme WHERE study_id = @studyId", new { studyId })
                    * 5
                    % 12;
                var id = writing.Insert(
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
                Lay(writing, id, observationIds, tagIds);
                return id;
            }
        );

    public Step Change(Actor actor, ThemeId id, long version, string title, string description, ThemeId? parentId) =>
        workspace.Write(
            actor,
            StudyOf(id),
            $"Changed the theme “{title}”",
            writing =>
            {
                writing.Expect("theme", id.Value, version);
                for (
                    var up = parentId;
                    up is not null;
                    up = writing.Connection.QueryFirstOrDefault<long?>("SELECT parent_id FROM theme WHERE id = @up", new { up })
                )
                {
                    if (up == id)
                        throw Refusal.Because("A theme cannot be under itself.", "parentId");
                }
                writing.Update(
                    "theme",
                    id.Value,
                    new
                    {
                        title,
                        description,
                        parentId,
                    }
                );
                return id.Value;
            }
        );

    /// <summary>The starred observations of a study that the viewer may see.</summary>
    public IReadOnlySet<ObservationId> Starred(StudyId studyId, AccountId viewer)
    {
        using var connection = workspace.OpenFor(viewer);
        return connection
            .Query<ObservationId>("SELECT id FROM observation WHERE study_id = @studyId AND starred = 1", new { studyId })
            .ToHashSet();
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

    /// <summary>Lays observations and whole tags in a theme, as one step.</summary>
    public Step Lay(Actor actor, ThemeId id, IReadOnlyList<ObservationId> observationIds, IReadOnlyList<TagId> tagIds)
    {
        var count = observationIds.Count + tagIds.Count;
        return workspace.Write(
            actor,
            StudyOf(id),
            $"Put {count} in a theme",
            writing =>
            {
                var title = writing.Connection.QuerySingle<string>("SELECT title FROM theme WHERE id = @id", new { id });
                writing.Label =
                    $"Put {What(observationIds.Count, "observation")}{(observationIds.Count > 0 && tagIds.Count > 0 ? " and " : "")}"
                    + $"{What(tagIds.Count, "tag")} in “{title}”";
                Lay(writing, id, observationIds, tagIds);
                return id.Value;
            }
        );
    }

    /// <summary>Takes observations and tags out of a theme, as one step.</summary>
    public Step TakeOut(Actor actor, ThemeId id, IReadOnlyList<ObservationId> observationIds, IReadOnlyList<TagId> tagIds) =>
        workspace.Write(
            actor,
            StudyOf(id),
            "Took something out of a theme",
            writing =>
            {
                writing.Label = $"Took {What(observationIds.Count, "observation")}{What(tagIds.Count, "tag")} out of a theme";
                foreach (
                    var row in writing.Connection.Query<long>(
                        "SELECT id FROM theme_observation WHERE theme_id = @id AND observation_id IN (SELECT value FROM json_each(@ids))",
                        new { id, ids = Ids.Json(observationIds) }
                    )
                )
                    writing.Delete("theme_observation", row);
                foreach (
                    var row in writing.Connection.Query<long>(
                        "SELECT id FROM theme_tag WHERE theme_id = @id AND tag_id IN (SELECT value FROM json_each(@ids))",
                        new { id, ids = Ids.Json(tagIds) }
                    )
                )
                    writing.Delete("theme_tag", row);
                return id.Value;
            }
        );

    private static void Lay(Writing writing, ThemeId id, IReadOnlyList<ObservationId> observationIds, IReadOnlyList<TagId> tagIds)
    {
        var observations = writing.Connection.Query<ObservationId>(
            "SELECT observation_id FROM theme_observation WHERE theme_id = @id",
            new { id }
        );
        foreach (var observationId in observationIds.Distinct().Except(observations))
            writing.Insert("theme_observation", new { themeId = id, observationId });
        var tags = writing.Connection.Query<TagId>("SELECT tag_id FROM theme_tag WHERE theme_id = @id", new { id });
        foreach (var tagId in tagIds.Distinct().Except(tags))
            writing.Insert("theme_tag", new { themeId = id, tagId });
    }

    private static string What(int count, string word) =>
        count switch
        {
            0 => "",
            1 => $"1 {word}",
            _ => $"{count} {word}s",
        };

    private static string TitleOf(Writing writing, ThemeId id) =>
        writing.Connection.QuerySingle<string>("SELECT title FROM theme WHERE id = @id", new { id });
}

/// <summary>Themes over a study's arrays.</summary>
public static class ThemeIndex
{
    /// <summary>The observations (places in the index) that each theme holds now.</summary>
    public static IReadOnlyList<int>[] ContentsOf(this StudyIndex index, IReadOnlyList<Theme> themes)
    {
        var place = themes.Select((t, i) => (t.Id, i)).ToDictionary(x => x.Id, x => x.i);
        return ThemeContents.Of(
            index.Marks,
            [
                .. themes.Select(t => new LaidTheme(
                    t.ParentId is { } parent ? place[parent] : -1,
                    [.. t.TagIds.Select(index.PlaceOfTag).OfType<int>()],
                    [.. t.ObservationIds.Select(index.PlaceOfObservation).OfType<int>()]
                )),
            ]
        );
    }
}
