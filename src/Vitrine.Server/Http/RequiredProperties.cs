using System.Text.Json.Serialization.Metadata;
using Microsoft.AspNetCore.OpenApi;
using Microsoft.OpenApi;
using Vitrine.Core.Mark.Observations;

namespace Vitrine.Server.Http;

/// <summary>
/// Says in the OpenAPI document what the serializer does: every property of a record is always written. What only comes in may leave out
/// what has a default.
/// </summary>
internal sealed class RequiredProperties : IOpenApiSchemaTransformer
{
    public Task TransformAsync(OpenApiSchema schema, OpenApiSchemaTransformerContext context, CancellationToken cancellationToken)
    {
        var type = Nullable.GetUnderlyingType(context.JsonTypeInfo.Type) ?? context.JsonTypeInfo.Type;
        var ours = type.Namespace?.StartsWith(nameof(Vitrine), StringComparison.Ordinal) == true;
        if (ours && schema.Properties is { Count: > 0 } properties)
            schema.Required = properties.Keys.Except(ComesInOnly(type) ? WithDefault(context.JsonTypeInfo) : []).ToHashSet();
        return Task.CompletedTask;
    }

    private static bool ComesInOnly(Type type) => type == typeof(AnchorGiven);

    private static IEnumerable<string> WithDefault(JsonTypeInfo type) =>
        type.Properties.Where(p => p.AssociatedParameter is { HasDefaultValue: true }).Select(p => p.Name);
}
