using Microsoft.AspNetCore.OpenApi;
using Microsoft.OpenApi;

namespace Vitrine.Server;

/// <summary>Says in the OpenAPI document what the serializer does: every property of a record is always written.</summary>
internal sealed class EveryPropertyIsThere : IOpenApiSchemaTransformer
{
    public Task TransformAsync(OpenApiSchema schema, OpenApiSchemaTransformerContext context, CancellationToken cancellationToken)
    {
        var type = Nullable.GetUnderlyingType(context.JsonTypeInfo.Type) ?? context.JsonTypeInfo.Type;
        var ours = type.Namespace?.StartsWith(nameof(Vitrine), StringComparison.Ordinal) == true;
        if (ours && schema.Properties is { Count: > 0 } properties) schema.Required = properties.Keys.ToHashSet();
        return Task.CompletedTask;
    }
}
