using System.Text.Json;
using Dapper;
using Vitrine.Core.Gather.Privacy;
using Vitrine.Core.Gather.Turns;
using Vitrine.Core.Text;
using Vitrine.Storage.Gather.Participants;
using Vitrine.Storage.Trail;

namespace Vitrine.Storage.Gather.Turns;

/// <summary>The turns of a source that is added.</summary>
/// <param name="SourceId">Which source.</param>
/// <param name="Turns">Its turns, in order.</param>
/// <param name="Match">Who stands behind a label.</param>
internal sealed record NewTurns(SourceId SourceId, IReadOnlyList<Turn> Turns, Func<string, SpeakerMatch> Match);

/// <summary>The turns of a source and those who speak in it.</summary>
public sealed class TurnStore(Workspace workspace, ParticipantStore participants)
{
    /// <summary>Says whom a name in a transcript stands for.</summary>
    /// <param name="everywhere">Whether the same name is matched in the other sources of the study too, where it is matched to nobody
    /// yet.</param>
    public Step MatchSpeaker(
        Actor actor,
        SourceId sourceId,
        SpeakerId speakerId,
        ParticipantId? participantId,
        bool isTeam,
        bool everywhere = false
    ) =>
        workspace.Write(
            actor,
            StudyOf(sourceId),
            "Matched a speaker",
            writing =>
            {
                writing.Expect("speaker", speakerId.Value, "source_id", sourceId.Value);
                var others = everywhere ? SameName(writing, speakerId) : [];
                foreach (var id in others.Prepend(speakerId))
                    writing.Update("speaker", id.Value, new { participantId, isTeam = isTeam && participantId is null });
                if (others.Count > 0)
                    writing.Label = $"Matched a speaker in {others.Count + 1} sources";
                return speakerId.Value;
            }
        );

    /// <summary>
    /// Makes participants of names that nobody was matched to, wherever in the study they speak, as one step. The name stays with the
    /// team as the real one, unless it is the code.
    /// </summary>
    /// <param name="pseudonyms">The names to choose from in this study from now on; null where they stay as they are.</param>
    /// <param name="agreedBy">How they have agreed to their words being used; null where no answer is noted.</param>
    /// <exception cref="Refusal">A name is matched by now, or a code is taken.</exception>
    public Step MakeParticipants(
        Actor actor,
        StudyId studyId,
        IReadOnlyList<(string Label, string Code, string Pseudonym)> people,
        string? pseudonyms = null,
        AgreedBy? agreedBy = null
    ) =>
        workspace.Write(
            actor,
            studyId,
            people.Count == 1 ? "Made a participant of a name" : $"Made participants of {people.Count} names",
            writing =>
            {
                if (pseudonyms is not null)
                    writing.Update("study", studyId.Value, new { pseudonyms });
                foreach (var (label, code, pseudonym) in people)
                {
                    var speakers = writing
                        .Connection.Query<SpeakerId>(
                            """
                            SELECT p.id FROM speaker p JOIN source s ON s.id = p.source_id
                            WHERE s.study_id = @studyId AND p.label = @label COLLATE NOCASE AND p.participant_id IS NULL AND NOT p.is_team
                            ORDER BY p.id
                            """,
                            new { studyId, label }
                        )
                        .ToList();
                    if (speakers.Count == 0)
                        throw Refusal.Because($"“{label}” is matched by now. Open the list again.", "people");
                    var isCode = label.Equals(code, StringComparison.OrdinalIgnoreCase);
                    var id = ParticipantStore.Insert(writing, studyId, code, pseudonym, isCode ? null : label, agreedBy);
                    foreach (var speaker in speakers)
                        writing.Update("speaker", speaker.Value, new { participantId = (ParticipantId?)id, isTeam = false });
                }
                return (long?)null;
            }
        );

    private static List<SpeakerId> SameName(Writing writing, SpeakerId speakerId) =>
        writing
            .Connection.Query<SpeakerId>(
                """
                SELECT other.id FROM speaker one
                JOIN source s ON s.id = one.source_id JOIN source x ON x.study_id = s.study_id AND x.id != s.id
                JOIN speaker other ON other.source_id = x.id AND other.label = one.label COLLATE NOCASE
                WHERE one.id = @speakerId AND other.participant_id IS NULL AND NOT other.is_team ORDER BY other.id
                """,
                new { speakerId }
            )
            .ToList();

    /// <summary>What was said of labels in a source: whether they are speakers' names.</summary>
    public IReadOnlyDictionary<string, bool> Choices(SourceId sourceId)
    {
        using var connection = workspace.Open();
        return connection
            .Query<(string Label, bool Speaks)>(
                "SELECT label, speaks FROM label_choice WHERE source_id = @sourceId ORDER BY id",
                new { sourceId }
            )
            .ToDictionary(c => c.Label, c => c.Speaks);
    }

