using System.Text.Json.Serialization.Metadata;
using Microsoft.AspNetCore.OpenApi;
using Microsoft.OpenApi;
using Vitrine.Core.Ids;

namespace Vitrine.Server.Http;

/// <summary>Says in the OpenAPI document that ids are whole numbers.</summary>
internal sealed class IdNumbers : IOpenApiSchemaTransformer
{
    /// <summary>Has every id said where it stands, as the number that it is.</summary>
    public static void Say(OpenApiOptions openApi)
    {
        openApi.AddSchemaTransformer<IdNumbers>();
        openApi.CreateSchemaReferenceId = type => IsId(type.Type) ? null : OpenApiOptions.CreateDefaultSchemaReferenceId(type);
    }

    public Task TransformAsync(OpenApiSchema schema, OpenApiSchemaTransformerContext context, CancellationToken cancellationToken)
    {
        var type = context.JsonTypeInfo.Type;
        if (IsId(type))
            Number(schema, Nullable.GetUnderlyingType(type) is not null);
        else if (context.JsonTypeInfo.ElementType is { } element && IsId(element))
        {
            var item = new OpenApiSchema();
            Number(item, Nullable.GetUnderlyingType(element) is not null);
            if (context.JsonTypeInfo.Kind == JsonTypeInfoKind.Dictionary)
                schema.AdditionalProperties = item;
            else
                schema.Items = item;
        }
        return Task.CompletedTask;
    }

    private static void Number(OpenApiSchema schema, bool orNull)
    {
        schema.Type = orNull ? JsonSchemaType.Integer | JsonSchemaType.Null : JsonSchemaType.Integer;
        schema.Format = "int64";
    }

    private static bool IsId(Type type) => typeof(IId).IsAssignableFrom(Nullable.GetUnderlyingType(type) ?? type);
}
