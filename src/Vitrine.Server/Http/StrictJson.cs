using System.Text.Json;
using System.Text.Json.Serialization;
using System.Text.Json.Serialization.Metadata;

namespace Vitrine.Server.Http;

/// <summary>How JSON is read and written: nothing is null that may not be, and nothing is left out but what may be null.</summary>
internal static class StrictJson
{
    public static void Set(JsonSerializerOptions json)
    {
        json.NumberHandling = JsonNumberHandling.Strict;
        json.RespectNullableAnnotations = true;
        json.RespectRequiredConstructorParameters = true;
        json.Converters.Add(new JsonStringEnumConverter(JsonNamingPolicy.CamelCase, allowIntegerValues: false));
        json.TypeInfoResolver = (json.TypeInfoResolver ?? new DefaultJsonTypeInfoResolver())
            .WithAddedModifier(NullMayBeLeftOut)
            .WithAddedModifier(RefuseNullInLists);
    }

    private static void NullMayBeLeftOut(JsonTypeInfo type)
    {
        foreach (
            var property in type.Properties.Where(p =>
                p.AssociatedParameter is { IsNullable: true } || Nullable.GetUnderlyingType(p.PropertyType) is not null
            )
        )
            property.IsRequired = false;
    }

    /// <summary>The annotations of a list's elements are not looked at by the serializer; no list of ours holds nothing.</summary>
    private static void RefuseNullInLists(JsonTypeInfo type)
    {
        if (type.Kind != JsonTypeInfoKind.Object || type.Type.Namespace?.StartsWith(nameof(Vitrine), StringComparison.Ordinal) != true)
            return;
        var lists = type.Properties.Where(p => p.Get is not null && typeof(IEnumerable<object?>).IsAssignableFrom(p.PropertyType)).ToList();
        if (lists.Count == 0)
            return;
        type.OnDeserialized = given =>
        {
            if (lists.FirstOrDefault(l => l.Get!(given) is IEnumerable<object?> list && list.Contains(null)) is { } holes)
                throw new JsonException("A list holds null.", $"$.{holes.Name}", null, null);
        };
    }
}
