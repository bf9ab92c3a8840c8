using Microsoft.AspNetCore.Antiforgery;
using Vitrine.Server.Http;

namespace Vitrine.Server.Access;

/// <summary>
/// Refuses writes that another site made a browser send: each carries a token in a header that only this site's pages can read (GET /api/me
/// gives it).
/// The live line is left out: it takes no writes, and its cookie is not sent from other sites; so is the intake's door for other programs,
/// which looks at no cookie.
/// </summary>
internal static class AntiforgeryCheck
{
    public const string Header = "X-Vitrine-Token";

    public static void AddAntiforgeryCheck(this IServiceCollection services) =>
        services.AddAntiforgery(forgery =>
        {
            forgery.HeaderName = Header;
            forgery.Cookie.Name = "vitrine-page";
            forgery.Cookie.SameSite = SameSiteMode.Strict;
            forgery.SuppressXFrameOptionsHeader = true;
        });

    public static void UseAntiforgeryCheck(this WebApplication app) =>
        app.Use(
            async (context, next) =>
            {
                var request = context.Request;
                var writes =
                    !HttpMethods.IsGet(request.Method) && !HttpMethods.IsHead(request.Method) && !HttpMethods.IsOptions(request.Method);
                if (
                    writes
                    && request.Path.StartsWithSegments("/api")
                    && !request.Path.StartsWithSegments("/api/live")
                    && context.GetEndpoint()?.Metadata.GetMetadata<CalledByPrograms>() is null
                    && !await context.RequestServices.GetRequiredService<IAntiforgery>().IsRequestValidAsync(context)
                )
                {
                    await Problems
                        .Of(400, PageTooOld, "This page was opened for another sign-in. Reload it and try again.")
                        .ExecuteAsync(context);
                    return;
                }
                await next();
            }
        );

    /// <summary>The problem's type; a page that gets it fetches a new token and sends again.</summary>
    public const string PageTooOld = "page-too-old";
}

/// <summary>Marks an operation that other programs call, with a secret of their own and no cookie.</summary>
internal sealed record CalledByPrograms;
