using System.Text.Json;
using Dapper;
using Microsoft.Data.Sqlite;
using Vitrine.Core.Gather.Intake;
using Vitrine.Core.Gather.Sources;
using Vitrine.Core.Gather.Turns;
using Vitrine.Core.Text;
using Vitrine.Storage.Access;
using Vitrine.Storage.Gather.Participants;
using Vitrine.Storage.Gather.Sources;
using Vitrine.Storage.Search;
using Vitrine.Storage.Sql;
using Vitrine.Storage.Trail;

namespace Vitrine.Storage.Gather.Intake;

/// <summary>Feedback as people work with it: the watches that route it, and what is done with it.</summary>
public sealed class IntakeStore(Workspace workspace, StudyAccess access)
{
    /// <summary>How many pieces a rule is tried on at most, the latest.</summary>
    public const int MostTried = 2_000;

    private const string Pieces = "SELECT id, channel_id, sender, title, text, rating, written_at FROM feedback ";

    private const string Mine = """
        WITH mine AS MATERIALIZED (
          SELECT feedback_id, study_id, state FROM routing WHERE @mine IS NULL OR study_id IN (SELECT value FROM json_each(@mine))
        )

        """;

    /// <summary>One page of what arrived, the latest first, with what became of it in the studies that the person sees.</summary>
    /// <param name="viewer">Who looks.</param>
    /// <param name="view">Which of it.</param>
    /// <param name="studyId">Of one study; null for all that the person sees.</param>
    /// <param name="words">Only what holds all of these words, whatever their case and accents; empty for all.</param>
    /// <param name="page">Which page, from 0.</param>
    /// <param name="size">How many pieces a page holds.</param>
    public FeedbackPage Page(Viewer viewer, FeedbackView view, StudyId? studyId, string words, int page, int size)
    {
        using var connection = workspace.Open();
        using var snapshot = connection.BeginTransaction(deferred: true);
        var mine = Ids.Json(access.VisibleTo(viewer));
        var counts = connection.QuerySingle<FeedbackCounts>(
            Mine
                + """
                SELECT
                  (SELECT count(DISTINCT feedback_id) FROM mine WHERE state = 'waiting' AND coalesce(study_id = @studyId, 1)) AS waiting,
                  (SELECT count(DISTINCT feedback_id) FROM mine WHERE state = 'kept' AND coalesce(study_id = @studyId, 1)) AS kept,
                  (SELECT count(DISTINCT feedback_id) FROM mine WHERE state = 'dismissed' AND coalesce(study_id = @studyId, 1))
                    AS dismissed,
                  (SELECT count(*) FROM feedback WHERE id NOT IN (SELECT feedback_id FROM mine)) AS nowhere,
                  CASE WHEN @studyId IS NULL THEN (SELECT count(*) FROM feedback)
                    ELSE (SELECT count(DISTINCT feedback_id) FROM mine WHERE study_id = @studyId) END AS "all"
                """,
            new { mine, studyId }
        );
        var condition = view switch
        {
            FeedbackView.All => "@studyId IS NULL OR f.id IN (SELECT feedback_id FROM mine WHERE study_id = @studyId)",
            FeedbackView.Nowhere => "f.id NOT IN (SELECT feedback_id FROM mine)",
            _ => "f.id IN (SELECT feedback_id FROM mine WHERE state = @state AND coalesce(study_id = @studyId, 1))",
        };
        var wanted = FoldedText.Of(words).Split(' ', StringSplitOptions.RemoveEmptyEntries);
        var ids = connection
            .Query<Feedback>(
                $"""
                {Mine}SELECT f.id{(wanted.Length > 0 ? ", f.sender, f.title, f.text" : "")} FROM feedback f WHERE {condition}
                ORDER BY f.written_at DESC, f.id DESC
                """,
                new
                {
                    mine,
                    studyId,
                    state = StoredName.Of(view),
                },
                buffered: false
            )
            .Where(f => wanted.Length == 0 || Holds(f, wanted))
            .Select(f => f.Id)
            .ToList();
        var shown = ids.Skip((int)Math.Min((long)page * size, int.MaxValue)).Take(size).ToList();
        return new FeedbackPage(WithRoutings(connection, shown, mine), ids.Count, counts);
    }

    private static bool Holds(Feedback piece, string[] folded)
    {
        var all = FoldedText.Of($"{piece.Title} {piece.Text} {piece.Sender}");
        return folded.All(word => all.Contains(word, StringComparison.Ordinal));
    }

