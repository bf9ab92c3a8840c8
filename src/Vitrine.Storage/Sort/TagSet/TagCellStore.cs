using Vitrine.Core.Sort.TagSet;
using Vitrine.Storage.Sql;
using Vitrine.Storage.Tags;
using Vitrine.Storage.Trail;

namespace Vitrine.Storage.Sort.TagSet;

/// <summary>Writes many cells of the tag set as one step.</summary>
public sealed class TagCellStore(Workspace workspace, TagStore tags)
{
    /// <summary>Writes what fits and says what does not.</summary>
    /// <exception cref="Refusal">A note-taker would change a shared tag that somebody else made.</exception>
    public (Step Step, IReadOnlyList<RefusedTagCell> Refused) Set(Actor actor, IReadOnlyList<TagCell> cells)
    {
        IReadOnlyList<RefusedTagCell> refused = [];
        var step = workspace.Write(
            actor,
            null,
            "Changed tags",
            writing =>
            {
                var there = tags.In(actor.AccountId, null).Where(t => t.Members is null).ToDictionary(t => t.Id);
                var values = TagStore.GivenValues(writing.Connection);
                (var changed, refused) = TagCells.Of(cells, [.. there.Values.Select(t => RowOf(t, values[t.Id]))]);
                writing.Label =
                    changed.Count == 1 ? $"Changed the tag “{changed[0].Name.Shown}”" : $"Changed {changed.Count} tags in the table";
                // Names that are given from one to another are free before they are taken.
                foreach (var row in changed.Where(r => r.Name.Key != TagName.Shortened(there[r.Id].Name).Key))
                    writing.Update("tag", row.Id.Value, new { nameKey = $"\u0001{row.Id}" });
                foreach (var row in changed)
                {
                    TagStore.RefuseOthers(writing, actor, there[row.Id]);
                    writing.Update(
                        "tag",
                        row.Id.Value,
                        new
                        {
                            name = row.Name.Shown,
                            nameKey = row.Name.Key,
                            row.ParentId,
                            row.Definition,
                            row.IsNot,
                            aliases = NamesColumn.Stored([.. row.Aliases.Select(a => a.Shown)]),
                            row.Settled,
                            scale = TagNames.Stored(row.Scale),
                            row.Colour,
                        }
                    );
                }
                return changed.Count;
            }
        );
        return (step, refused);
    }

    private static TagRow RowOf(Tag tag, IEnumerable<double> values) =>
        new(
            tag.Id,
            TagName.Shortened(tag.Name),
            tag.ParentId,
            tag.Definition,
            tag.IsNot,
            [.. tag.Aliases.Select(TagName.Shortened)],
            tag.Settled,
            tag.Scale,
            tag.Colour
        )
        {
            Values = [.. values],
            StudyId = tag.StudyId,
        };
}
