using Dapper;
using Vitrine.Core.Gather.Corrections;
using Vitrine.Core.Gather.LiveNotes;
using Vitrine.Core.Gather.Sources;
using Vitrine.Core.Gather.Turns;
using Vitrine.Core.Mark.Observations;
using Vitrine.Core.Text;
using Vitrine.Storage.Anchors;
using Vitrine.Storage.Gather.Corrections;
using Vitrine.Storage.Gather.Participants;
using Vitrine.Storage.Gather.Sources;
using Vitrine.Storage.Tags;
using Vitrine.Storage.Trail;

namespace Vitrine.Storage.Gather.LiveNotes;

/// <summary>Notes on a session, on its clock.</summary>
public sealed record NotesOfSession
{
    public LiveNotesId Id { get; init; }
    public SessionId SessionId { get; init; }

    /// <summary>The moment at which the clock stood at zero.</summary>
    public DateTimeOffset BegunAt { get; init; }

    public DateTimeOffset? EndedAt { get; init; }

    /// <summary>What they became when they ended.</summary>
    public SourceId? SourceId { get; init; }

    /// <summary>The server's time, for a clock in a browser whose own is wrong.</summary>
    public DateTimeOffset Now { get; init; }

    public List<LiveNotesLine> Lines { get; init; } = [];
}

/// <summary>A line of live notes. Times are milliseconds since the notes began: when its typing began, and when it was stamped.</summary>
public sealed record LiveNotesLine
{
    public LiveLineId Id { get; init; }

    /// <summary>The key under which it was sent, by which the browser that sent it knows it again.</summary>
    public string Key { get; init; } = "";

    public int BeginMs { get; init; }
    public int EndMs { get; init; }
    public string Words { get; init; } = "";
    public bool Starred { get; init; }
    public AccountId AccountId { get; init; }
    public string By { get; init; } = "";
    public List<TagId> TagIds { get; init; } = [];
}

/// <summary>Notes that several people take while a session runs.</summary>
public sealed class LiveNotesStore(Workspace workspace, SourceStore sources, CorrectionStore corrections, ParticipantStore participants)
{
    /// <summary>The latest notes on a session; null when none were taken.</summary>
    public NotesOfSession? Of(StudyId studyId, SessionId sessionId)
    {
        using var connection = workspace.Open();
        using var snapshot = connection.BeginTransaction(deferred: true);
        var notes = connection.QueryFirstOrDefault<NotesOfSession>(
            """
            SELECT id, session_id, begun_at, ended_at, source_id FROM live_notes WHERE study_id = @studyId AND session_id = @sessionId
            ORDER BY id DESC
            """,
            new { studyId, sessionId }
        );
        if (notes is null)
            return null;
        notes = notes with
        {
            Now = workspace.Now,
            Lines = connection
                .Query<LiveNotesLine>(
                    """
                    SELECT l.id, l.key, l.begin_ms, l.end_ms, l.words, l.starred, l.created_by AS account_id, a.name AS by
                    FROM live_line l JOIN account a ON a.id = l.created_by WHERE l.live_notes_id = @Id ORDER BY l.begin_ms, l.id
                    """,
                    new { notes.Id }
                )
                .AsList(),
        };
        var byId = notes.Lines.ToDictionary(l => l.Id);
        foreach (
            var (line, tag) in connection.Query<(long, long)>(
                """
                SELECT t.live_line_id, t.tag_id FROM live_line_tag t JOIN live_line l ON l.id = t.live_line_id
                WHERE l.live_notes_id = @Id ORDER BY t.id
                """,
                new { notes.Id }
            )
        )
            byId[line].TagIds.Add(tag);
        return notes;
    }

    /// <summary>Begins notes on a session; where some run already, these are joined.</summary>
    public Step Begin(Actor actor, StudyId studyId, SessionId sessionId) =>
        workspace.Write(
            actor,
            studyId,
            "Began live notes",
            writing =>
            {
                var running = writing.Connection.QueryFirstOrDefault<long?>(
                    "SELECT id FROM live_notes WHERE session_id = @sessionId AND study_id = @studyId AND ended_at IS NULL",
                    new { sessionId, studyId }
                );
                writing.Label = $"Began live notes of “{TitleOf(writing, studyId, sessionId)}”";
                return running
                    ?? writing.Insert(
                        "live_notes",
                        new
                        {
                            studyId,
                            sessionId,
                            begunAt = workspace.Now,
                        }
                    );
            }
        );

