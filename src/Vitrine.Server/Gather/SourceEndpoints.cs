using Microsoft.Net.Http.Headers;
using Vitrine.Core.Gather;
using Vitrine.Formats;
using Vitrine.Formats.Documents;
using Vitrine.Server.Access;
using Vitrine.Storage;
using Vitrine.Storage.Access;
using Vitrine.Storage.Gather;
using Vitrine.Storage.Media;
using Vitrine.Storage.Trail;

namespace Vitrine.Server.Gather;

internal sealed record PastedSource(string Title, SourceKind Kind, string? HeldOn, string Text, IReadOnlyList<long> ParticipantIds);

internal sealed record SourceText(string Title, SourceKind Kind, string? HeldOn, IReadOnlyList<long> ParticipantIds);

internal sealed record SpeakerChoice(long? ParticipantId, bool IsTeam);

/// <summary>A source that was added, with sentences about what was left out or guessed.</summary>
internal sealed record SourceAdded(Step Step, IReadOnlyList<string> Remarks, int Turns, int Speakers);

internal static class SourceEndpoints
{
    public static void MapSources(this RouteGroupBuilder api)
    {
        var study = api.MapGroup("/studies/{studyId:long}/sources").WithTags("Gather");
        study.MapGet("", (long studyId, SignedIn me, SourceStore store) => store.In(studyId, me.Id));
        study.MapPost("/paste", (long studyId, PastedSource given, SignedIn me, SourceStore store, Intake intake) =>
        {
            if (given.Text.Length > Limits.SourceText) throw Intake.TooLong(given.Text.Length, "text");
            var read = intake.Read(studyId, "text", knows => TextFile.Read(given.Text, knows));
            var title = Given.Text(given.Title, "title", "A source needs a title, such as the person’s code and name.");
            if (store.SameText(studyId, read.Text) is { } there) throw new Refusal(RefusalKind.Conflict, $"The same text is already here as “{there.Title}”. It was not added again.", "text");
            var step = store.Add(me.Actor, studyId, new NewSource(title, given.Kind, Intake.Day(given.HeldOn), null, read.Text, read.Turns, given.ParticipantIds), intake.TeamNames());
            return new SourceAdded(step, read.Remarks, read.Turns.Count, read.Turns.Select(t => t.Speaker).OfType<string>().Distinct().Count());
        });

        var sources = api.MapGroup("/sources/{id:long}").WithTags("Gather").About(Thing.Source);
        sources.MapGet("", (long id, SignedIn me, SourceStore store) => store.Get(id, me.Id));
        sources.MapPut("", (long id, SourceText given, SignedIn me, SourceStore store) =>
            store.Change(me.Actor, id, Given.Text(given.Title, "title", "A source needs a title."), given.Kind, Intake.Day(given.HeldOn), given.ParticipantIds));
        sources.MapDelete("", (long id, SignedIn me, SourceStore store) => store.Remove(me.Actor, id));
        sources.MapGet("/original", (long id, SourceStore store, MediaFolder media) => Sent(store, media, id, download: true)).Produces(StatusCodes.Status200OK, contentType: "application/octet-stream");
        sources.MapGet("/media", (long id, SourceStore store, MediaFolder media) => Sent(store, media, id, download: false)).Produces(StatusCodes.Status200OK, contentType: "application/octet-stream");
        sources.MapPut("/speakers/{speakerId:long}", (long id, long speakerId, SpeakerChoice given, SignedIn me, SourceStore store) =>
            store.MatchSpeaker(me.Actor, id, speakerId, given.ParticipantId, given.IsTeam));
    }

    /// <summary>The file that a source was made of, in ranges. Only sound, pictures and film are shown in the page; anything else is for keeping.</summary>
    private static IResult Sent(SourceStore store, MediaFolder media, long id, bool download)
    {
        var file = store.MediaOf(id) ?? throw new Refusal(RefusalKind.NotFound, "This source was pasted; there is no file of it.");
        var shown = !download && SourceFile.UseOf(file.Name) == FileUse.Media;
        return Results.File(Path.GetFullPath(media.PathOf(file.Hash)), file.Type, shown ? null : file.Name, entityTag: new EntityTagHeaderValue($"\"{file.Hash}\""), enableRangeProcessing: true);
    }
}
