using System.Globalization;
using Vitrine.Server.Http;
using Vitrine.Storage.Access;
using Vitrine.Storage.Catalogue;

namespace Vitrine.Server.Access;

/// <summary>
/// What the <c>{id}</c> of a route is. <c>null</c>: the operation is about no study; it shows and takes only what the person may see.
/// </summary>
internal sealed record About(string? Thing);

/// <summary>
/// The one place where a request is held against what the person may see: the study in the route, the thing in the route, and
/// (<see cref="RequestIds"/>) whatever else it names.
/// What one may not see is not there. An operation of the team that does not say what it is about fails at every request.
/// </summary>
internal static class StudyAuthorization
{
    private const string Study = "studyId";

    public static TBuilder About<TBuilder>(this TBuilder builder, string? thing)
        where TBuilder : IEndpointConventionBuilder => builder.WithMetadata(new About(thing));

    public static void UseStudyAuthorization(this WebApplication app) =>
        app.Use(
            async (context, next) =>
            {
                if (
                    context.GetEndpoint()?.Metadata.GetMetadata<TeamOperation>() is not null
                    && SignedIn.Of(context) is { } me
                    && Refused(context, me.Viewer) is { } what
                )
                {
                    await NotHere(what).ExecuteAsync(context);
                    return;
                }
                await next();
            }
        );

    /// <summary>The answer about a thing that is not there or that the person does not see; nobody can tell which.</summary>
    internal static IResult NotHere(string what) =>
        Problems.Of(404, "missing", $"This {what} is not here, or you are not in its study’s team. Ask someone of the team to add you.");

    private static string? Refused(HttpContext context, Viewer viewer)
    {
        var access = context.RequestServices.GetRequiredService<StudyAccess>();
        var about = context.GetEndpoint()!.Metadata.GetMetadata<About>();
        var study = Number(context, Study);
        var id = Number(context, "id");
        if (about?.Thing is null && (id is not null || (study is null && about is null)))
            throw new InvalidOperationException(
                $"{context.GetEndpoint()!.DisplayName} does not say what it is about; see {nameof(About)}."
            );
        if (study is { } there && !access.SeesStudy(viewer, there))
            return "study";
        if (about?.Thing is not { } thing || id is not { } one)
            return null;
        if (
            !access.Sees(viewer, thing, one)
            || !access.OwnersOf(viewer, thing, [one]).TryGetValue(one, out var owner)
            || (study is not null && owner.StudyId is { } theirs && theirs != study)
        )
            return Thing.InWords(thing);
        context.Items[typeof(Owner)] = owner;
        return null;
    }

    /// <summary>
    /// The study that a request is about, once the door has let it in: that of its address, or of the thing in its address.
    /// </summary>
    internal static long? StudyOf(HttpContext context) => Number(context, Study) ?? (context.Items[typeof(Owner)] as Owner)?.StudyId?.Value;

    private static long? Number(HttpContext context, string name) =>
        context.Request.RouteValues.TryGetValue(name, out var value)
        && long.TryParse(value?.ToString(), CultureInfo.InvariantCulture, out var id)
            ? id
            : null;
}

/// <summary>Marks the operations of the team, which the door guards.</summary>
internal sealed record TeamOperation;