    /// <summary>Adds a line. One that comes when the notes have ended goes to its place in the source that they became.</summary>
    /// <param name="typed">The line as it was typed, with # and !.</param>
    /// <exception cref="Refusal">It holds no words.</exception>
    public Step AddLine(Actor actor, StudyId studyId, LiveNotesId id, string typed, int beginMs, int endMs) =>
        workspace.Write(
            actor,
            studyId,
            "Noted a line",
            writing =>
            {
                var line = LiveLine.Read(typed);
                if (line.Words.Length == 0)
                    throw Refusal.Because("There are no words in this line. Write what you saw or heard beside its tags.", "typed");
                var (sessionId, ended, sourceId) =
                    writing.Connection.QueryFirstOrDefault<(long, string?, long?)?>(
                        "SELECT session_id, ended_at, source_id FROM live_notes WHERE id = @id AND study_id = @studyId",
                        new { id, studyId }
                    ) ?? throw Refusal.Missing("session’s notes");
                writing.Label = $"Noted “{Excerpt.Beginning(line.Words)}”";
                var key = (actor.RequestKey ?? Guid.CreateVersion7()).ToString();
                var lineId = writing.Insert(
                    "live_line",
                    new
                    {
                        key,
                        liveNotesId = id,
                        beginMs,
                        endMs = Math.Max(beginMs, endMs),
                        line.Words,
                        line.Starred,
                    }
                );
                var tagIds = TagsOf(writing, studyId, line);
                foreach (var tagId in tagIds)
                    writing.Insert("live_line_tag", new { liveLineId = lineId, tagId });
                if (ended is not null && sourceId is { } source)
                    PutLate(
                        writing,
                        studyId,
                        source,
                        new LiveNotesLine
                        {
                            Words = line.Words,
                            BeginMs = beginMs,
                            EndMs = Math.Max(beginMs, endMs),
                            Starred = line.Starred,
                            AccountId = actor.AccountId,
                            TagIds = [.. tagIds],
                        }
                    );
                return lineId;
            }
        );

    /// <summary>Rewrites a line that the person saw as <paramref name="was"/>; tags that are typed in it are added.</summary>
    public Step Rewrite(Actor actor, StudyId studyId, LiveLineId lineId, string was, string typed) =>
        workspace.Write(
            actor,
            studyId,
            "Changed a line of live notes",
            writing =>
            {
                RefuseWhenEnded(writing, studyId, lineId);
                var line = LiveLine.Read(typed);
                if (line.Words.Length == 0)
                    throw Refusal.Because("There are no words in this line. Remove it, or write what you saw or heard.", "text");
                writing.Rewrite("live_line", lineId.Value, "words", was, line.Words);
                if (line.Starred)
                    writing.Update("live_line", lineId.Value, new { starred = true });
                var there = writing.Connection.Query<TagId>(
                    "SELECT tag_id FROM live_line_tag WHERE live_line_id = @lineId",
                    new { lineId }
                );
                foreach (var tagId in TagsOf(writing, studyId, line).Except(there))
                    writing.Insert("live_line_tag", new { liveLineId = lineId, tagId });
                return lineId.Value;
            }
        );

    public Step SetStar(Actor actor, StudyId studyId, LiveLineId lineId, bool starred) =>
        workspace.Write(
            actor,
            studyId,
            starred ? "Starred a line of live notes" : "Removed the star from a line of live notes",
            writing =>
            {
                RefuseWhenEnded(writing, studyId, lineId);
                writing.Update("live_line", lineId.Value, new { starred });
                return lineId.Value;
            }
        );

    public Step Untag(Actor actor, StudyId studyId, LiveLineId lineId, TagId tagId) =>
        workspace.Write(
            actor,
            studyId,
            "Removed a tag from a line of live notes",
            writing =>
            {
                RefuseWhenEnded(writing, studyId, lineId);
                if (
                    writing.Connection.QueryFirstOrDefault<long?>(
                        "SELECT id FROM live_line_tag WHERE live_line_id = @lineId AND tag_id = @tagId",
                        new { lineId, tagId }
                    ) is
                    { } link
                )
                    writing.Delete("live_line_tag", link);
                return lineId.Value;
            }
        );

    public Step RemoveLine(Actor actor, StudyId studyId, LiveLineId lineId) =>
        workspace.Write(
            actor,
            studyId,
            "Removed a line of live notes",
            writing =>
            {
                RefuseWhenEnded(writing, studyId, lineId);
                writing.Remove("live_line", lineId.Value);
                return lineId.Value;
            }
        );

