using System.Text.Json.Serialization.Metadata;
using Microsoft.AspNetCore.Mvc.ModelBinding;
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
        openApi.AddOperationTransformer(InQueries);
        openApi.CreateSchemaReferenceId = type =>
            IsId(type.Type) || Choices.ChosenFrom(type.Type) is not null ? null : OpenApiOptions.CreateDefaultSchemaReferenceId(type);
    }

    // What is read from an address by a parser is taken for a string there.
    private static Task InQueries(
        OpenApiOperation operation,
        OpenApiOperationTransformerContext context,
        CancellationToken cancellationToken
    )
    {
        foreach (
            var parameter in context.Description.ParameterDescriptions.Where(p =>
                p.Source == BindingSource.Query && p.ParameterDescriptor is { } of && IsId(of.ParameterType)
            )
        )
        {
            if (operation.Parameters?.FirstOrDefault(p => p.Name == parameter.Name)?.Schema is OpenApiSchema schema)
                Number(schema, orNull: false);
        }
        return Task.CompletedTask;
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
