using System.Text.Json.Nodes;
using Dapper;

namespace Vitrine.Storage.Trail;

/// <summary>What points to a thing points to another one, when the two are merged or one takes the other's place.</summary>
internal static class Merging
{
    /// <summary>
    /// Moves every link of the catalogue that follows a merge, and every id inside a column. What is research data and what is not (pens,
    /// trays) stands in the trail of the step, and comes back with it.
    /// </summary>
    /// <returns>
    /// Rows of the one that goes beside which there is one already of the one that stays; they go when what is to be kept of them is taken.
    /// </returns>
    public static IReadOnlyList<(string Table, IReadOnlyList<long> Rows)> MoveLinks(Writing writing, string thing, long from, long into)
    {
        writing.ReplaceInTexts(thing, from, into);
        var doubled = new List<(string, IReadOnlyList<long>)>();
        foreach (var (of, link) in writing.PointingTo(thing).Where(p => p.Link.FollowsMerge))
        {
            var once = string.Concat((link.Once ?? []).Select(c => $" AND y.{c} = x.{c}"));
            var there = link.Once is null ? "0" : $"EXISTS (SELECT 1 FROM {of.Table} y WHERE {link.Points("y", thing, "= @into")}{once})";
            // The one that stays may stand under the one that goes.
            var itself = of.Table == thing ? "AND x.id <> @into" : "";
            var rows = writing
                .Connection.Query<(long Id, bool There)>(
                    $"SELECT x.id, {there} FROM {of.Table} x WHERE {link.Points("x", thing, "= @from")} {itself} ORDER BY x.id",
                    new { from, into }
                )
                .ToList();
            writing.UpdateEach(of.Table, [.. rows.Where(r => !r.There).Select(r => r.Id)], link.Column, into);
            doubled.Add((of.Table, [.. rows.Where(r => r.There).Select(r => r.Id)]));
        }
        ReplaceInside(writing, thing, from, [into]);
        return doubled;
    }

    /// <summary>Lists of ids inside columns that name a thing name others in its place.</summary>
    public static void ReplaceInside(Writing writing, string thing, long gone, IReadOnlyList<long> by)
    {
        foreach (var (of, inside) in writing.NamingInside(thing))
        {
            foreach (
                var (id, json) in writing
                    .Connection.Query<(long, string)>(
                        $"""
                        SELECT x.id, x.{inside.Column} FROM {of.Table} x
                        WHERE EXISTS (SELECT 1 FROM json_each(x.{inside.Column}, '$.{inside.Property}') WHERE value = @gone)
                        """,
                        new { gone }
                    )
                    .ToList()
            )
            {
                var whole = JsonNode.Parse(json)!;
                var ids = whole[inside.Property]!.AsArray().Select(i => i!.GetValue<long>()).SelectMany(i => i == gone ? by : [i]);
                whole[inside.Property] = new JsonArray([.. ids.Distinct().Select(i => JsonValue.Create(i))]);
                writing.Update(of.Table, id, new Dictionary<string, object?> { [inside.Column] = whole.ToJsonString() });
            }
        }
    }
}
