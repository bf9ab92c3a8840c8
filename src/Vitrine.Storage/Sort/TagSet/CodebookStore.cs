using Dapper;
using Vitrine.Core.Sort.TagSet;
using Vitrine.Storage.Sql;
using Vitrine.Storage.Tags;
using Vitrine.Storage.Trail;

namespace Vitrine.Storage.Sort.TagSet;

/// <summary>Takes a codebook into the tag set of a study, or, where none is given, into the set that every study shares.</summary>
public sealed class CodebookStore(Workspace workspace, TagStore tags)
{
    /// <summary>What would happen to each line.</summary>
    public IReadOnlyList<PlannedTag> Plan(StudyId? studyId, IReadOnlyList<CodebookLine> lines)
    {
        var keys = tags.Keys(studyId);
        var all = tags.For(studyId);
        using var connection = workspace.Open();
        var values = TagStore.GivenValues(connection);
        return CodebookPlan.Of(
            lines,
            [
                .. all.Where(t => keys.ContainsKey(t.Id))
                    .Select(t => new CodebookEntry(
                        t.Id,
                        keys[t.Id],
                        TagName.Shortened(t.Name),
                        t.ParentId,
                        t.Definition,
                        t.IsNot,
                        t.Settled,
                        [.. t.Aliases.Select(TagName.Shortened)]
                    )
                    {
                        Scale = t.Scale,
                        Values = [.. values[t.Id]],
                        Colour = t.Colour,
                        Outside = t.Outside,
                        IsBundle = t.Members is not null,
                        Bundles = [.. all.Where(b => b.Members?.Contains(t.Id) == true).Select(b => TagName.Shortened(b.Name))],
                    }),
            ]
        );
    }

    /// <summary>Makes and changes tags as planned, in one step; new tags are the study's own, or shared.</summary>
    /// <exception cref="Refusal">There is nothing to do, or a tag would stand under itself.</exception>
    public Step Take(Actor actor, StudyId? studyId, IReadOnlyList<CodebookLine> lines) =>
        workspace.Write(
            actor,
            studyId,
            "Imported a codebook",
            writing =>
            {
                var plan = Plan(studyId, lines);
                var (added, changed) = (Of(CodebookFate.Added), Of(CodebookFate.Changed));
                if (added.Count + changed.Count == 0)
                    throw Refusal.Because("Nothing in it is new: all its tags are there and say the same.", "lines");
                writing.Label = $"Imported a codebook: {added.Count} tags made, {changed.Count} changed";
                var wanted = added.Where(t => !t.Line.IsBundle).ToDictionary(t => t.Name!.Key);
                var begun = new HashSet<string>();
                foreach (var tag in wanted.Values)
                    Make(tag);
                foreach (var bundle in added.Where(t => t.Line.IsBundle))
                    TagNames.Insert(
                        writing,
                        studyId,
                        new TagValues(bundle.Name!, Definition: bundle.Definition, Settled: true, Key: bundle.Line.Key),
                        bundle: true
                    );
                var there = tags.For(studyId).ToDictionary(t => t.Id);
                foreach (var tag in changed)
                {
                    var id = tag.TagId!.Value;
                    TagStore.RefuseOthers(writing, actor, there[id]);
                    if (tag.Line.IsBundle)
                    {
                        writing.Update(
                            "tag",
                            id.Value,
                            new
                            {
                                name = tag.Name!.Shown,
                                nameKey = tag.Name.Key,
                                definition = tag.Definition,
                            }
                        );
                        continue;
                    }
                    var parentId = tag.Changes.Contains(CodebookChange.Place) ? Under(tag.Above) : there[id].ParentId;
                    RefuseRing(writing, id, parentId, tag.Name!.Shown);
                    writing.Update(
                        "tag",
                        id.Value,
                        new
                        {
                            name = tag.Name.Shown,
                            nameKey = tag.Name.Key,
                            parentId,
                            definition = tag.Definition,
                            isNot = tag.IsNot,
                            settled = tag.Settled,
                            scale = TagNames.Stored(tag.Scale),
                            tag.Colour,
                            outside = TagOutsideColumn.Stored(tag.Outside),
                            aliases = NamesColumn.Stored([.. tag.Aliases.Select(a => a.Shown)]),
                        }
                    );
                }
                foreach (var tag in plan.Where(t => t.Bundles.Count > 0))
                {
                    var id = tag.TagId ?? TagNames.Find(writing.Connection, studyId, tag.Name!)!.Value;
                    foreach (var bundle in tag.Bundles)
                        BundleStore.HoldNamed(writing, actor, studyId, bundle, id);
                }
                return studyId?.Value;

                List<PlannedTag> Of(CodebookFate fate) => [.. plan.Where(t => t.Fate == fate)];

                void Make(PlannedTag tag)
                {
                    if (begun.Add(tag.Name!.Key))
                        TagNames.Insert(
                            writing,
                            studyId,
                            new TagValues(
                                tag.Name,
                                Under(tag.Above),
                                tag.Colour,
                                tag.Definition,
                                tag.Settled,
                                tag.Scale,
                                tag.IsNot,
                                tag.Aliases,
                                tag.Line.Key,
                                tag.Outside
                            )
                        );
                }

                // Those above it are there, or stand in the codebook too, or are made bare.
                TagId? Under(IReadOnlyList<TagName> above)
                {
                    TagId? parent = null;
                    foreach (var name in above)
                    {
                        if (TagNames.Find(writing.Connection, studyId, name) is null && wanted.TryGetValue(name.Key, out var also))
                            Make(also);
                        var found = TagNames.Find(writing.Connection, studyId, name);
                        // Two that stand under each other in the codebook: the one that is made first stands alone.
                        if (found is null && begun.Contains(name.Key))
                            continue;
                        parent = found ?? TagNames.Insert(writing, studyId, new TagValues(name, parent));
                    }
                    return parent;
                }
            }
        );

    private static void RefuseRing(Writing writing, TagId id, TagId? parentId, string name)
    {
        for (var up = parentId; up is { } tag; )
        {
            if (tag == id)
                throw Refusal.Because($"“{name}” would be under itself. Change what it is under in the codebook.", "lines");
            up = writing.Connection.QuerySingle<long?>("SELECT parent_id FROM tag WHERE id = @tag", new { tag }) is { } above
                ? (TagId)above
                : null;
        }
    }
}
