using Microsoft.AspNetCore.Diagnostics;
using Vitrine.Storage;

namespace Vitrine.Server;

/// <summary>Errors as Problem Details (RFC 9457): a stable type, a sentence, the field, and the text that stands there when two people wrote one; never a stack trace.</summary>
internal static class Problems
{
    public static void Use(WebApplication app) => app.UseExceptionHandler(new ExceptionHandlerOptions
    {
        // A refusal is an answer, not a failure; its sentence may hold a researcher's words and stays out of the log.
        SuppressDiagnosticsCallback = _ => true,
        ExceptionHandler = Answer,
    });

    private static async Task Answer(HttpContext context)
    {
        var error = context.Features.Get<IExceptionHandlerFeature>()?.Error;
        var (status, type, sentence, field) = error switch
        {
            Refusal { Kind: RefusalKind.NotFound } r => (404, "missing", r.Message, null),
            Refusal { Kind: RefusalKind.Conflict } r => (409, "conflict", r.Message, r.Field),
            Refusal { Kind: RefusalKind.NotAllowed } r => (403, "not-allowed", r.Message, r.Field),
            Refusal r => (400, "invalid", r.Message, r.Field),
            BadHttpRequestException { StatusCode: 413 } => (413, "too-large", $"This is larger than {Limits.RequestBytes / 1024 / 1024} MB. Split it into parts and add them one by one.", null),
            BadHttpRequestException => (400, "unreadable", "The request could not be read. Reload the page and try again.", null),
            _ => (500, "unexpected", "Something went wrong on the server; nothing was changed. Try again, and tell the person who runs Vitrine if it stays.", null),
        };
        if (status == 500)
        {
            var log = context.RequestServices.GetRequiredService<ILoggerFactory>().CreateLogger(nameof(Problems));
            log.LogError(error, "Unexpected failure in {Method} {Path}", context.Request.Method, context.Request.Path);
        }
        await Of(status, type, sentence, field, (error as Refusal)?.Theirs).ExecuteAsync(context);
    }

    public static IResult Of(int status, string type, string sentence, string? field = null, string? theirs = null)
    {
        var more = new Dictionary<string, object?>();
        if (field is not null) more["field"] = field;
        if (theirs is not null) more["theirs"] = theirs;
        return TypedResults.Problem(sentence, statusCode: status, type: "/problems/" + type, title: type, extensions: more);
    }
}
