using Vitrine.Core.Gather;
using Vitrine.Core.Text;
using Vitrine.Formats;
using Vitrine.Formats.Documents;
using Vitrine.Server.Access;
using Vitrine.Storage;
using Vitrine.Storage.Catalogue;
using Vitrine.Storage.Access;
using Vitrine.Storage.Gather;
using Vitrine.Storage.Media;
using Vitrine.Storage.Trail;

namespace Vitrine.Server.Gather;

internal sealed record PastedSource(string Title, SourceKind Kind, string? HeldOn, string Text, long? SessionId, IReadOnlyList<long> ParticipantIds);

/// <summary>Text that becomes many notes.</summary>
/// <param name="Text">All of them.</param>
/// <param name="Break">Where one ends.</param>
/// <param name="Kind">What each source is.</param>
/// <param name="HeldOn">Day, or null.</param>
/// <param name="Folder">The folder they go into, made when it is not there; empty for none.</param>
/// <param name="SessionId">The session they come of, or null.</param>
/// <param name="ParticipantIds">Whose they are.</param>
/// <param name="TagIds">Tags that each is given.</param>
/// <param name="NewTags">Names of tags that each is given and that may not be there yet.</param>
internal sealed record PastedNotes(string Text, NoteBreak Break, SourceKind Kind, string? HeldOn, string Folder, long? SessionId, IReadOnlyList<long> ParticipantIds, IReadOnlyList<long> TagIds, IReadOnlyList<string> NewTags);

/// <param name="OffsetMs">What is added to the source's own times, in milliseconds; negative when its clock began before the recording.</param>
internal sealed record Offset(int OffsetMs);

internal sealed record SourceText(string Title, SourceKind Kind, string? HeldOn, long? SessionId, IReadOnlyList<long> ParticipantIds);

internal sealed record SpeakerChoice(long? ParticipantId, bool IsTeam);

/// <summary>A source that was added, with sentences about what was left out or guessed.</summary>
internal sealed record SourceAdded(Step Step, IReadOnlyList<string> Remarks, int Turns, int Speakers);

/// <summary>The first words of a turn, as a style reads them.</summary>
internal sealed record ReadTurn(string? Speaker, int? BeginMs, string Words);

/// <summary>What one style makes of a source's text.</summary>
/// <param name="Style">How the turns are taken to be written.</param>
/// <param name="Turns">How many there are.</param>
/// <param name="Speakers">By how many.</param>
/// <param name="First">The first of them.</param>
/// <param name="Now">Whether the source is read so now.</param>
internal sealed record Reading(TurnStyle Style, int Turns, int Speakers, IReadOnlyList<ReadTurn> First, bool Now);

internal sealed record TurnsGiven(TurnStyle Style);

internal static class SourceEndpoints
{
    private const int FirstTurns = 5;
    private const int MostWords = 140;
    private const long LongestOffset = 24 * 60 * 60 * 1000;