    /// <summary>Keeps what a label is, and puts the turns that are read by it in the place of the others, as one step.</summary>
    /// <param name="label">The label as the text writes it.</param>
    /// <param name="speaks">Whether it is a speaker's name.</param>
    /// <param name="isTeam">Whether that speaker is one of the team; null leaves it as it is guessed.</param>
    /// <param name="turns">The turns as they are read now.</param>
    public Step Choose(
        Actor actor,
        SourceId sourceId,
        string label,
        bool speaks,
        bool? isTeam,
        IReadOnlyList<Turn> turns,
        IReadOnlyCollection<string> team
    ) =>
        workspace.Write(
            actor,
            StudyOf(sourceId),
            speaks ? $"Said that “{label}” is a speaker" : $"Said that “{label}” is no speaker",
            writing =>
            {
                var there = writing.Connection.QueryFirstOrDefault<long?>(
                    "SELECT id FROM label_choice WHERE source_id = @sourceId AND label = @label",
                    new { sourceId, label }
                );
                if (there is { } id)
                    writing.Update("label_choice", id, new { speaks });
                else
                    writing.Insert(
                        "label_choice",
                        new
                        {
                            sourceId,
                            label,
                            speaks,
                        }
                    );
                Replace(writing, sourceId, turns, team);
                if (speaks && isTeam is { } ofTeam)
                {
                    foreach (
                        var speaker in writing.Connection.Query<long>(
                            "SELECT id FROM speaker WHERE source_id = @sourceId AND label = @label",
                            new { sourceId, label }
                        )
                    )
                        writing.Update("speaker", speaker, new { isTeam = ofTeam });
                }
                return sourceId.Value;
            }
        );

    /// <summary>
    /// Says when a turn begins, by the transcript's own clock: what was heard is more exact than what its file or an estimate says. Times
    /// of its words move along, and the turn before ends there at the latest.
    /// </summary>
    /// <param name="start">Where the turn begins in the text.</param>
    /// <param name="beginMs">Null where it is not known any more.</param>
    /// <param name="basedOn">The hash of the text in which the turn was seen.</param>
    public Step SetBegin(Actor actor, SourceId id, int start, int? beginMs, string basedOn)
    {
        var (studyId, hash) = HashOf(id);
        if (hash != basedOn)
            throw new Refusal(RefusalKind.Conflict, "Somebody has corrected this text meanwhile. Look at the turn again.");
        return workspace.Write(
            actor,
            studyId,
            "Said when a turn begins",
            writing =>
            {
                var turns = writing
                    .Connection.Query<(long Id, int Start, int End, int? BeginMs, int? EndMs)>(
                        "SELECT id, start, \"end\", begin_ms, end_ms FROM turn WHERE source_id = @id ORDER BY start",
                        new { id }
                    )
                    .ToList();
                var at = turns.FindIndex(t => t.Start == start);
                if (at < 0)
                    throw Refusal.Missing("turn");
                var (before, after) = (
                    turns.FindLastIndex(Math.Max(0, at - 1), at, t => t.BeginMs is not null),
                    turns.FindIndex(at + 1, t => t.BeginMs is not null)
                );
                if (beginMs is { } ms && ((before >= 0 && turns[before].BeginMs >= ms) || (after >= 0 && turns[after].BeginMs <= ms)))
                    throw Refusal.Because("A turn begins after the one before it, and before the one after it.", "beginMs");
                var turn = turns[at];
                writing.Update("turn", turn.Id, new { beginMs, endMs = turn.EndMs > beginMs ? turn.EndMs : null });
                if (at > 0 && turns[at - 1].EndMs > beginMs)
                    writing.Update("turn", turns[at - 1].Id, new { endMs = beginMs });
                if (turn.BeginMs is { } was && beginMs is { } now)
                    MoveTimes(writing, id, new TextRange(turn.Start, turn.End), now - was);
                return id.Value;
            }
        );
    }

    private static void MoveTimes(Writing writing, SourceId id, TextRange turn, int by)
    {
        var (shapeId, stored) = writing.Connection.QueryFirstOrDefault<(long, string?)>(
            "SELECT id, shape FROM source_shape WHERE source_id = @id",
            new { id }
        );
        if (stored is null || JsonSerializer.Deserialize<Shape>(stored) is not { Times: { } times } shape)
            return;
        IReadOnlyList<TimedWords> moved =
        [
            .. times.Select(t =>
                t.Words.Start >= turn.Start && t.Words.End <= turn.End
                    ? t with
                    {
                        BeginMs = Math.Max(0, t.BeginMs + by),
                        EndMs = Math.Max(1, t.EndMs + by),
                    }
                    : t
            ),
        ];
        writing.Update("source_shape", shapeId, new { shape = JsonSerializer.Serialize(shape with { Times = moved }) });
    }

    private (StudyId Study, string Hash) HashOf(SourceId id)
    {
        using var connection = workspace.Open();
        return connection.QuerySingle<(StudyId, string)>("SELECT study_id, content_hash FROM source WHERE id = @id", new { id });
    }

