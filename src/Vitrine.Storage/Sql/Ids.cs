using System.Globalization;
using Vitrine.Core.Ids;

namespace Vitrine.Storage.Sql;

/// <summary>Numbers for SQL's json_each; null stays null, which stands for all.</summary>
internal static class Ids
{
    public static string? Json(IEnumerable<long>? ids) =>
        ids is null ? null : $"[{string.Join(',', ids.Select(i => i.ToString(CultureInfo.InvariantCulture)))}]";

    public static string? Json<TKind>(IEnumerable<Id<TKind>>? ids) => Json(ids?.Select(id => id.Value));
}
