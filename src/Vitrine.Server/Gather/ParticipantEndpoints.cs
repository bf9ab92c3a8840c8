using System.Globalization;
using Vitrine.Server.Access;
using Vitrine.Storage;
using Vitrine.Storage.Gather;

namespace Vitrine.Server.Gather;

internal sealed record ParticipantText(string Code, string Pseudonym, string? RealName);

internal sealed record NewAttribute(string Name, AttributeKind Kind);

internal sealed record AttributeText(string? Value);

internal static class ParticipantEndpoints
{
    public static void MapParticipants(this RouteGroupBuilder api)
    {
        var study = api.MapGroup("/studies/{studyId:long}").WithTags("Gather");
        study.MapGet("/participants", (long studyId, ParticipantStore store) => store.In(studyId));
        study.MapPost("/participants", (long studyId, ParticipantText given, SignedIn me, ParticipantStore store) =>
        {
            var text = Checked(given);
            return store.Add(me.Actor, studyId, text.Code, text.Pseudonym, text.RealName);
        });
        study.MapPut("/participants/{id:long}", (long studyId, long id, ParticipantText given, SignedIn me, ParticipantStore store) =>
        {
            var text = Checked(given);
            return store.Change(me.Actor, studyId, id, text.Code, text.Pseudonym, text.RealName);
        });
        study.MapDelete("/participants/{id:long}", (long studyId, long id, SignedIn me, ParticipantStore store) => store.Remove(me.Actor, studyId, id)).RequireAuthorization(AccessEndpoints.Publishers);
        study.MapPost("/attributes", (long studyId, NewAttribute given, SignedIn me, ParticipantStore store) =>
            store.AddAttribute(me.Actor, studyId, Given.Text(given.Name, "name", "An attribute needs a name, such as “home” or “age”.", Limits.Name), given.Kind));
        study.MapDelete("/attributes/{id:long}", (long studyId, long id, SignedIn me, ParticipantStore store) => store.RemoveAttribute(me.Actor, studyId, id)).RequireAuthorization(AccessEndpoints.Publishers);
        study.MapPut("/participants/{id:long}/attributes/{attributeId:long}", (long studyId, long id, long attributeId, AttributeText given, SignedIn me, ParticipantStore store) =>
        {
            var attribute = store.In(studyId).Attributes.FirstOrDefault(a => a.Id == attributeId) ?? throw Refusal.Missing("attribute");
            return store.SetValue(me.Actor, studyId, id, attributeId, Fitting(attribute, Given.Optional(given.Value, "value", Limits.Title)));
        });
    }

    private static ParticipantText Checked(ParticipantText given) => new(
        Given.Text(given.Code, "code", "A participant needs a code, such as P01.", 20),
        Given.Text(given.Pseudonym, "pseudonym", "A participant needs a pseudonym: a made-up name to be called by.", Limits.Name),
        string.IsNullOrWhiteSpace(given.RealName) ? null : Given.Optional(given.RealName, "realName", Limits.Name));

    private static string Fitting(ParticipantAttribute attribute, string value)
    {
        if (value.Length == 0) return value;
        return attribute.Kind switch
        {
            AttributeKind.Number when double.TryParse(value, CultureInfo.InvariantCulture, out _) => value,
            AttributeKind.Number => throw Refusal.Because($"“{attribute.Name}” is a number; “{value}” is not. Type digits, such as 12 or 3.5.", "value"),
            AttributeKind.Date when DateOnly.TryParseExact(value, "yyyy-MM-dd", CultureInfo.InvariantCulture, DateTimeStyles.None, out _) => value,
            AttributeKind.Date => throw Refusal.Because($"“{attribute.Name}” is a date. Type it as year-month-day, such as 2026-03-14.", "value"),
            AttributeKind.YesNo when value.ToLowerInvariant() is "yes" or "y" => "yes",
            AttributeKind.YesNo when value.ToLowerInvariant() is "no" or "n" => "no",
            AttributeKind.YesNo => throw Refusal.Because($"“{attribute.Name}” is yes or no.", "value"),
            _ => value,
        };
    }
}
