using System.Security.Cryptography;

namespace Vitrine.Server.Http;

/// <summary>
/// Whether people may come in. While the demo is loaded, over the same address and by the same operations as a person's, only the loader
/// may:
/// whoever asked for something in between would change what it counts on.
/// </summary>
internal sealed class Readiness
{
    /// <summary>Carries the loader's pass.</summary>
    public const string PassHeader = "X-Vitrine-Loader";

    private volatile string? pass;

    public bool IsReady => pass is null;

    /// <returns>The pass with which the loader's requests are let in.</returns>
    public string BeginLoading() => pass = Convert.ToHexString(RandomNumberGenerator.GetBytes(16));

    public void EndLoading() => pass = null;

    public bool LetsIn(HttpRequest request) =>
        pass is not { } wanted
        || request.Headers[PassHeader] == wanted
        || !request.Path.StartsWithSegments("/api")
        || request.Path == "/api/me"
        || request.Path == "/api/openapi.json";
}

internal static class ReadinessCheck
{
    public static void UseReadiness(this WebApplication app) =>
        app.Use(
            async (context, next) =>
            {
                if (context.RequestServices.GetRequiredService<Readiness>().LetsIn(context.Request))
                    await next();
                else
                    await Problems
                        .Of(
                            StatusCodes.Status503ServiceUnavailable,
                            "loading",
                            "The demo workspace is being loaded. Wait a few seconds, then try again."
                        )
                        .ExecuteAsync(context);
            }
        );
}
