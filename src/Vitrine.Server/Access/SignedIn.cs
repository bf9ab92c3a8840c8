using System.Globalization;
using System.Security.Claims;
using Vitrine.Core.Access;
using Vitrine.Storage.Access;
using Vitrine.Storage.Trail;

namespace Vitrine.Server.Access;

/// <summary>The person behind a request; a parameter of every endpoint that acts for someone.</summary>
internal sealed record SignedIn(Actor Actor)
{
    /// <summary>The header with which a browser says that a request is the same as one it sent before.</summary>
    public const string RequestKeyHeader = "Idempotency-Key";

    /// <summary>The header of writes that are one step for the person: they carry the same, and are taken back together.</summary>
    public const string TogetherHeader = "Step-Together";

    public AccountId Id => Actor.AccountId;

    public Viewer Viewer => new(Actor.AccountId, Actor.Role);

    public static ValueTask<SignedIn?> BindAsync(HttpContext context) => ValueTask.FromResult(Of(context));

    public static SignedIn? Of(HttpContext context)
    {
        var id = context.User.FindFirstValue(ClaimTypes.NameIdentifier);
        if (id is null)
            return null;
        Guid? key = Guid.TryParse(context.Request.Headers[RequestKeyHeader], out var sent) ? sent : null;
        return new SignedIn(
            new Actor(
                long.Parse(id, CultureInfo.InvariantCulture),
                context.User.Identity?.Name ?? "",
                Enum.Parse<Role>(context.User.FindFirstValue(ClaimTypes.Role)!),
                key,
                Guid.TryParse(context.Request.Headers[TogetherHeader], out var together) ? together : null
            )
        );
    }
}
