using Dapper;
using Microsoft.Data.Sqlite;
using Vitrine.Storage.Catalogue;
using Vitrine.Storage.Sql;

namespace Vitrine.Storage.Trail;

/// <summary>One line of a thing's history.</summary>
public sealed record TrailEntry
{
    public ActionId ActionId { get; init; }
    public DateTimeOffset At { get; init; }
    public string Who { get; init; } = "";
    public string Label { get; init; } = "";
    public bool Undone { get; init; }
}

/// <summary>Reads the trail.</summary>
public sealed class TrailStore(Workspace workspace)
{
    /// <summary>How many steps a list shows.</summary>
    public const int MostShown = 200;

    /// <summary>
    /// The history of one thing, newest first: its own row and the rows that tie others to it, as far as it happened in the given studies
    /// (null: all) or outside studies, and has touched nothing that the viewer may not see.
    /// </summary>
    public IReadOnlyList<TrailEntry> Of(string thing, long id, AccountId viewer, IReadOnlyList<StudyId>? visible)
    {
        // A child that moves to another parent is no change of the parent.
        var ties = workspace.Catalogue.PointingTo(thing).Where(p => p.Of.IsTrailed && p.Link.Then != OnRemoval.MovesUp).ToList();
        var tied = string.Concat(
            ties.Select(t => $" OR (c.table_name = '{t.Of.Table}' AND {t.Link.PointsInImage("coalesce(c.after, c.before)", thing)})")
        );
        using var connection = workspace.Open();
        return connection
            .Query<TrailEntry>(
                $"""
                SELECT DISTINCT a.id AS action_id, a.at, p.name AS who, a.label, a.undone
                FROM change c JOIN action a ON a.id = c.action_id JOIN account p ON p.id = a.account_id
                WHERE ((c.table_name = @thing AND c.row_id = @id){tied})
                  AND (a.study_id IS NULL OR @studies IS NULL OR a.study_id IN (SELECT value FROM json_each(@studies)))
                  AND NOT ({SeenMarks.TouchedUnseen("a")})
                ORDER BY a.id DESC LIMIT {MostShown}
                """,
                new
                {
                    thing,
                    id,
                    viewer,
                    studies = Ids.Json(visible),
                }
            )
            .ToList();
    }

    /// <summary>
    /// What was done in a study, newest first: all of it, or what one person did, what touched one source or what stands in it, or what
    /// touched one tag.
    /// </summary>
    /// <param name="viewer">Who looks; a step that has touched what this person may not see is not told.</param>
    /// <param name="from">Not before this moment; null for from the beginning.</param>
    /// <param name="to">Before this moment; null for until now.</param>
    /// <param name="page">Which page of <see cref="MostShown"/>, from 0.</param>
    public IReadOnlyList<TrailEntry> In(
        StudyId studyId,
        AccountId? accountId,
        SourceId? sourceId,
        TagId? tagId,
        DateTimeOffset? from,
        DateTimeOffset? to,
        int page,
        AccountId viewer
    )
    {
        using var connection = workspace.Open();
        return connection
            .Query<TrailEntry>(
                Entry
                    + $"""
                    WHERE {OfStudy} AND a.unfinished = 0 AND (@accountId IS NULL OR a.account_id = @accountId)
                      AND (@from IS NULL OR a.at >= @from) AND (@to IS NULL OR a.at < @to)
                      AND (@sourceId IS NULL OR EXISTS (SELECT 1 FROM change c WHERE c.action_id = a.id AND (
                        c.table_name = 'source' AND c.row_id = @sourceId
                        OR json_extract(coalesce(c.after, c.before), '$.source_id') = @sourceId
                        OR json_extract(coalesce(c.after, c.before), '$.observation_id') IN (SELECT id FROM observation
                          WHERE source_id = @sourceId))))
                      AND (@tagId IS NULL OR EXISTS (SELECT 1 FROM change c WHERE c.action_id = a.id AND (
                        c.table_name = 'tag' AND c.row_id = @tagId OR json_extract(coalesce(c.after, c.before), '$.tag_id') = @tagId)))
                      AND NOT ({SeenMarks.TouchedUnseen("a")})
                    ORDER BY a.id DESC LIMIT {MostShown} OFFSET @skip
                    """,
                new
                {
                    studyId,
                    accountId,
                    sourceId,
                    tagId,
                    from,
                    to,
                    viewer,
                    skip = Math.Min((long)page * MostShown, int.MaxValue),
                }
            )
            .ToList();
    }