    private static List<Feedback> WithRoutings(SqliteConnection connection, IReadOnlyList<FeedbackId> feedbackIds, string? mine)
    {
        var ids = Ids.Json(feedbackIds);
        var byId = connection
            .Query<Feedback>(Pieces + "WHERE id IN (SELECT value FROM json_each(@ids))", new { ids })
            .ToDictionary(p => p.Id);
        foreach (
            var routing in connection.Query<Routing>(
                """
                SELECT id, feedback_id, study_id, watch_name, met, state, source_id FROM routing
                WHERE feedback_id IN (SELECT value FROM json_each(@ids))
                  AND (@mine IS NULL OR study_id IN (SELECT value FROM json_each(@mine))) ORDER BY id
                """,
                new { ids, mine }
            )
        )
            byId[routing.FeedbackId].Routings.Add(routing);
        return [.. feedbackIds.Select(id => byId[id])];
    }

    public IReadOnlyList<Watch> WatchesFor(Viewer viewer)
    {
        using var connection = workspace.Open();
        var mine = access.VisibleTo(viewer);
        return [.. Watches(connection).Where(w => mine is null || mine.Contains(w.StudyId))];
    }

    /// <summary>What has arrived so far that a rule would route, with what of it is met.</summary>
    public IReadOnlyList<Tried> Try(WatchRule rule)
    {
        using var connection = workspace.Open();
        return [.. Meeting(Past(connection), [new Watch { Rule = rule }]).Select(m => new Tried(m.Piece.Id, TitleOf(m.Piece), m.Met))];
    }

    /// <summary>Adds a watch, and with <paramref name="alsoPast"/> routes what has arrived before.</summary>
    public Step AddWatch(Actor actor, StudyId studyId, string name, WatchRule rule, bool alsoPast) =>
        workspace.Write(
            actor,
            studyId,
            $"Added the watch “{name}”",
            writing =>
            {
                var id = writing.Insert(
                    "watch",
                    new
                    {
                        studyId,
                        name,
                        rule = JsonSerializer.Serialize(rule),
                    }
                );
                if (alsoPast)
                    RoutePast(writing, studyId, name, rule);
                return id;
            }
        );

    public Step ChangeWatch(Actor actor, StudyId studyId, WatchId id, long version, string name, WatchRule rule, bool alsoPast) =>
        workspace.Write(
            actor,
            studyId,
            $"Changed the watch “{name}”",
            writing =>
            {
                writing.Expect("watch", id.Value, version);
                writing.Update("watch", id.Value, new { name, rule = JsonSerializer.Serialize(rule) });
                if (alsoPast)
                    RoutePast(writing, studyId, name, rule);
                return id.Value;
            }
        );

    /// <summary>Takes a watch away. What it has routed stays where it is, and goes on saying which watch did it.</summary>
    public Step RemoveWatch(Actor actor, StudyId studyId, WatchId id) =>
        workspace.Write(
            actor,
            studyId,
            "Removed a watch",
            writing =>
            {
                writing.Expect("watch", id.Value, "study_id", studyId.Value);
                writing.Label = $"Removed the watch “{NameOf(writing, id)}”";
                writing.Remove("watch", id.Value);
                return id.Value;
            }
        );

    /// <summary>Puts a piece of feedback into a study by hand.</summary>
    public Step Route(Actor actor, StudyId studyId, FeedbackId feedbackId) =>
        workspace.Write(
            actor,
            studyId,
            "Put feedback into the study",
            writing =>
            {
                if (!writing.Connection.ExecuteScalar<bool>("SELECT count(*) FROM feedback WHERE id = @feedbackId", new { feedbackId }))
                    throw Refusal.Missing("feedback");
                return writing.Connection.QueryFirstOrDefault<long?>(
                        "SELECT id FROM routing WHERE study_id = @studyId AND feedback_id = @feedbackId",
                        new { studyId, feedbackId }
                    )
                    ?? writing.Insert(
                        "routing",
                        new
                        {
                            studyId,
                            feedbackId,
                            watchName = "",
                            met = "",
                            state = RoutingState.Waiting,
                        }
                    );
            }
        );

    /// <summary>Keeps pieces of feedback as sources of the study, dismisses them, or lets them wait again; as one step.</summary>
    /// <param name="senderTakesPart">Whether who sent what is kept is a participant: the one of that name, or a new one.</param>
    public Step Settle(
        Actor actor,
        StudyId studyId,
        IReadOnlyList<RoutingId> routingIds,
        RoutingState state,
        bool senderTakesPart = false
    ) =>
        workspace.Write(
            actor,
            studyId,
            "Looked at feedback",
            writing =>
            {
                var what = routingIds.Count == 1 ? "a piece of feedback" : $"{routingIds.Count} pieces of feedback";
                writing.Label = state switch
                {
                    RoutingState.Kept => $"Kept {what}",
                    RoutingState.Dismissed => $"Dismissed {what}",
                    _ => $"Let {what} wait again",
                };
                foreach (var id in routingIds)
                {
                    var routing =
                        writing.Connection.QueryFirstOrDefault<Routing>(
                            "SELECT id, feedback_id, study_id, state, source_id FROM routing WHERE id = @id AND study_id = @studyId",
                            new { id, studyId }
                        ) ?? throw Refusal.Missing("feedback");
                    if (routing.State == state)
                        continue;
                    if (routing.SourceId is not null)
                        throw new Refusal(
                            RefusalKind.Conflict,
                            "This feedback is a source of the study now. Undo keeping it, or remove the source in Gather."
                        );
                    SourceId? sourceId =
                        state == RoutingState.Kept
                            ? Keep(
                                writing,
                                studyId,
                                writing.Connection.QuerySingle<Feedback>(Pieces + "WHERE id = @FeedbackId", new { routing.FeedbackId }),
                                senderTakesPart
                            )
                            : null;
                    writing.Update("routing", id.Value, new { state, sourceId });
                }
            }
        );

