using System.Collections;
using System.Collections.Concurrent;
using System.Reflection;
using System.Text.RegularExpressions;
using Vitrine.Core.Counting;
using Vitrine.Core.Ids;
using Vitrine.Storage.Access;
using Vitrine.Storage.Catalogue;

namespace Vitrine.Server.Access;

/// <summary>Says what an id is of, where its name does not: <c>parentId</c>, <c>beforeId</c>.</summary>
[AttributeUsage(AttributeTargets.Property | AttributeTargets.Parameter)]
internal sealed class IdOfAttribute(string thing) : Attribute
{
    public string Thing => thing;
}

/// <summary>A request that names things of a kind that it tells itself.</summary>
internal interface INamesThings
{
    IEnumerable<(string Thing, long Id)> Named();
}

/// <summary>
/// Holds every id that a request carries besides the one in its address (other parts of the address, its query, its body at any depth)
/// against what the person may see, before the operation begins.
/// An id says by its name what it is of: <c>tagId</c>, <c>otherTagId</c>, <c>sourceIds</c>. One that does not say is an error of the
/// program, found when the endpoint is built.
/// </summary>
internal static partial class RequestIds
{
    private const string Study = "study";

    // Ids of what belongs to no study: every person of the team may name them, or the operation asks for a role.
    private static readonly string[] OfNoStudy = ["account", "author", "channel", "feedback", "invitation", "action", "link"];

    private static readonly ConcurrentDictionary<Type, IReadOnlyList<Reader>> ByType = new();

    /// <summary>The filter of every operation of the team.</summary>
    public static EndpointFilterDelegate Filter(EndpointFilterFactoryContext built, EndpointFilterDelegate next)
    {
        var parameters = built.MethodInfo.GetParameters();
        var readers = parameters.Select(ReaderOf).ToList();
        if (readers.All(r => r is null))
            return next;
        return async call =>
        {
            if (SignedIn.Of(call.HttpContext) is { } me)
            {
                var named = readers
                    .SelectMany((read, i) => read is null || call.Arguments[i] is not { } given ? [] : read(given))
                    .Distinct()
                    .ToList();
                if (Refused(call.HttpContext, me.Viewer, named) is { } what)
                    return StudyAuthorization.NotHere(what);
            }
            return await next(call);
        };
    }

    private static string? Refused(HttpContext context, Viewer viewer, IReadOnlyList<(string Kind, string Thing, long Id)> named)
    {
        if (named.Count == 0)
            return null;
        var (access, study) = (context.RequestServices.GetRequiredService<StudyAccess>(), StudyAuthorization.StudyOf(context));
        foreach (var (_, _, id) in named.Where(n => n.Kind == Study))
        {
            if (!access.SeesStudy(viewer, id))
                return Study;
        }
        foreach (var of in named.Where(n => n.Kind != Study).GroupBy(n => n.Thing))
        {
            var owners = access.OwnersOf(viewer, of.Key, [.. of.Select(n => n.Id)]);
            foreach (var (_, thing, id) in of)
            {
                var seen =
                    owners.TryGetValue(id, out var owner)
                    && (owner.StudyId is not { } theirs || (study is { } here ? theirs == here : access.SeesStudy(viewer, theirs)));
                if (!seen || (thing == Thing.Exhibit && !access.SeesExhibit(viewer, id)))
                    return Thing.InWords(thing);
            }
        }
        return null;
    }

    private delegate IEnumerable<(string Kind, string Thing, long Id)> Reader(object given);

    private static Reader? ReaderOf(ParameterInfo parameter)
    {
        // The id in the address and its study are the door's.
        if (parameter.Name is "id" || (parameter.Name == "studyId" && parameter.ParameterType == typeof(StudyId)))
            return null;
        // A question under conditions is asked of one study's things alone: what is named there and is not of it fits nothing.
        if (parameter.ParameterType == typeof(Conditions))
            return null;
        return IsId(parameter.ParameterType)
            ? IdReader(parameter.Name!, parameter.GetCustomAttribute<IdOfAttribute>(), $"{parameter.Member}")
            : InsideOf(parameter.ParameterType);
    }