    /// <summary>
    /// A person's own steps in a study (or, for null, outside studies), newest first, the undone ones among them. Undoing and redoing are
    /// not steps themselves.
    /// </summary>
    public IReadOnlyList<TrailEntry> Recent(AccountId accountId, StudyId? studyId)
    {
        using var connection = workspace.Open();
        return connection
            .Query<TrailEntry>(
                Entry
                    + $"WHERE a.account_id = @accountId AND {(studyId is null ? "a.study_id IS NULL" : OfStudy)} "
                    + "AND a.kind = 'do' AND a.erased = 0 AND a.unfinished = 0 "
                    + $"ORDER BY a.id DESC LIMIT {MostShown}",
                new { accountId, studyId }
            )
            .ToList();
    }

    /// <summary>The study in which a step was made; null outside studies and for no such step.</summary>
    public StudyId? StudyOf(ActionId actionId)
    {
        using var connection = workspace.Open();
        return connection.QueryFirstOrDefault<long?>("SELECT study_id FROM action WHERE id = @actionId", new { actionId });
    }

    /// <summary>
    /// Where a person's latest step was made that can be undone, or redone: in a study, with its title, or, with nulls, outside studies.
    /// Null when there is none. Steps are in order over all of these studies.
    /// </summary>
    /// <param name="visible">The studies that the person sees; null for all.</param>
    /// <param name="back">Whether it is to be undone; else redone.</param>
    public (StudyId? StudyId, string? Title)? WhereLast(AccountId accountId, IReadOnlyList<StudyId>? visible, bool back)
    {
        const string Mine = """
            a.account_id = @accountId AND a.kind = 'do' AND a.erased = 0 AND a.unfinished = 0
            AND (a.study_id IS NULL OR @studies IS NULL OR a.study_id IN (SELECT value FROM json_each(@studies)))
            """;
        using var connection = workspace.Open();
        return connection.QueryFirstOrDefault<(StudyId?, string?)?>(
            "SELECT a.study_id, s.title FROM action a LEFT JOIN study s ON s.id = a.study_id WHERE "
                + Mine
                + (
                    back
                        ? " AND a.undone = 0 AND a.passed_over = 0 ORDER BY a.id DESC LIMIT 1"
                        : $" AND a.undone = 1 AND a.id > (SELECT coalesce(max(a.id), 0) FROM action a WHERE {Mine} AND a.undone = 0 "
                            + "AND a.passed_over = 0) ORDER BY a.id LIMIT 1"
                ),
            new { accountId, studies = Ids.Json(visible) }
        );
    }

    /// <summary>
    /// Steps of a study, with those of the tag set that have changed its marks, or tags of its own or on its marks: they are kept outside
    /// studies, since a tag may be shared. A step that names a tag of another study's own is not among them.
    /// </summary>
    private const string OfStudy = """
        (a.study_id = @studyId OR a.study_id IS NULL AND EXISTS (SELECT 1 FROM change c WHERE c.action_id = a.id AND (
          c.table_name = 'tag' AND (json_extract(coalesce(c.after, c.before), '$.study_id') = @studyId
            OR EXISTS (SELECT 1 FROM observation_tag x JOIN observation o ON o.id = x.observation_id
              WHERE x.tag_id = c.row_id AND o.study_id = @studyId))
          OR c.table_name = 'observation_tag' AND EXISTS (SELECT 1 FROM observation o
            WHERE o.id = json_extract(coalesce(c.after, c.before), '$.observation_id') AND o.study_id = @studyId)))
          AND NOT EXISTS (SELECT 1 FROM change c WHERE c.action_id = a.id AND c.table_name = 'tag'
            AND json_extract(coalesce(c.after, c.before), '$.study_id') <> @studyId))
        """;

