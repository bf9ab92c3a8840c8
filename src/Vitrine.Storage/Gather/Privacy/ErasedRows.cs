using Dapper;
using Microsoft.Data.Sqlite;
using Vitrine.Storage.Catalogue;

namespace Vitrine.Storage.Gather.Privacy;

/// <summary>Rows that are taken away, and remembered until their images are taken out of the trail.</summary>
internal sealed class ErasedRows(SqliteConnection connection, WorkspaceCatalogue catalogue)
{
    private readonly HashSet<(string Table, long Id)> rows = [];
    private readonly HashSet<string> files = [];

    /// <summary>The hashes of files whose rows were taken away.</summary>
    public IReadOnlySet<string> Files => files;

    public void Row(string table, long id)
    {
        if (table == "media" && connection.QueryFirstOrDefault<string>("SELECT hash FROM media WHERE id = @id", new { id }) is { } hash)
            files.Add(hash);
        connection.Execute($"DELETE FROM {table} WHERE id = @id", new { id });
        rows.Add((table, id));
    }

    public void All(string table, string column, long value)
    {
        foreach (var id in connection.Query<long>($"SELECT id FROM {table} WHERE {column} = @value", new { value }).ToList())
            Row(table, id);
    }

    public void Images(string table, IEnumerable<long> ids) => rows.UnionWith(ids.Select(id => (table, id)));

    /// <summary>A row with everything that goes with it; what only points to it lets go.</summary>
    public void Remove(string table, long id)
    {
        var own = catalogue[table]
            .Links.Where(l => l.Owns)
            .Select(l => (l.To, Id: connection.QueryFirstOrDefault<long?>($"SELECT {l.Column} FROM {table} WHERE id = @id", new { id })))
            .ToList();
        foreach (var (of, link) in catalogue.PointingTo(table).Where(p => p.Link.Then != OnRemoval.Holds))
        {
            if (link.Then != OnRemoval.Goes)
            {
                var nothing = string.Join(", ", link.Columns.Select(c => $"{c} = NULL"));
                connection.Execute($"UPDATE {of.Table} AS x SET {nothing} WHERE {link.Points("x", table)}", new { id });
            }
            else
                foreach (
                    var other in connection
                        .Query<long>($"SELECT x.id FROM {of.Table} x WHERE {link.Points("x", table)}", new { id })
                        .ToList()
                )
                    Remove(of.Table, other);
        }
        Row(table, id);
        foreach (var (of, one) in own)
            if (one is { } owned)
                Remove(of, owned);
    }

    public void Source(SourceId id)
    {
        foreach (var notes in connection.Query<long>("SELECT id FROM live_notes WHERE source_id = @id", new { id }).ToList())
            Remove("live_notes", notes);
        foreach (var feedback in connection.Query<long>("SELECT feedback_id FROM routing WHERE source_id = @id", new { id }).ToList())
        {
            All("routing", "feedback_id", feedback);
            Row("feedback", feedback);
        }
        Remove("source", id.Value);
    }

    /// <summary>The same files under other names in the study: attached, or as the file of another source.</summary>
    public void SameFiles(StudyId studyId)
    {
        foreach (
            var id in connection
                .Query<long>(
                    "SELECT id FROM media WHERE study_id = @studyId AND hash IN (SELECT value FROM json_each(@files))",
                    new { studyId, files = System.Text.Json.JsonSerializer.Serialize(files) }
                )
                .ToList()
        )
        {
            foreach (var attachment in connection.Query<long>("SELECT id FROM attachment WHERE media_id = @id", new { id }).ToList())
                Remove("attachment", attachment);
            Images("source", connection.Query<long>("SELECT id FROM source WHERE media_id = @id", new { id }).ToList());
            connection.Execute("UPDATE source SET media_id = NULL WHERE media_id = @id", new { id });
            Row("media", id);
        }
    }

    /// <summary>A session that was held with nobody else, and of which nothing is left, goes as well.</summary>
    public void Session(SessionId id, ParticipantId participant)
    {
        if (
            connection.ExecuteScalar<bool>(
                """
                SELECT EXISTS (SELECT 1 FROM session_participant WHERE session_id = @id AND participant_id <> @participant) OR
                EXISTS (SELECT 1 FROM source WHERE session_id = @id)
                """,
                new { id, participant }
            )
        )
            return;
        Remove("session", id.Value);
    }

    /// <summary>
    /// Takes the images of all these rows, and of rows that hung on them and went before, out of the trail; a step of which something
    /// is gone is told no more and cannot be undone.
    /// </summary>
    public void FromTrail()
    {
        connection.Execute("CREATE TEMP TABLE gone (table_name TEXT, row_id INTEGER, PRIMARY KEY (table_name, row_id))");
        foreach (var (table, id) in rows)
            connection.Execute("INSERT OR IGNORE INTO gone VALUES (@table, @id)", new { table, id });
        // What was tied to one of them and taken off before has its images still; and so has what hung on that. What goes on without
        // it keeps its own.
        var ties = catalogue
            .Tables.SelectMany(of => catalogue.EndsOf(of).Where(e => e.Link.Then == OnRemoval.Goes).Select(e => (of.Table, e.Link, e.To)))
            .ToList();
        for (var more = true; more; )
        {
            more = false;
            foreach (var (table, tie, to) in ties)
            {
                var gone = $"SELECT row_id FROM gone WHERE table_name = '{to}' AND NOT EXISTS (SELECT 1 FROM {to} WHERE id = gone.row_id)";
                more |=
                    connection.Execute(
                        $"""
                        INSERT OR IGNORE INTO gone SELECT DISTINCT table_name, row_id FROM change WHERE table_name = '{table}'
                        AND {tie.PointsInImage("coalesce(before, after)", to, $"IN ({gone})")}
                        """
                    ) > 0;
            }
        }
        connection.Execute(
            """
            UPDATE action SET erased = 1, label = @Left WHERE id IN (SELECT c.action_id FROM change c
            JOIN gone g USING (table_name, row_id))
            """,
            new { Erasure.Left }
        );
        connection.Execute("DELETE FROM change WHERE id IN (SELECT c.id FROM change c JOIN gone g USING (table_name, row_id))");
        connection.Execute("DROP TABLE gone");
    }
}
