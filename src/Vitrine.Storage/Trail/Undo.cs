using Dapper;
using Microsoft.Data.Sqlite;
using Vitrine.Storage.Sql;

namespace Vitrine.Storage.Trail;

/// <summary>
/// Undo and redo per person, one step per action, built on the images in the trail.
/// Long steps are undone in several transactions, between which others write. While it goes on, the step is neither done nor undone, and
/// offered for neither; when it cannot be done to its end, or the server ends on the way, all of it is taken back.
/// </summary>
public sealed class Undo(Workspace workspace)
{
    /// <summary>Steps with more changes than these are undone in parts.</summary>
    private const int Long = 500;

    /// <summary>How many changes are reversed before others write, and how many where they go at once.</summary>
    private const int OfPart = 60;
    private const int AtOnce = 2_000;

    /// <summary>
    /// Takes back the person's latest step in the study, with those that were made together with it; or the given step. A latest step that
    /// cannot be taken back is told once; the next time it is passed over for the one before it.
    /// </summary>
    /// <exception cref="Refusal">There is none, it is not theirs, or someone has changed the same rows since.</exception>
    public Step Back(Actor actor, StudyId? studyId, ActionId? actionId = null)
    {
        if (actionId is { } one)
            return InParts(actor, back: true, one) ?? workspace.Reported(actor, connection => Reverse(connection, actor, back: true, one));
        ActionId? last = null;
        try
        {
            return InParts(actor, back: true, Next(actor, studyId, back: true))
                ?? workspace.Reported(
                    actor,
                    connection =>
                    {
                        last = TrailStore.Undoable(connection, actor.AccountId, studyId)?.ActionId;
                        return ReverseAll(connection, actor, back: true, last, "There is nothing of yours to undo here.");
                    }
                );
        }
        catch (Refusal refusal) when (last is not null && refusal.Kind == RefusalKind.Conflict)
        {
            workspace.WriteUntrailed(connection => connection.Execute("UPDATE action SET passed_over = 1 WHERE id = @last", new { last }));
            throw new Refusal(refusal.Kind, $"{refusal.Message} Undo once more for the step before it.", refusal.Field);
        }
    }

    /// <summary>Does again the step that was undone last, with those that were made together with it; or the given step.</summary>
    /// <exception cref="Refusal">There is none, or someone has changed the same rows since.</exception>
    public Step Again(Actor actor, StudyId? studyId, ActionId? actionId = null) =>
        InParts(actor, back: false, actionId ?? Next(actor, studyId, back: false))
        ?? workspace.Reported(
            actor,
            connection =>
                actionId is { } one
                    ? Reverse(connection, actor, back: false, one)
                    : ReverseAll(
                        connection,
                        actor,
                        back: false,
                        TrailStore.Redoable(connection, actor.AccountId, studyId)?.ActionId,
                        "There is nothing to redo here."
                    )
        );

    /// <summary>Takes back what stands of a step that failed half-way; where others have built on it, it stays as it is.</summary>
    internal void TakeBack(Actor actor, ActionId actionId)
    {
        workspace.WriteUntrailed(connection =>
            connection.Execute("UPDATE action SET unfinished = 0 WHERE id = @actionId", new { actionId })
        );
        try
        {
            Back(actor with { RequestKey = null }, null, actionId);
        }
        catch (Refusal)
        {
            // It is in the list of steps, as far as it went.
        }
    }

    private (Step Step, StudyId? StudyId, StepNews News) ReverseAll(
        SqliteConnection connection,
        Actor actor,
        bool back,
        ActionId? first,
        string none
    )
    {
        if (first is not { } id)
            throw new Refusal(RefusalKind.Invalid, none);
        var together = TrailStore.MadeTogether(connection, id, back);
        var reversed = Reverse(connection, actor, back, together[0]);
        foreach (var other in together.Skip(1))
            reversed.News.AddAll(Reverse(connection, actor with { RequestKey = null }, back, other).News);
        return together.Count == 1
            ? reversed
            : reversed with
            {
                Step = reversed.Step with { Label = $"{reversed.Step.Label}, and {together.Count - 1} more that came with it" },
            };
    }

