using Vitrine.Core.Gather.Privacy;
using Vitrine.Core.Gather.Turns;
using Vitrine.Core.Text;
using Vitrine.Server.Access;
using Vitrine.Server.Http;
using Vitrine.Storage.Catalogue;
using Vitrine.Storage.Gather.Sources;
using Vitrine.Storage.Gather.Turns;
using Vitrine.Storage.Trail;

namespace Vitrine.Server.Gather.Turns;

/// <summary>Whom a name stands for.</summary>
/// <param name="ParticipantId">A participant; null for none.</param>
/// <param name="IsTeam">One of the team.</param>
/// <param name="Everywhere">Whether the same name is matched in the other sources of the study, where it is not yet.</param>
internal sealed record SpeakerChoice(ParticipantId? ParticipantId, bool IsTeam, bool? Everywhere = null);

/// <summary>The first words of a turn, as a style reads them.</summary>
internal sealed record ReadTurn(string? Speaker, int? BeginMs, string Words);

/// <summary>What one style makes of a source's text.</summary>
/// <param name="Style">How the turns are taken to be written.</param>
/// <param name="Turns">How many there are.</param>
/// <param name="Speakers">By how many.</param>
/// <param name="First">The first of them.</param>
/// <param name="Now">Whether the source is read so now.</param>
internal sealed record Reading(TurnStyle Style, int Turns, int Speakers, IReadOnlyList<ReadTurn> First, bool Now);

/// <summary>A name in a source that a person should look at, or has.</summary>
/// <param name="Label">As the text writes it.</param>
/// <param name="Times">How many lines it opens.</param>
/// <param name="Start">Where it stands first.</param>
/// <param name="Speaks">Whether turns begin with it now.</param>
/// <param name="Settled">Whether somebody has said so.</param>
/// <param name="Words">The words of the first turn that it opens; the line where it opens none.</param>
internal sealed record LabelToLookAt(string Label, int Times, int Start, bool Speaks, bool Settled, string Words);

/// <summary>What was understood of a source, before anything in it is counted.</summary>
/// <param name="Style">How its turns are taken to be written.</param>
/// <param name="Sureness">How far that can be relied on.</param>
/// <param name="RunnerUp">The style that comes next.</param>
/// <param name="Turns">How many turns or paragraphs.</param>
/// <param name="FirstMs">The earliest time in it.</param>
/// <param name="LastMs">The latest.</param>
/// <param name="Headings">How many headings.</param>
/// <param name="Rows">How many rows of tables.</param>
/// <param name="ListItems">How many items of lists.</param>
/// <param name="Pages">How many pages.</param>
/// <param name="Labels">Names to look at, those that are settled among them.</param>
internal sealed record SourceLook(
    TurnStyle Style,
    Sureness Sureness,
    TurnStyle? RunnerUp,
    int Turns,
    int? FirstMs,
    int? LastMs,
    int Headings,
    int Rows,
    int ListItems,
    int Pages,
    IReadOnlyList<LabelToLookAt> Labels
);

internal sealed record TurnsGiven(TurnStyle Style);

/// <summary>What a label in a transcript is.</summary>
internal enum LabelKind
{
    /// <summary>The name of someone who speaks.</summary>
    Speaker,

    /// <summary>The name of one of the team.</summary>
    Team,

    /// <summary>No name: words like any others.</summary>
    NoSpeaker,
}

internal sealed record LabelGiven(string Label, LabelKind Kind);

/// <param name="Start">Where the turn begins in the text.</param>
/// <param name="BeginMs">When it begins, by the transcript's own clock; null where that is not known any more.</param>
/// <param name="BasedOn">The hash of the text in which the turn was seen.</param>
internal sealed record TurnBegins(int Start, int? BeginMs, string BasedOn);

