using Dapper;
using Microsoft.Data.Sqlite;

namespace Vitrine.Storage.Trail;

/// <summary>
/// Long steps are undone in several transactions, between which others write. While it goes on, the step is neither done nor undone, and
/// offered for neither; when it cannot be done to its end, or the server ends on the way, all of it is taken back.
/// </summary>
public sealed partial class Undo
{
    /// <summary>Steps with more changes than these are undone in parts.</summary>
    private const int Long = 500;

    /// <summary>How many changes are reversed before others write.</summary>
    private const int OfPart = 60;

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
            for (var from = 0; ; from += OfPart)
            {
                var last = from + OfPart >= changes.Count;
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
                        foreach (var change in changes.Skip(from).Take(OfPart))
                            Apply(writing, change, back);
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
                reversal = step.ActionId;
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
                    Forget(connection, begun, id);
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
                change.Before is null ? null : Sql.Rows.FromImage(change.Before),
                change.After is null ? null : Sql.Rows.FromImage(change.After)
            );
            if (Sql.Rows.Matches(Sql.Rows.Find(connection, change.TableName, change.RowId), after))
                writing.Restore(change.TableName, change.RowId, after, before);
        }
        writing.Finish();
        connection.Execute("DELETE FROM change WHERE action_id = @reversal", new { reversal });
        connection.Execute("DELETE FROM action WHERE id = @reversal", new { reversal });
        connection.Execute("UPDATE action SET unfinished = 0 WHERE id = @of", new { of });
    }
}
