using Vitrine.Server.Access;
using Vitrine.Server.Http;
using Vitrine.Storage.Catalogue;
using Vitrine.Storage.Mark.Blind;

namespace Vitrine.Server.Mark.Blind;

/// <summary>Who tags a source without seeing what the others mark.</summary>
internal sealed record GivenBlind(IReadOnlyList<AccountId> AccountIds);

internal sealed record BlindDone(bool Done);

internal static class BlindEndpoints
{
    public static void MapBlind(this RouteGroupBuilder api)
    {
        var source = api.MapGroup("/sources/{id:long}/blind").WithTags("Mark").About(Thing.Source);
        source.MapGet("", (SourceId id, BlindStore store) => store.In(id));
        source
            .MapPut(
                "",
                (SourceId id, GivenBlind given, SignedIn me, BlindStore store) =>
                    store.Give(me.Actor, id, Validate.Ids(given.AccountIds, "account"))
            )
            .RequireAuthorization(AccessEndpoints.Publishers);
        source.MapPut("/done", (SourceId id, BlindDone given, SignedIn me, BlindStore store) => store.Done(me.Actor, id, given.Done));
        source
            .MapPost("/open", (SourceId id, SignedIn me, BlindStore store) => store.Open(me.Actor, id))
            .RequireAuthorization(AccessEndpoints.Publishers);
    }
}
