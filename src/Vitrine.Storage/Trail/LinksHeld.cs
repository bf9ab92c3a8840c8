using Dapper;
using Microsoft.Data.Sqlite;
using Vitrine.Storage.Catalogue;
using Vitrine.Storage.Sql;

namespace Vitrine.Storage.Trail;

/// <summary>
/// What a foreign key is for a link to one table, for links to anything: at the end of a step whatever it has written leads to something
/// that is there, and nothing leads to what it has taken away.
/// </summary>
internal sealed class LinksHeld(SqliteConnection connection, WorkspaceCatalogue catalogue)
{
    private readonly HashSet<(string Table, long Id)> pointing = [];
    private readonly HashSet<(string Table, long Id)> gone = [];

    /// <summary>Takes up that a row is now <paramref name="after"/>; null when it was taken away.</summary>
    public void Take(string table, long id, IReadOnlyDictionary<string, object?>? after)
    {
        if (catalogue[table].Links.Any(l => l.KindColumn is not null))
            pointing.Add((table, id));
        if (after is null && catalogue.Things.Contains(table))
            gone.Add((table, id));
        else
            gone.Remove((table, id));
    }

    /// <summary>Whether every link of a row leads to something that is there.</summary>
    public bool Lead(string table, IReadOnlyDictionary<string, object?> row) =>
        catalogue[table]
            .Links.All(link =>
                row.GetValueOrDefault(link.Column) is not long id
                || (link.TableOf(row) is { } to && catalogue.Find(to) is not null && Rows.Find(connection, to, id) is not null)
            );

    /// <summary>Refuses a step that leaves a link to anything without its end.</summary>
    /// <exception cref="Refusal">It does.</exception>
    public void Hold()
    {
        foreach (var (table, id) in pointing)
        {
            if (Rows.Find(connection, table, id) is { } row && !Lead(table, row))
                throw Refusal.Missing(catalogue[table].Words);
        }
        foreach (var of in gone.GroupBy(g => g.Table, g => g.Id))
        {
            foreach (var (rows, link) in catalogue.PointingTo(of.Key).Where(p => p.Link.KindColumn is not null))
            {
                var left = connection.QueryFirstOrDefault<long?>(
                    $"SELECT x.id FROM {rows.Table} x WHERE {link.Points("x", of.Key, "IN (SELECT value FROM json_each(@ids))")}",
                    new { ids = Ids.Json(of) }
                );
                if (left is not null)
                    throw new Refusal(
                        RefusalKind.Conflict,
                        $"A {rows.Words} hangs on this {catalogue[of.Key].Words}. Undo or remove that first."
                    );
            }
        }
    }
}
