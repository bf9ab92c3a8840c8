using System.Globalization;
using Dapper;
using Microsoft.Data.Sqlite;
using Vitrine.Storage.Catalogue;
using Vitrine.Storage.Sql;

namespace Vitrine.Storage.Trail;

/// <summary>
/// The one source of observations and margin notes. A connection that is opened here for somebody reads, under the names of the tables,
/// only rows that this person may see: whoever tags a source blind sees nothing of what others mark in it, nor of what hangs on that,
/// until it is opened. Which study a person sees is held at the door, by <c>StudyAccess</c>.
/// </summary>
public static class SeenMarks
{
    /// <summary>Tables of marks: each row stands in a source, and has an author.</summary>
    private static readonly IReadOnlyList<string> Marks = ["observation", "margin_note"];

    /// <summary>A connection for reading what one person may see; the caller disposes it.</summary>
    public static SqliteConnection OpenFor(this Workspace workspace, AccountId viewer) =>
        workspace.Covered(
            """
            SELECT b.source_id FROM blind_tagging b JOIN blind_tagger t ON t.blind_tagging_id = b.id
            WHERE b.opened_at IS NULL AND t.account_id = @viewer
            """,
            viewer
        );

    /// <summary>A connection for reading what may be shown outside the team: nothing of a source that is still tagged blind.</summary>
    public static SqliteConnection OpenForReaders(this Workspace workspace) =>
        workspace.Covered("SELECT source_id FROM blind_tagging WHERE opened_at IS NULL", default);

    /// <summary>Whether a thing is a mark that somebody may not see, as far as what was read of it says.</summary>
    internal static bool Hides(SqliteConnection connection, AccountId viewer, string table, IReadOnlyDictionary<string, object?> row) =>
        Marks.Contains(table)
        && !Equals(row["created_by"], viewer.Value)
        && connection.ExecuteScalar<bool>(
            """
            SELECT EXISTS (SELECT 1 FROM blind_tagging b JOIN blind_tagger t ON t.blind_tagging_id = b.id
              WHERE b.opened_at IS NULL AND t.account_id = @viewer AND b.source_id = @source)
            """,
            new { viewer, source = row["source_id"] }
        );

    /// <summary>Tables whose rows hang on a mark, with the columns that lead to it.</summary>
    internal static IEnumerable<(string Table, Link Link, string Mark)> Hanging(WorkspaceCatalogue catalogue) =>
        Marks.SelectMany(mark => catalogue.PointingTo(mark).Select(p => (p.Of.Table, p.Link, mark)));

    /// <summary>All tables of marks and of what hangs on them.</summary>
    internal static IReadOnlySet<string> Tables(WorkspaceCatalogue catalogue) =>
        Marks.Concat(Hanging(catalogue).Select(h => h.Table)).ToHashSet();

    /// <summary>
    /// Whether a step, the action <paramref name="action"/> of a statement, has touched a mark that one who looks (@viewer) may not see: a
    /// condition in SQL. It holds for marks too that are not there any more. A correction moves marks and tells of the text alone.
    /// </summary>
    internal static string TouchedUnseen(string action) =>
        $"""
            {action}.account_id <> @viewer AND EXISTS (
              SELECT 1 FROM blind_tagging b JOIN blind_tagger g ON g.blind_tagging_id = b.id
              JOIN change c ON c.action_id = {action}.id
              WHERE b.opened_at IS NULL AND g.account_id = @viewer AND (
                c.table_name IN ('observation', 'margin_note') AND json_extract(coalesce(c.after, c.before), '$.source_id') = b.source_id
                OR b.source_id = (SELECT json_extract(coalesce(m.after, m.before), '$.source_id') FROM change m
                  WHERE {OnMark.Value} LIMIT 1)))
            AND NOT EXISTS (SELECT 1 FROM change w WHERE w.action_id = {action}.id AND w.table_name = 'source_text')
            """;

    /// <summary>That the change c is of a row that hangs on the mark which the change m is of.</summary>
    private static readonly Lazy<string> OnMark = new(() =>
        string.Join(
            " OR ",
            Hanging(WorkspaceCatalogue.Own)
                .Select(h =>
                    $"m.table_name = '{h.Mark}' AND c.table_name = '{h.Table}' AND "
                    + h.Link.PointsInImage("coalesce(c.after, c.before)", h.Mark, "= m.row_id")
                )
        )
    );

    /// <summary>Who tags one of these sources (null: any) blind, and is not the author of what was marked there.</summary>
    public static IReadOnlySet<AccountId> BlindTo(this Workspace workspace, IReadOnlyCollection<SourceId>? sources, AccountId author)
    {
        using var connection = workspace.Open();
        return connection
            .Query<AccountId>(
                """
                SELECT t.account_id FROM blind_tagging b JOIN blind_tagger t ON t.blind_tagging_id = b.id
                WHERE b.opened_at IS NULL AND t.account_id <> @author
                  AND (@sources IS NULL OR b.source_id IN (SELECT value FROM json_each(@sources)))
                """,
                new { author, sources = Ids.Json(sources) }
            )
            .ToHashSet();
    }

    /// <summary>
    /// News for one who tags blind: without the marks that have changed; null where nothing is left. A correction moves everybody's, and is
    /// told whole.
    /// </summary>
    public static Changed? WithoutMarks(this Workspace workspace, Changed changed)
    {
        if (changed.Rows.ContainsKey("source_text"))
            return changed;
        var marks = Tables(workspace.Catalogue);
        var left = changed.Rows.Where(r => !marks.Contains(r.Key)).ToDictionary();
        var ofSources = left.Keys.Any(t => workspace.Catalogue.Find(t)?.Links.Any(l => l.To == "source") == true);
        return left.Count == 0
            ? null
            : changed with
            {
                Rows = left,
                InSources = [.. changed.InSources.Where(left.ContainsKey)],
                Sources = ofSources ? changed.Sources : [],
            };
    }

    private static SqliteConnection Covered(this Workspace workspace, string blind, AccountId viewer)
    {
        var open = workspace.Open();
        var sources = open.Query<long>(blind, new { viewer }).AsList();
        if (sources.Count == 0)
            return open;
        open.Dispose();
        // Of its own, and closed with it: in the pool it would cover the tables for whoever comes next.
        var connection = workspace.Open(pooled: false);
        var unseen =
            $"source_id IN ({string.Join(',', sources.Select(s => s.ToString(CultureInfo.InvariantCulture)))}) "
            + $"AND created_by <> {viewer.Value.ToString(CultureInfo.InvariantCulture)}";
        foreach (var mark in Marks)
            connection.Execute($"CREATE TEMP VIEW {mark} AS SELECT * FROM main.{mark} WHERE NOT ({unseen})");
        foreach (var of in Hanging(workspace.Catalogue).GroupBy(h => h.Table))
        {
            var hidden = of.Select(h => h.Link.Points("x", h.Mark, $"IN (SELECT id FROM main.{h.Mark} WHERE {unseen})"));
            connection.Execute(
                $"CREATE TEMP VIEW {of.Key} AS SELECT * FROM main.{of.Key} x WHERE coalesce(NOT ({string.Join(" OR ", hidden)}), 1)"
            );
        }
        return connection;
    }
}