    /// <summary>
    /// Reads a source's turns anew from its text. Speakers keep whom they were matched to; observations stand where they stood.
    /// </summary>
    public Step Read(Actor actor, SourceId id, IReadOnlyList<Turn> turns, IReadOnlyCollection<string> team)
    {
        var studyId = StudyOf(id);
        return workspace.Write(
            actor,
            studyId,
            "Read a source’s turns anew",
            writing =>
            {
                var title = writing.Connection.QuerySingle<string>("SELECT title FROM source WHERE id = @id", new { id });
                writing.Label = $"Read the turns of “{title}” anew";
                Replace(writing, id, turns, team);
                return id.Value;
            }
        );
    }

    /// <summary>
    /// Puts other turns in the place of a source's, as part of a larger step. Speakers keep whom they were matched to; turns that are the
    /// same stay.
    /// </summary>
    internal void Replace(Writing writing, SourceId id, IReadOnlyList<Turn> turns, IReadOnlyCollection<string> team)
    {
        var known = participants.Known(StudyOf(id));
        var there = writing
            .Connection.Query<(SpeakerId Id, string Label)>(
                "SELECT id, label FROM speaker WHERE source_id = @id ORDER BY position",
                new { id }
            )
            .ToList();
        var labels = turns.Select(t => t.Speaker).OfType<string>().Distinct().ToList();
        var (old, speakerOf) = (
            writing.Connection.Query<long>("SELECT id FROM turn WHERE source_id = @id ORDER BY start", new { id }).ToList(),
            there.ToDictionary(s => s.Label, s => s.Id)
        );
        AddSpeakers(writing, id, turns, speakerOf, label => SpeakerMatching.Guess(label, known, team));
        for (var i = 0; i < Math.Max(old.Count, turns.Count); i++)
        {
            if (i >= turns.Count)
                writing.Delete("turn", old[i]);
            else if (i >= old.Count)
                writing.Insert("turn", RowOf(id, i, turns[i], speakerOf));
            else
                writing.Update("turn", old[i], RowOf(id, i, turns[i], speakerOf));
        }
        foreach (var gone in there.Where(s => !labels.Contains(s.Label)))
            writing.Delete("speaker", gone.Id.Value);
    }

    /// <summary>Adds the turns of new sources, as part of a larger step: all speakers at once, and all turns.</summary>
    internal static void Insert(Writing writing, IReadOnlyList<NewTurns> sources)
    {
        var speakers = sources
            .SelectMany(s =>
                s.Turns.Select(t => t.Speaker).OfType<string>().Distinct().Select((label, i) => (s.SourceId, label, i, s.Match))
            )
            .ToList();
        var first = writing.InsertAll(
            "speaker",
            ["source_id", "label", "participant_id", "is_team", "position"],
            [
                .. speakers.Select(s =>
                {
                    var who = s.Match(s.label);
                    return new object?[] { s.SourceId, s.label, who.ParticipantId, who.IsTeam, s.i };
                }),
            ]
        );
        var ids = speakers.Select((s, i) => (s.SourceId, s.label, Id: first + i)).ToDictionary(s => (s.SourceId, s.label), s => s.Id);
        writing.InsertAll(
            "turn",
            ["source_id", "position", "start", "end", "speaker_id", "begin_ms", "end_ms"],
            [
                .. sources.SelectMany(s =>
                    s.Turns.Select(
                        (turn, i) =>
                            new object?[]
                            {
                                s.SourceId,
                                i,
                                turn.Words.Start,
                                turn.Words.End,
                                turn.Speaker is { } speaker ? ids[(s.SourceId, speaker)] : null,
                                turn.BeginMs,
                                turn.EndMs,
                            }
                    )
                ),
            ]
        );
    }

    private static void AddSpeakers(
        Writing writing,
        SourceId sourceId,
        IReadOnlyList<Turn> turns,
        Dictionary<string, SpeakerId> speakers,
        Func<string, SpeakerMatch> match
    )
    {
        var labels = turns.Select(t => t.Speaker).OfType<string>().Distinct().Where(l => !speakers.ContainsKey(l)).ToList();
        var first = writing.InsertAll(
            "speaker",
            ["source_id", "label", "participant_id", "is_team", "position"],
            [
                .. labels.Select(
                    (label, i) =>
                    {
                        var who = match(label);
                        return new object?[] { sourceId, label, who.ParticipantId, who.IsTeam, speakers.Count + i };
                    }
                ),
            ]
        );
        for (var i = 0; i < labels.Count; i++)
            speakers[labels[i]] = first + i;
    }

    private static object RowOf(SourceId sourceId, int position, Turn turn, Dictionary<string, SpeakerId> speakers) =>
        new
        {
            sourceId,
            position,
            turn.Words.Start,
            turn.Words.End,
            speakerId = turn.Speaker is { } s ? speakers[s] : (SpeakerId?)null,
            turn.BeginMs,
            turn.EndMs,
        };

    private StudyId StudyOf(SourceId sourceId)
    {
        using var connection = workspace.Open();
        return connection.QueryFirstOrDefault<long?>("SELECT study_id FROM source WHERE id = @sourceId", new { sourceId })
            ?? throw Refusal.Missing("source");
    }
}
