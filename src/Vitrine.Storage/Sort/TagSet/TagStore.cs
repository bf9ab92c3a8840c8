using System.Text.Json.Serialization;
using Dapper;
using Microsoft.Data.Sqlite;
using Vitrine.Core.Access;
using Vitrine.Core.Sort.TagSet;
using Vitrine.Storage.Sql;
using Vitrine.Storage.Tags;
using Vitrine.Storage.Trail;

namespace Vitrine.Storage.Sort.TagSet;

/// <summary>A tag of the shared set (no study) or of one study.</summary>
public record Tag
{
    public TagId Id { get; init; }
    public StudyId? StudyId { get; init; }
    public string Name { get; init; } = "";
    public TagId? ParentId { get; init; }
    public int? Colour { get; init; }
    public string Definition { get; init; } = "";

    /// <summary>What one might take for it, and is not.</summary>
    public string IsNot { get; init; } = "";
    public bool Settled { get; init; }
    public Scale? Scale { get; init; }

    /// <summary>Other names by which it is found.</summary>
    public IReadOnlyList<string> Aliases { get; init; } = [];

    /// <summary>It stays on what carries it, and is offered no more.</summary>
    public bool Retired { get; init; }

    /// <summary>What a codebook from outside said of it; it goes out as it came in.</summary>
    [JsonIgnore]
    public TagOutside? Outside { get; init; }

    /// <summary>The tags that a bundle holds, in no order; null for what is no bundle.</summary>
    public IReadOnlyList<TagId>? Members { get; init; }
    public long Version { get; init; }
}

/// <summary>A tag with how many observations carry it.</summary>
public sealed record CountedTag : Tag
{
    public int Observations { get; init; }

    /// <summary>Who made it.</summary>
    public string MadeBy { get; init; } = "";
    public DateTimeOffset MadeAt { get; init; }

    /// <summary>When an observation got it last; null while none has it.</summary>
    public DateTimeOffset? LastUsedAt { get; init; }
}

/// <summary>The tag set.</summary>
public sealed class TagStore(Workspace workspace)
{
    private const string Own = """
        t.id, t.study_id, t.name, t.parent_id, t.colour, t.definition, t.is_not, t.settled, t.scale, t.aliases, t.retired,
          t.outside, t.version,
          CASE WHEN t.bundle THEN (SELECT json_group_array(b.tag_id) FROM bundle_tag b WHERE b.bundle_id = t.id) END AS members
        """;

    internal const string Columns = "SELECT " + Own + " FROM tag t ";

    private const string Order = " ORDER BY t.position, t.id";

    private const string OnAny = "FROM observation_tag x WHERE x.tag_id = t.id";

    private const string OnVisible = """
        FROM observation_tag x JOIN observation o ON o.id = x.observation_id WHERE x.tag_id = t.id
          AND o.study_id IN (SELECT value FROM json_each(@visible))
        """;

    private static string Counted(string used) =>
        $"""
            SELECT {Own},
              a.name AS made_by, t.created_at AS made_at, (SELECT count(*) {used}) AS observations,
              (SELECT x.created_at {used} ORDER BY x.id DESC LIMIT 1) AS last_used_at
            FROM tag t JOIN account a ON a.id = t.created_by

            """;

    /// <summary>The tags a study uses: the shared set and its own; for none the shared set.</summary>
    public IReadOnlyList<Tag> For(StudyId? studyId)
    {
        using var connection = workspace.Open();
        return connection.Query<Tag>(Columns + "WHERE t.study_id IS NULL OR t.study_id = @studyId" + Order, new { studyId }).ToList();
    }

