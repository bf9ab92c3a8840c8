using Dapper;
using Microsoft.Data.Sqlite;
using Vitrine.Storage.Sql;

namespace Vitrine.Storage.Trail;

/// <summary>Undo and redo per person, one step per action, built on the images in the trail.</summary>
public sealed partial class Undo(Workspace workspace)
{
    /// <summary>Takes back the person's latest step in the study, with those that were made together with it; or the given step.</summary>
    /// <exception cref="Refusal">There is none, it is not theirs, or someone has changed the same rows since.</exception>
    public Step Back(Actor actor, StudyId? studyId, ActionId? actionId = null) =>
        InParts(actor, back: true, actionId ?? Next(actor, studyId, back: true))
        ?? workspace.Reported(
            actor,
            connection =>
                actionId is { } one
                    ? Reverse(connection, actor, back: true, one)
                    : ReverseAll(
                        connection,
                        actor,
                        back: true,
                        TrailStore.Undoable(connection, actor.AccountId, studyId)?.ActionId,
                        "There is nothing of yours to undo here."
                    )
        );

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

    private static void Apply(Writing writing, ChangeRow change, bool back)
    {
        var before = change.Before is null ? null : Rows.FromImage(change.Before);
        var after = change.After is null ? null : Rows.FromImage(change.After);
        var (from, to) = back ? (after, before) : (before, after);
        if (!Rows.Matches(Rows.Find(writing.Connection, change.TableName, change.RowId), from))
        {
            var who = TrailStore.LastChange(writing.Connection, change.TableName, change.RowId, change.ActionId);
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
                $"SELECT action_id, table_name, row_id, before, after FROM change WHERE action_id = @actionId "
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
        public ActionId ActionId { get; init; }
        public string TableName { get; init; } = "";
        public long RowId { get; init; }
        public string? Before { get; init; }
        public string? After { get; init; }
    }
}