    private static string TitleOf(Feedback piece) => piece.Title.Length > 0 ? piece.Title : NoteSplit.TitleOf(piece.Text);

    /// <summary>
    /// The participant whom the team knows by the sender's name; made when there is none. Null for feedback without a sender.
    /// </summary>
    private static ParticipantId? SenderOf(Writing writing, StudyId studyId, Feedback piece)
    {
        if (piece.Sender.Trim() is not { Length: > 0 } sender)
            return null;
        var people = writing
            .Connection.Query<(ParticipantId Id, string Code, string? RealName)>(
                "SELECT id, code, real_name FROM participant WHERE study_id = @studyId ORDER BY position, id",
                new { studyId }
            )
            .ToList();
        if (
            people.Find(p =>
                sender.Equals(p.RealName, StringComparison.OrdinalIgnoreCase) || sender.Equals(p.Code, StringComparison.OrdinalIgnoreCase)
            ) is
            { Code: not null } known
        )
            return known.Id;
        var code = ParticipantCodes.Next(people.Select(p => p.Code).ToHashSet(StringComparer.OrdinalIgnoreCase));
        return writing.Insert(
            "participant",
            new
            {
                studyId,
                code,
                pseudonym = $"Sender {code}",
                realName = sender,
                position = ParticipantStore.NextPosition(writing.Connection, studyId),
            }
        );
    }

    private static SourceId Keep(Writing writing, StudyId studyId, Feedback piece, bool senderTakesPart)
    {
        return SourceStore.Insert(
            writing,
            studyId,
            new NewSource(
                TitleOf(piece),
                SourceKind.Feedback,
                DateOnly.FromDateTime(piece.WrittenAt.UtcDateTime),
                null,
                piece.Text,
                TurnReading.Paragraphs(piece.Text, 0, piece.Text.Length),
                senderTakesPart && SenderOf(writing, studyId, piece) is { } sender ? [sender] : []
            ),
            SourceStore.NextPosition(writing, studyId),
            _ => new SpeakerMatch(null, false)
        );
    }

    private static void RoutePast(Writing writing, StudyId studyId, string name, WatchRule rule)
    {
        var there = writing
            .Connection.Query<long>("SELECT feedback_id FROM routing WHERE study_id = @studyId", new { studyId })
            .ToHashSet();
        foreach (
            var (piece, _, met) in Meeting(Past(writing.Connection), [new Watch { Rule = rule }])
                .Where(m => !there.Contains(m.Piece.Id.Value))
        )
            writing.Insert(
                "routing",
                new
                {
                    studyId,
                    feedbackId = piece.Id,
                    watchName = name,
                    met,
                    state = RoutingState.Waiting,
                }
            );
    }

    private static IReadOnlyList<Feedback> Past(SqliteConnection connection) =>
        connection.Query<Feedback>(Pieces + $"ORDER BY id DESC LIMIT {MostTried}").AsList();

    internal static IEnumerable<(Feedback Piece, Watch Watch, string Met)> Meeting(
        IReadOnlyList<Feedback> pieces,
        IReadOnlyList<Watch> watches
    )
    {
        var found = StemSearch.Found(
            [.. pieces.Select(p => (p.Id.Value, $"{p.Title}\n{p.Text}"))],
            watches.SelectMany(w => w.Rule.Words).ToHashSet()
        );
        return from piece in pieces
            from watch in watches
            let met = watch.Rule.Meets(new Arrived(piece.ChannelId, piece.Sender, piece.Rating), found[piece.Id.Value])
            where met is not null
            select (piece, watch, RefusalSentences.Of(met));
    }

    internal static List<Watch> Watches(SqliteConnection connection) =>
        connection
            .Query<(long Id, long StudyId, string Name, string Rule, long Version)>(
                "SELECT id, study_id, name, rule, version FROM watch ORDER BY id"
            )
            .Select(w => new Watch
            {
                Id = w.Id,
                StudyId = w.StudyId,
                Name = w.Name,
                Rule = JsonSerializer.Deserialize<WatchRule>(w.Rule)!,
                Version = w.Version,
            })
            .ToList();

    private static string NameOf(Writing writing, WatchId id) =>
        writing.Connection.QuerySingle<string>("SELECT name FROM watch WHERE id = @id", new { id });
}
