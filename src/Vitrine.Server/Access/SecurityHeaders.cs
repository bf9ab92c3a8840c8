namespace Vitrine.Server.Access;

/// <summary>What every answer says to the browser: nothing from elsewhere, no frames, no guessing of types.</summary>
internal static class SecurityHeaders
{
    // Styles may be inline because the dialogs and messages of the interface's libraries set theirs so; scripts may not.
    private const string Policy =
        "default-src 'none'; script-src 'self'; style-src 'self' 'unsafe-inline'; img-src 'self' data:; font-src 'self'; connect-src 'self'; base-uri 'none'; form-action 'self'; frame-ancestors 'none'";

    public static void UseSecurityHeaders(this WebApplication app) => app.Use((context, next) =>
    {
        var headers = context.Response.Headers;
        headers.ContentSecurityPolicy = Policy;
        headers.XContentTypeOptions = "nosniff";
        headers["Referrer-Policy"] = "no-referrer";
        headers["Cross-Origin-Opener-Policy"] = "same-origin";
        if (context.Request.Path.StartsWithSegments("/api")) headers.CacheControl = "no-store";
        return next();
    });
}