    /// <summary>
    /// Ends the notes: they become a source of field notes whose lines carry their times; lines with tags or a star become observations of
    /// those who wrote them.
    /// </summary>
    /// <returns>The step; its thing is the source.</returns>
    public Step End(Actor actor, StudyId studyId, LiveNotesId id, IReadOnlyCollection<string> team) =>
        workspace.Write(
            actor,
            studyId,
            "Ended live notes",
            writing =>
            {
                var (sessionId, begun, ended) =
                    writing.Connection.QueryFirstOrDefault<(long, DateTimeOffset, DateTimeOffset?)?>(
                        "SELECT session_id, begun_at, ended_at FROM live_notes WHERE id = @id AND study_id = @studyId",
                        new { id, studyId }
                    ) ?? throw Refusal.Missing("session’s notes");
                if (ended is not null)
                    throw new Refusal(RefusalKind.Conflict, "Someone has ended these notes already. They are a source of the study now.");
                var notes = Of(studyId, sessionId)!;
                if (notes.Lines.Count == 0)
                    throw Refusal.Because(
                        "There is no line yet. Write one, or leave the page: notes without a line are no source.",
                        "lines"
                    );
                var title = TitleOf(writing, studyId, sessionId);
                writing.Label = $"Ended the live notes of “{title}”";
                var known = participants.Known(studyId);
                var (text, turns) = LiveNotesText.Of(
                    [.. notes.Lines.Select(l => (l.Words, l.BeginMs, l.EndMs))],
                    name => SpeakerMatching.Knows(name, known, team)
                );
                var heldOn =
                    writing.Connection.QuerySingle<DateOnly?>("SELECT held_on FROM session WHERE id = @sessionId", new { sessionId })
                    ?? DateOnly.FromDateTime(begun.UtcDateTime);
                var source = SourceStore.Insert(
                    writing,
                    studyId,
                    new NewSource($"Notes of {title}", SourceKind.FieldNotes, heldOn, null, text, turns, [], SessionId: sessionId),
                    SourceStore.NextPosition(writing, studyId),
                    label => SpeakerMatching.Guess(label, known, team)
                );
                foreach (var (line, turn) in notes.Lines.Zip(turns))
                    Mark(writing, studyId, source, line, turn.Words);
                writing.Update("live_notes", id.Value, new { endedAt = workspace.Now, sourceId = source });
                return source.Value;
            }
        );

    private void PutLate(Writing writing, StudyId studyId, SourceId sourceId, LiveNotesLine line)
    {
        var (known, source) = (participants.Known(studyId), sources.Get(sourceId, line.AccountId));
        var turns = source.ReadTurns();
        var (edit, turn) = LiveNotesText.Late(
            source.Text,
            turns,
            line.Words,
            line.BeginMs,
            line.EndMs,
            name => SpeakerMatching.Knows(name, known, [])
        );
        var moved = Reanchor.Through(source.Text, [edit]);
        corrections.Apply(
            writing,
            sourceId,
            new Correction(
                source.TextHash,
                moved,
                [.. turns.Select(t => t with { Words = moved.Of(t.Words).Range }).Append(turn).OrderBy(t => t.Words.Start)],
                null
            ),
            [],
            keepFirst: false
        );
        Mark(writing, studyId, sourceId, line, turn.Words);
    }

    private static void Mark(Writing writing, StudyId studyId, SourceId sourceId, LiveNotesLine line, TextRange words)
    {
        if (line.TagIds.Count == 0 && !line.Starred)
            return;
        var observationId = ObservationRows.Insert(writing, studyId, sourceId, new TextAnchor(words), line.Starred, line.AccountId);
        foreach (var tagId in line.TagIds)
            writing.Insert(
                "observation_tag",
                new
                {
                    observationId,
                    tagId,
                    createdBy = line.AccountId,
                }
            );
    }

    /// <summary>The tags that were typed in a line: those of the study whose names read the same, and new ones.</summary>
    private static IReadOnlyList<TagId> TagsOf(Writing writing, StudyId studyId, LiveLine line)
    {
        if (line.Tags.Count == 0)
            return [];
        var there = writing
            .Connection.Query<(TagId Id, string Name)>(
                """
                SELECT id, name FROM tag WHERE bundle = 0 AND (study_id IS NULL OR study_id = @studyId) ORDER BY study_id IS NULL DESC, id
                """,
                new { studyId }
            )
            .ToLookup(t => LiveLine.SlugOf(t.Name), t => t.Id);
        return
        [
            .. line
                .Tags.Select(t =>
                    there[LiveLine.SlugOf(t)].Select(id => (TagId?)id).FirstOrDefault()
                    ?? TagNames.FindOrMake(writing, studyId, [LiveLine.NameOf(t)])[0]
                )
                .Distinct(),
        ];
    }

    private static void RefuseWhenEnded(Writing writing, StudyId studyId, LiveLineId lineId)
    {
        var ended =
            writing.Connection.QueryFirstOrDefault<(string? At, long Id)?>(
                """
                SELECT n.ended_at, n.id FROM live_line l JOIN live_notes n ON n.id = l.live_notes_id WHERE l.id = @lineId
                AND n.study_id = @studyId
                """,
                new { lineId, studyId }
            ) ?? throw Refusal.Missing("line");
        if (ended.At is not null)
            throw new Refusal(RefusalKind.Conflict, "These notes have ended and are a source of the study now. Correct its text there.");
    }

    private static string TitleOf(Writing writing, StudyId studyId, SessionId sessionId) =>
        writing.Connection.QueryFirstOrDefault<string>(
            "SELECT title FROM session WHERE id = @sessionId AND study_id = @studyId",
            new { sessionId, studyId }
        ) ?? throw Refusal.Missing("session");
}