    private (Step Step, StudyId? StudyId, StepNews News) Reverse(SqliteConnection connection, Actor actor, bool back, ActionId actionId)
    {
        var action = Reversible(connection, actionId);
        if (action is null || action.AccountId != actor.AccountId)
            throw new Refusal(RefusalKind.Invalid, "Only your own steps can be undone.", "actionId");
        var verb = back ? "undo" : "redo";
        if (action.Undone == back)
            throw new Refusal(
                RefusalKind.Conflict,
                $"There is nothing to {verb}: “{action.Label}” is {(back ? "undone" : "done")} already."
            );
        var writing = Reversing(connection, actor, action, back);
        foreach (var change in Changes(connection, actionId, back))
            Apply(writing, change, back);
        writing.Finish();
        connection.Execute("UPDATE action SET undone = @back WHERE id = @actionId", new { back, actionId });
        return (new Step(writing.ActionId, writing.Label, null), action.StudyId, writing.News);
    }

    private static ActionRow? Reversible(SqliteConnection connection, ActionId actionId) =>
        connection.QueryFirstOrDefault<ActionRow>(
            """
            SELECT id, account_id, study_id, label, undone FROM action WHERE id = @actionId AND kind = 'do' AND erased = 0
            AND unfinished = 0
            """,
            new { actionId }
        );

    private Writing Reversing(SqliteConnection connection, Actor actor, ActionRow action, bool back, long? continues = null) =>
        new(connection, workspace.Catalogue, actor, action.StudyId, workspace.Now, back ? "undo" : "redo", action.Id, continues)
        {
            Label = (back ? "Undid: " : "Redid: ") + action.Label,
        };

    /// <summary>Takes back what an ending of the server has left half undone.</summary>
    public void TakeBackHalfDone()
    {
        using var connection = workspace.Open();
        var half = connection
            .Query<(long Id, long Of)>("SELECT id, reverses FROM action WHERE kind IN ('undo', 'redo') AND unfinished = 1 ORDER BY id DESC")
            .ToList();
        foreach (var (reversal, of) in half)
            workspace.WriteUntrailed(writing =>
            {
                Forget(writing, reversal, of);
                return 0;
            });
    }

    /// <summary>The step that comes next when none is named, where it is one by itself.</summary>
    private ActionId? Next(Actor actor, StudyId? studyId, bool back)
    {
        using var connection = workspace.Open();
        var next = back
            ? TrailStore.Undoable(connection, actor.AccountId, studyId)?.ActionId
            : TrailStore.Redoable(connection, actor.AccountId, studyId)?.ActionId;
        return next is { } id && TrailStore.MadeTogether(connection, id, back).Count == 1 ? id : null;
    }

    /// <summary>Undoes or does again a long step; null when it is short, or cannot be reversed in parts.</summary>
    private Step? InParts(Actor actor, bool back, ActionId? actionId)
    {
        if (actionId is not { } id || workspace.DoneBefore(actor) is not null)
            return null;
        List<ChangeRow> changes;
        ActionRow? action;
        using (var connection = workspace.Open())
        {
            if (connection.ExecuteScalar<int>("SELECT count(*) FROM change WHERE action_id = @id", new { id }) <= Long)
                return null;
            action = Reversible(connection, id);
            if (action is null || action.AccountId != actor.AccountId || action.Undone == back)
                return null;
            changes = Changes(connection, id, back);
        }
        var news = new StepNews();
        long? reversal = null;
        try
        {
            for (var from = 0; ; )
            {
                var (at, alike) = (from, Alike(changes, from));
                var part = alike > OfPart ? alike : OfPart;
                var last = from + part >= changes.Count;
                from += part;
                var step = workspace.Reported(
                    actor,
                    connection =>
                    {
                        if (
                            reversal is null
                            && connection.Execute(
                                "UPDATE action SET unfinished = 1 WHERE id = @id AND undone <> @back AND unfinished = 0",
                                new { id, back }
                            ) == 0
                        )
                            throw new Refusal(RefusalKind.Conflict, "This step is being undone already.");
                        var writing = Reversing(connection, actor, action, back, reversal);
                        ApplyAll(writing, [.. changes.Skip(at).Take(part)], alike > OfPart, back);
                        writing.Finish();
                        news.AddAll(writing.News);
                        connection.Execute(
                            "UPDATE action SET unfinished = @more WHERE id = @ActionId",
                            new { more = !last, writing.ActionId }
                        );
                        if (last)
                            connection.Execute("UPDATE action SET undone = @back, unfinished = 0 WHERE id = @id", new { id, back });
                        return (new Step(writing.ActionId, writing.Label, null), action.StudyId, writing.News);
                    }
                );
                reversal = step.ActionId?.Value;
                if (last)
                    return step with { Changed = news.In(action.StudyId) };
                Workspace.LetOthersWrite();
            }
        }
        catch (Refusal)
        {
            // Somebody has changed what was still to come, or it only holds as a whole: then it is tried, and refused, as a whole.
            if (reversal is { } begun)
                workspace.WriteUntrailed(connection =>
                {
                    Forget(connection, begun, id.Value);
                    return 0;
                });
            return null;
        }
    }

