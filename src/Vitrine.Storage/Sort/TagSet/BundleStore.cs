using Dapper;
using Microsoft.Data.Sqlite;
using Vitrine.Core.Sort.TagSet;
using Vitrine.Storage.Sql;
using Vitrine.Storage.Tags;
using Vitrine.Storage.Trail;

namespace Vitrine.Storage.Sort.TagSet;

/// <summary>Makes bundles, and puts tags in them. What a bundle says of itself is changed as that of a tag.</summary>
public sealed class BundleStore(Workspace workspace)
{
    /// <summary>Makes a bundle of a study, or for null of the shared set.</summary>
    /// <exception cref="Refusal">Its name is taken, or a tag is not to be seen from there.</exception>
    public Step Make(Actor actor, StudyId? studyId, TagValues given, IReadOnlyList<TagId> tagIds) =>
        workspace.Write(
            actor,
            studyId,
            $"Made the bundle “{given.Name.Shown}”",
            writing =>
            {
                TagStore.RefuseTakenNames(writing, null, studyId, given);
                var id = TagNames.Insert(writing, studyId, given, bundle: true);
                Hold(writing, id, studyId, tagIds);
                return id.Value;
            }
        );

    /// <summary>Puts tags in a bundle, or takes them out; the tags stay as they are.</summary>
    /// <param name="held">Whether they are in it from then on.</param>
    public Step Put(Actor actor, TagId bundleId, IReadOnlyList<TagId> tagIds, bool held)
    {
        using var connection = workspace.Open();
        // A study's step is told to that study alone, also in the trail of a shared tag that it puts there.
        return workspace.Write(
            actor,
            Read(connection, bundleId).StudyId,
            "Changed a bundle",
            writing =>
            {
                var bundle = Read(writing.Connection, bundleId);
                if (bundle.Members is null)
                    throw Refusal.Because($"“{bundle.Name}” is a tag, no bundle. Choose a bundle.", "id");
                TagStore.RefuseOthers(writing, actor, bundle);
                var what = tagIds.Count == 1 ? "a tag" : $"{tagIds.Count} tags";
                writing.Label = held ? $"Put {what} in “{bundle.Name}”" : $"Took {what} out of “{bundle.Name}”";
                if (held)
                    Hold(writing, bundleId, bundle.StudyId, [.. tagIds.Except(bundle.Members)]);
                else
                    writing
                        .Connection.Query<long>(
                            "SELECT id FROM bundle_tag WHERE bundle_id = @bundleId AND tag_id IN (SELECT value FROM json_each(@ids))",
                            new { bundleId, ids = Ids.Json(tagIds) }
                        )
                        .ToList()
                        .ForEach(row => writing.Delete("bundle_tag", row));
                return bundleId.Value;
            }
        );
    }

    private static Tag Read(SqliteConnection connection, TagId id) => TagStore.Find(connection, id) ?? throw Refusal.Missing("bundle");

    /// <summary>Puts a tag in the bundle of that name, which is made where there is none.</summary>
    /// <exception cref="Refusal">
    /// A tag is called so; or the bundle is shared, and the tag is not, or a note-taker did not make it.
    /// </exception>
    internal static void HoldNamed(Writing writing, Actor actor, StudyId? studyId, TagName name, TagId tagId)
    {
        if (TagNames.Find(writing.Connection, studyId, name) is not { } id)
        {
            Hold(writing, TagNames.Insert(writing, studyId, new TagValues(name, Settled: true), bundle: true), studyId, [tagId]);
            return;
        }
        var bundle = Read(writing.Connection, id);
        if (bundle.Members is null)
            throw Refusal.Because($"There is a tag “{bundle.Name}”: no bundle can be called so. Rename one of them.", "lines");
        if (bundle.Members.Contains(tagId))
            return;
        TagStore.RefuseOthers(writing, actor, bundle);
        Hold(writing, id, bundle.StudyId, [tagId]);
    }

    internal static void Hold(Writing writing, TagId bundleId, StudyId? studyId, IReadOnlyList<TagId> tagIds)
    {
        var known = writing
            .Connection.Query<(TagId Id, StudyId? Study)>(
                "SELECT id, study_id FROM tag WHERE id IN (SELECT value FROM json_each(@ids))",
                new { ids = Ids.Json(tagIds) }
            )
            .ToDictionary(t => t.Id, t => t.Study);
        foreach (var tagId in tagIds.Distinct())
        {
            // Another study's tag is as if it were not there.
            if (!known.TryGetValue(tagId, out var of) || (of is not null && studyId is not null && of != studyId))
                throw Refusal.Missing("tag");
            if (of is not null && studyId is null)
                throw Refusal.Because(
                    "Every study shares this bundle: it holds tags of the shared set. Propose the tag for all studies first.",
                    "tagIds"
                );
            writing.Insert("bundle_tag", new { bundleId, tagId });
        }
    }
}
