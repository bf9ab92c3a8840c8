using Dapper;
using Vitrine.Core.Counting;
using Vitrine.Storage.Trail;

namespace Vitrine.Storage.Tags;

/// <summary>Saved filters that ask for a tag.</summary>
internal static class TagsInFilters
{
    /// <summary>Whatever asks for a tag that goes asks for others in its place.</summary>
    public static void Replace(Writing writing, TagId gone, IReadOnlyList<TagId> by)
    {
        foreach (var (id, json) in writing.Connection.Query<(long, string)>("SELECT id, conditions FROM saved_filter").ToList())
        {
            if (!Conditions.TryParse(json, null, out var kept) || !kept.TagIds.Contains(gone))
                continue;
            List<TagId> tagIds = [.. kept.TagIds.SelectMany(t => t == gone ? by : [t]).Distinct()];
            writing.Update("saved_filter", id, new { conditions = (kept with { TagIds = tagIds }).ToJson() });
        }
    }
}