    /// <summary>Brings back what a reversal has changed so far, as if it had never begun.</summary>
    private void Forget(SqliteConnection connection, long reversal, long of)
    {
        var writing = new Writing(connection, workspace.Catalogue, new Actor(0, "", default), null, workspace.Now, "undo", of, reversal)
        {
            Label = "",
        };
        foreach (var change in Changes(connection, reversal, back: true))
        {
            var (before, after) = (
                change.Before is null ? null : Rows.FromImage(change.Before),
                change.After is null ? null : Rows.FromImage(change.After)
            );
            if (Rows.Matches(Rows.Find(connection, change.TableName, change.RowId), after))
                writing.Restore(change.TableName, change.RowId, after, before);
        }
        writing.Finish();
        connection.Execute("DELETE FROM change WHERE action_id = @reversal", new { reversal });
        connection.Execute("DELETE FROM action WHERE id = @reversal", new { reversal });
        connection.Execute("UPDATE action SET unfinished = 0 WHERE id = @of", new { of });
    }

    /// <summary>How many changes from one on are of one table and alike (added, changed or taken away), each of another row.</summary>
    private static int Alike(List<ChangeRow> changes, int from)
    {
        var (to, rows) = (from, new HashSet<long>());
        while (
            to < changes.Count
            && to - from < AtOnce
            && changes[to].TableName == changes[from].TableName
            && changes[to].Before is null == changes[from].Before is null
            && changes[to].After is null == changes[from].After is null
            && rows.Add(changes[to].RowId)
        )
            to++;
        return to - from;
    }

    private static void ApplyAll(Writing writing, IReadOnlyList<ChangeRow> changes, bool alike, bool back)
    {
        var table = changes[0].TableName;
        if (
            alike
            && writing.IsRestoredAtOnce(table)
            && writing.RestoreAll(
                table,
                [.. changes.Select(c => new ChangedRow(c.Id, c.RowId, back ? c.After : c.Before, back ? c.Before : c.After))],
                back
            )
        )
            return;
        foreach (var change in changes)
            Apply(writing, change, back);
    }

    private static void Apply(Writing writing, ChangeRow change, bool back)
    {
        var before = change.Before is null ? null : Rows.FromImage(change.Before);
        var after = change.After is null ? null : Rows.FromImage(change.After);
        var (from, to) = back ? (after, before) : (before, after);
        if (writing.HoldsUndo(change.TableName) && !Rows.Matches(Rows.Find(writing.Connection, change.TableName, change.RowId), from))
        {
            var who = TrailStore.LastChange(
                writing.Connection,
                writing.Actor.AccountId,
                change.TableName,
                change.RowId,
                change.ActionId.Value
            );
            throw new Refusal(
                RefusalKind.Conflict,
                $"This step cannot be {(back ? "undone" : "redone")}, "
                    + $"because the {writing.Words(change.TableName)} has changed since. {who}"
            );
        }
        writing.Restore(change.TableName, change.RowId, from, to);
    }

    private static List<ChangeRow> Changes(SqliteConnection connection, ActionId actionId, bool back) =>
        connection
            .Query<ChangeRow>(
                $"SELECT id, action_id, table_name, row_id, before, after FROM change WHERE action_id = @actionId "
                    + $"ORDER BY id {(back ? "DESC" : "ASC")}",
                new { actionId }
            )
            .AsList();

    private sealed record ActionRow
    {
        public long Id { get; init; }
        public AccountId AccountId { get; init; }
        public StudyId? StudyId { get; init; }
        public string Label { get; init; } = "";
        public bool Undone { get; init; }
    }

    private sealed record ChangeRow
    {
        public long Id { get; init; }
        public ActionId ActionId { get; init; }
        public string TableName { get; init; } = "";
        public long RowId { get; init; }
        public string? Before { get; init; }
        public string? After { get; init; }
    }
}
