using System.Reflection;
using Vitrine.Storage.Trail;

namespace Vitrine.Server;

/// <summary>
/// What keeps the data of the workspace, one of each, found by what it is made of: the workspace, and others of them, alone.
/// </summary>
internal static class Stores
{
    public static readonly IReadOnlyList<Type> All = Found();

    private static IReadOnlyList<Type> Found()
    {
        var left = new[] { typeof(Workspace).Assembly, typeof(Stores).Assembly }
            .SelectMany(a => a.GetTypes())
            .Where(t => t is { IsClass: true, IsSealed: true, IsAbstract: false, IsNested: false } && MadeOf(t) is { Length: > 0 })
            .ToList();
        var found = new List<Type> { typeof(Workspace) };
        while (left.RemoveAll(t => MadeOf(t)!.All(p => found.Contains(p.ParameterType)) && Take(t)) > 0)
            continue;
        return [.. found.Skip(1)];

        bool Take(Type store)
        {
            found.Add(store);
            return true;
        }
    }

    /// <summary>What the only constructor of a class asks for; null where there are several.</summary>
    private static ParameterInfo[]? MadeOf(Type type) =>
        type.GetConstructors(BindingFlags.Public | BindingFlags.Instance) is [var only] ? only.GetParameters() : null;
}