    /// <summary>The shared set and the own tags of the given studies (null: of all), each counted over those studies.</summary>
    public IReadOnlyList<CountedTag> In(AccountId viewer, IReadOnlyList<StudyId>? visible)
    {
        using var connection = workspace.OpenFor(viewer);
        // Whoever sees every study needs no observation looked up: the index of tags alone is counted.
        var all = visible is null || visible.Count == connection.QuerySingle<int>("SELECT count(*) FROM study");
        var tags = connection
            .Query<CountedTag>(
                (
                    all
                        ? Counted(OnAny)
                        : Counted(OnVisible) + "WHERE t.study_id IS NULL OR t.study_id IN (SELECT value FROM json_each(@visible))"
                ) + Order,
                new { visible = Ids.Json(visible) }
            )
            .ToList();
        return tags.Exists(t => t.Members is not null) ? WithBundles(connection, tags, all ? null : visible) : tags;
    }

    /// <summary>A bundle is on what carries one of its tags, or one under them, each counted once.</summary>
    private static List<CountedTag> WithBundles(SqliteConnection connection, List<CountedTag> tags, IReadOnlyList<StudyId>? visible)
    {
        return tags.ConvertAll(t => t.Members is null ? t : Counted(t));

        CountedTag Counted(CountedTag bundle)
        {
            var (observations, last) = connection.QuerySingle<(int, string?)>(
                $"""
                WITH RECURSIVE {Bundles.Within}
                SELECT count(DISTINCT o.id), max(x.created_at) FROM observation_tag x JOIN observation o ON o.id = x.observation_id
                WHERE x.tag_id IN (SELECT tag_id FROM within) AND ({Bundles.InItsStudy})
                  AND (@visible IS NULL OR o.study_id IN (SELECT value FROM json_each(@visible)))
                """,
                new { id = bundle.Id, visible = Ids.Json(visible) }
            );
            return bundle with { Observations = observations, LastUsedAt = last is null ? null : InstantColumn.Read(last) };
        }
    }

    internal static Tag? Find(SqliteConnection connection, TagId id) =>
        connection.QueryFirstOrDefault<Tag>(Columns + "WHERE t.id = @id", new { id });

    /// <summary>The values that observations have on the scale of each tag.</summary>
    internal static ILookup<TagId, double> GivenValues(SqliteConnection connection) =>
        connection
            .Query<(TagId Tag, double Value)>("SELECT DISTINCT tag_id, value FROM observation_tag WHERE value IS NOT NULL")
            .ToLookup(v => v.Tag, v => v.Value);

    /// <summary>Takes a tag out of what is offered, or brings it back; what carries it stays as it is.</summary>
    public Step Retire(Actor actor, TagId id, bool retired) =>
        workspace.Write(
            actor,
            null,
            "Retired a tag",
            writing =>
            {
                var tag = Find(writing.Connection, id) ?? throw Refusal.Missing("tag");
                RefuseOthers(writing, actor, tag);
                var what = tag.Members is null ? "tag" : "bundle";
                writing.Label = retired ? $"Retired the {what} “{tag.Name}”" : $"Brought the {what} “{tag.Name}” back";
                if (tag.Retired != retired)
                    writing.Update("tag", id.Value, new { retired });
                return id.Value;
            }
        );

    /// <summary>By what the tags of a study are known outside.</summary>
    public IReadOnlyDictionary<TagId, Guid> Keys(StudyId? studyId)
    {
        using var connection = workspace.Open();
        return connection
            .Query<(TagId Id, string Key)>("SELECT id, key FROM tag WHERE study_id IS NULL OR study_id = @studyId", new { studyId })
            .ToDictionary(t => t.Id, t => Guid.Parse(t.Key));
    }

    public Step Add(Actor actor, StudyId? studyId, TagValues given) =>
        workspace.Write(
            actor,
            studyId,
            $"Made the tag “{given.Name.Shown}”",
            writing =>
            {
                RefuseTakenNames(writing, null, studyId, given);
                return TagNames.Insert(writing, studyId, given).Value;
            }
        );