    /// <summary>Reads the ids out of a record or a list of records; null for any other type.</summary>
    private static Reader? InsideOf(Type type)
    {
        if (typeof(INamesThings).IsAssignableFrom(type))
            return given => [.. ((INamesThings)given).Named().Select(n => ("", n.Thing, n.Id)), .. Inside(given)];
        if (ElementOf(type) is { } element)
            return InsideOf(element) is { } each
                ? given => ((IEnumerable)given).Cast<object?>().Where(e => e is not null).SelectMany(e => each(e!))
                : null;
        return IsRecord(type) && PropertiesOf(type).Count > 0 ? Inside : null;
    }

    private static IEnumerable<(string Kind, string Thing, long Id)> Inside(object given) =>
        PropertiesOf(given.GetType()).SelectMany(read => read(given));

    private static IReadOnlyList<Reader> PropertiesOf(Type type) =>
        ByType.GetOrAdd(
            type,
            _ =>
            {
                var named = typeof(INamesThings).IsAssignableFrom(type);
                return
                [
                    .. type.GetProperties(BindingFlags.Public | BindingFlags.Instance)
                        .Select(property =>
                        {
                            if (!IsId(property.PropertyType))
                                return InsideOf(property.PropertyType) is { } read
                                    ? given => property.GetValue(given) is { } value ? read(value) : []
                                    : null;
                            if (!Name().IsMatch(property.Name) || (named && property.Name == "Id"))
                                return null;
                            var parameter = type.GetConstructors()[0].GetParameters().FirstOrDefault(p => p.Name == property.Name);
                            var id = IdReader(
                                property.Name,
                                property.GetCustomAttribute<IdOfAttribute>() ?? parameter?.GetCustomAttribute<IdOfAttribute>(),
                                type.Name
                            );
                            return id is null ? (Reader?)null : given => property.GetValue(given) is { } value ? id(value) : [];
                        })
                        .OfType<Reader>(),
                ];
            }
        );

    private static Reader? IdReader(string name, IdOfAttribute? marked, string where)
    {
        var match = Name().Match(name);
        if (!match.Success)
            return null;
        var kind =
            char.ToLowerInvariant(match.Groups["kind"].Value.FirstOrDefault('_'))
            + (match.Groups["kind"].Length > 1 ? match.Groups["kind"].Value[1..] : "");
        if (marked is null && OfNoStudy.Contains(kind))
            return null;
        if (marked is null && kind == Study)
            return given => Numbers(given).Select(id => (Study, "", id));
        var thing =
            marked?.Thing
            ?? (
                kind == "line"
                    ? Thing.LiveLine
                    : Thing.Named(kind)
                        ?? throw new InvalidOperationException(
                            $"{name} of {where} does not say what it is the id of; see {nameof(IdOfAttribute)}."
                        )
            );
        return given => Numbers(given).Select(id => ("", thing, id));
    }

    private static IEnumerable<long> Numbers(object given) =>
        given switch
        {
            long number => [number],
            IId id => [id.Value],
            IEnumerable<long> numbers => numbers,
            IEnumerable many => many.Cast<IId>().Select(id => id.Value),
            _ => throw new ArgumentException($"A {given.GetType().Name} is no id.", nameof(given)),
        };

    private static bool IsId(Type type) => IsOne(type) || (ElementOf(type) is { } element && IsOne(element));

    private static bool IsOne(Type type) =>
        (Nullable.GetUnderlyingType(type) ?? type) is var one && (one == typeof(long) || typeof(IId).IsAssignableFrom(one));

    private static Type? ElementOf(Type type) =>
        type == typeof(string)
            ? null
            : type.GetInterfaces()
                .Append(type)
                .FirstOrDefault(i => i.IsGenericType && i.GetGenericTypeDefinition() == typeof(IEnumerable<>))
                ?.GetGenericArguments()[0];

    /// <summary>A record of ours that a request can carry.</summary>
    private static bool IsRecord(Type type) =>
        type != typeof(SignedIn)
        && type.Namespace?.StartsWith(nameof(Vitrine), StringComparison.Ordinal) == true
        && type.GetMethod("<Clone>$") is not null;

    [GeneratedRegex("^(?:[oO]ther)?(?<kind>[A-Za-z]*?)Ids?$")]
    private static partial Regex Name();
}
