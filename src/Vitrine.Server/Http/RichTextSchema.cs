using System.Text.Json.Nodes;
using Microsoft.AspNetCore.OpenApi;
using Microsoft.OpenApi;
using Vitrine.Core.RichTexts;

namespace Vitrine.Server.Http;

/// <summary>Says in the OpenAPI document what a text with form looks like; <see cref="RichTextJson"/> says more.</summary>
internal sealed class RichTextSchema : IOpenApiSchemaTransformer
{
    public Task TransformAsync(OpenApiSchema schema, OpenApiSchemaTransformerContext context, CancellationToken cancellationToken)
    {
        if (context.JsonTypeInfo.Type != typeof(RichText))
            return Task.CompletedTask;
        schema.Type = JsonSchemaType.Object;
        schema.Description = "A text in blocks: paragraphs, headings, lists, and things that stand in it. Never HTML.";
        schema.Required = new HashSet<string> { "version", "blocks" };
        schema.Properties = new Dictionary<string, IOpenApiSchema>
        {
            ["version"] = new OpenApiSchema { Type = JsonSchemaType.Integer, Enum = [JsonValue.Create(1)] },
            ["blocks"] = List(
                Part(
                    "A block. What is of a type that is not known here is kept as it is.",
                    ("level", Of(JsonSchemaType.Integer)),
                    (
                        "content",
                        List(
                            Part(
                                "A part of a line.",
                                ("text", Of(JsonSchemaType.String)),
                                ("strong", Of(JsonSchemaType.Boolean)),
                                ("emphasis", Of(JsonSchemaType.Boolean)),
                                ("link", Of(JsonSchemaType.String)),
                                ("title", Of(JsonSchemaType.String))
                            )
                        )
                    ),
                    ("items", List(List(new OpenApiSchema()))),
                    ("caption", Of(JsonSchemaType.String))
                )
            ),
        };
        return Task.CompletedTask;
    }

    private static OpenApiSchema Part(string description, params (string Name, OpenApiSchema Schema)[] properties) =>
        new()
        {
            Type = JsonSchemaType.Object,
            Description = description,
            Required = new HashSet<string> { "type" },
            Properties = properties
                .Prepend(("id", Of(JsonSchemaType.Integer)))
                .Prepend(("thing", Of(JsonSchemaType.String)))
                .Prepend(("type", Of(JsonSchemaType.String)))
                .ToDictionary(p => p.Item1, p => (IOpenApiSchema)p.Item2),
        };

    private static OpenApiSchema Of(JsonSchemaType type) => new() { Type = type };

    private static OpenApiSchema List(OpenApiSchema items) => new() { Type = JsonSchemaType.Array, Items = items };
}
