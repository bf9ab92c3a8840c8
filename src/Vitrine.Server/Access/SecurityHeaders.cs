using System.Security.Cryptography;

namespace Vitrine.Server.Access;

/// <summary>What every answer says to the browser: nothing from elsewhere, nothing inline, no frames, no guessing of types.</summary>
internal static class SecurityHeaders
{
    private const int NonceBytes = 16;
    private const string NoncePlace = "{nonce}";

    public static void UseSecurityHeaders(this WebApplication app) =>
        app.Use(
            (context, next) =>
            {
                var headers = context.Response.Headers;
                headers.ContentSecurityPolicy = Policy("'self'");
                headers.XContentTypeOptions = "nosniff";
                headers["Referrer-Policy"] = "no-referrer";
                headers["Cross-Origin-Opener-Policy"] = "same-origin";
                if (context.Request.Path.StartsWithSegments("/api"))
                    headers.CacheControl = "no-store";
                return next();
            }
        );

    /// <summary>
    /// Answers with the page. Its dialogs put a few styles into it, which carry a number that is good for this answer alone.
    /// </summary>
    public static async Task Page(HttpContext context, string html)
    {
        var nonce = Convert.ToBase64String(RandomNumberGenerator.GetBytes(NonceBytes));
        context.Response.ContentType = "text/html; charset=utf-8";
        context.Response.Headers.CacheControl = "no-store";
        context.Response.Headers.ContentSecurityPolicy = Policy($"'self' 'nonce-{nonce}'");
        await context.Response.WriteAsync(html.Replace(NoncePlace, nonce, StringComparison.Ordinal));
    }

    private static string Policy(string styles) =>
        $"default-src 'none'; script-src 'self'; style-src {styles}; img-src 'self' data:; media-src 'self'; font-src 'self'; "
        + $"connect-src 'self'; base-uri 'none'; form-action 'self'; frame-ancestors 'none'";
}