    public static void MapSources(this RouteGroupBuilder api)
    {
        var study = api.MapGroup("/studies/{studyId:long}/sources").WithTags("Gather");
        study.MapGet("", (long studyId, SignedIn me, SourceStore store) => store.In(studyId, me.Id));
        study.MapPost("/paste", (long studyId, PastedSource given, SignedIn me, SourceStore store, TextGate gate) =>
        {
            if (given.Text.Length > Limits.SourceText) throw TextGate.TooLong(given.Text.Length, "text");
            var read = gate.Read(studyId, "text", knows => TextFile.Read(given.Text, knows));
            var title = Given.Text(given.Title, "title", "A source needs a title, such as the person’s code and name.");
            if (store.SameText(studyId, read.Text) is { } there) throw new Refusal(RefusalKind.Conflict, $"The same text is already here as “{there.Title}”. It was not added again.", "text");
            var step = store.Add(me.Actor, studyId, new NewSource(title, given.Kind, TextGate.Day(given.HeldOn), null, read.Text, read.Turns, given.ParticipantIds, SessionId: given.SessionId), gate.TeamNames());
            return new SourceAdded(step, read.Remarks, read.Turns.Count, read.Turns.Select(t => t.Speaker).OfType<string>().Distinct().Count());
        });

        study.MapPost("/notes", (long studyId, PastedNotes given, SignedIn me, SourceStore store) =>
        {
            if (given.Text.Length > Limits.SourceText) throw TextGate.TooLong(given.Text.Length, "text");
            var notes = NoteSplit.Of(given.Text, given.Break);
            if (notes.Count == 0) throw Refusal.Because("There are no words in it. Paste some lines; each becomes a note.", "text");
            if (notes.Count > Limits.ListLength) throw Refusal.Because($"These are {notes.Count:N0} notes; {Limits.ListLength:N0} at once is the most. Paste them in parts.", "text");
            return store.AddNotes(me.Actor, studyId, new NewNotes(notes, given.Kind, TextGate.Day(given.HeldOn), Given.Optional(given.Folder, "folder", Limits.Name), given.SessionId, given.ParticipantIds, given.TagIds, Given.TagNames(given.NewTags)));
        });

        var sources = api.MapGroup("/sources/{id:long}").WithTags("Gather").About(Thing.Source);
        sources.MapGet("", (long id, SignedIn me, SourceStore store) => store.Get(id, me.Id));
        sources.MapPut("", (long id, SourceText given, SignedIn me, SourceStore store) =>
            store.Change(me.Actor, id, Given.Text(given.Title, "title", "A source needs a title."), given.Kind, TextGate.Day(given.HeldOn), given.SessionId, given.ParticipantIds));
        sources.MapDelete("", (long id, SignedIn me, SourceStore store) => store.Remove(me.Actor, id));
        sources.MapGet("/original", (long id, SourceStore store, MediaFolder media) => Sent(store, media, id, download: true)).Produces(StatusCodes.Status200OK, contentType: "application/octet-stream");
        sources.MapGet("/media", (long id, SourceStore store, MediaFolder media) => Sent(store, media, id, download: false)).Produces(StatusCodes.Status200OK, contentType: "application/octet-stream");
        sources.MapGet("/turn-readings", (long id, SignedIn me, SourceStore store, TextGate gate) =>
        {
            var source = store.Get(id, me.Id);
            return gate.Readings(source).Select(r => new Reading(
                r.Style,
                r.Turns.Count,
                r.Turns.Select(t => t.Speaker).OfType<string>().Distinct().Count(),
                [.. r.Turns.Take(FirstTurns).Select(t => new ReadTurn(t.Speaker, t.BeginMs, Excerpt(t.Words.Of(source.Text))))],
                r.Turns.Select(t => t.Words).SequenceEqual(source.Turns.Select(t => new TextRange(t.Start, t.End))))).ToList();
        });
        sources.MapPut("/turns", (long id, TurnsGiven given, SignedIn me, SourceStore store, TextGate gate) =>
            store.ReadTurns(me.Actor, id, gate.Readings(store.Get(id, me.Id)).Single(r => r.Style == given.Style).Turns, gate.TeamNames()));
        sources.MapPut("/offset", (long id, Offset given, SignedIn me, SourceStore store) => store.SetOffset(me.Actor, id, Math.Abs((long)given.OffsetMs) <= LongestOffset ? given.OffsetMs : throw Refusal.Because("A source is lined up within a day of its recording. Check the two times.", "offsetMs")));
        sources.MapPut("/speakers/{speakerId:long}", (long id, long speakerId, SpeakerChoice given, SignedIn me, SourceStore store) =>
            store.MatchSpeaker(me.Actor, id, speakerId, given.ParticipantId, given.IsTeam));
    }

    private static string Excerpt(string words) => words.Length <= MostWords ? words : words[..(words.LastIndexOf(' ', MostWords) is > 0 and var space ? space : MostWords)] + "…";

    /// <summary>The file that a source was made of, in ranges. Only sound, pictures and film are shown in the page; anything else is for keeping.</summary>
    private static IResult Sent(SourceStore store, MediaFolder media, long id, bool download)
    {
        var file = store.MediaOf(id) ?? throw new Refusal(RefusalKind.NotFound, "This source was pasted; there is no file of it.");
        var shown = !download && SourceFile.UseOf(file.Name) == FileUse.Media;
        return media.Sent(file, shown);
    }
}
