using Dapper;
using Microsoft.Data.Sqlite;
using Vitrine.Core.Access;
using Vitrine.Core.Sort.TagSet;
using Vitrine.Storage.Access;
using Vitrine.Storage.Sql;
using Vitrine.Storage.Tags;
using Vitrine.Storage.Trail;
using Vitrine.Storage.Uses;

namespace Vitrine.Storage.Sort.TagSet;

/// <summary>What a tag brings to one that it is merged into.</summary>
/// <param name="Observations">How many observations carry it.</param>
/// <param name="AlsoInto">How many of these carry the other too.</param>
/// <param name="Values">How many values it has on its scale.</param>
/// <param name="ValuesLost">How many of these are not on the scale that stays.</param>
/// <param name="Converted">Each value as it would be on the scale that stays; none where that is its own.</param>
public sealed record MergedTag(
    Tag Tag,
    int Observations,
    int AlsoInto,
    int Values,
    int ValuesLost,
    IReadOnlyList<ConvertedValue> Converted
);

/// <param name="Value">On the scale of the tag that goes.</param>
/// <param name="Count">How many observations have it.</param>
/// <param name="As">On the scale that stays.</param>
public sealed record ConvertedValue(double Value, int Count, double As);

/// <summary>What a merge does, before it is done; all studies counted.</summary>
/// <param name="Into">The tag that stays, as it is now.</param>
/// <param name="Merged">Those that go.</param>
/// <param name="Before">How many observations carry the tag that stays.</param>
/// <param name="After">How many will.</param>
/// <param name="Uses">All that uses one that goes; it uses the one that stays then.</param>
/// <param name="Studies">Titles of the studies that use one of them, of those that the person sees.</param>
/// <param name="OtherStudies">How many other studies there are.</param>
public sealed record MergeShown(
    Tag Into,
    IReadOnlyList<MergedTag> Merged,
    int Before,
    int After,
    ThingUses Uses,
    IReadOnlyList<string> Studies,
    int OtherStudies
);

/// <summary>Merges tags: whatever has one that goes has the one that stays, and their names stay as its other names.</summary>
public sealed class TagMerge(Workspace workspace, UsesStore uses)
{
    /// <summary>What merging would do.</summary>
    /// <param name="viewer">Who looks; marks that this person may not see are not counted.</param>
    public MergeShown Preview(TagId into, IReadOnlyList<TagId> merged, Viewer viewer)
    {
        using var connection = workspace.OpenFor(viewer.AccountId);
        using var snapshot = connection.BeginTransaction(deferred: true);
        var (stays, going) = Read(connection, into, merged);
        var scale = ScaleOf(stays, going);
        var all = uses.Of(connection, ThingKind.Tag, [.. going.Select(t => t.Id.Value), into.Value], viewer);
        return new MergeShown(
            stays,
            [.. going.Select(t => Brings(connection, t, into, scale))],
            CountOf(connection, Ids.Json([into])),
            CountOf(connection, Ids.Json(going.Select(t => t.Id).Append(into))),
            uses.Of(connection, ThingKind.Tag, [.. going.Select(t => t.Id.Value)], viewer),
            all.Studies,
            all.OtherStudies
        );
    }

    /// <summary>Merges tags into one, as one step.</summary>
    /// <param name="definition">What the one that stays is, from now on.</param>
    /// <param name="isNot">What it is not.</param>
    /// <param name="convert">Whether values of another scale are laid on the one that stays; else those that are not on it go.</param>
    /// <exception cref="Refusal">
    /// A tag of a study would take in one that every study shares, or a tag of another study; or a shared one would go and the actor is no
    /// steward.
    /// </exception>
    public Step Merge(Actor actor, TagId into, IReadOnlyList<TagId> merged, string definition, string isNot, bool convert = false) =>
        workspace.Write(actor, null, "Merged tags", writing => MergeIn(writing, actor, into, merged, definition, isNot, convert).Value);

    /// <inheritdoc cref="Merge"/>
    internal static TagId MergeIn(
        Writing writing,
        Actor actor,
        TagId into,
        IReadOnlyList<TagId> merged,
        string definition,
        string isNot,
        bool convert = false
    )
    {
        var (stays, going) = Read(writing.Connection, into, merged);
        if (going.Exists(t => t.StudyId is null) && actor.Role != Role.Steward)
            throw new Refusal(RefusalKind.NotAllowed, "Every study shares one of these tags. Ask the steward to merge it.");
        writing.Label = (going.Count == 1 ? $"Merged the tag “{going[0].Name}”" : $"Merged {going.Count} tags") + $" into “{stays.Name}”";
        var scale = ScaleOf(stays, going);
        // The one that stays never stands under one that goes, near or far: it takes the place of the highest of them.
        var parent = stays.ParentId;
        for (var up = parent; up is { } above; )
        {
            up = writing.Connection.ExecuteScalar<long?>("SELECT parent_id FROM tag WHERE id = @above", new { above });
            if (going.Exists(t => t.Id == above))
                parent = up;
        }
        var names = stays.Aliases.Concat(going.SelectMany(t => t.Aliases.Prepend(t.Name))).Distinct(StringComparer.OrdinalIgnoreCase);
        // Their names are free before the one that stays takes them as its own.
        foreach (var tag in going)
        {
            if (convert)
                Convert(writing, tag, scale);
            MoveAll(writing, tag, into, scale);
        }
        foreach (var tag in going)
            writing.Remove("tag", tag.Id.Value);
        writing.Update(
            "tag",
            into.Value,
            new
            {
                definition,
                isNot,
                settled = stays.Settled || definition.Length > 0,
                parentId = parent,
                scale = TagNames.Stored(scale),
                aliases = NamesColumn.Stored([.. names.Where(n => TagName.Read(n, out _)?.Key != TagName.Read(stays.Name, out _)?.Key)]),
            }
        );
        return into;
    }

