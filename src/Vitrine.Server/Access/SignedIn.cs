using System.Globalization;
using System.Security.Claims;
using Vitrine.Storage.Trail;

namespace Vitrine.Server.Access;

/// <summary>The person behind a request; a parameter of every endpoint that acts for someone.</summary>
internal sealed record SignedIn(Actor Actor)
{
    public long Id => Actor.AccountId;

    public static ValueTask<SignedIn?> BindAsync(HttpContext context)
    {
        var id = context.User.FindFirstValue(ClaimTypes.NameIdentifier);
        return ValueTask.FromResult(id is null ? null : new SignedIn(new Actor(long.Parse(id, CultureInfo.InvariantCulture), context.User.Identity?.Name ?? "")));
    }
}
