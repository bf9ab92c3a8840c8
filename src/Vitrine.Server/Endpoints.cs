using System.Reflection;

namespace Vitrine.Server;

/// <summary>
/// The operations of the team, found by what they are called: every <c>Map…(RouteGroupBuilder)</c> of a class that is called
/// <c>…Endpoints</c>.
/// </summary>
internal static class Endpoints
{
    public static void MapAll(this RouteGroupBuilder api)
    {
        var maps = typeof(Endpoints)
            .Assembly.GetTypes()
            .Where(t => t.Name.EndsWith(nameof(Endpoints), StringComparison.Ordinal))
            .OrderBy(t => t.FullName, StringComparer.Ordinal)
            .SelectMany(t => t.GetMethods(BindingFlags.Public | BindingFlags.Static | BindingFlags.DeclaredOnly))
            .Where(m => m.Name.StartsWith("Map", StringComparison.Ordinal) && m.Name != nameof(MapAll))
            .Where(m => m.GetParameters() is [{ ParameterType: var given }] && given == typeof(RouteGroupBuilder));
        foreach (var map in maps)
            map.Invoke(null, [api]);
    }
}
