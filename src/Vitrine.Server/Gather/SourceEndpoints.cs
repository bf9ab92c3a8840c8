using System.Globalization;
using Microsoft.AspNetCore.Mvc;
using Vitrine.Core.Gather;
using Vitrine.Formats;
using Vitrine.Formats.Documents;
using Vitrine.Server.Access;
using Vitrine.Storage;
using Vitrine.Storage.Access;
using Vitrine.Storage.Gather;
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
        study.MapPost("/paste", (long studyId, PastedSource given, SignedIn me, SourceStore store, ParticipantStore participants, AccountStore accounts) =>
        {
            if (given.Text.Length > Limits.SourceText) throw TooLong(given.Text.Length, "text");
            var read = Readable(() => TextFile.Read(given.Text, Knows(participants, accounts, studyId)), "text");
            var title = Given.Text(given.Title, "title", "A source needs a title, such as the person’s code and name.");
            return Add(store, accounts, me, studyId, new NewSource(title, given.Kind, Date(given.HeldOn), null, read.Text, read.Turns, given.ParticipantIds), read);
        });
        study.MapPost("/file", async (long studyId, IFormFile file, [FromForm] string kind, SignedIn me, SourceStore store, ParticipantStore participants, AccountStore accounts) =>
        {
            if (file.Length > Limits.SourceText) throw TooLong(file.Length, "file");
            using var bytes = new MemoryStream();
            await file.CopyToAsync(bytes);
            bytes.Position = 0;
            var name = Path.GetFileName(file.FileName);
            var read = Readable(() => SourceFile.Read(name, bytes, Knows(participants, accounts, studyId)), "file");
            var title = Path.GetFileNameWithoutExtension(name) is { Length: > 0 } stem ? stem[..Math.Min(stem.Length, Limits.Title)] : name;
            return Add(store, accounts, me, studyId, new NewSource(title, Given.Choice<SourceKind>(kind, nameof(kind)), null, name, read.Text, read.Turns, []), read);
        }).DisableAntiforgery() /* the forgery check stands before all writes */;

        var sources = api.MapGroup("/sources/{id:long}").WithTags("Gather").About(Thing.Source);
        sources.MapGet("", (long id, SignedIn me, SourceStore store) => store.Get(id, me.Id));
        sources.MapPut("", (long id, SourceText given, SignedIn me, SourceStore store) =>
            store.Change(me.Actor, id, Given.Text(given.Title, "title", "A source needs a title."), given.Kind, Date(given.HeldOn), given.ParticipantIds));
        sources.MapDelete("", (long id, SignedIn me, SourceStore store) => store.Remove(me.Actor, id));
        sources.MapPut("/speakers/{speakerId:long}", (long id, long speakerId, SpeakerChoice given, SignedIn me, SourceStore store) =>
            store.MatchSpeaker(me.Actor, id, speakerId, given.ParticipantId, given.IsTeam));
    }

    private static SourceAdded Add(SourceStore store, AccountStore accounts, SignedIn me, long studyId, NewSource source, ReadSource read)
    {
        if (store.SameText(studyId, source.Text) is { } there) throw new Refusal(RefusalKind.Conflict, $"The same text is already here as “{there.Title}”. It was not added again.", "file");
        var step = store.Add(me.Actor, studyId, source, TeamNames(accounts));
        return new SourceAdded(step, read.Remarks, read.Turns.Count, read.Turns.Select(t => t.Speaker).OfType<string>().Distinct().Count());
    }

    private static Func<string, bool> Knows(ParticipantStore participants, AccountStore accounts, long studyId)
    {
        var (people, team) = (participants.Known(studyId), TeamNames(accounts));
        return name => SpeakerMatching.Knows(name, people, team);
    }

    private static IReadOnlyCollection<string> TeamNames(AccountStore accounts) => [.. accounts.All().Select(a => a.Name)];

    private static ReadSource Readable(Func<ReadSource> read, string field)
    {
        try
        {
            return read();
        }
        catch (UnreadableException problem)
        {
            throw Refusal.Because(problem.Message, field);
        }
    }

    private static Refusal TooLong(long length, string field) => Refusal.Because(
        $"This text is {(length / 1e6).ToString("0.#", CultureInfo.InvariantCulture)} MB; one source can hold {Limits.SourceText / 1_000_000} MB, about 900,000 words. Split it, for example by session, and add the parts.", field);

    private static string? Date(string? value)
    {
        if (string.IsNullOrWhiteSpace(value)) return null;
        return DateOnly.TryParseExact(value, "yyyy-MM-dd", CultureInfo.InvariantCulture, DateTimeStyles.None, out _)
            ? value
            : throw Refusal.Because("Type the date as year-month-day, such as 2026-03-14.", "heldOn");
    }
}
