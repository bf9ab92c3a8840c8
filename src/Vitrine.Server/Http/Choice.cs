using System.Text.Json;
using System.Text.Json.Nodes;
using Microsoft.AspNetCore.OpenApi;
using Microsoft.OpenApi;
using Vitrine.Storage.Trail;

namespace Vitrine.Server.Http;

/// <summary>
/// One of an enumeration’s names in the address of a request, in any case. The framework alone would take these by their C# spelling,
/// and by their numbers.
/// </summary>
internal readonly record struct Choice<T>(T Value)
    where T : struct, Enum
{
    /// <exception cref="Refusal">It is none of the names.</exception>
    public static bool TryParse(string? value, out Choice<T> choice)
    {
        choice = default;
        if (string.IsNullOrEmpty(value))
            return false;
        var names = Enum.GetNames<T>();
        var name =
            Array.Find(names, n => n.Equals(value, StringComparison.OrdinalIgnoreCase))
            ?? throw new Refusal(
                RefusalKind.Invalid,
                $"“{value}” is not one of {string.Join(", ", names.Select(JsonNamingPolicy.CamelCase.ConvertName))}."
            );
        choice = new Choice<T>(Enum.Parse<T>(name));
        return true;
    }

    public static implicit operator T(Choice<T> choice) => choice.Value;
}

/// <summary>Says in the OpenAPI document what can be chosen, where a choice stands in an address.</summary>
internal static class Choices
{
    public static Task Say(OpenApiOperation operation, OpenApiOperationTransformerContext context, CancellationToken cancellationToken)
    {
        foreach (var parameter in context.Description.ParameterDescriptions)
        {
            if (
                parameter.ParameterDescriptor is { } of
                && ChosenFrom(of.ParameterType) is { } type
                && operation.Parameters?.FirstOrDefault(p => p.Name == parameter.Name) is OpenApiParameter said
            )
                said.Schema = new OpenApiSchema
                {
                    Type = JsonSchemaType.String,
                    Enum = [.. Enum.GetNames(type).Select(n => (JsonNode)JsonNamingPolicy.CamelCase.ConvertName(n))],
                };
        }
        return Task.CompletedTask;
    }

    /// <summary>What a choice is from; null for what is none.</summary>
    public static Type? ChosenFrom(Type type)
    {
        type = Nullable.GetUnderlyingType(type) ?? type;
        return type.IsGenericType && type.GetGenericTypeDefinition() == typeof(Choice<>) ? type.GetGenericArguments()[0] : null;
    }
}
