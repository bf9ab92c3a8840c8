using System.Text.Json;
using Dapper;
using Microsoft.Data.Sqlite;
using Vitrine.Core.Sort.TagSet;
using Vitrine.Storage.Sql;
using Vitrine.Storage.Trail;

namespace Vitrine.Storage.Tags;

/// <summary>What a tag says of itself.</summary>
/// <param name="Name">Its name.</param>
/// <param name="ParentId">The tag that it stands under.</param>
/// <param name="Colour">Its number in the palette, from 0; null to take on its parent's.</param>
/// <param name="Definition">What it is.</param>
/// <param name="Settled">Whether it is thought through.</param>
/// <param name="Scale">Its own measure.</param>
/// <param name="IsNot">What one might take for it, and is not.</param>
/// <param name="Aliases">Other names by which it is found; null for none, or for those that it has.</param>
public sealed record TagValues(
    TagName Name,
    TagId? ParentId = null,
    int? Colour = null,
    string Definition = "",
    bool Settled = false,
    Scale? Scale = null,
    string IsNot = "",
    IReadOnlyList<TagName>? Aliases = null,
    Guid? Key = null,
    TagOutside? Outside = null
);

/// <summary>Tags found by their names, or made where there are none: what every room needs that tags something.</summary>
internal static class TagNames
{
    /// <summary>
    /// The ids of tags that are asked for: those that exist under any spelling, as they are, and new tags of the study for the rest. A tag
    /// with a definition is settled, one without is a draft.
    /// </summary>
    public static IReadOnlyList<TagId> FindOrMake(Writing writing, StudyId studyId, IEnumerable<NewTag> wanted) =>
        wanted
            .Select(tag =>
            {
                TagId? parent = null;
                foreach (var name in tag.Above)
                    parent = Find(writing.Connection, studyId, name) ?? Insert(writing, studyId, new TagValues(name, parent));
                return Find(writing.Connection, studyId, tag.Name)
                    ?? Insert(writing, studyId, new TagValues(tag.Name, parent, tag.Colour, tag.Definition, tag.Definition.Length > 0));
            })
            .ToList();

    /// <summary>The tag of that name with its scale; made around the values when there is none.</summary>
    /// <param name="values">The values that it is to hold.</param>
    /// <param name="widen">Whether a scale that does not hold them all is widened; else those outside stay without a value.</param>
    /// <exception cref="Refusal">A tag of that name is there and carries no scale.</exception>
    public static (TagId Id, Scale Scale) FindOrMakeScaled(
        Writing writing,
        StudyId studyId,
        TagName name,
        IReadOnlyCollection<double> values,
        bool widen
    )
    {
        if (Find(writing.Connection, studyId, name) is not { } id)
        {
            var scale = Scale.Around(values);
            return (Insert(writing, studyId, new TagValues(name, Scale: scale)), scale);
        }
        var there =
            ScaleOf(writing.Connection, id)
            ?? throw Refusal.Because(
                $"There is a tag “{name.Shown}” without a scale. Give it one in the tag set first, or take the column as an attribute.",
                "columns"
            );
        if (!widen || values.All(there.Fits) || there.Widened(values) is not { } wider)
            return (id, there);
        writing.Update("tag", id.Value, new { scale = Stored(wider) });
        return (id, wider);
    }

    public static Scale? ScaleOf(SqliteConnection connection, TagId id) =>
        connection.QuerySingle<Scale?>("SELECT scale FROM tag WHERE id = @id", new { id });

    /// <summary>The tag that is called so, or that is also found by that name; a name comes before another name of another tag.</summary>
    public static TagId? Find(SqliteConnection connection, StudyId? studyId, TagName name) =>
        connection.QueryFirstOrDefault<long?>(
            "SELECT id FROM tag WHERE name_key = @Key AND (study_id IS NULL OR study_id IS @studyId) ORDER BY study_id IS NULL DESC",
            new { name.Key, studyId }
        ) ?? ByAlias(connection, studyId, name);

    private static TagId? ByAlias(SqliteConnection connection, StudyId? studyId, TagName name)
    {
        // Few tags have other names, and SQL folds no letters but A to Z.
        var found = connection
            .Query<(long Id, string Alias)>(
                """
                SELECT t.id, a.value FROM tag t, json_each(t.aliases) a
                WHERE t.aliases <> '' AND (t.study_id IS NULL OR t.study_id IS @studyId) ORDER BY t.study_id IS NULL DESC, t.id
                """,
                new { studyId }
            )
            .FirstOrDefault(a => TagName.Read(a.Alias, out _)?.Key == name.Key);
        return found.Alias is null ? null : found.Id;
    }

    public static TagId Insert(Writing writing, StudyId? studyId, TagValues tag, bool bundle = false)
    {
        RefuseForeignParent(writing, studyId, tag.ParentId);
        var position = writing.Connection.ExecuteScalar<long>("SELECT coalesce(max(position), 0) + 1 FROM tag");
        // Another study may have it already: then it gets an id of its own.
        var key =
            tag.Key is { } given
            && !writing.Connection.ExecuteScalar<bool>("SELECT EXISTS (SELECT 1 FROM tag WHERE key = @key)", new { key = given.ToString() })
                ? given
                : Guid.CreateVersion7();
        return writing.Insert(
            "tag",
            new
            {
                key = key.ToString(),
                outside = TagOutsideColumn.Stored(tag.Outside),
                studyId,
                name = tag.Name.Shown,
                nameKey = tag.Name.Key,
                tag.ParentId,
                tag.Colour,
                tag.Definition,
                tag.Settled,
                position,
                bundle,
                scale = Stored(tag.Scale),
                tag.IsNot,
                aliases = NamesColumn.Stored([.. (tag.Aliases ?? []).Select(a => a.Shown)]),
            }
        );
    }

    /// <summary>A tag stands under a shared tag or one of its own study; another study's is as if it were not there.</summary>
    public static void RefuseForeignParent(Writing writing, StudyId? studyId, TagId? parentId)
    {
        if (parentId is null)
            return;
        var fits = writing.Connection.ExecuteScalar<bool>(
            "SELECT count(*) FROM tag WHERE id = @parentId AND (study_id IS NULL OR study_id IS @studyId)",
            new { parentId, studyId }
        );
        if (!fits)
            throw Refusal.Missing("tag");
    }

    /// <summary>A scale as its column holds it.</summary>
    public static string? Stored(Scale? scale) => scale is null ? null : JsonSerializer.Serialize(scale);
}
