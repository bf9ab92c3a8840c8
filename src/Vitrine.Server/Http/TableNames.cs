using System.Text.Json.Nodes;
using Microsoft.AspNetCore.OpenApi;
using Microsoft.OpenApi;
using Vitrine.Storage.Catalogue;

namespace Vitrine.Server.Http;

/// <summary>Says in the OpenAPI document which tables changes are told of, so that the interface has them from the catalogue.</summary>
internal sealed class TableNames : IOpenApiDocumentTransformer
{
    public Task TransformAsync(OpenApiDocument document, OpenApiDocumentTransformerContext context, CancellationToken cancellationToken)
    {
        document.AddComponent(
            "TableName",
            new OpenApiSchema
            {
                Type = JsonSchemaType.String,
                Description = "A table of the workspace, as changes are told by it.",
                Enum = [.. Thing.Tables.Select(t => JsonValue.Create(t))],
            }
        );
        return Task.CompletedTask;
    }
}