/// <summary>A name in transcripts that becomes a participant.</summary>
/// <param name="Label">The name, as the transcripts write it.</param>
/// <param name="Code">The participant's code.</param>
/// <param name="Pseudonym">What they are called.</param>
internal sealed record NameGiven(string Label, string Code, string Pseudonym);

/// <param name="People">The names, each with what its participant is called.</param>
/// <param name="Pseudonyms">The names to choose from in this study from now on; null where they stay as they are.</param>
/// <param name="AgreedBy">How they have agreed to their words being used; null where no answer is noted.</param>
internal sealed record NamesGiven(IReadOnlyList<NameGiven> People, string? Pseudonyms = null, AgreedBy? AgreedBy = null);

internal static class TurnEndpoints
{
    private const int FirstTurns = 5;
    private const int MostWords = 140;
    private const int LongestTime = 24 * 60 * 60 * 1000;

    public static void MapTurns(this RouteGroupBuilder api)
    {
        api.MapPost(
                "/studies/{studyId:long}/speakers/participants",
                (StudyId studyId, NamesGiven given, SignedIn me, TurnStore store) =>
                {
                    if (given.People.Count is 0 or > Limits.ListLength)
                        throw Refusal.Because("Choose at least one name.", "people");
                    return store.MakeParticipants(
                        me.Actor,
                        studyId,
                        [
                            .. given.People.Select(p =>
                                (
                                    Validate.Text(p.Label, "label", "A name is missing.", Limits.Name),
                                    Validate.Text(p.Code, "code", $"“{p.Label}” needs a code, such as P03.", Limits.Name),
                                    Validate.Text(p.Pseudonym, "pseudonym", $"“{p.Label}” needs a pseudonym, such as Sorrel.", Limits.Name)
                                )
                            ),
                        ],
                        given.Pseudonyms is null ? null : Validate.Optional(given.Pseudonyms, "pseudonyms"),
                        given.AgreedBy
                    );
                }
            )
            .WithTags("Gather");
        var sources = api.MapGroup("/sources/{id:long}").WithTags("Gather").About(Thing.Source);
        sources.MapPut(
            "/turn-begin",
            (SourceId id, TurnBegins given, SignedIn me, TurnStore store) =>
                store.SetBegin(
                    me.Actor,
                    id,
                    given.Start,
                    given.BeginMs is null or (>= 0 and <= LongestTime)
                        ? given.BeginMs
                        : throw Refusal.Because("A turn begins within a day of the recording's beginning.", "beginMs"),
                    given.BasedOn
                )
        );
        sources.MapGet(
            "/turn-readings",
            (SourceId id, SignedIn me, SourceStore store, SourceReading gate) =>
            {
                var source = store.Get(id, me.Id);
                var now = source.ReadTurns().Select(t => t.Words).ToList();
                return gate.Readings(source)
                    .All()
                    .Select(r => new Reading(
                        r.Style,
                        r.Turns.Count,
                        r.Turns.Select(t => t.Speaker).OfType<string>().Distinct().Count(),
                        [.. r.Turns.Take(FirstTurns).Select(t => new ReadTurn(t.Speaker, t.BeginMs, Excerpt(t.Words.Of(source.Text))))],
                        r.Turns.Select(t => t.Words).SequenceEqual(now)
                    ))
                    .ToList();
            }
        );
        sources.MapGet(
            "/look",
            (SourceId id, SignedIn me, SourceStore store, TurnStore turns, SourceReading gate) =>
            {
                var source = store.Get(id, me.Id);
                return LookAt(source, gate.Readings(source), turns.Choices(id));
            }
        );
        sources.MapPut(
            "/turns",
            (SourceId id, TurnsGiven given, SignedIn me, SourceStore store, TurnStore turns, SourceReading gate) =>
                turns.Read(me.Actor, id, gate.Readings(store.Get(id, me.Id)).As(given.Style).Turns, gate.TeamNames())
        );
        sources.MapPut(
            "/labels",
            (SourceId id, LabelGiven given, SignedIn me, SourceStore store, TurnStore turns, SourceReading gate) =>
                Choose(me.Actor, store.Get(id, me.Id), given, turns, gate)
        );
        sources.MapPut(
            "/speakers/{speakerId:long}",
            (SourceId id, SpeakerId speakerId, SpeakerChoice given, SignedIn me, TurnStore store) =>
                store.MatchSpeaker(me.Actor, id, speakerId, given.ParticipantId, given.IsTeam, given.Everywhere == true)
        );
    }