    public Step Change(Actor actor, TagId id, long version, TagValues given)
    {
        var all = In(actor.AccountId, null);
        var tag = all.FirstOrDefault(t => t.Id == id) ?? throw Refusal.Missing("tag");
        return workspace.Write(
            actor,
            null,
            $"Changed the {(tag.Members is null ? "tag" : "bundle")} “{given.Name.Shown}”",
            writing =>
            {
                writing.Expect("tag", id.Value, version);
                RefuseOthers(writing, actor, tag);
                RefuseTakenNames(writing, id, tag.StudyId, given);
                if (given.ParentId is { } parent && Ring(all, id, parent))
                    throw Refusal.Because("A tag cannot be under itself. Choose another parent.", "parentId");
                TagNames.RefuseForeignParent(writing, tag.StudyId, given.ParentId);
                if (tag.Members is not null && given is not { ParentId: null, Scale: null })
                    throw Bundles.StandsAlone();
                RefuseLostValues(writing, id, given.Scale);
                writing.Update(
                    "tag",
                    id.Value,
                    new
                    {
                        name = given.Name.Shown,
                        nameKey = given.Name.Key,
                        given.ParentId,
                        given.Colour,
                        given.Definition,
                        given.Settled,
                        scale = TagNames.Stored(given.Scale),
                        given.IsNot,
                        aliases = NamesColumn.Stored(given.Aliases is { } aliases ? [.. aliases.Select(a => a.Shown)] : tag.Aliases),
                    }
                );
                return id.Value;
            }
        );
    }

    /// <summary>A name is that of one tag only, and so is every other name of a tag.</summary>
    internal static void RefuseTakenNames(Writing writing, TagId? id, StudyId? studyId, TagValues given)
    {
        if (TagNames.Find(writing.Connection, studyId, given.Name) is { } other && other != id)
            throw Refusal.Because($"There is {Called(writing, other, given.Name)} already.", "name");
        foreach (var alias in given.Aliases ?? [])
        {
            if (alias.Key == given.Name.Key)
                throw Refusal.Because($"“{alias.Shown}” is the name of this tag itself. Leave it out of the other names.", "aliases");
            if (TagNames.Find(writing.Connection, studyId, alias) is { } another && another != id)
                throw Refusal.Because($"There is {Called(writing, another, alias)} already. Merge the two, or leave it out.", "aliases");
        }
    }

    private static string Called(Writing writing, TagId id, TagName name)
    {
        var of = writing.Connection.QuerySingle<string>("SELECT name FROM tag WHERE id = @id", new { id });
        var bundle = writing.Connection.QuerySingle<bool>("SELECT bundle FROM tag WHERE id = @id", new { id });
        var what = bundle ? $"a bundle “{of}”" : $"a tag “{of}”";
        return TagName.Read(of, out _)?.Key == name.Key ? what : $"{what} that is also called “{name.Shown}”";
    }

    /// <summary>Makes a tag of a study, with those above it; one that is there already stays as it is.</summary>
    public Step Make(Actor actor, StudyId studyId, NewTag wanted) =>
        workspace.Write(
            actor,
            studyId,
            $"Made the tag “{wanted.Name.Shown}”",
            writing =>
                TagNames.Find(writing.Connection, studyId, wanted.Name) is null
                    ? TagNames.FindOrMake(writing, studyId, [wanted])[0].Value
                    : throw Refusal.Because($"There is a tag “{wanted.Name.Shown}” already.", "name")
        );