    private const string Entry =
        "SELECT a.id AS action_id, a.at, p.name AS who, a.label, a.undone FROM action a JOIN account p ON p.id = a.account_id ";

    internal static TrailEntry? Undoable(SqliteConnection connection, AccountId accountId, StudyId? studyId) =>
        connection.QueryFirstOrDefault<TrailEntry>(
            Entry
                + "WHERE a.account_id = @accountId AND a.study_id IS @studyId AND a.kind = 'do' AND a.undone = 0 AND a.erased = 0 "
                + "AND a.unfinished = 0 AND a.passed_over = 0 ORDER BY a.id DESC LIMIT 1",
            new { accountId, studyId }
        );

    /// <summary>The oldest undone step that is younger than everything still done: ids alone tell the order of the stack.</summary>
    internal static TrailEntry? Redoable(SqliteConnection connection, AccountId accountId, StudyId? studyId) =>
        connection.QueryFirstOrDefault<TrailEntry>(
            Entry
                + """
                WHERE a.account_id = @accountId AND a.study_id IS @studyId AND a.kind = 'do' AND a.undone = 1 AND a.erased = 0
                  AND a.id > (SELECT coalesce(max(d.id), 0) FROM action d WHERE d.account_id = @accountId AND d.study_id IS @studyId
                    AND d.kind = 'do' AND d.undone = 0 AND d.passed_over = 0)
                  -- What was undone before something new was made is not there to be redone any more, also when that is undone.
                  AND NOT EXISTS (SELECT 1 FROM action d WHERE d.account_id = @accountId AND d.study_id IS @studyId AND d.kind = 'do'
                    AND d.id > (SELECT max(u.id) FROM action u WHERE u.reverses = a.id AND u.kind = 'undo'))
                ORDER BY a.id LIMIT 1
                """,
            new { accountId, studyId }
        );

    /// <summary>
    /// A step and those of its batch that stand beside it among the person's steps, in the order they are reversed; a step of another kind
    /// between them ends the run.
    /// </summary>
    internal static IReadOnlyList<ActionId> MadeTogether(SqliteConnection connection, ActionId id, bool back)
    {
        var (wanted, beyond, order) = back ? (0, "<", "DESC") : (1, ">", "ASC");
        return connection
            .Query<ActionId>(
                $"""
                SELECT b.id FROM action a JOIN action b ON b.id = a.id OR (b.batch = a.batch AND b.id {beyond} a.id)
                WHERE a.id = @id AND b.account_id = a.account_id AND b.study_id IS a.study_id AND b.kind = 'do' AND b.undone = {wanted}
                  AND b.erased = 0 AND b.unfinished = 0 AND NOT EXISTS (SELECT 1 FROM action o WHERE o.account_id = a.account_id
                    AND o.study_id IS a.study_id AND o.kind = 'do' AND o.undone = {wanted} AND o.batch IS NOT a.batch
                    AND o.id BETWEEN min(a.id, b.id) AND max(a.id, b.id) AND o.id <> a.id)
                ORDER BY b.id {order}
                """,
                new { id }
            )
            .AsList();
    }

    /// <summary>A sentence that says who changed a row last, after a given action, as far as the viewer may see it.</summary>
    internal static string LastChange(SqliteConnection connection, AccountId viewer, string table, long rowId, long afterAction = 0)
    {
        var last = connection.QueryFirstOrDefault<TrailEntry>(
            Entry
                + $"""
                JOIN change c ON c.action_id = a.id WHERE c.table_name = @table AND c.row_id = @rowId AND a.id > @afterAction
                  AND NOT ({SeenMarks.TouchedUnseen("a")})
                ORDER BY a.id DESC LIMIT 1
                """,
            new
            {
                viewer,
                table,
                rowId,
                afterAction,
            }
        );
        return last is null ? "It has changed since." : $"{last.Who} changed it at {last.At.UtcDateTime:HH:mm} UTC: “{last.Label}”.";
    }
}
