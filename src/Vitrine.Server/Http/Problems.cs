using System.Text.Json;
using System.Text.RegularExpressions;
using Microsoft.AspNetCore.Diagnostics;
using Vitrine.Storage.Trail;

namespace Vitrine.Server.Http;

/// <summary>
/// Errors as Problem Details (RFC 9457): a stable type, a sentence, the field, and the text that stands there when two people wrote one;
/// never a stack trace.
/// </summary>
internal static partial class Problems
{
    public static void Use(WebApplication app)
    {
        app.UseExceptionHandler(
            new ExceptionHandlerOptions
            {
                // A refusal is an answer, not a failure; its sentence may hold a researcher's words and stays out of the log.
                SuppressDiagnosticsCallback = _ => true,
                ExceptionHandler = Answer,
            }
        );
        // What the framework refuses by a number alone is said in words as well.
        app.UseStatusCodePages(answered =>
            answered.HttpContext.Response.StatusCode switch
            {
                405 => Of(405, "not-so", "This address does not take what was asked of it. See /api/openapi.json for what it does.")
                    .ExecuteAsync(answered.HttpContext),
                415 => Of(415, "unreadable", "Send JSON here, with the header Content-Type: application/json.")
                    .ExecuteAsync(answered.HttpContext),
                404 => Of(404, "missing", "There is nothing at this address.").ExecuteAsync(answered.HttpContext),
                var status => Of(status, "unreadable", "The request could not be read. Reload the page and try again.")
                    .ExecuteAsync(answered.HttpContext),
            }
        );
    }

    private static async Task Answer(HttpContext context)
    {
        var error = context.Features.Get<IExceptionHandlerFeature>()?.Error;
        var (status, type, sentence, field) = error switch
        {
            Refusal { Kind: RefusalKind.NotFound } r => (404, "missing", r.Message, null),
            Refusal { Kind: RefusalKind.Conflict } r => (409, "conflict", r.Message, r.Field),
            Refusal { Kind: RefusalKind.NotAllowed } r => (403, "not-allowed", r.Message, r.Field),
            Refusal r => (400, "invalid", r.Message, r.Field),
            BadHttpRequestException { StatusCode: 413 } => (
                413,
                "too-large",
                $"This is larger than {Limits.RequestBytes / 1024 / 1024} MB. Split it into parts and add them one by one.",
                null
            ),
            BadHttpRequestException unreadable => Unreadable(unreadable),
            _ => (
                500,
                "unexpected",
                "Something went wrong on the server; nothing was changed. Try again, and tell the person who runs Vitrine if it stays.",
                null
            ),
        };
        if (status == 500)
        {
            var log = context.RequestServices.GetRequiredService<ILoggerFactory>().CreateLogger(nameof(Problems));
            log.LogError(error, "Unexpected failure in {Method} {Path}", context.Request.Method, context.Request.Path);
        }
        await Of(status, type, sentence, field, (error as Refusal)?.Theirs).ExecuteAsync(context);
    }

    /// <summary>What could not be bound, in words, with the field where it is known.</summary>
    private static (int Status, string Type, string Sentence, string? Field) Unreadable(BadHttpRequestException problem)
    {
        if (problem.StatusCode == 415)
            return (415, "unreadable", "Send JSON here, with the header Content-Type: application/json.", null);
        if (problem.InnerException is JsonException json)
        {
            if (Missing().Match(json.Message) is { Success: true } missing)
                return Field(missing.Groups[1].Value, "is missing");
            if (Null().Match(json.Message) is { Success: true } nothing)
                return Field(Inside(json.Path, nothing.Groups[1].Value), "is missing: null cannot stand here");
            return Inside(json.Path, "") is { Length: > 0 } field
                ? Field(field, "holds something that cannot stand here")
                : (400, "unreadable", "The request’s body is no JSON that fits, or is cut off. Reload the page and try again.", null);
        }
        if (Parameter().Match(problem.Message) is { Success: true } parameter && parameter.Groups[1].Value is not "given")
            return Field(parameter.Groups[1].Value, "is missing in the address, or is not of its kind");
        return (400, "unreadable", "The request has no body, or one that cannot be read. Reload the page and try again.", null);

        static (int, string, string, string?) Field(string name, string what) =>
            (
                400,
                "invalid",
                $"“{name}” {what}. Reload the page and try again; programs find what belongs there in /api/openapi.json.",
                name
            );
    }

    /// <summary>
    /// The last name in a JSON path such as <c>$.text.title</c>; where the path ends at the record itself, what its message names.
    /// </summary>
    private static string Inside(string? path, string named)
    {
        var last = (path ?? "$").Split('.')[^1];
        var field = named.Length > 0 ? char.ToLowerInvariant(named[0]) + named[1..] : last;
        return field is "$" || field.StartsWith("$[", StringComparison.Ordinal) ? "" : field;
    }

    [GeneratedRegex("missing required properties including: '([^']+)'")]
    private static partial Regex Missing();

    [GeneratedRegex("(?:property or field|constructor parameter) '([^']+)'.* doesn't allow (?:setting )?null")]
    private static partial Regex Null();

    [GeneratedRegex("parameter \"[^\"]*?([A-Za-z]+)\"")]
    private static partial Regex Parameter();

    public static IResult Of(int status, string type, string sentence, string? field = null, string? theirs = null)
    {
        var more = new Dictionary<string, object?>();
        if (field is not null)
            more["field"] = field;
        if (theirs is not null)
            more["theirs"] = theirs;
        return TypedResults.Problem(sentence, statusCode: status, type: "/problems/" + type, title: type, extensions: more);
    }
}