    private static void MoveAll(Writing writing, Tag tag, TagId into, Scale? scale)
    {
        var doubled = Merging.MoveLinks(writing, "tag", tag.Id.Value, into.Value);
        if (tag.Scale is not null)
            MoveValues(writing, tag, into, scale);
        // Their values have gone along.
        foreach (var (table, rows) in doubled)
            writing.DeleteEach(table, rows);
    }

    /// <summary>
    /// Values that are on the scale that stays go along; an observation that has both keeps the one it has. What is not on the scale
    /// goes with its tag.
    /// </summary>
    private static void MoveValues(Writing writing, Tag tag, TagId into, Scale? scale)
    {
        // Rows that were moved hold their values already.
        var moved = writing
            .Connection.Query<(long Id, double Value)>(
                "SELECT id, value FROM observation_tag WHERE tag_id = @into AND value IS NOT NULL",
                new { into }
            )
            .ToList();
        foreach (var (id, value) in moved.Where(m => scale?.Fits(m.Value) != true))
            writing.Update("observation_tag", id, new { value = (double?)null });
        var doubled = writing
            .Connection.Query<(long Id, double Value)>(
                """
                SELECT y.id, x.value FROM observation_tag x
                JOIN observation_tag y ON y.observation_id = x.observation_id AND y.tag_id = @into
                WHERE x.tag_id = @Id AND x.value IS NOT NULL AND y.value IS NULL
                """,
                new { tag.Id, into }
            )
            .ToList();
        foreach (var (id, value) in doubled.Where(d => scale?.Fits(d.Value) == true))
            writing.Update("observation_tag", id, new { value });
    }

    private static void Convert(Writing writing, Tag tag, Scale? scale)
    {
        foreach (var (value, rows) in ValuesOf(writing.Connection, tag, scale))
            writing.UpdateEach("observation_tag", rows, "value", tag.Scale!.On(scale!, value));
    }

    /// <summary>The rows of each value of a tag, where another scale stays.</summary>
    private static IEnumerable<(double Value, List<long> Rows)> ValuesOf(SqliteConnection connection, Tag tag, Scale? scale) =>
        tag.Scale is null || scale is null || tag.Scale == scale
            ? []
            : connection
                .Query<(long Id, double Value)>(
                    "SELECT id, value FROM observation_tag WHERE tag_id = @Id AND value IS NOT NULL ORDER BY value, id",
                    new { tag.Id }
                )
                .GroupBy(v => v.Value, v => v.Id)
                .Select(v => (v.Key, v.ToList()));

    /// <summary>The scale that stays: that of the one that stays, or else of the first that has one.</summary>
    private static Scale? ScaleOf(Tag stays, List<Tag> going) => stays.Scale ?? going.Find(t => t.Scale is not null)?.Scale;

    private static (Tag Stays, List<Tag> Going) Read(SqliteConnection connection, TagId into, IReadOnlyList<TagId> merged)
    {
        var ids = merged.Distinct().ToList();
        if (ids.Count == 0 || ids.Contains(into))
            throw Refusal.Because("Choose other tags that are merged into this one.", "tagIds");
        var tags = connection
            .Query<Tag>(TagStore.Columns + "WHERE t.id IN (SELECT value FROM json_each(@all))", new { all = Ids.Json(ids.Append(into)) })
            .ToDictionary(t => t.Id);
        if (tags.Count != ids.Count + 1)
            throw Refusal.Missing("tag");
        var (stays, going) = (tags[into], ids.ConvertAll(id => tags[id]));
        if (going.Exists(t => t.Members is null != stays.Members is null))
            throw Refusal.Because("A tag goes into a tag, and a bundle into a bundle. Choose those that are alike.", "tagIds");
        if (stays.StudyId is { } study && going.Exists(t => t.StudyId != study))
            throw Refusal.Because(
                "This tag is of one study. Merge it into the tag that every study shares, not the other way round.",
                "tagIds"
            );
        return (stays, going);
    }

    private static int CountOf(SqliteConnection connection, string? tags) =>
        connection.ExecuteScalar<int>(
            "SELECT count(DISTINCT observation_id) FROM observation_tag WHERE tag_id IN (SELECT value FROM json_each(@tags))",
            new { tags }
        );

    private static MergedTag Brings(SqliteConnection connection, Tag tag, TagId into, Scale? scale)
    {
        var rows = connection
            .Query<(double? Value, bool Both)>(
                """
                SELECT x.value, EXISTS (SELECT 1 FROM observation_tag y WHERE y.observation_id = x.observation_id AND y.tag_id = @into)
                FROM observation_tag x WHERE x.tag_id = @Id
                """,
                new { tag.Id, into }
            )
            .ToList();
        return new MergedTag(
            tag,
            rows.Count,
            rows.Count(r => r.Both),
            rows.Count(r => r.Value is not null),
            rows.Count(r => r.Value is { } value && scale?.Fits(value) != true),
            [.. ValuesOf(connection, tag, scale).Select(v => new ConvertedValue(v.Value, v.Rows.Count, tag.Scale!.On(scale!, v.Value)))]
        );
    }
}
