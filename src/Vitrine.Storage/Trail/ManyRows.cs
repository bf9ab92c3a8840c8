using Microsoft.Data.Sqlite;
using Vitrine.Core.Access;
using Vitrine.Storage.Sql;

namespace Vitrine.Storage.Trail;

/// <summary>How a writing puts rows back as the trail has them, for undo and redo, and how it writes many rows at once.</summary>
public sealed partial class Writing
{
    internal void Restore(string table, long id, Dictionary<string, object?>? from, Dictionary<string, object?>? to)
    {
        if (!HoldsUndo(table))
        {
            RestoreWherePossible(table, id, from, to);
            return;
        }
        Put(table, id, from, to);
        Record(table, id, from, to);
    }

    private void Put(string table, long id, Dictionary<string, object?>? from, Dictionary<string, object?>? to)
    {
        if (to is null)
            Rows.Delete(Connection, table, id);
        else if (from is null)
            Rows.Insert(Connection, table, to);
        else
            Rows.Update(Connection, table, id, to);
    }

    /// <summary>
    /// What is no research data, or only tells of others, comes back where it can: not over what somebody has made of it since, nor to what
    /// is not there any more.
    /// </summary>
    private void RestoreWherePossible(string table, long id, Dictionary<string, object?>? from, Dictionary<string, object?>? to)
    {
        if (!Rows.Matches(Rows.Find(Connection, table, id), from) || (to is not null && !links.Lead(table, to)))
            return;
        try
        {
            Put(table, id, from, to);
        }
        catch (SqliteException taken) when (taken.SqliteErrorCode == 19)
        {
            return;
        }
        if (catalogue[table].IsTrailed)
            Record(table, id, from, to);
        else
            News.Add(catalogue[table], id, (to ?? from)!);
    }

    /// <summary>Whether an undo is refused where a row of a table is not as its step left it.</summary>
    internal bool HoldsUndo(string table) => catalogue[table] is { IsTrailed: true, IsDerived: false };

    /// <summary>Whether rows of a table may be put back many at once: nothing is kept beside them that follows each.</summary>
    internal bool IsRestoredAtOnce(string table) =>
        HoldsUndo(table) && catalogue[table].Search is null && table is not ("observation" or "correction_look" or "source_text");

    /// <summary>Changes one column of many rows.</summary>
    internal void UpdateEach(string table, IReadOnlyList<long> ids, string column, object? value)
    {
        if (IsWrittenAtOnce(table, ids))
            Tell(table, ids, () => Rows.UpdateAll(Connection, ActionId ??= AddAction(), table, ids, column, Stored(value)));
        else
        {
            foreach (var id in ids)
                Update(table, id, new Dictionary<string, object?> { [column] = value });
        }
    }

    /// <summary>Takes many rows away that nothing points to.</summary>
    internal void DeleteEach(string table, IReadOnlyList<long> ids)
    {
        if (IsWrittenAtOnce(table, ids))
            Tell(table, ids, () => Rows.DeleteAll(Connection, ActionId ??= AddAction(), table, ids));
        else
        {
            foreach (var id in ids)
                Remove(table, id);
        }
    }

    /// <summary>Whether each row by itself would be written just as all of them at once.</summary>
    private bool IsWrittenAtOnce(string table, IReadOnlyList<long> ids) =>
        ids.Count > 1
        && studyId is null
        && Actor.Role != Role.NoteTaker
        && IsRestoredAtOnce(table)
        && !catalogue.PointingTo(table).Any()
        && !Rows.ColumnsOf(Connection, table).Contains("version");

    private void Tell(string table, IReadOnlyList<long> ids, Action write)
    {
        foreach (var id in ids)
        {
            if (News.AreMany(table))
                break;
            if (Rows.Find(Connection, table, id) is { } row)
                News.Add(catalogue[table], id, row);
        }
        write();
    }

    /// <summary>Puts many rows of one table back at once.</summary>
    /// <param name="changes">Changes that are alike, each of another row.</param>
    /// <returns>False when one of them is not as it was left; then nothing is done.</returns>
    internal bool RestoreAll(string table, IReadOnlyList<ChangedRow> changes, bool back)
    {
        ActionId ??= AddAction();
        if (!Rows.RestoreAll(Connection, ActionId.Value, table, changes, back))
            return false;
        foreach (var change in changes)
        {
            if (News.AreMany(table))
                break;
            News.Add(catalogue[table], change.RowId, Rows.FromImage((change.To ?? change.From)!));
        }
        return true;
    }
}