    /// <summary>Says what a label is, and reads the turns anew in the way they are read now.</summary>
    /// <exception cref="Refusal">The text does not hold the label.</exception>
    private static Step Choose(Actor actor, Source source, LabelGiven given, TurnStore turns, SourceReading gate)
    {
        var label = given.Label.Trim();
        if (label.Length == 0 || !source.Text.Contains(label, StringComparison.OrdinalIgnoreCase))
            throw Refusal.Because("This name does not stand in the text any more. Open the source again.", "label");
        var speaks = given.Kind != LabelKind.NoSpeaker;
        var (style, known) = gate.Readings(source).Of(source.ReadTurns());
        var choices = new Dictionary<string, bool>(turns.Choices(source.Line.Id), StringComparer.OrdinalIgnoreCase);
        label = choices.Keys.FirstOrDefault(l => l.Equals(label, StringComparison.OrdinalIgnoreCase)) ?? label;
        choices[label] = speaks;
        var read = gate.Readings(source, choices).As(known ? style : null).Turns;
        return turns.Choose(actor, source.Line.Id, label, speaks, given.Kind == LabelKind.Team ? true : null, read, gate.TeamNames());
    }

    private static SourceLook LookAt(Source source, SourceReadings readings, IReadOnlyDictionary<string, bool> choices)
    {
        var guess = readings.As(readings.Of(source.ReadTurns()).Style);
        int OfKind(BlockKind kind) => source.Shape?.Blocks.Count(b => b.Kind == kind) ?? 0;
        var settled = choices.Select(c =>
        {
            var start = Math.Max(0, source.Text.IndexOf(c.Key, StringComparison.OrdinalIgnoreCase));
            return new LabelToLookAt(
                c.Key,
                guess.Turns.Count(t => t.Speaker == c.Key),
                start,
                c.Value,
                true,
                Opened(source, guess, c.Key, start)
            );
        });
        return new SourceLook(
            guess.Style,
            guess.Sureness,
            guess.RunnerUp,
            source.Turns.Count,
            source.Turns.Min(t => t.BeginMs),
            source.Turns.Max(t => t.EndMs ?? t.BeginMs),
            OfKind(BlockKind.Heading),
            OfKind(BlockKind.TableRow),
            OfKind(BlockKind.ListItem),
            source.Shape?.Pages.Count ?? 0,
            [
                .. guess
                    .Doubtful.Where(d => !choices.Keys.Contains(d.Label, StringComparer.OrdinalIgnoreCase))
                    .Select(d => new LabelToLookAt(d.Label, d.Times, d.Start, d.Speaks, false, Opened(source, guess, d.Label, d.Start)))
                    .Concat(settled)
                    .OrderBy(l => l.Start),
            ]
        );
    }

    /// <summary>What a label opens: the words of its turn, or its line where it opens none.</summary>
    private static string Opened(Source source, TurnGuess guess, string label, int start)
    {
        if (guess.Turns.FirstOrDefault(t => t.Speaker == label) is { } turn)
            return Excerpt(turn.Words.Of(source.Text).ReplaceLineEndings(" "));
        var end = source.Text.IndexOf('\n', start);
        return Excerpt(source.Text[start..(end < 0 ? source.Text.Length : end)]);
    }

    private static string Excerpt(string words) =>
        words.Length <= MostWords ? words : words[..(words.LastIndexOf(' ', MostWords) is > 0 and var space ? space : MostWords)] + "…";
}