    /// <summary>
    /// Puts tags under another, or under none, and before one of those that stand there, or last; in the order in which they are given.
    /// What stands under one of them goes along.
    /// </summary>
    /// <exception cref="Refusal">One would stand under itself, or under another study's tag.</exception>
    public Step Place(Actor actor, IReadOnlyList<TagId> ids, TagId? parentId, TagId? beforeId)
    {
        var all = In(actor.AccountId, null);
        var byId = all.ToDictionary(t => t.Id);
        var tags = ids.Distinct().Select(id => byId.GetValueOrDefault(id) ?? throw Refusal.Missing("tag")).ToList();
        var given = tags.Select(t => t.Id).ToHashSet();
        tags.RemoveAll(t => Above(t).Any(given.Contains));
        return workspace.Write(
            actor,
            null,
            tags.Count == 1 ? $"Moved the tag “{tags[0].Name}”" : $"Moved {tags.Count} tags",
            writing =>
            {
                foreach (var tag in tags)
                {
                    RefuseOthers(writing, actor, tag);
                    if (parentId is { } parent && Ring(all, tag.Id, parent))
                        throw Refusal.Because("A tag cannot be under itself. Choose another parent.", "parentId");
                    TagNames.RefuseForeignParent(writing, tag.StudyId, parentId);
                    if (tag.Members is not null && parentId is not null)
                        throw Bundles.StandsAlone();
                    if (tag.ParentId != parentId)
                        writing.Update("tag", tag.Id.Value, new { parentId });
                }
                // Tags of other studies keep their places.
                var studies = tags.Select(t => t.StudyId).ToHashSet();
                var moved = tags.ConvertAll(t => t.Id);
                var beside = all.Where(t =>
                        t.ParentId == parentId && !moved.Contains(t.Id) && (t.StudyId is null || studies.Contains(t.StudyId))
                    )
                    .Select(t => t.Id)
                    .ToList();
                var at = beforeId is { } before ? beside.IndexOf(before) : -1;
                beside.InsertRange(at < 0 ? beside.Count : at, moved);
                var positions = writing
                    .Connection.Query<(TagId Id, long Position)>("SELECT id, position FROM tag")
                    .ToDictionary(t => t.Id, t => t.Position);
                for (var i = 0; i < beside.Count; i++)
                {
                    if (positions[beside[i]] != i + 1)
                        writing.Update("tag", beside[i].Value, new { position = (long)(i + 1) });
                }
                return tags[0].Id.Value;
            }
        );

        IEnumerable<TagId> Above(Tag tag)
        {
            for (var up = tag.ParentId; up is { } id; up = byId[id].ParentId)
                yield return id;
        }
    }

    internal static void RefuseOthers(Writing writing, Actor actor, Tag tag)
    {
        if (
            tag.StudyId is null
            && actor.Role == Role.NoteTaker
            && writing.Connection.QuerySingle<long>("SELECT created_by FROM tag WHERE id = @Id", new { tag.Id }) != actor.AccountId
        )
            throw new Refusal(RefusalKind.NotAllowed, "Every study shares this tag. Ask a researcher or the steward to change it.");
    }

    /// <summary>Takes a tag off everything and away; observations stay. Its children move up to its parent.</summary>
    public Step Remove(Actor actor, TagId id) =>
        workspace.Write(
            actor,
            null,
            "Removed a tag",
            writing =>
            {
                var tag = Find(writing.Connection, id) ?? throw Refusal.Missing("tag");
                if (tag.Members is not null)
                    RefuseOthers(writing, actor, tag);
                else if (tag.StudyId is null && actor.Role != Role.Steward)
                    throw new Refusal(RefusalKind.NotAllowed, "Every study shares this tag. Ask the steward to remove it.");
                writing.Label = $"Removed the {(tag.Members is null ? "tag" : "bundle")} “{tag.Name}”";
                writing.Remove("tag", id.Value);
                return id.Value;
            }
        );

    /// <summary>Values that were given stay true: a scale that does not hold them is refused.</summary>
    private static void RefuseLostValues(Writing writing, TagId id, Scale? scale)
    {
        // How many there are is not told: some may be on marks that this person may not see.
        if (
            writing
                .Connection.Query<double>("SELECT value FROM observation_tag WHERE tag_id = @id AND value IS NOT NULL", new { id })
                .Any(v => scale?.Fits(v) != true)
        )
            throw Refusal.Because("A value that was given is not on this scale. Change it first, or widen the scale.", "scale");
    }

    private static bool Ring(IReadOnlyList<Tag> all, TagId id, TagId parent)
    {
        var place = all.Select((tag, index) => (tag.Id, index)).ToDictionary(x => x.Id, x => x.index);
        var tree = new TagTree([.. all.Select(t => t.ParentId is { } p ? place[p] : -1)]);
        return tree.WouldRing(place[id], place[parent]);
    }
}
